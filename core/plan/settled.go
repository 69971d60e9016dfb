package plan

import (
	"maps"
	"slices"
	"time"

	"cinderpath/core/path"
)

// settled leaves out of what a step waits for what another, for the same reason, makes good: what is
// done and has dried twice as long as it wants, and what comes before another and is waited for no
// longer than that.
func settled(all []Step, asOf time.Time) {
	at := map[string]*Step{}
	for i := range all {
		at[all[i].ID] = &all[i]
	}
	known := map[string]map[string]bool{} // all that comes before a step
	var before func(id string) map[string]bool
	before = func(id string) map[string]bool {
		if out, ok := known[id]; ok {
			return out
		}
		out := map[string]bool{}
		known[id] = out
		if s, ok := at[id]; ok {
			for _, a := range s.After {
				out[a.From] = true
				maps.Copy(out, before(a.From))
			}
		}
		return out
	}
	for id := range at {
		before(id)
	}
	for i := range all {
		s := &all[i]
		if s.Status.Over() {
			continue
		}
		past := func(a path.Arrow) bool {
			from, ok := at[a.From]
			return ok && from.Status.Done() && len(from.Spans) > 0 &&
				from.End().Add(time.Duration(2*a.Wait)*time.Minute).Before(asOf)
		}
		whole, waits := s.After, s.Waits
		s.After, s.Waits = []path.Arrow{}, nil
		for k, a := range whole {
			if a.Most == 0 && slices.ContainsFunc(whole, func(o path.Arrow) bool {
				return o.Rule == a.Rule && o.From != a.From &&
					(past(a) && !past(o) || before(o.From)[a.From] && o.Wait >= a.Wait)
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
