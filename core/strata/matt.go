package strata

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/colour"
	"cinderpath/core/rule"
)

// matt is rule W2: a wash on a matt ground stains.
func (c *checker) matt(zones []string, column []int, at int) {
	l := c.stack[column[at]]
	if l.Kind != Wash {
		return
	}
	ground, ok := c.ground(column, at)
	if !ok || ground.Finish() != colour.Matt {
		return
	}
	c.find(zones, Finding{
		Rule:     "W2",
		Severity: rule.Warn,
		Layer:    l.ID,
		Below:    ground.ID,
		Title:    fmt.Sprintf("%s would stain the matt %s", l.Name, lower(ground.Name)),
		Reason: "A matt ground drinks a wash: it leaves a stain all over instead of running into the " +
			"recesses, and cannot be wiped back.",
	},
		func() []Mend { return c.coats(l, "clear_acrylic", colour.Gloss, colour.Satin) })
}

// ground is the nearest film below that gives the surface its sheen.
func (c *checker) ground(column []int, at int) (Layer, bool) {
	for k := at - 1; k >= 0; k-- {
		if l := c.stack[column[k]]; l.Kind.About().Ground {
			return l, true
		}
	}
	return Layer{}, false
}

func (c *checker) coats(before Layer, family string, sheens ...colour.Sheen) []Mend {
	var out []Mend
	for _, sheen := range sheens {
		clear := Layer{
			Name:    strings.ToUpper(string(sheen[:1])) + string(sheen[1:]) + " clear coat",
			Kind:    Clear,
			Family:  family,
			Zones:   slices.Clone(before.Zones),
			Applied: Misted,
			Coats:   1,
			Sheen:   sheen,
		}
		out = append(
			out,
			Mend{
				ID:    "clear." + string(sheen),
				Label: "Put a " + string(sheen) + " clear coat under it",
				Edits: []Edit{{Op: "insert", Layer: &clear, Before: before.ID}},
			},
		)
	}
	return out
}
