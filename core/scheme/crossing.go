package scheme

import (
	"math"

	"cinderpath/core/form"
)

// Crossing is where the edge of a colour runs over an edge of its panel.
type Crossing struct {
	At    [2]float64 // in the panel's flat frame, real mm
	From  [2]float64 // the corner that it is told from, the nearer one
	Along float64    // way from that corner, real mm
	Below int        // colours on both sides, from 0
	Above int
}

// inward is how far inside a panel its edge is looked at, real mm.
const inward = 0.5

// crossings walks the edges of a panel and finds where colours meet on them.
func (l *Layout) crossings(p *form.Panel, i int) (out []Crossing) {
	step := l.grid.Step / 2
	for _, line := range p.Lines {
		if line.Smooth || line.Joint {
			continue
		}
		a, b := p.Flat(line.A), p.Flat(line.B)
		long := math.Hypot(b[0]-a[0], b[1]-a[1])
		if long < 4*step {
			continue
		}
		dx, dy := (b[0]-a[0])/long, (b[1]-a[1])/long
		on := func(s float64) [2]float64 { // the panel lies on the left of its own edges
			return [2]float64{a[0] + s*dx - inward*dy, a[1] + s*dy + inward*dx}
		}
		colour := func(s float64) int { q := on(s); return l.At(i, q[0], q[1]) }
		last, at := colour(inward), inward
		for s := step; s < long-inward; s += step {
			c := colour(s)
			if c != last {
				low, high := at, s
				for high-low > fine/4 {
					if m := (low + high) / 2; colour(m) == last {
						low = m
					} else {
						high = m
					}
				}
				x := Crossing{At: on(low), From: a, Along: low, Below: min(c, last), Above: max(c, last)}
				if low > long/2 {
					x.From, x.Along = b, long-low
				}
				out = append(out, x)
			}
			last, at = c, s
		}
	}
	return out
}
