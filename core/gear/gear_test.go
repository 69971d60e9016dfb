package gear_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"cinderpath/core/gear"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

var plain = gear.Link{Pitch: 130, Surface: 0, Ground: 0, Width: 400}

// The handbook's worked two-wheel loop.
func TestTautTwoWheelsWorked(t *testing.T) {
	loop, err := gear.Taut([]gear.Wheel{
		{Kind: gear.Idler, X: 0, Z: 0, Radius: 300},
		{Kind: gear.Idler, X: 4000, Z: 0, Radius: 250},
	}, plain)
	require.NoError(t, err)
	assert.InDelta(t, 9760.436, loop.Length, 0.0005)
	assert.InDelta(t, 75.0803, loop.Exact, 0.00005)
	assert.Equal(t, 76, loop.Links)
	assert.InDelta(t, 119.564, loop.Slack, 0.0005)
}

// The closed form for any two wheels.
func TestTautTwoWheelsClosedForm(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a1 := rapid.Float64Range(100, 500).Draw(t, "a1")
		a2 := rapid.Float64Range(100, 500).Draw(t, "a2")
		d := rapid.Float64Range(1100, 9000).Draw(t, "d")
		turn := rapid.Float64Range(0, 6.28).Draw(t, "turn")
		loop, err := gear.Taut([]gear.Wheel{
			{Kind: gear.Road, X: 10, Z: 20, Radius: a1},
			{Kind: gear.Road, X: 10 + d*math.Cos(turn), Z: 20 + d*math.Sin(turn), Radius: a2},
		}, plain)
		require.NoError(t, err)
		phi := math.Asin((a1 - a2) / d)
		lambda := func(a float64) float64 { return plain.Pitch / 2 / math.Atan(plain.Pitch/(2*a)) }
		want := 2*math.Sqrt(d*d-(a1-a2)*(a1-a2)) + lambda(a1)*(math.Pi+2*phi) + lambda(a2)*(math.Pi-2*phi)
		assert.InDelta(t, want, loop.Length, 1e-6)
	})
}

// An independent slow truth: with a pitch near zero the loop is the perimeter of
// the hull of many points set on the discs.
func TestTautAgainstHullOfPoints(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 7))
	fine := gear.Link{Pitch: 0.01, Width: 1}
	for trial := range 60 {
		wheels := make([]gear.Wheel, 2+random.IntN(9))
		var points [][2]float64
		for i := range wheels {
			wheels[i] = gear.Wheel{
				Kind:   gear.Road,
				X:      random.Float64() * 6000,
				Z:      random.Float64() * 1200,
				Radius: 80 + random.Float64()*320,
			}
			for k := range 360 {
				a := float64(k) * 2 * math.Pi / 360
				points = append(
					points,
					[2]float64{wheels[i].X + wheels[i].Radius*math.Cos(a), wheels[i].Z + wheels[i].Radius*math.Sin(a)},
				)
			}
		}
		loop, err := gear.Taut(wheels, fine)
		if err != nil {
			assert.Contains(t, err.Error(), "encloses")
			continue
		}
		assert.InEpsilon(t, hullPerimeter(points), loop.Length, 5e-5, "trial %d", trial)
	}
}

// hullPerimeter walks the hull by gift wrapping, as plainly as possible.
func hullPerimeter(points [][2]float64) float64 {
	start := points[0]
	for _, p := range points {
		if p[0] < start[0] {
			start = p
		}
	}
	sum, at := 0.0, start
	for range len(points) {
		next := points[0]
		for _, p := range points {
			cross := (next[0]-at[0])*(p[1]-at[1]) - (next[1]-at[1])*(p[0]-at[0])
			farther := math.Hypot(p[0]-at[0], p[1]-at[1]) > math.Hypot(next[0]-at[0], next[1]-at[1])
			if next == at || cross < -1e-9 || (cross <= 1e-9 && farther) {
				next = p
			}
		}
		sum += math.Hypot(next[0]-at[0], next[1]-at[1])
		at = next
		if at == start {
			break
		}
	}
	return sum
}

func TestTautScalesAndMirrors(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var wheels, scaled, mirrored []gear.Wheel
		k := rapid.Float64Range(0.1, 10).Draw(t, "scale")
		n := rapid.IntRange(2, 12).Draw(t, "wheels")
		for i := range n {
			w := gear.Wheel{Kind: gear.Road,
				X:      float64(i)*700 + rapid.Float64Range(0, 300).Draw(t, "x"),
				Z:      rapid.Float64Range(100, 900).Draw(t, "z"),
				Radius: rapid.Float64Range(100, 340).Draw(t, "r")}
			wheels = append(wheels, w)
			scaled = append(scaled, gear.Wheel{Kind: w.Kind, X: k * w.X, Z: k * w.Z, Radius: k * w.Radius})
			mirrored = append(mirrored, gear.Wheel{Kind: w.Kind, X: -w.X, Z: w.Z, Radius: w.Radius})
		}
		a, err := gear.Taut(wheels, plain)
		require.NoError(t, err)
		link := plain
		link.Pitch *= k
		b, err := gear.Taut(scaled, link)
		require.NoError(t, err)
		c, err := gear.Taut(mirrored, plain)
		require.NoError(t, err)
		assert.InEpsilon(t, a.Length*k, b.Length, 1e-9)
		assert.InEpsilon(t, a.Length, c.Length, 1e-9)
		assert.GreaterOrEqual(t, a.Slack, -1e-6)
		assert.Less(t, a.Slack, plain.Pitch)
	})
}

func TestSprocketPinsLieOnTheirCircle(t *testing.T) {
	w := gear.Wheel{Kind: gear.Sprocket, Teeth: 14, Radius: 300}
	a := w.Apothem(plain)
	// Apothem and half a pitch make the pin circle p / (2 sin(pi/Z)).
	assert.InDelta(t, 130/(2*math.Sin(math.Pi/14)), math.Hypot(a, 65), 1e-9)
}

func TestTautRefusesImpossibleGear(t *testing.T) {
	good := []gear.Wheel{{Kind: gear.Road, X: 0, Radius: 300}, {Kind: gear.Road, X: 2000, Radius: 300}}
	cases := []struct {
		name   string
		wheels []gear.Wheel
		link   gear.Link
		want   string
	}{
		{"one wheel", good[:1], plain, "at least two"},
		{"no pitch", good, gear.Link{Width: 1}, "pitch"},
		{"wheel without radius", []gear.Wheel{good[0], {Kind: gear.Road, X: 9}}, plain, "wheel 2"},
		{"enclosed", []gear.Wheel{good[0], {Kind: gear.Road, X: 10, Radius: 20}}, plain, "encloses"},
		{"two teeth", []gear.Wheel{good[0], {Kind: gear.Sprocket, X: 900, Radius: 20, Teeth: 2}}, plain, "teeth"},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			_, err := gear.Taut(c.wheels, c.link)
			assert.ErrorContains(t, err, c.want)
		})
	}
}

func BenchmarkTaut20Wheels(b *testing.B) {
	var wheels []gear.Wheel
	for i := range 20 {
		wheels = append(wheels, gear.Wheel{Kind: gear.Road, X: float64(i) * 300, Z: 300 + float64(i%3)*200, Radius: 140})
	}
	for b.Loop() {
		if _, err := gear.Taut(wheels, plain); err != nil {
			b.Fatal(err)
		}
	}
}

func ExampleTaut() {
	loop, _ := gear.Taut([]gear.Wheel{
		{Kind: gear.Sprocket, X: 0, Z: 600, Radius: 300, Teeth: 14},
		{Kind: gear.Idler, X: 4000, Z: 600, Radius: 250},
	}, gear.Link{Pitch: 130, Surface: 20, Width: 400})
	fmt.Println(loop.Links, "links per side")
	// Output: 76 links per side
}
