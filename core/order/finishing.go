package order

import (
	"cmp"
	"slices"
	"strings"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/kit"
	"cinderpath/core/path"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// finishing enters what is fitted at the end.
func (o *orderer) finishing(built []path.Arrow, received map[string]string) {
	b := o.b
	var painted []path.Arrow
	early := b.School(document.SchoolRunning) == document.GluedEarly
	weathered := "" // the first wear, which the running gear is on for
	for _, l := range b.Layers {
		if early && l.Kind.About().Wears {
			weathered = o.firstOf(l.ID)
			break
		}
		_, _, handle, _ := l.Times()
		painted = append(
			painted,
			path.Arrow{From: o.last[l.ID], Wait: handle, Water: l.Water(), Kind: "handle", Rule: "F2", Severity: "stop",
				Reason: "nothing is held by a surface that cannot be handled: " + l.Name},
		)
	}
	if len(painted) == 0 {
		painted = built
	}
	handed := o.add("handed", "gear", 1, "", float64(2*len(b.Wheels)), 1)
	title := "Put wheels back on"
	if b.Outline.HasTrack() {
		title = "Put wheels and tracks back on"
	}
	gear := o.add(
		"fitgear",
		"gear",
		1,
		title,
		float64(2*len(b.Wheels)),
		1,
		append(painted, path.Arrow{From: handed, Same: true, Kind: "order", Rule: "B8", Severity: "stop",
			Reason: "arms and links are checked against the drawing at the moment of fitting"})...)
	// The name it has in records of earlier versions.
	o.rename(gear, "fit:gear:1")
	o.task("fit:gear:1").Zones = []string{"gear"}
	if weathered != "" {
		o.task(weathered).After = append(
			o.task(weathered).After,
			before(
				"fit:gear:1",
				cementTouch,
				"handle",
				"B13",
				"warn",
				"the running gear is glued before upper weathering, as your school has it",
			),
		)
	}
	last := append([]path.Arrow{before("fit:gear:1", 0, "order", "", "", "the vehicle is whole")}, o.polish()...)
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
		last = append(last, before(id, 0, "order", "F4", "warn", p.Name+" is fitted or struck off"))
	}
	for _, p := range b.Kit.Used() { // what holds another goes on before it
		for _, held := range p.Holds {
			_, first := o.index["fit:"+p.ID+":1"]
			if _, ok := o.index["fit:"+held+":1"]; ok && first {
				t := o.task("fit:" + held + ":1")
				t.After = append(t.After, before("fit:"+p.ID+":1", 0, "order", "", "", p.Name+" holds it"))
			}
		}
	}
	touch := o.add("touchup", "all", 1, "", 0, 1, last...)
	for _, id := range clears {
		for _, a := range last {
			if !slices.Contains(clears, a.From) {
				o.task(id).After = append(o.task(id).After, before(a.From, 0, "order", "B11", "warn", "clear parts go on last"))
			}
		}
	}
	closed := []path.Arrow{before(touch, 60, "touch", "", "", "what was touched up is dry")}
	if len(b.Layers) > 0 {
		sheen := o.add(
			"sheen",
			"all",
			1,
			"",
			layerArea(o.l, strata.Layer{}),
			1,
			before(touch, 60, "touch", "", "", "the sheen is decided last, over what was touched up"),
		)
		closed = []path.Arrow{before(sheen, 60, "touch", "", "", "the last clear coat is dry")}
	}
	if b.School(document.SchoolDisplay) == document.OnABase {
		base := o.add("base", "own", 1, "", footprint(b), 1)
		mount := o.add(
			"mount",
			"own",
			1,
			"",
			1,
			1,
			append(
				closed,
				before(base, bondCured, "cured", "F3", "hint", "groundwork of the same earth as on the vehicle, cured through"),
			)...)
		closed = []path.Arrow{before(mount, bondCured, "cured", "", "", "it stands fast on its base")}
	}
	o.add("record", "build", 1, "", 0, 1, closed...)
}

// footprint is the area of a base about the vehicle on the model, cm².
func footprint(b document.Build) float64 {
	const margin = 30.0 // model mm at each side
	n := float64(b.Scale)
	return (b.Sizes.Length.MM/n + 2*margin) * (b.Sizes.Width.MM/n + 2*margin) / 100
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
	area := layerArea(o.l, strata.Layer{Zones: []string{zone.Track(zone.Left), zone.Track(zone.Right)}})
	if answer == document.MetalEarly {
		first := slices.IndexFunc(
			b.Layers,
			func(l strata.Layer) bool { return l.Kind.About().Wears && l.Covers(zone.Track(zone.Left)) },
		)
		if first < 1 {
			return nil
		}
		below := b.Layers[first-1]
		_, next, _, _ := below.Times()
		id := o.add(
			"metal",
			"tracks",
			1,
			"Metal paint on guide horns, teeth and cleats",
			area,
			1,
			path.Arrow{
				From:     o.last[below.ID],
				Wait:     next,
				Water:    below.Water(),
				Kind:     "next coat",
				Rule:     "P1",
				Severity: "stop",
				Reason:   "what lies below must take the next coat",
			},
		)
		o.task(id).Stage, o.task(id).Zones = bench.Wear, []string{"gear"}
		wear := o.task(o.firstOf(b.Layers[first].ID))
		wear.After = append(
			wear.After,
			before(id, 40, "next coat", "", "", "metal paint is toned down by what comes over it"),
		)
		return nil
	}
	var after []path.Arrow
	for _, l := range b.Layers {
		if _, _, handle, _ := l.Times(); l.Covers(zone.Track(zone.Left)) {
			after = append(
				after,
				path.Arrow{
					From:     o.last[l.ID],
					Wait:     handle,
					Water:    l.Water(),
					Kind:     "handle",
					Rule:     "W5",
					Severity: "warn",
					Reason:   "bright metal comes last of all: " + strings.ToLower(l.Name) + " would dull it",
				},
			)
		}
	}
	id := o.add("metal", "tracks", 1, "Graphite on guide horns, teeth and cleats", area, 1, after...)
	o.task(id).Zones = []string{"gear"}
	return []path.Arrow{before(id, 0, "order", "", "", "fingers and cloth leave marks: touched up afterwards")}
}

// fitLater enters the fitting of a part that stayed off.
func (o *orderer) fitLater(p kit.Part, a kit.Advice, received map[string]string) string {
	var after []path.Arrow
	if r, ok := received[p.ID]; ok {
		after = append(after, before(r, 0, "order", "", "", p.Name+" has to come first"))
	}
	on := func(name string) bool {
		if len(p.Shadows) == 0 {
			return zone.Part(name) == p.Assembly
		}
		return zone.Among(name, p.Shadows)
	}
	covers := func(l strata.Layer) bool {
		return slices.ContainsFunc(o.l.Zones, func(z string) bool { return on(z) && l.Covers(z) })
	}
	earth := ""
	for _, l := range o.b.Layers {
		last, ok := o.last[l.ID]
		if !ok || !covers(l) || earth != "" { // what lies above comes when it is on
			continue
		}
		_, _, handle, _ := l.Times()
		loose := l.Kind.About().Loose
		fitFirst := loose && p.Forced // what comes after it is on
		if p.Kind == "skirt" {
			switch o.b.School(document.SchoolSkirts) {
			case document.FitThenWeather:
				fitFirst = l.Kind.About().Wears
			case document.WeatherThenFit:
				fitFirst = false
			default:
				fitFirst = loose
			}
		}
		switch {
		case l.Kind == strata.Decals && a.Rule == "B4":
			after = append(
				after,
				path.Arrow{
					From:     last,
					Wait:     handle,
					Water:    true,
					Kind:     "handle",
					Rule:     "B4",
					Severity: "stop",
					Reason:   p.Name + " after decals: " + a.Reason,
				},
			)
			if first := o.firstOf(l.ID); first != last {
				after = append(after, stop(first, "B4", p.Name+" after decals: "+a.Reason))
			}
		case (l.Kind == strata.Rust || l.Kind == strata.Colour) && a.Rule == "B5":
			after = append(
				after,
				path.Arrow{
					From:     last,
					Wait:     handle,
					Water:    l.Water(),
					Kind:     "handle",
					Rule:     "B5",
					Severity: "stop",
					Reason:   p.Name + ": " + a.Reason,
				},
			)
		case fitFirst:
			if earth == "" {
				earth = o.firstOf(l.ID)
			}
			continue
		}
		after = append(
			after,
			path.Arrow{
				From:     last,
				Wait:     handle,
				Water:    l.Water(),
				Kind:     "handle",
				Rule:     cmp.Or(a.Rule, "B3"),
				Severity: "warn",
				Reason:   p.Name + " stays off until " + strings.ToLower(l.Name) + " is done: " + a.Reason,
			},
		)
	}
	if len(after) == 0 {
		for _, id := range o.last {
			after = append(after, before(id, 0, "order", "B3", "warn", a.Reason))
		}
		slices.SortFunc(after, func(x, y path.Arrow) int { return strings.Compare(x.From, y.From) })
	}
	if p.Side != "" && p.Joint != kit.Removable {
		// A check of its own: the running gear's may be in another session.
		check := o.add("handed", p.ID, 1, "Check the side of "+p.Name, 1, 1)
		after = append(
			after,
			path.Arrow{
				From:     check,
				Same:     true,
				Kind:     "order",
				Rule:     "B8",
				Severity: "stop",
				Reason:   "left and right are checked at the moment of gluing",
			},
		)
	}
	id := o.add("fit", p.ID, 1, p.Name, float64(p.Number()), 1, after...)
	o.task(id).Zones = []string{p.Assembly}
	if glue := kit.GlueFor(p, kit.Plastic, true); glue.Note != "" {
		o.why[id] = append(o.why[id], glue.Name+": "+glue.Note)
	}
	if earth != "" && o.index[earth] < len(o.tasks) {
		o.task(earth).After = append(o.task(earth).After, warn(id, "F1", p.Name+" is forced on: its loose layers come after"))
	}
	return id
}

// Advice says which parts of the chosen version stay off, and why.
func Advice(b document.Build, zones []string) []kit.Advice {
	var painted []string
	for _, z := range zones {
		if slices.ContainsFunc(b.Layers, func(l strata.Layer) bool { return l.Covers(z) }) {
			painted = append(painted, z)
		}
	}
	return b.Kit.Suggest(b.School(document.SchoolPieces), painted)
}
