package base_test

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"cinderpath/core/base"
	"cinderpath/core/gear"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// cart is a vehicle of two flat runs, 3500 mm long and 500 wide, the middle of both 1000 mm off.
func cart(ground gear.Terrain) base.Site {
	line := [][2]float64{{-1750, 0}, {1750, 0}}
	return base.Site{
		Scale:  35,
		Gear:   base.Box{X0: -1750, X1: 1750, Y0: -1250, Y1: 1250},
		Whole:  base.Box{X0: -2100, X1: 3500, Y0: -1300, Y1: 1300},
		Runs:   []base.Run{{Y0: 750, Y1: 1250, Line: line}, {Y0: -1250, Y1: -750, Line: line}},
		Ground: ground,
		Belly:  []base.Plate{{X0: -1400, X1: 1400, Z: 400}},
		Centre: 100,
	}
}

func TestABaseOfALevelGround(t *testing.T) {
	b := base.Base{
		Margin: 25,
		Board:  8,
		Depth:  4,
		Sink:   35,
		Screw:  3,
		Screws: 1,
		Strewn: []base.Grain{{Kind: "sand", MM: 0.05}},
	}
	l, err := base.Lay(b, cart(nil))
	require.NoError(t, err)
	// 3500 / 35 + 2 · 25 by 2500 / 35 + 2 · 25.
	assert.InDelta(t, 150, l.Long, 1e-9)
	assert.InDelta(t, 2500.0/35+50, l.Wide, 1e-9)
	assert.InDelta(t, 25, l.Spare, 1e-9)
	assert.InDelta(t, 1, l.Imprint, 1e-9)
	require.Len(t, l.Prints, 2)
	// Two runs of 100 by 500/35 mm, a millimetre deep.
	prints := 2 * 100 * 500.0 / 35
	assert.InDelta(t, prints/100, l.PrintCM, 1e-9)
	assert.InDelta(t, (150*(2500.0/35+50)*4-prints*1)/1000, l.VolumeML, 1e-9)
	assert.InDelta(t, 1.2*l.VolumeML, l.MixML, 1e-9)
	assert.Equal(t, 2, l.Layers, "no layer is deeper than 2 mm")
	require.Len(t, l.Screws, 1)
	assert.InDelta(t, 100.0/35, l.Screws[0].Along, 1e-9, "about the middle of its weight")
	assert.InDelta(t, (400.0-35)/35, l.Screws[0].Gap, 1e-9)
	assert.InDelta(t, 8+4+(400.0-35)/35+6, l.Screws[0].Least, 1e-9)
	assert.Equal(t, []string{"sand of 0.05 mm is 1.8 mm in life"}, l.Grains)
	assert.InDelta(t, (3500.0/35 - 150/2.0), l.Beyond, 1e-9, "the gun reaches over the edge")
	for _, p := range l.Profile {
		want := 4.0
		if math.Abs(p[0]) <= 50 {
			want = 3
		}
		assert.InDelta(t, want, p[1], 1e-9, "at %v", p[0])
	}
}

func TestWhatDoesNotFitIsSaid(t *testing.T) {
	b := base.Base{
		Board:  8,
		Depth:  1,
		Sink:   500,
		Screw:  3,
		Screws: 2,
		Long:   60,
		Wide:   60,
		Strewn: []base.Grain{{Kind: "sand", MM: 1}},
	}
	l, err := base.Lay(b, cart(nil))
	require.NoError(t, err)
	for _, part := range []string{"over the board", "lay it deeper", "sink less", "over the edge"} {
		found := false
		for _, w := range l.Words {
			found = found || strings.Contains(w, part)
		}
		assert.True(t, found, "%q in %v", part, l.Words)
	}
	assert.Contains(t, l.Grains[0], "larger than any sand")
	b.Screw = 99
	_, err = base.Lay(b, cart(nil))
	assert.ErrorContains(t, err, "screw")
}

// The volume of ground on any board, however it is turned, against counting small squares of it.
func TestTheGroundOfABaseIsCounted(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 3))
		var ground gear.Terrain
		for x := -2500.0; x < 2500; x += 300 + 900*r.Float64() {
			ground = append(ground, [2]float64{x, 400 * r.Float64()})
		}
		b := base.Base{
			Margin: 40 * r.Float64(), Turn: 180 * (r.Float64() - 0.5), Board: 10, Depth: 5 * r.Float64(), Strewn: []base.Grain{},
		}
		s := cart(ground)
		s.Runs = nil
		l, err := base.Lay(b, s)
		require.NoError(t, err)
		const n = 700
		sin, cos := math.Sincos(-b.Turn * math.Pi / 180)
		low, sum := math.Inf(1), 0.0
		for i := range n {
			for k := range n {
				x, y := ((float64(i)+0.5)/n-0.5)*l.Long, ((float64(k)+0.5)/n-0.5)*l.Wide
				z := ground.Height((x*cos - y*sin) * s.Scale)
				low, sum = min(low, z), sum+z
			}
		}
		want := (sum/(n*n)-low)/s.Scale + b.Depth // mm
		assert.InEpsilon(t, want*l.Long*l.Wide/1000, l.VolumeML, 0.01)
		// Turned or not, the margin is kept on each side.
		assert.InDelta(t, b.Margin, l.Spare, 1e-9)
	})
}

// A wheel that sinks in leaves a print as long as its chord.
func TestATyreLeavesItsChord(t *testing.T) {
	s := cart(nil)
	const r, sink = 500.0, 60.0
	var line [][2]float64
	for x := -r; x <= r; x += 2 {
		line = append(line, [2]float64{x, r - math.Sqrt(r*r-x*x)})
	}
	s.Runs = []base.Run{{Y0: 900, Y1: 1100, Line: line}}
	l, err := base.Lay(base.Base{Board: 5, Depth: 4, Sink: sink, Strewn: []base.Grain{}}, s)
	require.NoError(t, err)
	require.Len(t, l.Prints, 1)
	chord := l.Prints[0][1][0] - l.Prints[0][0][0]
	assert.InDelta(t, 2*math.Sqrt(2*r*(sink+1)-(sink+1)*(sink+1))/35, chord, 0.1)
	bare, err := base.Lay(base.Base{Board: 5, Depth: 4, Strewn: []base.Grain{}}, s)
	require.NoError(t, err)
	// A segment of a circle, 200 mm wide.
	half := math.Acos(1 - sink/r)
	segment := r * r * (half - math.Sin(half)*math.Cos(half))
	assert.InDelta(t, segment*200/(35*35*35)/1000, bare.VolumeML-l.VolumeML, 0.01)
}
