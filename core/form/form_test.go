package form_test

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/gear"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func box(l, w, h float64) form.Body {
	return form.Body{
		Hulls: []form.Hull{{ID: "hull", Width: w, Profile: [][2]float64{{-l / 2, 0}, {l / 2, 0}, {l / 2, h}, {-l / 2, h}}}},
	}
}

func areaOf(panels []*form.Panel) (sum float64) {
	for _, p := range panels {
		sum += p.Area()
	}
	return sum
}

// running is the gear of an outline, its track laid.
func running(t require.TestingT, kind form.Kind, l, w, h float64) form.Running {
	wheels, link := form.NewWheels(kind, l, w, h)
	run := form.Running{Wheels: wheels, Face: w/2 - 20, Width: link.Width, Link: link}
	if kind.HasTrack() {
		loop, err := gear.Taut(wheels, link)
		require.NoError(t, err)
		hang, err := gear.Hang(wheels, link, loop, loop.Slack)
		require.NoError(t, err)
		run.Pins = gear.Chain(hang.Outline(loop, wheels, link), loop.Links)
	}
	return run
}

func TestBoxHasItsClosedFormArea(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		size := rapid.Float64Range(100, 9000)
		l, w, h := size.Draw(t, "l"), size.Draw(t, "w"), size.Draw(t, "h")
		panels, err := form.Panels(box(l, w, h), form.Running{})
		require.NoError(t, err)
		assert.InEpsilon(t, 2*(l*w+l*h+w*h), areaOf(panels), 1e-9)
		volume, err := form.Volume(box(l, w, h))
		require.NoError(t, err)
		assert.InEpsilon(t, l*w*h, volume, 1e-6)
	})
}

// A frustum: the slant faces are trapezoids of known height, the volume is the
// prismoid's.
func TestSlopedFacesHaveTheirTrapezoidArea(t *testing.T) {
	b := box(4000, 2000, 500)
	b.Hulls[0].Profile[2][0], b.Hulls[0].Profile[3][0], b.Hulls[0].InSide = 1700, -1700, 200
	panels, err := form.Panels(b, form.Running{})
	require.NoError(t, err)
	ends := 2 * (2000 + 1600) / 2 * math.Hypot(300, 500)
	sides := 2 * (4000 + 3400) / 2 * math.Hypot(200, 500)
	assert.InEpsilon(t, 4000*2000+3400*1600+ends+sides, areaOf(panels), 1e-9)
	volume, err := form.Volume(b)
	require.NoError(t, err)
	assert.InEpsilon(t, 500.0/6*(4000*2000+4*3700*1800+3400*1600), volume, 1e-6)
}

// Round parts against the closed forms of the cylinder, within what their strips take.
func TestRoundPartsAgainstCylinders(t *testing.T) {
	b := box(4000, 2000, 500)
	b.Guns = []form.Gun{{ID: "gun", On: "hull", X: 2000, Z: 250, Barrel: [][2]float64{{0, 80}, {2500, 80}}}}
	with, err := form.Volume(b)
	require.NoError(t, err)
	facets := 14.0
	ngon := facets / 2 * 80 * 80 * math.Sin(2*math.Pi/facets)
	assert.InEpsilon(t, 4000*2000*500+ngon*2500, with, 1e-6)
	panels, err := form.Panels(b, form.Running{})
	require.NoError(t, err)
	side := facets * 2 * 80 * math.Sin(math.Pi/facets) * 2500
	// The barrel's foot and as much of the hull's front are hidden.
	assert.InEpsilon(t, 2*(4000*2000+4000*500+2000*500)+side, areaOf(panels), 1e-9)
}

// The area that a turret stands on carries no paint, nor does its floor.
func TestFootprintIsTakenOffTheDeck(t *testing.T) {
	b := box(4000, 2000, 500)
	b.Turrets = []form.Turret{
		{ID: "turret", On: "hull", Ring: 300, Height: 400, Plan: [][2]float64{{500, 400}, {-500, 400}}},
	}
	panels, err := form.Panels(b, form.Running{})
	require.NoError(t, err)
	assert.InEpsilon(t, float64(2*(4000*2000+4000*500+2000*500)+2*400*(1000+800)), areaOf(panels), 1e-9)
}

// Boxes thrown at random into and over one another: the shown area against points
// thrown on all faces, each asked by itself whether it lies in another box.
func TestHiddenFacesAgainstThrownPoints(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 12))
	for trial := range 25 {
		type cuboid struct{ low, high [3]float64 }
		var all []cuboid
		var b form.Body
		for i := range 2 + r.IntN(5) {
			c := cuboid{}
			for k := range 3 {
				c.low[k] = math.Round(1500 * (r.Float64() - 0.5))
				c.high[k] = c.low[k] + 200 + math.Round(900*r.Float64())
			}
			c.low[1], c.high[1] = -c.high[1]-300, c.high[1]+300 // hulls lie about the middle
			if c.high[1] < c.low[1] {
				c.low[1], c.high[1] = c.high[1], c.low[1]
			}
			all = append(all, c)
			b.Hulls = append(b.Hulls, form.Hull{ID: fmt.Sprintf("part%d", i), Width: c.high[1] - c.low[1],
				Profile: [][2]float64{{c.low[0], c.low[2]}, {c.high[0], c.low[2]}, {c.high[0], c.high[2]}, {c.low[0], c.high[2]}}})
		}
		panels, err := form.Panels(b, form.Running{})
		require.NoError(t, err)
		thrown := 0.0
		const trials = 4000
		for i, c := range all {
			for axis := range 3 {
				for _, at := range []float64{c.low[axis], c.high[axis]} {
					u, v := (axis+1)%3, (axis+2)%3
					area := (c.high[u] - c.low[u]) * (c.high[v] - c.low[v])
					open := 0
					for range trials {
						p := [3]float64{}
						p[axis] = at
						p[u], p[v] = c.low[u]+r.Float64()*(c.high[u]-c.low[u]), c.low[v]+r.Float64()*(c.high[v]-c.low[v])
						covered := false
						for j, o := range all {
							in := j != i
							for k := range 3 {
								in = in && p[k] > o.low[k] && p[k] < o.high[k]
							}
							covered = covered || in
						}
						if !covered {
							open++
						}
					}
					thrown += area * float64(open) / trials
				}
			}
		}
		assert.InEpsilon(t, thrown, areaOf(panels), 0.02, "trial %d", trial)
	}
}

// Every outline at many sizes: each part is a closed mesh that turns one way round, no
// part stands in a wheel, and the grid has the panels' area.
func TestEveryOutlineIsClosedAndFits(t *testing.T) {
	for _, kind := range form.Kinds {
		t.Run(string(kind), func(t *testing.T) {
			rapid.Check(t, func(t *rapid.T) {
				l := rapid.Float64Range(3500, 9000).Draw(t, "l")
				w := rapid.Float64Range(0.4, 0.52).Draw(t, "w") * l
				h := rapid.Float64Range(0.34, 0.46).Draw(t, "h") * l
				b := form.NewBody(kind, l, w, h)
				require.NoError(t, b.Check())
				run := running(t, kind, l, w, h)
				require.NoError(
					t,
					form.Clash(b, run.Wheels, run.Face, run.Width, func(i int) string { return fmt.Sprint("wheel ", i) }),
				)
				parts, err := form.Meshes(b, run)
				require.NoError(t, err)
				for _, p := range parts {
					s := p.Mesh.Measure()
					assert.True(t, s.Closed, "%s: %d open, %d crowded edges", p.Zone, s.Open, s.Crowded)
					assert.Positive(t, s.Volume, p.Zone)
				}
			})
			b, run := form.NewBody(kind, 6000, 2800, 2400), running(t, kind, 6000, 2800, 2400)
			panels, err := form.Panels(b, run)
			require.NoError(t, err)
			grid, sum := form.NewGrid(panels, 17.5), 0.0
			for _, a := range grid.Area {
				sum += a
			}
			assert.InEpsilon(t, areaOf(panels), sum, 0.0005)
			low, high, _ := form.Extent(
				panels,
				func(zone string) bool { return strings.HasPrefix(zone, "hull") || strings.HasPrefix(zone, "gear") },
			)
			assert.InDelta(t, 0, low[2], 6, "it stands on the ground, but for the corners of its tyres")
			assert.InDelta(t, 2800, high[1]-low[1], 0.12*2800, "and is about as wide as told")
		})
	}
}

// Texels of any size cover what panels cover, exactly but for rounding, also where the
// panel is a thin strip or of many pieces; and sides that mirror each other have equal areas.
func TestTexelsCoverThePanels(t *testing.T) {
	b, run := form.NewBody(form.Tracked, 6400, 3100, 2520), running(t, form.Tracked, 6400, 3100, 2520)
	panels, err := form.Panels(b, run)
	require.NoError(t, err)
	for _, step := range []float64{7, 17.5, 60} {
		g := form.NewGrid(panels, step)
		for i, texels := range g.Texels {
			sum := 0.0
			for _, a := range texels.Area {
				sum += float64(a)
				assert.LessOrEqual(t, float64(a), step*step*1.000001)
			}
			assert.InEpsilon(t, panels[i].Area(), sum, 1e-4, panels[i].Name)
		}
		assert.InEpsilon(t, g.Area["gear.left.track"], g.Area["gear.right.track"], 1e-6)
		lies := g.Facings["hull.deck"]
		assert.InEpsilon(t, g.Area["hull.deck"], lies["flat"], 1e-6)
		assert.Zero(t, lies["upright"])
	}
}

// Distances to edges: on a lone box all edges are outer corners, and a texel's distance
// is that to the nearest rim; a turret's foot makes a hollow in the deck.
func TestTexelsKnowTheirEdges(t *testing.T) {
	b := box(1000, 600, 300)
	panels, err := form.Panels(b, form.Running{})
	require.NoError(t, err)
	const step = 10.0
	for _, tx := range form.NewGrid(panels, step).Texels {
		for k := range tx.Area {
			p := tx.Point(k)
			want := math.Inf(1)
			for axis, half := range []float64{500, 300, 0} {
				if math.Abs(tx.Normal[axis]) > 0.5 {
					continue
				}
				if axis == 2 {
					want = min(want, p[2], 300-p[2])
				} else {
					want = min(want, half-math.Abs(p[axis]))
				}
			}
			if tx.Area[k] > 0 && want < 100 {
				assert.InDelta(t, want, float64(tx.Convex[k]), 1e-3, tx.Zone)
			}
			assert.True(t, math.IsInf(float64(tx.Hollow[k]), 1))
		}
	}
	b.Turrets = []form.Turret{
		{ID: "turret", On: "hull", Ring: 100, Height: 100, Plan: [][2]float64{{150, 120}, {-150, 120}}},
	}
	panels, err = form.Panels(b, form.Running{})
	require.NoError(t, err)
	near := 0
	for _, tx := range form.NewGrid(panels, step).Texels {
		for k, d := range tx.Hollow {
			if p := tx.Point(k); tx.Zone == "hull.deck" && tx.Area[k] > 0 && d < 60 {
				near++
				dx, dy := max(math.Abs(p[0])-150, 0), max(math.Abs(p[1])-120, 0)
				assert.InDelta(t, math.Hypot(dx, dy), float64(d), 1e-3)
			}
		}
	}
	assert.Greater(t, near, 100)
}

func TestViewsMeetAndKeepTheirSize(t *testing.T) {
	panels, err := form.Panels(box(6400, 3100, 2500), form.Running{})
	require.NoError(t, err)
	by := map[form.Side]form.Sight{}
	for _, v := range form.Sights(panels, 35) {
		by[v.Side] = v
		assert.Len(t, v.Edges, 4, "four edges where a box ends")
		for _, e := range v.Edges {
			assert.Equal(t, form.Heavy, e.Weight)
		}
	}
	assert.InDelta(t, 6400.0/35, by[form.Left].Width, 1e-9)
	assert.InDelta(t, 2500.0/35, by[form.Left].Height, 1e-9)
	assert.InDelta(t, by[form.Left].X, by[form.Top].X, 1e-9, "top stands above left")
	assert.InDelta(t, by[form.Left].Y, by[form.Rear].Y, 1e-9)
	assert.InDelta(t, 3100.0/35, by[form.Front].Width, 1e-9)
}

// What is seen at random points of every view of every outline is the nearest face that a
// ray finds, and lies where the view's map to the face says.
func TestTheNearestFaceIsSeen(t *testing.T) {
	for _, kind := range form.Kinds {
		panels, err := form.Panels(form.NewBody(kind, 6000, 2800, 2400), running(t, kind, 6000, 2800, 2400))
		require.NoError(t, err)
		hits, wrong := 0, 0
		sights := form.Sights(panels, 35)
		for i := range sights {
			s := &sights[i]
			r := s.Raster(s.Whole(), s.Width/14.3)
			for at, seen := range r.Panel {
				x, y := r.X+float64(at%r.NX)*r.Step, r.Y+float64(at/r.NX)*r.Step
				point, _, ok := form.Pick(s.Side, panels, 35, [2]float64{x, y})
				if ok != (seen >= 0) {
					wrong++
					continue
				}
				if !ok {
					continue
				}
				hits++
				u, v := s.Flats[seen].At(x, y)
				back := panels[seen].Space(u, v)
				// Faces that touch in one line of sight may be told either way.
				if math.Hypot(math.Hypot(back[0]-point[0], back[1]-point[1]), back[2]-point[2]) > 2 {
					wrong++
				}
			}
		}
		assert.Greater(t, hits, 200, kind)
		assert.LessOrEqual(t, float64(wrong), 0.005*float64(hits), "%s: %d of %d", kind, wrong, hits)
	}
}

// Hidden lines right: a line of a face is drawn where a ray finds nothing nearer, and not
// where something is; at random places of all outlines.
func TestHiddenLinesAreLeftOut(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 9))
	for _, kind := range []form.Kind{form.Tracked, form.Wheeled, form.HalfTrack} {
		panels, err := form.Panels(form.NewBody(kind, 6000, 2800, 2400), running(t, kind, 6000, 2800, 2400))
		require.NoError(t, err)
		shown, missing, looked, leaking := 0, 0, 0, 0
		for _, s := range form.Sights(panels, 35) {
			f := form.NewFrame(s.Side, panels, 35)
			drawn := func(at [2]float64) bool {
				for _, e := range s.Edges {
					dx, dy := e.B[0]-e.A[0], e.B[1]-e.A[1]
					k := min(max(((at[0]-e.A[0])*dx+(at[1]-e.A[1])*dy)/max(dx*dx+dy*dy, 1e-12), 0), 1)
					if math.Hypot(e.A[0]+k*dx-at[0], e.A[1]+k*dy-at[1]) < 0.02 {
						return true
					}
				}
				return false
			}
			for range 150 {
				p := panels[random.IntN(len(panels))]
				if len(p.Lines) == 0 || f.Nearer(p.Normal, form.Vec{}) < 0.2 {
					continue
				}
				l := p.Lines[random.IntN(len(p.Lines))]
				if l.Smooth || l.Joint {
					continue
				}
				var v form.Vec
				k := 0.1 + 0.8*random.Float64()
				for axis := range 3 {
					v[axis] = l.A[axis] + k*(l.B[axis]-l.A[axis])
				}
				at := f.Flat(v)
				// How far what is seen beside the place lies before it.
				most := math.Inf(-1)
				for _, by := range [][2]float64{{0.06, 0.06}, {-0.06, 0.06}, {0.06, -0.06}, {-0.06, -0.06}} {
					front, _, ok := form.Pick(s.Side, panels, 35, [2]float64{at[0] + by[0], at[1] + by[1]})
					before := -1e6
					if ok {
						before = f.Nearer(front, v)
					}
					most = max(most, before)
				}
				if most < 10 {
					shown++
					if !drawn(at) {
						missing++
					}
				}
			}
			// Of what is drawn, some line of the body lies there no deeper than what is seen.
			for range 40 {
				e := s.Edges[random.IntN(len(s.Edges))]
				at := [2]float64{(e.A[0] + e.B[0]) / 2, (e.A[1] + e.B[1]) / 2}
				front, _, ok := form.Pick(s.Side, panels, 35, at)
				if !ok {
					continue
				}
				looked++
				near := false
				for _, p := range panels {
					for _, l := range p.Lines {
						a, b := f.Flat(l.A), f.Flat(l.B)
						dx, dy := b[0]-a[0], b[1]-a[1]
						k := min(max(((at[0]-a[0])*dx+(at[1]-a[1])*dy)/max(dx*dx+dy*dy, 1e-12), 0), 1)
						if math.Hypot(a[0]+k*dx-at[0], a[1]+k*dy-at[1]) < 0.03 {
							var v form.Vec
							for axis := range 3 {
								v[axis] = l.A[axis] + k*(l.B[axis]-l.A[axis])
							}
							near = near || f.Nearer(front, v) < 10
						}
					}
				}
				if !near {
					leaking++
				}
			}
		}
		assert.Greater(t, shown, 20, kind)
		assert.Greater(t, looked, 100, kind)
		assert.LessOrEqual(
			t,
			float64(missing),
			0.06*float64(shown),
			"%s: %d of %d lines that are seen are not drawn",
			kind,
			missing,
			shown,
		)
		assert.LessOrEqual(
			t,
			float64(leaking),
			0.02*float64(looked),
			"%s: %d of %d lines that are drawn lie behind a face",
			kind,
			leaking,
			looked,
		)
	}
}

// A zone's outlines hold the points where the raster sees it, and no others.
func TestOutlinesHoldWhatIsSeenOfAZone(t *testing.T) {
	panels, err := form.Panels(form.NewBody(form.Tracked, 6000, 2800, 2400), running(t, form.Tracked, 6000, 2800, 2400))
	require.NoError(t, err)
	sights := form.Sights(panels, 35)
	for i := range sights {
		s := &sights[i]
		outlines := s.Outlines(panels)
		r := s.Raster(s.Whole(), s.Width/61)
		right, all := 0, 0
		for at, p := range r.Panel {
			q := [2]float64{r.X + float64(at%r.NX)*r.Step, r.Y + float64(at/r.NX)*r.Step}
			for _, o := range outlines {
				in := false
				for _, ring := range o.Rings {
					if inside(ring, q) {
						in = !in
					}
				}
				is := p >= 0 && panels[p].Zone == o.Zone
				if in || is {
					all++
					if in == is {
						right++
					}
				}
			}
		}
		require.Greater(t, all, 300)
		assert.Greater(
			t,
			float64(right),
			0.9*float64(all),
			"%s: %d of %d; rims are a third of a millimetre wide",
			s.Side,
			right,
			all,
		)
	}
}

func inside(ring form.Ring, q [2]float64) bool {
	in := false
	for i, j := 0, len(ring)-1; i < len(ring); j, i = i, i+1 {
		a, b := ring[i], ring[j]
		if (a[1] > q[1]) != (b[1] > q[1]) && q[0] < (b[0]-a[0])*(q[1]-a[1])/(b[1]-a[1])+a[0] {
			in = !in
		}
	}
	return in
}

func TestRingRoundTrip(t *testing.T) {
	in := form.Ring{{1.234567, -0.001}, {200.555, 3}, {0, 0}}
	data, err := json.Marshal(in)
	require.NoError(t, err)
	assert.Equal(t, "[1.23,0,200.56,3,0,0]", string(data))
	var back form.Ring
	require.NoError(t, json.Unmarshal(data, &back))
	assert.Len(t, back, 3)
}

// What was made of blocks and tubes reads as the same shape.
func TestBodiesOfBlocksAreRead(t *testing.T) {
	var b form.Body
	require.NoError(
		t,
		json.Unmarshal(
			[]byte(
				`{"blocks":[{"id":"hull","rear":-2000,"front":2000,"base":0,"top":500,"width":2000,"inFront":300,"inRear":300,"inSide":200}],
		"tubes":[{"id":"gun","rear":1000,"front":3000,"y":0,"z":900,"radius":50}]}`,
			),
			&b,
		),
	)
	require.NoError(t, b.Check())
	panels, err := form.Panels(form.Body{Hulls: b.Hulls}, form.Running{})
	require.NoError(t, err)
	assert.InEpsilon(t, 4000*2000+3400*1600+3600*math.Hypot(300, 500)+7400*math.Hypot(200, 500), areaOf(panels), 1e-9)
	assert.Equal(t, [][2]float64{{0, 50}, {2000, 50}}, b.Guns[0].Barrel)
	assert.Error(t, json.Unmarshal([]byte(`{"hulls":[],"colour":1}`), &b), "unknown fields are slips")
}

// Stretching a body stretches its box.
func TestStretch(t *testing.T) {
	b := form.NewBody(form.Tracked, 6000, 2800, 2400)
	wide := b.Stretch(1.5, 1.2, 0.9)
	require.NoError(t, wide.Check())
	low, high := extents(t, b)
	l, h := extents(t, wide)
	for k, by := range []float64{1.5, 1.2, 0.9} {
		assert.InEpsilon(t, by*(high[k]-low[k]), h[k]-l[k], 0.05)
	}
}

func extents(t *testing.T, b form.Body) (low, high form.Vec) {
	panels, err := form.Panels(b, form.Running{})
	require.NoError(t, err)
	low, high, _ = form.Extent(panels, func(string) bool { return true })
	return low, high
}

// A missing section bares what it covered; a bent corner moves by what was told.
func TestDamageIsPartOfTheBody(t *testing.T) {
	b := box(4000, 2000, 500)
	b.Skirts = []form.Skirt{
		{ID: "skirt", Rear: -1000, Front: 1000, Base: -300, Top: 300, Out: 1006, Thick: 6, Sections: 4},
	}
	whole, err := form.Panels(b, form.Running{})
	require.NoError(t, err)
	side := func(panels []*form.Panel, zone string) (sum float64) {
		for _, p := range panels {
			if p.Zone == zone {
				sum += p.Area()
			}
		}
		return sum
	}
	assert.InDelta(t, 4000*500-2000*300, side(whole, "hull.left"), 1, "the skirt lies on the hull's side")
	b.Damage = []form.Damage{{Part: "skirt", Side: "left", Section: 2, Kind: form.Missing}}
	broken, err := form.Panels(b, form.Running{})
	require.NoError(t, err)
	assert.InDelta(t, 4000*500-1500*300, side(broken, "hull.left"), 1, "what it bares becomes surface")
	assert.InDelta(t, side(whole, "hull.right"), side(broken, "hull.right"), 1e-6)
	b.Damage = []form.Damage{{Part: "skirt", Side: "right", Section: 1, Kind: form.Bent, By: 120}}
	low, _ := extents(t, b)
	assert.InDelta(t, -1126, low[1], 1e-6)
	parts, err := form.Meshes(b, form.Running{})
	require.NoError(t, err)
	for _, p := range parts {
		assert.True(t, p.Mesh.Measure().Closed, p.Zone)
	}
}

// Every kind of fitting, on a deck and on an upright side, mirrored: closed, on its
// face, and in the zone of its host.
func TestEveryFittingIsClosedAndStandsOnItsFace(t *testing.T) {
	for _, kind := range form.FittingKinds() {
		b := box(4000, 2000, 800)
		b.Fittings = []form.Fitting{
			{
				ID:     "top",
				Kind:   kind,
				On:     "hull.deck",
				At:     form.Vec{300, 500, 0},
				Size:   [3]float64{400, 300, 120},
				Count:  4,
				Turn:   30,
				Mirror: true,
			},
			{ID: "side", Kind: kind, On: "hull.left", At: form.Vec{-500, 0, 400}, Size: [3]float64{300, 200, 80}},
		}
		parts, err := form.Meshes(b, form.Running{})
		require.NoError(t, err, kind)
		zones, lowest := map[string]int{}, math.Inf(1)
		for _, p := range parts {
			s := p.Mesh.Measure()
			assert.True(t, s.Closed, "%s: %s", kind, p.Zone)
			assert.Positive(t, s.Volume, "%s: %s", kind, p.Zone)
			zones[p.Zone]++
			if strings.HasPrefix(p.Zone, "hull.top") {
				assert.GreaterOrEqual(t, s.High[2], 800.0, kind)
				lowest = min(lowest, s.Low[2])
			}
		}
		assert.LessOrEqual(t, lowest, 800.1, "%s stands on the deck", kind)
		assert.Equal(t, zones["hull.top.left"], zones["hull.top.right"])
		assert.Positive(t, zones["hull.top.left"])
		assert.Positive(t, zones["hull.side"])
	}
}

func TestImpossibleBodiesAreTold(t *testing.T) {
	for name, c := range map[string]struct {
		want   string
		change func(*form.Body)
	}{
		"no hull":             {"no hull", func(b *form.Body) { b.Hulls = nil }},
		"self-crossing":       {"crosses itself between points", func(b *form.Body) { p := b.Hulls[0].Profile; p[0], p[1] = p[1], p[0] }},
		"two points":          {"needs 3 to", func(b *form.Body) { b.Hulls[0].Profile = b.Hulls[0].Profile[:2] }},
		"no width":            {"no width", func(b *form.Body) { b.Hulls[0].Width = 0 }},
		"sides meet":          {"sides meet", func(b *form.Body) { b.Hulls[0].InSide = 4000 }},
		"same name":           {"another part has that name", func(b *form.Body) { b.Turrets[0].ID = "hull" }},
		"odd name":            {"small letters", func(b *form.Body) { b.Turrets[0].ID = "Turm 1" }},
		"turret off the deck": {"ring reaches beyond the deck of hull at the front", func(b *form.Body) { b.Turrets[0].X = 2000 }},
		"turret too wide":     {"ring reaches beyond the deck", func(b *form.Body) { b.Turrets[0].Ring = 2000 }},
		"turret on nothing":   {"which is not below it", func(b *form.Body) { b.Turrets[0].On = "tower" }},
		"cupola off the roof": {"beyond the roof of turret", func(b *form.Body) { b.Turrets[1].Y = 900 }},
		"slopes cross":        {"slopes cross", func(b *form.Body) { b.Turrets[0].InSide = 3000 }},
		"plan on the right":   {"left half only", func(b *form.Body) { b.Turrets[0].Plan[1][1] = -5 }},
		"falling barrel":      {"station 2", func(b *form.Body) { b.Guns[0].Barrel[1][0] = -5 }},
		"fender inside out":   {"beyond the inner one", func(b *form.Body) { b.Fenders[0].Outer = 1 }},
		"thin as a hair":      {"thickness above", func(b *form.Body) { b.Fenders[0].Thick = 0.1 }},
		"damage to nothing":   {"no fender or skirt", func(b *form.Body) { b.Damage = []form.Damage{{Part: "door"}} }},
		"section":             {"no section 9", func(b *form.Body) { b.Damage = []form.Damage{{Part: "fender", Section: 9}} }},
		"fitting beside":      {"lies beside", func(b *form.Body) { b.Fittings[0].At = form.Vec{9000, 0, 0} }},
		"fitting on nothing":  {"no face", func(b *form.Body) { b.Fittings[0].On = "keel.front" }},
		"unknown fitting":     {"no fitting; use one of", func(b *form.Body) { b.Fittings[0].Kind = "sofa" }},
	} {
		t.Run(name, func(t *testing.T) {
			b := form.NewBody(form.Tracked, 6400, 3100, 2520)
			c.change(&b)
			_, err := form.Panels(b, form.Running{})
			assert.ErrorContains(t, err, c.want)
		})
	}
	b := form.NewBody(form.Tracked, 6400, 3100, 2520)
	wheels, link := form.NewWheels(form.Tracked, 6400, 3100, 2520)
	b.Hulls[0].Width = 3000
	err := form.Clash(b, wheels, 1530, link.Width, func(int) string { return "sprocket" })
	assert.ErrorContains(t, err, "stands")
}

// Room between parts that must not touch, on a box whose numbers are plain.
func TestGaps(t *testing.T) {
	b := box(4000, 1200, 900)
	b.Fenders = []form.Fender{
		{ID: "fender", Line: [][2]float64{{2000, 1000}, {-2000, 1000}}, Inner: 600, Outer: 1100, Thick: 5},
	}
	b.Skirts = []form.Skirt{{ID: "skirt", Rear: -1000, Front: 1000, Base: 400, Top: 995, Out: 1100, Thick: 4, Sections: 2}}
	wheels := []gear.Wheel{
		{Kind: gear.Idler, X: -1500, Z: 500, Radius: 300},
		{Kind: gear.Idler, X: 1500, Z: 500, Radius: 300},
	}
	gaps := form.Gaps(b, wheels, 1050, 400, [][2]float64{{-1500, 830}, {1500, 830}, {0, 150}}, gear.Link{Ground: 25})
	room := map[string]float64{}
	for _, g := range gaps {
		room[g.Between] = g.Real
	}
	assert.InDelta(t, 1050-400-600, room["wheel back and hull"], 1e-9)
	assert.InDelta(t, 1100-4-1050, room["wheel face and skirt"], 1e-9)
	assert.InDelta(t, 1000-5-855, room["track and fender"], 1e-9)
}

func ExamplePanels() {
	panels, _ := form.Panels(box(4000, 2000, 1000), form.Running{})
	for _, p := range panels {
		fmt.Printf("%s %.1f m²\n", p.Zone, p.Area()/1e6)
	}
	// Unordered output:
	// hull.sponson 8.0 m²
	// hull.glacis 2.0 m²
	// hull.deck 8.0 m²
	// hull.rear 2.0 m²
	// hull.left 4.0 m²
	// hull.right 4.0 m²
}

// The Varrow's surface at half a millimetre of the model, beside the time to write
// that much memory.
func BenchmarkGridVarrow(b *testing.B) {
	panels, err := form.Panels(form.NewBody(form.Tracked, 6400, 3100, 2520), running(b, form.Tracked, 6400, 3100, 2520))
	require.NoError(b, err)
	texels := 0
	b.Run("grid", func(b *testing.B) {
		for b.Loop() {
			texels = 0
			for _, t := range form.NewGrid(panels, 17.5).Texels {
				texels += len(t.Area)
			}
		}
		b.ReportMetric(float64(texels), "texels")
	})
	b.Run("memory", func(b *testing.B) {
		for b.Loop() {
			all := make([]float32, 3*texels)
			for i := range all {
				all[i] = float32(i)
			}
		}
	})
}

func BenchmarkPanels(b *testing.B) {
	body, run := form.NewBody(form.Tracked, 6400, 3100, 2520), running(b, form.Tracked, 6400, 3100, 2520)
	for b.Loop() {
		if _, err := form.Panels(body, run); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkSights(b *testing.B) {
	panels, err := form.Panels(form.NewBody(form.Tracked, 6400, 3100, 2520), running(b, form.Tracked, 6400, 3100, 2520))
	require.NoError(b, err)
	for b.Loop() {
		form.Sights(panels, 35)
	}
}

// Wheels that run on the road are joined by an axle; tracked ones are not.
func TestAxlesJoinTheTyres(t *testing.T) {
	for kind, want := range map[form.Kind]int{form.Tracked: 0, form.Wheeled: 2, form.Wheeled6: 3, form.HalfTrack: 1} {
		run := running(t, kind, 6000, 2900, 2400)
		parts, err := form.Meshes(form.NewBody(kind, 6000, 2900, 2400), run)
		require.NoError(t, err)
		n := 0
		for _, p := range parts {
			if p.Zone != "gear.axle" {
				continue
			}
			n++
			m := p.Mesh.Measure()
			assert.True(t, m.Closed)
			var low, high float32
			for _, v := range p.Mesh.Points {
				low, high = min(low, v[1]), max(high, v[1])
			}
			assert.InDelta(t, run.Face-run.Width, float64(high), 1e-3, "it reaches the back of the wheel")
			assert.InDelta(t, -high, low, 1e-3)
		}
		assert.Equal(t, want, n, "%v", kind)
	}
}

// Noise that remembers its cell says what noise says that does not, whichever way it is gone through.
func TestNoiseThatRemembersIsTheSame(t *testing.T) {
	var near form.Lattice
	rapid.Check(t, func(t *rapid.T) {
		seed := rapid.Uint64Range(0, 20).Draw(t, "seed")
		x, y, z := rapid.Float64Range(
			-3,
			3,
		).Draw(
			t,
			"x",
		), rapid.Float64Range(
			-3,
			3,
		).Draw(
			t,
			"y",
		), rapid.Float64Range(
			-3,
			3,
		).Draw(
			t,
			"z",
		)
		v := form.Noise(seed, x, y, z)
		assert.Equal(t, v, near.Noise(seed, x, y, z))
		assert.InDelta(t, v, near.Noise(seed, x+1e-9, y, z), 1e-7, "it is smooth")
		assert.Equal(t, v, (*form.Lattice)(nil).Noise(seed, x, y, z))
		assert.LessOrEqual(t, math.Abs(v), 1.0)
	})
}
