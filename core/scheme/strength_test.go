package scheme_test

import (
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/scheme"
	"cinderpath/core/zone"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A thin colour is thin all over; one that is rubbed back is thinnest at edges.
func TestColoursThatAreLaidThinOrRubbedBack(t *testing.T) {
	g := form.NewGrid(tank(t), coarse)
	l, err := scheme.Lay(three, g)
	require.NoError(t, err)
	full, thin, rubbed := l.Laid(2, scheme.Full), l.Laid(2, scheme.Thin), l.Laid(2, scheme.Rubbed)
	assert.Equal(t, l.Cover[2], full)
	edge, middle, atEdge, inside := 0.0, 0.0, 0.0, 0.0
	for _, tx := range g.Texels {
		for k, a := range tx.Area {
			at := tx.First + k
			if a == 0 || full[at] < 255 {
				continue
			}
			assert.InDelta(t, 0.4*255, float64(thin[at]), 1)
			assert.Positive(t, rubbed[at], "something stays in the grain")
			if tx.Convex[k] < 60 {
				edge += float64(rubbed[at]) / 255
				atEdge++
			} else if tx.Convex[k] > 200 {
				middle += float64(rubbed[at]) / 255
				inside++
			}
		}
	}
	require.Greater(t, min(atEdge, inside), 50.0)
	assert.Less(t, edge/atEdge, 0.7)
	assert.Greater(t, middle/inside, 0.8)
	mist := l.Laid(0, scheme.Mist)
	for _, tx := range g.Texels {
		for k, a := range tx.Area {
			assert.Equal(t, a > 0 && !zone.Bare(tx.Zone), mist[tx.First+k] > 0)
		}
	}
	p := three
	p.Colours = append([]scheme.Colour(nil), three.Colours...)
	p.Colours[1].Strength = "loud"
	assert.ErrorContains(t, p.Check(), "full, thin or rubbed")
}
