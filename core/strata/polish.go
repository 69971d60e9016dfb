package strata

import (
	"fmt"
	"slices"

	"cinderpath/core/rule"
)

// dulling are the kinds that take the shine from polished metal below them.
var dulling = []Kind{Filter, Wash, Dots, Streaks, Dust, Splash, Mud, Pigment}

// polish is rule W5: metal that is polished before washes and dust is dulled by them. Where it is polished
// once more above, it shines again.
func (c *checker) polish(zones []string, column []int, at int) {
	l := c.stack[column[at]]
	if l.Kind != Metal {
		return
	}
	above := Layer{}
	for _, k := range column[at+1:] {
		switch o := c.stack[k]; {
		case o.Kind == Metal:
			above = Layer{}
		case slices.Contains(dulling, o.Kind):
			above = o
		}
	}
	if above.ID == "" {
		return
	}
	c.find(zones, Finding{
		Rule: "W5", Severity: rule.Warn, Layer: l.ID,
		Title:  fmt.Sprintf("%s dulls %s", above.Name, lower(l.Name)),
		Reason: "Polished metal shines only while nothing lies on it: washes and dust take that from it.",
	}, func() []Mend {
		again := l
		again.ID = ""
		return []Mend{
			{ID: "last", Label: "Move it last", Edits: []Edit{{Op: "move", ID: l.ID}}},
			{ID: "repeat", Label: "Polish it once more at the end", Edits: []Edit{{Op: "insert", Layer: &again}}},
		}
	})
}
