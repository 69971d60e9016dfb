package order

import (
	"fmt"
	"slices"
	"time"

	"cinderpath/core/bench"
	"cinderpath/core/document"
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
		if layer.Kind == strata.Colour && layer.Applied == strata.Misted &&
			b.School(document.SchoolLighten) == document.LightGraded {
			o.graded(ids)
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
		o.undertoned(id)
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
		if o.b.School(document.SchoolTest) == document.ByEye {
			o.longer(id, 1.5, "by eye it takes a second try: half as long again, a starting value")
		}
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
		if school == document.LightFull {
			t.Title += ", so that it shows"
			o.longer(id, 1.6, "more than slightly: 1.6 times as long, a starting value")
		}
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
	if s.kind == string(e.layer.Kind) {
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
	kind := bench.KindOf(s.kind)
	if s.kind == string(e.layer.Kind) {
		kind = workedAt(e.layer)
	}
	whole, inputs := kind.Minutes(s.units, s.coats)
	k := e.effort(s)
	if k == 1 {
		return whole, inputs
	}
	setUp := kind.SetUp
	more := fmt.Sprintf("%.2f × the work: the root of its amount beside the usual one, a starting value", k)
	return (setUp + (whole-setUp)*unit.Minutes(k)).Whole(), append(inputs, more)
}

// units is what there is of the layer to work, as its pace counts.
func (e entry) units() float64 {
	sum := 0.0
	for _, z := range e.l.Zones {
		if e.layer.Covers(z) && (!e.layer.IsScheme() || !zone.Bare(z)) {
			sum += e.l.worked(e.layer, z)
		}
	}
	if workedAt(e.layer).Unit != strata.Pieces {
		return sum
	}
	switch e.layer.Kind { // counted by what stands there
	case strata.Highlight:
		return float64(len(e.b.Body.Fittings)) + float64(e.l.Dots)/dotsInAStroke
	case strata.Soot:
		return float64(e.fittings("exhaust"))
	case strata.Grease:
		if how, _ := e.layer.Worked(); how.ID == "fuel_stain" {
			return float64(e.fittings("cap"))
		}
		return float64(2 * len(e.b.Wheels)) // hubs
	}
	return 1
}

// single is a layer done as one piece of work.
func (e entry) single() []string {
	s := step{kind: string(e.layer.Kind), title: e.layer.Name, units: e.units(), coats: e.layer.Coats}
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

// graded lets coats of colour take longer where they are laid in graded shades.
func (o *orderer) graded(ids []string) {
	for _, id := range ids {
		if o.task(id).Kind == string(strata.Colour) {
			o.longer(id, 1.3, "in graded shades: 1.3 times as long, a starting value")
		}
	}
}
