package path

import (
	"math"
	"math/bits"
	"slices"
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

// search looks for the best sequence.
type search struct {
	p      *problem
	t      *timing
	heads  []int32
	bound  bound
	best   []int32
	closed []bool // sessions that the best leaves out
	cost   cost
	nodes  int
	budget int
	proven bool // nothing better exists
	any    bool // the first plan is good enough
	guided bool // plans are compared by how early the work is done
	random *dice

	d dispatcher
}

func newSearch(p *problem, heads []int32, b bound, budget int) *search {
	s := &search{p: p, t: newTiming(p), heads: heads, bound: b, budget: budget, cost: hopeless, random: &dice{1}}
	s.d.init(p)
	return s
}

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

// try prices a sequence and keeps it where it is the best so far; it tells whether it
// is at least as good as another.
func (s *search) try(seq []int32, than cost) (cost, bool) {
	s.nodes += len(seq)
	if !s.t.lay(seq) {
		return hopeless, false
	}
	c := s.price()
	if c.less(s.cost) {
		s.cost, s.best, s.closed = c, slices.Clone(seq), nil
	}
	if s.guided {
		than.late *= 1 + drift*s.random.Float64()
		return c, c.leads(than)
	}
	return c, !than.less(c)
}

// mostExact is how many jobs are searched through completely.
const mostExact = 9

// first lays the most urgent first, and tells the urgencies and whether that is a plan.
func (s *search) first() (keys []float64, ok bool) {
	keys = s.urgency()
	_, ok = s.try(s.d.dispatch(s, keys, nil), hopeless)
	return keys, ok
}

// run searches until the budget is spent or nothing better can exist.
func (s *search) run() {
	if len(s.p.jobs) == 0 {
		s.cost, s.proven = s.price(), true
		return
	}
	keys, ok := s.first()
	if ok && s.nodes < s.budget {
		keys = s.oneAfterTheOther(keys)
	}
	if s.any && s.best != nil {
		return
	}
	if len(s.p.jobs) <= mostExact {
		if s.exact(); s.proven {
			return
		}
	}
	s.climb(keys)
	if s.any {
		return
	}
	s.pack()
	s.gather()
}

// urgency is the last start of each job with which its build could still end at its
// bound: what is due first goes first.
func (s *search) urgency() []float64 {
	target := make([]int32, len(s.p.orders))
	most := int32(0)
	for _, e := range s.bound.alone {
		most = max(most, e)
	}
	copy(target, s.bound.alone)
	start, _ := s.p.latest(target)
	keys := make([]float64, len(start))
	for i, x := range start {
		keys[i] = float64(x) - math.Log2(s.p.weight[s.p.jobs[i].build])*2880
	}
	return keys
}

// oneAfterTheOther tries builds not side by side but more and more one after the other,
// in the order in which the bound would have them end.
func (s *search) oneAfterTheOther(keys []float64) []float64 {
	best, at := keys, s.cost
	if len(s.bound.order) < 2 {
		return best
	}
	rank := make([]float64, len(s.p.orders))
	for i, b := range s.bound.order {
		rank[b] = float64(i)
	}
	for _, apart := range []float64{0.5, 1, 2, 4, 8, 16, 40} {
		next := make([]float64, len(keys))
		for i := range keys {
			next[i] = keys[i] + 1440*apart*rank[s.p.jobs[i].build]
		}
		if c, ok := s.try(s.d.dispatch(s, next, nil), at); ok {
			best, at = next, c
		}
	}
	return best
}

// done tells whether the search may stop: spent, or the end is proven and colours and
// sessions cannot be fewer.
func (s *search) done() bool {
	if s.best == nil {
		return s.nodes >= max(s.budget, patience)
	}
	return s.nodes >= s.budget
}

// drift is how much later work may be done on the way to something better, a share.
const drift = 0.0002

// patience is the budget for a first plan, where windows make one hard to find.
const patience = 4_000_000

// climb alternates two ways of changing a plan: other urgencies, laid anew from the
// start, and single jobs (or what hangs together by windows) moved within the sequence.
func (s *search) climb(keys []float64) {
	n := len(s.p.jobs)
	spread := 0.0
	for _, k := range keys {
		spread = math.Max(spread, math.Abs(k-keys[0]))
	}
	spread = math.Max(spread, 600)
	var mend *repair
	now, at := slices.Clone(keys), s.cost
	for round := 0; !s.done(); round++ {
		if s.best != nil && round%4 == 0 {
			// Urgencies: some jobs get others.
			for range 12 {
				if s.done() {
					return
				}
				next := slices.Clone(now)
				if len(s.bound.order) > 1 && s.random.IntN(6) == 0 { // a whole build sooner or later
					b, by := int32(s.random.IntN(len(s.p.orders))), (s.random.Float64()-0.5)*2880*math.Exp2(float64(s.random.IntN(4)))
					for i := range next {
						if s.p.jobs[i].build == b {
							next[i] += by
						}
					}
				}
				wide := spread * math.Exp2(-float64(s.random.IntN(7)))
				for range 1 + s.random.IntN(max(n/8, 2)) {
					next[s.random.IntN(n)] += (s.random.Float64() - 0.5) * wide
				}
				if c, ok := s.try(s.d.dispatch(s, next, s.random), at); ok {
					now, at = next, c
				}
			}
			continue
		}
		if s.best == nil {
			if mend == nil {
				mend = newRepair(s)
			}
			if round > 1 { // from another start each time
				now = slices.Clone(keys)
				for i := range now {
					now[i] += (s.random.Float64() - 0.5) * spread * s.random.Float64()
				}
			}
			if seq := mend.settle(now); s.best == nil {
				mend.run(seq, s.budget/8)
			}
			at = s.cost
			continue
		}
		s.guided = round%8 != 7
		s.shift(3000)
		s.guided = false
	}
}

// shift moves jobs of the best sequence to other places in it.
func (s *search) shift(times int) {
	seq := slices.Clone(s.best)
	at := s.cost
	n := len(seq)
	place := make([]int, n)
	for range times {
		if s.done() {
			return
		}
		for i, id := range seq {
			place[id] = i
		}
		i := s.random.IntN(n)
		id := seq[i]
		if k := i + 1 + s.random.IntN(12); k < n && s.random.IntN(2) == 0 { // two change places
			other := seq[k]
			free := !s.p.jobs[id].begun
			for m := range s.p.jobs[id].after {
				free = free && place[s.p.jobs[id].after[m].other] > k
			}
			for m := range s.p.jobs[other].before {
				free = free && place[s.p.jobs[other].before[m].other] < i
			}
			if !free {
				s.nodes++
				continue
			}
			next := slices.Clone(seq)
			next[i], next[k] = other, id
			if c, ok := s.try(next, at); ok {
				seq, at = next, c
			}
			continue
		}
		low, high := 0, n-1
		for k := range s.p.jobs[id].before {
			low = max(low, place[s.p.jobs[id].before[k].other]+1)
		}
		for k := range s.p.jobs[id].after {
			high = min(high, place[s.p.jobs[id].after[k].other]-1)
		}
		if high <= low || s.p.jobs[id].begun {
			s.nodes++
			continue
		}
		to := low + s.random.IntN(high-low+1)
		if to == i || (to == 0 && s.p.jobs[seq[0]].begun) {
			continue
		}
		next := slices.Insert(slices.Delete(slices.Clone(seq), i, i+1), to, id)
		if c, ok := s.try(next, at); ok {
			seq, at = next, c
		}
	}
}

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
			if s.nodes >= s.budget*4 && s.best != nil {
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
			s.nodes += len(s.best)
			if s.t.lay(s.best) {
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
				s.nodes += len(next)
				if !s.follows(next) || !s.t.lay(next) {
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

// dice are thrown the same way on every machine (Steele, Lea and Flood's SplitMix).
type dice struct{ state uint64 }

func (d *dice) next() uint64 {
	d.state += 0x9e3779b97f4a7c15
	z := d.state
	z = (z ^ z>>30) * 0xbf58476d1ce4e5b9
	z = (z ^ z>>27) * 0x94d049bb133111eb
	return z ^ z>>31
}

// IntN is a whole number from 0 to n − 1.
func (d *dice) IntN(n int) int { return int(d.next() % uint64(n)) }

// Float64 lies in [0, 1).
func (d *dice) Float64() float64 { return float64(d.next()>>11) / (1 << 53) }
