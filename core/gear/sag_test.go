package gear_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"cinderpath/core/gear"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func hang(t require.TestingT, wheels []gear.Wheel, l gear.Link, slack float64) gear.Run {
	loop, err := gear.Taut(wheels, l)
	require.NoError(t, err)
	run, err := gear.Hang(wheels, l, loop, slack)
	require.NoError(t, err)
	return run
}

// Two equal wheels at one height: the extra length of a shallow span is 8 f² / (3 ℓ).
func TestLevelSpanAgreesWithTheParabola(t *testing.T) {
	fine := gear.Link{Pitch: 0.01, Width: 1}
	for _, sag := range []float64{5, 20, 80, 150} {
		const long = 4000.0
		wheels := []gear.Wheel{
			{Kind: gear.Idler, X: 0, Z: 600, Radius: 0.001},
			{Kind: gear.Idler, X: long, Z: 600, Radius: 0.001},
		}
		run := hang(t, wheels, fine, 8*sag*sag/(3*long))
		require.Len(t, run.Spans, 1)
		assert.InEpsilon(t, sag, run.Spans[0].Sag, 0.005)
	}
}

// The length that was laid in is the length that is there.
func length(r gear.Run) float64 {
	sum := 0.0
	for _, s := range r.Spans {
		points := s.Points(4000)
		for i := range len(points) - 1 {
			sum += math.Hypot(points[i+1][0]-points[i][0], points[i+1][1]-points[i][1])
		}
	}
	return sum
}

// random is a running gear with a front and a rear wheel and rollers or road wheels
// between, as tracked vehicles have them.
func random(r *rand.Rand) []gear.Wheel {
	long := 3000 + 3000*r.Float64()
	wheels := []gear.Wheel{
		{Kind: gear.Idler, X: 0, Z: 600 + 200*r.Float64(), Radius: 200 + 150*r.Float64()},
		{Kind: gear.Idler, X: long, Z: 600 + 200*r.Float64(), Radius: 200 + 150*r.Float64()},
	}
	for i := range r.IntN(4) {
		wheels = append(
			wheels,
			gear.Wheel{
				Kind:   gear.Return,
				X:      long * (float64(i) + 0.7 + 0.6*r.Float64()) / 5,
				Z:      750 + 100*r.Float64(),
				Radius: 60 + 40*r.Float64(),
			},
		)
	}
	for i := range 5 {
		wheels = append(wheels, gear.Wheel{Kind: gear.Road, X: long * (float64(i) + 0.8) / 5.6, Z: 300, Radius: 280})
	}
	return wheels
}

// relaxed finds the rest of the upper run by another way: a polyline over a grid of x
// between the tops of the end wheels that never goes below the discs, and that over a
// level z0 makes the sum of (height − z0) · length least; the level is the one at which
// the length is right. Solved by sweeps of one point at a time, without catenaries,
// tangents or supports.
func relaxed(wheels []gear.Wheel, l gear.Link, left, right int, path float64) [][2]float64 {
	const n = 121
	x0, x1 := wheels[left].X, wheels[right].X
	dx := (x1 - x0) / (n - 1)
	floor := make([]float64, n)
	for i := range floor {
		floor[i] = math.Inf(-1)
		x := x0 + dx*float64(i)
		for _, w := range wheels {
			if a := w.Apothem(l); math.Abs(x-w.X) < a {
				floor[i] = max(floor[i], w.Z+math.Sqrt(a*a-(x-w.X)*(x-w.X)))
			}
		}
	}
	z := make([]float64, n)
	long := func() float64 {
		sum := 0.0
		for i := range n - 1 {
			sum += math.Hypot(dx, z[i+1]-z[i])
		}
		return sum
	}
	settle := func(level float64) {
		for i := range z { // anew each time: from a line that once fell apart there is no way back
			z[i] = max(floor[0]+(floor[n-1]-floor[0])*float64(i)/(n-1), floor[i])
		}
		z[0], z[n-1] = floor[0], floor[n-1]
		energy := func(i int, h float64) float64 {
			return ((z[i-1]+h)/2-level)*math.Hypot(dx, h-z[i-1]) + ((h+z[i+1])/2-level)*math.Hypot(dx, z[i+1]-h)
		}
		for range 4000 {
			moved := 0.0
			for i := 1; i < n-1; i++ {
				const e = 1e-3
				up, mid, down := energy(i, z[i]+e), energy(i, z[i]), energy(i, z[i]-e)
				slope, bend := (up-down)/(2*e), (up-2*mid+down)/(e*e)
				if bend <= 0 {
					continue
				}
				next := max(floor[i], z[i]-1.7*slope/bend)
				moved = max(moved, math.Abs(next-z[i]))
				z[i] = next
			}
			if moved < 1e-5 {
				return
			}
		}
	}
	// Levels by their depth below the lower end: from next to nothing to nearly taut.
	top := min(floor[0], floor[n-1])
	low, high := math.Log(50.0), math.Log(1e6)
	for range 26 {
		middle := (low + high) / 2
		settle(top - math.Exp(middle))
		if long() < path {
			high = middle
		} else {
			low = middle
		}
	}
	out := make([][2]float64, n)
	for i := range out {
		out[i] = [2]float64{x0 + dx*float64(i), z[i]}
	}
	return out
}

// The mirror image of a gear hangs as the mirror image; twice the gear hangs twice as
// deep; more slack never hangs less.
func TestHangingHasItsSymmetries(t *testing.T) {
	link := gear.Link{Pitch: 120, Surface: 20, Ground: 20, Width: 400}
	rapid.Check(t, func(t *rapid.T) {
		wheels := random(rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "gear"), 1)))
		slack := rapid.Float64Range(1, 100).Draw(t, "slack")
		run := hang(t, wheels, link, slack)
		deepest := func(r gear.Run) float64 {
			d := 0.0
			for _, s := range r.Spans {
				d = max(d, s.Sag)
			}
			return d
		}
		mirror, twice := make([]gear.Wheel, len(wheels)), make([]gear.Wheel, len(wheels))
		for i, w := range wheels {
			mirror[i], twice[i] = w, w
			mirror[i].X = -w.X
			twice[i].X, twice[i].Z, twice[i].Radius = 2*w.X, 2*w.Z, 2*w.Radius
		}
		m := hang(t, mirror, link, slack)
		require.Len(t, m.Spans, len(run.Spans))
		for i, s := range run.Spans {
			assert.InDelta(t, s.Sag, m.Spans[len(m.Spans)-1-i].Sag, 1e-4)
			// Ends lie on the discs, and the chain is nowhere below them.
			for end, w := range map[[2]float64]gear.Wheel{s.From: wheels[s.Left], s.To: wheels[s.Right]} {
				assert.InDelta(t, w.Apothem(link), math.Hypot(end[0]-w.X, end[1]-w.Z), 1e-6)
			}
			for _, p := range s.Points(50) {
				for _, w := range wheels {
					assert.Greater(t, math.Hypot(p[0]-w.X, p[1]-w.Z), w.Apothem(link)-0.5)
				}
			}
		}
		double := gear.Link{Pitch: 240, Surface: 40, Ground: 40, Width: 800}
		assert.InDelta(t, 2*deepest(run), deepest(hang(t, twice, double, 2*slack)), 1e-3)
		more := hang(t, wheels, link, slack*1.2)
		if len(more.Spans) == len(run.Spans) {
			assert.GreaterOrEqual(t, deepest(more), deepest(run)-1e-6)
		}
	})
}

// The sag against the relaxed polyline: within the larger of 5 % and 3.5 mm, a tenth
// of a millimetre at 1:35, at the deepest point of the run.
func TestSagAgreesWithARelaxedChain(t *testing.T) {
	fine := gear.Link{Pitch: 0.01, Surface: 20, Ground: 20, Width: 400}
	r := rand.New(rand.NewPCG(4, 4))
	worst := 0.0
	for trial := range 8 {
		wheels := random(r)
		slack := 10 + 60*r.Float64()
		run := hang(t, wheels, fine, slack)
		require.NotEmpty(t, run.Spans)
		left, right := run.Supports[0], run.Supports[len(run.Supports)-1]
		if left != 0 || right != 1 {
			continue // a roller higher than the end wheels: another pair of ends
		}
		// From top to top of the end wheels: spans and what lies on the discs.
		path := length(run)
		for i, s := range run.Spans {
			path += arc(wheels[s.Left], fine, s.From, i == 0, run, i)
		}
		last := run.Spans[len(run.Spans)-1]
		w := wheels[last.Right]
		path += w.Apothem(fine) * math.Asin((w.X-last.To[0])/w.Apothem(fine))
		line := relaxed(wheels, fine, left, right, path)
		for _, p := range line[1 : len(line)-1] {
			for _, s := range run.Spans {
				if p[0] > s.From[0] && p[0] < s.To[0] {
					off := math.Abs(p[1] - s.Height(p[0]))
					worst = max(worst, off)
					assert.LessOrEqual(t, off, max(3.5, 0.05*s.Sag), "trial %d at x = %.0f, sag %.1f", trial, p[0], s.Sag)
				}
			}
		}
	}
	t.Logf("largest difference %.2f mm real", worst)
}

// arc is what lies on the disc where a span begins: from the top for the first one,
// from where the span before met it for the others.
func arc(w gear.Wheel, l gear.Link, from [2]float64, first bool, r gear.Run, i int) float64 {
	a := w.Apothem(l)
	angle := math.Asin((from[0] - w.X) / a)
	if !first {
		angle += math.Asin((w.X - r.Spans[i-1].To[0]) / a)
	}
	return a * angle
}

// The closed outline is as long as the links laid into it, but for the chords of its
// arcs, which are a little shorter.
func TestOutlineIsAsLongAsTheLinks(t *testing.T) {
	link := gear.Link{Pitch: 10, Surface: 20, Ground: 20, Width: 400}
	r := rand.New(rand.NewPCG(5, 5))
	for trial := range 30 {
		wheels := random(r)
		loop, err := gear.Taut(wheels, link)
		require.NoError(t, err)
		slack := 5 + 80*r.Float64()
		run, err := gear.Hang(wheels, link, loop, slack)
		require.NoError(t, err)
		outline := run.Outline(loop, wheels, link)
		sum, area := 0.0, 0.0
		for i, p := range outline {
			q := outline[(i+1)%len(outline)]
			sum += math.Hypot(q[0]-p[0], q[1]-p[1])
			area += (p[0]*q[1] - q[0]*p[1]) / 2
		}
		assert.InEpsilon(t, loop.Length+slack, sum, 0.0015, "trial %d", trial)
		assert.Positive(t, area, "counter-clockwise")
	}
}

func TestHangRefusesTooFewLinks(t *testing.T) {
	loop, err := gear.Taut([]gear.Wheel{{Radius: 300}, {X: 4000, Radius: 250}}, plain)
	require.NoError(t, err)
	_, err = gear.Hang([]gear.Wheel{{Radius: 300}, {X: 4000, Radius: 250}}, plain, loop, -1)
	assert.ErrorContains(t, err, "too few")
}

func BenchmarkHang(b *testing.B) {
	wheels := random(rand.New(rand.NewPCG(9, 9)))
	loop, err := gear.Taut(wheels, plain)
	require.NoError(b, err)
	for b.Loop() {
		if _, err := gear.Hang(wheels, plain, loop, 60); err != nil {
			b.Fatal(err)
		}
	}
}

// The idler moved as told, the links lie taut: no slack, nothing missing. More links
// want it farther out and hang deeper.
func TestChoicesOfLinks(t *testing.T) {
	link := gear.Link{Pitch: 120, Surface: 20, Ground: 20, Width: 400}
	r := rand.New(rand.NewPCG(6, 6))
	for range 40 {
		wheels := random(r)
		wheels[1].Kind = gear.Sprocket
		loop, err := gear.Taut(wheels, link)
		require.NoError(t, err)
		choices := gear.Choices(wheels, link, loop)
		require.Len(t, choices, 4)
		assert.Negative(t, choices[0].Slack)
		assert.Equal(t, loop.Links, choices[1].Links)
		assert.InDelta(t, loop.Slack, choices[1].Slack, 1e-9)
		for i, c := range choices {
			if i > 1 {
				assert.InDelta(t, choices[i-1].Slack+link.Pitch, c.Slack, 1e-9)
			}
			if !c.CanMove {
				continue
			}
			assert.Equal(t, c.Slack > 0, c.TakeUp > 0)
			moved := append([]gear.Wheel(nil), wheels...)
			moved[0].X -= c.TakeUp // the idler stands at the left end
			taut, err := gear.Taut(moved, link)
			require.NoError(t, err)
			assert.InDelta(t, float64(c.Links)*link.Pitch, taut.Length, 1e-6)
		}
	}
	none := gear.Choices(
		[]gear.Wheel{{Kind: gear.Road, Radius: 300}, {Kind: gear.Road, X: 4000, Radius: 250}},
		plain,
		gear.Loop{Links: 76, Length: 9760.436},
	)
	assert.False(t, none[1].CanMove, "no idler")
}
