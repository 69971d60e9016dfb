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
	late     float64 // guides the search only: how late in all the work is done
}

// leads tells whether a plan is at least as good a place to go on from: what is done
// early makes room for what comes after, though the end shows it only later.
func (c cost) leads(d cost) bool {
	if c.end != d.end {
		return c.end < d.end
	}
	return c.late <= d.late
}

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
	used, last := 0, int32(-1)
	var c cost
	for _, id := range s.t.seq {
		ends[p.jobs[id].build] = max(ends[p.jobs[id].build], s.t.end[id])
		c.late += float64(p.sessionOf(s.t.from[id])) * float64(p.jobs[id].minutes)
		if at := p.sessionOf(s.t.from[id]); at != last {
			used, last = used+1, at
		}
	}
	c.changes, c.sessions = s.t.changes, used
	for b, e := range ends {
		if len(p.first[b]) > 0 {
			c.end += p.weight[b] * float64(max(e, 0))
		}
	}
	return c
}
