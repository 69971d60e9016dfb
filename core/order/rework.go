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
	"cinderpath/core/strata"
)

// measured is how long a step of one's own takes, in minutes, what that follows from, and
// its area on the model in cm².
type measured func(document.OwnStep) (minutes, area float64, why []string)

// Paced measures by the library: by area, count or length, with what the log taught.
func Paced(l Surface, own map[string]bench.Learned) measured {
	return func(s document.OwnStep) (float64, float64, []string) {
		kind := bench.KindOf(s.Kind)
		area := layerArea(l, s.AsLayer())
		if s.Minutes > 0 {
			return s.Minutes, area, []string{"typed by you"}
		}
		units := math.Max(s.Count, 1)
		if kind.Unit == "cm2" {
			units = area
		}
		minutes, inputs := kind.Minutes(units, 1)
		minutes, more := own[kind.ID].Apply(minutes)
		return math.Max(minutes, 1), area, append(inputs, more...)
	}
}

// Reworked makes the changes on generated tasks. What speaks of tasks that are no longer
// there is passed over, so that an edit elsewhere does not undo them for good.
func Reworked(r document.Rework, tasks []path.Task, why map[string][]string, pace measured) []path.Task {
	out := slices.Clone(tasks)
	at := func(id string) int { return slices.IndexFunc(out, func(t path.Task) bool { return t.ID == id }) }
	overrule := func() {
		for _, m := range r.Meant {
			if i := at(m.To); i >= 0 {
				out[i].After = slices.DeleteFunc(slices.Clone(out[i].After), func(a path.Arrow) bool {
					return a.From == m.From && a.Rule == m.Rule && a.Severity != "stop"
				})
			}
		}
	}
	overrule()
	// A step of one's own may stand beside one that is split or merged: what is not there
	// yet is looked for again afterwards.
	var later []document.OwnStep
	tie := func(s document.OwnStep) document.OwnStep {
		own := "own:" + s.ID + ":1"
		if i := at(s.After); i >= 0 {
			k := at(own)
			out[k].After = append(
				slices.Clone(out[k].After),
				path.Arrow{From: s.After, Wait: s.Wait, Kind: "yours", Reason: "your own order"},
			)
			s.After = ""
		}
		if i := at(s.Before); i >= 0 && !precedes(out, s.Before, own) {
			a := path.Arrow{From: own, Kind: "yours", Reason: "your own order"}
			if s.Family != "" {
				l := s.AsLayer()
				_, a.Wait, _, _ = l.Times()
				a.Water, a.Kind, a.Reason = l.Water(), "next coat", "your own order: "+strings.ToLower(
					s.Title,
				)+" must take what comes next"
			}
			out[i].After = append(slices.Clone(out[i].After), a)
			s.Before = ""
		}
		return s
	}
	for _, s := range r.Own {
		k := bench.KindOf(s.Kind)
		stage := k.Stage
		if i := at(s.After); i >= 0 && (s.Kind == "own" || s.Kind == "") {
			stage = out[i].Stage
		}
		t := path.Task{
			ID:    "own:" + s.ID + ":1",
			Title: s.Title,
			Stage: stage,
			Kind:  cmp.Or(s.Kind, "own"),
			Split: k.Split,
			Place: cmp.Or(s.Place, k.Place),
			Zones: s.Zones,
		}
		t.Spray, t.Own = s.Family != "" && s.AsLayer().Applied == strata.Misted, s.ID
		t.Minutes, t.AreaCM, why[t.ID] = pace(s)
		out = append(out, t)
		if s = tie(s); s.After != "" || s.Before != "" {
			later = append(later, s)
		}
	}
	// Parts may be merged, and what was merged split.
	split, merge := slices.Clone(r.Split), slices.Clone(r.Merged)
	for done := true; done; {
		done = false
		split = slices.DeleteFunc(split, func(c document.Cut) bool {
			i := at(c.Task)
			if i >= 0 {
				out, done = cut(out, i, c.Into, why), true
			}
			return i >= 0
		})
		merge = slices.DeleteFunc(merge, func(m document.Merge) bool {
			there := !slices.ContainsFunc(m.Tasks, func(id string) bool { return at(id) < 0 })
			if there {
				out, done = merged(out, m, why), true
			}
			return there
		})
	}
	for _, s := range later {
		if at("own:"+s.ID+":1") >= 0 {
			tie(s)
		}
	}
	for _, id := range r.Left {
		if i := at(id); i >= 0 {
			out = without(out, i)
		}
	}
	overrule() // advice about steps that were split or merged, or that came by those left out
	for _, m := range r.Moved {
		if i := at(m.Task); i >= 0 && at(m.After) >= 0 && !precedes(out, m.Task, m.After) {
			out[i].After = append(
				slices.Clone(out[i].After),
				path.Arrow{From: m.After, Kind: "yours", Reason: "you moved it after " + out[at(m.After)].Title},
			)
		}
	}
	return Sorted(out)
}

// cut parts a task into pieces with names that survive: wash.pin:turret:1.2 of 3.
func cut(tasks []path.Task, i, into int, why map[string][]string) []path.Task {
	whole := tasks[i]
	var parts []path.Task
	for k := 1; k <= into; k++ {
		t := whole
		t.ID, t.Title = fmt.Sprintf("%s.%d", whole.ID, k), fmt.Sprintf("%s, part %d of %d", whole.Title, k, into)
		t.Minutes, t.AreaCM, t.From = math.Ceil(whole.Minutes/float64(into)), whole.AreaCM/float64(into), []string{whole.ID}
		why[t.ID] = append(slices.Clone(why[whole.ID]), fmt.Sprintf("a part of %d", into))
		if k > 1 {
			t.After = []path.Arrow{{From: parts[k-2].ID, Kind: "order", Reason: "the part before it"}}
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
	for _, t := range tasks {
		if slices.Contains(ids, t.ID) {
			continue
		}
		after, before := false, false
		for _, id := range ids {
			after = after || precedes(tasks, id, t.ID)
			before = before || precedes(tasks, t.ID, id)
		}
		if after && before {
			return t.Title
		}
	}
	return ""
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
				if isAdvice(a) && precedes(tasks, t.ID, a.From) &&
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
			if a := &tasks[i].After[k]; a.Severity == "stop" && !slices.Contains(chemistry, a.Rule) {
				a.Severity = "warn"
			}
		}
	}
	return tasks
}
