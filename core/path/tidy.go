package path

import (
	"slices"
)

// pack leaves sessions of the best plan out where everything in them can be done in
// those that are used anyway.
func (s *search) pack() {
	if s.best == nil || !s.t.lay(s.best) {
		return
	}
	closed := slices.Clone(s.closed)
	for {
		s.t.closed = closed
		if !s.t.lay(s.best) {
			break
		}
		better := false
		for _, at := range s.sessions() {
			next := make([]bool, max(len(closed), int(at)+1))
			copy(next, closed)
			next[at] = true
			s.t.closed = next
			if s.spent() {
				break
			}
			if s.lay(s.best) {
				if c := s.price(); c.less(s.cost) {
					s.cost, s.closed, closed, better = c, next, next, true
					break
				}
			}
		}
		if !better {
			break
		}
	}
	s.t.closed = nil
}

// spent tells whether tidying has cost as much as the search may, and somewhat more.
func (s *search) spent() bool { return s.nodes >= 2*s.budget+tidyNodes }

// tidyNodes is what tidying is worth where the plan itself is worth little.
const tidyNodes = QuickNodes

// gather puts the pieces of work that was laid down in the middle of a session next to
// each other again, where that costs nothing.
func (s *search) gather() {
	if s.best == nil {
		return
	}
	defer func() { s.t.closed = nil }()
	s.t.closed = s.closed
	if !s.t.lay(s.best) {
		return
	}
	torn := s.torn()
	for again := true; again; {
		again = false
		for _, id := range torn {
			// Either what follows in one go moves up to the piece before it, or what leads to
			// that one in one go down to this.
			k, at := slices.Index(s.best, id), slices.Index(s.best, id-1)
			end, begin := k+1, at
			for end < len(s.best) && s.best[end] == s.best[end-1]+1 && s.sameTask(s.best[end], id) {
				end++
			}
			for begin > 0 && s.best[begin-1] == s.best[begin]-1 && s.sameTask(s.best[begin-1], id) {
				begin--
			}
			up := slices.Concat(s.best[:at+1], s.best[k:end], s.best[at+1:k], s.best[end:])
			down := slices.Concat(s.best[:begin], s.best[at+1:k], s.best[begin:at+1], s.best[k:])
			for _, next := range [][]int32{up, down} {
				if s.spent() {
					return
				}
				if !s.follows(next) || !s.lay(next) {
					continue
				}
				if left := s.torn(); len(left) < len(torn) && !s.cost.less(s.price()) {
					s.cost, s.best, torn, again = s.price(), next, left, true
					break
				}
			}
			if again {
				break
			}
		}
	}
}

func (s *search) sameTask(a, b int32) bool {
	return s.p.jobs[a].build == s.p.jobs[b].build && s.p.jobs[a].task == s.p.jobs[b].task
}

// follows tells whether a sequence keeps what comes before what.
func (s *search) follows(seq []int32) bool {
	at := make([]int, len(seq))
	for i, id := range seq {
		at[id] = i
	}
	for _, id := range seq {
		for k := range s.p.jobs[id].before {
			if at[s.p.jobs[id].before[k].other] > at[id] {
				return false
			}
		}
	}
	return true
}

// torn lists the pieces that do not follow the piece before them although both are in
// one session of what was timed last.
func (s *search) torn() []int32 {
	var out []int32
	for k, id := range s.t.seq {
		j := &s.p.jobs[id]
		if s.p.first[j.build][j.task] == id || (k > 0 && s.t.seq[k-1] == id-1) {
			continue
		}
		if s.p.sessionOf(s.t.from[id]) == s.p.sessionOf(s.t.from[id-1]) {
			out = append(out, id)
		}
	}
	return out
}

// sessions lists those that the timing uses.
func (s *search) sessions() []int32 {
	var used []int32
	for _, id := range s.t.seq {
		if at := s.p.sessionOf(s.t.from[id]); len(used) == 0 || used[len(used)-1] != at {
			used = append(used, at)
		}
	}
	return used
}
