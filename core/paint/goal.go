package paint

import (
	"math"

	"cinderpath/core/colour"
)

// box is a range of colours in Lab.
type box struct{ low, high colour.Lab }

// goal is a wanted colour, for telling how far at least what lies in a box is from it.
type goal struct {
	at     colour.Lab
	chroma float64
	plain  plain
}

func newGoal(at colour.Lab) goal {
	return goal{at, math.Hypot(at[1], at[2]), newPlain(at)}
}

const pow25 = 25.0 * 25 * 25 * 25 * 25 * 25 * 25

// away is how far a value lies from a range, at least.
func away(x, low, high float64) float64 { return max(low-x, x-high, 0) }

// least is a ΔE00 that no colour in the box is below.
//
// ΔE00² = x² + y² + z² + R y z with x = ΔL/S_L, y = ΔC'/S_C, z = ΔH'/S_H. Here
// ΔC'² + ΔH'² is the square of the distance in (a', b), where a' = (1 + G) a with one G ≥ 0
// for both colours; S_C and S_H grow with the mean chroma, S_L with the distance of the mean
// L from 50; y² + z² + R y z ≥ (1 − |R|/2)(y² + z²), and |R| ≤ 2 √(c⁷/(c⁷ + 25⁷)) sin 60°.
func (g *goal) least(b box) float64 {
	x := g.leastOfLight(b.low[0], b.high[0])
	da := away(g.at[1], b.low[1], b.high[1])
	db := away(g.at[2], b.low[2], b.high[2])
	if da == 0 && db == 0 {
		return x
	}
	farA := max(math.Abs(b.low[1]), math.Abs(b.high[1]))
	farB := max(math.Abs(b.low[2]), math.Abs(b.high[2]))
	most := 1.5 * (g.chroma + math.Hypot(farA, farB)) / 2 // C' ≤ 1.5 C
	c2 := most * most
	c7 := c2 * c2 * c2 * most
	rest := 1 - math.Sqrt(c7/(c7+pow25))*0.8660254037844387
	// T ≤ 1 + 0.17 + 0.24 + 0.32 + 0.2
	s := 1 + max(0.045, 0.015*1.93)*most
	return math.Sqrt(x*x + rest*(da*da+db*db)/(s*s))
}

// leastOfLight is what a range of L alone says.
func (g *goal) leastOfLight(low, high float64) float64 {
	far := max(math.Abs((g.at[0]+low)/2-50), math.Abs((g.at[0]+high)/2-50))
	return away(g.at[0], low, high) / (1 + 0.015*far*far/math.Sqrt(20+far*far))
}

// band of Y, a part of white's, in which anything lies whose difference is below a limit:
// S_L is at most 1.75.
func (g *goal) band(limit float64) (low, high float64) {
	y := func(l float64) float64 { return colour.Lab{l, 0, 0}.XYZ()[1] }
	return y(g.at[0] - 1.75*limit), y(g.at[0] + 1.75*limit)
}

// span is the range of X, Y, Z, each as a part of white's, and of X − Y and Y − Z.
type span struct{ low, high [5]float64 }

// nearer tells whether something in the span may be nearer to the goal than a limit.
func (g *goal) nearer(s *span, limit float64) bool {
	var low, high [3]float64
	low[1], high[1] = root(s.low[1]), root(s.high[1])
	b := box{colour.Lab{116*low[1] - 16}, colour.Lab{116*high[1] - 16}}
	if g.leastOfLight(b.low[0], b.high[0]) > limit {
		return false
	}
	for _, k := range []int{0, 2} {
		low[k], high[k] = root(s.low[k]), root(s.high[k])
	}
	for i, scale := range []float64{500, 200} {
		steep := slope(min(s.low[i], s.low[i+1]), min(low[i], low[i+1]))
		flat := slope(max(s.high[i], s.high[i+1]), max(high[i], high[i+1]))
		d0, d1 := s.low[3+i], s.high[3+i]
		// root(p) − root(q) is p − q times the slope somewhere between them.
		most := d1 * steep
		if d1 < 0 {
			most = d1 * flat
		}
		least := d0 * flat
		if d0 < 0 {
			least = d0 * steep
		}
		b.low[1+i] = scale * max(low[i]-high[i+1], least)
		b.high[1+i] = scale * min(high[i]-low[i+1], most)
	}
	return g.least(b) <= limit
}

// root is what Lab takes of a light.
func root(t float64) float64 {
	const epsilon, kappa = 216.0 / 24389, 24389.0 / 27
	if t > epsilon {
		return cubeRoot(t)
	}
	return (kappa*t + 16) / 116
}

// cubeRoot is that of a positive number that is not tiny, to the last digit or two: a guess from
// the exponent, then Halley's steps, each of which triples the digits.
func cubeRoot(t float64) float64 {
	x := math.Float64frombits(math.Float64bits(t)/3 + 0x2a9f8b7cef1d0da0)
	for range 3 {
		c := x * x * x
		x *= (c + 2*t) / (2*c + t)
	}
	return x
}

// slope of root at t, which falls from a line's on.
func slope(t, root float64) float64 {
	const epsilon, kappa = 216.0 / 24389, 24389.0 / 27
	if t > epsilon {
		return root / (3 * t)
	}
	return kappa / 116
}
