package strata

import (
	"fmt"

	"cinderpath/core/colour"
	"cinderpath/core/rule"
)

// decals is rules M1 and M3.
func (c *checker) decals(zones []string, column []int, at int) {
	l := c.stack[column[at]]
	if l.Kind != Decals {
		return
	}
	if ground, ok := c.ground(column, at); ok {
		sheen := ground.Finish()
		if sheen == colour.Matt || (sheen == colour.Satin && !l.Softener) {
			c.find(zones, Finding{Rule: "M1", Severity: rule.Warn, Layer: l.ID, Below: ground.ID,
				Title:  fmt.Sprintf("%s may silver on %s %s", l.Name, sheen, lower(ground.Name)),
				Reason: "Air stays under the film on a rough ground and shows as a silver haze."}, func() []Mend {
				mends := c.coats(l, "clear_acrylic", colour.Gloss)
				if sheen == colour.Satin {
					soft := l
					soft.Softener = true
					mends = append(
						mends,
						Mend{ID: "softener", Label: "Work them down with softener", Edits: []Edit{{Op: "change", Layer: &soft}}},
					)
				}
				return mends
			})
		}
	}
	for k := at + 1; k < len(column); k++ {
		next := c.stack[column[k]]
		if next.isClear() {
			return
		}
		if !next.Kind.About().Creeps {
			continue
		}
		handle := l.Dries().Handle
		if next.WaitMin != nil && *next.WaitMin < handle && k == at+1 {
			free := next
			free.WaitMin = nil
			c.find(zones, Finding{
				Rule:     "M3",
				Severity: rule.Stop,
				Layer:    next.ID,
				Below:    l.ID,
				Title:    fmt.Sprintf("%s on wet %s", next.Name, lower(l.Name)),
				Reason: fmt.Sprintf(
					"You pinned %s; decals need %s before anything wet touches them.",
					next.WaitMin.About(),
					handle.About(),
				),
			}, func() []Mend {
				return []Mend{{ID: "wait", Label: "Wait the " + handle.About(), Edits: []Edit{{Op: "change", Layer: &free}}}}
			})
			return
		}
		c.find(zones, Finding{Rule: "M3", Severity: rule.Warn, Layer: next.ID, Below: l.ID,
			Title:  fmt.Sprintf("%s over unsealed %s", next.Name, lower(l.Name)),
			Reason: "A wash creeps under the edge of a decal that is not sealed and darkens it."},
			func() []Mend { return c.coats(next, "clear_acrylic", colour.Gloss, colour.Satin) })
		return
	}
}

var carrierNames = map[string]string{
	"water":          "Water",
	"alcohol":        "Alcohol",
	"white_spirit":   "White spirit",
	"strong_solvent": "Strong solvent",
	"decal_softener": "Decal softener",
}

func carrierName(id string) string {
	if name, ok := carrierNames[id]; ok {
		return name
	}
	return id
}
