package document

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"cinderpath/core/bench"
	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/unit"
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
	Key           string        `json:"key"` // made by the client: sent twice, it is kept once
	At            time.Time     `json:"at,omitzero"`
	MinutesBefore *unit.Minutes `json:"minutesBefore,omitempty"` // samples: before the moment of loading
	Kind          string        `json:"kind"`
	Task          string        `json:"task"`
	Title         string        `json:"title"`
	Zones         []string      `json:"zones,omitempty"`
	Product       string        `json:"product,omitempty"`
	Note          string        `json:"note,omitempty"`
	path.Subject

	StepKind string       `json:"stepKind,omitempty"` // of the step library
	Planned  unit.Minutes `json:"plannedMin,omitempty"`
	Checks   []string     `json:"checks,omitempty"` // that were ticked
	Measured []Measured   `json:"measured,omitempty"`
	Coats    *Coats       `json:"coats,omitempty"`
	Mishap   string       `json:"mishap,omitempty"` // of the table
	Choice   string       `json:"choice,omitempty"` // repair or leave
	Photo    string       `json:"photo,omitempty"`  // hash of the file
	Used     []paint.Used `json:"used,omitempty"`   // what was taken of jars and mixes
}

// Check reports the first fault of an entry.
func (e Entry) Check() error {
	if err := Sensible(e); err != nil {
		return err
	}
	switch {
	case e.Key == "":
		return measure.Refuse("key", "an entry without a key could be stored twice", "send a UUID")
	case !slices.Contains(happenings, e.Kind):
		return measure.Refuse(
			"kind",
			fmt.Sprintf("%q is not something that happens", e.Kind),
			"use "+strings.Join(happenings, ", "),
		)
	case e.Task == "" || e.Title == "":
		return measure.Refuse("task", "an entry speaks of a step", "give its id and title")
	case len(e.Note) > longText:
		return measure.Refuse("note", fmt.Sprintf("longer than %d characters", longText), "shorten it")
	case (e.Kind == Lesson || e.Kind == Note) && strings.TrimSpace(e.Note) == "" && len(e.Measured)+len(e.Checks) == 0:
		return measure.Refuse("note", "nothing is written", "say what you learned or saw")
	case e.Kind == Picture && e.Photo == "":
		return measure.Refuse("photo", "there is no picture", "choose one first")
	case e.Photo != "" && !measure.IsHash(e.Photo):
		return measure.Refuse("photo", "it is not the hash of a file", "upload the picture first and give the hash told")
	case len(e.Used) > 40:
		return measure.Refuse("used", "more than 40 jars", "name those that matter")
	case len(e.Measured) > 40 || len(e.Checks) > 40:
		return measure.Refuse("measured", "more than 40 values", "write the rest into a note")
	}
	if e.Kind == Mishap {
		if _, ok := bench.MishapOf(e.Mishap); !ok {
			return measure.Refuse("mishap", fmt.Sprintf("%q is not in the table", e.Mishap), "choose one of the list")
		}
		if e.Choice != Repair && e.Choice != Leave {
			return measure.Refuse("choice", "it is not said what is done about it", "use repair or leave")
		}
	}
	return nil
}

// Happened reads the log: the last word on each task counts.
func Happened(log []Entry) map[string]path.Done {
	out := map[string]path.Done{}
	for _, e := range log {
		switch e.Kind {
		case Started:
			out[e.Task] = path.Done{Started: e.At, Zones: e.Zones}
		case Finished:
			done := out[e.Task]
			if done.Started.IsZero() || done.Started.After(e.At) {
				done.Started = e.At
			}
			done.Ended, done.Skipped, done.Zones = e.At, false, e.Zones
			out[e.Task] = done
		case Skipped:
			out[e.Task] = path.Done{Started: e.At, Ended: e.At, Skipped: true}
		case Undone:
			delete(out, e.Task)
		}
	}
	return out
}
