package path

import (
	"math"
	"slices"
)

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

	patience int         // nodes for a first plan
	stop     func() bool // nobody waits any more, where known
	asked    int         // how often that might have been asked
	random   *dice

	d dispatcher
}

func newSearch(p *problem, heads []int32, b bound, budget int) *search {
	s := &search{
		p:        p,
		t:        newTiming(p),
		heads:    heads,
		bound:    b,
		budget:   budget,
		patience: patience,
		cost:     hopeless,
		random:   &dice{1},
	}
	s.d.init(p)
	return s
}

// lay times a sequence and counts what that costs.
func (s *search) lay(seq []int32) bool {
	before := s.t.ran
	ok := s.t.lay(seq)
	s.nodes += s.t.ran - before
	return ok
}

// try prices a sequence and keeps it where it is the best so far; it tells whether it
// is at least as good as another.
func (s *search) try(seq []int32, than cost) (cost, bool) {
	if !s.lay(seq) {
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
		if s.done() {
			break
		}
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

// done tells whether the search may stop: what it may cost is spent, or nobody waits.
func (s *search) done() bool {
	if s.asked++; s.asked&63 == 0 && s.stop != nil && s.stop() {
		s.patience, s.budget = 0, 0
	}
	if s.best == nil {
		return s.nodes >= s.patience
	}
	return s.nodes >= s.budget
}

// drift is how much later work may be done on the way to something better, a share.
const drift = 0.0002

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
				mend.run(seq, max(s.budget/8, 20_000))
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
