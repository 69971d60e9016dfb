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

	keys     []float64   // by job: how urgent it is, once the most urgent were laid first
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
	c := s.take(seq)
	return c, !than.less(c)
}

// first lays the most urgent first, once, and gives the urgencies; a plan may come of it.
func (s *search) first() []float64 {
	if s.keys == nil {
		s.keys = s.urgency()
		s.try(s.d.dispatch(s, s.keys, nil), hopeless)
	}
	return s.keys
}

// run searches until the budget is spent or nothing better can exist.
func (s *search) run() {
	if len(s.p.jobs) == 0 {
		s.cost, s.proven = s.price(), true
		return
	}
	keys := s.first()
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

// climb makes a plan better, or finds a first one where windows make that hard.
func (s *search) climb(keys []float64) {
	spread := spreadOf(keys)
	s.mend(keys, spread)
	if s.any || s.best == nil {
		return
	}
	switch {
	case !s.p.alone():
		s.together(s.budget - s.nodes)
	case len(s.p.jobs) > mostSeveral:
		s.along(keys, spread, single)
	default:
		s.along(keys, spread, several)
	}
}

// spreadOf is how far urgencies lie apart.
func spreadOf(keys []float64) float64 {
	spread := 600.0
	for _, k := range keys {
		spread = math.Max(spread, math.Abs(k-keys[0]))
	}
	return spread
}

// along walks the legs of a plan.
func (s *search) along(keys []float64, spread float64, plan []leg) {
	w := newWalk(s)
	rest := s.budget - s.nodes
	for _, r := range plan {
		from := s.best
		if r.anew {
			from = s.d.dispatch(s, s.shaken(keys, spread), s.random)
		}
		if w.guide = r.guide; w.begin(from) {
			w.cool(int(r.share*float64(rest)), r.hot)
		}
	}
}

// leg of a search: a walk, from the best plan or from another.
type leg struct {
	share float64 // of what the search may cost
	hot   float64 // how much worse a plan may become, as a share of the end
	guide float64 // how much the work's being done early counts beside the ends
	anew  bool    // from other urgencies, laid from the start
}

// Few jobs are tried often enough to set out from several first sessions; with many, one
// walk goes farther. The last legs only tidy.
var (
	several = []leg{
		{0.3, 0.02, 0.05, false},
		{0.2, 0.02, 0.05, true},
		{0.2, 0.02, 0.05, true},
		{0.2, 0.004, 0.05, false},
		{0.1, 0.0005, 0.05, false},
	}
	single = []leg{{0.8, 0.003, 1, false}, {0.2, 0.0003, 1, false}}
	// Where a walk has led into a corner, others set out from elsewhere: with few jobs, with many. With few the
	// best plans lie far apart, a whole session earlier or later: some walks are long, many short and hot.
	again = []leg{
		{0.18, 0.03, 0.02, true},
		{0.18, 0.03, 0.02, true},
		{0.18, 0.01, 0.02, false},
		{0.045, 0.05, 0.02, true},
		{0.045, 0.05, 0.02, true},
		{0.045, 0.05, 0.02, true},
		{0.045, 0.05, 0.02, true},
		{0.045, 0.05, 0.02, true},
		{0.045, 0.05, 0.02, true},
		{0.045, 0.05, 0.02, true},
		{0.045, 0.05, 0.02, true},
		{0.1, 0.0005, 0.02, false},
	}
	elsewhere = []leg{{0.9, 0.006, 1, true}, {0.1, 0.0003, 1, false}}
)

// mostSeveral bounds the jobs for which several walks come far enough.
const mostSeveral = 60

// shaken gives some jobs, or whole builds, other urgencies.
func (s *search) shaken(keys []float64, spread float64) []float64 {
	out := slices.Clone(keys)
	build := make([]float64, len(s.p.orders))
	for b := range build {
		build[b] = (s.random.Float64() - 0.5) * spread
	}
	for i := range out {
		out[i] += build[s.p.jobs[i].build] + (s.random.Float64()-0.5)*spread*0.3
	}
	return out
}

// mend looks for a first plan from one start after another.
func (s *search) mend(keys []float64, spread float64) {
	var mend *repair
	for round := 0; s.best == nil && !s.done(); round++ {
		if mend == nil {
			mend = newRepair(s)
		}
		now := keys
		if round > 0 {
			now = slices.Clone(keys)
			for i := range now {
				now[i] += (s.random.Float64() - 0.5) * spread * s.random.Float64()
			}
		}
		if seq := mend.settle(now); s.best == nil {
			mend.run(seq, 200*len(s.p.jobs))
		}
	}
}
