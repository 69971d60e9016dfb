package strata

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/rule"
	"cinderpath/core/unit"
)

// Check looks at the columns of all zones and returns findings in the order of
// the stack and the waits between layers. The bare surface below is plastic.
func Check(stack []Layer, zones []string, gap Gap) ([]Finding, []Wait) {
	if gap == nil {
		gap = func(string, string) (unit.Minutes, bool) { return 0, false }
	}
	findings, waits := check(stack, zones, gap)
	for i := range findings {
		findings[i].Mends = settling(findings[i], stack, zones, gap)
	}
	return findings, waits
}

// settling keeps the mends after which the finding is really gone: in a tangled
// stack a barrier may settle one thing and leave another.
func settling(f Finding, stack []Layer, zones []string, gap Gap) []Mend {
	kept := []Mend{}
	for _, m := range f.Mends {
		n := 0
		mended, err := Apply(stack, m.Edits, func() string { n++; return fmt.Sprintf("mend-%d", n) })
		if err != nil {
			continue
		}
		after, _ := check(mended, zones, gap)
		if !slices.ContainsFunc(after, func(g Finding) bool { return g.ID == f.ID }) {
			kept = append(kept, m)
		}
	}
	return kept
}

func check(stack []Layer, zones []string, gap Gap) ([]Finding, []Wait) {
	c := checker{stack: stack, gap: gap, findings: map[string]*Finding{}, waits: map[[2]string]Wait{}}
	for _, like := range columns(stack, zones) {
		for at := range like.column {
			c.chemistry(like.zones, like.column, at)
			c.matt(like.zones, like.column, at)
			c.chipping(like.zones, like.column, at)
			c.decals(like.zones, like.column, at)
			c.powder(like.zones, like.column, at)
			c.polish(like.zones, like.column, at)
			c.soft(like.zones, like.column, at)
		}
	}
	return c.result()
}

// alike are zones that carry the same layers; what holds for one holds for all.
type alike struct {
	zones  []string
	column []int // indices into the stack, from below
}

func columns(stack []Layer, zones []string) []*alike {
	var out []*alike
	for _, zone := range zones {
		var column []int
		for i, l := range stack {
			if l.Covers(zone) {
				column = append(column, i)
			}
		}
		at := slices.IndexFunc(out, func(a *alike) bool { return slices.Equal(a.column, column) })
		if at < 0 {
			at = len(out)
			out = append(out, &alike{column: column})
		}
		out[at].zones = append(out[at].zones, zone)
	}
	return out
}

type checker struct {
	stack    []Layer
	gap      Gap
	findings map[string]*Finding
	order    []string
	waits    map[[2]string]Wait
}

func (c *checker) result() ([]Finding, []Wait) {
	rank := map[string]int{}
	for i, l := range c.stack {
		rank[l.ID] = i
	}
	findings := make([]Finding, 0, len(c.order))
	for _, id := range c.order {
		slices.Sort(c.findings[id].Zones)
		findings = append(findings, *c.findings[id])
	}
	slices.SortStableFunc(findings, func(a, b Finding) int {
		return cmp.Or(cmp.Compare(rank[a.Layer], rank[b.Layer]), cmp.Compare(a.Rule, b.Rule))
	})
	waits := make([]Wait, 0, len(c.waits))
	for _, w := range c.waits {
		waits = append(waits, w)
	}
	slices.SortFunc(waits, func(a, b Wait) int {
		return cmp.Or(cmp.Compare(rank[a.To], rank[b.To]), cmp.Compare(rank[a.From], rank[b.From]))
	})
	return findings, waits
}

// find notes a finding for zones; the same finding on several zones is one.
func (c *checker) find(zones []string, f Finding, mends func() []Mend) {
	layer := c.layer(f.Layer)
	if f.Severity != rule.Stop && layer.MeansRule(f.Rule) {
		return
	}
	f.ID = f.Rule + ":" + f.Layer
	if f.Below != "" {
		f.ID += ":" + f.Below
	}
	if known, ok := c.findings[f.ID]; ok {
		known.Zones = append(known.Zones, zones...)
		return
	}
	f.Zones = slices.Clone(zones)
	f.Mends = mends()
	if f.Severity != rule.Stop {
		f.Mends = append(f.Mends, layer.AsMeant(f.Rule, "Mark as meant"))
	}
	f.Mends = append(
		f.Mends,
		Mend{
			ID:    "drop",
			Label: "Leave the " + strings.ToLower(layer.Name) + " out",
			Edits: []Edit{{Op: "drop", ID: f.Layer}},
		},
	)
	c.findings[f.ID] = &f
	c.order = append(c.order, f.ID)
}

func (c *checker) layer(id string) Layer {
	return c.stack[slices.IndexFunc(c.stack, func(l Layer) bool { return l.ID == id })]
}

func (c *checker) wait(w Wait) {
	key := [2]string{w.From, w.To}
	if old, ok := c.waits[key]; !ok || w.Minutes > old.Minutes || (w.Minutes == old.Minutes && w.Most > old.Most) {
		if ok && w.Most == 0 {
			w.Most = old.Most
		}
		c.waits[key] = w
	}
}

// surface names what a layer is for the attack table where it lies, given what
// lies above it: loose powder that was fixed is fixed.
func (c *checker) surface(column []int, under, upper int) string {
	s := surfaceOf(c.stack[column[under]].Family)
	if s == "pigment_loose" || s == "pigment_wet_set" {
		for k := under + 1; k < upper; k++ {
			if c.stack[column[k]].Kind == Fix {
				return "pigment_fixed"
			}
		}
	}
	return s
}

// present tells whether a layer leaves something in the column that can be attacked.
func present(l Layer) bool { return !l.Kind.Works() }
