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

// thinOnes are the families that run where they are let: on a rough surface along its relief.
var thinOnes = []string{"enamel_effect", "oil_thin", "acrylic_wash", "enamel_paint"}

// reliefFindings is W20 and M2, of the layers that are still to be laid: thin washes on a cast, ribbed or
// coated surface, and decals on it that no softener draws down.
func reliefFindings(b document.Build, zones []string, open func(strata.Layer) bool) (out []strata.Finding) {
	for _, l := range b.Layers {
		var rough []string
		for _, z := range zones {
			if b.Rough(z) && l.Covers(z) {
				rough = append(rough, z)
			}
		}
		if len(rough) == 0 || !open(l) {
			continue
		}
		said := zone.Said(zone.Gathered(func(z string) bool { return slices.Contains(rough, z) }, zones))
		f := strata.Finding{Severity: rule.Warn, Layer: l.ID, Zones: rough}
		switch {
		case l.Kind == strata.Wash && slices.Contains(thinOnes, l.Family):
			f.Rule, f.Title = "W20", fmt.Sprintf("%s is too thin for the relief of %s", l.Name, said)
			f.Reason = "On cast, ribbed or coated surfaces a thin wash runs along the relief and stains all of it; thick oil or pigment stays where it is put."
			thick := l
			thick.ID, thick.Name, thick.Family, thick.Jar, thick.Zones = "", l.Name+", thick", "oil_thick", "", zone.Gathered(
				func(z string) bool { return slices.Contains(rough, z) },
				zones,
			)
			insert := strata.Edit{Op: "insert", Layer: &thick, Before: l.ID}
			rest := l.Without(rough, zones)
			edits := []strata.Edit{insert, {Op: "change", Layer: &rest}}
			if len(rest.Zones) == 0 {
				edits = []strata.Edit{insert, {Op: "drop", ID: l.ID}}
			} else {
				f.Mends = append(f.Mends, change("leave", "Leave it out there", rest))
			}
			f.Mends = append([]strata.Mend{{ID: "thick", Label: "Take thick oil there", Edits: edits}}, f.Mends...)
		case l.Kind == strata.Decals && !l.Softener:
			f.Rule, f.Title = "M2", fmt.Sprintf("%s will bridge the relief of %s", l.Name, said)
			f.Reason = "On a cast or ribbed surface a decal lies hollow; at least three rounds of softener draw it down before it is sealed."
			soft := l
			soft.Softener = true
			f.Mends = []strata.Mend{change("softener", "Work them down with softener, three rounds", soft)}
		default:
			continue
		}
		if l.MeansRule(f.Rule) {
			continue
		}
		f.ID = f.Rule + ":" + l.ID
		f.Mends = append(f.Mends, l.AsMeant(f.Rule, "Mark as meant"), strata.Mend{
			ID: "drop", Label: "Leave the " + strings.ToLower(l.Name) + " out", Edits: []strata.Edit{{Op: "drop", ID: l.ID}},
		})
		out = append(out, f)
	}
	return out
}
