package scheme_test

import (
	"math"
	"math/rand/v2"
	"sort"
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/scheme"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

var three = scheme.Pattern{
	Colours: []scheme.Colour{
		{Name: "lichen green", Hex: "#66704f"},
		{Name: "basalt grey", Hex: "#4b4d4e", Share: 0.3},
		{Name: "kelp brown", Hex: "#5a4634", Share: 0.25},
	},
	Width: 700, Feather: 60, Seed: 11,
}

// What plans use on a 1:35 model, in real mm: texels of half a millimetre, outlines
// sampled every four. Most tests are content with larger texels.
const (
	texel  = 0.5 * 35
	coarse = 2 * 35
	step   = 4 * 35
)

func lay(t require.TestingT, p scheme.Pattern, panels []*form.Panel) *scheme.Layout {
	l, err := scheme.Lay(p, form.NewGrid(panels, coarse), form.Lattices(panels, step))
	require.NoError(t, err)
	return l
}

func tank(t require.TestingT) []*form.Panel {
	panels, err := form.Panels(form.NewBody(form.Tracked, 6400, 3100, 2500), form.Running{})
	require.NoError(t, err)
	return panels
}

func TestSharesAreMet(t *testing.T) {
	panels := tank(t)
	g, lattices := form.NewGrid(panels, coarse), form.Lattices(panels, step)
	rapid.Check(t, func(t *rapid.T) {
		p := three
		p.Colours = append([]scheme.Colour(nil), three.Colours...)
		p.Colours[1].Share = rapid.Float64Range(0.05, 0.5).Draw(t, "grey")
		p.Colours[2].Share = rapid.Float64Range(0.05, 0.4).Draw(t, "brown")
		p.Seed = rapid.Uint64().Draw(t, "seed")
		p.Width = rapid.Float64Range(300, 2000).Draw(t, "width")
		l, err := scheme.Lay(p, g, lattices)
		require.NoError(t, err)
		for c := 1; c < 3; c++ {
			assert.InDelta(t, p.Colours[c].Share, l.Shares[c], 0.005)
		}
		assert.InDelta(t, 1, l.Shares[0]+l.Shares[1]+l.Shares[2], 1e-9)
	})
}

// Independent of the lattice's nodes: random points of the panels, asked whether
// they lie in the drawn regions, give the same shares.
func TestDrawnRegionsHaveTheWantedShares(t *testing.T) {
	panels := tank(t)
	p := three
	p.Feather = 0
	l := lay(t, p, panels)
	random := rand.New(rand.NewPCG(3, 4))
	area := make([]float64, 3)
	for _, panel := range panels {
		trials := 200 + int(panel.Area()/500) // where there is more to see, more is looked at
		hits := make([]float64, 3)
		for range trials {
			x, y := pick(random, panel)
			hits[colourAt(l.Painted(panel), x, y)]++
		}
		for c := range hits {
			area[c] += panel.Area() * hits[c] / float64(trials)
		}
	}
	total := area[0] + area[1] + area[2]
	for c := 1; c < 3; c++ {
		// The sampling itself has a standard error of about 0.1 per cent points.
		assert.InDelta(t, p.Colours[c].Share, area[c]/total, 0.005)
	}
}

// pick draws an even random point of a panel's pieces.
func pick(random *rand.Rand, p *form.Panel) (x, y float64) {
	type triangle [3][2]float64
	var all []triangle
	var sums []float64
	total := 0.0
	for _, c := range p.FlatPieces() {
		for i := 1; i < len(c)-1; i++ {
			t := triangle{c[0], c[i], c[i+1]}
			total += math.Abs((t[1][0]-t[0][0])*(t[2][1]-t[0][1])-(t[1][1]-t[0][1])*(t[2][0]-t[0][0])) / 2
			all, sums = append(all, t), append(sums, total)
		}
	}
	t := all[min(sort.SearchFloat64s(sums, random.Float64()*total), len(all)-1)]
	u, v := random.Float64(), random.Float64()
	if u+v > 1 {
		u, v = 1-u, 1-v
	}
	return t[0][0] + u*(t[1][0]-t[0][0]) + v*(t[2][0]-t[0][0]), t[0][1] + u*(t[1][1]-t[0][1]) + v*(t[2][1]-t[0][1])
}

func inRing(ring [][2]float64, x, y float64) bool {
	in := false
	for i, j := 0, len(ring)-1; i < len(ring); j, i = i, i+1 {
		a, b := ring[i], ring[j]
		if (a[1] > y) != (b[1] > y) && x < (b[0]-a[0])*(y-a[1])/(b[1]-a[1])+a[0] {
			in = !in
		}
	}
	return in
}

func colourAt(regions []form.Painted, x, y float64) int {
	colour := 0
	for _, r := range regions {
		in := false
		for _, ring := range r.Rings {
			if inRing(ring, x, y) {
				in = !in
			}
		}
		if in {
			colour = r.Colour
		}
	}
	return colour
}

// Along the edge that two faces share, both show the same colour but for a
// stretch that no brush could tell.
func TestFacesMatchWhereTheyMeet(t *testing.T) {
	panels := tank(t)
	p := three
	p.Feather = 0
	l := lay(t, p, panels)
	by := map[string]*form.Panel{}
	for _, panel := range panels {
		by[panel.Name] = panel
	}
	for _, pair := range [][2]string{{"hull.deck/0", "hull.left/0"}, {"hull.deck/0", "hull.glacis/0"}, {"turret.roof/0", "turret.right/0"}} {
		a, b := by[pair[0]], by[pair[1]]
		var shared []form.Vec
		for _, l := range a.Lines {
			for _, m := range b.Lines {
				if l.A == m.B && l.B == m.A {
					shared = []form.Vec{l.A, l.B}
				}
			}
		}
		require.Len(t, shared, 2, "%v share an edge", pair)
		const steps = 2000
		differ, colours := 0, map[int]bool{}
		for i := range steps {
			k := (float64(i) + 0.5) / steps
			var point form.Vec
			for axis := range 3 {
				point[axis] = shared[0][axis] + k*(shared[1][axis]-shared[0][axis])
			}
			colour := func(p *form.Panel) int {
				at, middle := p.Flat(point), p.Flat(centre(p))
				const inward = 1e-6 // off the rim, where the even-odd rule is undecided
				return colourAt(l.Painted(p), at[0]+inward*(middle[0]-at[0]), at[1]+inward*(middle[1]-at[1]))
			}
			ca, cb := colour(a), colour(b)
			colours[ca] = true
			if ca != cb {
				differ++
			}
		}
		assert.Less(t, differ, steps/50, "%v", pair)
		if pair[0] == "hull.deck/0" && pair[1] == "hull.left/0" {
			assert.Greater(t, len(colours), 1, "the long edge crosses bands, else this tests nothing")
		}
	}
}

func centre(p *form.Panel) (out form.Vec) {
	low, high, _ := form.Extent([]*form.Panel{p}, func(string) bool { return true })
	for k := range 3 {
		out[k] = (low[k] + high[k]) / 2
	}
	return out
}

func TestSameSeedSameLayout(t *testing.T) {
	panels := tank(t)
	a, b := lay(t, three, panels), lay(t, three, panels)
	other := three
	other.Seed++
	c := lay(t, other, panels)
	assert.Equal(t, a.Zones, b.Zones)
	assert.NotEqual(t, a.Zones, c.Zones)
}

func TestZonesLeftOutStayInTheFirstColour(t *testing.T) {
	p := three
	p.Without = []string{"lower"}
	l := lay(t, p, tank(t))
	assert.Equal(t, []float64{1, 0, 0}, l.Zones["lower.left"])
	assert.InDelta(t, 0.3, l.Shares[1], 0.005, "the share still counts the whole surface")
}

func TestImpossibleSchemesAreTold(t *testing.T) {
	for want, change := range map[string]func(*scheme.Pattern){
		"one to 3 colours": func(p *scheme.Pattern) { p.Colours = nil },
		"not a swatch":     func(p *scheme.Pattern) { p.Colours[0].Hex = "green" },
		"no name":          func(p *scheme.Pattern) { p.Colours[1].Name = "" },
		"at least 5 %":     func(p *scheme.Pattern) { p.Colours[1].Share = 0.9 },
		"between 0 and":    func(p *scheme.Pattern) { p.Colours[1].Share = math.NaN() },
		"band width":       func(p *scheme.Pattern) { p.Width = 3 },
		"soft edge":        func(p *scheme.Pattern) { p.Feather = -1 },
	} {
		p := three
		p.Colours = append([]scheme.Colour(nil), three.Colours...)
		change(&p)
		assert.ErrorContains(t, p.Check(), want)
	}
}

func BenchmarkLay(b *testing.B) {
	panels := tank(b)
	g, lattices := form.NewGrid(panels, texel), form.Lattices(panels, step)
	for b.Loop() {
		if _, err := scheme.Lay(three, g, lattices); err != nil {
			b.Fatal(err)
		}
	}
}
