package scheme_test

import (
	"slices"
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/scheme"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The fields of a view make up all that it shows, the largest first; pinned at its points, one takes
// another colour.
func TestFieldsOfAViewAreListedAndRecoloured(t *testing.T) {
	g := form.NewGrid(tank(t), coarse)
	p := three
	p.Colours = slices.Clone(three.Colours)
	p.Colours[2].Family = scheme.Blotches
	l, err := scheme.Lay(p, g)
	require.NoError(t, err)
	fields := l.Fields(form.Left)
	require.Greater(t, len(fields), 5)
	for i, f := range fields {
		if i > 0 {
			assert.LessOrEqual(t, f.Area, fields[i-1].Area)
		}
		if f.Area < 0.2e6 {
			continue // slivers of a few texels
		}
		for _, q := range f.Spots {
			c, ok := l.Where(scheme.Anchor{At: q.At, Zone: q.Zone})
			assert.True(t, ok)
			assert.Equal(t, f.Colour, c)
		}
	}
	at := slices.IndexFunc(fields, func(f scheme.Field) bool { return f.Colour == 2 })
	require.GreaterOrEqual(t, at, 0)
	for _, q := range fields[at].Spots {
		p.Anchors = append(p.Anchors, scheme.Anchor{At: q.At, Zone: q.Zone, Colour: 0})
	}
	next, err := scheme.Lay(p, g)
	require.NoError(t, err)
	assert.Empty(t, next.Lost)
	for _, a := range p.Anchors {
		c, _ := next.Where(a)
		assert.Equal(t, 0, c)
	}
	assert.InDelta(t, float64(l.Shares[2]), float64(next.Shares[2]), 0.005, "its share goes elsewhere")
}
