package build

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"cinderpath/core/bench"
	"cinderpath/core/path"
	"cinderpath/core/strata"
)

// Kinds of log entries.
const (
	Started  = "started"
	Finished = "done"
	Undone   = "undone"  // a slip: the step is open again
	Skipped  = "skipped" // left out, with its reason as note
	Repeated = "repeat"  // to be done once more
	Mishap   = "mishap"  // something went wrong
	Lesson   = "lesson"  // to be told when such a step comes again, in any build
	Picture  = "photo"
	Note     = "note"
)

var happenings = []string{Started, Finished, Undone, Skipped, Repeated, Mishap, Lesson, Picture, Note}

// What is done about a mishap.
const (
	Repair = "repair"
	Leave  = "leave"
)

// Coats counts coats per side, so that left and right can be compared.
type Coats struct {
	Left  int `json:"left"`
	Right int `json:"right"`
}

// Measured is a value read at the bench.
type Measured struct {
	Name  string `json:"name"`
	Value string `json:"value"`
}

// Entry is one thing that happened at the bench. It tells enough to be read when
// the plan has changed.
type Entry struct {
	Key           string    `json:"key"` // made by the client: sent twice, it is kept once
	At            time.Time `json:"at,omitzero"`
	MinutesBefore *float64  `json:"minutesBefore,omitempty"` // samples: before the moment of loading
	Kind          string    `json:"kind"`
	Task          string    `json:"task"`
	Title         string    `json:"title"`
	Zones         []string  `json:"zones,omitempty"`
	Product       string    `json:"product,omitempty"`
	Note          string    `json:"note,omitempty"`
	path.Subject

	StepKind string     `json:"stepKind,omitempty"` // of the step library
	Planned  float64    `json:"plannedMin,omitempty"`
	Checks   []string   `json:"checks,omitempty"` // that were ticked
	Measured []Measured `json:"measured,omitempty"`
	Coats    *Coats     `json:"coats,omitempty"`
	Mishap   string     `json:"mishap,omitempty"` // of the table
	Choice   string     `json:"choice,omitempty"` // repair or leave
	Photo    string     `json:"photo,omitempty"`  // hash of the file
}

// Check reports the first fault of an entry.
func (e Entry) Check() error {
	switch {
	case e.Key == "":
		return refuse("key", "an entry without a key could be stored twice", "send a UUID")
	case !slices.Contains(happenings, e.Kind):
		return refuse("kind", fmt.Sprintf("%q is not something that happens", e.Kind), "use "+strings.Join(happenings, ", "))
	case e.Task == "" || e.Title == "":
		return refuse("task", "an entry speaks of a step", "give its id and title")
	case len(e.Note) > longText:
		return refuse("note", fmt.Sprintf("longer than %d characters", longText), "shorten it")
	case (e.Kind == Lesson || e.Kind == Note) && strings.TrimSpace(e.Note) == "" && len(e.Measured) == 0 && len(e.Checks) == 0:
		return refuse("note", "nothing is written", "say what you learned or saw")
	case e.Kind == Picture && e.Photo == "":
		return refuse("photo", "there is no picture", "choose one first")
	case len(e.Measured) > 40 || len(e.Checks) > 40:
		return refuse("measured", "more than 40 values", "write the rest into a note")
	}
	if e.Kind == Mishap {
		if _, ok := bench.MishapOf(e.Mishap); !ok {
			return refuse("mishap", fmt.Sprintf("%q is not in the table", e.Mishap), "choose one of the list")
		}
		if e.Choice != Repair && e.Choice != Leave {
			return refuse("choice", "it is not said what is done about it", "use repair or leave")
		}
	}
	return nil
}

// happened reads the log: the last word on each task counts.
func happened(log []Entry) map[string]path.Done {
	out := map[string]path.Done{}
	for _, e := range log {
		switch e.Kind {
		case Started:
			out[e.Task] = path.Done{Started: e.At}
		case Finished:
			done := out[e.Task]
			if done.Started.IsZero() || done.Started.After(e.At) {
				done.Started = e.At
			}
			done.Ended, done.Skipped = e.At, false
			out[e.Task] = done
		case Skipped:
			out[e.Task] = path.Done{Started: e.At, Ended: e.At, Skipped: true}
		case Undone:
			delete(out, e.Task)
		}
	}
	return out
}

// learned gives what all logs say of how long kinds of steps take.
func learned(items []Item) map[string]bench.Learned {
	var all []bench.Took
	for _, it := range items {
		begun := map[string]time.Time{}
		for _, e := range it.Log {
			switch e.Kind {
			case Started:
				begun[e.Task] = e.At
			case Finished:
				if at, ok := begun[e.Task]; ok && e.StepKind != "" {
					all = append(all, bench.Took{Kind: e.StepKind, Planned: e.Planned, Real: e.At.Sub(at).Minutes()})
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
func lessons(items []Item) []Reminder {
	var out []Reminder
	for _, it := range items {
		for _, e := range it.Log {
			if e.Kind == Lesson {
				out = append(out, Reminder{it.Build.ID, it.Build.Name, e.Title, e.Product, e.Note, e.At, e.StepKind})
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Reminder) int { return b.At.Compare(a.At) })
	return out
}

// mendings enters the repairs of mishaps and what is to be done once more. A repair
// comes after the step at which it happened; what comes after that step waits for it.
func mendings(b Build, tasks []path.Task, log []Entry, why map[string][]string) []path.Task {
	done := happened(log)
	for _, e := range log {
		at := slices.IndexFunc(tasks, func(t path.Task) bool { return t.ID == e.Task })
		if at < 0 {
			continue
		}
		switch {
		case e.Kind == Repeated:
			again := tasks[at]
			again.ID, again.Title, again.Again = fmt.Sprintf("again:%s:1", shortKey(e.Key)), again.Title+", once more", true
			again.From = []string{e.Task}
			again.After = []path.Arrow{nextCoat(b, tasks[at], "the coat before it")}
			why[again.ID] = append(slices.Clone(why[e.Task]), "repeated, from the log")
			tasks = inserted(tasks, at, []path.Task{again}, done)
		case e.Kind == Mishap && e.Choice == Repair:
			m, _ := bench.MishapOf(e.Mishap)
			var list []path.Task
			prev := nextCoat(b, tasks[at], "it is mended once it has dried: "+m.Name)
			switch e.Mishap {
			case "cement", "slip":
				prev.Wait, prev.Kind, prev.Reason = 720, "handle", "the mark hardens overnight before it is sanded"
			case "wash":
				prev.Wait = 0 // inside its working time
			}
			for k, move := range m.Moves {
				t := path.Task{ID: fmt.Sprintf("repair:%s:%d", shortKey(e.Key), k+1), Title: move.Title, Stage: tasks[at].Stage, Kind: "repair", Minutes: move.Minutes,
					Place: cmpOr(move.Place, path.Bench), Zones: e.Zones, After: []path.Arrow{prev}, From: []string{e.Task}}
				if move.Paints {
					t.Layer, t.Colour, t.Again = tasks[at].Layer, tasks[at].Colour, true
				}
				why[t.ID] = []string{fmt.Sprintf("%.0f min, a starting value of the table of mishaps", move.Minutes)}
				list = append(list, t)
				prev = path.Arrow{From: t.ID, Wait: move.Wait, Water: move.Water, Kind: "next coat", Reason: move.Title + " comes first"}
			}
			if m.Above {
				list = append(list, above(b, tasks, at, e, prev, done, why)...)
			}
			tasks = inserted(tasks, at, list, done)
		}
	}
	return tasks
}

// above are the layers that had been done over the one that was hurt, where the
// mishap shows: they are repeated there.
func above(b Build, tasks []path.Task, at int, e Entry, prev path.Arrow, done map[string]path.Done, why map[string][]string) []path.Task {
	var out []path.Task
	for _, t := range tasks {
		if t.Layer == "" || t.ID == tasks[at].ID || t.Again {
			continue
		}
		i := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.ID == t.Layer })
		if i < 0 || b.Layers[i].Kind == strata.Prime || b.Layers[i].Kind == strata.Colour {
			continue // priming and respraying are in the repair
		}
		end := done[t.ID].Ended
		if end.IsZero() || end.After(e.At) || done[t.ID].Skipped || !meets(b.Layers[i], e.Zones) {
			continue
		}
		again := path.Task{ID: fmt.Sprintf("again:%s:%d", shortKey(e.Key), len(out)+1), Title: t.Title + ", again on the mended spot", Stage: t.Stage, Kind: t.Kind, Minutes: 10,
			Place: t.Place, Zones: e.Zones, Subject: t.Subject, After: []path.Arrow{prev}, From: []string{t.ID}}
		again.Again = true
		why[again.ID] = []string{"10 min for a spot, a starting value"}
		out = append(out, again)
		prev = nextCoat(b, again, t.Title+" comes first there")
	}
	return out
}

func meets(l strata.Layer, zones []string) bool {
	return len(zones) == 0 || slices.ContainsFunc(zones, func(z string) bool {
		return l.Covers(z) || slices.ContainsFunc(l.Zones, func(x string) bool { return strings.HasPrefix(x, z+".") })
	})
}

// nextCoat is the arrow from a task to the next coat over it.
func nextCoat(b Build, t path.Task, reason string) path.Arrow {
	a := path.Arrow{From: t.ID, Kind: "next coat", Reason: reason}
	if i := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.ID == t.Layer }); i >= 0 {
		_, a.Wait, _, _ = b.Layers[i].Times()
		a.Water = b.Layers[i].Water()
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
			if seen[t.ID] || !slices.ContainsFunc(t.After, func(a path.Arrow) bool { return a.From == queue[0] && a.Most == 0 }) {
				continue
			}
			seen[t.ID] = true
			if over(t.ID) {
				queue = append(queue, t.ID)
			} else if _, begun := done[t.ID]; !begun {
				t.After = append(slices.Clone(t.After), path.Arrow{From: last.ID, Wait: handWait(last), Water: true, Kind: "next coat", Reason: last.Title + " comes first"})
			}
		}
	}
	return slices.Insert(out, at+1, list...)
}

// handWait is what follows a repair at least, minutes.
func handWait(t path.Task) float64 {
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
