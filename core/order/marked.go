package order

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/kit"
	"cinderpath/core/rule"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

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
		for _, p := range e.b.Kit.Above(d.ID) {
			over = append(over, p.Name)
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
		e.task(id).Zones, e.task(id).Part = []string{d.Zone}, d.ID
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
