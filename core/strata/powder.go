package strata

import (
	"fmt"
	"slices"

	"cinderpath/core/colour"
	"cinderpath/core/rule"
)

// powder is rules W8 and W9: clear coats over what lies loose, and powder that nothing holds.
func (c *checker) powder(zones []string, column []int, at int) {
	l := c.stack[column[at]]
	if l.isClear() {
		c.cleared(zones, column, at)
	}
	if l.Kind == Soot || !slices.Contains([]string{"pigment_loose", "pigment_wet_set"}, surfaceOf(l.Family)) {
		return
	}
	for _, k := range column[at+1:] {
		if above := c.stack[k]; above.Kind == Fix || above.isClear() {
			return // it is held, or another finding tells of it
		}
	}
	f := Finding{
		Rule: "W9", Severity: rule.Warn, Layer: l.ID,
		Title:  fmt.Sprintf("Nothing holds %s", lower(l.Name)),
		Reason: "Loose pigment comes off on fingers and when the model is moved: it is fixed before it is handled.",
	}
	if surfaceOf(l.Family) == "pigment_wet_set" {
		f.Severity, f.Reason = rule.Hint, "Pigment that was laid wet holds a little; a fixer makes it stand handling."
	}
	c.find(zones, f, func() []Mend {
		fix := Fix.Fresh()
		fix.Zones = slices.Clone(l.Zones)
		edit := Edit{Op: "insert", Layer: &fix}
		if at := slices.IndexFunc(c.stack, func(o Layer) bool { return o.ID == l.ID }); at+1 < len(c.stack) {
			edit.Before = c.stack[at+1].ID
		}
		return []Mend{{ID: "fix", Label: "Fix it", Edits: []Edit{edit}}}
	})
}

// cleared is W8: loose powder loses its skinless look under a binder.
func (c *checker) cleared(zones []string, column []int, at int) {
	l := c.stack[column[at]]
	for k := at - 1; k >= 0; k-- {
		below := c.stack[column[k]]
		if below.isClear() {
			return
		}
		if !below.Effect().Loose {
			continue
		}
		reason := "A clear coat wets powder: it darkens and partly vanishes."
		if p, ok := below.Material(); ok {
			full := p.Pigment().Infinite()
			loose, _ := full.XYZ().RGB()
			coated, _ := l.Finish().Seen(full).XYZ().RGB()
			reason += fmt.Sprintf(" Of %s %s becomes %s, ΔE00 %.0f.", lower(below.Name), loose.Hex(), coated.Hex(),
				colour.Difference(loose.Lab(), coated.Lab()))
		}
		c.find(zones, Finding{
			Rule: "W8", Severity: rule.Warn, Layer: l.ID, Below: below.ID,
			Title: fmt.Sprintf("%s over loose %s", l.Name, lower(below.Name)), Reason: reason,
		}, func() []Mend {
			return []Mend{
				{ID: "below", Label: "Put it under " + lower(below.Name), Edits: []Edit{{Op: "move", ID: l.ID, Before: below.ID}}},
			}
		})
		return
	}
}
