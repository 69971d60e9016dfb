package path

import (
	"math"
	"time"
)

// Starts tells when the tasks of an earlier plan began, by build and task.
type Starts map[string]map[string]time.Time

// Starts of a plan's tasks, for those that have a time; none of no plan.
func (f *Solution) Starts() Starts {
	out := Starts{}
	if f == nil {
		return out
	}
	for _, o := range f.orders {
		of := map[string]time.Time{}
		for i, p := range f.taken.Placed[o.Build] {
			if p.Failed == "" && len(p.Spans) > 0 {
				of[o.Tasks[i].ID] = p.Spans[0].From
			}
		}
		out[o.Build] = of
	}
	return out
}

// Mend lays all builds in the order in which an earlier plan had their tasks; what is new goes where its
// neighbours are. Nothing is sought: it is a plan at once, until Solve has found a better one. Where that
// order breaks a window the first plan is taken that keeps all of them. The bound is the weak one.
func Mend(r Request, like Starts) (*Solution, error) { return solve(r, how{like: like}) }

// mendLike lays the jobs like an earlier plan; false where there is none, or where that breaks a window: then the
// first plan that is found is good enough.
func (s *search) mendLike(like Starts) bool {
	s.any = true
	if len(s.p.jobs) == 0 || len(like) == 0 {
		return false
	}
	keys := s.p.like(like, s.urgency())
	if s.try(s.d.dispatch(s, keys, nil), s.cost); s.best == nil {
		return false
	}
	s.budget = s.nodes + mendNodes
	s.along(keys, spreadOf(keys)/8, single)
	return true
}

// mendNodes is what a mended plan is worth, a fortieth of one that is sought: four times as much gains nothing.
const mendNodes = QuickNodes / 40

// like gives jobs the urgency of their start in an earlier plan. A job that it did not have goes right after
// the last of those before it, or right before the first of those after it, or where its urgency puts it.
func (p *problem) like(starts Starts, urgent []float64) []float64 {
	keys := make([]float64, len(p.jobs))
	known := make([]bool, len(p.jobs))
	for i := range p.jobs {
		j := &p.jobs[i]
		o := p.orders[j.build]
		if at, ok := starts[o.Build][o.Tasks[j.task].ID]; ok {
			keys[i], known[i] = at.Sub(p.asOf).Minutes(), true
		}
	}
	const next = 0.5 // minutes: between what stood there and what follows
	for _, i := range p.order {
		last := math.Inf(-1)
		for _, l := range p.jobs[i].before {
			if known[l.other] {
				last = max(last, keys[l.other])
			}
		}
		if !known[i] && !math.IsInf(last, -1) {
			keys[i], known[i] = last+next, true
		}
	}
	for k := len(p.order) - 1; k >= 0; k-- {
		i := p.order[k]
		first := math.Inf(1)
		for _, l := range p.jobs[i].after {
			if known[l.other] {
				first = min(first, keys[l.other])
			}
		}
		switch {
		case known[i]:
		case !math.IsInf(first, 1):
			keys[i], known[i] = first-next, true
		default:
			keys[i], known[i] = urgent[i], true
		}
	}
	return keys
}
