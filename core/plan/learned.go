package plan

import (
	"slices"
	"time"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/unit"
)

// learned gives what all logs say of how long kinds of steps take.
func learned(items []document.Item) map[string]bench.Learned {
	var all []bench.Took
	for _, it := range items {
		begun := map[string]time.Time{}
		for _, e := range it.Log {
			switch e.Kind {
			case document.Started:
				begun[e.Task] = e.At
			case document.Finished:
				if at, ok := begun[e.Task]; ok && e.StepKind != "" {
					all = append(all, bench.Took{Kind: e.StepKind, Planned: e.Planned, Real: unit.MinutesOf(e.At.Sub(at))})
				}
			}
		}
	}
	return bench.Learn(all)
}

// Reminder is a lesson that comes up again.
type Reminder struct {
	Build   string    `json:"build"`
	Name    string    `json:"name"` // of the build
	Title   string    `json:"title"`
	Product string    `json:"product,omitempty"`
	Note    string    `json:"note"`
	At      time.Time `json:"at"`
	kind    string
}

// lessons lists what was noted as learned, in all builds, newest first.
func lessons(items []document.Item) []Reminder {
	var out []Reminder
	for _, it := range items {
		for _, e := range it.Log {
			if e.Kind == document.Lesson {
				out = append(out, Reminder{it.Build.ID, it.Build.Name, e.Title, e.Product, e.Note, e.At, e.StepKind})
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Reminder) int { return b.At.Compare(a.At) })
	return out
}
