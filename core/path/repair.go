package path

import (
	"math"
	"slices"
)

// repair makes a plan of a sequence that breaks windows: of each window that is broken,
// what need not lie inside it is put before or after it, and single jobs are moved,
// as long as less is broken than before.
type repair struct {
	s     *search
	after [][]uint64 // by job: the set of jobs that come after it
}

func newRepair(s *search) *repair {
	n := len(s.p.jobs)
	r := &repair{s: s, after: make([][]uint64, n)}
	for i := n - 1; i >= 0; i-- {
		id := s.p.order[i]
		set := make([]uint64, (n+63)/64)
		for k := range s.p.jobs[id].after {
			o := s.p.jobs[id].after[k].other
			set[o/64] |= 1 << (o % 64)
			for w, bits := range r.after[o] {
				set[w] |= bits
			}
		}
		r.after[id] = set
	}
	return r
}

// comes tells whether b comes after a.
func (r *repair) comes(a, b int32) bool { return r.after[a][b/64]&(1<<(b%64)) != 0 }

// broken is a window that a timing does not keep, from the place of one job to that of
// another.
type broken struct{ from, to int }

// measure times a sequence and says by how many minutes windows are broken, and which.
func (r *repair) measure(seq []int32) (float64, []broken) {
	s, t := r.s, r.s.t
	if s.lay(seq) {
		s.take(seq)
		return 0, nil
	}
	// What can be kept by pushing is; the rest is counted.
	t.pushes = map[*link]int{}
	laid := s.lay(seq)
	t.pushes = nil
	if !laid {
		return math.Inf(1), r.all(seq)
	}
	sum := 0.0
	var out []broken
	for i, id := range seq {
		j := &s.p.jobs[id]
		if over := t.end[id] - j.deadline; over > 0 {
			sum += float64(over)
			out = append(out, broken{-1, i})
		}
		for k := range j.before {
			l := &j.before[k]
			over := int32(0)
			if l.most > 0 {
				over = max(t.end[id]-l.dry.closes(t.end[l.other], l.most), 0)
			}
			if l.same && s.p.sessionOf(t.start[id]) != s.p.sessionOf(t.end[l.other]-1) {
				over = max(over, t.start[id]-t.end[l.other])
			}
			if over > 0 {
				sum += math.Sqrt(float64(over))
				out = append(out, broken{int(t.place[l.other]), i})
			}
		}
	}
	return sum, out
}

// all lists every window of a sequence, where nothing can be said of them.
func (r *repair) all(seq []int32) []broken {
	var out []broken
	for i, id := range seq {
		for k := range r.s.p.jobs[id].before {
			if l := &r.s.p.jobs[id].before[k]; l.most > 0 || l.same {
				out = append(out, broken{slices.Index(seq, l.other), i})
			}
		}
	}
	return out
}

// tighten puts what need not lie between two places of a sequence before or after them.
func (r *repair) tighten(seq []int32, b broken, early bool) []int32 {
	if b.from < 0 { // a deadline: what need not come before goes after
		last := seq[b.to]
		var before, later []int32
		for _, id := range seq[:b.to] {
			if r.comes(id, last) || r.s.p.jobs[id].begun {
				before = append(before, id)
			} else {
				later = append(later, id)
			}
		}
		return slices.Concat(before, []int32{last}, later, seq[b.to+1:])
	}
	first, last := seq[b.from], seq[b.to]
	var before, inside, later []int32
	for _, id := range seq[b.from+1 : b.to] {
		free, ends := !r.comes(first, id), !r.comes(id, last)
		switch {
		case free && ends && early, free && !ends:
			before = append(before, id)
		case ends:
			later = append(later, id)
		default:
			inside = append(inside, id)
		}
	}
	// What goes before must not come after something that goes later.
	for k := 0; k < len(before); k++ {
		if slices.ContainsFunc(later, func(x int32) bool { return r.comes(x, before[k]) }) {
			later = append(later, before[k])
			before = slices.Delete(before, k, k+1)
			k = -1
		}
	}
	slices.SortFunc(later, func(a, b int32) int { return int(r.s.t.place[a] - r.s.t.place[b]) })
	return slices.Concat(seq[:b.from], before, []int32{first}, inside, []int32{last}, later, seq[b.to+1:])
}

// settle lays everything anew again and again, each time with what opened a window that
// broke held back until the window can be kept: the hands' delays are learned.
func (r *repair) settle(keys []float64) []int32 {
	s := r.s
	kept := s.heads
	defer func() { s.heads = kept }()
	least := make([]int32, len(s.p.jobs))
	var seq []int32
	for range 40 {
		if s.done() {
			break
		}
		seq = s.d.dispatch(s, keys, s.random)
		_, open := r.measure(seq)
		if len(open) == 0 {
			return seq
		}
		raised := false
		for _, b := range open {
			if b.from < 0 {
				continue
			}
			from, to := seq[b.from], seq[b.to]
			for k := range s.p.jobs[to].before {
				l := &s.p.jobs[to].before[k]
				if l.other != from || (l.most == 0 && !l.same) {
					continue
				}
				need := s.t.end[from]
				if l.most > 0 {
					need = max(need, l.dry.opener(s.t.end[to], l.most))
				}
				if at := s.p.sessionOf(
					s.t.start[to],
				); l.same && int(at) < len(s.p.hands.all) &&
					at != s.p.sessionOf(s.t.end[from]-1) {
					need = max(need, s.p.hands.all[at].from+s.p.jobs[from].minutes)
				}
				if v := need - s.p.jobs[from].minutes; v > least[from] {
					least[from], raised = v, true
				}
			}
		}
		heads, _, ok := s.p.earliest(least)
		if !ok || !raised {
			return seq
		}
		s.heads = heads
	}
	return seq
}

// run repairs from a sequence on, until a plan is found or so many nodes are spent.
func (r *repair) run(seq []int32, nodes int) {
	s := r.s
	until := s.nodes + nodes
	seq = slices.Clone(seq)
	now, open := r.measure(seq)
	best := now
	for stuck := 0; len(open) > 0 && s.best == nil && s.nodes < until && !s.done(); {
		var next []int32
		if s.random.IntN(3) > 0 {
			next = r.tighten(seq, open[s.random.IntN(len(open))], s.random.IntN(2) == 0)
		} else {
			next = r.jump(seq, open)
		}
		if next == nil || !r.legal(next) {
			s.nodes += len(seq) / 4
			continue
		}
		value, list := r.measure(next)
		for i, id := range next {
			s.t.place[id] = int32(i)
		}
		// A little worse is taken sometimes, or it stays where no single change helps.
		if value <= now || (stuck > 20 && value < now*1.3 && s.random.IntN(4) == 0) {
			if value < best {
				best, stuck = value, 0
			}
			seq, now, open = next, value, list
		}
		stuck++
		for i, id := range seq {
			s.t.place[id] = int32(i)
		}
	}
}

// legal tells whether everything comes after what it must come after.
func (r *repair) legal(seq []int32) bool {
	place := make([]int, len(seq))
	for i, id := range seq {
		place[id] = i
	}
	for i, id := range seq {
		for k := range r.s.p.jobs[id].before {
			if place[r.s.p.jobs[id].before[k].other] > i {
				return false
			}
		}
	}
	return true
}

// jump moves one job that lies at a broken window elsewhere.
func (r *repair) jump(seq []int32, open []broken) []int32 {
	s := r.s
	b := open[s.random.IntN(len(open))]
	low, high := max(b.from-3, 0), min(b.to+3, len(seq)-1)
	i := low + s.random.IntN(high-low+1)
	id := seq[i]
	least, most := 0, len(seq)-1
	for k := range s.p.jobs[id].before {
		least = max(least, int(s.t.place[s.p.jobs[id].before[k].other])+1)
	}
	for k := range s.p.jobs[id].after {
		most = min(most, int(s.t.place[s.p.jobs[id].after[k].other])-1)
	}
	if most <= least || s.p.jobs[id].begun {
		return nil
	}
	to := least + s.random.IntN(most-least+1)
	return slices.Insert(slices.Delete(slices.Clone(seq), i, i+1), to, id)
}
