package plan

import (
	"fmt"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/kit"
	"cinderpath/core/measure"
	"cinderpath/core/path"
)

// OrderQuestion asks for the steps of a build.
type OrderQuestion struct {
	Build document.Build `json:"build"`
}

// OrderAnswer is its steps in working order, each arrow with its rule and reason.
type OrderAnswer struct {
	Tasks  []path.Task  `json:"tasks"`
	Advice []kit.Advice `json:"advice"`
	Jobs   []kit.Job    `json:"jobs"`
}

// AskOrder generates the order of a build, as of an instant that only dates need.
func AskOrder(q OrderQuestion) (OrderAnswer, error) {
	if err := q.Build.Check(); err != nil {
		return OrderAnswer{}, err
	}
	var d Deriver
	// Order and advice hang on no instant; one is needed only to read dates in the zone.
	b, err := d.by(
		document.Workshop{},
		document.Item{Build: q.Build},
		time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC),
	)
	if err != nil {
		return OrderAnswer{}, err
	}
	return OrderAnswer{
		Tasks:  b.tasks,
		Advice: append([]kit.Advice{}, b.plan.Advice...),
		Jobs:   append([]kit.Job{}, b.plan.Jobs...),
	}, nil
}

// ScheduleQuestion asks for tasks of one's own to be laid on a calendar. The instant's
// location is the calendar's; Zone names it where the question comes from outside.
type ScheduleQuestion struct {
	AsOf       time.Time       `json:"asOf"`
	Zone       string          `json:"zone"`
	Calendar   path.Calendar   `json:"calendar"`
	Airbrushes []path.Airbrush `json:"airbrushes,omitempty"`
	Builds     []ScheduleBuild `json:"builds"`
}

// ScheduleBuild is one build's tasks.
type ScheduleBuild struct {
	ID       string      `json:"id"`
	Priority int         `json:"priority"`
	Tasks    []path.Task `json:"tasks"`
}

// ScheduleAnswer is when they are done.
type ScheduleAnswer struct {
	Builds    []ScheduleBuildAnswer `json:"builds"`
	Gap       float64               `json:"gap"`
	Proven    bool                  `json:"proven"`
	Changes   int                   `json:"changes"`
	Conflicts []string              `json:"conflicts"`
	Why       measure.Why           `json:"why"`
}

// ScheduleBuildAnswer is one build's part of it.
type ScheduleBuildAnswer struct {
	ID    string        `json:"id"`
	Ends  time.Time     `json:"ends"`
	Bound time.Time     `json:"bound"`
	Tasks []path.Placed `json:"tasks"`
}

const mostAsked = 1000 // tasks in one question

// AskSchedule lays tasks on a calendar.
func AskSchedule(q ScheduleQuestion) (ScheduleAnswer, error) {
	if err := q.Calendar.Check(); err != nil {
		return ScheduleAnswer{}, measure.At("calendar", err)
	}
	if q.AsOf.IsZero() {
		return ScheduleAnswer{}, measure.Refuse(
			"asOf",
			"no instant to plan from is given",
			"write it like 2026-11-23T19:00:00Z",
		)
	}
	r := path.Request{Calendar: q.Calendar, Airbrush: q.Airbrushes, AsOf: q.AsOf.Truncate(time.Minute)}
	n := 0
	for _, b := range q.Builds {
		n += len(b.Tasks)
		seen := map[string]bool{}
		for _, t := range b.Tasks {
			if t.ID == "" || seen[t.ID] || !(t.Minutes > 0 && t.Minutes <= document.LongestStep) {
				return ScheduleAnswer{}, measure.Refuse(
					"builds",
					fmt.Sprintf("task %q has no id of its own, or no minutes", t.ID),
					fmt.Sprintf("give each its own id and 1 to %.0f min", document.LongestStep),
				)
			}
			seen[t.ID] = true
		}
		r.Orders = append(r.Orders, path.Order{Build: b.ID, Priority: b.Priority, Tasks: b.Tasks})
	}
	if n > mostAsked {
		return ScheduleAnswer{}, measure.Refuse(
			"builds",
			fmt.Sprintf("%d tasks", n),
			fmt.Sprintf("ask for at most %d", mostAsked),
		)
	}
	s, err := path.Lay(r)
	if err != nil {
		return ScheduleAnswer{}, measure.At("builds", err)
	}
	out := ScheduleAnswer{
		Builds:    []ScheduleBuildAnswer{},
		Gap:       s.Gap,
		Proven:    s.Proven,
		Changes:   s.Changes,
		Conflicts: []string{},
		Why: measure.Because(
			"least weighted end, then fewest changes of colour, then fewest sessions",
			[]string{fmt.Sprintf("%d tasks placed in the search", s.Nodes)},
		),
	}
	for _, b := range q.Builds {
		out.Builds = append(out.Builds, ScheduleBuildAnswer{b.ID, s.Ends[b.ID], s.Bound[b.ID], s.Placed[b.ID]})
	}
	for _, c := range s.Conflicts {
		out.Conflicts = append(out.Conflicts, c.Words())
	}
	return out, nil
}
