package scheme_test

import (
	"slices"
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/scheme"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// shownLeft is a scheme with a picture of its left side: three columns, a colour each.
func shownLeft() scheme.Pattern {
	p := three
	p.Colours = slices.Clone(three.Colours)
	p.Traces = []scheme.Trace{{
		Side: form.Left, Origin: [2]float64{-3300, -2600}, Pixel: 45, Wide: 180, High: 60,
		Rows: slices.Repeat([]string{"a60b60c60"}, 60),
	}}
	return p
}

// Whichever order colours are sprayed in, and whichever is taken out, pictures and pins speak of the
// same colours as before.
func TestPicturesAndPinsFollowTheirColours(t *testing.T) {
	g := form.NewGrid(tank(t), coarse)
	p := shownLeft()
	p.Anchors = []scheme.Anchor{{At: form.Vec{2500, 1550, 1300}, Zone: "hull.left", Colour: 2}}
	names := func(p scheme.Pattern) (out []string) {
		l, err := scheme.Lay(p, g)
		require.NoError(t, err)
		for at, c := range l.Taken {
			if !l.Guessed(at) {
				out = append(out, p.Colours[c].Name)
			}
		}
		return out
	}
	turned := p.Reordered([]int{2, 0, 1})
	require.NoError(t, turned.Check())
	assert.Equal(t, []string{"kelp brown", "lichen green", "basalt grey"},
		[]string{turned.Colours[0].Name, turned.Colours[1].Name, turned.Colours[2].Name})
	assert.Equal(t, names(p), names(turned))
	assert.Equal(t, 0, turned.Anchors[0].Colour)
	assert.Equal(t, "a60b60c60", p.Traces[0].Rows[0], "the old one is as it was")

	less := p.Dropped(1)
	require.NoError(t, less.Check())
	assert.Equal(t, "a60a60b60", less.Traces[0].Rows[0])
	assert.Equal(t, 1, less.Anchors[0].Colour)
	assert.Empty(t, p.Dropped(2).Anchors, "its pins go with it")
	assert.Equal(t, p, p.Dropped(0), "the first one stays")
}

// A pin overrules a picture about it: what was read wrongly is set right.
func TestAPinOverrulesAPicture(t *testing.T) {
	g := form.NewGrid(tank(t), 25)
	p := shownLeft()
	before, err := scheme.Lay(p, g)
	require.NoError(t, err)
	fields := before.Fields(form.Left)
	require.NotEmpty(t, fields)
	spot := fields[0].Spots[0]
	other := (fields[0].Colour + 1) % 3
	p.Anchors = []scheme.Anchor{{At: spot.At, Zone: spot.Zone, Colour: other}}
	l, err := scheme.Lay(p, g)
	require.NoError(t, err)
	assert.Empty(t, l.Lost)
	c, ok := l.Where(p.Anchors[0])
	assert.True(t, ok)
	assert.Equal(t, other, c)
}

// Where a picture shows a hard edge, texels beside it are covered in part and all others wholly or not
// at all; a soft one is as wide as it is soft.
func TestEdgesOfAPictureAreHardOrSoft(t *testing.T) {
	g := form.NewGrid(tank(t), 25)
	right, _, _ := form.Left.Axes()
	const edge = -3300 + 120*45.0 // of the third column
	for _, feather := range []float64{0, 300} {
		p := shownLeft()
		p.Colours[2].Feather = &feather
		l, err := scheme.Lay(p, g)
		require.NoError(t, err)
		partly := 0
		for _, tx := range g.Texels {
			if tx.Normal[1] < 0.95 {
				continue
			}
			for k, a := range tx.Area {
				at := tx.First + k
				if a == 0 || l.Guessed(at) {
					continue
				}
				away := tx.Point(k)[0]*right[0] - edge
				switch cover := l.Cover[2][at]; {
				case away > feather/2+80:
					assert.Greater(t, cover, uint8(240), "%v: %.0f mm inside", feather, away)
				case away < -feather/2-80:
					assert.Less(t, cover, uint8(15), "%v: %.0f mm outside", feather, away)
				case cover > 30 && cover < 225:
					partly++
				}
			}
		}
		assert.Positive(t, partly, "%v", feather)
	}
}
