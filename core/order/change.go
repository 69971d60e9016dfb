package order

import (
	"fmt"
	"slices"

	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/path"
)

// Change makes a change to the order, against the tasks as they stand.
func Change(r document.Rework, e document.OrderEdit, tasks []path.Task, newID func() string) (document.Rework, error) {
	find := func(id string) int { return slices.IndexFunc(tasks, func(t path.Task) bool { return t.ID == id }) }
	title := func(id string) string {
		if i := find(id); i >= 0 {
			return tasks[i].Title
		}
		return id
	}
	known := func(id string) error {
		if find(id) >= 0 {
			return nil
		}
		return measure.Refuse("order.task", fmt.Sprintf("there is no step %q now", id), "look at the steps again")
	}
	switch e.Do {
	case "add":
		if e.Step == nil {
			return r, measure.Refuse("order.step", "nothing is to be added", "say what is done")
		}
		s := *e.Step
		if s.ID == "" {
			s.ID = newID()
		}
		for _, id := range []string{s.After, s.Before} {
			if id != "" {
				if err := known(id); err != nil {
					return r, err
				}
			}
		}
		if s.After != "" && s.Before != "" && (s.After == s.Before || precedes(tasks, s.Before, s.After)) {
			return r, measure.Refuse(
				"order.before",
				fmt.Sprintf("%s comes before %s", title(s.Before), title(s.After)),
				"a step between them goes after the one and before the other",
			)
		}
		r.Own = append(slices.Clone(r.Own), s)
	case "split":
		if err := known(e.Task); err != nil {
			return r, err
		}
		r.Split = append(slices.Clone(r.Split), document.Cut{Task: e.Task, Into: e.Into})
	case "merge":
		var list []path.Task
		for _, id := range e.Tasks {
			if err := known(id); err != nil {
				return r, err
			}
			list = append(list, tasks[find(id)])
		}
		if len(e.Tasks) < 2 {
			return r, measure.Refuse("order.tasks", "one step cannot be merged", "choose two or more")
		}
		if reason := apart(list); reason != "" {
			return r, measure.Refuse("order.tasks", reason, "choose steps that can be done in one go")
		}
		if t := between(tasks, e.Tasks); t != "" {
			return r, measure.Refuse("order.tasks", t+" must come between them", "merge steps that follow each other")
		}
		r.Merged = append(slices.Clone(r.Merged), document.Merge{Tasks: e.Tasks, Title: e.Title})
	case "move":
		for _, id := range []string{e.Task, e.After} {
			if err := known(id); err != nil {
				return r, err
			}
		}
		if e.Task == e.After {
			return r, measure.Refuse("order.after", "a step cannot come after itself", "choose another")
		}
		return moved(r, e, tasks, title)
	case "leave":
		if err := known(e.Task); err != nil {
			return r, err
		}
		r.Left = append(slices.Clone(r.Left), e.Task)
	case "undo":
		return undone(r, e.Task, tasks)
	default:
		return r, measure.Refuse(
			"order.do",
			fmt.Sprintf("%q is not a change to the order", e.Do),
			"use add, split, merge, move, leave or undo",
		)
	}
	return r, r.Check()
}

// moved puts a task after another. What stands against it as a stop is told; advice is
// overruled and remembered.
func moved(
	r document.Rework,
	e document.OrderEdit,
	tasks []path.Task,
	title func(string) string,
) (document.Rework, error) {
	left := slices.Clone(tasks)
	if firm := way(left, e.Task, e.After, "firm"); len(firm) > 0 {
		// The rule that tells most is the one at the step it cannot come after.
		at := firm[len(firm)-1]
		for k := 0; k < len(firm) && at.Rule == ""; k++ {
			at = firm[k]
		}
		return r, &document.Refusal{
			Fault: measure.Fault{
				Field:  "order",
				Reason: fmt.Sprintf("%s cannot come after %s: %s", title(e.Task), title(e.After), at.Reason),
				Remedy: fmt.Sprintf(
					"%s comes after %s; leave one of them out, or keep the order",
					title(at.to),
					title(at.From),
				),
			},
			Rule: at.Rule,
			Mends: []document.OrderMend{
				{
					Label: "Leave out: " + title(at.From),
					Edits: []document.Edit{{Op: document.SetOrder, Order: &document.OrderEdit{Do: "leave", Task: at.From}}},
				},
				{
					Label: "Leave out: " + title(at.to),
					Edits: []document.Edit{{Op: document.SetOrder, Order: &document.OrderEdit{Do: "leave", Task: at.to}}},
				},
			},
		}
	}
	r.Meant = slices.Clone(r.Meant)
	for {
		steps := way(left, e.Task, e.After, "")
		if len(steps) == 0 {
			break
		}
		k := slices.IndexFunc(steps, func(s wayStep) bool { return s.Severity.Advice() })
		s := steps[k]
		r.Meant = append(r.Meant, document.Meant{From: s.From, To: s.to, Rule: s.Rule, Reason: s.Reason})
		i := slices.IndexFunc(left, func(t path.Task) bool { return t.ID == s.to })
		left[i].After = slices.DeleteFunc(
			slices.Clone(left[i].After),
			func(a path.Arrow) bool { return a.From == s.From && a.Rule == s.Rule },
		)
	}
	r.Moved = append(slices.Clone(r.Moved), document.Move{Task: e.Task, After: e.After})
	return r, r.Check()
}

// undone takes back what was changed about a task.
func undone(r document.Rework, task string, tasks []path.Task) (document.Rework, error) {
	n := len(r.Own) + len(r.Split) + len(r.Merged) + len(r.Moved) + len(r.Left)
	var t path.Task // nothing where it is left out
	if i := slices.IndexFunc(tasks, func(t path.Task) bool { return t.ID == task }); i >= 0 {
		t = tasks[i]
	}
	r.Own = slices.DeleteFunc(slices.Clone(r.Own), func(s document.OwnStep) bool { return s.ID == task || s.ID == t.Own })
	r.Split = slices.DeleteFunc(
		slices.Clone(r.Split),
		func(c document.Cut) bool { return c.Task == task || slices.Contains(t.From, c.Task) },
	)
	r.Merged = slices.DeleteFunc(
		slices.Clone(r.Merged),
		func(m document.Merge) bool { return slices.Contains(m.Tasks, task) || slices.Equal(m.Tasks, t.From) },
	)
	r.Moved = slices.DeleteFunc(slices.Clone(r.Moved), func(m document.Move) bool { return m.Task == task })
	r.Left = slices.DeleteFunc(slices.Clone(r.Left), func(id string) bool { return id == task })
	r.Meant = slices.DeleteFunc(
		slices.Clone(r.Meant),
		func(m document.Meant) bool { return m.From == task || m.To == task },
	)
	if len(r.Own)+len(r.Split)+len(r.Merged)+len(r.Moved)+len(r.Left) == n {
		return r, measure.Refuse(
			"order.task",
			"nothing of that step was changed",
			"choose a step that you moved, split, merged, added or left out",
		)
	}
	return r, nil
}
