package scheme_test

import (
	"fmt"
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
		straight, told, joined := 0.0, 0.0, 0
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
				assert.Equal(t, piece.Colour, l.OnSheet(panels, m, piece.Middle[0], piece.Middle[1]), "%s %s", family, m.Name)
				if piece.Colour > 0 {
					onTheEdge(t, l, panels, m, piece)
				}
				for _, r := range piece.Runs {
					straight += r.Length()
				}
			}
			whole, most := 0.0, 1e-3
			for _, p := range m.Net.Members {
				whole += panels[p.Panel].Area()
				if panels[p.Panel].Round {
					most = 0.04 // arcs are longer than their chords
				}
				for _, e := range l.Edges(p.Panel) {
					told += e.Length()
				}
			}
			assert.InEpsilon(t, whole, sum, most, m.Name)
			if len(m.Net.Members) > 1 {
				joined++
			}
		}
		assert.Greater(t, joined, 1)
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
			for _, p := range m.Net.Members {
				for _, e := range l.Edges(p.Panel) {
					edges += e.Length()
				}
			}
		}
		assert.InEpsilon(t, edges, runs, 0.02, family)
	}
}

// onTheEdge holds the corners of a piece to the field: near each lies another colour, within
// 0.1 mm on the model.
func onTheEdge(t *testing.T, l *scheme.Layout, panels []*form.Panel, m scheme.PanelMask, piece scheme.Piece) {
	off := 0
	for _, q := range piece.Rings[0] {
		seen := map[int]bool{}
		for k := range 16 {
			sin, cos := math.Sincos(float64(k) * math.Pi / 8)
			seen[l.OnSheet(panels, m, q[0]+3.5*cos, q[1]+3.5*sin)] = true
		}
		if len(seen) < 2 && !onRim(m, q) {
			off++
		}
	}
	// Where three fields meet the net cuts a corner off.
	assert.LessOrEqual(t, off, 2+len(piece.Rings[0])/50, "%s, a piece of colour %d", m.Name, piece.Colour)
}

// An edge of colours that runs up to what stands on a plate is marked there, told from a corner of its foot.
func TestCrossingsAreMarkedAtFittings(t *testing.T) {
	panels := tank(t)
	l, err := scheme.Lay(three, form.NewGrid(panels, texel))
	require.NoError(t, err)
	masks, err := l.Masks(panels, 35)
	require.NoError(t, err)
	marked, feet := 0, 0
	for _, m := range masks {
		for _, c := range m.Crossed {
			seen := map[int]bool{}
			for k := range 32 {
				sin, cos := math.Sincos(float64(k) * math.Pi / 16)
				seen[l.OnSheet(panels, m, c.At[0]+3.5*cos, c.At[1]+3.5*sin)] = true
			}
			assert.True(t, seen[c.Below] && seen[c.Above], "%s: %d over %d at %v", m.Name, c.Above, c.Below, c.At)
			for _, foot := range m.Outline[1:] {
				for k, a := range foot {
					b := foot[(k+1)%len(foot)]
					long := math.Hypot(b[0]-a[0], b[1]-a[1])
					if off := math.Abs((b[0]-a[0])*(c.At[1]-a[1])-(b[1]-a[1])*(c.At[0]-a[0])) / long; off < 0.6 &&
						math.Hypot(c.At[0]-a[0], c.At[1]-a[1]) < long && math.Hypot(c.At[0]-b[0], c.At[1]-b[1]) < long {
						marked++
						assert.Contains(t, foot, c.From)
					}
				}
			}
		}
		feet += len(m.Outline) - 1
	}
	assert.Greater(t, feet, 3)
	assert.Greater(t, marked, 5)
}

// inSpace is a place of a mask on the vehicle: where the panels of its net hold it, or nearly.
func inSpace(panels []*form.Panel, m scheme.PanelMask, q [2]float64) form.Vec {
	best, nearest := form.Vec{}, math.Inf(1)
	for i := range m.Net.Members {
		member := &m.Net.Members[i]
		p := panels[member.Panel]
		at := member.Back(q)
		off := 0.0
		if !p.Holds(at) {
			off = math.Inf(1)
			for _, piece := range p.FlatPieces() {
				for k, a := range piece {
					b := piece[(k+1)%len(piece)]
					dx, dy := b[0]-a[0], b[1]-a[1]
					u := min(max(((at[0]-a[0])*dx+(at[1]-a[1])*dy)/(dx*dx+dy*dy), 0), 1)
					off = min(off, math.Hypot(at[0]-a[0]-u*dx, at[1]-a[1]-u*dy))
				}
			}
		}
		if off < nearest {
			nearest, best = off, p.Space(at[0], at[1])
		}
	}
	return best
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
			if tick.Name == "" {
				continue // what is beyond has one colour
			}
			var low, high int
			_, err := fmt.Sscanf(tick.Name, "%d.%d", &low, &high)
			require.NoError(t, err)
			assert.True(
				t,
				low < high && (low == m.Number || high == m.Number) || low == high,
				"%s on number %d",
				tick.Name,
				m.Number,
			)
			assert.Equal(t, tick.Zone, masks[low+high-m.Number-1].Zone, "it names what lies there")
			here := inSpace(panels, m, tick.At)
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
	by, bent := []int{}, 0
	for _, m := range masks {
		for _, c := range m.Crossed {
			straight := math.Hypot(c.At[0]-c.From[0], c.At[1]-c.From[1])
			assert.GreaterOrEqual(t, c.Along, straight-1)
			if c.Along > straight+1 {
				bent++
			}
			all = append(all, inSpace(panels, m, c.At))
			by = append(by, m.Net.Members[0].Panel)
		}
	}
	require.Greater(t, len(all), 40)
	assert.Less(t, bent, len(all)/20, "but for round rims the way is straight")
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
