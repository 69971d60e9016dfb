package order

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/path"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// Mended enters the repairs of mishaps and what is to be done once more. A repair
// comes after the step at which it happened; what comes after that step waits for it.
func Mended(
	b document.Build,
	l Surface,
	tasks []path.Task,
	log []document.Entry,
	why map[string][]string,
) []path.Task {
	done := document.Happened(log)
	for _, e := range log {
		at := slices.IndexFunc(tasks, func(t path.Task) bool { return t.ID == e.Task })
		if at < 0 {
			continue
		}
		switch {
		case e.Kind == document.Repeated:
			again := tasks[at]
			again.ID, again.Title, again.Again = fmt.Sprintf("again:%s:1", shortKey(e.Key)), again.Title+", once more", true
			again.From = []string{e.Task}
			again.After = []path.Arrow{nextCoat(b, tasks[at], "the coat before it")}
			why[again.ID] = append(slices.Clone(why[e.Task]), "repeated, from the log")
			tasks = inserted(tasks, at, []path.Task{again}, done)
		case e.Kind == document.Mishap && e.Choice == document.Repair:
			m, _ := bench.MishapOf(e.Mishap)
			var list []path.Task
			var renewed []string // layers that the repair itself lays again
			sprayed := ""
			spot := spot{b, l, tasks, at, e.Zones, done, m.Above}
			prev := nextCoat(b, tasks[at], "it is mended once it has dried: "+m.Name)
			switch e.Mishap {
			case "cement", "slip":
				prev.Wait, prev.Kind, prev.Reason = 12*unit.Hour, rule.Handle, "the mark hardens overnight before it is sanded"
			case "wash":
				prev.Wait = 0 // inside its working time
			}
			for k, move := range m.Moves {
				t := path.Task{
					ID:      fmt.Sprintf("repair:%s:%d", shortKey(e.Key), k+1),
					Title:   move.Title,
					Stage:   tasks[at].Stage,
					Kind:    "repair",
					Minutes: move.Minutes,
					Place:   cmp.Or(path.PlaceID(move.Place), path.Bench),
					Zones:   e.Zones,
					After:   []path.Arrow{prev},
					From:    []string{e.Task},
				}
				lies, ok := spot.lying(move.Paints)
				if move.Paints == bench.Sealing && m.Above {
					lies, ok = spot.firstClear(sprayed)
					if !ok {
						continue // nothing was glossed there yet
					}
				}
				if move.Paints == bench.Washed && !ok {
					continue // nothing was washed there
				}
				if move.Paints == bench.Colour {
					sprayed = lies.Layer
				}
				if ok {
					renewed = append(renewed, lies.Layer)
				}
				if ok {
					t.Layer, t.Colour, t.Again = lies.Layer, lies.Colour, true
				}
				why[t.ID] = []string{fmt.Sprintf("%.0f min, a starting value of the table of mishaps", move.Minutes)}
				list = append(list, t)
				prev = waits(then(t.ID, move.Title+" comes first"), rule.NextCoat, move.Wait)
				prev.Water = move.Water
			}
			if m.Above {
				list = append(list, spot.above(e, sprayed, renewed, prev, why)...)
			}
			tasks = inserted(tasks, at, list, done)
		}
	}
	return tasks
}

func meets(l strata.Layer, zones []string) bool {
	return len(zones) == 0 || slices.ContainsFunc(zones, func(z string) bool {
		return l.Covers(z) || slices.ContainsFunc(l.Zones, func(x string) bool { return zone.Under(x, z) })
	})
}

// nextCoat is the arrow from a task to the next coat over it.
func nextCoat(b document.Build, t path.Task, reason string) path.Arrow {
	a := waits(then(t.ID, reason), rule.NextCoat, 0)
	if i := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.ID == t.Layer }); i >= 0 {
		a = dries(a, rule.NextCoat, b.Layers[i])
	}
	return a
}

// inserted puts tasks after another. What is next to be done after that, by way of what
// is done already, waits for the last of them.
func inserted(tasks []path.Task, at int, list []path.Task, done map[string]path.Done) []path.Task {
	if len(list) == 0 {
		return tasks
	}
	last := list[len(list)-1]
	out := slices.Clone(tasks)
	over := func(id string) bool { return !done[id].Ended.IsZero() }
	seen := map[string]bool{tasks[at].ID: true}
	for queue := []string{tasks[at].ID}; len(queue) > 0; queue = queue[1:] {
		for i := range out {
			t := &out[i]
			// A window that is open stays what it is: the take-back does not wait for a repair.
			if seen[t.ID] ||
				!slices.ContainsFunc(t.After, func(a path.Arrow) bool { return a.From == queue[0] && a.Most == 0 }) {
				continue
			}
			seen[t.ID] = true
			if over(t.ID) {
				queue = append(queue, t.ID)
			} else if _, begun := done[t.ID]; !begun {
				a := waits(then(last.ID, last.Title+" comes first"), rule.NextCoat, handWait(last))
				t.After = append(slices.Clone(t.After), damp(a))
			}
		}
	}
	return slices.Insert(out, at+1, list...)
}

// handWait is what follows a repair at least.
func handWait(t path.Task) unit.Minutes {
	if t.Place == path.Booth || t.Layer != "" {
		return 60
	}
	return 0
}

// shortKey is enough of an entry's key to name what comes of it.
func shortKey(key string) string {
	key = strings.ReplaceAll(key, "-", "")
	if len(key) > 12 {
		return key[len(key)-12:]
	}
	return key
}
