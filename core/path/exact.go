package path

import (
	"math/bits"
	"slices"
)

// mostExact is how many jobs are searched through completely.
const mostExact = 9

// exact goes through all sequences, leaving out those whose beginning already ends
// later than the best.
func (s *search) exact() {
	n := len(s.p.jobs)
	seq := make([]int32, 0, n)
	open := make([]int, n)
	for i := range s.p.jobs {
		open[i] = len(s.p.jobs[i].before)
	}
	t := newTiming(s.p)
	kept := s.t
	defer func() { s.t = kept }()
	s.t = t
	complete := true
	var walk func()
	walk = func() {
		if s.any && s.best != nil {
			return
		}
		if len(seq) == n {
			s.leaf(seq)
			return
		}
		for id := int32(0); id < int32(n); id++ {
			if open[id] != 0 {
				continue
			}
			if s.nodes >= s.budget*4 && s.best != nil || s.nodes >= s.patience && s.best == nil {
				complete = false
				return
			}
			s.nodes += len(seq) + 1
			seq = append(seq, id)
			for i := range t.place {
				t.place[i] = -1
			}
			if t.lay(seq) && s.promising() {
				open[id] = -1
				for k := range s.p.jobs[id].after {
					open[s.p.jobs[id].after[k].other]--
				}
				walk()
				for k := range s.p.jobs[id].after {
					open[s.p.jobs[id].after[k].other]++
				}
				open[id] = 0
			}
			seq = seq[:len(seq)-1]
		}
	}
	walk()
	s.proven = complete
}

// promising tells whether a beginning can still lead to something better: no build
// ends before what is laid of it.
func (s *search) promising() bool {
	c := s.price()
	return c.end < s.cost.end || (c.end == s.cost.end && c.changes <= s.cost.changes)
}

// leaf prices a complete sequence, and the same sequence in fewer sessions.
func (s *search) leaf(seq []int32) {
	if !s.t.lay(seq) {
		return
	}
	c := s.price()
	if s.cost.end < c.end || (s.cost.end == c.end && s.cost.changes < c.changes) {
		return
	}
	if c.less(s.cost) {
		s.cost, s.best, s.closed = c, slices.Clone(seq), nil
	}
	s.fewer(seq)
}

// mostTogether bounds the sessions of which every choice is tried.
const mostTogether = 10

// fewer lays the same sequence in fewer sessions: every choice of sessions up to the
// last one, of which there are fewer than the best has.
func (s *search) fewer(seq []int32) {
	used := s.sessions()
	last := int(used[len(used)-1])
	if last < mostTogether {
		used = used[:0]
		for k := range last + 1 {
			used = append(used, int32(k))
		}
	}
	defer func() { s.t.closed = nil }()
	for set := 1; set < 1<<min(len(used), mostTogether); set++ {
		if bits.OnesCount(uint(set)) >= s.cost.sessions || s.nodes >= s.budget*4 {
			continue
		}
		s.t.closed = make([]bool, last+1)
		for k := range s.t.closed {
			at := slices.Index(used, int32(k))
			s.t.closed[k] = at < 0 || set&(1<<at) == 0
		}
		s.nodes += len(seq)
		if s.t.lay(seq) {
			if d := s.price(); d.less(s.cost) {
				s.cost, s.best, s.closed = d, slices.Clone(seq), s.t.closed
			}
		}
	}
}
