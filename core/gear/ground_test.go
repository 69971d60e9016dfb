package gear_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"cinderpath/core/gear"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// armed puts the road wheels of a gear on arms behind their pivots.
func armed(wheels []gear.Wheel) []gear.Wheel {
	out := append([]gear.Wheel(nil), wheels...)
	for i, w := range out {
		if w.Kind == gear.Road {
			out[i].Arm = &gear.Arm{X: 250, Z: 120, Up: 30, Down: 30}
		}
	}
	return out
}

var cast = gear.Link{Pitch: 120, Surface: 20, Ground: 20, Width: 400}

// The parts of a track add up to its links, and each is as long as it must be.
func TestStretchesAddUpToTheLinks(t *testing.T) {
	r := rand.New(rand.NewPCG(12, 12))
	for trial := range 100 {
		wheels := random(r)
		loop, err := gear.Taut(wheels, cast)
		require.NoError(t, err)
		run, err := gear.Hang(wheels, cast, loop, loop.Slack)
		require.NoError(t, err)
		sum, ground := 0.0, 0.0
		for _, s := range gear.Stretches(wheels, cast, loop, run) {
			sum += s.Links
			assert.Positive(t, s.Links)
			if s.Kind == "ground" {
				ground += s.Chain
			}
		}
		assert.InDelta(t, float64(loop.Links), sum, 1e-6, "trial %d", trial)
		// Between the first and the last road wheel, all on level ground.
		low, high := math.Inf(1), math.Inf(-1)
		for _, w := range wheels {
			if w.Kind == gear.Road {
				low, high = min(low, w.X), max(high, w.X)
			}
		}
		assert.InDelta(t, high-low, ground, 1e-6)
	}
}

// On level ground nothing moves but by what a wheel hung above or stood within it.
func TestLevelGroundLeavesTheGearAsItIs(t *testing.T) {
	wheels := armed(random(rand.New(rand.NewPCG(3, 3))))
	for i := range wheels {
		if wheels[i].Kind == gear.Road { // to stand on the ground with a link beneath
			wheels[i].Z = wheels[i].Radius + 40
		}
	}
	level := gear.Terrain{{-1000, 0}, {9000, 0}}
	moved, swings := gear.Follow(wheels, cast, level)
	require.NotEmpty(t, swings)
	for _, s := range swings {
		assert.InDelta(t, 0, s.Angle, 1e-6)
		assert.Zero(t, s.Buried)
	}
	flat, err := gear.Taut(moved, cast)
	require.NoError(t, err)
	loop, lower, err := gear.OnGround(moved, cast, level)
	require.NoError(t, err)
	assert.InDelta(t, flat.Length, loop.Length, 0.05)
	assert.GreaterOrEqual(t, len(lower), 4)
}

// Every wheel stands on the ground or at a limit of its arm, keeps its distance from the
// pivot, and the lower run lies below all wheels and above the ground; among all lines
// that do, none drawn at random is shorter.
func TestWheelsAndTrackFollowTheGround(t *testing.T) {
	r := rand.New(rand.NewPCG(21, 21))
	for trial := range 60 {
		wheels := armed(random(r))
		var ground gear.Terrain
		for i := range 12 {
			ground = append(ground, [2]float64{float64(i)*550 - 300, 90 * (r.Float64() - 0.5)})
		}
		moved, swings := gear.Follow(wheels, cast, ground)
		for _, s := range swings {
			w, m := wheels[s.Wheel], moved[s.Wheel]
			assert.InDelta(t, math.Hypot(w.Arm.X, w.Arm.Z), math.Hypot(m.X-w.Pivot()[0], m.Z-w.Pivot()[1]), 1e-9)
			assert.LessOrEqual(t, math.Abs(s.Angle), 30+1e-9)
			gap := math.Inf(1)
			for x := m.X - 600; x < m.X+600; x += 0.5 {
				gap = min(gap, math.Hypot(x-m.X, ground.Height(x)-m.Z)-(w.Radius+40))
			}
			switch {
			case s.Hangs:
				assert.Positive(t, gap)
				assert.InDelta(t, -30, s.Angle, 1e-9)
			case s.Buried > 0:
				assert.Negative(t, gap)
				assert.InDelta(t, 30, s.Angle, 1e-9)
			default:
				assert.InDelta(t, 0, gap, 0.6, "trial %d wheel %d", trial, s.Wheel)
			}
		}
		loop, lower, err := gear.OnGround(moved, cast, ground)
		require.NoError(t, err)
		taut, err := gear.Taut(moved, cast)
		require.NoError(t, err)
		assert.GreaterOrEqual(t, loop.Length, taut.Length-1e-6, "ground never shortens the track")
		assert.InDelta(t, loop.Length-taut.Length, loop.Extra, 1e-9)
		at := func(x float64) float64 {
			for i := 1; i < len(lower); i++ {
				if x <= lower[i][0] {
					p, q := lower[i-1], lower[i]
					return p[1] + (q[1]-p[1])*(x-p[0])/(q[0]-p[0])
				}
			}
			return lower[len(lower)-1][1]
		}
		for x := lower[0][0] + 5; x < lower[len(lower)-1][0]-5; x += 37 {
			for i, w := range moved {
				if w.Kind == gear.Return {
					continue
				}
				buried := false
				for _, s := range swings {
					buried = buried || s.Wheel == i && s.Buried > 0
				}
				if a := w.Apothem(cast); math.Abs(x-w.X) < 0.6*a && !buried {
					assert.LessOrEqual(t, at(x), w.Z-math.Sqrt(a*a-(x-w.X)*(x-w.X))+1.5, "below wheel %d", i)
				}
			}
		}
	}
}

// A bump under one wheel costs links: the answer for a lone bump between two wheels far
// apart is two straight stretches.
func TestBumpBetweenWheels(t *testing.T) {
	wheels := []gear.Wheel{
		{Kind: gear.Idler, X: 0, Z: 320, Radius: 280},
		{Kind: gear.Sprocket, X: 4000, Z: 320, Radius: 280},
	}
	thin := gear.Link{Pitch: 100, Surface: 20, Ground: 20, Width: 300}
	flat, err := gear.Taut(wheels, thin)
	require.NoError(t, err)
	loop, lower, err := gear.OnGround(wheels, thin, gear.Terrain{{1999, 0}, {2000, 100}, {2001, 0}})
	require.NoError(t, err)
	// Over a point at (2000, 120) from the discs' lowest points: tangents to both discs.
	d, h := 2000.0, 320.0-120.0
	reachOut := math.Sqrt(d*d + h*h - 300*300)
	turn := math.Asin(300/math.Hypot(d, h)) - math.Atan2(h, d) // of the tangent above level
	want := 2*(reachOut-2000) + 2*300*turn
	assert.InDelta(t, want, loop.Length-flat.Length, 0.5)
	high := 0.0
	for _, p := range lower[1 : len(lower)-1] {
		if math.Abs(p[0]-2000) < 30 {
			high = max(high, p[1])
		}
	}
	assert.InDelta(t, 120, high, 0.5)
}

func TestTyresCarryNoTrack(t *testing.T) {
	wheels := random(rand.New(rand.NewPCG(8, 8)))
	alone, err := gear.Taut(wheels, cast)
	require.NoError(t, err)
	with, err := gear.Taut(
		append(append([]gear.Wheel(nil), wheels...), gear.Wheel{Kind: gear.Tyre, X: 9000, Z: 400, Radius: 400}),
		cast,
	)
	require.NoError(t, err)
	assert.Equal(t, alone.Length, with.Length)
	_, err = gear.Taut([]gear.Wheel{wheels[0], {Kind: gear.Tyre, X: 900, Radius: 300}}, cast)
	assert.ErrorContains(t, err, "two wheels")
}

func TestChainLaysEqualLinks(t *testing.T) {
	wheels := random(rand.New(rand.NewPCG(2, 2)))
	loop, err := gear.Taut(wheels, cast)
	require.NoError(t, err)
	run, err := gear.Hang(wheels, cast, loop, loop.Slack)
	require.NoError(t, err)
	pins := gear.Chain(run.Outline(loop, wheels, cast), loop.Links)
	require.Len(t, pins, loop.Links)
	for i, p := range pins {
		q := pins[(i+1)%len(pins)]
		assert.InDelta(t, cast.Pitch, math.Hypot(p[0]-q[0], p[1]-q[1]), 0.05*cast.Pitch)
	}
}

// More slack never raises the track anywhere.
func TestMoreSlackHangsLower(t *testing.T) {
	r := rand.New(rand.NewPCG(31, 31))
	for trial := range 60 {
		wheels := random(r)
		loop, err := gear.Taut(wheels, cast)
		require.NoError(t, err)
		slack := 5 + 60*r.Float64()
		height := func(slack float64) func(x float64) (float64, bool) {
			run, err := gear.Hang(wheels, cast, loop, slack)
			require.NoError(t, err)
			return func(x float64) (float64, bool) {
				for _, s := range run.Spans {
					if x > s.From[0] && x < s.To[0] {
						return s.Height(x), true
					}
				}
				return 0, false
			}
		}
		less, more := height(slack), height(1.3*slack)
		for x := 200.0; x < 5000; x += 50 {
			a, okA := less(x)
			b, okB := more(x)
			if okA && okB {
				assert.LessOrEqual(t, b, a+0.05, "trial %d at %.0f", trial, x)
			}
		}
	}
}

// Twenty wheels and two hundred links, all of a solve: loop, sag, choices not counted.
func BenchmarkSolve20Wheels200Links(b *testing.B) {
	wheels := []gear.Wheel{
		{Kind: gear.Sprocket, X: 6000, Z: 800, Radius: 300, Teeth: 30},
		{Kind: gear.Idler, X: -200, Z: 780, Radius: 300},
	}
	for i := range 12 {
		wheels = append(wheels, gear.Wheel{Kind: gear.Road, X: 300 + 480*float64(i), Z: 340, Radius: 300})
	}
	for i := range 6 {
		wheels = append(wheels, gear.Wheel{Kind: gear.Return, X: 500 + 900*float64(i), Z: 1000, Radius: 90})
	}
	link := gear.Link{Pitch: 72, Surface: 20, Ground: 20, Width: 400}
	links := 0
	for b.Loop() {
		loop, err := gear.Taut(wheels, link)
		if err != nil {
			b.Fatal(err)
		}
		if _, err := gear.Hang(wheels, link, loop, loop.Slack); err != nil {
			b.Fatal(err)
		}
		links = loop.Links
	}
	b.ReportMetric(float64(links), "links")
	b.ReportMetric(float64(len(wheels)), "wheels")
}
