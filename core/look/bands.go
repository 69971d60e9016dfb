package look

import (
	"sync"

	"cinderpath/core/colour"
	"cinderpath/core/paint"
	"cinderpath/core/strata"
)

// Bands that a state counts in: each stands for three of those that paints are known by.
const Bands = 12

const joined = colour.Count / Bands

type spectrum [Bands]float32

// says is how much each band says of its group: as much as the eye takes of it.
var says = sync.OnceValue(func() *colour.Bands {
	w := colour.Observer()
	out := &colour.Bands{}
	for i := range out {
		out[i] = w[0][i] + w[1][i] + w[2][i]
	}
	for g := 0; g < colour.Count; g += joined {
		sum := 0.0
		for _, v := range out[g : g+joined] {
			sum += v
		}
		for i := range joined {
			out[g+i] /= sum
		}
	}
	return out
})

// gathered takes means of neighbouring bands.
func gathered(b colour.Bands) (out [Bands]float64) {
	for i, v := range b {
		out[i/joined] += v * says()[i]
	}
	return out
}

// eye turns a spectrum into what is written of it.
type eye struct {
	light [3]spectrum       // what each band adds to red, green and blue light
	write [lights + 1]uint8 // light as sRGB writes it
}

// lights is into how many steps light is sorted before it is written as sRGB: of so many that
// the darkest steps are told apart.
const lights = 1 << 14

// daylight is the one eye there is.
var daylight = sync.OnceValue(func() *eye {
	out := &eye{}
	w := colour.Observer()
	for g := range Bands {
		var xyz colour.XYZ
		for k := range 3 {
			for i := g * joined; i < (g+1)*joined; i++ {
				xyz[k] += w[k][i]
			}
		}
		for k, v := range xyz.Linear() {
			out.light[k][g] = float32(v)
		}
	}
	for i := range out.write {
		out.write[i] = uint8(colour.Encode(float64(i)/lights)*255 + 0.5)
	}
	return out
})

// see writes what is seen of a spectrum.
func (e *eye) see(r *spectrum, out []uint8) {
	for k := range 3 {
		w, sum := &e.light[k], float32(0)
		for g, v := range r {
			sum += w[g] * v
		}
		out[k] = e.write[int(min(max(sum, 0), 1)*lights+0.5)]
	}
}

// film is what each step of a thickness does to a ground R in each band: (a + b R) / (1 − c R).
type film [strata.Steps + 1][Bands]struct{ a, b, c float32 }

func newFilm(p paint.Pigment, full paint.Film) *film {
	var few paint.Pigment // the same in all bands of a group
	few.S = p.S
	for g, k := range gathered(p.K) {
		few.K[g*joined] = k
	}
	out := &film{}
	for step := range out {
		x := full * paint.Film(step) / strata.Steps
		for g := range Bands {
			a, b, c := few.Over(x, g*joined)
			t := &out[step][g]
			t.a, t.b, t.c = float32(a), float32(b), float32(c)
		}
	}
	return out
}

func (f *film) over(step uint8, r []float32) {
	t := &f[step]
	r = r[:Bands]
	for g := range t {
		r[g] = (t[g].a + t[g].b*r[g]) / (1 - t[g].c*r[g])
	}
}
