package scheme

import (
	"math"

	"cinderpath/core/form"
)

// field is a band pattern for one colour: waves across the vehicle, bent by noise.
// Its values are roughly the distance in real mm from the middle between bands.
type field struct {
	direction [3]float64 // unit normal of the bands
	period    float64    // real mm from band to band
	bend      float64    // real mm by which noise moves a band
	seed      uint64
	shift     float64
}

// newField lays bands of the given width (real mm) for a colour that takes the
// given part of the surface still free.
func newField(seed uint64, index int, width, part float64) field {
	s := form.Hash(seed + uint64(index)*0x9e3779b97f4a7c15)
	lean := 0.45 * (form.Unit(s) - 0.5) * math.Pi
	skew := 0.5 * (form.Unit(form.Hash(s+1)) - 0.5) * math.Pi
	d := [3]float64{math.Cos(lean) * math.Cos(skew), math.Sin(skew), math.Sin(lean) * math.Cos(skew)}
	period := width / math.Min(math.Max(part, 0.15), 0.85)
	return field{direction: d, period: period, bend: 0.32 * period, seed: s, shift: form.Unit(form.Hash(s + 2))}
}

func (f field) at(p form.Vec) float64 {
	along := p[0]*f.direction[0] + p[1]*f.direction[1] + p[2]*f.direction[2]
	k := 1 / (0.9 * f.period)
	x, y, z := p[0]*k, p[1]*k, p[2]*k
	along += f.bend * (form.Noise(f.seed, x, y, z) + 0.4*form.Noise(f.seed+7, 2.7*x, 2.7*y, 2.7*z))
	return f.period / (2 * math.Pi) * math.Cos(2*math.Pi*(along/f.period+f.shift))
}
