package path

import (
	"fmt"
	"math"
	"slices"
	"strings"
)

// Reason is one of the things that contradict each other: an arrow of a build, the
// length of a task, or the hours of a place.
type Reason struct {
	Build string `json:"build,omitempty"`
	From  string `json:"from,omitempty"` // of an arrow; empty for the length of a task
	To    string `json:"to,omitempty"`
	Place string `json:"place,omitempty"` // whose hours; the hands' own for the bench
	Words string `json:"words"`
}

// Conflict says why some tasks have no place: reasons that cannot hold together, none
// of which can be left out. Proven is false where none was found within the budget
// and the reasons are only the windows that crowd each other.
type Conflict struct {
	Reasons []Reason `json:"reasons"`
	Proven  bool     `json:"proven"`
}

// Words is the conflict in one sentence.
func (c Conflict) Words() string {
	var all []string
	for _, r := range c.Reasons {
		all = append(all, r.Words)
	}
	if !c.Proven {
		return "no plan was found that keeps all of: " + strings.Join(all, "; ")
	}
	if len(all) == 1 {
		return all[0]
	}
	return "these cannot hold together: " + strings.Join(all, "; ")
}

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

// contradiction looks for what cannot hold together even if hands were plenty; heads
// are the earliest starts where there is none.
func (p *problem) contradiction() (heads []int32, c *clash) {
	if circle := p.sort(); circle != nil {
		c = &clash{proven: true}
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
		return nil, c
	}
	for i := range p.jobs {
		j := &p.jobs[i]
		if open := p.open(j); j.minutes > open.long {
			return nil, &clash{
				proven: true,
				items:  []item{{build: int(j.build), task: int(j.task), arrow: -1, class: -1}, {class: int(j.class)}},
			}
		}
	}
	heads, _, ok := p.earliest(nil)
	if ok {
		return heads, nil
	}
	return nil, p.smallest(p.everything(nil), func(q *problem) bool { _, _, ok := q.earliest(nil); return ok })
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
	q.jobs = slices.Clone(p.jobs)
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

// smallest finds reasons that contradict each other and none of which can be left out
// (Junker's divide and conquer). possible tells whether a problem has a plan.
func (p *problem) smallest(all []item, possible func(*problem) bool) *clash {
	return p.smallestOf(all, nil, possible)
}

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

// told puts a clash into words.
func (c *clash) told(p *problem) Conflict {
	out := Conflict{Proven: c.proven}
	for _, it := range c.items {
		if it.class >= 0 {
			key := p.keys[it.class]
			out.Reasons = append(out.Reasons, Reason{Place: key.place, Words: p.hoursWords(it.class)})
			continue
		}
		o := p.orders[it.build]
		t := o.Tasks[it.task]
		if it.arrow < 0 {
			out.Reasons = append(
				out.Reasons,
				Reason{Build: o.Build, To: t.ID, Words: fmt.Sprintf("%s takes %.0f min in one go", t.Title, t.Minutes)},
			)
			continue
		}
		a := t.After[it.arrow]
		from := a.From
		if i := indexOf(o.Tasks, a.From); i >= 0 {
			from = o.Tasks[i].Title
		}
		words := fmt.Sprintf("%s comes after %s", t.Title, from)
		if a.Wait > 0 {
			words = fmt.Sprintf("%s comes at least %s after %s", t.Title, spell(a.Wait), from)
		}
		if a.Most > 0 {
			words += fmt.Sprintf(", finished at most %s after it", spell(a.Most))
		}
		if a.Same {
			words += ", in the same session"
		}
		if dry := p.fluid[0]; a.Wait > 0 && dry.rate[len(dry.rate)-1] <= 0 {
			words += fmt.Sprintf(", and nothing dries below %.0f °C: warm the room", Coldest)
		}
		out.Reasons = append(out.Reasons, Reason{Build: o.Build, From: a.From, To: t.ID, Words: words})
	}
	return out
}

func (p *problem) hoursWords(class int) string {
	key, open := p.keys[class], &p.classes[class]
	what := "the hours of the " + key.place
	if key.place == Bench {
		what = "your hours"
	}
	if key.spray {
		what += " with air to spray in"
	}
	if len(open.all) == 0 {
		return what + " leave no time in the next half year: add weekly hours"
	}
	return fmt.Sprintf("%s leave %d min at the longest", what, open.long)
}

func spell(minutes float64) string {
	switch {
	case minutes < 90:
		return fmt.Sprintf("%.0f min", minutes)
	case minutes < 48*60:
		return fmt.Sprintf("%.4g h", minutes/60)
	default:
		return fmt.Sprintf("%.3g days", minutes/1440)
	}
}

// fail marks the tasks of a clash, and all that comes after them, as without a place.
func (p *problem) fail(c *clash, failed []map[int]string) {
	words := c.told(p).Words()
	mark := func(b, t int, why string) {
		if failed[b][t] == "" && p.first[b][t] >= 0 {
			failed[b][t] = why
		}
	}
	any := false
	for _, it := range c.items {
		if it.class >= 0 {
			continue
		}
		any = true
		mark(it.build, it.task, words)
		if it.arrow >= 0 {
			tasks := p.orders[it.build].Tasks
			from := tasks[it.task].After[it.arrow].From
			mark(it.build, indexOf(tasks, from), words)
		}
	}
	if !any { // only hours: whatever is to be done in them
		for _, it := range c.items {
			for i := range p.jobs {
				if int(p.jobs[i].class) == it.class {
					mark(int(p.jobs[i].build), int(p.jobs[i].task), words)
				}
			}
		}
	}
	for b, o := range p.orders {
		for again := true; again; {
			again = false
			for i := range o.Tasks {
				if failed[b][i] != "" || p.first[b][i] < 0 {
					continue
				}
				for _, a := range o.Tasks[i].After {
					k := indexOf(o.Tasks, a.From)
					if failed[b][k] != "" {
						failed[b][i], again = fmt.Sprintf("%s has no place, and this comes after it", o.Tasks[k].Title), true
						break
					}
				}
			}
		}
	}
}
