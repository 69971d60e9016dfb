package order

import (
	"cmp"
	"slices"
	"strings"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/kit"
	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// fitLater enters the fitting of a part that stayed off.
func (o *orderer) fitLater(p kit.Part, a kit.Advice, received map[string]string) string {
	var after []path.Arrow
	if r, ok := received[p.ID]; ok {
		after = append(after, then(r, p.Name+" has to come first"))
	}
	layers, earth := o.guardFirst(p)
	if layers == nil {
		if layers, earth = o.waitsFor(p, a); len(layers) > 0 {
			layers = append(layers, o.soft(p, earth)...)
		}
	}
	after = append(after, layers...)
	if len(after) == 0 {
		for _, id := range o.last {
			after = append(after, warn(id, "B3", a.Reason))
		}
		slices.SortFunc(after, func(x, y path.Arrow) int { return strings.Compare(x.From, y.From) })
	}
	if p.Side != "" && p.Joint != kit.Removable {
		// A check of its own: the running gear's may be in another session.
		check := o.add(step{kind: "handed", subject: p.ID, title: "Check the side of " + p.Name, units: 1})
		after = append(after, atOnce(stop(check, "B8", "left and right are checked at the moment of gluing")))
	}
	id := o.add(step{kind: "fit", subject: p.ID, title: p.Name, units: float64(p.Number())}, after...)
	o.task(id).Zones = []string{p.Assembly}
	if p.Guards != "" && earth != "" {
		o.task(id).Stage = bench.Paint
	}
	o.glued(id, []kit.Part{p}, true)
	o.corrected(id, append([]string{p.ID}, p.Over...)...)
	if earth != "" && o.index[earth] < len(o.tasks) {
		o.task(earth).After = append(o.task(earth).After, o.onFirst(id, p))
	}
	return id
}

// guardFirst enters the painting and rusting of what a guard hides, where a scheme crosses the guard and
// is still to come (B5): pipe, guard, scheme. It gives what the guard waits for and the first task that
// waits for it.
func (o *orderer) guardFirst(p kit.Part) (after []path.Arrow, above string) {
	at := slices.IndexFunc(o.b.Kit.Parts, func(q kit.Part) bool { return q.ID == p.Guards })
	crosses := slices.IndexFunc(o.b.Layers, func(l strata.Layer) bool {
		return l.IsScheme() &&
			slices.ContainsFunc(o.l.Zones, func(z string) bool { return zone.Part(z) == p.Assembly && l.Covers(z) })
	})
	if p.Guards == "" || at < 0 || crosses < 0 {
		return nil, ""
	}
	scheme := o.b.Layers[crosses]
	first := o.firstOf(scheme.ID)
	fit := "fit:" + p.ID + ":1"
	if o.under(first) && !o.under(fit, "pipe:"+p.Guards+":1") {
		return nil, "" // the scheme is on already
	}
	pipe := o.b.Kit.Parts[at]
	var primed []path.Arrow
	for _, l := range o.b.Layers[:crosses] {
		if last, ok := o.last[l.ID]; ok && l.Kind == strata.Prime {
			primed = append(primed, dries(stop(last, "B5", pipe.Name+" is painted over its primer"), rule.NextCoat, l))
		}
	}
	id := o.add(step{kind: "pipe", subject: pipe.ID, title: pipe.Name, units: float64(pipe.Number())}, primed...)
	o.task(id).Zones = []string{pipe.Assembly}
	f, _ := paint.FamilyOf("enamel_effect")
	return []path.Arrow{
		waits(stop(id, "B5", "behind "+p.Name+" nothing can be painted any more"), rule.Handle, f.Handle),
	}, first
}

// onFirst is why a layer waits for a part to be on.
func (o *orderer) onFirst(id string, p kit.Part) path.Arrow {
	if p.Guards != "" {
		return waits(stop(id, "B5", "the scheme crosses "+p.Name+": it is on before"), rule.Handle, cementTouch)
	}
	if p.Late != "" {
		return waits(then(id, p.Name+" goes on before this and gets it with the rest"), rule.Handle, cementTouch)
	}
	return warn(id, "F1", p.Name+" is forced on: its loose layers come after")
}

// waitsFor gives the layers that a part which stayed off waits for, and the first task
// of the first one that waits for it.
func (o *orderer) waitsFor(p kit.Part, a kit.Advice) (after []path.Arrow, above string) {
	on := func(name string) bool {
		if len(p.Shadows) == 0 {
			return zone.Part(name) == p.Assembly
		}
		return zone.Among(name, p.Shadows)
	}
	staged := slices.IndexFunc(o.b.Layers, func(l strata.Layer) bool { return l.ID == p.Late })
	for i, l := range o.b.Layers {
		last, ok := o.last[l.ID]
		if staged >= 0 && i > staged {
			if first := o.firstOf(l.ID); ok && first != "" {
				return after, first // it stands among its neighbours from here on
			}
			continue
		}
		if !ok || !slices.ContainsFunc(o.l.Zones, func(z string) bool { return on(z) && l.Covers(z) }) {
			continue
		}
		if i == staged {
			if laid, next := o.between(l, p.LateTo); next != "" {
				reason := p.Name + " stays off until this colour is on, and gets the later ones with the rest"
				return append(after, dries(stop(laid, "B3", reason), rule.Handle, l)), next
			}
		}
		dry := func(b path.Arrow) path.Arrow { return dries(b, rule.Handle, l) }
		switch {
		case l.Kind == strata.Decals && a.Rule == "B4":
			reason := p.Name + " after decals: " + a.Reason
			after = append(after, damp(dry(stop(last, "B4", reason))))
			if first := o.firstOf(l.ID); first != last {
				after = append(after, stop(first, "B4", reason))
			}
		case (l.Kind == strata.Rust || l.Kind == strata.Colour) && a.Rule == "B5":
			after = append(after, dry(stop(last, "B5", p.Name+": "+a.Reason)))
		case o.fittedFirst(p, l):
			return after, o.firstOf(l.ID) // what lies above comes when it is on
		}
		reason := p.Name + " stays off until " + strings.ToLower(l.Name) + " is done: " + a.Reason
		after = append(after, dry(warn(last, cmp.Or(a.Rule, "B3"), reason)))
	}
	return after, ""
}

// soft gives what is soft elsewhere on the model when a part goes on, before the layer that waits for it: it
// would be touched when the model is taken in hand.
func (o *orderer) soft(p kit.Part, above string) (out []path.Arrow) {
	for _, l := range o.b.Layers {
		last, laid := o.last[l.ID]
		if above != "" && o.index[above] < len(o.tasks) && o.task(above).Layer == l.ID {
			break
		}
		if laid && l.Soft() && !l.Covers(p.Assembly) {
			reason := strings.ToLower(l.Name) + " is still soft: the model is not handled before"
			out = append(out, dries(warn(last, "W15", reason), rule.Handle, l))
		}
	}
	return out
}

// between gives the last step of a colour of a scheme, from 1, and the first of the next one; none where
// there is none.
func (o *orderer) between(l strata.Layer, colour int) (laid, next string) {
	if colour == 0 {
		return "", ""
	}
	for _, t := range o.tasks {
		switch {
		case t.Layer != l.ID:
		case t.Colour == colour && bench.KindOf(t.Kind).Lays:
			laid, next = t.ID, ""
		case t.Colour > colour && laid != "" && next == "":
			next = t.ID
		}
	}
	return laid, next
}

// fittedFirst tells whether a layer comes when a part is on: loose layers over what is
// forced on, and over skirts as one's school has it.
func (o *orderer) fittedFirst(p kit.Part, l strata.Layer) bool {
	about := l.Kind.About()
	if p.Kind != "skirt" {
		return about.Loose && p.Forced
	}
	switch o.b.School(document.SchoolSkirts) {
	case document.FitThenWeather:
		return about.Wears
	case document.WeatherThenFit:
		return false
	}
	return about.Loose
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
