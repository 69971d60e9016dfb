package form_test

import (
	"math"
	"math/big"
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/measure"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

type soup [][3][3]float32

func weld(t soup) *form.Mesh {
	var w form.Welder
	for _, f := range t {
		w.Add(f)
	}
	return &w.Mesh
}

// surface makes a closed mesh of a map from the torus or sphere's parameters.
func surface(nu, nv int, wrapV bool, at func(u, v float64) [3]float64) (out soup) {
	point := func(i, j int) [3]float32 {
		if wrapV {
			j %= nv
		}
		p := at(float64(i%nu)/float64(nu), float64(j)/float64(nv))
		return [3]float32{float32(p[0]), float32(p[1]), float32(p[2])}
	}
	for i := range nu {
		for j := range nv {
			a, b, c, d := point(i, j), point(i+1, j), point(i+1, j+1), point(i, j+1)
			out = append(out, [3][3]float32{a, b, c}, [3][3]float32{a, c, d})
		}
	}
	return out
}

func sphere(n int, r float64, middle [3]float64) soup {
	return surface(2*n, n, false, func(u, v float64) [3]float64 {
		su, cu := math.Sincos(2 * math.Pi * u)
		sv, cv := math.Sin(math.Pi*v), math.Cos(math.Pi*v)
		if v == 0 || v == 1 {
			sv = 0
		}
		return [3]float64{middle[0] + r*sv*cu, middle[1] + r*sv*su, middle[2] - r*cv}
	})
}

func torus(nu, nv int, big, small float64, at [3]float64) soup {
	return surface(nu, nv, true, func(u, v float64) [3]float64 {
		su, cu := math.Sincos(2 * math.Pi * u)
		sv, cv := math.Sincos(2 * math.Pi * v)
		return [3]float64{at[0] + (big+small*cv)*cu, at[1] + (big+small*cv)*su, at[2] + small*sv}
	})
}

// truth is area and volume of the triangles as they are, in 200-bit arithmetic.
func truth(s soup) (area, volume float64) {
	number := func(x float64) *big.Float { return new(big.Float).SetPrec(200).SetFloat64(x) }
	mul := func(a, b *big.Float) *big.Float { return new(big.Float).SetPrec(200).Mul(a, b) }
	sub := func(a, b *big.Float) *big.Float { return new(big.Float).SetPrec(200).Sub(a, b) }
	add := func(a, b *big.Float) *big.Float { return new(big.Float).SetPrec(200).Add(a, b) }
	cross := func(u, v [3]*big.Float) (w [3]*big.Float) {
		for k := range 3 {
			i, j := (k+1)%3, (k+2)%3
			w[k] = sub(mul(u[i], v[j]), mul(u[j], v[i]))
		}
		return w
	}
	dot := func(u, v [3]*big.Float) *big.Float {
		return add(add(mul(u[0], v[0]), mul(u[1], v[1])), mul(u[2], v[2]))
	}
	areas, volumes := number(0), number(0)
	for _, f := range s {
		var p [3][3]*big.Float
		for i := range 3 {
			for k := range 3 {
				p[i][k] = number(float64(f[i][k]))
			}
		}
		var u, v [3]*big.Float
		for k := range 3 {
			u[k], v[k] = sub(p[1][k], p[0][k]), sub(p[2][k], p[0][k])
		}
		n := cross(u, v)
		if l := dot(n, n); l.Sign() > 0 {
			areas = add(areas, new(big.Float).SetPrec(200).Sqrt(l))
		}
		volumes = add(volumes, dot(p[0], cross(p[1], p[2])))
	}
	area, _ = areas.Float64()
	volume, _ = volumes.Float64()
	return area / 2, volume / 6
}

// Areas and volumes within 1e-6 of what the same rounded corners enclose, also far
// from the origin.
func TestSolidsMeasureTrue(t *testing.T) {
	far := [3]float64{4000, -7000, 900}
	for name, s := range map[string]soup{
		"sphere": sphere(60, 25, [3]float64{}), "sphere far away": sphere(60, 25, far),
		"torus": torus(120, 60, 40, 9, [3]float64{}), "torus far away": torus(120, 60, 40, 9, far),
	} {
		area, volume := truth(s)
		got := weld(s).Measure()
		assert.InEpsilon(t, area, got.Area, 1e-6, name)
		assert.InEpsilon(t, volume, got.Volume, 1e-6, name)
		assert.True(t, got.Closed, "%s: %+v", name, got)
		assert.Equal(t, 1, got.Shells)
	}
	// And near the closed forms, as far as facets and single precision let them be.
	ball := weld(sphere(200, 25, [3]float64{})).Measure()
	assert.InEpsilon(t, 4.0/3*math.Pi*25*25*25, ball.Volume, 1e-3)
	ring := weld(torus(300, 150, 40, 9, [3]float64{})).Measure()
	assert.InEpsilon(t, 2*math.Pi*math.Pi*40*81, ring.Volume, 1e-3)
	assert.InEpsilon(t, 4*math.Pi*math.Pi*40*9, ring.Area, 1e-3)
}

// A box of random sides is what it is; turned inside out its volume changes sign; a
// triangle less and it is open; two boxes are two shells.
func TestBoxesOfCells(t *testing.T) {
	solid := func(int, int, int) bool { return true }
	rapid.Check(t, func(t *rapid.T) {
		side := func(name string) float64 {
			return float64(float32(rapid.Float64Range(0.5, 80).Draw(t, name)))
		}
		x, y, z := side("x"), side("y"), side("z")
		m := form.Cells([]float64{0, x / 3, x}, []float64{0, y}, []float64{0, z / 2, z}, solid)
		s := m.Measure()
		assert.InEpsilon(t, x*y*z, s.Volume, 1e-5)
		assert.InEpsilon(t, 2*(x*y+y*z+z*x), s.Area, 1e-5)
		assert.True(t, s.Closed)
		back := &form.Mesh{Points: m.Points}
		for _, f := range m.Faces {
			back.Faces = append(back.Faces, [3]uint32{f[0], f[2], f[1]})
		}
		assert.InEpsilon(t, -s.Volume, back.Measure().Volume, 1e-9)
		open := &form.Mesh{Points: m.Points, Faces: m.Faces[1:]}
		assert.Equal(t, 3, open.Measure().Open)
		flipped := &form.Mesh{Points: m.Points, Faces: append([][3]uint32{back.Faces[0]}, m.Faces[1:]...)}
		assert.False(t, flipped.Measure().Closed, "one face looks the wrong way")
	})
	two := form.Cells([]float64{0, 1, 2, 3}, []float64{0, 1}, []float64{0, 1}, func(i, _, _ int) bool { return i != 1 })
	s := two.Measure()
	assert.Equal(t, 2, s.Shells)
	assert.True(t, s.Closed)
}

func walls(m *form.Mesh) form.Walls { return m.Walls(m.Measure(), nil, nil) }

// Thinnest walls and features of solids whose walls are known.
func TestWallsOfKnownSolids(t *testing.T) {
	in := func(x, a, b float64) bool { return x > a && x < b }
	// A tub with 1.2 mm walls and a 2 mm floor.
	cuts := []float64{0, 1.2, 18.8, 20}
	tub := form.Cells(cuts, cuts, []float64{0, 2, 10}, func(i, j, k int) bool { return k == 0 || i != 1 || j != 1 })
	assert.InDelta(t, 1.2, walls(tub).Thinnest, 1e-5)
	// A plate of 3 mm with a pin of 0.6 × 0.6 and a rib 0.4 thick, 5 long, 2 high: the
	// rib is the thinnest wall, the pin the smallest feature.
	xs, ys := []float64{0, 5, 5.6, 10, 10.4, 20}, []float64{0, 4, 4.6, 9, 14, 20}
	plate := form.Cells(xs, ys, []float64{0, 3, 5}, func(i, j, k int) bool {
		x, y := (xs[i]+xs[i+1])/2, (ys[j]+ys[j+1])/2
		return k == 0 || in(x, 5, 5.6) && in(y, 4, 4.6) || in(x, 10, 10.4) && in(y, 9, 14)
	})
	w := walls(plate)
	assert.InDelta(t, 0.4, w.Thinnest, 1e-5)
	assert.InDelta(t, 10.2, w.ThinAt[0], 0.01)
	assert.InDelta(t, 0.6, w.Feature, 0.006)
	assert.InDelta(t, 5.3, w.FeatureAt[0], 0.3)
	// A ball is as thick as it is wide; a ring as its tube.
	assert.InEpsilon(t, 50, walls(weld(sphere(60, 25, [3]float64{}))).Thinnest, 0.01)
	ring := walls(weld(torus(200, 60, 40, 3, [3]float64{})))
	assert.InEpsilon(t, 6, ring.Thinnest, 0.01)
	assert.InEpsilon(t, 6, ring.Feature, 0.02)
	// A wedge of 45° has a sharp edge, not a thin wall: only the prism's own height counts.
	a, b, c := [3]float32{0, 0, 0}, [3]float32{10, 0, 0}, [3]float32{0, 10, 0}
	up := func(p [3]float32) [3]float32 { return [3]float32{p[0], p[1], 7} }
	prism := weld(
		soup{
			{a, c, b},
			{up(a), up(b), up(c)},
			{a, b, up(b)},
			{a, up(b), up(a)},
			{b, c, up(c)},
			{b, up(c), up(b)},
			{c, a, up(a)},
			{c, up(a), up(c)},
		},
	)
	require.True(t, prism.Measure().Closed)
	assert.InDelta(t, 7, walls(prism).Thinnest, 1e-5)
	// Inside out it measures the same.
	back := &form.Mesh{Points: tub.Points}
	for _, f := range tub.Faces {
		back.Faces = append(back.Faces, [3]uint32{f[0], f[2], f[1]})
	}
	assert.InDelta(t, 1.2, walls(back).Thinnest, 1e-5)
}

// The tree finds what trying every face finds: on a shell between two spheres, whose
// walls differ from place to place.
func TestWallsAgreeWithEveryFace(t *testing.T) {
	inner := sphere(14, 8, [3]float64{0.9, 0.4, -0.3})
	for i, f := range inner {
		inner[i] = [3][3]float32{f[0], f[2], f[1]}
	}
	outer := sphere(16, 10, [3]float64{})
	m := weld(append(outer, inner...))
	// Distance between the facets along the shortest ray, from the outer triangles'
	// middles, by brute force over the inner ones.
	best := math.Inf(1)
	for _, f := range append(outer, inner...) {
		o, n := middle(f)
		for _, g := range append(outer, inner...) {
			if d, ok := meets(o, n, g); ok {
				best = min(best, d)
			}
		}
	}
	got := walls(m)
	assert.LessOrEqual(t, got.Thinnest, best*1.001, "more samples may find less, never more")
	assert.Greater(t, got.Thinnest, best*0.9)
	assert.InDelta(t, 2-math.Sqrt(0.9*0.9+0.4*0.4+0.3*0.3), got.Thinnest, 0.15)
}

type vec = [3]float64

func minus(a, b [3]float32) vec {
	return vec{float64(a[0]) - float64(b[0]), float64(a[1]) - float64(b[1]), float64(a[2]) - float64(b[2])}
}
func times(a, b vec) vec {
	return vec{a[1]*b[2] - a[2]*b[1], a[2]*b[0] - a[0]*b[2], a[0]*b[1] - a[1]*b[0]}
}
func inner(a, b vec) float64 { return a[0]*b[0] + a[1]*b[1] + a[2]*b[2] }

func middle(f [3][3]float32) (at, inward vec) {
	n := times(minus(f[1], f[0]), minus(f[2], f[0]))
	l := math.Sqrt(inner(n, n))
	for k := range 3 {
		at[k] = (float64(f[0][k]) + float64(f[1][k]) + float64(f[2][k])) / 3
		if l > 0 {
			inward[k] = -n[k] / l
		}
	}
	return at, inward
}

// meets solves for the plane's parameter and then asks three signed areas.
func meets(o, d vec, g [3][3]float32) (float64, bool) {
	n := times(minus(g[1], g[0]), minus(g[2], g[0]))
	l := math.Sqrt(inner(n, n))
	facing := inner(n, d)
	if l == 0 || facing/l < math.Cos(25*math.Pi/180) {
		return 0, false
	}
	a := vec{float64(g[0][0]), float64(g[0][1]), float64(g[0][2])}
	t := inner(n, vec{a[0] - o[0], a[1] - o[1], a[2] - o[2]}) / facing
	q := vec{o[0] + t*d[0], o[1] + t*d[1], o[2] + t*d[2]}
	for i := range 3 {
		p := g[i]
		e := minus(g[(i+1)%3], p)
		if inner(times(e, vec{q[0] - float64(p[0]), q[1] - float64(p[1]), q[2] - float64(p[2])}), n) < 0 {
			return 0, false
		}
	}
	return t, t > 1e-6
}

func TestWallsCanBeStopped(t *testing.T) {
	m := weld(sphere(60, 25, [3]float64{}))
	calls := 0
	m.Walls(m.Measure(), func(share float64) { calls++; assert.LessOrEqual(t, share, 1.0) }, func() bool { return true })
	assert.Zero(t, calls)
	m.Walls(m.Measure(), func(float64) { calls++ }, nil)
	assert.Positive(t, calls)
}

// The calibration piece is closed, has the room it says, and its thinnest wall is
// one nozzle.
func TestCalibrationPiece(t *testing.T) {
	for _, p := range []measure.Printer{{Kind: measure.Filament, Feature: 0.4}, {Kind: measure.Resin, Feature: 0.05}} {
		m, steps, plate := form.Calibration(p)
		s := m.Measure()
		assert.True(t, s.Closed, "%+v", s)
		assert.Equal(t, 1, s.Shells)
		for k := range 3 {
			assert.InDelta(t, plate[k], s.Size()[k], 1e-4)
		}
		assert.InDelta(t, p.Feature, steps[0], 1e-12)
		assert.InDelta(t, p.Feature, m.Walls(s, nil, nil).Thinnest, 1e-4)
	}
}

func TestPickFindsWhatIsSeen(t *testing.T) {
	panels, err := form.Panels(box(6400, 3100, 2500), form.Running{})
	require.NoError(t, err)
	p, zone, ok := form.Pick(form.Left, panels, 35, [2]float64{10, 20})
	require.True(t, ok)
	assert.Equal(t, "hull.left", zone)
	flat := form.NewFrame(form.Left, panels, 35).Flat(p)
	assert.InDelta(t, 10, flat[0], 1e-9)
	assert.InDelta(t, 20, flat[1], 1e-9)
	assert.InDelta(t, 1550, p[1], 1e-9, "on the left side")
	_, zone, ok = form.Pick(form.Top, panels, 35, [2]float64{10, 20})
	assert.True(t, ok)
	assert.Equal(t, "hull.deck", zone)
	_, _, ok = form.Pick(form.Front, panels, 35, [2]float64{-1, 20})
	assert.False(t, ok)
}

func BenchmarkWeldAndMeasure500k(b *testing.B) {
	s := torus(1000, 250, 40, 9, [3]float64{})
	for b.Loop() {
		weld(s).Measure()
	}
}

func BenchmarkThinnestWall500k(b *testing.B) {
	m := weld(torus(1000, 250, 40, 9, [3]float64{}))
	solid := m.Measure()
	for b.Loop() {
		m.Walls(solid, nil, nil)
	}
}
