package scheme

import (
	"math"
	"slices"

	"github.com/peterstace/simplefeatures/geom"
)

// Crossing is where the edge of a colour runs over the rim of a panel: over the panel's own edge, or up to
// a part that stands on it.
type Crossing struct {
	At    [2]float64 // in the flat frame of the panel's sheet, real mm
	From  [2]float64 // the corner that it is told from, the nearer one along the rim; of a round rim its top
	Along float64    // way from that corner along the rim, real mm
	Below int        // colours on both sides, from 0
	Above int
}

// together is how near to a mark another of the same colours says nothing more, mm on the model: on both
// sides of a narrow rim.
const together = 1.5

// inward is how far inside a panel its rim is looked at, real mm.
const inward = 0.5

// Turns of a rim, radians: from which on people see a corner, and up to which a round rim turns between its
// strips.
const (
	cornered = 3 * math.Pi / 180
	rounded  = 35 * math.Pi / 180
	alike    = 0.25 // how much turns and sides of a round rim differ
)

// crossings walks the rim of a sheet and finds where colours meet on it. What only parts strips of a round
// shape is no edge that anyone sees.
func (s *sheet) crossings(whole geom.Geometry, scale float64) (out []Crossing) {
	for _, part := range whole.Dump() {
		for k, ring := range rings(part) {
			if (ring.area() > 0) != (k == 0) { // the panel lies on the left
				slices.Reverse(ring)
			}
			for _, side := range simpler(ring, 0.05).sides() {
				for _, c := range s.crossed(side) {
					near := func(o Crossing) bool {
						return o.Below == c.Below && o.Above == c.Above &&
							math.Hypot(o.At[0]-c.At[0], o.At[1]-c.At[1]) < together*scale
					}
					if !s.smooth(c.At) && !slices.ContainsFunc(out, near) {
						out = append(out, c)
					}
				}
			}
		}
	}
	return out
}

// sides cuts a ring at its corners. One without a corner is cut at its highest place and ends there.
func (r Ring) sides() (out []Ring) {
	n := len(r)
	turns, longs := make([]float64, n), make([]float64, n) // at each place, and of the side that follows
	for k, q := range r {
		a, b := r[(k+n-1)%n], r[(k+1)%n]
		ux, uy, vx, vy := q[0]-a[0], q[1]-a[1], b[0]-q[0], b[1]-q[1]
		turns[k], longs[k] = math.Atan2(ux*vy-uy*vx, ux*vx+uy*vy), math.Hypot(vx, vy)
	}
	like := func(a, b float64) bool { return math.Abs(a-b) <= alike*math.Abs(b) }
	var corners []int
	top := 0
	for k, q := range r {
		before, after := (k+n-1)%n, (k+1)%n
		round := math.Abs(turns[k]) < rounded && like(longs[before], longs[k]) &&
			like(turns[before], turns[k]) && like(turns[after], turns[k])
		if math.Abs(turns[k]) > cornered && !round {
			corners = append(corners, k)
		}
		if q[1] > r[top][1] {
			top = k
		}
	}
	if len(corners) == 0 {
		corners = []int{top}
	}
	for i, from := range corners {
		to := corners[(i+1)%len(corners)]
		if to <= from {
			to += n
		}
		var side Ring
		for k := from; k <= to; k++ {
			side = append(side, r[k%n])
		}
		out = append(out, side)
	}
	return out
}

// crossed are the places along a side of the rim, from corner to corner, where colours meet.
func (s *sheet) crossed(side Ring) (out []Crossing) {
	ways := make([]float64, len(side)) // to each of its points
	for k := 1; k < len(side); k++ {
		ways[k] = ways[k-1] + math.Hypot(side[k][0]-side[k-1][0], side[k][1]-side[k-1][1])
	}
	long := ways[len(ways)-1]
	step := s.step / 2
	if long < 4*step {
		return nil
	}
	on := func(way float64) [2]float64 {
		k := 1
		for k < len(ways)-1 && ways[k] < way {
			k++
		}
		a, b := side[k-1], side[k]
		part := ways[k] - ways[k-1]
		dx, dy := (b[0]-a[0])/part, (b[1]-a[1])/part
		t := way - ways[k-1]
		return [2]float64{a[0] + t*dx - inward*dy, a[1] + t*dy + inward*dx}
	}
	colour := func(way float64) int { q := on(way); return s.at(q[0], q[1]) }
	last, at := colour(inward), inward
	for way := step; way < long-inward; way += step {
		for colour(way) != last { // more than two may meet within a step
			low, high := at, way
			for high-low > fine/4 {
				if m := (low + high) / 2; colour(m) == last {
					low = m
				} else {
					high = m
				}
			}
			c := colour(high)
			x := Crossing{At: on(low), From: side[0], Along: low, Below: min(c, last), Above: max(c, last)}
			if low > long/2 {
				x.From, x.Along = side[len(side)-1], long-low
			}
			out = append(out, x)
			last, at = c, high
		}
		at = way
	}
	return out
}

// smooth tells whether a place lies where the surface goes on without an edge.
func (s *sheet) smooth(q [2]float64) bool {
	m := s.member(q[0], q[1])
	p := s.panels[m.Panel]
	at := m.Back(q)
	for _, l := range p.Lines {
		if l.Smooth && !l.Joint && off(at, p.Flat(l.A), p.Flat(l.B)) < 2*inward {
			return true
		}
	}
	return false
}
