package order

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/kit"
	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// painting enters the layers and what goes with them.
func (o *orderer) painting(built []path.Arrow) {
	b := o.b
	if len(b.Layers) == 0 {
		return
	}
	degrease := o.add(step{kind: "degrease", subject: "all"}, built...)
	ground := []path.Arrow{
		then(degrease, "grease from fingers is cleaned off before anything is sprayed"),
	}
	stage := bench.Paint
	primed, coloured := "", ""
	var marked []string
	stages, wet := map[string]string{}, map[string][]string{}
	for i, layer := range b.Layers {
		// A clear coat belongs to what it seals: the stage of the layer before it.
		switch {
		case layer.Kind != strata.Clear:
			stage = bench.KindOf(string(layer.Kind)).Stage
		case stage == bench.Paint:
			stage = bench.Marks
		}
		var extra []path.Arrow
		if layer.Kind == strata.Colour && coloured == "" {
			extra = o.beforeColour(primed, layer)
		}
		if layer.Kind.About().Wears && marked == nil {
			marked = o.details(coloured)
			if o.tyres != "" {
				f, _ := paint.FamilyOf("waterborne_acrylic")
				extra = append(extra, waits(then(o.tyres, "tyres are painted before they are worn"), rule.NextCoat, f.NextCoat))
			}
			for _, id := range marked {
				extra = append(extra, waits(then(id, "details are aged with the rest"), rule.NextCoat, 40))
			}
		}
		stages[layer.ID] = stage
		group := o.wet(layer)
		ids, entered := wet[layer.ID]
		switch {
		case entered:
		case o.begun(group):
			ids = o.addLayer(layer, stage)
		case len(group) > 1 || layer.Kind == strata.Wash && o.takenBack(layer):
			for _, l := range group {
				stages[l.ID] = bench.KindOf(string(l.Kind)).Stage
			}
			wet = o.sections(group, stages)
			ids = wet[layer.ID]
		default:
			ids = o.addLayer(layer, stage)
		}
		if len(ids) == 0 {
			ids = o.addLayer(layer, stage) // it lies on none of the zones that there are
		}
		o.awaitJar(layer, ids)
		at := o.task(ids[0])
		for _, w := range o.waits {
			if w.To == layer.ID {
				a := waits(stop(o.last[w.From], w.Rule, w.Reason), w.Kind, w.Minutes)
				a.Most, a.Water = w.Most, w.Water
				at.After = append(at.After, a)
			}
		}
		if len(at.After) == 0 {
			at.After = slices.Clone(ground)
		}
		at.After = append(at.After, extra...)
		o.last[layer.ID] = ids[len(ids)-1]
		switch {
		case layer.Kind == strata.Prime:
			primed = o.last[layer.ID]
		case layer.Kind == strata.Colour && (i+1 >= len(b.Layers) || b.Layers[i+1].Kind != strata.Colour):
			coloured = o.afterColour(layer)
		}
	}
}

// awaitJar holds back what is laid from a jar that is on order until it arrives.
func (o *orderer) awaitJar(layer strata.Layer, ids []string) {
	for _, id := range ids {
		t := o.task(id)
		pot := layer.Pot
		if layer.IsScheme() {
			pot = o.b.Scheme.Colour(t.Colour).Pot
		}
		if t.Kind != string(layer.Kind) || pot.From == "" {
			continue
		}
		if day, err := time.ParseInLocation(time.DateOnly, pot.From, o.zone); err == nil {
			t.NotFrom = day
			o.why[id] = append(o.why[id], pot.Name+" is on order, and arrives on "+day.Format("Monday 2 January"))
		}
	}
}

// beforeColour enters shading and test piece.
func (o *orderer) beforeColour(primed string, layer strata.Layer) []path.Arrow {
	var out []path.Arrow
	sprayed := layer.Applied == strata.Misted
	if primed != "" && sprayed && o.shaded(o.layer(primed), layer) {
		id := o.add(
			step{kind: "shade", subject: "under", units: LayerArea(o.l, layer)},
			dries(stop(primed, "P1", "the primer must take the next coat"), rule.NextCoat, o.layer(primed)),
		)
		o.task(id).Spray, o.task(id).Subject = true, path.Subject{Layer: layer.ID}
		thin := warn(id, "P2", "shading lies beneath the colour, which stays thin enough to let it show")
		out = append(out, damp(waits(thin, rule.NextCoat, 40)))
	}
	if layer.IsScheme() && o.b.School(document.SchoolTest) != document.NoTest {
		// Primed along with the model: a test piece of another ground shows another colour.
		var after []path.Arrow
		if primed != "" {
			reason := "the test piece is primed with the model, and its primer must take the next coat"
			after = append(after, dries(stop(primed, "P1", reason), rule.NextCoat, o.layer(primed)))
		}
		id := o.add(step{kind: "test", subject: layer.ID}, after...)
		o.task(id).Spray, o.task(id).Subject = sprayed, path.Subject{Layer: layer.ID}
		out = append(out, hint(id, "P9", "the mix is right before it goes on the model"))
	}
	return out
}

// afterColour enters what is done on the dry scheme; it gives the last step of it.
func (o *orderer) afterColour(layer strata.Layer) string {
	from := o.last[layer.ID]
	school := o.b.School(document.SchoolLighten)
	if layer.Applied == strata.Misted && (school == document.LightSlight || school == document.LightFull) {
		id := o.add(
			step{kind: "lighten", subject: layer.ID, units: LayerArea(o.l, layer)},
			dries(stop(from, "P1", "the colour must take the next coat"), rule.NextCoat, layer),
		)
		t := o.task(id)
		t.Spray, t.Subject, t.Zones, t.AreaCM = true, path.Subject{Layer: layer.ID}, layer.Zones, LayerArea(o.l, layer)
		o.last[layer.ID], from = id, id
	}
	rubber := 0
	for _, w := range o.b.Wheels {
		if w.Hub > 0 && w.Hub < w.Radius {
			rubber += 2
		}
	}
	if rubber > 0 && layer.Covers(zone.Gear(zone.Left, "road")) {
		o.tyres = o.add(
			step{kind: "wheelmask", subject: "tyres", title: fmt.Sprintf("%d wheels", rubber), units: float64(rubber)},
			dries(stop(from, "P3", "tape goes only on a coat that can be handled"), rule.Handle, layer),
		)
		o.wheelWay(o.tyres, float64(rubber))
	}
	return from
}

// wheelWays are the ways of keeping hub and rubber apart, with their set-up and minutes for a wheel: starting
// values, which the log corrects. The first is what the table of steps has.
var wheelWays = []struct {
	answer       string
	setUp, wheel unit.Minutes
}{
	{"hub first, masked", 10, 2.5},
	{"rubber first, hub through a template", 16, 2.2},
	{"rim by brush", 3, 3.5},
}

// wheelWay says how tyres and hubs are kept apart, and how long that takes: the quickest, or one's own way.
func (o *orderer) wheelWay(id string, wheels float64) {
	cost := func(k int) unit.Minutes { return wheelWays[k].setUp + wheelWays[k].wheel*unit.Minutes(wheels) }
	best := 0
	for k, w := range wheelWays {
		if w.answer == o.b.School(document.SchoolWheels) {
			best = k
			break
		}
		if cost(k) < cost(best) {
			best = k
		}
	}
	if best > 0 {
		w := wheelWays[best]
		o.minutes(
			id,
			cost(best).Whole(),
			w.answer,
			fmt.Sprintf(
				"set-up %.0f min, %.0f wheels, %.1f min for each, a starting value",
				float64(w.setUp),
				wheels,
				float64(w.wheel),
			),
		)
	}
}

// addLayer adds the tasks of a layer: one; one for each colour of the scheme; for
// decals, their rounds of softener; for a wash, its sections each with its take-back.
func (o *orderer) addLayer(layer strata.Layer, stage string) []string {
	e := entry{orderer: o, layer: layer, stage: stage, area: LayerArea(o.l, layer)}
	switch {
	case layer.IsScheme() && len(o.b.Scheme.Colours) > 1:
		return e.colours()
	case layer.Kind == strata.Decals:
		return e.decals()
	case layer.Kind == strata.Wash && o.takenBack(layer):
		return e.asBegun()
	}
	return e.single()
}

// entry is a layer while its tasks are entered.
type entry struct {
	*orderer
	layer strata.Layer
	stage string
	area  float64 // on the model, cm²
}

// enter adds a step of the layer, on so much of the model in cm².
func (e entry) enter(s step, area float64, after ...path.Arrow) string {
	title := s.title
	s.subject = e.layer.ID
	id := e.add(s, after...)
	if e.effort(s) != 1 {
		whole, inputs := e.paced(s)
		e.minutes(id, whole, inputs...)
	}
	t := e.task(id)
	t.Title, t.Stage, t.Zones, t.AreaCM = title, e.stage, e.layer.Zones, area
	t.Subject = path.Subject{Layer: e.layer.ID}
	return id
}

// effort is how many times as long as usual it takes to put the layer on: more of it takes longer.
func (e entry) effort(s step) float64 {
	if s.kind != string(e.layer.Kind) {
		return 1
	}
	return e.layer.Effort()
}

// paced is how long a step takes before what was learned.
func (e entry) paced(s step) (unit.Minutes, []string) {
	whole, inputs := e.orderer.paced(s)
	k := e.effort(s)
	if k == 1 {
		return whole, inputs
	}
	setUp := bench.KindOf(s.kind).SetUp
	more := fmt.Sprintf("%.2f × the work: the root of its amount beside the usual one, a starting value", k)
	return (setUp + (whole-setUp)*unit.Minutes(k)).Whole(), append(inputs, more)
}

// single is a layer done as one piece of work.
func (e entry) single() []string {
	units := e.area
	switch e.layer.Kind {
	case strata.Grease:
		units = float64(2 * len(e.b.Wheels)) // hubs
	case strata.Highlight:
		units = float64(len(e.b.Body.Fittings)) + float64(e.l.Dots)/dotsInAStroke
	case strata.Soot:
		units = float64(e.fittings("exhaust"))
	}
	s := step{kind: string(e.layer.Kind), title: e.layer.Name, units: units, coats: e.layer.Coats}
	if e.byBrush() {
		return e.brushed(s, e.area)
	}
	id := e.enter(s, e.area)
	t := e.task(id)
	// Work by brush may be laid down and taken up; a sprayed coat goes on in one go, and
	// so does what is worked before a window closes.
	t.Split = e.layer.Applied == strata.Brushed && e.layer.Kind != strata.ChippingWork
	t.Place = path.Bench
	if e.layer.IsScheme() {
		t.Colour = 1
	}
	e.spray(id, e.layer)
	return []string{id}
}

// dotsInAStroke is how many heads of bolts a brush drawn along their row touches in the time of one
// fitting, a starting value.
const dotsInAStroke = 8.0

// byBrush tells of paint that is laid coat by coat with a brush.
func (e entry) byBrush() bool {
	k := e.layer.Kind
	return e.layer.Applied == strata.Brushed && (k == strata.Prime || k == strata.Colour || k == strata.Clear)
}

// Minutes of painting by brush, starting values: mixing, and by area and coat.
const (
	brushSetUp  = unit.Minutes(6)
	brushPerCM2 = unit.Minutes(0.08)
)

// brushed enters a paint coat by coat, at the bench: each waits until the one before it takes
// the next.
func (e entry) brushed(s step, area float64, after ...path.Arrow) (ids []string) {
	title, n := s.title, max(s.n, 1)
	for i := 1; i <= e.layer.Coats; i++ {
		s.n, s.title = n, title
		if e.layer.Coats > 1 {
			s.title = fmt.Sprintf("%s, coat %d of %d by brush", title, i, e.layer.Coats)
		}
		if i > 1 {
			s.n = 100*(i-1) + n // ids of first coats stay as they are
			after = []path.Arrow{dries(
				stop(ids[len(ids)-1], "P1", "each coat by brush waits until the one below takes it"), rule.NextCoat, e.layer)}
		}
		s.coats = 1
		id := e.enter(s, area, after...)
		e.minutes(id, (brushSetUp + brushPerCM2*unit.Minutes(area)).Whole(),
			"set-up 6 min", fmt.Sprintf("%.0f cm² on the model, 0.08 min for each and coat by brush, a starting value", area))
		t := e.task(id)
		t.Place, t.Split, t.Round = path.Bench, true, i
		ids = append(ids, id)
	}
	return ids
}

// decals enters them, and the softener that draws them down.
func (e entry) decals() []string {
	worn := e.b.Kit.Worn()
	stencilled := e.stencils(worn)
	worn = slices.DeleteFunc(worn, func(d kit.Decal) bool { return d.Painted })
	if len(worn) == 0 && len(stencilled) > 0 {
		return stencilled
	}
	n := float64(len(worn))
	id := e.enter(step{kind: string(e.layer.Kind), title: e.layer.Name, units: n}, e.area)
	if n == 0 {
		e.minutes(
			id,
			unit.Minutes(20+0.12*e.area).Whole(),
			"set-up 20 min",
			fmt.Sprintf("%.0f cm² on the model, 0.12 min for each, a starting value", e.area),
		)
	}
	if !e.under(id) {
		e.told[id] = append(e.told[id], e.whereMarked(worn)...)
	}
	ids := []string{id}
	for _, s := range stencilled {
		e.task(id).After = append(e.task(id).After, then(s, "markings are painted before decals go on beside them"))
	}
	rounds := 0
	if e.layer.Softener && n > 0 {
		rounds = 1
		rough := func(z string) bool { return e.b.Rough(z) && e.layer.Covers(z) }
		if slices.ContainsFunc(worn, func(d kit.Decal) bool { return d.Thick }) || slices.ContainsFunc(e.l.Zones, rough) {
			rounds = 3
		}
	}
	for r := 1; r <= rounds; r++ {
		dry := dries(warn(ids[len(ids)-1], "M2", "each round of softener dries before the next"), rule.NextCoat, e.layer)
		title := fmt.Sprintf("Softener on the decals, round %d of %d", r, rounds)
		id := e.enter(step{kind: "softener", n: r, title: title, units: n}, e.area, damp(dry))
		e.task(id).Round = r
		ids = append(ids, id)
	}
	return ids
}

// whereMarked says of each marking how large it is on the model, where it stands, and what goes on over it.
func (e entry) whereMarked(worn []kit.Decal) (out []string) {
	for _, d := range worn {
		if d.Drawn == nil || len(d.Places) == 0 {
			continue
		}
		f := d.Drawn.Figure(d.Wide() / float64(e.b.Scale))
		var on, over []string
		for _, p := range d.Places {
			on = append(on, zone.Words(p.Zone))
		}
		for _, p := range e.b.Kit.Used() {
			if slices.Contains(p.Over, d.ID) {
				over = append(over, p.Name)
			}
		}
		words := fmt.Sprintf("%s: %.1f × %.1f mm, on %s", d.Name, f.Wide, f.High, strings.Join(on, " and "))
		if len(over) > 0 {
			words += "; " + strings.Join(over, ", ") + " goes on over it afterwards"
		}
		out = append(out, words)
	}
	return out
}

// stencils enters the markings that are painted by hand: each cut at the model's size, painted and
// worn as the paint around it (M4).
func (e entry) stencils(worn []kit.Decal) (ids []string) {
	for _, d := range worn {
		if !d.Painted {
			continue
		}
		id := e.enter(step{kind: "stencil", n: len(ids) + 1, title: "Paint through a stencil: " + d.Name, units: 1}, 0)
		e.task(id).Zones = []string{d.Zone}
		if d.SizeMM > 0 {
			e.why[id] = append(
				e.why[id],
				fmt.Sprintf("%.0f mm in life, %.1f mm on the model", d.SizeMM, d.SizeMM/float64(e.b.Scale)),
			)
		}
		e.told[id] = append(e.told[id], e.whereMarked([]kit.Decal{d})...)
		e.told[id] = append(
			e.told[id],
			"it is worn as the paint around it (M4): where that is to be lifted, the chipping coat lies beneath both",
		)
		e.takes[id] = []Taking{{
			Family: "waterborne_acrylic", Part: d.ID, Name: d.Name, Jar: d.Jar, ML: 0.05,
			From: []string{"one marking, 0.05 ml, a starting value"},
		}}
		e.corrected(id, d.ID)
		if len(ids) > 0 {
			e.task(id).After = append(e.task(id).After, then(ids[len(ids)-1], "one after the other"))
		}
		ids = append(ids, id)
	}
	return ids
}

// fittings counts the fittings of a kind, both sides, at least one.
func (o *orderer) fittings(kind string) int {
	n := 0
	for _, f := range o.b.Body.Fittings {
		if f.Kind == kind {
			n++
			if f.Mirror {
				n++
			}
		}
	}
	return max(n, 1)
}
