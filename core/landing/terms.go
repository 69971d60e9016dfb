package landing

import (
	"math"

	"cinderpath/core/form"
	"cinderpath/core/zone"
)

// fill asks for a value at each texel that the panel covers.
func fill(t *form.Texels, out []float32, at func(k int) float32) {
	for k, a := range t.Area {
		if a > 0 {
			out[k] = at(k) // which may go by what stood there
		} else {
			out[k] = 0
		}
	}
}

// even fills with one value.
func even(t *form.Texels, out []float32, v float64) {
	fill(t, out, func(int) float32 { return float32(v) })
}

// texels is a landing that asks the texels of one panel for nothing but themselves.
type texels func(t *form.Texels, seed uint64, out []float32)

func (f texels) On(s *Site, panel int, seed uint64, out []float32) {
	f(s.Grid.Texels[panel], seed, out)
}

// All lands everywhere.
func All() Landing { return texels(func(t *form.Texels, _ uint64, out []float32) { even(t, out, 1) }) }

// Up lands on faces that look up, the steeper the less by its power.
func Up(k float64) Landing {
	return texels(func(t *form.Texels, _ uint64, out []float32) { even(t, out, math.Pow(max(t.Normal[2], 0), k)) })
}

// Down lands on faces that look down.
func Down() Landing {
	return texels(func(t *form.Texels, _ uint64, out []float32) { even(t, out, max(-t.Normal[2], 0)) })
}

// Upright lands on upright faces.
func Upright() Landing {
	return texels(func(t *form.Texels, _ uint64, out []float32) { even(t, out, 1-math.Abs(t.Normal[2])) })
}

// Low is 1 at height a and below it, and smooth to 0 at b.
func Low(a, b float64) Landing {
	return texels(func(t *form.Texels, _ uint64, out []float32) {
		fill(t, out, func(k int) float32 { return float32(smooth((b - t.Point(k)[2]) / max(b-a, 1e-9))) })
	})
}

// Band is 1 between two heights, soft at both over a quarter of what lies between.
func Band(a, b float64) Landing {
	soft := max((b-a)/4, 1e-9)
	return texels(func(t *form.Texels, _ uint64, out []float32) {
		fill(t, out, func(k int) float32 {
			z := t.Point(k)[2]
			return float32(smooth((z-a)/soft+0.5) * smooth((b-z)/soft+0.5))
		})
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

// worked is a landing that goes by where a panel turns up and where its edges are, with the small
// relief on it.
type worked func(t *form.Texels, r *reliefs, out []float32)

func (f worked) On(s *Site, panel int, _ uint64, out []float32) {
	f(s.Grid.Texels[panel], s.reliefs(panel), out)
}

// Recess lands where the surface turns up, within a width.
func Recess(w float64) Landing {
	return worked(func(t *form.Texels, r *reliefs, out []float32) {
		fill(t, out, func(k int) float32 { return r.recess(t, k, w) })
	})
}

// Edge lands on outer edges, within a width.
func Edge(w float64) Landing {
	return worked(func(t *form.Texels, r *reliefs, out []float32) {
		fill(t, out, func(k int) float32 { return r.edge(t, k, w) })
	})
}

// Middle lands away from edges and recesses.
func Middle(w float64) Landing {
	return worked(func(t *form.Texels, r *reliefs, out []float32) {
		fill(t, out, func(k int) float32 { return (1 - r.edge(t, k, w)) * (1 - r.recess(t, k, w)) })
	})
}

// Noise is patchy, in patches of a size and finer ones in them; what is finer than two texels is
// left out.
func Noise(size float64, octaves int) Landing {
	return texels(func(t *form.Texels, seed uint64, out []float32) {
		n := 1
		for n < octaves && size/float64(int(1)<<n) >= 2*t.Step {
			n++
		}
		var near form.Lattice
		fill(t, out, func(k int) float32 {
			p := t.Point(k)
			return patchy(&near, seed, n, p[0]/size, p[1]/size, p[2]/size)
		})
	})
}

// patchy is noise from 0 to 1.
func patchy(near *form.Lattice, seed uint64, octaves int, x, y, z float64) float32 {
	sum, most, weight := 0.0, 0.0, 1.0
	for o := range octaves {
		k := float64(int(1) << o)
		sum += weight * near.Noise(seed+uint64(o)*0x9e37, x*k, y*k, z*k)
		most += weight
		weight *= 0.6
	}
	return float32(min(max(0.5+0.75*sum/most, 0), 1))
}

// Waterline lies below a wavy line at a height, densest just below it.
func Waterline(h float64) Landing {
	return texels(func(t *form.Texels, seed uint64, out []float32) {
		fill(t, out, func(k int) float32 {
			p := t.Point(k)
			below := h + 40*form.Noise(seed, p[0]/500, p[1]/500, 0) - p[2]
			if below < 0 {
				return 0
			}
			return float32(0.25 + 0.75*math.Exp(-below/120))
		})
	})
}

// zones lands on those that are told of: all of them.
func zones(on func(name string) bool) Landing {
	return texels(func(t *form.Texels, _ uint64, out []float32) {
		v := 0.0
		if on(t.Zone) {
			v = 1
		}
		even(t, out, v)
	})
}

// plus adds landings, at most to 1; times multiplies them.
type (
	plus  []Landing
	times []Landing
)

// Times multiplies landings.
func Times(all ...Landing) Landing { return times(all) }

func (p plus) On(s *Site, panel int, seed uint64, out []float32) {
	folded(p, s, panel, seed, out, 1, func(a, b float32) float32 { return min(a+b, 1) })
}

func (p times) On(s *Site, panel int, seed uint64, out []float32) {
	folded(p, s, panel, seed, out, 0, func(a, b float32) float32 { return a * b })
}

// folded joins landings; where all of a panel has come to what nothing more can change, the rest is
// not asked for.
func folded(
	list []Landing,
	s *Site,
	panel int,
	seed uint64,
	out []float32,
	settled float32,
	join func(a, b float32) float32,
) {
	list[0].On(s, panel, seed, out)
	one := make([]float32, len(out))
	for _, l := range list[1:] {
		if all(s.Grid.Texels[panel], out, settled) {
			return
		}
		l.On(s, panel, seed, one)
		for k := range out {
			out[k] = join(out[k], one[k])
		}
	}
}

// all tells whether every texel of a panel has one value.
func all(t *form.Texels, out []float32, v float32) bool {
	for k, a := range t.Area {
		if a > 0 && out[k] != v {
			return false
		}
	}
	return true
}

// scaled is a part of a landing.
type scaled struct {
	part float64
	of   Landing
}

func (l scaled) On(s *Site, panel int, seed uint64, out []float32) {
	l.of.On(s, panel, seed, out)
	for k := range out {
		out[k] = min(out[k]*float32(l.part), 1)
	}
}

// Side makes left and right no mirror images.
func Side(name string) uint64 {
	switch {
	case zone.Mirrored(name) == name:
		return 0
	case zone.Mirrored(name) < name:
		return 0x51ed27
	}
	return 0xa24baed4
}
