package strata

import (
	"fmt"

	"cinderpath/core/rule"
)

// chipping is rule P4: a chipping coat wants a thin acrylic directly above it,
// nothing sealing between, and is worked before its window closes.
func (c *checker) chipping(zones []string, column []int, at int) {
	l := c.stack[column[at]]
	if l.Kind != ChippingCoat {
		return
	}
	var cover *Layer
	for k := at + 1; k < len(column); k++ {
		next := c.stack[column[k]]
		switch {
		case next.Kind == ChippingWork:
			if cover != nil {
				f := familyOf(l.Family)
				c.wait(
					Wait{
						From:    cover.ID,
						To:      next.ID,
						Minutes: f.TakeBackFrom,
						Most:    f.TakeBackTo,
						Water:   cover.Water(),
						Kind:    rule.TakeBack,
						Rule:    "P4",
						Reason: fmt.Sprintf(
							"the chipping coat can be worked from %s to %s after %s went over it.",
							f.TakeBackFrom.About(),
							f.TakeBackTo.About(),
							lower(cover.Name),
						),
					},
				)
			}
			return
		case cover == nil && next.isAcrylic():
			cover = &next
		case cover == nil:
			c.find(zones, Finding{
				Rule:     "P4",
				Severity: rule.Stop,
				Layer:    l.ID,
				Below:    next.ID,
				Title:    fmt.Sprintf("The %s cannot work under %s", lower(l.Name), lower(next.Name)),
				Reason: fmt.Sprintf(
					"Water must reach the chipping coat through a thin acrylic; %s shuts it in.",
					lower(next.Name),
				),
			}, func() []Mend {
				if next.isClear() {
					return []Mend{{ID: "unseal", Label: "Take the clear coat out", Edits: []Edit{{Op: "drop", ID: next.ID}}}}
				}
				acrylic := next
				acrylic.Family, acrylic.Carrier = "waterborne_acrylic", ""
				return []Mend{
					{
						ID:    "product.waterborne_acrylic",
						Label: "Use waterborne acrylic for " + lower(next.Name),
						Edits: []Edit{{Op: "change", Layer: &acrylic}},
					},
				}
			})
			return
		case next.isClear() || next.isOily():
			work := c.laterWork(column, k)
			if work == "" {
				return // never worked: another rule's matter
			}
			c.find(zones, Finding{Rule: "P4", Severity: rule.Stop, Layer: l.ID, Below: next.ID,
				Title:  fmt.Sprintf("%s seals the %s before it is worked", next.Name, lower(l.Name)),
				Reason: "Once sealed, water no longer reaches the chipping coat."}, func() []Mend {
				return []Mend{
					{ID: "worksooner", Label: "Work the chipping coat first", Edits: []Edit{{Op: "move", ID: work, Before: next.ID}}},
				}
			})
			return
		}
	}
}

func (c *checker) laterWork(column []int, from int) string {
	for k := from + 1; k < len(column); k++ {
		if l := c.stack[column[k]]; l.Kind == ChippingWork {
			return l.ID
		}
	}
	return ""
}
