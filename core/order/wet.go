package order

import (
	"fmt"
	"iter"
	"math"
	"slices"
	"strconv"
	"strings"

	"cinderpath/core/bench"
	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// takenBack tells whether a wash must be taken back within the hours of a session.
func (o *orderer) takenBack(l strata.Layer) bool {
	f, _ := paint.FamilyOf(l.Family)
	return f.TakeBackTo > 30 && f.TakeBackTo <= 5*unit.Hour
}

// longestGo is how long one goes at what is taken back, whatever its working time: so that it is looked
// at in time.
const longestGo = unit.Minutes(40)

// goes is how long a layer can be worked before it sets, at most longestGo.
func goes(l strata.Layer) unit.Minutes {
	f, _ := paint.FamilyOf(l.Family)
	if f.Work > 0 {
		return min(f.Work, longestGo)
	}
	return longestGo
}

// wet gives the layers that are worked into each other with one, it among them, from below: those that
// follow each other in the stack under one name.
func (o *orderer) wet(l strata.Layer) (group []strata.Layer) {
	if l.Together == "" {
		return []strata.Layer{l}
	}
	for _, x := range o.b.Layers {
		switch {
		case x.Together == l.Together && !x.IsScheme() && x.Kind != strata.Decals:
			group = append(group, x)
		case len(group) > 0 && slices.ContainsFunc(group, func(g strata.Layer) bool { return g.ID == l.ID }):
			return group
		default:
			group = nil
		}
	}
	if len(group) == 0 {
		return []strata.Layer{l}
	}
	return group
}

// sections enters a wet group, or a wash, in parts small enough for its working time: each layer in turn
// on one of them, worked into the one below while that is wet, and taken back inside its time.
func (o *orderer) sections(group []strata.Layer, stages map[string]string) map[string][]string {
	entries := make([]entry, len(group))
	window := longestGo
	for i, l := range group {
		entries[i] = entry{orderer: o, layer: l, stage: stages[l.ID], area: LayerArea(o.l, l)}
		window = min(window, goes(l))
	}
	var zones []string
	for _, z := range o.l.Zones {
		if slices.ContainsFunc(group, func(l strata.Layer) bool { return l.Covers(z) }) {
			zones = append(zones, z)
		}
	}
	// What is worked on a zone, in minutes, decides how many goes there are.
	weight := weighed(group, func(l strata.Layer, z string) float64 { return float64(workedAt(l).Per) * o.l.worked(l, z) })
	byAreas := weighed(group, func(l strata.Layer, z string) float64 {
		return float64(bench.KindOf(string(l.Kind)).Per) * o.l.Area[z]
	})
	all := []section{{}}
	if len(zones) > 0 {
		all = cutUp(o.l, zones, weight, float64(window))
		if byArea := cutUp(o.l, zones, byAreas, float64(window)); !o.goesOn(group, all) && o.goesOn(group, byArea) {
			all = byArea // it was begun before techniques had a pace
		}
	}
	ids, last := map[string][]string{}, ""
	for i, s := range all {
		below := ""
		for _, e := range entries {
			area := s.areaOf(o.l, e.layer.Covers)
			if area == 0 && len(all) > 1 {
				continue
			}
			if len(zones) == 0 {
				area = e.area
			}
			var after []path.Arrow
			switch {
			case below != "":
				into := atOnce(stop(below, "W1", "worked into the one below while that is wet"))
				into.Most = window + longestGo
				after = append(after, into)
			case last != "":
				after = append(after, then(last, "one section after the other, each finished inside its time"))
			}
			units := s.unitsOf(o.l, e.layer)
			if len(zones) == 0 {
				units = area
			}
			made := e.section(i, len(all), s, area, units, after...)
			ids[e.layer.ID] = append(ids[e.layer.ID], made...)
			below, last = made[0], made[len(made)-1]
		}
	}
	return ids
}

// weighed weighs zones by what all of a group take there, min; one coat of a layer as minutes tells.
func weighed(group []strata.Layer, minutes func(l strata.Layer, zone string) float64) func(zone string) float64 {
	return func(z string) (sum float64) {
		for _, l := range group {
			if l.Covers(z) {
				sum += minutes(l, z) * float64(max(l.Coats, 1)) * l.Effort()
			}
		}
		return sum
	}
}

// goesOn tells that what was begun of a group was begun by these sections.
func (o *orderer) goesOn(group []strata.Layer, all []section) bool {
	for _, l := range group {
		for n, on := range o.parts(l) {
			if n < 1 || n > len(all) || !slices.Equal(on, all[n-1].covered(l, o.l)) {
				return false
			}
		}
	}
	return true
}

// parts are those of a layer that were begun, by their numbers, with the zones that they were on; nought for
// one without a number.
func (o *orderer) parts(l strata.Layer) iter.Seq2[int, []string] {
	of := string(l.Kind) + ":" + l.ID + ":"
	return func(yield func(int, []string) bool) {
		for id, done := range o.done {
			number, here := strings.CutPrefix(id, of)
			if !here || done.Started.IsZero() || done.Skipped {
				continue
			}
			n, err := strconv.Atoi(number)
			if err != nil {
				n = 0
			}
			if !yield(n, done.Zones) {
				return
			}
		}
	}
}

// begun tells of a group that was begun as earlier versions had it: in as many equal parts, without saying
// where. It goes on so.
func (o *orderer) begun(group []strata.Layer) bool {
	old := false
	for _, l := range group {
		parts := 1
		if l.Kind == strata.Wash && o.takenBack(l) {
			parts = equalParts(l, LayerArea(o.l, l))
		}
		for n, on := range o.parts(l) {
			if n < 1 || n > parts || !slices.Equal(on, l.Zones) {
				return false // it was begun by sections
			}
			old = true
		}
	}
	return old
}

// equalParts is in how many parts a wash was worked before they had places.
func equalParts(l strata.Layer, area float64) int {
	whole, _ := bench.KindOf(string(l.Kind)).Minutes(area, l.Coats)
	return int(math.Ceil(float64(whole / longestGo)))
}

// asBegun enters a wash in equal parts that are not told where they lie, each with its take-back.
func (e entry) asBegun() (ids []string) {
	n := equalParts(e.layer, e.area)
	for i := range n {
		var after []path.Arrow
		if i > 0 {
			after = []path.Arrow{then(ids[len(ids)-1], "one section after the other, each finished inside its time")}
		}
		ids = append(ids, e.section(i, n, section{}, e.area/float64(n), e.units()/float64(n), after...)...)
	}
	return ids
}

// section enters one layer on one of n sections, so many cm² of it and as much work, and its take-back.
func (e entry) section(i, n int, s section, area, units float64, after ...path.Arrow) (ids []string) {
	kind := string(e.layer.Kind)
	title, back := e.layer.Name, "Take back the "+strings.ToLower(e.layer.Name)
	if n > 1 {
		of := fmt.Sprintf(", section %d of %d", i+1, n)
		title, back = title+of, back+of
	}
	st := step{kind: kind, n: i + 1, title: title, units: units, coats: e.layer.Coats}
	id := e.enter(st, area, after...)
	e.task(id).Place = path.Bench
	e.spray(id, e.layer)
	e.placed(id, i, n, s)
	if i > 0 && len(s.zones) > 0 { // nothing is set up anew
		whole, inputs := e.paced(st)
		setUp := bench.KindOf(kind).SetUp
		e.minutes(id, (whole - setUp).Whole(), append(inputs, "set up with the section before it")...)
	}
	ids = append(ids, id)
	if e.layer.Kind != strata.Wash || !e.takenBack(e.layer) {
		return ids
	}
	f, _ := paint.FamilyOf(e.layer.Family)
	soft := atOnce(waits(stop(id, "W3", fmt.Sprintf(
		"sooner than %s it smears, later than %s it stays", f.TakeBackFrom.About(), f.TakeBackTo.About(),
	)), rule.TakeBack, f.TakeBackFrom))
	soft.Most, soft.Water = f.TakeBackTo, e.layer.Water()
	take := e.enter(step{kind: "takeback", n: i + 1, title: back, units: area}, area, soft)
	e.placed(take, i, n, s)
	return append(ids, take)
}

// placed says where a step of a section is done: on which zones, and how much of them.
func (e entry) placed(id string, i, n int, s section) {
	t := e.task(id)
	t.Split = false
	t.Section = i + 1
	if n == 1 || len(s.zones) == 0 {
		return
	}
	for _, z := range s.zones {
		if part := s.share[z]; part < 0.999 && e.layer.Covers(z) {
			e.why[id] = append(e.why[id], fmt.Sprintf("%.0f %% of %s", 100*part, zone.Words(z)))
		}
	}
	t.Zones = s.covered(e.layer, e.l)
}
