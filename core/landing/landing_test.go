package landing_test

import (
	"math"
	"slices"
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/landing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// block is a box in space, as panels of its own.
func block(zone string, low, high form.Vec) (out []*form.Panel) {
	for axis := range 3 {
		for _, sign := range []float64{1, -1} {
			p := &form.Panel{Zone: zone, Name: zone}
			p.Normal[axis] = sign
			u, v := (axis+1)%3, (axis+2)%3
			corner := low
			if sign > 0 {
				corner[axis] = high[axis]
			}
			at := func(a, b bool) form.Vec {
				c := corner
				if a {
					c[u] = high[u]
				}
				if b {
					c[v] = high[v]
				}
				return c
			}
			piece := []form.Vec{at(false, false), at(true, false), at(true, true), at(false, true)}
			if sign < 0 {
				slices.Reverse(piece)
			}
			p.Origin = piece[0]
			// U is level where the panel allows it, so that V runs up.
			p.U = form.Vec{1, 0, 0}
			switch axis {
			case 0:
				p.U = form.Vec{0, sign, 0}
			case 1:
				p.U = form.Vec{-sign, 0, 0}
			}
			n := p.Normal
			p.V = form.Vec{
				n[1]*p.U[2] - n[2]*p.U[1], n[2]*p.U[0] - n[0]*p.U[2], n[0]*p.U[1] - n[1]*p.U[0],
			}
			p.Pieces = [][]form.Vec{piece}
			for i, a := range piece {
				b := piece[(i+1)%4]
				mid := form.Vec{(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2}
				var beyond form.Vec
				for k := range 3 {
					if k != axis && math.Abs(mid[k]-low[k]) < 1e-9 {
						beyond[k] = -1
					} else if k != axis && math.Abs(mid[k]-high[k]) < 1e-9 {
						beyond[k] = 1
					}
				}
				p.Lines = append(p.Lines, form.Line{A: a, B: b, Beyond: beyond})
			}
			out = append(out, p)
		}
	}
	return out
}

func siteOf(run landing.Running, fittings map[string]string, panels ...[]*form.Panel) *landing.Site {
	all := slices.Concat(panels...)
	return landing.NewSite(all, form.NewGrid(all, 20), fittings, run, 35)
}

// mean of a landing on the panels that are meant, by area.
func mean(s *landing.Site, l landing.Landing, on func(p *form.Panel, at form.Vec) bool) float64 {
	sum, area := 0.0, 0.0
	for i, t := range s.Grid.Texels {
		out := make([]float32, len(t.Area))
		l.On(s, i, 7, out)
		for k, a := range t.Area {
			if a > 0 && on(s.Panels[i], t.Point(k)) {
				sum += float64(a) * float64(out[k])
				area += float64(a)
			}
		}
	}
	return sum / area
}

func facing(axis int, sign float64) func(*form.Panel, form.Vec) bool {
	return func(p *form.Panel, _ form.Vec) bool { return p.Normal[axis] == sign }
}

// On a box in the open the sky is all of it above, half of it at the sides, none below: closed forms.
// Under a roof that reaches far it is next to nothing.
func TestSky(t *testing.T) {
	hull := block("hull", form.Vec{0, 0, 1000}, form.Vec{2000, 1000, 1600})
	s := siteOf(landing.Running{}, nil, hull)
	assert.InDelta(t, 1, mean(s, landing.Sky(), facing(2, 1)), 1e-3)
	for _, axis := range []int{0, 1} {
		for _, sign := range []float64{1, -1} {
			assert.InDelta(t, 0.5, mean(s, landing.Sky(), facing(axis, sign)), 0.03)
		}
	}
	assert.Zero(t, mean(s, landing.Sky(), facing(2, -1)))
	roof := block("roof", form.Vec{-9000, -9000, 2000}, form.Vec{11000, 10000, 2100})
	s = siteOf(landing.Running{}, nil, hull, roof)
	under := func(p *form.Panel, _ form.Vec) bool { return p.Zone == "hull" && p.Normal[2] == 1 }
	assert.Less(t, mean(s, landing.Sky(), under), 0.02)
	assert.Greater(t, mean(s, landing.Behind(), under), 0.5)
}

// The strip of sky over a face beside a wall is what a wall of its height leaves: (1 + cos)/2 of it,
// where the angle is that to the wall's upper edge.
func TestSkyBesideAWall(t *testing.T) {
	floor := block("floor", form.Vec{0, -4000, -100}, form.Vec{3000, 4000, 0})
	wall := block("wall", form.Vec{-100, -4000, 0}, form.Vec{0, 4000, 1000})
	s := siteOf(landing.Running{}, nil, floor, wall)
	for _, x := range []float64{300, 1000, 2000} {
		got := mean(s, landing.Sky(), func(p *form.Panel, at form.Vec) bool {
			return p.Zone == "floor" && p.Normal[2] == 1 && math.Abs(at[0]-x) < 30 && math.Abs(at[1]) < 500
		})
		want := (1 + x/math.Hypot(x, 1000)) / 2
		assert.InDelta(t, want, got, 0.05, "%.0f mm from the wall", x)
	}
}

// running is one wheel a side at the middle.
func running() landing.Running {
	return landing.Running{
		Wheels: []gear.Wheel{{Kind: gear.Road, X: 0, Z: 350, Radius: 350}},
		Face:   1500, Width: 300,
	}
}

// A fender over the wheel's throw keeps what is above it clean; where it is missing that gets its mud.
// What lies before the wheel gets none.
func TestThrow(t *testing.T) {
	hull := block("hull", form.Vec{-1500, 1000, 700}, form.Vec{1500, 1090, 1700})
	fender := block("fender", form.Vec{-1500, 1090, 900}, form.Vec{1500, 1700, 920})
	high := func(p *form.Panel, at form.Vec) bool {
		return p.Zone == "hull" && p.Normal[1] == 1 && at[2] > 950 && at[0] < -200 && at[0] > -1000
	}
	open := siteOf(running(), nil, hull)
	free := mean(open, landing.Throw(), high)
	assert.Greater(t, free, 0.01)
	shielded := siteOf(running(), nil, hull, fender)
	assert.Less(t, mean(shielded, landing.Throw(), high), free/50)
	inside := func(p *form.Panel, _ form.Vec) bool { return p.Zone == "fender" && p.Normal[2] == -1 }
	above := func(p *form.Panel, _ form.Vec) bool { return p.Zone == "fender" && p.Normal[2] == 1 }
	assert.Greater(t, mean(shielded, landing.Throw(), inside), 0.01)
	assert.Zero(t, mean(shielded, landing.Throw(), above))
	before := func(p *form.Panel, at form.Vec) bool { return p.Zone == "hull" && at[0] > 300 }
	assert.Zero(t, mean(open, landing.Throw(), before), "earth is thrown up and back")
}

// Hands and boots rub about hatches and on the way between them, not where nobody goes.
func TestCrew(t *testing.T) {
	deck := block("deck", form.Vec{-3000, -1500, 0}, form.Vec{3000, 1500, 1000})
	one := block("one", form.Vec{-2200, -250, 1000}, form.Vec{-1700, 250, 1050})
	two := block("two", form.Vec{1700, -250, 1000}, form.Vec{2200, 250, 1050})
	s := siteOf(landing.Running{}, map[string]string{"one": "hatch", "two": "hatch"}, deck, one, two)
	on := func(x, y float64) float64 {
		return mean(s, landing.Crew(), func(p *form.Panel, at form.Vec) bool {
			return p.Zone == "deck" && p.Normal[2] == 1 && math.Hypot(at[0]-x, at[1]-y) < 60
		})
	}
	assert.Greater(t, on(-1600, 0), 0.5, "beside a hatch")
	way := func(x float64) (best float64) { // of the straight ways between them any may be gone
		for y := -450.0; y <= 450; y += 50 {
			best = max(best, on(x, y))
		}
		return best
	}
	assert.Greater(t, way(0), 0.5, "on the way")
	assert.Less(t, on(0, 1200), 0.05, "aside of it")
	// A wall across the way, higher than a step, is gone round.
	wall := block("wall", form.Vec{-50, -900, 1000}, form.Vec{50, 900, 1800})
	s = siteOf(landing.Running{}, map[string]string{"one": "hatch", "two": "hatch"}, deck, one, two, wall)
	assert.Less(t, way(-100), 0.3)
	round := 0.0
	for y := 950.0; y < 1450; y += 50 {
		round = max(round, on(0, y), on(0, -y))
	}
	assert.Greater(t, round, 0.5)
}

// Streaks start at the upper edge, run straight down, and leave flats alone.
func TestStreaksRunDown(t *testing.T) {
	hull := block("hull", form.Vec{0, 0, 0}, form.Vec{3000, 1500, 1500})
	s := siteOf(landing.Running{}, nil, hull)
	all := make([]int, len(s.Panels))
	for i := range all {
		all[i] = i
	}
	b := landing.Brush{Size: [2]float64{8, 25}, Long: [2]float64{150, 900}, Reach: 1000, Least: 3.5}
	marks, cover := s.Streaks(all, landing.Sources{}, b, 2e5, 3)
	require.NotEmpty(t, marks)
	high, low := 0.0, 0.0
	for i, tx := range s.Grid.Texels {
		for k := range tx.Area {
			c := float64(cover[tx.First+k])
			switch {
			case c == 0:
			case math.Abs(s.Panels[i].Normal[2]) > 0.5:
				t.Fatal("a streak on a flat")
			case tx.Point(k)[2] > 1100:
				high += c
			case tx.Point(k)[2] < 400:
				low += c
			}
		}
	}
	assert.Greater(t, high, 10*low, "full where they start and gone below")
	// More of them contain fewer.
	fewer, _ := s.Streaks(all, landing.Sources{}, b, 1e5, 3)
	assert.Equal(t, fewer, marks[:len(fewer)])
}

// A streak goes on over an edge onto the face that joins it, and stops where the face below hangs
// back; none is longer than its reach.
func TestStreaksGoOverEdges(t *testing.T) {
	upper := block("upper", form.Vec{0, 0, 1000}, form.Vec{3000, 1500, 1300})
	lower := block("lower", form.Vec{0, 0, 0}, form.Vec{3000, 1500, 1000})
	inset := block("lower", form.Vec{0, 0, 0}, form.Vec{3000, 1200, 1000})
	onto := func(low []*form.Panel) (area, longest float64) {
		for _, p := range low {
			p.Lines = nil // nothing begins there
		}
		s := siteOf(landing.Running{}, nil, upper, low)
		var all []int
		for i, p := range s.Panels {
			if p.Normal[1] == 1 { // the face over the edge
				all = append(all, i)
			}
		}
		b := landing.Brush{Size: [2]float64{8, 25}, Long: [2]float64{400, 900}, Reach: 700, Least: 3.5}
		marks, cover := s.Streaks(all, landing.Sources{}, b, 1e6, 5)
		long := map[uint64]float64{}
		for _, m := range marks {
			if long[m.Seed] += m.Long; m.Long > 0 {
				longest = max(longest, long[m.Seed])
			}
		}
		for i, tx := range s.Grid.Texels {
			if s.Panels[i].Zone == "lower" {
				for k, a := range tx.Area {
					area += float64(a * cover[tx.First+k])
				}
			}
		}
		return area, longest
	}
	over, longest := onto(lower)
	assert.Greater(t, over, 1e4)
	assert.LessOrEqual(t, longest, 700.0+1e-9)
	assert.Greater(t, longest, 500.0)
	back, _ := onto(inset)
	assert.Zero(t, back, "it drips past a face that hangs back")
}

// A stain runs from a cap down the face that it stands on.
func TestStainsRunFromCaps(t *testing.T) {
	hull := block("hull", form.Vec{0, 0, 0}, form.Vec{3000, 1500, 1500})
	fuel := block("cap", form.Vec{1400, 1500, 1000}, form.Vec{1600, 1600, 1200})
	s := siteOf(landing.Running{}, map[string]string{"cap": "cap"}, hull, fuel)
	f, err := landing.Read("fall(fuel cap;0.6)+0.000001*all")
	require.NoError(t, err)
	on := func(x, z float64) float64 {
		return mean(s, f, func(p *form.Panel, at form.Vec) bool {
			return p.Zone == "hull" && p.Normal[1] == 1 && math.Abs(at[0]-x) < 100 && math.Abs(at[2]-z) < 50
		})
	}
	assert.Greater(t, on(1500, 900), 0.1)
	assert.Greater(t, on(1500, 900), on(1500, 500))
	assert.Less(t, on(1500, 1400), 1e-3, "nothing runs up")
	assert.Less(t, on(2500, 900), 1e-3)
}

// Marks cover what was asked, the larger share contains the smaller, and their sizes lie where the
// table says.
func TestMarks(t *testing.T) {
	hull := block("hull", form.Vec{0, 0, 0}, form.Vec{3000, 1500, 1500})
	s := siteOf(landing.Running{}, nil, hull)
	var all []int
	lands := make([]float32, s.Grid.Count)
	whole := 0.0
	for i, tx := range s.Grid.Texels {
		all = append(all, i)
		for k, a := range tx.Area {
			lands[tx.First+k] = 1
			whole += float64(a)
		}
	}
	b := landing.Brush{Size: [2]float64{4, 40}, Least: 3.5}
	for _, share := range []float64{0.003, 0.01, 0.03} {
		marks, cover := s.Marks(all, lands, b, share*whole, 11)
		got := 0.0
		for _, tx := range s.Grid.Texels {
			for k, a := range tx.Area {
				got += float64(a) * float64(cover[tx.First+k])
			}
		}
		assert.InDelta(t, share, got/whole, 0.0005)
		smaller, _ := s.Marks(all, lands, b, share*whole/2, 11)
		assert.Equal(t, smaller, marks[:len(smaller)])
		in := 0
		for _, m := range marks {
			assert.GreaterOrEqual(t, m.Wide, 3.5)
			if m.Wide <= 40 {
				in++
			}
		}
		assert.Greater(t, float64(in), 0.9*float64(len(marks)))
	}
}

func TestFormulas(t *testing.T) {
	s := siteOf(landing.Running{}, nil, block("hull", form.Vec{0, 0, 0}, form.Vec{1000, 1000, 1000}))
	top := facing(2, 1)
	for text, want := range map[string]float64{
		"all":                     1,
		"0.25*all":                0.25,
		"0.25*all+0.5*up(2)":      0.75,
		"0.5*(up(1)+upright)":     0.5,
		"low(0;500)":              0,
		"up(2)*(0.25*all+down)":   0.25,
		"all*up(3)+all*up(3)":     1, // no more than all
		"0.5*0.5*all":             0.25,
		"0.2*all + 0.3 * all":     0.5,
		"near(hatch;100)+on(mud)": 0,
	} {
		f, err := landing.Read(text)
		require.NoError(t, err, text)
		assert.InDelta(t, want, mean(s, f, top), 1e-6, text)
	}
	for _, text := range []string{
		"", "tea", "low(1)", "low(a;b)", "all+", "(all", "all)", "edge(0)", "near(hatch)", "noise(5)", "2**all", "edge(40",
	} {
		_, err := landing.Read(text)
		assert.Error(t, err, text)
	}
}

func FuzzRead(f *testing.F) {
	for _, text := range []string{"edge(40)*(0.3+crew)*noise(80;3)", "fall(edges;1.0)", "0.25*all+recess(25)", "((("} {
		f.Add(text)
	}
	s := siteOf(landing.Running{}, nil, block("hull", form.Vec{0, 0, 0}, form.Vec{200, 200, 200}))
	f.Fuzz(func(t *testing.T, text string) {
		read, err := landing.Read(text)
		if err != nil {
			return
		}
		out := make([]float32, len(s.Grid.Texels[0].Area))
		read.On(s, 0, 1, out)
		for _, v := range out {
			if math.IsNaN(float64(v)) || v < 0 {
				t.Fatalf("%q lands by %g", text, v)
			}
		}
	})
}
