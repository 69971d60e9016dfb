package path

import (
	"fmt"
	"math"
	"slices"
)

// WalkAgrees walks from a request's plan and tells the first step at which timing what changed does not give
// what timing everything gives.
func WalkAgrees(r Request, steps int) (int, error) {
	f, err := find(r, how{glance: true})
	if err != nil || len(f.s.p.jobs) < 3 {
		return 0, err
	}
	s := newSearch(f.s.p, f.s.heads, f.s.bound, 1<<40)
	w, whole := newWalk(s), newTiming(s.p)
	if !w.begin(f.s.best) {
		return 0, nil
	}
	less := 0
	for k := range steps {
		low, high := w.change()
		if low < 0 {
			continue
		}
		all := whole.ran
		ok := whole.lay(w.next)
		all = whole.ran - all
		next, ran := slices.Clone(w.next), s.t.ran
		// Everything is taken, so that walks get around.
		w.step(low, high, 1e12)
		less += all - (s.t.ran - ran)
		took := slices.Equal(w.seq, next)
		switch {
		case took && !ok:
			return less, fmt.Errorf("step %d was taken and cannot be laid", k)
		case !took && ok:
			return less, fmt.Errorf("step %d can be laid and was not taken", k)
		case !took:
			whole.lay(w.seq)
		}
		if !slices.Equal(s.t.end, whole.end) || !slices.Equal(s.t.from, whole.from) || s.t.changes != whole.changes {
			return less, fmt.Errorf("step %d from %d to %d of %d: other times", k, low, high, len(next))
		}
	}
	return less, nil
}

// Bounds are what a plan of several builds cannot cost less than, in weighted minutes from the request's instant:
// by sets of builds that end after each other, by their work lying evenly, by all orders of their ends tried
// one by one, and by refuting costs up to twice that of the plan, which comes last.
func Bounds(r Request) (sets, evenly, tried, joint, plan float64, err error) {
	f, err := find(r, how{glance: true})
	if err != nil {
		return 0, 0, 0, 0, 0, err
	}
	p, s := f.s.p, f.s
	plan = s.cost.end - p.past()
	e := newEndings(p)
	sets = e.cost(s.bound.alone)
	tried = e.try(nil, s.bound.alone)
	joint, _ = p.joint(s.bound, s.heads, 2*plan, jointWork, nil)
	e.least = nil
	e.evenly()
	return sets, e.cost(s.bound.alone), tried, joint, plan, nil
}

// try costs every order in which builds can end, from those on that have.
func (e *endings) try(ended []int, low []int32) float64 {
	if len(ended) == len(e.open) {
		minutes, sum := int32(0), 0.0
		for _, i := range ended {
			minutes += e.work[i]
			sum += e.weight(i) * float64(max(low[e.open[i]], e.p.worked(minutes)))
		}
		return sum
	}
	best := math.Inf(1)
	for i := range e.open {
		if !slices.Contains(ended, i) {
			best = math.Min(best, e.try(append(slices.Clone(ended), i), low))
		}
	}
	return best
}
