package plan

import (
	"slices"
	"time"

	"cinderpath/core/path"
)

// settled leaves out of what a step waits for what another, for the same reason, makes good: what is
// done and has dried twice as long as it wants, and what comes before another and is waited for no
// longer than that.
func settled(all []Step, asOf time.Time) {
	at := map[string]int{}
	for i := range all {
		at[all[i].ID] = i
	}
	sets := before(all, at)
	earlier := func(of, id string) bool {
		k, ok := at[of]
		i, known := at[id]
		return ok && known && sets[k][i/64]>>(i%64)&1 == 1
	}
	for i := range all {
		s := &all[i]
		if s.Status.Over() {
			continue
		}
		past := func(a path.Arrow) bool {
			k, ok := at[a.From]
			from := &all[k]
			return ok && from.Status.Done() && len(from.Spans) > 0 &&
				from.End().Add(time.Duration(2*a.Wait)*time.Minute).Before(asOf)
		}
		whole, waits := s.After, s.Waits
		s.After, s.Waits = []path.Arrow{}, nil
		for k, a := range whole {
			if a.Most == 0 && slices.ContainsFunc(whole, func(o path.Arrow) bool {
				return o.Rule == a.Rule && o.From != a.From &&
					(past(a) && !past(o) || earlier(o.From, a.From) && o.Wait >= a.Wait)
			}) {
				continue
			}
			s.After = append(s.After, a)
			if k < len(waits) {
				s.Waits = append(s.Waits, waits[k])
			}
		}
	}
}

// before gives for each step the set of those that come before it, near and far, as bits.
func before(all []Step, at map[string]int) [][]uint64 {
	sets := make([][]uint64, len(all))
	var of func(i int) []uint64
	of = func(i int) []uint64 {
		if sets[i] != nil {
			return sets[i]
		}
		set := make([]uint64, (len(all)+63)/64)
		sets[i] = set
		for _, a := range all[i].After {
			if k, ok := at[a.From]; ok {
				set[k/64] |= 1 << (k % 64)
				for w, bits := range of(k) {
					set[w] |= bits
				}
			}
		}
		return set
	}
	for i := range all {
		of(i)
	}
	return sets
}
