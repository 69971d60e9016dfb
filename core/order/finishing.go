package order

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/gear"
	"cinderpath/core/kit"
	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// finishing enters what is fitted at the end.
func (o *orderer) finishing(built []path.Arrow, received map[string]string) {
	b := o.b
	var painted []path.Arrow
	early := b.School(document.SchoolRunning) == document.GluedEarly
	later := o.acrossBoth()
	weathered := "" // the first wear, which the running gear is on for
	for _, l := range b.Layers {
		if early && l.Kind.About().Wears {
			weathered = o.firstOf(l.ID)
			break
		}
		if later[l.ID] {
			break
		}
		reason := "nothing is held by a surface that cannot be handled: " + l.Name
		painted = append(painted, dries(stop(o.last[l.ID], "F2", reason), rule.Handle, l))
	}
	if len(painted) == 0 {
		painted = built
	}
	if o.tyres != "" {
		f, _ := paint.FamilyOf("waterborne_acrylic")
		painted = append(painted, waits(stop(o.tyres, "F2", "wheels are held by their tyres"), rule.Handle, f.Handle))
	}
	o.linked()
	if o.links != "" {
		painted = append(painted, waits(then(o.links, "the tracks are joined"), rule.Handle, cementTouch))
	}
	o.fitGear(painted)
	if b.Link.Make == gear.Band && b.Outline.HasTrack() {
		o.gluedDown()
	}
	for _, l := range b.Layers {
		if first := o.firstOf(l.ID); later[l.ID] && first != "" {
			across := warn(gearOn, "F1", "this tone of earth goes across hull and tracks, once they are on")
			o.task(first).After = append(o.task(first).After, waits(across, rule.Handle, cementTouch))
		}
	}
	if weathered != "" {
		glued := warn(gearOn, "B13", "the running gear is glued before upper weathering, as your school has it")
		o.task(weathered).After = append(o.task(weathered).After, waits(glued, rule.Handle, cementTouch))
	}
	last := append([]path.Arrow{then(gearOn, "the vehicle is whole")}, o.polish()...)
	var clears []string
	for _, a := range Advice(b, o.l.Zones) {
		if !a.Off || a.Part == "" {
			continue
		}
		p := b.Kit.Parts[slices.IndexFunc(b.Kit.Parts, func(p kit.Part) bool { return p.ID == a.Part })]
		if p.Kind == "wheels" || p.Kind == "tracks" {
			continue
		}
		id := o.fitLater(p, a, received)
		if a.Rule == "B11" {
			clears = append(clears, id)
		}
		last = append(last, warn(id, "F4", p.Name+" is fitted or struck off"))
	}
	for _, p := range b.Kit.Used() { // what holds another goes on before it
		for _, held := range p.Holds {
			_, first := o.index["fit:"+p.ID+":1"]
			if _, ok := o.index["fit:"+held+":1"]; ok && first {
				t := o.task("fit:" + held + ":1")
				t.After = append(t.After, then("fit:"+p.ID+":1", p.Name+" holds it"))
			}
		}
	}
	o.brittleLast()
	touch := o.add(step{kind: "touchup", subject: "all"}, last...)
	for _, id := range clears {
		for _, a := range last {
			if !slices.Contains(clears, a.From) {
				o.task(id).After = append(o.task(id).After, warn(a.From, "B11", "clear parts go on last"))
			}
		}
	}
	record := o.add(step{kind: "record", subject: "build"}, o.seal(touch)...)
	for _, p := range b.Kit.Struck() {
		o.told[record] = append(o.told[record], p.Name+" was struck off (F4)")
	}
	if b.School(document.SchoolAccuracy) == document.LooksBest {
		larger := fmt.Sprintf("raised detail is made %g times as large as life, on purpose", document.Exaggeration)
		o.told[record] = append(o.told[record], larger)
	}
}

// acrossBoth are the layers of earth that come when the tracks are on, as one's school has it: the tones
// after the first and after the paste, all of them, or none.
func (o *orderer) acrossBoth() map[string]bool {
	answer := o.b.School(document.SchoolEarth)
	if !o.b.Outline.HasTrack() || answer == document.EarthBefore {
		return nil
	}
	var earth []strata.Layer
	first := 1
	for _, l := range o.b.Layers {
		switch l.Kind {
		case strata.Mud:
			first = len(earth) + 1
		case strata.Dust, strata.Splash, strata.Pigment:
		default:
			continue
		}
		earth = append(earth, l)
	}
	if answer == document.EarthAfter {
		first = 0
	}
	out := map[string]bool{}
	for _, l := range earth[min(first, len(earth)):] {
		if l.Covers(zone.Track(zone.Left)) || l.Covers(zone.Track(zone.Right)) {
			out[l.ID] = true
		}
	}
	return out
}

// brittleLast lets what breaks easily go on after wheels, tracks and all that is sturdier, where it was
// not put on yet.
func (o *orderer) brittleLast() {
	var sturdy, frail []string
	for _, p := range o.b.Kit.Used() {
		id := "fit:" + p.ID + ":1"
		_, fitted := o.index[id]
		switch {
		case !fitted || p.Material == kit.Clear || p.Late != "" || p.Guards != "":
		case p.Brittle():
			frail = append(frail, id)
		case len(p.Holds) == 0:
			sturdy = append(sturdy, id)
		}
	}
	for _, id := range frail {
		if o.under(id) {
			continue
		}
		t := o.task(id)
		for _, first := range append([]string{gearOn}, sturdy...) {
			t.After = append(t.After, warn(first, "B3", "what breaks easily goes on last"))
		}
	}
}

// gearOn is the step that puts the running gear on, by the name that it has in records
// of earlier versions.
const gearOn = "fit:gear:1"

// fitGear enters the fitting of wheels and tracks, right and left checked with it.
func (o *orderer) fitGear(painted []path.Arrow) {
	wheels := float64(2 * len(o.b.Wheels))
	title := "Put wheels back on"
	if o.b.Outline.HasTrack() {
		title = "Put wheels and tracks back on"
	}
	handed := o.add(step{kind: "handed", subject: "gear", units: wheels})
	checked := atOnce(stop(handed, "B8", "arms and links are checked against the drawing at the moment of fitting"))
	o.rename(
		o.add(step{kind: "fitgear", subject: "gear", title: title, units: wheels}, append(painted, checked)...),
		gearOn,
	)
	o.task(gearOn).Zones = []string{"gear"}
}

// seal enters the last clear coat and the base, over what was touched up; it gives what
// the record waits for.
func (o *orderer) seal(touch string) []path.Arrow {
	closed := []path.Arrow{waits(then(touch, "what was touched up is dry"), rule.Touch, 60)}
	if len(o.b.Layers) > 0 {
		sheen := o.add(
			step{kind: "sheen", subject: "all", units: LayerArea(o.l, strata.Layer{})},
			waits(then(touch, "the sheen is decided last, over what was touched up"), rule.Touch, 60),
		)
		closed = []path.Arrow{waits(then(sheen, "the last clear coat is dry"), rule.Touch, 60)}
		if spots := o.shining(); len(spots) > 0 {
			id := o.add(
				step{kind: "sheenspots", subject: "all", title: strings.Join(spots, ", "), units: float64(len(spots))},
				closed...)
			closed = []path.Arrow{waits(then(id, "what shines is dry"), rule.Touch, 60)}
		}
	}
	return o.ground(closed)
}

// shining lists what gets another sheen than the rest, by brush over the last coat.
func (o *orderer) shining() (out []string) {
	if slices.ContainsFunc(o.b.Wheels, gear.Wheel.Rubber) {
		out = append(out, "satin on worn rubber")
	}
	if slices.ContainsFunc(o.b.Kit.Used(), func(p kit.Part) bool { return p.Material == kit.Clear }) {
		out = append(out, "gloss on glass")
	}
	if slices.ContainsFunc(
		o.b.Layers,
		func(l strata.Layer) bool { return l.Kind == strata.Grease || l.Kind == strata.Wet },
	) {
		out = append(out, "gloss on oil and wet spots")
	}
	return out
}

// polish enters the bright metal of the tracks, where the school wants it and no layer
// of the stack is it: graphite when nothing comes after that would dull it (W5), paint
// before the first wear, which tones it down.
func (o *orderer) polish() (last []path.Arrow) {
	b := o.b
	answer := b.School(document.SchoolBright)
	isMetal := func(l strata.Layer) bool { return l.Kind == strata.Metal && l.Covers(zone.Track(zone.Left)) }
	if !b.Outline.HasTrack() || len(b.Layers) == 0 || slices.ContainsFunc(b.Layers, isMetal) ||
		(answer != document.GraphiteLast && answer != document.MetalEarly) {
		return nil
	}
	area := LayerArea(o.l, strata.Layer{Zones: []string{zone.Track(zone.Left), zone.Track(zone.Right)}})
	if answer == document.MetalEarly {
		first := slices.IndexFunc(
			b.Layers,
			func(l strata.Layer) bool { return l.Kind.About().Wears && l.Covers(zone.Track(zone.Left)) },
		)
		if first < 1 {
			return nil
		}
		below := b.Layers[first-1]
		id := o.add(
			step{kind: "metal", subject: "tracks", title: "Metal paint on guide horns, teeth and cleats", units: area},
			dries(stop(o.last[below.ID], "P1", "what lies below must take the next coat"), rule.NextCoat, below),
		)
		o.task(id).Stage, o.task(id).Zones = bench.Wear, []string{"gear"}
		wear := o.task(o.firstOf(b.Layers[first].ID))
		toned := then(id, "metal paint is toned down by what comes over it")
		wear.After = append(wear.After, waits(toned, rule.NextCoat, 40))
		return nil
	}
	var after []path.Arrow
	for _, l := range b.Layers {
		if l.Covers(zone.Track(zone.Left)) {
			reason := "bright metal comes last of all: " + strings.ToLower(l.Name) + " would dull it"
			after = append(after, dries(warn(o.last[l.ID], "W5", reason), rule.Handle, l))
		}
	}
	id := o.add(
		step{kind: "metal", subject: "tracks", title: "Graphite on guide horns, teeth and cleats", units: area},
		after...)
	o.task(id).Zones = []string{"gear"}
	return []path.Arrow{then(id, "fingers and cloth leave marks: touched up afterwards")}
}
