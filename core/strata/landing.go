package strata

import (
	"math"

	"cinderpath/core/form"
)

// Landing tells where a layer lands: how much of it, from 0 to 1, reaches each texel. Heights,
// widths and distances are real mm.
type Landing interface {
	// On fills out for the texels of a panel; seed is of the layer and the side.
	On(t *form.Texels, seed uint64, out []float32)
}

// fill asks for a value at each texel that the panel covers.
func fill(t *form.Texels, out []float32, at func(k int) float32) {
	for k, a := range t.Area {
		out[k] = 0
		if a > 0 {
			out[k] = at(k)
		}
	}
}

// even fills with one value.
func even(t *form.Texels, out []float32, v float64) {
	fill(t, out, func(int) float32 { return float32(v) })
}

// all lands everywhere.
type all struct{}

func (all) On(t *form.Texels, _ uint64, out []float32) { even(t, out, 1) }

// up lands on faces that look up, the steeper the less by its power.
type up float64

func (k up) On(t *form.Texels, _ uint64, out []float32) {
	even(t, out, math.Pow(max(t.Normal[2], 0), float64(k)))
}

// upright lands on upright faces.
type upright struct{}

func (upright) On(t *form.Texels, _ uint64, out []float32) { even(t, out, 1-math.Abs(t.Normal[2])) }

// low is 1 at a height and below it, and smooth to 0 at another.
type low [2]float64

func (h low) On(t *form.Texels, _ uint64, out []float32) {
	// Height rises evenly over a flat panel.
	fill(t, out, func(k int) float32 {
		x := min(max((h[1]-t.Point(k)[2])/(h[1]-h[0]), 0), 1)
		return float32(x * x * (3 - 2*x))
	})
}

// bell falls with a distance, to next to nothing at three widths.
func bell(distance float32, width float64) float32 {
	x := float64(distance) / width
	if x > 3.5 {
		return 0
	}
	return float32(math.Exp(-x * x))
}

// recess lands where the surface turns up, within so much.
type recess float64

func (w recess) On(t *form.Texels, _ uint64, out []float32) {
	fill(t, out, func(k int) float32 { return bell(t.Hollow[k], float64(w)) })
}

// edge lands on outer edges, within so much.
type edge float64

func (w edge) On(t *form.Texels, _ uint64, out []float32) {
	fill(t, out, func(k int) float32 { return bell(t.Convex[k], float64(w)) })
}

// noise is patchy, in patches of a size and finer ones in them.
type noise struct {
	size    float64
	octaves int
}

func (n noise) On(t *form.Texels, seed uint64, out []float32) {
	fill(t, out, func(k int) float32 {
		p := t.Point(k)
		return patchy(seed, n.octaves, p[0]/n.size, p[1]/n.size, p[2]/n.size)
	})
}

// drawn is patchy in stripes that run down: so wide, so long.
type drawn [2]float64

func (d drawn) On(t *form.Texels, seed uint64, out []float32) {
	fill(t, out, func(k int) float32 {
		p := t.Point(k)
		v := patchy(seed, 2, p[0]/d[0], p[1]/d[0], p[2]/d[1])
		return max(2*v-1, 0)
	})
}

// patchy is noise from 0 to 1.
func patchy(seed uint64, octaves int, x, y, z float64) float32 {
	sum, most, weight := 0.0, 0.0, 1.0
	for o := range octaves {
		k := float64(int(1) << o)
		sum += weight * form.Noise(seed+uint64(o)*0x9e37, x*k, y*k, z*k)
		most += weight
		weight *= 0.6
	}
	return float32(min(max(0.5+0.75*sum/most, 0), 1))
}

// plus adds landings, at most to 1; times multiplies them.
type (
	plus  []Landing
	times []Landing
)

func (p plus) On(t *form.Texels, seed uint64, out []float32) {
	folded(p, t, seed, out, func(a, b float32) float32 { return min(a+b, 1) })
}

func (p times) On(t *form.Texels, seed uint64, out []float32) {
	folded(p, t, seed, out, func(a, b float32) float32 { return a * b })
}

func folded(list []Landing, t *form.Texels, seed uint64, out []float32, join func(a, b float32) float32) {
	list[0].On(t, seed, out)
	one := make([]float32, len(out))
	for _, l := range list[1:] {
		l.On(t, seed, one)
		for k := range out {
			out[k] = join(out[k], one[k])
		}
	}
}

// scaled is a part of a landing.
type scaled struct {
	part float64
	of   Landing
}

func (s scaled) On(t *form.Texels, seed uint64, out []float32) {
	s.of.On(t, seed, out)
	for k := range out {
		out[k] *= float32(s.part)
	}
}
