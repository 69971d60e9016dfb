package path

import (
	"cmp"
	"math"
	"slices"
)

// walk is a sequence that is changed step by step, with the plan that it gives.
type walk struct {
	*search
	seq, next []int32
	place     []int32
	energy    float64
	guide     float64 // what is done early makes room for what comes after, though the end shows it later
	moved     bool    // what changes places changes the order at an airbrush

	wish, from, start, end, least []int32 // the plan before the change that is tried
	changes                       int
}

// of is what a walk wants little of.
func (w *walk) of(c cost) float64 { return c.end + w.guide*c.late + 0.5*float64(c.changes) }

func newWalk(s *search) *walk {
	n := len(s.p.jobs)
	w := &walk{
		search: s,
		seq:    make([]int32, n),
		next:   make([]int32, n),
		place:  make([]int32, n),
		wish:   make([]int32, n),
		from:   make([]int32, n),
		start:  make([]int32, n),
		end:    make([]int32, n),
		least:  make([]int32, n),
	}
	return w
}

// begin sets out from a sequence; false where it is no plan.
func (w *walk) begin(seq []int32) bool {
	copy(w.seq, seq)
	for i, id := range w.seq {
		w.place[id] = int32(i)
	}
	if !w.lay(w.seq) {
		return false
	}
	w.energy = w.of(w.take(w.seq))
	return true
}

// take prices what is timed and keeps it where it is the best so far.
func (s *search) take(seq []int32) cost {
	c := s.price()
	if c.less(s.cost) {
		s.cost, s.best, s.closed = c, slices.Clone(seq), nil
	}
	return c
}

// cool walks until so many nodes are spent: at first what makes the plan worse by the
// share hot is taken now and then, in the end only what makes it better (Kirkpatrick,
// Gelatt and Vecchi 1983).
func (w *walk) cool(nodes int, hot float64) {
	begun, until := w.nodes, w.nodes+nodes
	if len(w.seq) < 2 {
		return
	}
	heat := 0.0
	for tries := 0; w.nodes < until && !w.done(); tries++ {
		if tries%16 == 0 {
			gone := float64(w.nodes-begun) / float64(nodes)
			heat = hot * w.cost.end * math.Pow(coldest, gone)
		}
		low, high := w.change()
		if low < 0 {
			w.nodes++
			continue
		}
		w.step(low, high, heat)
	}
}

// coldest is the last heat, as a share of the first.
const coldest = 0.003

// step times the changed sequence, of which the places from low to high are new, and goes
// on with it or not.
func (w *walk) step(low, high int, heat float64) {
	t := w.t
	copy(w.wish, t.wish)
	copy(w.from, t.from)
	copy(w.start, t.start)
	copy(w.end, t.end)
	copy(w.least, t.least)
	w.changes = t.changes
	if w.timed(low, high) {
		c := w.take(w.next)
		e := w.of(c)
		if e <= w.energy || w.random.Float64() < math.Exp((w.energy-e)/heat) {
			w.energy = e
			w.seq, w.next = w.next, w.seq
			for i := low; i <= high; i++ {
				w.place[w.seq[i]] = int32(i)
			}
			return
		}
	}
	copy(t.wish, w.wish)
	copy(t.from, w.from)
	copy(t.start, w.start)
	copy(t.end, w.end)
	copy(t.least, w.least)
	t.changes = w.changes
	for i := low; i <= high; i++ {
		t.place[w.seq[i]] = int32(i)
	}
}

// timed times the next sequence, of which the places from low to high are new: from the first place that may
// change, until what follows stays as it was. It finds what timing all of it would find.
func (w *walk) timed(low, high int) bool {
	t := w.t
	t.seq = w.next
	for i := low; i <= high; i++ {
		t.place[t.seq[i]] = int32(i)
	}
	// What was made to begin later for a window that follows it may begin earlier now.
	from := low
	for i, id := range w.seq[:low] {
		if w.least[id] > 0 {
			from = i
			break
		}
	}
	for _, id := range t.seq[from:] {
		t.least[id] = 0
	}
	before, far := t.ran, int32(-1) // the last place that waits for what was moved
	ok := t.run(from, func(i int) bool {
		id := t.seq[i]
		if t.end[id] != w.end[id] {
			j := &w.p.jobs[id]
			for k := range j.after {
				far = max(far, t.place[j.after[k].other])
			}
		}
		// The hands are free as they were, the airbrushes had the same colours, nothing more waits for what moved.
		if i < high || int32(i) < far || w.moved || t.end[id] != w.end[w.seq[i]] {
			return false
		}
		t.changes = w.changes
		for _, later := range t.seq[i+1:] {
			t.least[later] = w.least[later]
		}
		return true
	})
	// Going back and pricing look at all jobs too, but shortly.
	w.nodes += t.ran - before + len(w.seq)/16
	return ok
}

// sprays tells whether any of some jobs does.
func (w *walk) sprays(seq []int32) bool {
	for _, id := range seq {
		if w.p.jobs[id].brush >= 0 {
			return true
		}
	}
	return false
}

// change makes the next sequence of this one: a job, or some that follow each other, go
// elsewhere among those that they need not come before or after. It gives the places
// that differ; none where nothing could be changed.
func (w *walk) change() (low, high int) {
	n := len(w.seq)
	at, size := w.random.IntN(n), 1
	if n > 4 && w.random.IntN(4) == 0 {
		size = min(2+w.random.IntN(4), n-at)
	}
	if w.p.jobs[w.seq[0]].begun && at == 0 {
		return -1, -1
	}
	least, most := w.room(at, size)
	if most <= least {
		return -1, -1
	}
	var to int
	switch id := w.seq[at]; {
	case w.random.IntN(2) == 0 && w.t.from[id] > max(w.t.wish[id], 0):
		// The hands keep it waiting: it goes before some of what they are on meanwhile.
		first, _ := slices.BinarySearchFunc(w.seq[:at], w.t.wish[id], func(o, wish int32) int {
			return cmp.Compare(w.t.end[o], wish+1)
		})
		to = first + w.random.IntN(max(at-first, 1))
	case w.random.IntN(2) == 0: // near
		to = at + w.random.IntN(9) - 4
	default:
		to = least + w.random.IntN(most-least+1)
	}
	to = min(max(to, least), most)
	if to == at {
		return -1, -1
	}
	copy(w.next, w.seq)
	if to < at {
		w.moved = w.sprays(w.seq[at:at+size]) && w.sprays(w.seq[to:at])
		copy(w.next[to:], w.seq[at:at+size])
		copy(w.next[to+size:], w.seq[to:at])
		return to, at + size - 1
	}
	w.moved = w.sprays(w.seq[at:at+size]) && w.sprays(w.seq[at+size:to+size])
	copy(w.next[at:], w.seq[at+size:to+size])
	copy(w.next[to:], w.seq[at:at+size])
	return at, to + size - 1
}

// room is where a piece of the sequence may begin, given what comes before and after it.
func (w *walk) room(at, size int) (least, most int) {
	least, most = 0, len(w.seq)-size
	if w.p.jobs[w.seq[0]].begun {
		least = 1
	}
	for _, id := range w.seq[at : at+size] {
		j := &w.p.jobs[id]
		if j.begun {
			return 0, -1
		}
		for k := range j.before {
			if p := int(w.place[j.before[k].other]); p < at {
				least = max(least, p+1)
			}
		}
		for k := range j.after {
			if p := int(w.place[j.after[k].other]); p >= at+size {
				most = min(most, p-size)
			}
		}
	}
	return least, most
}
