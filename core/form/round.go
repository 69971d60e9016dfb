package form

import "math"

// turn is how much the surface turns over a line, radians.
func (p *Panel) turn(l Line) float64 { return math.Acos(min(p.Normal.Dot(l.Beyond), 1)) }

// ruling is the direction in which a strip of a round shape is straight, unit, in its flat frame: that of the
// edge over which the surface turns most; ok is false for other panels.
func (p *Panel) ruling() (along [2]float64, ok bool) {
	most := 1e-3
	for _, l := range p.Lines {
		if p.Round && l.Smooth && p.turn(l) > most {
			a, b := p.Flat(l.A), p.Flat(l.B)
			long := math.Hypot(b[0]-a[0], b[1]-a[1])
			most, along, ok = p.turn(l), [2]float64{(b[0] - a[0]) / long, (b[1] - a[1]) / long}, true
		}
	}
	return along, ok
}

// Arc tells whether a line of a panel is the chord of an arc, where the shape that it stands for is round.
func (p *Panel) Arc(line int) bool {
	along, ok := p.ruling()
	a, b := p.Flat(p.Lines[line].A), p.Flat(p.Lines[line].B)
	return ok && math.Abs((b[0]-a[0])*along[0]+(b[1]-a[1])*along[1]) < 0.8*apart(a, b)
}

// stretched is how a panel's frame is stretched: a strip of a round shape across its ruling, from chord to
// arc on each side that goes on.
func (n *netting) stretched(panel int) [2][2]float64 {
	p := n.panels[panel]
	out := [2][2]float64{{1, 0}, {0, 1}}
	along, ok := p.ruling()
	if !ok {
		return out
	}
	// Both sides, each by the most that it turns there.
	var sides [2]float64
	for _, l := range p.Lines {
		if !l.Smooth {
			continue
		}
		a, b := p.Flat(l.A), p.Flat(l.B)
		dot := ((b[0]-a[0])*along[0] + (b[1]-a[1])*along[1]) / math.Hypot(b[0]-a[0], b[1]-a[1])
		switch {
		case dot > 0.8:
			sides[0] = max(sides[0], p.turn(l))
		case dot < -0.8:
			sides[1] = max(sides[1], p.turn(l))
		}
	}
	more := 0.0
	for _, t := range sides {
		if t > 1e-3 {
			more += (t/2/math.Sin(t/2) - 1) / 2
		}
	}
	x, y := -along[1], along[0]
	return [2][2]float64{{1 + more*x*x, more * x * y}, {more * x * y, 1 + more*y*y}}
}
