package path

import (
	"cmp"
	"math"
	"slices"
)

// basin is a sequence from which a walk may set out, and what its plan costs.
type basin struct {
	seq  []int32
	cost cost
}

// How several builds are laid.
const (
	aimShare   = 0.6          // of what they may cost: for ends to aim at, the rest for walks
	mostAims   = 5            // to set out from
	mostBasins = 4            // of the plans found, that are walked on
	aimHeat    = 0.01         // of the end, at first: how much worse a plan may become
	aimFar     = 3 * 1440     // minutes by which an end, or a job, is moved at most
	singly     = 0.5          // how often single jobs are moved, and not ends
	unmoved    = 1. / 3       // how often such a job goes back to where its build's end has it
	deepHot    = 0.003        // of walks with many jobs
	deepGuide  = 0.3          // and how much in them counts what is done early
	fewHot     = 10 * deepHot // of walks with few
	fewGuide   = 0.02
)

// together lays several builds: their ends are aimed, then walks set out from the best plans that came of it.
func (s *search) together(nodes int) {
	_, aims := s.joint(jointSoon)
	slices.Reverse(aims) // the nearest to the bound first
	reached := s.bound.ends.reached(s.bound.alone)
	aims = append(aims[:min(len(aims), mostAims)], reached)
	begun := s.nodes
	found := s.aim(aims, float64(slices.Max(reached)), int(aimShare*float64(nodes)))
	s.deepen(found, nodes-(s.nodes-begun))
}

// aim looks for the ends at which builds are best aimed: from each such set of ends follows by when each job must
// be begun, and what must be begun first goes first. Ends and single jobs are moved by hours or days, ends are
// changed with another's or thrown anew within a span of minutes, and what makes the plan worse is taken now and then.
// It leaves the best plans, for walks to set out from.
func (s *search) aim(aims [][]int32, span float64, nodes int) (found []basin) {
	until := s.nodes + nodes
	urgent := make([]float64, len(s.p.jobs))
	lay := func(ends []int32, off []float64) cost {
		from, _ := s.p.latest(ends)
		for i, x := range from {
			urgent[i] = float64(x) + off[i]
		}
		seq := s.d.dispatch(s, urgent, nil)
		c, _ := s.try(seq, hopeless)
		if c != hopeless {
			found = keep(found, seq, c)
		}
		return c
	}
	for k, ends := range aims {
		off := make([]float64, len(s.p.jobs))
		begun, stop := s.nodes, s.nodes+(until-s.nodes)/(len(aims)-k)
		for now := lay(ends, off); s.nodes < stop && !s.done(); {
			next, then := ends, off
			if s.random.Float64() < singly {
				then = s.singly(off)
			} else {
				next = s.elsewhere(ends, span)
			}
			c := lay(next, then)
			heat := aimHeat * now.end * math.Pow(coldest, float64(s.nodes-begun)/float64(stop-begun))
			if c.end <= now.end || s.random.Float64() < math.Exp((now.end-c.end)/heat) {
				ends, off, now = next, then, c
			}
		}
	}
	return found
}

// singly moves one or two jobs against their build, or back.
func (s *search) singly(off []float64) []float64 {
	next := slices.Clone(off)
	for range 1 + s.random.IntN(2) {
		j := s.random.IntN(len(next))
		next[j] = 0
		if s.random.Float64() >= unmoved {
			next[j] = (2*s.random.Float64() - 1) * aimFar
		}
	}
	return next
}

// elsewhere moves one end, or changes two.
func (s *search) elsewhere(ends []int32, span float64) []int32 {
	open := s.bound.ends.open
	next := slices.Clone(ends)
	b := open[s.random.IntN(len(open))]
	switch s.random.IntN(4) {
	case 0:
		next[b] = s.bound.alone[b] + int32(s.random.Float64()*span)
	case 1:
		k := open[s.random.IntN(len(open))]
		next[b], next[k] = next[k], next[b]
	default:
		next[b] += int32((2*s.random.Float64() - 1) * aimFar)
	}
	for _, k := range open {
		next[k] = max(next[k], s.bound.alone[k])
	}
	return next
}

// keep puts a plan among the best that differ.
func keep(found []basin, seq []int32, c cost) []basin {
	b := basin{cost: c}
	at, same := slices.BinarySearchFunc(found, b, basin.compare)
	if same || at >= mostBasins {
		return found
	}
	b.seq = slices.Clone(seq)
	found = slices.Insert(found, at, b)
	return found[:min(len(found), mostBasins)]
}

func (b basin) compare(o basin) int { return cmp.Compare(b.cost.end, o.cost.end) }

// deepen walks from several plans, and then longer from the better ones.
func (s *search) deepen(found []basin, nodes int) {
	w := newWalk(s)
	hot := deepHot
	if w.guide = deepGuide; len(s.p.jobs) <= fewJobs {
		hot, w.guide = fewHot, fewGuide
	}
	for ; len(found) > 0; hot /= 2 {
		each := nodes / 2 / len(found)
		if len(found) == 1 {
			each = nodes
		}
		nodes -= each * len(found)
		for i := range found {
			found[i] = s.apart(w, found[i], each, hot)
		}
		slices.SortStableFunc(found, basin.compare)
		found = found[:len(found)/3]
	}
}

// apart walks from a plan without regard for the best one, and gives the best of its own.
func (s *search) apart(w *walk, from basin, nodes int, hot float64) basin {
	best, at, closed := s.best, s.cost, s.closed
	s.best, s.cost, s.closed = from.seq, from.cost, nil
	if w.begin(from.seq) {
		w.cool(nodes, hot)
	}
	own := basin{s.best, s.cost}
	if at.less(s.cost) {
		s.best, s.cost, s.closed = best, at, closed
	}
	return own
}
