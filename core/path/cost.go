package path

import (
	"math"
)

// cost of a plan, compared in this order: the weighted ends of the builds, the changes
// of colour, the sessions used.
type cost struct {
	end      float64
	changes  int
	sessions int
	late     float64 // guides the search only: when on average the work is done, weighted minutes
}

// less compares in that order.
func (c cost) less(d cost) bool {
	switch {
	case c.end != d.end:
		return c.end < d.end
	case c.changes != d.changes:
		return c.changes < d.changes
	default:
		return c.sessions < d.sessions
	}
}

var hopeless = cost{end: math.Inf(1)}

// price is the cost of what the timing laid.
func (s *search) price() cost {
	p := s.p
	ends := make([]int32, len(p.orders))
	copy(ends, p.fixedEnd)
	used, last, at := 0, -1, 0
	var c cost
	for _, id := range s.t.seq {
		ends[p.jobs[id].build] = max(ends[p.jobs[id].build], s.t.end[id])
		c.late += p.weight[p.jobs[id].build] * float64(s.t.end[id]) * float64(p.jobs[id].minutes)
		for at < len(p.hands.all) && p.hands.all[at].to <= s.t.from[id] {
			at++ // the sequence rises
		}
		if at != last {
			used, last = used+1, at
		}
	}
	c.changes, c.sessions, c.late = s.t.changes, used, c.late/math.Max(p.minutes, 1)
	for b, e := range ends {
		if len(p.first[b]) > 0 {
			c.end += p.weight[b] * float64(max(e, 0))
		}
	}
	return c
}
