package scheme_test

import (
	"math"
	"math/rand/v2"
	"sort"
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/scheme"
	"cinderpath/core/unit"

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

// What plans use on a 1:35 model, in real mm: texels of half a millimetre. Most tests are
// content with larger ones.
const (
	texel  = 0.5 * 35
	coarse = 2 * 35
)

func lay(t require.TestingT, p scheme.Pattern, panels []*form.Panel) *scheme.Layout {
	l, err := scheme.Lay(p, form.NewGrid(panels, coarse))
	require.NoError(t, err)
	return l
}

func tank(t require.TestingT) []*form.Panel {
	panels, err := form.Panels(form.NewBody(form.Tracked, 6400, 3100, 2500), form.Running{})
	require.NoError(t, err)
	return panels
}

// A colour can be added to any pattern that has room for one, and what comes of it holds.
func TestAColourIsAdded(t *testing.T) {
	assert.NoError(t, scheme.New(6400).Check())
	rapid.Check(t, func(t *rapid.T) {
		p := scheme.New(rapid.Float64Range(1500, 20000).Draw(t, "length"))
		for len(p.Colours) < scheme.MostColours {
			if rapid.Bool().Draw(t, "named otherwise") {
				p.Colours[0].Name = "shale"
			}
			n := len(p.Colours)
			q := p.WithColour()
			assert.Len(t, p.Colours, n, "the old one is as it was")
			require.Len(t, q.Colours, n+1)
			require.NoError(t, q.Check())
			if n > 1 {
				assert.NotEqual(t, q.Colours[n-1].Name, q.Colours[n].Name)
			}
			p = q
			left := 0.95
			for _, c := range p.Colours[1 : len(p.Colours)-1] {
				left -= float64(c.Share)
			}
			p.Colours[len(p.Colours)-1].Share = unit.Share(rapid.Float64Range(0.01, max(0.011, left-0.01)).Draw(t, "share"))
		}
	})
}

func TestSharesAreMet(t *testing.T) {
	panels := tank(t)
	g := form.NewGrid(panels, coarse)
	rapid.Check(t, func(t *rapid.T) {
		p := three
		p.Colours = append([]scheme.Colour(nil), three.Colours...)
		p.Colours[1].Share = unit.Share(rapid.Float64Range(0.05, 0.5).Draw(t, "grey"))
		p.Colours[2].Share = unit.Share(rapid.Float64Range(0.05, 0.4).Draw(t, "brown"))
		p.Seed = rapid.Uint64().Draw(t, "seed")
		p.Width = rapid.Float64Range(300, 2000).Draw(t, "width")
		l, err := scheme.Lay(p, g)
		require.NoError(t, err)
		for c := 1; c < 3; c++ {
			assert.InDelta(t, float64(p.Colours[c].Share), float64(l.Shares[c]), 0.005)
		}
		assert.InDelta(t, 1, float64(l.Shares[0]+l.Shares[1]+l.Shares[2]), 1e-9)
	})
}

// Independent of the texels' middles: random points of the panels, asked what the texel
// they fall on shows, give the same shares; bands as narrow as a soft edge among them.
func TestWhatIsShownHasTheWantedShares(t *testing.T) {
	panels := tank(t)
	for _, width := range []float64{700, 250, 100} {
		p := three
		p.Width = width
		g := form.NewGrid(panels, texel)
		l, err := scheme.Lay(p, g)
		require.NoError(t, err)
		random := rand.New(rand.NewPCG(3, 4))
		area := make([]float64, 3)
		for i, panel := range panels {
			trials := 200 + int(panel.Area()/500) // where there is more to see, more is looked at
			hits := make([]float64, 3)
			for range trials {
				x, y := pick(random, panel)
				hits[colourAt(l, g.Texels[i], x, y)]++
			}
			for c := range hits {
				area[c] += panel.Area() * hits[c] / float64(trials)
			}
		}
		total := area[0] + area[1] + area[2]
		for c := 1; c < 3; c++ {
			// The sampling itself has a standard error of about 0.1 per cent points.
			assert.InDelta(t, float64(p.Colours[c].Share), area[c]/total, 0.005, "bands of %.0f mm", width)
		}
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

// colourAt is the topmost colour that covers at least half of the texel at a place of a
// panel, or of the nearest one that has area.
func colourAt(l *scheme.Layout, t *form.Texels, x, y float64) int {
	i := min(max(int((x-t.X0)/t.Step), 0), t.NX-1)
	j := min(max(int((y-t.Y0)/t.Step), 0), t.NY-1)
	best, near := -1, math.Inf(1)
	for dj := -2; dj <= 2; dj++ {
		for di := -2; di <= 2; di++ {
			a, b := i+di, j+dj
			if a < 0 || b < 0 || a >= t.NX || b >= t.NY || t.Area[b*t.NX+a] == 0 {
				continue
			}
			if d := math.Hypot(float64(di), float64(dj)); d < near {
				best, near = b*t.NX+a, d
			}
		}
	}
	for c := len(l.Cover) - 1; c > 0 && best >= 0; c-- {
		if l.Cover[c][t.First+best] >= 128 {
			return c
		}
	}
	return 0
}

// Along the edge that two faces share, both show the same colour but for two texels where an edge
// crosses it; for every family that is a rule over space.
func TestFacesMatchWhereTheyMeet(t *testing.T) {
	panels := tank(t)
	g := form.NewGrid(panels, texel)
	for _, family := range []string{"bands", "blotches", "mottle", "splinter", "panes", "lines"} {
		p := three
		p.Colours = append([]scheme.Colour(nil), three.Colours...)
		p.Colours[1].Family, p.Colours[2].Family = family, family
		l, err := scheme.Lay(p, g)
		require.NoError(t, err)
		facesMatch(t, family, panels, g, l)
	}
}

func facesMatch(t *testing.T, family string, panels []*form.Panel, g *form.Grid, l *scheme.Layout) {
	by := map[string]int{}
	for i, panel := range panels {
		by[panel.Name] = i
	}
	for _, pair := range [][2]string{{"hull.deck/0", "hull.left/0"}, {"hull.deck/0", "hull.glacis/0"}, {"turret.roof/0", "turret.right/0"}} {
		a, b := panels[by[pair[0]]], panels[by[pair[1]]]
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
		differ, crossings, last, colours := 0, 0, -1, map[int]bool{}
		long := 0.0
		for axis := range 3 {
			long += (shared[1][axis] - shared[0][axis]) * (shared[1][axis] - shared[0][axis])
		}
		for i := range steps {
			k := (float64(i) + 0.5) / steps
			var point form.Vec
			for axis := range 3 {
				point[axis] = shared[0][axis] + k*(shared[1][axis]-shared[0][axis])
			}
			colour := func(n int) int {
				at := panels[n].Flat(point)
				return colourAt(l, g.Texels[n], at[0], at[1])
			}
			ca, cb := colour(by[pair[0]]), colour(by[pair[1]])
			colours[ca] = true
			if ca != cb {
				differ++
			}
			if last >= 0 && ca != last {
				crossings++
			}
			last = ca
		}
		apart := float64(differ) / steps * math.Sqrt(long)
		assert.LessOrEqual(t, apart, 2*texel*float64(crossings+1), "%s, %v: %d crossings", family, pair, crossings)
		if pair[0] == "hull.deck/0" && pair[1] == "hull.left/0" {
			assert.Greater(t, len(colours), 1, "the long edge crosses bands, else this tests nothing")
		}
	}
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
	assert.Equal(t, []unit.Share{1, 0, 0}, l.Zones["lower.left"])
	assert.InDelta(t, 0.3, float64(l.Shares[1]), 0.005, "the share still counts the whole surface")
}

func TestImpossibleSchemesAreTold(t *testing.T) {
	for want, change := range map[string]func(*scheme.Pattern){
		"one to 8 colours": func(p *scheme.Pattern) { p.Colours = nil },
		"not a swatch":     func(p *scheme.Pattern) { p.Colours[0].Hex = "green" },
		"no name":          func(p *scheme.Pattern) { p.Colours[1].Name = "" },
		"at least 5 %":     func(p *scheme.Pattern) { p.Colours[1].Share = 0.9 },
		"between 0 and":    func(p *scheme.Pattern) { p.Colours[1].Share = unit.Share(math.NaN()) },
		"a width of":       func(p *scheme.Pattern) { p.Width = 3 },
		"an edge line of": func(p *scheme.Pattern) {
			p.Colours[2].Family, p.Colours[2].Width = scheme.Outlines, 900
		},
		"soft edge": func(p *scheme.Pattern) { p.Feather = -1 },
	} {
		p := three
		p.Colours = append([]scheme.Colour(nil), three.Colours...)
		change(&p)
		assert.ErrorContains(t, p.Check(), want)
	}
}

func BenchmarkLay(b *testing.B) {
	panels := tank(b)
	g := form.NewGrid(panels, texel)
	b.Run("lay", func(b *testing.B) {
		for b.Loop() {
			if _, err := scheme.Lay(three, g); err != nil {
				b.Fatal(err)
			}
		}
		b.ReportMetric(float64(g.Count), "texels")
	})
	six := scheme.Pattern{Width: 700, Feather: 60, Seed: 11, Colours: append([]scheme.Colour(nil), three.Colours...)}
	for _, c := range []scheme.Colour{
		{Name: "sedge yellow", Share: 0.1, Family: scheme.Blotches}, {Name: "slate blue", Share: 0.08, Family: scheme.Mottle},
		{Name: "peat black", Share: 0.06, Family: scheme.Splinters},
	} {
		c.Hex = "#8f8152"
		six.Colours = append(six.Colours, c)
	}
	b.Run("six colours", func(b *testing.B) {
		for b.Loop() {
			if _, err := scheme.Lay(six, g); err != nil {
				b.Fatal(err)
			}
		}
		b.ReportMetric(float64(g.Count), "texels")
	})
	fine := form.NewGrid(panels, texel*0.757) // as many as a large vehicle has
	b.Run("six colours on more", func(b *testing.B) {
		for b.Loop() {
			if _, err := scheme.Lay(six, fine); err != nil {
				b.Fatal(err)
			}
		}
		b.ReportMetric(float64(fine.Count), "texels")
	})
	b.Run("tell", func(b *testing.B) {
		l, err := scheme.Lay(six, g)
		require.NoError(b, err)
		for b.Loop() {
			l.Tell()
		}
	})
	b.Run("memory", func(b *testing.B) {
		for b.Loop() {
			for range 2 {
				cover := make([]uint8, g.Count)
				for i := range cover {
					cover[i] = uint8(i)
				}
			}
		}
	})
}
