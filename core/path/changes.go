package path

import (
	"fmt"
	"slices"
	"time"
)

// Change is one difference between two plans of a build, in words.
type Change struct {
	Task  string `json:"task,omitempty"`
	Words string `json:"words"`
}

const clockFace = "Mon 2 Jan 15:04"

// Changes tells a newer plan of a build from an older one, what matters most first: what
// has no place, when the build ends, what is gone, new, or on another day; steps that move
// within their day are counted together.
func Changes(before, after []Placed, title func(task string) string) []Change {
	old := map[string]Placed{}
	for _, p := range before {
		old[p.Task] = p
	}
	var failed, ends, gone, added, moved []Change
	within := 0
	seen := map[string]bool{}
	for _, p := range after {
		seen[p.Task] = true
		o, known := old[p.Task]
		open := !p.Status.Over()
		switch {
		case !open:
		case p.Failed != "" && (!known || o.Failed == ""):
			failed = append(failed, Change{p.Task, title(p.Task) + " has no place now: " + p.Failed})
		case p.Failed != "":
		case !known && len(p.Spans) > 0:
			added = append(added, Change{p.Task, fmt.Sprintf("new: %s, %s", title(p.Task), p.Spans[0].From.Format(clockFace))})
		case len(p.Spans) == 0 || len(o.Spans) == 0:
		case !sameDay(o.Spans[0].From, p.Spans[0].From):
			words := "moves"
			if p.Spans[0].From.Before(o.Spans[0].From) {
				words = "comes forward"
			}
			moved = append(
				moved,
				Change{
					p.Task,
					fmt.Sprintf(
						"%s %s from %s to %s: %s",
						title(p.Task),
						words,
						o.Spans[0].From.Format("Mon 2 Jan"),
						p.Spans[0].From.Format("Mon 2 Jan"),
						p.Why,
					),
				},
			)
		case !o.Spans[0].From.Equal(p.Spans[0].From):
			within++
		}
	}
	for _, o := range before {
		if !seen[o.Task] {
			gone = append(gone, Change{o.Task, "no longer planned: " + title(o.Task)})
		}
	}
	if within > 0 {
		moved = append(
			moved,
			Change{"", fmt.Sprintf("%d %s within the same day", within, plural(within, "step moves", "steps move"))},
		)
	}
	a, b := last(before), last(after)
	switch {
	case a.IsZero() || b.IsZero() || sameDay(a, b):
	case b.After(a):
		ends = append(
			ends,
			Change{"", fmt.Sprintf("the build ends %s instead of %s", b.Format("Mon 2 Jan"), a.Format("Mon 2 Jan"))},
		)
	default:
		ends = append(
			ends,
			Change{"", fmt.Sprintf("the build ends %s already, not %s", b.Format("Mon 2 Jan"), a.Format("Mon 2 Jan"))},
		)
	}
	return append([]Change{}, slices.Concat(failed, ends, gone, added, moved)...)
}

func plural(n int, one, many string) string {
	if n == 1 {
		return one
	}
	return many
}

func last(placed []Placed) (end time.Time) {
	for _, p := range placed {
		if e := p.End(); e.After(end) {
			end = e
		}
	}
	return end
}

func sameDay(a, b time.Time) bool { return a.YearDay() == b.YearDay() && a.Year() == b.Year() }
