package path

import "slices"

// Where a plan is told to lie so far above its bound, it is worth more nodes in all: with few
// jobs always, with many only where somebody waits for the plan once.
const (
	worthwhile = 0.005
	fewJobs    = 60
	oneTimes   = 15 // of what the plan at a glance may cost: for one build
	fewTimes   = 60 // and for several, which get into each other's way
	fewNodes   = 12_000_000
	manyJobs   = 200
	manyNodes  = 8_000_000
)

// further tells how many nodes a plan is worth where a better one may well be found, and how it is sought;
// none elsewhere.
func (s *search) further() (most int, legs []leg) {
	n := len(s.p.jobs)
	most, legs = min(fewTimes*s.budget, fewNodes), again
	if s.p.alone() {
		most = min(oneTimes*s.budget, fewNodes)
	}
	if n > fewJobs {
		most, legs = manyNodes, elsewhere
	}
	if s.any || s.proven || n == 0 || n > manyJobs || n > fewJobs && s.budget < CommonNodes || s.nodes >= most ||
		s.cost.end-s.p.past() <= (1+worthwhile)*s.bound.cost {
		return 0, nil
	}
	return most, legs
}

// alone tells whether all that is left to do is on one build.
func (p *problem) alone() bool {
	return !slices.ContainsFunc(p.jobs, func(j job) bool { return j.build != p.jobs[0].build })
}

// goOn looks for a better plan.
func (s *search) goOn(most int, legs []leg) {
	s.budget, s.t.closed = most, nil
	before := s.cost.end
	keys := s.first()
	s.along(keys, spreadOf(keys), legs)
	s.pack()
	s.gather()
	if s.cost.end < before {
		s.bound.cost = s.p.joint(s.bound, s.heads, s.cost.end-s.p.past())
	}
}
