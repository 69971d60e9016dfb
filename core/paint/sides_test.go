package paint_test

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"cinderpath/core/colour"
	"cinderpath/core/measure"
	"cinderpath/core/paint"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// dust is a thin light layer in passes over greens and greys.
func dust() (paint.Pass, []paint.Ground) {
	p := paint.Paint{Swatch: colour.Of("#a89a7c"), Hiding: 0.6, Sheen: colour.Matt, Solids: 0.3}
	grounds := []paint.Ground{}
	for _, g := range [][2]string{{"lichen green", "#5b6b3c"}, {"basalt grey", "#4a4c50"}} {
		grounds = append(grounds, paint.Ground{Name: g[0], Is: colour.Spectrum(colour.Of(g[1]), colour.Matt).Internal})
	}
	return paint.Pass{Pigment: p.Pigment(), Skin: colour.Matt, Film: 2, Planned: 4}, grounds
}

// made is what a photograph would tell of so much of it.
func made(p paint.Pass, g paint.Ground, x paint.Film, off colour.Lab, sure float64) paint.Told {
	over := paint.Seen(p.Skin)
	c := over.Lab(p.Pigment.Film(x, g.Is))
	for k := range c {
		c[k] += off[k]
	}
	return paint.Told{Lab: c, Sure: [3]float64{sure, sure, sure}}
}

// Passes are found back from the colours that they make, within what is told of how sure they are.
func TestPassesOfBothSidesAreFoundBack(t *testing.T) {
	p, grounds := dust()
	rapid.Check(t, func(r *rapid.T) {
		g := grounds[rapid.IntRange(0, 1).Draw(r, "ground")]
		left, right := rapid.Float64Range(0, 6).Draw(r, "left"), rapid.Float64Range(0, 6).Draw(r, "right")
		noise := func(name string) (c colour.Lab) {
			for k := range c {
				c[k] = rapid.Float64Range(-0.4, 0.4).Draw(r, name)
			}
			return c
		}
		out, err := paint.MatchSides(p, grounds,
			made(p, g, paint.Film(2*left), noise("l"), 0.5), made(p, g, paint.Film(2*right), noise("r"), 0.5), [2]int{})
		require.NoError(r, err)
		if left+right > 0.5 {
			assert.Equal(r, g.Name, out.Ground)
			assert.InDelta(r, left, out.Left.Passes, 2*out.Left.Within+0.05)
			assert.InDelta(r, right, out.Right.Passes, 2*out.Right.Within+0.05)
		}
	})
}

func TestSidesAreComparedInWords(t *testing.T) {
	p, grounds := dust()
	for _, c := range []struct {
		left, right float64
		counted     [2]int
		words       string
	}{
		{4, 2, [2]int{}, "Right is 2 passes short of left."},
		{1.5, 4, [2]int{}, "Left is 2.5 passes short of right."},
		{3, 2, [2]int{}, "Right is one pass short of left."},
		{3, 3.1, [2]int{}, "Left and right match, within 0.5 of a pass."},
		// Three passes on each side left as much as one and a half planned ones.
		{2, 1, [2]int{3, 3}, "A pass of yours leaves 1.0 µm where 2.0 µm are planned."},
	} {
		out, err := paint.MatchSides(p, grounds, made(p, grounds[0], paint.Film(2*c.left), colour.Lab{}, 0.3),
			made(p, grounds[0], paint.Film(2*c.right), colour.Lab{}, 0.3), c.counted)
		require.NoError(t, err)
		assert.Contains(t, out.Words, c.words)
		assert.NotEmpty(t, out.Why.Formula)
	}
	// So much of it hides all: passes are not guessed.
	out, err := paint.MatchSides(p, grounds, made(p, grounds[0], 4000, colour.Lab{}, 0.5),
		made(p, grounds[0], 8000, colour.Lab{}, 0.5), [2]int{})
	require.NoError(t, err)
	assert.Contains(t, strings.Join(out.Words, " "), "cannot be told")
	// A colour that it makes on nothing.
	_, err = paint.MatchSides(
		p,
		grounds,
		paint.Told{Lab: colour.Lab{40, 60, 20}},
		made(p, grounds[0], 4, colour.Lab{}, 1),
		[2]int{},
	)
	var fault *measure.Fault
	require.ErrorAs(t, err, &fault)
	assert.Equal(t, "left", fault.Field)
}

// patch draws discs onto a ground under light that falls off; it tells how many it drew and what they cover.
func patch(each, diameter, pixel float64, seed uint64) (p paint.Patch, count int, share float64) {
	const wide, high = 320, 240
	chance := rand.New(rand.NewPCG(seed, 1))
	p = paint.Patch{Wide: wide, Pixel: pixel, Light: make([]paint.Photographed, wide*high)}
	for k := range p.Light {
		fall := math.Exp(0.5*float64(k%wide)/wide - 0.3*float64(k/wide)/high)
		grain := 1 + 0.04*(chance.Float64()-0.5)
		p.Light[k] = paint.Photographed{0.12 * fall * grain, 0.15 * fall * grain, 0.07 * fall * grain}
	}
	r := diameter / 2 / pixel
	at := [][2]float64{}
	for i := 0; count < int(math.Round(each*wide*high*pixel*pixel/100)) && i < 100_000; i++ {
		x, y := r+(wide-2*r)*chance.Float64(), r+(high-2*r)*chance.Float64()
		apart := true
		for _, o := range at {
			apart = apart && math.Hypot(o[0]-x, o[1]-y) > 2*r+3
		}
		if !apart {
			continue
		}
		at = append(at, [2]float64{x, y})
		count++
		for k := range p.Light {
			if math.Hypot(float64(k%wide)+0.5-x, float64(k/wide)+0.5-y) <= r {
				for c := range 3 {
					p.Light[k][c] *= 0.6
				}
			}
		}
	}
	return p, count, float64(count) * math.Pi * diameter * diameter / 4 / (wide * high * pixel * pixel)
}

func TestSpecksAreCounted(t *testing.T) {
	for _, c := range []struct{ each, diameter, pixel float64 }{
		{0, 0.4, 0.08}, {8, 0.4, 0.08}, {25, 0.5, 0.08}, {60, 0.3, 0.05}, {12, 1.2, 0.1},
	} {
		p, count, share := patch(c.each, c.diameter, c.pixel, uint64(c.each))
		got, err := paint.CountSpecks(p)
		require.NoError(t, err)
		assert.Equal(t, count, got.Count, "%v", c)
		assert.InDelta(t, share, got.Share, 0.1*share+1e-9)
		if count > 0 {
			assert.InDelta(t, c.diameter, got.Middle, c.pixel)
		}
	}
	p, _, _ := patch(8, 0.4, 0.4, 1)
	_, err := paint.CountSpecks(p)
	assert.ErrorContains(t, err, "nearer")
	// Two colours, half and half.
	p, _, _ = patch(0, 0.4, 0.08, 2)
	for k := range p.Light {
		if (k%p.Wide+k/p.Wide)%160 < 80 {
			p.Light[k][0] *= 3
		}
	}
	_, err = paint.CountSpecks(p)
	assert.ErrorContains(t, err, "two colours")
}

func TestMarksOfBothSidesAreCompared(t *testing.T) {
	of := func(n int, cm2 float64) paint.Specks { return paint.Specks{Count: n, CM2: cm2, Each: float64(n) / cm2} }
	assert.Equal(
		t,
		"Marks: 30 to the cm² left, 12 right: right has 60 % fewer.",
		paint.CompareSpecks(of(120, 4), of(48, 4)),
	)
	assert.Equal(t, "Marks: 10 to the cm² left, 20 right: left has 50 % fewer.", paint.CompareSpecks(of(40, 4), of(80, 4)))
	assert.Contains(t, paint.CompareSpecks(of(12, 4), of(14, 4)), "chance alone")
	assert.Contains(t, paint.CompareSpecks(of(0, 4), of(0, 4)), "chance alone")
}
