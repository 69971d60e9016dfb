package order

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/path"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
)

// measured is how long a step of one's own takes, in minutes, what that follows from, and
// its area on the model in cm².
type measured func(document.OwnStep) (minutes unit.Minutes, area float64, why []string)

// Paced measures by the library: by area, count or length, with what the log taught.
func Paced(l Surface, own map[string]bench.Learned) measured {
	return func(s document.OwnStep) (unit.Minutes, float64, []string) {
		kind := bench.KindOf(s.Kind)
		area := LayerArea(l, s.AsLayer())
		if s.Minutes > 0 {
			return s.Minutes, area, []string{"typed by you"}
		}
		units := math.Max(s.Count, 1)
		if kind.Unit == "cm2" {
			units = area
		}
		minutes, inputs := kind.Minutes(units, 1)
		minutes, more := own[kind.ID].Apply(minutes)
		return max(minutes, 1), area, append(inputs, more...)
	}
}

// Reworked makes the changes on generated tasks. What speaks of tasks that are no longer
// there is passed over, so that an edit elsewhere does not undo them for good.
func Reworked(r document.Rework, tasks []path.Task, why map[string][]string, pace measured) []path.Task {
	w := reworked{slices.Clone(tasks), why}
	w.overrule(r.Meant)
	// A step of one's own may stand beside one that is split or merged: what is not there
	// yet is looked for again afterwards.
	var later []document.OwnStep
	for _, s := range r.Own {
		w.own(s, pace)
		if s = w.tie(s); s.After != "" || s.Before != "" {
			later = append(later, s)
		}
	}
	w.cutAndMerge(r)
	for _, s := range later {
		if w.at(ownID(s)) >= 0 {
			w.tie(s)
		}
	}
	for _, id := range r.Left {
		if i := w.at(id); i >= 0 {
			w.tasks = without(w.tasks, i)
		}
	}
	w.overrule(r.Meant) // advice about steps that were split or merged, or that came by those left out
	for _, m := range r.Moved {
		if i, k := w.at(m.Task), w.at(m.After); i >= 0 && k >= 0 && !precedes(w.tasks, m.Task, m.After) {
			w.follow(i, yours(m.After, "you moved it after "+w.tasks[k].Title))
		}
	}
	return Sorted(w.tasks)
}

// reworked are tasks while the modeller's changes are made on them.
type reworked struct {
	tasks []path.Task
	why   map[string][]string
}

// at is the place of a task, -1 where there is none.
func (w *reworked) at(id string) int {
	return slices.IndexFunc(w.tasks, func(t path.Task) bool { return t.ID == id })
}

// follow gives a task one more arrow.
func (w *reworked) follow(i int, a path.Arrow) {
	w.tasks[i].After = append(slices.Clone(w.tasks[i].After), a)
}

// yours is an arrow that the modeller asks for.
func yours(from, reason string) path.Arrow { return waits(then(from, reason), rule.Yours, 0) }

// overrule takes out the advice that the modeller means otherwise.
func (w *reworked) overrule(meant []document.Meant) {
	for _, m := range meant {
		if i := w.at(m.To); i >= 0 {
			w.tasks[i].After = slices.DeleteFunc(slices.Clone(w.tasks[i].After), func(a path.Arrow) bool {
				return a.From == m.From && a.Rule == m.Rule && a.Severity != rule.Stop
			})
		}
	}
}

func ownID(s document.OwnStep) string { return "own:" + s.ID + ":1" }

// own adds a step of one's own.
func (w *reworked) own(s document.OwnStep, pace measured) {
	k := bench.KindOf(s.Kind)
	stage := k.Stage
	if i := w.at(s.After); i >= 0 && (s.Kind == "own" || s.Kind == "") {
		stage = w.tasks[i].Stage
	}
	t := path.Task{
		ID:    ownID(s),
		Title: s.Title,
		Stage: stage,
		Kind:  cmp.Or(s.Kind, "own"),
		Split: k.Split,
		Place: cmp.Or(s.Place, path.PlaceID(k.Place)),
		Zones: s.Zones,
	}
	t.Spray, t.Own = s.Family != "" && s.AsLayer().Applied == strata.Misted, s.ID
	t.Minutes, t.AreaCM, w.why[t.ID] = pace(s)
	w.tasks = append(w.tasks, t)
}

// tie puts a step of one's own between those it was to stand between; what is not there
// is left in what it gives back.
func (w *reworked) tie(s document.OwnStep) document.OwnStep {
	own := ownID(s)
	if w.at(s.After) >= 0 {
		w.follow(w.at(own), waits(yours(s.After, "your own order"), rule.Yours, s.Wait))
		s.After = ""
	}
	if i := w.at(s.Before); i >= 0 && !precedes(w.tasks, s.Before, own) {
		a := yours(own, "your own order")
		if s.Family != "" {
			a = dries(a, rule.NextCoat, s.AsLayer())
			a.Reason = "your own order: " + strings.ToLower(s.Title) + " must take what comes next"
		}
		w.follow(i, a)
		s.Before = ""
	}
	return s
}

// cutAndMerge parts and joins tasks until nothing changes: parts may be merged, and
// what was merged split.
func (w *reworked) cutAndMerge(r document.Rework) {
	split, merge := slices.Clone(r.Split), slices.Clone(r.Merged)
	for done := true; done; {
		done = false
		split = slices.DeleteFunc(split, func(c document.Cut) bool {
			i := w.at(c.Task)
			if i >= 0 {
				w.tasks, done = cut(w.tasks, i, c.Into, w.why), true
			}
			return i >= 0
		})
		merge = slices.DeleteFunc(merge, func(m document.Merge) bool {
			there := !slices.ContainsFunc(m.Tasks, func(id string) bool { return w.at(id) < 0 })
			if there {
				// What is left out does not stand between them.
				i := amid(w.tasks, m.Tasks)
				for i >= 0 && slices.Contains(r.Left, w.tasks[i].ID) {
					w.tasks = without(w.tasks, i)
					i = amid(w.tasks, m.Tasks)
				}
				w.tasks, done = merged(w.tasks, m, w.why), true
			}
			return there
		})
	}
}

// cut parts a task into pieces with names that survive: wash.pin:turret:1.2 of 3.
func cut(tasks []path.Task, i, into int, why map[string][]string) []path.Task {
	whole := tasks[i]
	var parts []path.Task
	for k := 1; k <= into; k++ {
		t := whole
		t.ID, t.Title = fmt.Sprintf("%s.%d", whole.ID, k), fmt.Sprintf("%s, part %d of %d", whole.Title, k, into)
		t.Minutes, t.AreaCM = (whole.Minutes / unit.Minutes(into)).Whole(), whole.AreaCM/float64(into)
		t.From = []string{whole.ID}
		why[t.ID] = append(slices.Clone(why[whole.ID]), fmt.Sprintf("a part of %d", into))
		if k > 1 {
			t.After = []path.Arrow{then(parts[k-2].ID, "the part before it")}
		}
		parts = append(parts, t)
	}
	out := slices.Replace(slices.Clone(tasks), i, i+1, parts...)
	return renamed(out, whole.ID, parts[into-1].ID)
}

// renamed makes arrows from one task come from another.
func renamed(tasks []path.Task, from, to string) []path.Task {
	for i := range tasks {
		tasks[i].After = slices.Clone(tasks[i].After)
		for k := range tasks[i].After {
			if tasks[i].After[k].From == from {
				tasks[i].After[k].From = to
			}
		}
	}
	return tasks
}

// merged makes one task of several, if all are there and none must come between.
func merged(tasks []path.Task, m document.Merge, why map[string][]string) []path.Task {
	var list []path.Task
	for _, id := range m.Tasks {
		i := slices.IndexFunc(tasks, func(t path.Task) bool { return t.ID == id })
		if i < 0 {
			return tasks
		}
		list = append(list, tasks[i])
	}
	if len(list) < 2 || between(tasks, m.Tasks) != "" || apart(list) != "" {
		return tasks
	}
	one := list[0]
	one.Title, one.From, one.After = cmp.Or(m.Title, one.Title+" and "+strings.ToLower(list[1].Title)), m.Tasks, nil
	one.Minutes, one.AreaCM = 0, 0
	one.ID = list[0].ID + "+"
	for _, t := range list {
		one.Minutes += t.Minutes
		one.AreaCM += t.AreaCM
		one.Split = one.Split && t.Split
		if t.NotFrom.After(one.NotFrom) {
			one.NotFrom = t.NotFrom
		}
		for _, a := range t.After {
			if !slices.Contains(m.Tasks, a.From) {
				one.After = append(one.After, a)
			}
		}
	}
	why[one.ID] = []string{fmt.Sprintf("%d steps in one", len(list))}
	out := slices.Clone(tasks)
	out[slices.IndexFunc(out, func(t path.Task) bool { return t.ID == list[0].ID })] = one
	out = slices.DeleteFunc(out, func(t path.Task) bool { return slices.Contains(m.Tasks[1:], t.ID) })
	for _, id := range m.Tasks {
		out = renamed(out, id, one.ID)
	}
	return out
}

// apart says why steps cannot be done as one, wherever they stand in the order.
func apart(list []path.Task) string {
	for i, t := range list {
		switch first := list[0]; {
		case slices.ContainsFunc(list[:i], func(x path.Task) bool { return x.ID == t.ID }):
			return t.Title + " is chosen twice"
		case t.Place != first.Place:
			return fmt.Sprintf(
				"%s is done at the %s, %s at the %s",
				first.Title,
				cmp.Or(first.Place, path.Bench),
				strings.ToLower(t.Title),
				cmp.Or(t.Place, path.Bench),
			)
		case t.Airbrush != first.Airbrush || t.Paint != first.Paint:
			return fmt.Sprintf(
				"%s and %s are not sprayed with the same paint from the same airbrush",
				first.Title,
				strings.ToLower(t.Title),
			)
		}
	}
	return ""
}

// between names a task that must come after one of some and before another of them.
func between(tasks []path.Task, ids []string) string {
	if i := amid(tasks, ids); i >= 0 {
		return tasks[i].Title
	}
	return ""
}

// amid is the place of a task that must come between others; below 0: there is none.
func amid(tasks []path.Task, ids []string) int {
	for i, t := range tasks {
		if slices.Contains(ids, t.ID) {
			continue
		}
		after, before := false, false
		for _, id := range ids {
			after = after || precedes(tasks, id, t.ID)
			before = before || precedes(tasks, t.ID, id)
		}
		if after && before {
			return i
		}
	}
	return -1
}

// without takes a task out; what came before it now comes before what came after it.
func without(tasks []path.Task, i int) []path.Task {
	gone := tasks[i]
	out := slices.Delete(slices.Clone(tasks), i, i+1)
	for k := range out {
		var after []path.Arrow
		for _, a := range out[k].After {
			if a.From != gone.ID {
				after = append(after, a)
				continue
			}
			for _, b := range gone.After {
				b.Most, b.Same = 0, false
				after = append(after, b)
			}
		}
		out[k].After = after
	}
	return out
}

// yielding drops advice that goes round in a circle with what is firm: a clear part that
// is forced on cannot be the last and come before the dust. What asks for clear parts to
// go last gives way before other advice; they can be masked.
func yielding(tasks []path.Task) []path.Task {
	for round(tasks) {
		task, arrow := -1, -1
		for i, t := range tasks {
			for k, a := range t.After {
				if a.Severity.Advice() && precedes(tasks, t.ID, a.From) &&
					(task < 0 || a.Rule == "B11" || tasks[task].After[arrow].Rule != "B11") {
					task, arrow = i, k
				}
			}
		}
		if task < 0 {
			return tasks // what is firm contradicts itself: the scheduler tells it
		}
		tasks[task].After = slices.Delete(slices.Clone(tasks[task].After), arrow, arrow+1)
	}
	return tasks
}

// round tells whether some tasks come after each other in a circle.
func round(tasks []path.Task) bool {
	at := map[string]int{}
	for i, t := range Sorted(tasks) {
		at[t.ID] = i
	}
	return slices.ContainsFunc(tasks, func(t path.Task) bool {
		return slices.ContainsFunc(t.After, func(a path.Arrow) bool { from, ok := at[a.From]; return ok && from >= at[t.ID] })
	})
}

// chemistry are the rules that hold for those who keep no strict order, too.
var chemistry = []string{"P1", "P3", "P4", "M3", "W1", "W3", "F2"}

// Softened makes advice of all rules but those: the order is kept no stricter.
func Softened(tasks []path.Task) []path.Task {
	for i := range tasks {
		tasks[i].After = slices.Clone(tasks[i].After)
		for k := range tasks[i].After {
			if a := &tasks[i].After[k]; a.Severity == rule.Stop && !slices.Contains(chemistry, a.Rule) {
				a.Severity = rule.Warn
			}
		}
	}
	return tasks
}
