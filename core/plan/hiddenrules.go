package plan

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/document"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// underneath tells of the zone under the hull.
func underneath(name string) bool { return strings.HasSuffix(name, ".belly") }

// hidden is W16: wear and earth under a hull that stands on a base, where nobody will see them. It is one
// finding, at the first of these layers.
func (r wearRuling) hidden() (f strata.Finding, first strata.Layer, found bool) {
	if !r.build.Grounded() || r.build.School(document.SchoolHidden) == document.DoneAnyway {
		return f, first, false
	}
	below := slices.DeleteFunc(slices.Clone(r.zones), func(z string) bool { return !underneath(z) })
	var names []string
	var edits []strata.Edit
	for _, l := range r.build.Layers {
		if !l.Kind.About().Wears && !isEarth(l) || !r.open(l) {
			continue
		}
		if l.MeansRule("W16") {
			return f, first, false // said of one, it is meant of all
		}
		rest := l.Without(below, r.zones)
		if len(below) == 0 || !slices.ContainsFunc(below, l.Covers) || len(rest.Zones) == 0 {
			continue
		}
		if len(names) == 0 {
			first = l
		}
		names = append(names, l.Name)
		edits = append(edits, strata.Edit{Op: "change", Layer: &rest})
	}
	if len(names) == 0 {
		return f, first, false
	}
	f = strata.Finding{
		Rule: "W16", Severity: rule.Hint, Zones: below,
		Title: fmt.Sprintf("%s on %s is not seen", strings.Join(names, ", "), zone.Said(below)),
		Reason: "It stands on a base: what lies under the hull is worked for nobody. " +
			"Whoever does it anyway says so among the schools.",
		Mends: []strata.Mend{{ID: "leave", Label: "Leave it out under the hull", Edits: edits}},
	}
	return f, first, true
}
