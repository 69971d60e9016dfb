package path

import "slices"

// Where a plan is told to lie so far above its bound, it is worth more nodes in all: with few
// jobs always, with many only where somebody waits for the plan once.
const (
	worthwhile  = 0.005
	fewJobs     = 60
	oneTimes    = 15  // of what the plan at a glance may cost: for one build
	fewTimes    = 120 // and for several, which get into each other's way
	fewNodes    = 24_000_000
	fewRounds   = 2   // in so many rounds: which plans are walked on hangs on luck
	manyJobs    = 200 // of one build
	manyNodes   = 8_000_000
	mostTimes   = 20 // of several builds, what the plan at a glance may cost
	mostNodes   = 20_000_000
	manyOf      = 400 // jobs of several builds, with more of which a node takes them less far
	manyOfNodes = 4_000_000
	mostJobs    = 800 // of several builds
)

// further tells how many nodes a plan is worth where a better one may well be found; 0 elsewhere.
func (s *search) further() (most int) {
	n := len(s.p.jobs)
	switch alone := s.p.alone(); {
	case s.any || s.proven || n == 0 || s.cost.end-s.p.past() <= (1+worthwhile)*s.bound.cost:
	case alone && n <= fewJobs:
		most = min(oneTimes*s.budget, fewNodes)
	case alone && n <= manyJobs && s.budget >= CommonNodes:
		most = manyNodes
	case alone:
	case n <= fewJobs:
		most = min(fewTimes*s.budget, fewNodes)
	case n <= manyOf:
		most = min(mostTimes*s.budget, mostNodes)
	case n <= mostJobs:
		most = min(mostTimes*s.budget, manyOfNodes)
	}
	if s.nodes >= most {
		return 0
	}
	return most
}

// alone tells whether all that is left to do is on one build.
func (p *problem) alone() bool {
	return !slices.ContainsFunc(p.jobs, func(j job) bool { return j.build != p.jobs[0].build })
}

// goOn looks for a better plan.
func (s *search) goOn(most int) {
	s.budget, s.t.closed = most, nil
	before := s.cost.end
	switch keys := s.first(); {
	case !s.p.alone():
		rounds := 1
		if len(s.p.jobs) <= fewJobs {
			rounds = fewRounds
		}
		for ; rounds > 0; rounds-- {
			s.together((most - s.nodes) / rounds)
		}
	case len(s.p.jobs) <= fewJobs:
		s.along(keys, spreadOf(keys), again)
	default:
		s.along(keys, spreadOf(keys), elsewhere)
	}
	s.pack()
	s.gather()
	if s.cost.end < before {
		s.sharpen()
	}
}

// sharpen looks for a bound nearer to the best plan.
func (s *search) sharpen() { s.bound.cost, _ = s.joint(jointWork) }

// joint is the joint bound below the best plan, for so much work at most, and for less where the plan itself
// is worth little.
func (s *search) joint(work int) (cost float64, aims [][]int32) {
	return s.p.joint(s.bound, s.heads, s.cost.end-s.p.past(), min(work, jointShare*s.budget), s.stop)
}
