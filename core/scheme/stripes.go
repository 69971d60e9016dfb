package scheme

import (
	"math"

	"cinderpath/core/form"
)

// stripes run straight across the zones that are named, at an angle from upright.
type stripes struct{ width, period, sin, cos, shift float64 }

// aslant keeps the edges of upright stripes from running along rows of texels, which would come and
// go as a whole: a tenth of a degree.
const aslant = math.Pi / 1800

func newStripes(m making) field {
	sin, cos := math.Sincos(m.angle + aslant)
	period := m.width / math.Min(math.Max(float64(m.part), 0.05), 0.9)
	return stripes{m.width, period, sin, cos, period * form.Unit(form.Hash(m.seed+2))}
}

func (f stripes) at(p place) float64 {
	// Along the vehicle and up; on what is level, along and across; on front and rear, across and up.
	a, b := p.at[0], p.at[2]
	switch n := p.face; {
	case math.Abs(n[2]) > 0.75:
		b = p.at[1]
	case math.Abs(n[0]) > 0.75:
		a = p.at[1]
	}
	v := a*f.cos + b*f.sin + f.shift
	v -= f.period * math.Round(v/f.period)
	return f.width/2 - math.Abs(v)
}
