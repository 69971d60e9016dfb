package scheme

import (
	"math"

	"cinderpath/core/form"
)

// bands are waves across the vehicle, bent by noise.
type bands struct {
	across form.Vec // unit normal of the bands
	period float64  // real mm from band to band
	bend   float64  // real mm by which noise moves a band
	seed   uint64
	shift  float64
}

func newBands(m making) field {
	s := m.seed
	lean := 0.45 * (form.Unit(s) - 0.5) * math.Pi
	skew := 0.5 * (form.Unit(form.Hash(s+1)) - 0.5) * math.Pi
	d := form.Vec{math.Cos(lean) * math.Cos(skew), math.Sin(skew), math.Sin(lean) * math.Cos(skew)}
	part := math.Min(math.Max(float64(m.part), 0.08), 0.85)
	// Noise narrows bands, few ones more: measured along their middle lines over many seeds.
	period := m.width / (part * (0.86 + 0.06*part))
	return bands{across: d, period: period, bend: 0.64 * m.bend * period, seed: s, shift: form.Unit(form.Hash(s + 2))}
}

func (f bands) at(p place) float64 {
	along := p.at.Dot(f.across)
	k := 1 / (0.9 * f.period)
	x, y, z := p.at[0]*k, p.at[1]*k, p.at[2]*k
	along += f.bend * (p.near.Noise(f.seed, x, y, z) + 0.3*p.near.Noise(f.seed+7, 2.7*x, 2.7*y, 2.7*z))
	return f.period / (2 * math.Pi) * math.Cos(2*math.Pi*(along/f.period+f.shift))
}
