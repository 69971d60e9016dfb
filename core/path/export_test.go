package path

import (
	"fmt"
	"slices"
)

// WalkAgrees walks from a request's plan and tells the first step at which timing what changed does not give
// what timing everything gives.
func WalkAgrees(r Request, steps int) (int, error) {
	f, err := Glance(r)
	if err != nil || len(f.p.jobs) < 3 {
		return 0, err
	}
	s := newSearch(f.p, f.s.heads, f.s.bound, 1<<40)
	w, whole := newWalk(s), newTiming(f.p)
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
