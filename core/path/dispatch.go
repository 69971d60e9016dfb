package path

import "slices"

// dispatcher builds a sequence from the start of the calendar on: of what may begin
// before anything else could be finished, it takes what is most urgent, and nothing
// after which an open window could no longer be kept.
type dispatcher struct {
	p      *problem
	waits  []int32 // by job: jobs before it that are not placed
	soft   []int32 // and those that had better come first, see company
	ready  []int32 // by job: the earliest start that its arrows allow
	end    []int32
	closes []int32 // by job: its window, never for none
	must   []int32 // by job: the session it must lie in, -1 for any
	eager  [][]int32
	states []nozzle
	list   []int32
	opens  []bool // by job: something after it has a window
	gone   []bool // by job: it is in the sequence
	seq    []int32
	open   []pending
	hopes  []hope

	// Of the look ahead.
	epoch   int32
	nodes   int
	seen    []int32 // by job: the look ahead it was last in
	slot    []int32 // by job: its place in members
	members []int32
	look    []member
}

func (d *dispatcher) init(p *problem) {
	n := len(p.jobs)
	*d = dispatcher{
		p:      p,
		waits:  make([]int32, n),
		soft:   make([]int32, n),
		ready:  make([]int32, n),
		end:    make([]int32, n),
		closes: make([]int32, n),
		must:   make([]int32, n),
		opens: make(
			[]bool,
			n,
		),
		gone:   make([]bool, n),
		seen:   make([]int32, n),
		slot:   make([]int32, n),
		eager:  make([][]int32, n),
		states: make([]nozzle, len(p.nozzles)),
	}
	for i := range p.jobs {
		for k := range p.jobs[i].after {
			if l := &p.jobs[i].after[k]; l.most > 0 || l.same {
				d.opens[i] = true
			}
		}
	}
	d.company()
}

// company finds, for each job that opens a window, what else the job after the window
// waits for: that is better placed before the window opens.
func (d *dispatcher) company() {
	p := d.p
	var reach func(id int32, seen map[int32]bool, back bool)
	reach = func(id int32, seen map[int32]bool, back bool) {
		links := p.jobs[id].after
		if back {
			links = p.jobs[id].before
		}
		for k := range links {
			if o := links[k].other; !seen[o] {
				seen[o] = true
				reach(o, seen, back)
			}
		}
	}
	for i := range p.jobs {
		if !d.opens[i] {
			continue
		}
		below := map[int32]bool{int32(i): true}
		reach(int32(i), below, false)
		for k := range p.jobs[i].after {
			l := &p.jobs[i].after[k]
			if l.most == 0 && !l.same {
				continue
			}
			for m := range p.jobs[l.other].before {
				o := p.jobs[l.other].before[m].other
				if !below[o] && !slices.Contains(d.eager[o], int32(i)) {
					d.eager[o] = append(d.eager[o], int32(i))
				}
			}
		}
	}
}

// pending is a job whose window is open.
type pending struct{ id int32 }

// hope is a job that keeps all windows when it is done next.
type hope struct {
	at   int // in the list
	from int32
}

// dispatch builds a sequence by urgency, least first; it holds until the next.
func (d *dispatcher) dispatch(s *search, keys []float64, random *dice) []int32 {
	p := d.p
	seq := d.seq[:0]
	d.list = d.list[:0]
	for i := range p.jobs {
		j := &p.jobs[i]
		d.waits[i], d.soft[i] = int32(len(j.before)), 0
		d.ready[i], d.closes[i], d.must[i], d.gone[i] = s.heads[i], j.deadline, -1, false
		if d.waits[i] == 0 {
			d.list = append(d.list, int32(i))
		}
	}
	// In some rounds company is not kept, since it may itself be in the way.
	if random == nil || random.IntN(4) > 0 {
		for o := range d.eager {
			for _, i := range d.eager[o] {
				d.soft[i]++
			}
		}
	}
	copy(d.states, p.nozzles)
	now := int32(0)
	open := d.open[:0]
	for len(d.list) > 0 {
		best, bestAt := int32(-1), -1
		var bestEnd int32
		// The end of what could be finished first.
		var least int32
		hopes := d.hopes[:0]
		for pass := 0; pass < 2 && best < 0; pass++ {
			least, hopes = never, hopes[:0]
			for at, id := range d.list {
				if pass == 0 && d.soft[id] > 0 {
					continue
				}
				s.nodes++
				from, end := d.fit(id, now)
				if from >= never {
					continue
				}
				if d.opens[id] || len(open) > 0 {
					var ok bool
					if from, end, ok = d.keeps(id, from, end, open); !ok {
						continue
					}
				}
				d.end[id] = end
				hopes = append(hopes, hope{at, from})
				least = min(least, end)
			}
			d.hopes = hopes
			for _, h := range hopes {
				at, id := h.at, d.list[h.at]
				if h.from >= least {
					continue
				}
				if best < 0 || p.jobs[id].begun && !p.jobs[best].begun ||
					p.jobs[id].begun == p.jobs[best].begun && keys[id] < keys[best] {
					best, bestAt, bestEnd = id, at, d.end[id]
				}
			}
		}
		if best < 0 {
			// Nothing keeps all windows: what closes first goes on, and the timing says
			// whether pushing what opened it helps.
			for at, id := range d.list {
				if best < 0 || d.closes[id] < d.closes[best] || (d.closes[id] == d.closes[best] && keys[id] < keys[best]) {
					best, bestAt = id, at
				}
			}
			_, bestEnd = d.fit(best, now)
			if bestEnd >= never {
				bestEnd = now + p.jobs[best].minutes
			}
		}
		d.list[bestAt] = d.list[len(d.list)-1]
		d.list = d.list[:len(d.list)-1]
		seq = append(seq, best)
		d.gone[best] = true
		now = bestEnd
		d.end[best] = bestEnd
		j := &p.jobs[best]
		if j.brush >= 0 {
			_, _, _, d.states[j.brush] = d.states[j.brush].setUp(j)
		}
		open = slices.DeleteFunc(open, func(x pending) bool { return x.id == best })
		for _, i := range d.eager[best] {
			d.soft[i]--
		}
		for k := range j.after {
			l := &j.after[k]
			o := l.other
			d.ready[o] = max(d.ready[o], l.dry.dry(bestEnd, l.wait))
			if l.most > 0 {
				d.closes[o] = min(d.closes[o], l.dry.closes(bestEnd, l.most))
			}
			if l.same {
				d.must[o] = p.sessionOf(bestEnd - 1)
			}
			if l.most > 0 || l.same {
				open = slices.DeleteFunc(open, func(x pending) bool { return x.id == o })
				open = append(open, pending{o})
			}
			if d.waits[o]--; d.waits[o] == 0 {
				d.list = append(d.list, o)
			}
		}
	}
	s.nodes += d.nodes
	d.nodes, d.seq, d.open = 0, seq, open
	return seq
}

// fit is when a job can begin (with its set-up) and end from now on.
func (d *dispatcher) fit(id, now int32) (from, end int32) {
	j := &d.p.jobs[id]
	setUp := int32(0)
	if j.brush >= 0 {
		setUp, _, _, _ = d.states[j.brush].setUp(j)
	}
	from = d.p.open(j).first(max(now, d.ready[id]-setUp, 0), setUp+j.minutes)
	return from, min(from+setUp+j.minutes, never)
}

// keeps tells whether all windows can be kept when a job is done now, its own
// included; one that opens a window may have to begin later for it.
func (d *dispatcher) keeps(id, from, end int32, open []pending) (int32, int32, bool) {
	j := &d.p.jobs[id]
	for range 12 {
		if end > d.closes[id] || (d.must[id] >= 0 && d.p.sessionOf(from) != d.must[id]) {
			return from, end, false
		}
		later, ok := d.ahead(id, end, open)
		d.nodes += len(d.members)
		if ok {
			return from, end, true
		}
		if later <= end {
			return from, end, false
		}
		length := end - from
		from = d.p.open(j).first(later-length, length)
		if from >= never {
			return from, end, false
		}
		end = from + length
	}
	return from, end, false
}

// mostAhead bounds how much is looked at ahead of one task; where more would have to be
// done inside windows, the task has to wait.
const mostAhead = 24
