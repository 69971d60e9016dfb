package plan

import (
	"math"
	"slices"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// proposal is a layer that follows from a vehicle's life: from how many times its usual amount on.
type proposal struct {
	kind      strata.Kind
	technique string
	name      string
	places    []string // parts on which it lies; none for all
	from      float64
}

// proposals are what is usual, in working order.
var proposals = []proposal{
	{strata.Wash, "wash_pin", "Pin wash", nil, 0},
	{strata.Chips, "chips_sponge", "Chips", []string{"hull", "turret", "cab", "cupola"}, 0.4},
	{strata.Chips, "scratches", "Scratches", []string{"hull", "turret", "cab"}, 1.2},
	{strata.Rust, "streak_rust", "Rust streaks", []string{"hull", "turret", "cab"}, 0.8},
	{strata.Streaks, "streak_grime", "Grime streaks", []string{"hull", "turret", "cab"}, 0.7},
	{strata.Dust, "dust_mist", "Dust", []string{"lower", "gear"}, 0.5},
	{strata.Dust, "dust_stipple", "Dust on flats", []string{"hull", "turret", "cab"}, 0.8},
	{strata.Splash, "splash_flick", "Thrown earth", []string{"lower", "gear", "hull"}, 0.8},
	{strata.Mud, "mud_paste", "Mud", []string{"lower", "gear"}, 0.8},
	{strata.Wet, "wet_spots", "Damp spots", []string{"lower"}, 1.5},
	{strata.Metal, "metal_steel", "Bright steel", []string{"gear"}, 0.5},
}

// mostMends bounds how often a proposed stack is mended.
const mostMends = 30

// proposed gives a build the layers that follow from its life, each from the nearest jar of the shelf, with
// the clear coats that must lie between them. What is there already stays as it is.
func (d *Deriver) proposed(
	b document.Build,
	w document.Workshop,
	newID func() string,
	asOf time.Time,
) ([]strata.Layer, error) {
	s, err := d.surface(b)
	if err != nil {
		return nil, err
	}
	lived := strata.Lived{Life: b.Life} // how much there is of it on the real vehicle, whatever the scale
	layers := slices.Clone(b.Layers)
	if b.Life["paint"] == "whitewash" && !slices.ContainsFunc(layers, strata.Layer.Temporary) {
		layers = d.whitened(b, w, layers, s.zones, newID, asOf)
	}
	known := func(p proposal) bool {
		return slices.ContainsFunc(layers, func(l strata.Layer) bool {
			how, ok := l.Worked()
			return ok && how.ID == p.technique
		})
	}
	for _, p := range proposals {
		l := p.kind.Fresh()
		l.Name, l.Technique, l.Lived = p.name, p.technique, lived
		a, ok := l.Argue()
		if !ok || a.Now < p.from*a.Usual || known(p) {
			continue
		}
		for _, place := range p.places {
			if slices.ContainsFunc(s.zones, func(z string) bool { return zone.Under(z, place) }) {
				l.Zones = append(l.Zones, place)
			}
		}
		if len(p.places) > 0 && len(l.Zones) == 0 {
			continue
		}
		l.ID, l.Lived = newID(), strata.Lived{}
		l = fromShelf(l, w, asOf, math.Inf(1))
		layers = slices.Insert(layers, placeOf(layers, l.Kind), l)
	}
	if len(layers) == len(b.Layers) {
		return nil, measure.Refuse(
			"life",
			"all that follows from it is in the stack already",
			"tell another story, or add layers by hand",
		)
	}
	return soundly(layers, s.zones, newID), nil
}

// fromShelf lays a layer from the jar of its family that comes nearest to its colour, where one differs by
// no more than so much, ΔE00.
func fromShelf(l strata.Layer, w document.Workshop, asOf time.Time, most float64) strata.Layer {
	near := standIns(w, Buy{Family: l.Family, Hex: l.Hex}, asOf.Format(time.DateOnly))
	if len(near) == 0 || near[0].Difference > most {
		return l
	}
	if j, ok := w.Paint.Jar(near[0].Pot); ok {
		l.Jar, l.Hex = j.ID, j.Hex
	}
	return l
}

// placeOf is where a layer of a kind goes into a stack: over all that usually comes before it.
func placeOf(layers []strata.Layer, kind strata.Kind) int {
	rank := map[strata.Kind]int{}
	for i, a := range strata.Abouts() {
		rank[a.ID] = i
	}
	for i, l := range slices.Backward(layers) {
		if l.Kind != strata.Clear && rank[l.Kind] <= rank[kind] {
			at := i + 1
			for at < len(layers) && layers[at].Kind == strata.Clear { // what seals it comes with it
				at++
			}
			return at
		}
	}
	return 0
}

// soundly puts in what must lie between layers so that none harms another: the mends that settle what was
// found, one after the other, as long as there are fewer findings each time.
func soundly(layers []strata.Layer, zones []string, newID func() string) []strata.Layer {
	for range mostMends {
		found, _ := strata.Check(layers, zones, nil)
		mended := false
		for _, f := range found {
			if f.Severity == rule.Hint {
				continue
			}
			for _, m := range f.Mends {
				if m.ID == "meant" || m.ID == "drop" || f.Severity != rule.Stop && coats(m) && overEarth(layers, f) {
					continue
				}
				next, err := strata.Apply(layers, m.Edits, newID)
				if err != nil {
					continue
				}
				if after, _ := strata.Check(next, zones, nil); gravity(after) < gravity(found) {
					layers, mended = next, true
					break
				}
			}
			if mended {
				break
			}
		}
		if !mended {
			return layers
		}
	}
	return layers
}

// coats tells of a mend that puts a clear coat in.
func coats(m strata.Mend) bool {
	return slices.ContainsFunc(m.Edits, func(e strata.Edit) bool {
		return e.Op == "insert" && e.Layer != nil && e.Layer.Kind == strata.Clear
	})
}

// overEarth tells of a finding about what lies on earth, which no clear coat shall wet without need.
func overEarth(layers []strata.Layer, f strata.Finding) bool {
	i := slices.IndexFunc(layers, func(l strata.Layer) bool { return l.ID == f.Below })
	return i >= 0 && isEarth(layers[i])
}

// gravity weighs findings: one that stops more than any that warn.
func gravity(found []strata.Finding) (sum int) {
	for _, f := range found {
		switch f.Severity {
		case rule.Stop:
			sum += 100
		case rule.Warn:
			sum++
		}
	}
	return sum
}
