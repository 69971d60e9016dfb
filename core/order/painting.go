package order

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/kit"
	"cinderpath/core/path"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// painting enters the layers and what goes with them.
func (o *orderer) painting(built []path.Arrow) {
	b := o.b
	if len(b.Layers) == 0 {
		return
	}
	degrease := o.add("degrease", "all", 1, "", 0, 1, built...)
	ground := []path.Arrow{
		before(degrease, 0, "order", "", "", "grease from fingers is cleaned off before anything is sprayed"),
	}
	stage := bench.Paint
	primed, coloured, marked := "", "", ""
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
		if layer.Kind.About().Wears && marked == "" {
			marked = o.details(coloured)
			if marked != "" {
				extra = append(extra, before(marked, 40, "next coat", "", "", "details are aged with the rest"))
			}
		}
		ids := o.addLayer(layer, stage)
		at := o.task(ids[0])
		for _, w := range o.waits {
			if w.To == layer.ID {
				at.After = append(
					at.After,
					path.Arrow{
						From:     o.last[w.From],
						Wait:     w.Minutes,
						Most:     w.Most,
						Water:    w.Water,
						Kind:     w.Kind,
						Rule:     w.Rule,
						Severity: "stop",
						Reason:   w.Reason,
					},
				)
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

// beforeColour enters shading and test piece.
func (o *orderer) beforeColour(primed string, layer strata.Layer) []path.Arrow {
	var out []path.Arrow
	sprayed := layer.Applied == strata.Misted
	if primed != "" && sprayed && o.b.School(document.SchoolUndertone) != document.NoUndertone {
		l := o.layer(primed)
		_, next, _, _ := l.Times()
		id := o.add(
			"shade",
			"under",
			1,
			"",
			layerArea(o.l, layer),
			1,
			path.Arrow{
				From:     primed,
				Wait:     next,
				Water:    l.Water(),
				Kind:     "next coat",
				Rule:     "P1",
				Severity: "stop",
				Reason:   "the primer must take the next coat",
			},
		)
		o.task(id).Spray, o.task(id).Subject = true, path.Subject{Layer: layer.ID}
		out = append(
			out,
			path.Arrow{
				From:     id,
				Wait:     40,
				Water:    true,
				Kind:     "next coat",
				Rule:     "P2",
				Severity: "warn",
				Reason:   "shading lies beneath the colour, which stays thin enough to let it show",
			},
		)
	}
	if layer.IsScheme() && o.b.School(document.SchoolTest) != document.NoTest {
		// Primed along with the model: a test piece of another ground shows another colour.
		var after []path.Arrow
		if primed != "" {
			l := o.layer(primed)
			_, next, _, _ := l.Times()
			after = append(
				after,
				path.Arrow{
					From:     primed,
					Wait:     next,
					Water:    l.Water(),
					Kind:     "next coat",
					Rule:     "P1",
					Severity: "stop",
					Reason:   "the test piece is primed with the model, and its primer must take the next coat",
				},
			)
		}
		id := o.add("test", layer.ID, 1, "", 0, 1, after...)
		o.task(id).Spray, o.task(id).Subject = sprayed, path.Subject{Layer: layer.ID}
		out = append(out, before(id, 0, "order", "P9", "hint", "the mix is right before it goes on the model"))
	}
	return out
}

// afterColour enters what is done on the dry scheme; it gives the last step of it.
func (o *orderer) afterColour(layer strata.Layer) string {
	from := o.last[layer.ID]
	_, next, handle, _ := layer.Times()
	if s := o.b.School(
		document.SchoolLighten,
	); (s == document.LightSlight || s == document.LightFull) &&
		layer.Applied == strata.Misted {
		id := o.add(
			"lighten",
			layer.ID,
			1,
			"",
			layerArea(o.l, layer),
			1,
			path.Arrow{
				From:     from,
				Wait:     next,
				Water:    layer.Water(),
				Kind:     "next coat",
				Rule:     "P1",
				Severity: "stop",
				Reason:   "the colour must take the next coat",
			},
		)
		t := o.task(id)
		t.Spray, t.Subject, t.Zones, t.AreaCM = true, path.Subject{Layer: layer.ID}, layer.Zones, layerArea(o.l, layer)
		o.last[layer.ID], from = id, id
	}
	rubber := 0
	for _, w := range o.b.Wheels {
		if w.Hub > 0 && w.Hub < w.Radius {
			rubber += 2
		}
	}
	if rubber > 0 && layer.Covers(zone.Gear(zone.Left, "road")) {
		o.add(
			"wheelmask",
			"tyres",
			1,
			fmt.Sprintf("%d wheels", rubber),
			float64(rubber),
			1,
			path.Arrow{
				From:     from,
				Wait:     handle,
				Water:    layer.Water(),
				Kind:     "handle",
				Rule:     "P3",
				Severity: "stop",
				Reason:   "tape goes only on a coat that can be handled",
			},
		)
	}
	return from
}

// details enters the painting of tools, stowage, lamps and crew, if there are any.
func (o *orderer) details(coloured string) string {
	var names []string
	n := 0
	for _, p := range o.b.Kit.Used() {
		if slices.Contains([]string{"tool", "stowage", "lamp", "crew", "cable"}, p.Kind) {
			names = append(names, p.Name)
			n += p.Number()
		}
	}
	if n == 0 || coloured == "" {
		return ""
	}
	l := o.layer(coloured)
	_, next, _, _ := l.Times()
	return o.add(
		"details",
		"all",
		1,
		listed(names),
		float64(n),
		1,
		path.Arrow{
			From:     coloured,
			Wait:     next,
			Water:    l.Water(),
			Kind:     "next coat",
			Severity: "warn",
			Reason:   "details are painted over the dry colour",
		},
	)
}

// Longest single goes at a wash, so that it is taken back in time.
const sectionMinutes = 40.0

// addLayer adds the tasks of a layer: one; one for each colour of the scheme; for
// decals, their rounds of softener; for a wash, its sections each with its take-back.
func (o *orderer) addLayer(layer strata.Layer, stage string) []string {
	area := layerArea(o.l, layer)
	b := o.b
	enter := func(kind string, n int, title string, area, units float64, coats int, after ...path.Arrow) string {
		id := o.add(kind, layer.ID, n, title, units, coats, after...)
		t := o.task(id)
		t.Title, t.Stage, t.Subject, t.Zones, t.AreaCM = title, stage, path.Subject{Layer: layer.ID}, layer.Zones, area
		return id
	}
	kind := string(layer.Kind)
	_, next, handle, _ := layer.Times()
	switch {
	case layer.IsScheme() && len(b.Scheme.Colours) > 1:
		var ids []string
		for i, c := range b.Scheme.Colours {
			part := area
			if i > 0 {
				part = area * o.l.Shares[i]
			}
			var after []path.Arrow
			if i > 0 {
				a := path.Arrow{
					From:     ids[len(ids)-1],
					Wait:     next,
					Water:    layer.Water(),
					Kind:     "next coat",
					Rule:     "P1",
					Severity: "stop",
					Reason:   "the colour below must take the next one of its range",
				}
				if b.Scheme.Feather == 0 {
					mask := enter(
						"mask",
						i+1,
						layer.Name+": mask for "+c.Name,
						part,
						part,
						1,
						path.Arrow{
							From:     ids[len(ids)-1],
							Wait:     handle,
							Water:    layer.Water(),
							Kind:     "handle",
							Rule:     "P3",
							Severity: "stop",
							Reason:   "a hard edge is masked, and tape goes only on a coat that can be handled",
						},
					)
					o.task(mask).Colour = i + 1
					a = stop(mask, "P3", "the masks are on before the colour")
				}
				after = append(after, a)
			}
			id := enter(kind, i+1, layer.Name+": "+c.Name, part, part, layer.Coats, after...)
			o.task(id).Colour = i + 1
			o.spray(id, layer)
			ids = append(ids, id)
		}
		if b.Scheme.Feather == 0 {
			ids = append(
				ids,
				enter(
					"unmask",
					1,
					layer.Name+": take the masks off",
					area,
					area,
					1,
					path.Arrow{
						From:     ids[len(ids)-1],
						Wait:     15,
						Water:    layer.Water(),
						Kind:     "touch",
						Severity: "warn",
						Reason:   "dry to the touch, not yet brittle",
					},
				),
			)
		}
		return ids
	case layer.Kind == strata.Decals:
		n := float64(len(b.Kit.Worn()))
		id := enter(kind, 1, layer.Name, area, n, 1)
		if n == 0 {
			o.minutes(
				id,
				math.Ceil(20+0.12*area),
				"set-up 20 min",
				fmt.Sprintf("%.0f cm² on the model, 0.12 min for each, a starting value", area),
			)
		}
		ids := []string{id}
		rounds := 0
		if layer.Softener && n > 0 {
			rounds = 1
			if slices.ContainsFunc(b.Kit.Worn(), func(d kit.Decal) bool { return d.Thick }) {
				rounds = 3
			}
		}
		for r := 1; r <= rounds; r++ {
			ids = append(ids, enter(
				"softener",
				r,
				fmt.Sprintf("Softener on the decals, round %d of %d", r, rounds),
				area,
				n,
				1,
				path.Arrow{
					From:     ids[len(ids)-1],
					Wait:     next,
					Water:    true,
					Kind:     "next coat",
					Rule:     "M2",
					Severity: "warn",
					Reason:   "each round of softener dries before the next",
				},
			))
			o.task(ids[len(ids)-1]).Round = r
		}
		return ids
	case layer.Kind == strata.Wash:
		f, _ := strata.FamilyOf(layer.Family)
		if !(f.TakeBackTo > 30 && f.TakeBackTo <= 300) {
			break
		}
		minutes, _ := bench.KindOf(kind).Minutes(area, layer.Coats)
		n := int(math.Ceil(minutes / sectionMinutes))
		var ids []string
		for i := range n {
			title, back := layer.Name, "Take back the "+strings.ToLower(layer.Name)
			if n > 1 {
				title, back = fmt.Sprintf("%s, section %d of %d", title, i+1, n), fmt.Sprintf("%s, section %d of %d", back, i+1, n)
			}
			part := area / float64(n)
			var after []path.Arrow
			if i > 0 {
				after = append(
					after,
					before(ids[len(ids)-1], 0, "order", "", "", "one section after the other, each finished inside its time"),
				)
			}
			id := enter(kind, i+1, title, part, part, layer.Coats, after...)
			o.task(id).Split, o.task(id).Section = false, i+1
			ids = append(ids, id)
			take := enter(
				"takeback",
				i+1,
				back,
				part,
				part,
				1,
				path.Arrow{
					From:     id,
					Wait:     f.TakeBackFrom,
					Most:     f.TakeBackTo,
					Same:     true,
					Water:    layer.Water(),
					Kind:     "take-back",
					Rule:     "W3",
					Severity: "stop",
					Reason: fmt.Sprintf(
						"sooner than %s it smears, later than %s it stays",
						strata.Spell(f.TakeBackFrom),
						strata.Spell(f.TakeBackTo),
					),
				},
			)
			o.task(take).Section = i + 1
			ids = append(ids, take)
		}
		return ids
	}
	units := area
	switch layer.Kind {
	case strata.Grease:
		units = float64(2 * len(b.Wheels)) // hubs
	case strata.Soot:
		units = float64(o.fittings("exhaust"))
	}
	id := enter(kind, 1, layer.Name, area, units, layer.Coats)
	t := o.task(id)
	// Work by brush may be laid down and taken up; a sprayed coat goes on in one go, and
	// so does what is worked before a window closes.
	t.Split = layer.Applied == strata.Brushed && layer.Kind != strata.ChippingWork
	t.Place = path.Bench
	if layer.IsScheme() {
		t.Colour = 1
	}
	o.spray(id, layer)
	return []string{id}
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
