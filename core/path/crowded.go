package path

import (
	"math"
	"slices"
)

// mostCrowded bounds the tasks whose sequences are all gone through for a proof.
const mostCrowded = mostExact

// cramped proves that too much is to be done inside windows, although no arrow
// contradicts another: of tasks that hang together by windows all sequences are gone
// through, where they are few. Nil where that proves nothing.
func (p *problem) cramped(budget int) *clash {
	for _, tasks := range p.clusters() {
		try := p.searched(tasks, budget, mostCrowded)
		if try == nil || try.best != nil || !try.proven {
			continue
		}
		return p.smallestOf(p.everything(tasks), tasks, func(q *problem) bool {
			try := q.anyPlan(budget)
			return try != nil && try.best != nil
		})
	}
	return nil
}

// searched looks for any plan of some tasks alone; nil where they are none or more than
// most, or where their arrows contradict each other.
func (p *problem) searched(tasks map[[2]int]bool, budget, most int) *search {
	q := p.with(p.everything(nil), tasks)
	if q.sort() != nil || len(q.jobs) == 0 || len(q.jobs) > most {
		return nil
	}
	return q.anyPlan(budget)
}

// anyPlan is a search that was content with the first plan; nil where there is none
// even with as many hands as wanted.
func (p *problem) anyPlan(budget int) *search {
	heads, _, ok := p.earliest(nil)
	if !ok {
		return nil
	}
	s := newSearch(p, heads, p.newBound(heads), budget)
	s.any = true
	s.run()
	return s
}

// crowded names the windows among which a search found nothing and gave up: those of
// tasks for which alone it finds nothing either, or else all of them.
func (p *problem) crowded(budget int) *clash {
	var open *clash
	for _, tasks := range p.clusters() {
		if try := p.searched(tasks, budget, math.MaxInt); try != nil && try.best == nil {
			open = &clash{items: p.everything(tasks)}
			break
		}
	}
	if open == nil { // each alone could be done: all windows together crowd each other
		open = &clash{}
		for _, tasks := range p.clusters() {
			open.items = append(open.items, p.everything(tasks)...)
		}
	}
	open.items = slices.DeleteFunc(open.items, func(it item) bool {
		return it.class >= 0 || p.orders[it.build].Tasks[it.task].After[it.arrow].Most == 0
	})
	return open
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
