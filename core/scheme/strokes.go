package scheme

import (
	"math"

	"cinderpath/core/form"
)

// strokes are put on with a broom or a brush: rows of strokes, all one way on a panel, with ends
// that differ. They are shapes on panels and do not run over edges.
type strokes struct {
	width, part, angle float64
	seed               uint64
}

// Lengths of a stroke, real mm.
const shortStroke, longStroke = 300.0, 700.0

func newStrokes(m making) field {
	return strokes{1.08 * m.width, math.Min(math.Max(float64(m.part), 0.03), 0.95), m.angle, m.seed}
}

func (f strokes) at(p place) float64 {
	h := form.Hash(f.seed ^ form.Hash(uint64(p.panel)+77))
	sin, cos := math.Sincos(f.angle + 0.3*(form.Unit(h)-0.5))
	// Strokes run up and down at no angle: u across them, v along.
	u, v := p.x*cos+p.y*sin, -p.x*sin+p.y*cos
	best := -1e3
	// Rows lie a little over each other, so that much of a surface can be covered.
	row := f.width * 0.94
	first := math.Floor(u/row - 0.5)
	for r := range 2 {
		n := first + float64(r)
		hr := form.Hash(h ^ uint64(int64(n)))
		middle := (n + 0.5) * row
		// A row is parted into strokes of different length, with a gap that fits the part.
		length := shortStroke + (longStroke-shortStroke)*form.Unit(hr)
		pitch := length / f.part
		s := math.Floor(v/pitch + form.Unit(hr+1))
		hs := form.Hash(hr ^ uint64(int64(s)))
		from := (s-form.Unit(hr+1))*pitch + (pitch-length)*form.Unit(hs)
		ragged := 0.12 * f.width * form.Noise(hs, u*9/f.width, 0, 0)
		along := min(v-from, from+length-v) + ragged
		across := f.width/2 - math.Abs(u-middle)
		best = max(best, min(along, across))
	}
	return best
}
