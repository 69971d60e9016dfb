package plan

import (
	"fmt"
	"slices"

	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// thinOnes are the families that run where they are let: on a rough surface along its relief.
var thinOnes = []string{"enamel_effect", "oil_thin", "acrylic_wash", "enamel_paint"}

// rough are the zones that a layer covers and that are cast, ribbed or coated.
func (r wearRuling) rough(l strata.Layer) []string {
	return slices.DeleteFunc(slices.Clone(r.zones), func(z string) bool { return !r.build.Rough(z) || !l.Covers(z) })
}

// thin is W20: thin washes on a cast, ribbed or coated surface.
func (r wearRuling) thin(l strata.Layer) (f strata.Finding, found bool) {
	rough := r.rough(l)
	if len(rough) == 0 || l.Kind != strata.Wash || !slices.Contains(thinOnes, l.Family) {
		return f, false
	}
	there := zone.Gathered(rough, r.zones)
	f = strata.Finding{
		Rule: "W20", Severity: rule.Warn, Zones: rough,
		Title: fmt.Sprintf("%s is too thin for the relief of %s", l.Name, zone.Said(there)),
		Reason: "On cast, ribbed or coated surfaces a thin wash runs along the relief and stains all of it; " +
			"thick oil or pigment stays where it is put.",
	}
	thick, rest := l, l.Without(rough, r.zones)
	thick.ID, thick.Name, thick.Family, thick.Jar, thick.Zones = "", l.Name+", thick", "oil_thick", "", there
	edits := []strata.Edit{{Op: "insert", Layer: &thick, Before: l.ID}, {Op: "change", Layer: &rest}}
	if len(rest.Zones) == 0 {
		edits[1] = strata.Edit{Op: "drop", ID: l.ID}
	}
	f.Mends = []strata.Mend{{ID: "thick", Label: "Take thick oil there", Edits: edits}}
	if len(rest.Zones) > 0 {
		f.Mends = append(f.Mends, change("leave", "Leave it out there", rest))
	}
	return f, true
}

// hollow is M2: decals on such a surface that no softener draws down.
func (r wearRuling) hollow(l strata.Layer) (f strata.Finding, found bool) {
	rough := r.rough(l)
	if len(rough) == 0 || l.Kind != strata.Decals || l.Softener {
		return f, false
	}
	soft := l
	soft.Softener = true
	return strata.Finding{
		Rule: "M2", Severity: rule.Warn, Zones: rough,
		Title: fmt.Sprintf("%s will bridge the relief of %s", l.Name, zone.Said(zone.Gathered(rough, r.zones))),
		Reason: "On a cast or ribbed surface a decal lies hollow; at least three rounds of softener draw it down " +
			"before it is sealed.",
		Mends: []strata.Mend{change("softener", "Work them down with softener, three rounds", soft)},
	}, true
}
