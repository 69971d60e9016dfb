package document

import (
	"cinderpath/core/measure"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
	"fmt"
	"slices"
)

// mend applies a mend of a finding that stands now.
func mend(b *Build, e Edit, m means) error {
	if m.now.Findings == nil {
		return measure.Refuse("mend", "what stands against the build is not at hand here", "send the change itself")
	}
	findings, err := m.now.Findings(*b)
	if err != nil {
		return err
	}
	at := slices.IndexFunc(findings, func(f strata.Finding) bool { return f.ID == e.Finding })
	if at < 0 {
		return measure.Refuse("finding", "that finding no longer stands", "look at the findings again")
	}
	for _, mend := range findings[at].Mends {
		if mend.ID == e.Mend {
			return mended(b, mend, m)
		}
	}
	return measure.Refuse("mend", fmt.Sprintf("the finding has no mend %q", e.Mend), "choose one of those shown")
}

// mended is what a mend makes of a build.
func mended(b *Build, mend strata.Mend, m means) error {
	mendScheme(&b.Scheme, mend)
	if mend.Base != nil {
		b.Base = mend.Base
	}
	if mend.Trial != nil {
		return tried(b, *mend.Trial, m)
	}
	return read(&b.Layers, "mend", func() ([]strata.Layer, error) { return strata.Apply(b.Layers, mend.Edits, m.newID) })
}

// tried puts a trial on scrap before a step.
func tried(b *Build, t strata.Trial, m means) error {
	if m.now.Reordered == nil {
		return measure.Refuse("mend", "the order is not at hand here", "send the change itself")
	}
	next, err := m.now.Reordered(*b, OrderEdit{
		Do: "add", Step: &OwnStep{Kind: "trial", Title: t.Title, Before: t.Before},
	})
	b.Order = next
	return err
}

// mendScheme makes what a mend changes in the colours of the scheme.
func mendScheme(p *scheme.Pattern, m strata.Mend) {
	p.Colours = slices.Clone(p.Colours)
	own := m.Colour > 0 && m.Colour <= len(p.Colours)
	switch {
	case m.Edge != nil && own:
		p.Colours[m.Colour-1].Feather = m.Edge
	case m.Edge != nil:
		p.Feather = *m.Edge
	case own && m.Jar != "":
		p.Colours[m.Colour-1].Jar = m.Jar
	}
	if isOrder(m.Order, len(p.Colours)) {
		*p = p.Reordered(m.Order)
	}
	p.Mist = p.Mist || m.Mist
}

// isOrder tells of numbers that name each of n once.
func isOrder(order []int, n int) bool {
	sorted := slices.Sorted(slices.Values(order))
	return len(order) == n && slices.Equal(slices.Compact(sorted), sorted) && n > 0 && sorted[0] == 0 && sorted[n-1] == n-1
}
