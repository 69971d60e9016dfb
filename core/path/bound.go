package path

import (
	"cmp"
	"slices"
)

// earliest gives the least start and end of each job when the hands were as many as
// wanted, and none before its least; false where even then an arrow or the hours
// cannot be kept.
func (p *problem) earliest(least []int32) (start, end []int32, ok bool) {
	t := newTiming(p)
	copy(t.least, least)
	for b := range p.byBuild {
		if !p.earliestOf(b, t) {
			return nil, nil, false
		}
	}
	return t.start, t.end, true
}

// earliestOf times the jobs of one build as if the hands were as many as wanted.
func (p *problem) earliestOf(b int, t *timing) bool {
	order := p.byBuild[b]
	for i, j := range order {
		t.place[j] = int32(i)
	}
	n := len(order)
	again := 0
	for redo := 0; redo <= mostRedo*4; redo++ {
		from := again
		again = n
		for i := from; i < n; i++ {
			id := order[i]
			j := &p.jobs[id]
			ready := max(j.release, t.least[id])
			for k := range j.before {
				ready = max(ready, j.before[k].dry.dry(t.end[j.before[k].other], j.before[k].wait))
			}
			from := p.open(j).first(max(ready, 0), j.minutes)
			t.start[id], t.end[id] = from, from+j.minutes
			if from >= never || t.end[id] > j.deadline {
				return false
			}
			if back := t.check(id); back >= 0 {
				again = min(again, back)
			}
		}
		if again == n {
			return true
		}
	}
	return false
}

// latest gives the last end of each job with which its build could end by its target, if
// the hands were as many as wanted, and the start that goes with it.
func (p *problem) latest(target []int32) (start, end []int32) {
	start, end = make([]int32, len(p.jobs)), make([]int32, len(p.jobs))
	for b, t := range target {
		p.latestOf(b, t, start, end)
	}
	return start, end
}

func (p *problem) latestOf(b int, target int32, start, end []int32) {
	order := p.byBuild[b]
	for i := len(order) - 1; i >= 0; i-- {
		id := order[i]
		j := &p.jobs[id]
		e := min(target, j.deadline)
		for k := range j.after {
			e = min(e, j.after[k].dry.latest(start[j.after[k].other], j.after[k].wait))
		}
		start[id] = p.open(j).last(e, j.minutes)
		end[id] = start[id] + j.minutes
		if start[id] < 0 {
			end[id] = e
		}
	}
}

// due is a job waiting for the hands.
type due struct {
	by   int32
	left int32
}

// duties are a heap of them, what is due first on top.
type duties []due

func (d *duties) push(x due) {
	*d = append(*d, x)
	h := *d
	for i := len(h) - 1; i > 0 && h[i].by < h[(i-1)/2].by; i = (i - 1) / 2 {
		h[i], h[(i-1)/2] = h[(i-1)/2], h[i]
	}
}

func (d *duties) pop() {
	h := *d
	n := len(h) - 1
	h[0] = h[n]
	h = h[:n]
	*d = h
	for i := 0; ; {
		least := i
		for c := 2*i + 1; c <= 2*i+2 && c < n; c++ {
			if h[c].by < h[least].by {
				least = c
			}
		}
		if least == i {
			return
		}
		h[i], h[least] = h[least], h[i]
		i = least
	}
}

// inTime tells whether jobs, sorted by head, fit between their heads and ends on one pair of hands, which are
// also so long at what may be done at any time until the last; the duties are its scratch. The hands may lay
// everything down at any time: what is due first is always taken up (Jackson's preemptive
// rule), which is best possible, so "no" is a proof.
func (p *problem) inTime(sorted, head, end []int32, open *openings, setUps, last int32, wait *duties) bool {
	*wait = (*wait)[:0]
	if setUps > 0 {
		wait.push(due{last, setUps})
	}
	now, k := int32(0), 0
	for k < len(sorted) || len(*wait) > 0 {
		if len(*wait) == 0 {
			now = max(now, head[sorted[k]])
		}
		at := open.from(now)
		if at >= len(open.all) {
			return false
		}
		now = max(now, open.all[at].from)
		for k < len(sorted) && head[sorted[k]] <= now {
			wait.push(due{end[sorted[k]], p.jobs[sorted[k]].minutes})
			k++
		}
		if len(*wait) == 0 {
			continue
		}
		until := open.all[at].to
		if k < len(sorted) {
			until = min(until, head[sorted[k]])
		}
		first := &(*wait)[0]
		run := min(first.left, until-now)
		now += run
		if first.left -= run; first.left == 0 {
			if now > first.by {
				return false
			}
			wait.pop()
		}
	}
	return true
}

// bound is a time before which no plan can end: by build, and weighted over all.
type bound struct {
	alone []int32
	cost  float64
	ends  *endings // by which it costs so much
}

// newBound looks for the earliest ends that cannot be ruled out: a build's own jobs
// between the earliest starts that their arrows allow and the latest ends that its
// target leaves; then, since builds end one after the other, the minutes of all that
// have ended by then must have been worked.
func (p *problem) newBound(heads []int32) bound {
	out := bound{alone: make([]int32, len(p.orders))}
	start, end := make([]int32, len(p.jobs)), make([]int32, len(p.jobs))
	var wait duties
	for b, jobs := range p.byBuild {
		if len(jobs) == 0 {
			out.alone[b] = p.fixedEnd[b]
			continue
		}
		low := int32(0)
		for _, id := range jobs {
			low = max(low, heads[id]+p.jobs[id].minutes)
		}
		free := p.free(jobs, heads)
		setUps := p.leastSetUps(free)
		byClass := map[int32][]int32{}
		for _, id := range free {
			if c := p.jobs[id].class; len(p.classes[c].all) != len(p.hands.all) {
				byClass[c] = append(byClass[c], id)
			}
		}
		possible := func(t int32) bool {
			p.latestOf(b, t, start, end)
			for _, id := range jobs {
				if start[id] < heads[id] {
					return false
				}
			}
			if !p.inTime(free, heads, end, &p.hands, setUps, t, &wait) {
				return false
			}
			for c, some := range byClass {
				if !p.inTime(some, heads, end, &p.classes[c], 0, t, &wait) {
					return false
				}
			}
			return true
		}
		out.alone[b] = searchLeast(low, int32(p.horizon.Minutes()), possible)
	}
	out.ends = newEndings(p)
	out.cost = out.ends.cost(out.alone)
	return out
}

// free are those of some jobs that are not under way, by head.
func (p *problem) free(jobs, heads []int32) []int32 {
	free := slices.DeleteFunc(slices.Clone(jobs), func(id int32) bool { return p.jobs[id].begun })
	slices.SortFunc(free, func(a, b int32) int { return cmp.Or(cmp.Compare(heads[a], heads[b]), cmp.Compare(a, b)) })
	return free
}

// leastSetUps are the minutes of the flushes that no order of jobs avoids: one less than
// there are colours for an airbrush, one more where another colour is in it.
func (p *problem) leastSetUps(jobs []int32) int32 {
	least := int32(0)
	for k, n := range p.nozzles {
		colours := map[int32]bool{}
		for _, id := range jobs {
			if j := &p.jobs[id]; j.brush == int32(k) {
				colours[j.paint] = true
			}
		}
		changes := int32(len(colours)) - 1
		if n.paint != 0 && !colours[n.paint] {
			changes++
		}
		least += max(changes, 0) * min(n.flush, n.strip)
	}
	return least
}

// searchLeast is the least t in [low, high] for which ok holds, high if none.
func searchLeast(low, high int32, ok func(int32) bool) int32 {
	// Doubling first: the answer is mostly near.
	step := int32(60)
	top := low
	for top < high && !ok(top) {
		low = top + 1
		top = min(top+step, high)
		step *= 2
	}
	for low < top {
		m := low + (top-low)/2
		if ok(m) {
			top = m
		} else {
			low = m + 1
		}
	}
	return top
}

// begunMinutes are those of the tasks under way.
func (p *problem) begunMinutes() int32 {
	minutes := int32(0)
	for i := range p.jobs {
		if p.jobs[i].begun {
			minutes += p.jobs[i].minutes
		}
	}
	return minutes
}

// worked is the first minute by which the hands can have worked so long. A task under
// way runs on outside the windows, so its minutes are not asked for.
func (p *problem) worked(minutes int32) int32 {
	if minutes -= p.begunMinutes(); minutes <= 0 {
		return 0
	}
	for _, s := range p.hands.all {
		n := s.to - s.from
		if n >= minutes {
			return s.from + minutes
		}
		minutes -= n
	}
	return never
}
