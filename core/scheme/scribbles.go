package scheme

import (
	"math"

	"cinderpath/core/form"
)

// scribbles are narrow hoses of colour: they follow the lines along which two noises are nothing,
// which cross each other.
type scribbles struct {
	width, grain float64
	seed         uint64
}

// density is how much of a surface a line one real mm wide takes, times the size of the noise, for
// both noises together: measured over many seeds.
const density = 2.15

func newLines(m making) field {
	part := math.Min(math.Max(float64(m.part), 0.04), 0.6)
	// Crossings are counted once.
	size := density * m.width / -math.Log(1-part) * (0.8 + 0.3*part)
	return scribbles{width: m.width, grain: (0.75 + 0.36*m.bend) / size, seed: m.seed}
}

func (f scribbles) at(p place) float64 {
	return max(f.line(f.seed, p), f.line(f.seed+101, p))
}

// line is how far a place lies within a line: half its width less the way to its middle, which is
// the noise by its slope. In space, so that lines run on over edges: a face cuts them aslant, and
// they are a little wider on it.
func (f scribbles) line(seed uint64, p place) float64 {
	const d = 0.02
	k := f.grain
	x, y, z := p.at[0]*k, p.at[1]*k, p.at[2]*k
	n := p.near.Noise(seed, x, y, z)
	if math.Abs(n) > 0.6 { // far from the middle
		return f.width/2 - math.Abs(n)/(1.6*k)
	}
	g := form.Vec{
		(p.near.Noise(seed, x+d, y, z) - n) / d,
		(p.near.Noise(seed, x, y+d, z) - n) / d,
		(p.near.Noise(seed, x, y, z+d) - n) / d,
	}
	return f.width/2 - math.Abs(n)/(math.Sqrt(max(g.Dot(g), 0.09))*k)
}
