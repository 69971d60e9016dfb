package path

import (
	"slices"
)

// clash is a conflict while it is looked for.
type clash struct {
	proven bool
	items  []item
}

// item is a reason as the search for a smallest set handles it.
type item struct {
	build, task, arrow int // of an arrow; arrow -1 for a task's length
	class              int // whose hours; -1 for none
}

// contradictions looks for what cannot hold together even if hands were plenty, one in
// each build at most besides what takes longer than any hours; heads are the earliest
// starts where there is none.
func (p *problem) contradictions() (heads []int32, all []*clash) {
	if circle := p.sort(); circle != nil {
		return nil, []*clash{p.round(circle)}
	}
	for i := range p.jobs {
		j := &p.jobs[i]
		if open := p.open(j); j.minutes > open.long {
			all = append(all, &clash{
				proven: true,
				items:  []item{{build: int(j.build), task: int(j.task), arrow: -1, class: -1}, {class: int(j.class)}},
			})
		}
	}
	if len(all) > 0 {
		return nil, all
	}
	t := newTiming(p)
	for b := range p.byBuild {
		if p.earliestOf(b, t) {
			continue
		}
		tasks := p.tasksOf(b)
		all = append(all, p.smallestOf(p.everything(tasks), tasks, func(q *problem) bool {
			_, _, ok := q.earliest(nil)
			return ok
		}))
	}
	return t.start, all
}

// round is the contradiction of jobs that come after each other in a circle.
func (p *problem) round(circle []int32) *clash {
	c := &clash{proven: true}
	for i, id := range circle {
		// Walked backwards: each comes after the next of the list.
		before := circle[(i+1)%len(circle)]
		for k := range p.jobs[id].before {
			if l := &p.jobs[id].before[k]; l.other == before && l.arrow != nil {
				c.items = append(c.items, p.itemOf(id, l.arrow))
				break
			}
		}
	}
	return c
}

// tasksOf are the tasks of a build that have jobs.
func (p *problem) tasksOf(b int) map[[2]int]bool {
	out := map[[2]int]bool{}
	for i, first := range p.first[b] {
		if first >= 0 {
			out[[2]int{b, i}] = true
		}
	}
	return out
}

func (p *problem) itemOf(job int32, a *Arrow) item {
	j := &p.jobs[job]
	tasks := p.orders[j.build].Tasks
	for k := range tasks[j.task].After {
		if &tasks[j.task].After[k] == a {
			return item{build: int(j.build), task: int(j.task), arrow: k, class: -1}
		}
	}
	panic("path: an arrow that its task does not have")
}

// everything lists all arrows of some tasks (all when nil) and all hours.
func (p *problem) everything(tasks map[[2]int]bool) []item {
	var out []item
	used := make([]bool, len(p.classes))
	for b, o := range p.orders {
		for i := range o.Tasks {
			if p.first[b][i] < 0 || (tasks != nil && !tasks[[2]int{b, i}]) {
				continue
			}
			for k := range o.Tasks[i].After {
				out = append(out, item{build: b, task: i, arrow: k, class: -1})
			}
			used[p.jobs[p.first[b][i]].class] = true
		}
	}
	for c, u := range used {
		if u {
			out = append(out, item{class: c})
		}
	}
	return out
}

// with is the problem with only some arrows kept and the hours of some classes; tasks
// of which nothing is kept stay, since they then stand in nobody's way.
func (p *problem) with(kept []item, tasks map[[2]int]bool) *problem {
	q := *p
	if tasks == nil {
		q.jobs = slices.Clone(p.jobs)
	}
	q.relaxed = make([]bool, len(p.classes))
	for c := range q.relaxed {
		q.relaxed[c] = true
	}
	arrows := map[*Arrow]bool{}
	for _, it := range kept {
		if it.class >= 0 {
			q.relaxed[it.class] = false
		} else if it.arrow >= 0 {
			arrows[&p.orders[it.build].Tasks[it.task].After[it.arrow]] = true
		}
	}
	in := func(id int32) bool {
		return tasks == nil || tasks[[2]int{int(p.jobs[id].build), int(p.jobs[id].task)}]
	}
	if tasks != nil {
		// Only these tasks: others are as if they were not there.
		var keep []int32
		at := make([]int32, len(p.jobs))
		for i := range p.jobs {
			at[i] = -1
			if in(int32(i)) {
				at[i] = int32(len(keep))
				keep = append(keep, int32(i))
			}
		}
		q.jobs = make([]job, len(keep))
		for n, id := range keep {
			q.jobs[n] = p.jobs[id]
			q.jobs[n].before, q.jobs[n].after = renumber(p.jobs[id].before, at), renumber(p.jobs[id].after, at)
		}
	}
	for i := range q.jobs {
		j := &q.jobs[i]
		keep := func(all []link) []link {
			return slices.DeleteFunc(slices.Clone(all), func(l link) bool { return l.arrow != nil && !arrows[l.arrow] })
		}
		j.before, j.after = keep(j.before), keep(j.after)
		j.release, j.deadline = 0, never
		for _, l := range j.fixed {
			if arrows[l.arrow] {
				j.release, j.deadline = max(j.release, l.release), min(j.deadline, l.deadline)
			}
		}
	}
	q.order = nil
	return &q
}

func renumber(all []link, at []int32) []link {
	var out []link
	for _, l := range all {
		if at[l.other] >= 0 {
			l.other = at[l.other]
			out = append(out, l)
		}
	}
	return out
}

// smallestOf finds reasons that contradict each other and none of which can be left out
// (Junker's divide and conquer), among all of some tasks. possible tells whether a problem
// has a plan.
func (p *problem) smallestOf(all []item, tasks map[[2]int]bool, possible func(*problem) bool) *clash {
	holds := func(kept []item) bool {
		q := p.with(kept, tasks)
		if q.sort() != nil {
			return false
		}
		for i := range q.jobs {
			if q.jobs[i].minutes > q.open(&q.jobs[i]).long {
				return false
			}
		}
		return possible(q)
	}
	if holds(all) {
		return nil
	}
	var explain func(background []item, added bool, rest []item) []item
	explain = func(background []item, added bool, rest []item) []item {
		if added && !holds(background) {
			return nil
		}
		if len(rest) == 1 {
			return rest
		}
		half := len(rest) / 2
		first, second := rest[:half], rest[half:]
		b := explain(slices.Concat(background, first), len(first) > 0, second)
		a := explain(slices.Concat(background, b), len(b) > 0, first)
		return slices.Concat(a, b)
	}
	items := explain(nil, false, all)
	return &clash{proven: true, items: items}
}
