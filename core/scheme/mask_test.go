package scheme_test

import (
	"math"
	"slices"
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/scheme"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The pieces of a panel tile it, and lie where the fields lie.
func TestMasksTileTheirPanels(t *testing.T) {
	panels := tank(t)
	g := form.NewGrid(panels, texel)
	for _, family := range []string{scheme.Splinters, scheme.Bands, scheme.Blotches} {
		p := three
		p.Colours = slices.Clone(three.Colours)
		hard := 0.0
		for c := 1; c < 3; c++ {
			p.Colours[c].Family, p.Colours[c].Feather = family, &hard
		}
		l, err := scheme.Lay(p, g)
		require.NoError(t, err)
		masks, err := l.Masks(panels, 35)
		require.NoError(t, err)
		require.NotEmpty(t, masks)
		straight, told := 0.0, 0.0
		for _, m := range masks {
			if m.Narrow {
				continue
			}
			sum := 0.0
			for _, piece := range m.Pieces {
				sum += piece.Area
				if piece.Area < 2*35*35 { // smaller than what anyone cuts: of the size of the net
					continue
				}
				assert.Equal(t, piece.Colour, l.At(m.Panel, piece.Middle[0], piece.Middle[1]), "%s %s", family, m.Name)
				if piece.Colour > 0 {
					onTheEdge(t, l, m, piece)
				}
				for _, r := range piece.Runs {
					straight += r.Length()
				}
			}
			assert.InEpsilon(t, panels[m.Panel].Area(), sum, 1e-3, m.Name)
			for _, e := range l.Edges(m.Panel) {
				told += e.Length()
			}
		}
		if family == scheme.Splinters {
			// Where two colours above the ground meet both have the edge.
			assert.Greater(t, straight, 0.9*told)
		}
	}
}

// The straight runs of a panel are as long as its edges, as they are found without any polygon.
func TestTapeRunsAreAsLongAsTheEdges(t *testing.T) {
	panels := tank(t)
	for _, family := range []string{scheme.Splinters, scheme.Stripes} {
		p := one(family, 0.35)
		p.Colours[1].Zones = []string{"hull", "turret"}
		l, err := scheme.Lay(p, form.NewGrid(panels, texel))
		require.NoError(t, err)
		masks, err := l.Masks(panels, 35)
		require.NoError(t, err)
		runs, edges := 0.0, 0.0
		for _, m := range masks {
			if m.Narrow {
				continue
			}
			for _, piece := range m.Pieces {
				for _, r := range piece.Runs {
					runs += r.Length()
				}
			}
			for _, e := range l.Edges(m.Panel) {
				edges += e.Length()
			}
		}
		assert.InEpsilon(t, edges, runs, 0.02, family)
	}
}

// onTheEdge holds the corners of a piece to the field: near each lies another colour, within
// 0.1 mm on the model.
func onTheEdge(t *testing.T, l *scheme.Layout, m scheme.PanelMask, piece scheme.Piece) {
	off := 0
	for _, q := range piece.Rings[0] {
		seen := map[int]bool{}
		for k := range 16 {
			sin, cos := math.Sincos(float64(k) * math.Pi / 8)
			seen[l.At(m.Panel, q[0]+3.5*cos, q[1]+3.5*sin)] = true
		}
		if len(seen) < 2 && !onRim(m, q) {
			off++
		}
	}
	// Where three fields meet the net cuts a corner off.
	assert.LessOrEqual(t, off, 2+len(piece.Rings[0])/50, "%s, a piece of colour %d", m.Name, piece.Colour)
}

func onRim(m scheme.PanelMask, q [2]float64) bool {
	for _, r := range m.Outline {
		for k, a := range r {
			b := r[(k+1)%len(r)]
			dx, dy := b[0]-a[0], b[1]-a[1]
			u := min(max(((q[0]-a[0])*dx+(q[1]-a[1])*dy)/(dx*dx+dy*dy), 0), 1)
			if math.Hypot(q[0]-a[0]-u*dx, q[1]-a[1]-u*dy) < 1 {
				return true
			}
		}
	}
	return false
}

// Ticks of one name lie at the same place in space, on two panels.
func TestTicksMeet(t *testing.T) {
	panels := tank(t)
	l, err := scheme.Lay(three, form.NewGrid(panels, coarse))
	require.NoError(t, err)
	masks, err := l.Masks(panels, 35)
	require.NoError(t, err)
	at, pairs := map[string]form.Vec{}, 0
	for _, m := range masks {
		for _, tick := range m.Ticks {
			here := panels[m.Panel].Space(tick.At[0], tick.At[1])
			if there, ok := at[tick.Name]; ok {
				assert.Less(t, away(here, there), 0.15)
				pairs++
			}
			at[tick.Name] = here
		}
	}
	assert.Greater(t, pairs, 20)
}

// Where an edge of colours crosses the edge of two panels, both say so at the same place.
func TestCrossingsAgreeOnBothPanels(t *testing.T) {
	panels := tank(t)
	l, err := scheme.Lay(three, form.NewGrid(panels, texel))
	require.NoError(t, err)
	masks, err := l.Masks(panels, 35)
	require.NoError(t, err)
	var all []form.Vec
	by := []int{}
	for _, m := range masks {
		for _, c := range m.Crossed {
			assert.InDelta(t, c.Along, math.Hypot(c.At[0]-c.From[0], c.At[1]-c.From[1]), 1)
			all = append(all, panels[m.Panel].Space(c.At[0], c.At[1]))
			by = append(by, m.Panel)
		}
	}
	require.Greater(t, len(all), 40)
	paired := 0
	for i, p := range all {
		for k, q := range all {
			if by[i] != by[k] && away(p, q) < 10 { // 0.3 mm on the model: looked at half a mm inside each
				paired++
				break
			}
		}
	}
	assert.Greater(t, float64(paired)/float64(len(all)), 0.8, "but for those at edges whose other side is another part")
}
