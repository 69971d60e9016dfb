package plan

import (
	"fmt"
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
				out = append(out, remind(it, e, e.Note))
			}
		}
	}
	newestFirst(out)
	return out
}

// reminders are the lessons, with where the coats of both sides were counted and did not match (W18).
func reminders(items []document.Item) []Reminder {
	out := lessons(items)
	for _, it := range items {
		for _, e := range it.Log {
			if c := e.Coats; c != nil && c.Left != c.Right {
				out = append(out, remind(it, e, fmt.Sprintf(
					"%d coats on the left, %d on the right: count them side by side", c.Left, c.Right)))
			}
		}
	}
	newestFirst(out)
	return out
}

func remind(it document.Item, e document.Entry, note string) Reminder {
	return Reminder{it.Build.ID, it.Build.Name, e.Title, e.Product, note, e.At, e.StepKind}
}

func newestFirst(all []Reminder) {
	slices.SortStableFunc(all, func(a, b Reminder) int { return b.At.Compare(a.At) })
}
