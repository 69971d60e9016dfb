package plan

import (
	"slices"
	"time"
)

// Timer counts to an instant that a finished step leads to.
type Timer struct {
	Build string    `json:"build"`
	Name  string    `json:"name"` // of the build
	Task  string    `json:"task"`
	Title string    `json:"title"`
	Kind  string    `json:"kind"` // touch, next coat, handle, cured, opens, closes
	Words string    `json:"words"`
	From  time.Time `json:"from"`
	At    time.Time `json:"at"`
}

// timers are what runs at an instant: for each finished step, when it may be touched
// and when what follows it may begin or must be finished.
func timers(p Plan, asOf time.Time) []Timer {
	all := p.Steps
	out := []Timer{}
	index := map[string]int{}
	for i, s := range all {
		index[s.ID] = i
	}
	add := func(t Timer) {
		if t.At.After(asOf) &&
			!slices.ContainsFunc(out, func(x Timer) bool { return x.Task == t.Task && x.Kind == t.Kind && x.At.Equal(t.At) }) {
			t.Build, t.Name = p.Build, p.Name
			out = append(out, t)
		}
	}
	for _, s := range all {
		if !s.Status.Done() {
			continue
		}
		if !s.touch.IsZero() {
			add(Timer{Task: s.ID, Title: s.Title, Kind: "touch", Words: "dry to the touch", From: s.End(), At: s.touch})
		}
	}
	for _, s := range all {
		if s.Status.Over() {
			continue
		}
		for k, a := range s.After {
			from, ok := index[a.From]
			if !ok || s.Waits[k] <= 0 || !all[from].Status.Done() {
				continue
			}
			end := all[from].End()
			kind, words := string(a.Kind), "then: "+s.Title
			if a.Most > 0 {
				kind, words = "opens", s.Title+" from then on"
			}
			add(
				Timer{
					Task:  a.From,
					Title: all[from].Title,
					Kind:  kind,
					Words: words,
					From:  end,
					At:    end.Add(time.Duration(s.Waits[k]) * time.Minute),
				},
			)
		}
		if !s.Closes.IsZero() {
			for _, a := range s.After {
				if from, ok := index[a.From]; ok && a.Most > 0 && all[from].Status.Done() {
					add(
						Timer{Task: s.ID, Title: s.Title, Kind: "closes", Words: "must be finished", From: all[from].End(), At: s.Closes},
					)
				}
			}
		}
	}
	slices.SortStableFunc(out, soonest)
	return out
}

func soonest(a, b Timer) int { return a.At.Compare(b.At) }
