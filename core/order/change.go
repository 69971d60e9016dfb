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
	l := listing(tasks)
	switch e.Do {
	case "add":
		return l.added(r, e, newID)
	case "split":
		if err := l.known(e.Task); err != nil {
			return r, err
		}
		r.Split = append(slices.Clone(r.Split), document.Cut{Task: e.Task, Into: e.Into})
	case "merge":
		return l.merged(r, e)
	case "move":
		if err := l.known(e.Task, e.After); err != nil {
			return r, err
		}
		if e.Task == e.After {
			return r, measure.Refuse("order.after", "a step cannot come after itself", "choose another")
		}
		return moved(r, e, tasks, l.title)
	case "leave":
		if err := l.known(e.Task); err != nil {
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

// listing are the tasks that a change speaks of.
type listing []path.Task

func (l listing) find(id string) int {
	return slices.IndexFunc(l, func(t path.Task) bool { return t.ID == id })
}

func (l listing) title(id string) string {
	if i := l.find(id); i >= 0 {
		return l[i].Title
	}
	return id
}

// known refuses what is not there.
func (l listing) known(ids ...string) error {
	for _, id := range ids {
		if l.find(id) < 0 {
			return measure.Refuse("order.task", fmt.Sprintf("there is no step %q now", id), "look at the steps again")
		}
	}
	return nil
}

// added enters a step of one's own between others.
func (l listing) added(r document.Rework, e document.OrderEdit, newID func() string) (document.Rework, error) {
	if e.Step == nil {
		return r, measure.Refuse("order.step", "nothing is to be added", "say what is done")
	}
	s := *e.Step
	if s.ID == "" {
		s.ID = newID()
	}
	for _, id := range []string{s.After, s.Before} {
		if id != "" {
			if err := l.known(id); err != nil {
				return r, err
			}
		}
	}
	if s.After != "" && s.Before != "" && (s.After == s.Before || precedes(l, s.Before, s.After)) {
		return r, measure.Refuse(
			"order.before",
			fmt.Sprintf("%s comes before %s", l.title(s.Before), l.title(s.After)),
			"a step between them goes after the one and before the other",
		)
	}
	r.Own = append(slices.Clone(r.Own), s)
	return r, r.Check()
}

// merged makes one of several.
func (l listing) merged(r document.Rework, e document.OrderEdit) (document.Rework, error) {
	if err := l.known(e.Tasks...); err != nil {
		return r, err
	}
	var list []path.Task
	for _, id := range e.Tasks {
		list = append(list, l[l.find(id)])
	}
	if len(e.Tasks) < 2 {
		return r, measure.Refuse("order.tasks", "one step cannot be merged", "choose two or more")
	}
	if reason := apart(list); reason != "" {
		return r, measure.Refuse("order.tasks", reason, "choose steps that can be done in one go")
	}
	if t := between(l, e.Tasks); t != "" {
		return r, measure.Refuse("order.tasks", t+" must come between them", "merge steps that follow each other")
	}
	r.Merged = append(slices.Clone(r.Merged), document.Merge{Tasks: e.Tasks, Title: e.Title})
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
