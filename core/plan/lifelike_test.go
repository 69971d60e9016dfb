package plan

import (
	"fmt"
	"math"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/landing"
	"cinderpath/core/strata"
	"cinderpath/core/zone"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// lived is a tracked vehicle with everything that wears it, each layer all over and as it is usually done.
type lived struct {
	b    document.Build
	s    surface
	g    *form.Grid
	lies map[strata.Kind]strata.Deposit
}

func livedIn(t *testing.T) lived {
	n := 0
	ids := func() string { n++; return fmt.Sprint("i", n) }
	b, err := Begin(document.Start{
		Name: "Varrow", Outline: form.Tracked, Scale: "1:35", Length: "6.4 m", Width: "3.1 m", Height: "2.52 m",
	}, ids)
	require.NoError(t, err)
	b.Layers = nil
	for _, k := range []strata.Kind{
		strata.Prime, strata.Colour, strata.Chips, strata.Dust, strata.Mud, strata.Splash, strata.Streaks,
	} {
		l := k.Fresh()
		l.ID, l.Zones = ids(), nil
		b.Layers = append(b.Layers, l)
	}
	strata.Stacked(b.Layers)
	var d Deriver
	s, err := d.surface(b)
	require.NoError(t, err)
	g, err := d.grid(b, s)
	require.NoError(t, err)
	out := lived{b, s, g, map[strata.Kind]strata.Deposit{}}
	for _, l := range b.Layers[2:] {
		out.lies[l.Kind], err = d.lands(b, s, l)
		require.NoError(t, err)
	}
	return out
}

// One body in two scales, each square as large in life: what lies on it is the same, as long as no mark is
// finer than a hand can make in either.
func TestScalesAgree(t *testing.T) {
	t.Parallel()
	x := livedIn(t)
	run := landing.Running{Wheels: x.b.Wheels, Face: x.b.Face(), Width: x.b.Link.Width, Tracked: true}
	large := landing.NewSite(x.s.panels, x.g, nil, run, 35)
	small := landing.NewSite(x.s.panels, x.g, nil, run, 17.5)
	for _, l := range x.b.Layers[2:] {
		if size, marked := l.Marked(); marked {
			l.SizeMM = []float64{max(size[0], 8), max(size[1], 16)}
		} else if l.Kind == strata.Streaks {
			l.SizeMM = []float64{8, 16}
		}
		a, b := l.Deposit(large), l.Deposit(small)
		require.Len(t, b.Film, len(a.Film))
		most := 0.0
		for k := range a.Film {
			was, is := float64(a.Full)*float64(a.Film[k]), float64(b.Full)*float64(b.Film[k])
			most = math.Max(most, math.Abs(was-is)/255)
		}
		assert.LessOrEqual(t, most, float64(max(a.Full, b.Full))/255+1e-9, l.Kind)
		assert.Positive(t, len(a.Panels), l.Kind)
	}
}

// mean is how much of a layer lies in the mean where it is asked for, as a part of the thickest.
func (x lived) mean(k strata.Kind, where func(t *form.Texels, at form.Vec, texel int) bool) float64 {
	sum, area := 0.0, 0.0
	for _, t := range x.g.Texels {
		for n, a := range t.Area {
			if a > 0 && where(t, t.Point(n), n) {
				sum += float64(x.lies[k].Film[t.First+n]) * float64(a)
				area += float64(a)
			}
		}
	}
	return sum / math.Max(area, 1)
}

func on(names ...string) func(*form.Texels, form.Vec, int) bool {
	return func(t *form.Texels, _ form.Vec, _ int) bool { return zone.Among(t.Zone, names) }
}

// What wears a vehicle lies where a modeller would look for it.
func TestWearLiesWhereItWould(t *testing.T) {
	t.Parallel()
	x := livedIn(t)

	// Chips come at hatches and edges, hardly in the middle of plates.
	var hatches []form.Vec
	for _, h := range x.g.Texels {
		if zone.Among(h.Zone, []string{"turret.loader", "hull.hatch"}) || h.Zone == "hull.hatch.left" ||
			h.Zone == "hull.hatch.right" {
			for n, a := range h.Area {
				if a > 0 {
					hatches = append(hatches, h.Point(n))
				}
			}
		}
	}
	require.NotEmpty(t, hatches)
	flat := on("turret.roof", "hull.deck")
	away := func(at form.Vec) float64 {
		least := math.Inf(1)
		for _, h := range hatches {
			q := at.Sub(h)
			least = math.Min(least, math.Hypot(q[0], q[1]))
		}
		return least
	}
	near := x.mean(
		strata.Chips,
		func(g *form.Texels, at form.Vec, n int) bool { return flat(g, at, n) && away(at) <= 150 },
	)
	mid := x.mean(strata.Chips, func(g *form.Texels, at form.Vec, n int) bool {
		return flat(g, at, n) && g.Convex[n] > 200 && away(at) > 400
	})
	assert.Positive(t, near)
	assert.GreaterOrEqual(t, near, 5*mid, "chips by hatches beside the middle of plates")

	// Dust: low, sides, turret.
	low, sides, turret := x.mean(strata.Dust, on("lower")), x.mean(strata.Dust, on("hull.left", "hull.right")),
		x.mean(strata.Dust, on("turret"))
	assert.Positive(t, sides)
	assert.GreaterOrEqual(t, low, 2*sides)
	assert.GreaterOrEqual(t, sides, 2*turret)

	// Earth that is thrown stays inside fenders.
	fender := on("hull.fender", "hull.fender.left", "hull.fender.right", "hull.sponson")
	earth := func(inside bool) float64 {
		where := func(g *form.Texels, at form.Vec, n int) bool {
			return fender(g, at, n) && (g.Normal[2] < -0.3) == inside
		}
		return x.mean(strata.Mud, where) + x.mean(strata.Splash, where)
	}
	assert.Positive(t, earth(true))
	assert.GreaterOrEqual(t, earth(true), 3*earth(false))

	// No streak runs on what lies flat, and none without an edge or a chip above it.
	flats := x.mean(strata.Streaks, func(g *form.Texels, _ form.Vec, _ int) bool {
		return zone.Among(g.Zone, []string{"hull", "turret"}) && g.Normal[2] > 0.98
	})
	assert.InDelta(t, 0, flats, 1e-6)
	begun := map[uint64]bool{} // a streak that runs over an edge goes on lower down
	for _, m := range x.lies[strata.Streaks].Marks {
		goesOn := begun[m.Seed]
		begun[m.Seed] = true
		assert.True(
			t,
			goesOn || x.ends(m, 150) || x.below(m),
			"a streak on %s begins in the middle of the plate",
			x.g.Texels[m.Panel].Zone,
		)
	}

	// Left and right are no mirror images.
	for _, k := range []strata.Kind{strata.Chips, strata.Splash, strata.Streaks} {
		assert.Less(t, x.mirrored(x.lies[k].Marks), 0.05, k)
	}
}

// ends tells whether the plate on which a streak runs ends, or turns, at most so far above where it begins.
func (x lived) ends(m landing.Mark, far float64) bool {
	g := x.g.Texels[m.Panel]
	for up := 0.0; up <= far; up += g.Step / 2 {
		i, j := int(math.Floor((m.X-g.X0)/g.Step)), int(math.Floor((m.Y+up-g.Y0)/g.Step))
		if i < 0 || j < 0 || i >= g.NX || j >= g.NY || g.Area[j*g.NX+i] == 0 {
			return true
		}
		if n := j*g.NX + i; float64(min(g.Convex[n], g.Hollow[n])) < 2*g.Step {
			return true
		}
	}
	return false
}

// below tells whether a streak begins at a chip.
func (x lived) below(m landing.Mark) bool {
	for _, c := range x.lies[strata.Chips].Marks {
		if c.Panel == m.Panel && math.Hypot(c.X-m.X, c.Y-m.Y) <= math.Max(c.Wide, c.Long) {
			return true
		}
	}
	return false
}

// mirrored is the share of marks on the left that have their mirror image, to the millimetre, on the right.
func (x lived) mirrored(marks []landing.Mark) float64 {
	right := map[[3]int]bool{}
	var left [][3]int
	for _, m := range marks {
		at := x.g.Texels[m.Panel].Space(m.X, m.Y)
		cell := [3]int{int(math.Round(at[0])), int(math.Round(math.Abs(at[1]))), int(math.Round(at[2]))}
		if at[1] > 0 {
			left = append(left, cell)
		} else {
			right[cell] = true
		}
	}
	pairs := 0
	for _, c := range left {
		if right[c] {
			pairs++
		}
	}
	return float64(pairs) / math.Max(float64(len(left)), 1)
}

// On a grid no finer than its own a deposit is what it was; on a finer one each square has in the mean what
// it had, and marks have rims of their own: more of what they cover is covered whole.
func TestDepositsOnFinerGrids(t *testing.T) {
	t.Parallel()
	x := livedIn(t)
	windows := map[int]form.Window{}
	for p, of := range x.g.Texels {
		if zone.Among(of.Zone, []string{"turret", "lower.left"}) {
			windows[p] = form.Window{I1: of.NX, J1: of.NY}
		}
	}
	const times = 4
	same, fine := x.g.Finer(windows, 1), x.g.Finer(windows, times)
	whole := func(d strata.Deposit, g *form.Grid, p int) (n, all float64) {
		of := g.Texels[p]
		for k, a := range of.Area {
			if f := float64(d.Film[of.First+k]); a > 0 {
				all += f
				if f > 0.98*strata.Steps {
					n += f
				}
			}
		}
		return n, all
	}
	for _, l := range x.b.Layers[2:] {
		d := x.lies[l.Kind]
		one, many := d.Finer(l, x.g, same), d.Finer(l, x.g, fine)
		off, covered, coarsely, finely, all, allFine := 0.0, 0.0, 0.0, 0.0, 0.0, 0.0
		for p := range windows {
			of, s, f := x.g.Texels[p], same.Texels[p], fine.Texels[p]
			for k, a := range of.Area {
				if a == 0 {
					continue
				}
				was := float64(d.Film[of.First+k])
				require.InDelta(t, was, float64(one.Film[s.First+k]), 1, l.Kind)
				sum := 0.0
				for j := range times {
					for i := range times {
						sum += float64(many.Film[f.First+((k/of.NX)*times+j)*f.NX+(k%of.NX)*times+i])
					}
				}
				off += math.Abs(sum/times/times - was)
				covered += was
			}
			n, m := whole(d, x.g, p)
			coarsely, all = coarsely+n, all+m
			n, m = whole(many, fine, p)
			finely, allFine = finely+n, allFine+m
		}
		require.Positive(t, covered, l.Kind)
		assert.Less(t, off, 0.2*covered, l.Kind)
		if l.Kind == strata.Chips || l.Kind == strata.Splash {
			assert.Greater(t, finely/allFine, coarsely/all+0.1, l.Kind)
		}
	}
}
