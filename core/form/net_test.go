package form_test

import (
	"math"
	"strings"
	"testing"

	"cinderpath/core/form"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// netsOf are the nets of a zone.
func netsOf(panels []*form.Panel, zone string) (out []form.Net) {
	for _, n := range form.Nets(panels) {
		if panels[n.Members[0].Panel].Zone == zone {
			out = append(out, n)
		}
	}
	return out
}

// boxOf is how wide and high a net lies, across and along a direction in space of its first panel.
func reach(panels []*form.Panel, n form.Net, along form.Vec) (across, long float64) {
	first := panels[n.Members[0].Panel]
	o, e := first.Flat(first.Origin), first.Flat(first.Origin.Plus(along))
	d := [2]float64{e[0] - o[0], e[1] - o[1]}
	size := math.Hypot(d[0], d[1])
	d = [2]float64{d[0] / size, d[1] / size}
	low, high := [2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}
	for _, m := range n.Members {
		for _, piece := range m.Pieces(panels[m.Panel]) {
			for _, q := range piece {
				for k, v := range [2]float64{d[0]*q[1] - d[1]*q[0], d[0]*q[0] + d[1]*q[1]} {
					low[k], high[k] = min(low[k], v), max(high[k], v)
				}
			}
		}
	}
	return high[0] - low[0], high[1] - low[1]
}

// A barrel alone, far from all else.
func barrel(stations ...[2]float64) form.Body {
	b := box(1000, 1000, 500)
	b.Guns = []form.Gun{{ID: "gun", On: "hull", X: 20000, Z: 20000, Barrel: stations}}
	return b
}

// A barrel unrolls to a rectangle as wide as its girth, though it is drawn of flat strips.
func TestABarrelUnrollsToItsGirth(t *testing.T) {
	panels, err := form.Panels(barrel([2]float64{0, 70}, [2]float64{3000, 70}), form.Running{})
	require.NoError(t, err)
	nets := netsOf(panels, "gun")
	require.Len(t, nets, 3, "the barrel and its two ends")
	for _, n := range nets {
		if len(n.Members) == 1 {
			continue
		}
		across, long := reach(panels, n, form.Vec{1, 0, 0})
		assert.InEpsilon(t, 2*math.Pi*70, across, 1e-9)
		assert.InEpsilon(t, 3000, long, 1e-9)
		assert.InDelta(t, 1, panels[n.Members[0].Panel].Normal[2], 0.03, "begun above, so that the seam lies below")
	}
}

// A barrel that narrows unrolls to a piece of a ring: its two arcs have the girths at both ends, about one
// middle, as far apart as the slant is long.
func TestACartridgeUnrollsToARingPiece(t *testing.T) {
	const long, r0, r1 = 2000.0, 200.0, 80.0
	panels, err := form.Panels(barrel([2]float64{0, r0}, [2]float64{long, r1}), form.Running{})
	require.NoError(t, err)
	slant := math.Hypot(long, r0-r1)
	R0 := slant * r0 / (r0 - r1)
	for _, n := range netsOf(panels, "gun") {
		if len(n.Members) == 1 {
			continue
		}
		require.Len(t, n.Members, 14)
		// The middle of the ring lies on the first strip's own axis.
		first := panels[n.Members[0].Panel]
		var wide, narrow form.Vec
		for _, v := range first.Pieces[0] {
			if v[0] < 20000+1 {
				wide = wide.Plus(v.Times(0.5))
			} else {
				narrow = narrow.Plus(v.Times(0.5))
			}
		}
		a, b := n.Members[0].Flat(first.Flat(wide)), n.Members[0].Flat(first.Flat(narrow))
		k := R0 / math.Hypot(b[0]-a[0], b[1]-a[1])
		middle := [2]float64{a[0] + k*(b[0]-a[0]), a[1] + k*(b[1]-a[1])}
		turn := 0.0
		for _, m := range n.Members {
			p := panels[m.Panel]
			var at [][2]float64
			for _, v := range p.Pieces[0] {
				q := m.Flat(p.Flat(v))
				r := math.Hypot(q[0]-middle[0], q[1]-middle[1])
				if v[0] < 20000+1 {
					assert.InEpsilon(t, R0, r, 2e-3)
					at = append(at, q)
				} else {
					assert.InEpsilon(t, R0*r1/r0, r, 2e-3)
				}
			}
			require.Len(t, at, 2)
			turn += math.Hypot(at[1][0]-at[0][0], at[1][1]-at[0][1])
		}
		assert.InEpsilon(t, 2*math.Pi*r0, turn, 1e-3)
	}
}

// Each panel lies in one net, once; what is flat lies as it is, and comes back; neighbours over a fold lie
// beside each other and not over each other.
func TestNetsCoverAllAndOverlapNowhere(t *testing.T) {
	body := form.NewBody(form.Tracked, 6400, 3100, 2500)
	body.Turrets[0].Round = true
	panels, err := form.Panels(body, running(t, form.Tracked, 6400, 3100, 2500))
	require.NoError(t, err)
	seen := map[int]int{}
	joined := 0
	for _, n := range form.Nets(panels) {
		var middles [][2]float64
		for i := range n.Members {
			m := &n.Members[i]
			p := panels[m.Panel]
			seen[m.Panel]++
			assert.Equal(t, panels[n.Members[0].Panel].Zone, p.Zone)
			x0, y0, x1, y1 := p.FlatBox()
			a, b := [2]float64{x0, y0}, [2]float64{x1, y1}
			back := m.Back(m.Flat(a))
			assert.InDelta(t, 0, math.Hypot(back[0]-a[0], back[1]-a[1]), 1e-6)
			p0, p1 := m.Flat(a), m.Flat(b)
			ratio := math.Hypot(p1[0]-p0[0], p1[1]-p0[1]) / math.Hypot(b[0]-a[0], b[1]-a[1])
			if p.Round {
				assert.InDelta(t, 1.02, ratio, 0.02+1e-9, "an arc is longer than its chord, by 4 % at most here")
			} else {
				assert.InDelta(t, 1, ratio, 1e-9)
			}
			for _, k := range m.Folds {
				assert.True(t, p.Lines[k].Smooth)
			}
			joined += len(m.Folds)
			for _, piece := range m.Pieces(p) {
				middle := [2]float64{}
				for _, q := range piece {
					middle[0] += q[0] / float64(len(piece))
					middle[1] += q[1] / float64(len(piece))
				}
				middles = append(middles, middle)
			}
		}
		for i := range n.Members {
			m := &n.Members[i]
			inside := 0
			for _, q := range middles {
				if panels[m.Panel].Holds(m.Back(q)) {
					inside++
				}
			}
			assert.Equal(
				t,
				len(panels[m.Panel].Pieces),
				inside,
				"%s holds the middles of its own pieces alone",
				panels[m.Panel].Name,
			)
		}
	}
	assert.Len(t, seen, len(panels))
	for i, times := range seen {
		assert.Equal(t, 1, times, panels[i].Name)
	}
	assert.Greater(t, joined, 40)
}

// A domed turret unrolls in rings or gores, not in stars: about a corner of which the angles do not make a
// full turn no net has more than two of its four strips.
func TestADomeUnrollsInStrips(t *testing.T) {
	body := form.NewBody(form.Tracked, 6400, 3100, 2500)
	body.Turrets[0].Round = true
	panels, err := form.Panels(body, form.Running{})
	require.NoError(t, err)
	at := func(v form.Vec) (out [3]int64) {
		for k := range 3 {
			out[k] = int64(math.Round(v[k]))
		}
		return out
	}
	hard := map[[3]int64]bool{} // corners that an edge runs to
	for _, p := range panels {
		for _, l := range p.Lines {
			if !l.Smooth || l.Joint {
				hard[at(l.A)], hard[at(l.B)] = true, true
			}
		}
	}
	strips, nets := 0, 0
	for _, n := range form.Nets(panels) {
		zone := panels[n.Members[0].Panel].Zone
		if !strings.HasPrefix(zone, "turret.") || !panels[n.Members[0].Panel].Round {
			continue
		}
		nets++
		about := map[[3]int64]int{}
		for _, m := range n.Members {
			p := panels[m.Panel]
			strips++
			for _, l := range p.Lines {
				if l.Beyond != (form.Vec{}) {
					about[at(l.A)]++
				}
			}
		}
		for c, k := range about {
			if !hard[c] {
				assert.LessOrEqual(t, k, 2, zone)
			}
		}
	}
	assert.Greater(t, strips, 3*nets, "%d nets", nets)
}
