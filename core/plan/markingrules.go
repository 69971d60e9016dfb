package plan

import (
	"fmt"
	"slices"

	"cinderpath/core/kit"
	"cinderpath/core/marking"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// scuffs tells of wear that takes paint off, or paints that as chips.
func scuffs(l strata.Layer) bool {
	return l.Kind == strata.Chips || l.Kind == strata.Rubbed || l.Kind == strata.ChippingWork
}

// marked are the zones that markings stand on; all that the layer covers while none was placed.
func (r wearRuling) marked(l strata.Layer) []string {
	return slices.DeleteFunc(slices.Clone(r.zones), func(z string) bool {
		if !l.Covers(z) {
			return true
		}
		return len(l.Drawn) > 0 && !slices.ContainsFunc(l.Drawn, func(d marking.Drawn) bool {
			return slices.ContainsFunc(d.Places, func(p marking.Place) bool { return p.Zone == z })
		})
	})
}

// fresh is M4: the paint round markings is worn, and they are not.
func (r wearRuling) fresh(l strata.Layer) (f strata.Finding, found bool) {
	at := slices.IndexFunc(r.build.Layers, func(x strata.Layer) bool { return x.ID == l.ID })
	if at < 0 || l.Kind != strata.Decals {
		return f, false
	}
	below, above := r.build.Layers[:at], r.build.Layers[at+1:]
	var around strata.Layer
	var zones []string
	for _, z := range r.marked(l) {
		worn := func(x strata.Layer) bool { return scuffs(x) && x.Covers(z) }
		if i := slices.IndexFunc(below, worn); i >= 0 && !slices.ContainsFunc(above, worn) {
			around, zones = below[i], append(zones, z)
		}
	}
	if len(zones) == 0 {
		return f, false
	}
	f = strata.Finding{
		Rule: "M4", Severity: rule.Warn, Zones: zones, Below: around.ID,
		Title: fmt.Sprintf("%s would stay new on worn paint", l.Name),
		Reason: fmt.Sprintf("%s is done before the markings go on: they lie over the worn places, and nothing wears them.",
			around.Name),
	}
	wear := strata.Chips.Fresh()
	wear.Name, wear.Technique, wear.Zones = "Worn markings", "marking_wear", zone.Gathered(zones, r.zones)
	if c := r.build.Scheme.Colours; len(c) > 0 { // in strokes of the ground colour
		wear.Hex, wear.Jar = c[0].Hex, c[0].Jar
	}
	before := ""
	for i, x := range above { // once they are sealed
		if x.Kind == strata.Clear && i+1 < len(above) {
			before = above[i+1].ID
			break
		}
	}
	if before == "" && len(above) > 0 && above[0].Kind != strata.Clear {
		before = above[0].ID
	}
	f.Mends = []strata.Mend{{
		ID: "wear", Label: "Wear them with strokes of the ground colour",
		Edits: []strata.Edit{{Op: "insert", Layer: &wear, Before: before}},
	}}
	switch painted := r.painted(); {
	case around.Kind == strata.ChippingWork && painted:
		f.Mends = append(f.Mends, strata.Mend{
			ID: "before", Label: "Paint them before the chipping is worked",
			Edits: []strata.Edit{{Op: "move", ID: l.ID, Before: around.ID}},
		})
	case around.Kind == strata.Chips:
		f.Mends = append(f.Mends, strata.Mend{
			ID: "over", Label: around.Name + " after them, over both",
			Edits: []strata.Edit{{Op: "move", ID: around.ID, Before: before}},
		})
	}
	return f, true
}

// painted tells whether all markings are painted by hand.
func (r wearRuling) painted() bool {
	worn := r.build.Kit.Worn()
	return len(worn) > 0 && !slices.ContainsFunc(worn, func(d kit.Decal) bool { return !d.Painted })
}
