package scheme_test

import (
	"math"
	"slices"
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/scheme"
	"cinderpath/core/unit"
	"cinderpath/core/zone"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// plate is a flat upright plate of 10 m.
func plate() []*form.Panel {
	const half = 5000
	return []*form.Panel{{
		Plane: form.Plane{Normal: form.Vec{0, -1, 0}, U: form.Vec{1, 0, 0}, V: form.Vec{0, 0, 1}},
		Zone:  "hull.left", Name: "hull.left/0",
		Pieces: [][]form.Vec{{{-half, 0, -half}, {half, 0, -half}, {half, 0, half}, {-half, 0, half}}},
	}}
}

func one(family string, share unit.Share) scheme.Pattern {
	p := scheme.Pattern{Width: 500, Seed: 1, Colours: []scheme.Colour{
		{Name: "lichen green", Hex: "#66704f"},
		{Name: "kelp brown", Hex: "#5d4836", Share: share, Family: family},
	}}
	if family == scheme.Stripes {
		p.Colours[1].Zones = []string{"hull"}
	}
	return p
}

func median(x []float64) float64 {
	if len(x) == 0 {
		return 0
	}
	slices.Sort(x)
	return x[len(x)/2]
}

// The share is met, and the fields are as wide along their middle lines as was asked, for every
// family, share and seed.
func TestFieldsAreAsWideAsAsked(t *testing.T) {
	t.Parallel()
	for _, f := range scheme.Families() {
		if f.Fixed || f.Width == 0 {
			continue
		}
		t.Run(f.ID, func(t *testing.T) {
			t.Parallel()
			squares, seeds := 25.0, uint64(3)
			if f.ID == scheme.Splinters || f.ID == scheme.Panes { // cells have one width: it is read finely, of each seed
				squares, seeds = 50, 8
			}
			g := form.NewGrid(plate(), max(f.Width/squares, 8))
			for _, share := range []unit.Share{0.15, 0.3, 0.5} {
				var widths []float64
				for seed := range seeds {
					p := one(f.ID, share)
					p.Seed = seed + 1
					l, err := scheme.Lay(p, g)
					require.NoError(t, err)
					widths = append(widths, median(l.Widths(0, 1))/p.Set(1).Width)
					if f.ID == scheme.Spots && share > 0.3 {
						require.NotEmpty(t, l.Notes, "spots that keep their distance cannot cover half")
						continue
					}
					// Straight stripes come and go by whole columns of texels.
					assert.InDelta(t, float64(share), float64(l.Shares[1]), 0.006, "seed %d", seed+1)
				}
				assert.InDelta(t, 1, median(widths), 0.15, "a share of %v: %v", share, widths)
				if seeds > 3 {
					assert.InDelta(t, 1, widths[0], 0.17, "a share of %v: %v", share, widths)
					assert.InDelta(t, 1, widths[len(widths)-1], 0.17, "a share of %v: %v", share, widths)
				}
			}
		})
	}
}

func TestSpotsAreRoundAndKeepTheirDistance(t *testing.T) {
	g := form.NewGrid(plate(), 17.5)
	p := one(scheme.Spots, 0.25)
	round := 1.0
	p.Colours[1].Bend = &round
	l, err := scheme.Lay(p, g)
	require.NoError(t, err)
	discs := l.Discs(0, 1)
	require.Greater(t, len(discs), 200)
	width := p.Set(1).Width
	for i, a := range discs {
		for _, b := range discs[:i] {
			assert.GreaterOrEqual(t, math.Hypot(a[0]-b[0], a[1]-b[1])-a[2]-b[2], 0.4*width)
		}
		assert.Less(t, max(math.Abs(a[0]), math.Abs(a[1]))+a[2], 5000.0, "none across an edge")
		for k := range 12 {
			sin, cos := math.Sincos(float64(k) * math.Pi / 6)
			assert.Equal(t, 1, l.At(0, a[0]+0.85*a[2]*cos, a[1]+0.85*a[2]*sin))
			assert.Equal(t, 0, l.At(0, a[0]+1.25*a[2]*cos, a[1]+1.25*a[2]*sin))
		}
	}
}

// Edges of splinters and panes lie on straight lines but for their corners: through three places
// of an edge near each other goes one line.
func TestSplintersHaveStraightEdges(t *testing.T) {
	for _, family := range []string{scheme.Splinters, scheme.Panes, scheme.Stripes} {
		l, err := scheme.Lay(one(family, 0.4), form.NewGrid(plate(), 17.5))
		require.NoError(t, err)
		straight, all := 0, 0
		edges := l.Edges(0)
		for i := 0; i < len(edges); i += 7 {
			e := edges[i]
			dx, dy := e.B[0]-e.A[0], e.B[1]-e.A[1]
			long := math.Hypot(dx, dy)
			if long < 8 {
				continue
			}
			all++
			off := 0.0
			for _, o := range edges {
				if math.Hypot(o.A[0]-e.A[0], o.A[1]-e.A[1]) < 40 {
					off = max(off, math.Abs((o.A[0]-e.A[0])*dy-(o.A[1]-e.A[1])*dx)/long)
				}
			}
			if off < 0.1*35*1.5 { // both ends are found to 0.35 mm, over a length of 8 to 25
				straight++
			}
		}
		require.Greater(t, all, 100)
		assert.Greater(t, float64(straight)/float64(all), 0.85, family)
	}
}

func TestAnEdgeLineFollowsTheFieldsBelow(t *testing.T) {
	p := one(scheme.Blotches, 0.3)
	p.Colours = append(p.Colours, scheme.Colour{Name: "peat black", Hex: "#2f2c29", Family: scheme.Outlines, Width: 100})
	l, err := scheme.Lay(p, form.NewGrid(plate(), 10))
	require.NoError(t, err)
	assert.InDelta(t, 100, median(l.Widths(0, 2)), 12)
	// As much as the edges are long, times its width.
	bare := p
	bare.Colours = p.Colours[:2]
	below, err := scheme.Lay(bare, form.NewGrid(plate(), 10))
	require.NoError(t, err)
	long := 0.0
	for _, e := range below.Edges(0) {
		long += e.Length()
	}
	assert.InEpsilon(t, long*100/1e8, float64(l.Shares[2]), 0.03)
}

// What a single colour or a wash is laid on can be named; the others keep off.
func TestAColourKeepsToItsZones(t *testing.T) {
	p := three
	p.Colours = slices.Clone(three.Colours)
	p.Colours[2] = scheme.Colour{Name: "chalk white", Hex: "#d9d8cf", Family: scheme.Single, Zones: []string{"turret"}}
	p.Colours[1].Without = []string{"hull.deck"}
	l := lay(t, p, tank(t))
	for name, shares := range l.Zones {
		assert.InDelta(t, btof(zone.Under(name, "turret")), float64(shares[2]), 1e-9, name)
	}
	assert.Zero(t, l.Zones["hull.deck"][1])
	p.Colours[1].Share = 0.9
	p.Colours[1].Zones = []string{"hull.glacis"}
	l = lay(t, p, tank(t))
	assert.Contains(t, l.Notes[0], "its zones have only")
}

func btof(b bool) float64 {
	if b {
		return 1
	}
	return 0
}

// How far a texel lies from another colour, against looking at all of them.
func TestDistancesEqualThoseOfLookingAtAll(t *testing.T) {
	g := form.NewGrid(plate(), 160)
	l, err := scheme.Lay(one(scheme.Blotches, 0.3), g)
	require.NoError(t, err)
	tx := g.Texels[0]
	for k, d := range l.Away(0, 1) {
		if tx.Area[k] == 0 || l.Taken[k] != 1 {
			continue
		}
		best := math.Inf(1)
		for o, a := range tx.Area {
			if a > 0 && l.Taken[o] != l.Taken[k] {
				best = min(best, math.Hypot(float64(k%tx.NX-o%tx.NX), float64(k/tx.NX-o/tx.NX)))
			}
		}
		assert.InDelta(t, best-0.5, d, 1e-9)
	}
}

// The length of edges against a circle of known size and a plane cut.
func TestEdgesAreAsLongAsTheyAre(t *testing.T) {
	l, err := scheme.Lay(one(scheme.Stripes, 0.3), form.NewGrid(plate(), 17.5))
	require.NoError(t, err)
	long := 0.0
	told := 0.0
	for _, e := range l.Edges(0) {
		long += e.Length()
	}
	for _, of := range l.Tell() {
		told += of.Edge
	}
	assert.InDelta(t, long, told, 1e-6)
	turns := math.Round(long / 10000)
	assert.InEpsilon(t, turns*10000, long, 0.005, "every edge of an upright stripe is as long as the plate is high")
	assert.Greater(t, turns, 15.0)
}

// Satisfiable pins hold: two apart by more than a width can have any colours.
func TestPinsHold(t *testing.T) {
	g := form.NewGrid(tank(t), coarse)
	held := 0
	rapid.Check(t, func(t *rapid.T) {
		p := three
		p.Colours = slices.Clone(three.Colours)
		p.Width = 500
		p.Seed = rapid.Uint64().Draw(t, "seed")
		family := rapid.SampledFrom([]string{"bands", "blotches", "mottle", "lines", "whitewash"}).Draw(t, "family")
		p.Colours[2].Family = family
		n := rapid.IntRange(1, 20).Draw(t, "pins")
		p.Anchors = pins(g, p, n, rapid.Uint64().Draw(t, "where"))
		l, err := scheme.Lay(p, g)
		require.NoError(t, err)
		assert.Empty(t, l.Lost, family)
		for c := 1; c < 3; c++ {
			assert.InDelta(t, float64(p.Colours[c].Share), float64(l.Shares[c]), 0.005)
		}
		held += n
	})
	assert.Greater(t, held, 50)
}

// pins are random ones on a surface, farther from each other than a width, with random colours.
func pins(g *form.Grid, p scheme.Pattern, n int, seed uint64) (out []scheme.Anchor) {
	h := form.Hash(seed)
	for tries := 0; len(out) < n && tries < 4000; tries++ {
		h = form.Hash(h)
		t := g.Texels[h%uint64(len(g.Texels))]
		h = form.Hash(h)
		k := int(h % uint64(len(t.Area)))
		if t.Area[k] < float32(0.9*t.Step*t.Step) || zone.Bare(t.Zone) {
			continue
		}
		at := t.Point(k)
		if !slices.ContainsFunc(out, func(a scheme.Anchor) bool { return away(a.At, at) < 1.3*p.Width }) {
			h = form.Hash(h)
			out = append(out, scheme.Anchor{At: at, Zone: t.Zone, Colour: int(h % uint64(len(p.Colours)))})
		}
	}
	return out
}

func away(a, b form.Vec) float64 {
	return math.Sqrt((a[0]-b[0])*(a[0]-b[0]) + (a[1]-b[1])*(a[1]-b[1]) + (a[2]-b[2])*(a[2]-b[2]))
}

func TestPinsThatContradictAreNamed(t *testing.T) {
	g := form.NewGrid(tank(t), coarse)
	named := 0
	rapid.Check(t, func(t *rapid.T) {
		p := three
		p.Seed = rapid.Uint64().Draw(t, "seed")
		first := pins(g, p, 1, rapid.Uint64().Draw(t, "where"))
		if len(first) == 0 {
			t.Skip()
		}
		other := first[0]
		other.At[2] += 1e-3
		other.Colour = (other.Colour + 1) % 3
		p.Anchors = []scheme.Anchor{first[0], other}
		l, err := scheme.Lay(p, g)
		require.NoError(t, err)
		require.NotEmpty(t, l.Lost)
		assert.Contains(t, l.Lost[0].Why, "nearer than half a width")
		named++
	})
	assert.Positive(t, named)
	p := three
	p.Anchors = []scheme.Anchor{{At: form.Vec{0, 0, 90000}, Zone: "hull.deck", Colour: 1}}
	l, err := scheme.Lay(p, g)
	require.NoError(t, err)
	assert.Contains(t, l.Lost[0].Why, "beside the vehicle")
}

// A cell, or a spot, is moved whole by a pin.
func TestShapesFollowPins(t *testing.T) {
	g := form.NewGrid(plate(), 17.5)
	for _, family := range []string{scheme.Splinters, scheme.Panes, scheme.Spots} {
		p := one(family, 0.25)
		p.Anchors = pins(g, p, 6, 3)
		l, err := scheme.Lay(p, g)
		require.NoError(t, err)
		lost := len(l.Lost)
		if family == scheme.Panes { // one may lie on the frame
			lost--
		}
		assert.LessOrEqual(t, lost, 0, family)
	}
}
