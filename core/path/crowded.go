package path

import (
	"math"
	"slices"
)

// mostCrowded bounds the tasks whose sequences are all gone through for a proof.
const mostCrowded = mostExact

// cramped proves that too much is to be done inside windows, although no arrow
// contradicts another: of tasks that hang together by windows all sequences are gone
// through, where they are few and there is patience left. Nil where that proves nothing.
func (p *problem) cramped(left *int) *clash {
	for _, tasks := range p.clusters() {
		before := *left
		try := p.searched(tasks, left, mostCrowded)
		if try == nil || try.best != nil || !try.proven {
			continue
		}
		all := p.everything(tasks)
		// Each of the reasons is left out once or twice, and all is gone through again.
		if cost := before - *left; cost*2*len(all) > *left {
			return &clash{proven: true, items: all}
		}
		return p.smallestOf(all, tasks, func(q *problem) bool {
			try := q.anyPlan(left)
			return try != nil && try.best != nil
		})
	}
	return nil
}

// searched looks for any plan of some tasks alone; nil where they are none or more than
// most, or where their arrows contradict each other.
func (p *problem) searched(tasks map[[2]int]bool, left *int, most int) *search {
	if *left <= 0 {
		return nil
	}
	q := p.with(p.everything(tasks), tasks)
	if q.sort() != nil || len(q.jobs) == 0 || len(q.jobs) > most {
		return nil
	}
	return q.anyPlan(left)
}

// anyPlan is a search that was content with the first plan, and takes what it costs from
// the patience left; nil where there is none even with as many hands as wanted.
func (p *problem) anyPlan(left *int) *search {
	heads, _, ok := p.earliest(nil)
	if !ok {
		return nil
	}
	s := newSearch(p, heads, p.newBound(heads), QuickNodes)
	s.any, s.patience = true, max(*left, 1)
	s.run()
	*left -= s.nodes
	return s
}

// crowded names the windows among which a search found nothing and gave up: those of
// tasks for which alone it finds nothing either, or else those that the plan nearest to
// one breaks.
func (p *problem) crowded(s *search, left *int) *clash {
	c := &clash{}
	for _, tasks := range p.clusters() {
		share := min(*left, QuickNodes)
		spent := share
		if try := p.searched(tasks, &spent, math.MaxInt); try != nil && try.best == nil {
			c.items = append(c.items, p.everything(tasks)...)
		}
		*left -= share - spent
	}
	if len(c.items) == 0 {
		c.items = s.breaks()
	}
	if len(c.items) == 0 { // nothing is known of it: all windows together crowd each other
		for _, tasks := range p.clusters() {
			c.items = append(c.items, p.everything(tasks)...)
		}
	}
	c.items = slices.DeleteFunc(c.items, func(it item) bool {
		return it.class >= 0 || it.arrow >= 0 && !p.orders[it.build].Tasks[it.task].After[it.arrow].windowed()
	})
	return c
}

// windowed tells of an arrow that must not only be waited for.
func (a Arrow) windowed() bool { return a.Most > 0 || a.Same }

// breaks are the windows that the most urgent first would break.
func (s *search) breaks() (out []item) {
	r := newRepair(s)
	seq := s.d.dispatch(s, s.urgency(), nil)
	_, open := r.measure(seq)
	for _, b := range open {
		j := &s.p.jobs[seq[b.to]]
		if b.from < 0 {
			for _, f := range j.fixed {
				if f.deadline < never {
					out = append(out, s.p.itemOf(seq[b.to], f.arrow))
				}
			}
			continue
		}
		for k := range j.before {
			if l := &j.before[k]; l.other == seq[b.from] && l.arrow != nil && (l.most > 0 || l.same) {
				out = append(out, s.p.itemOf(seq[b.to], l.arrow))
			}
		}
	}
	return out
}

// clusters are the sets of tasks that hang together by windows, with what lies
// between them.
func (p *problem) clusters() []map[[2]int]bool {
	n := len(p.jobs)
	group := make([]int, n)
	for i := range group {
		group[i] = i
	}
	var root func(i int) int
	root = func(i int) int {
		if group[i] != i {
			group[i] = root(group[i])
		}
		return group[i]
	}
	windowed := make([]bool, n)
	for i := range p.jobs {
		for k := range p.jobs[i].before {
			if l := &p.jobs[i].before[k]; l.most > 0 || l.same {
				group[root(i)] = root(int(l.other))
				windowed[i], windowed[l.other] = true, true
			}
		}
		windowed[i] = windowed[i] || p.jobs[i].deadline < never
	}
	// Tasks between two of one group belong to it.
	for _, id := range p.order {
		for _, k := range p.jobs[id].before {
			if !windowed[id] && windowed[k.other] && p.leads(id, root(int(k.other)), root) {
				group[id], windowed[id] = root(int(k.other)), true
			}
		}
	}
	sets := map[int]map[[2]int]bool{}
	var keys []int
	for i := range p.jobs {
		if !windowed[i] {
			continue
		}
		g := root(i)
		if sets[g] == nil {
			sets[g] = map[[2]int]bool{}
			keys = append(keys, g)
		}
		sets[g][[2]int{int(p.jobs[i].build), int(p.jobs[i].task)}] = true
	}
	var out []map[[2]int]bool
	for _, g := range keys {
		out = append(out, sets[g])
	}
	return out
}

// leads tells whether a job comes before one of a group.
func (p *problem) leads(from int32, to int, root func(int) int) bool {
	seen := map[int32]bool{from: true}
	stack := []int32{from}
	for len(stack) > 0 {
		id := stack[len(stack)-1]
		stack = stack[:len(stack)-1]
		for k := range p.jobs[id].after {
			o := p.jobs[id].after[k].other
			if l := &p.jobs[id].after[k]; o != from && (l.most > 0 || root(int(o)) == to) && root(int(o)) == to {
				return true
			}
			if !seen[o] {
				seen[o] = true
				stack = append(stack, o)
			}
		}
	}
	return false
}
