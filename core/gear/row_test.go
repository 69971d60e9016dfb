package gear_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"cinderpath/core/gear"
	"cinderpath/core/unit"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Wheels set in a row: as many, as far apart and as large as asked, about the same middle
// and on the same ground; hubs keep their share, arms their way, other wheels their place.
func TestRow(t *testing.T) {
	r := rand.New(rand.NewPCG(41, 41))
	for range 50 {
		wheels := armed(random(r))
		var first, last float64
		var others int
		for _, w := range wheels {
			if w.Kind == gear.Road {
				if first == 0 || w.X > first {
					first = w.X
				}
				if last == 0 || w.X < last {
					last = w.X
				}
			} else {
				others++
			}
		}
		for i := range wheels {
			wheels[i].Hub = 0.8 * wheels[i].Radius
		}
		count, spacing, diameter := 1+r.IntN(9), 200+500*r.Float64(), 300+400*r.Float64()
		made, err := gear.Row(wheels, count, spacing, diameter)
		require.NoError(t, err)
		require.Len(t, made, others+count)
		var x []float64
		for _, w := range made {
			if w.Kind != gear.Road {
				assert.Contains(t, wheels, w, "left alone")
				continue
			}
			x = append(x, w.X)
			assert.InDelta(t, diameter/2, w.Radius, 1e-9)
			assert.InDelta(t, 0.8, w.Hub/w.Radius, 1e-9)
			assert.InDelta(t, 20, w.Z-w.Radius, 1e-9, "its lowest point stays")
			require.NotNil(t, w.Arm)
			assert.Equal(t, [2]float64{w.X + 250, w.Z + 120}, w.Pivot())
		}
		sum := 0.0
		for i, at := range x {
			sum += at / float64(count)
			if i > 0 {
				assert.InDelta(t, spacing, x[i-1]-at, 1e-9, "from the front")
			}
		}
		assert.InDelta(t, (first+last)/2, sum, 1e-6)
	}
	wheels := random(r)
	for want, call := range map[string]func() ([]gear.Wheel, error){
		"no road wheel":   func() ([]gear.Wheel, error) { return gear.Row(wheels[:2], 3, 500, 500) },
		"give 1 to 20":    func() ([]gear.Wheel, error) { return gear.Row(wheels, 0, 500, 500) },
		"a row of 21":     func() ([]gear.Wheel, error) { return gear.Row(wheels, 21, 500, 500) },
		"above zero":      func() ([]gear.Wheel, error) { return gear.Row(wheels, 3, 0, 500) },
		"between the axl": func() ([]gear.Wheel, error) { return gear.Row(wheels, 3, 500, math.NaN()) },
	} {
		_, err := call()
		assert.ErrorContains(t, err, want)
	}
}

// The ground to begin from suits the wheels: every arm of a common kind reaches it.
func TestUnevenGroundIsWithinReach(t *testing.T) {
	r := rand.New(rand.NewPCG(42, 42))
	for range 30 {
		wheels := random(r)
		for i, w := range wheels {
			if w.Kind == gear.Road {
				wheels[i].Z = w.Radius + cast.Surface + cast.Ground
				wheels[i].Arm = gear.CommonArm(wheels[i])
			}
		}
		ground := gear.Uneven(wheels)
		require.NoError(t, ground.Check())
		require.Len(t, ground, 4)
		moved := 0
		_, swings := gear.Follow(wheels, cast, ground)
		for _, s := range swings {
			assert.Zero(t, s.Buried)
			assert.False(t, s.Hangs)
			if math.Abs(s.Lift) > 5 {
				moved++
			}
		}
		assert.GreaterOrEqual(t, moved, 2, "it is uneven")
	}
	assert.Empty(t, gear.Uneven([]gear.Wheel{{Kind: gear.Idler, Radius: 300}}), "nothing runs on it")
}

// Heights between bends are straight, level beyond both ends, and a step is its higher side.
func TestTerrainHeights(t *testing.T) {
	ground := gear.Terrain{{0, 0}, {1000, 100}, {1000, -50}, {2000, 50}}
	for x, want := range map[float64]float64{-500: 0, 0: 0, 250: 25, 1500: 0, 2000: 50, 9000: 50} {
		assert.InDelta(t, want, ground.Height(x), 1e-9, "at %v", x)
	}
	assert.Zero(t, gear.Terrain(nil).Height(3))
	assert.ErrorContains(t, gear.Terrain{{0, 9000}}.Check(), "up to 5 m")
	assert.ErrorContains(t, make(gear.Terrain, 61).Check(), "more than 60")
}

// What a link costs in time is the make's, until it is noted.
func TestWorkOfALink(t *testing.T) {
	seen := map[unit.Minutes]bool{}
	for _, m := range []gear.Make{gear.Band, gear.Runs, gear.Single, gear.Pinned} {
		seen[gear.Link{Make: m}.Work()] = true
		assert.InDelta(t, 7.5, float64(gear.Link{Make: m, Minutes: 7.5}.Work()), 0)
	}
	assert.Len(t, seen, 4)
	assert.Equal(t, gear.Link{Make: gear.Single}.Work(), gear.Link{}.Work())
}

func TestLinksAndWheelsThatCannotBe(t *testing.T) {
	for want, l := range map[string]gear.Link{
		"no make of track": {Pitch: 100, Width: 300, Make: "rope"},
		"bandMm":           {Pitch: 100, Width: 300, Band: 20_000},
		"pinMm":            {Pitch: 100, Width: 300, Pin: 30},
		"travel":           {Pitch: 100, Width: 300, Travel: -1},
		"pitch is 1e-06":   {Pitch: 1e-6, Width: 300},
		"pitch is NaN":     {Pitch: math.NaN(), Width: 300},
		"width":            {Pitch: 100},
		"surface":          {Pitch: 100, Width: 300, Surface: 99_999},
	} {
		assert.ErrorContains(t, l.Sensible(), want)
	}
	for want, w := range map[string]gear.Wheel{
		`is a "tea"`:     {Kind: "tea", Radius: 300},
		"its radius":     {Kind: gear.Road, Radius: math.Inf(1)},
		"its teeth":      {Kind: gear.Sprocket, Radius: 300, Teeth: 1000},
		"wheel 3: its x": {Kind: gear.Road, Radius: 300, X: 1e6},
	} {
		assert.ErrorContains(t, w.Sensible(3), want)
	}
	assert.NoError(t, gear.Link{Pitch: 100, Width: 300}.Sensible())
}

// With the idler's travel known, no choice asks it to go farther.
func TestTakeUpStaysWithinTheTravel(t *testing.T) {
	r := rand.New(rand.NewPCG(77, 7))
	moves, stays := 0, 0
	for range 60 {
		wheels := random(r)
		wheels[1].Kind = gear.Sprocket
		l := cast
		l.Travel = 5 + 50*r.Float64()
		loop, err := gear.Taut(wheels, l)
		require.NoError(t, err)
		for _, c := range gear.Choices(wheels, l, loop) {
			if !c.CanMove {
				stays++
				continue
			}
			moves++
			assert.LessOrEqual(t, math.Abs(c.TakeUp), l.Travel+1e-9)
		}
	}
	assert.Positive(t, moves)
	assert.Positive(t, stays)
}
