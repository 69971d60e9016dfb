package path

import (
	"cmp"
	"math"
	"slices"
	"time"
)

// Airbrush is one of the workshop's, with what is in it at the moment of planning.
type Airbrush struct {
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Nozzle  float64 `json:"nozzleMm"`
	Paint   string  `json:"paint"`   // what is in it, with what is under way; empty when clean
	Changes int     `json:"changes"` // of colour since its last strip
	Flush   float64 `json:"flushMin,omitempty"`
	Strip   float64 `json:"stripMin,omitempty"`

	Since time.Time `json:"since,omitzero"` // when paint and changes were so; before all that the log tells when zero
}

// Loaded gives the airbrushes as the log leaves them: what was sprayed after an
// airbrush's state was typed is in it now, cleaned between as a plan would ask (P7).
// What is under way counts, what was left out does not.
func Loaded(brushes []Airbrush, orders []Order, log Log) []Airbrush {
	type spray struct {
		at    time.Time
		task  *Task
		build string
	}
	var sprays []spray
	for _, o := range orders {
		for i := range o.Tasks {
			t := &o.Tasks[i]
			if d, ok := log[o.Build][t.ID]; ok && !d.Skipped && t.Airbrush != "" && t.Paint != "" {
				sprays = append(sprays, spray{d.Started, t, o.Build})
			}
		}
	}
	slices.SortStableFunc(sprays, func(a, b spray) int {
		return cmp.Or(a.at.Compare(b.at), cmp.Compare(a.build, b.build), cmp.Compare(a.task.ID, b.task.ID))
	})
	out := slices.Clone(brushes)
	names := []string{""} // as the states of airbrushes have them: numbers, 0 for clean
	number := func(paint string) int32 {
		at := slices.Index(names, paint)
		if at < 0 {
			at, names = len(names), append(names, paint)
		}
		return int32(at)
	}
	for i := range out {
		b := &out[i]
		n := b.nozzle(number(b.Paint))
		for _, s := range sprays {
			if s.task.Airbrush == b.ID && s.at.After(b.Since) {
				_, _, _, n = n.setUp(&job{paint: number(s.task.Paint), fine: s.task.Fine})
			}
		}
		b.Paint, b.Changes = names[n.paint], int(n.changes)
	}
	return out
}

// Minutes at an airbrush that says nothing of its own, starting values.
const (
	flushMinutes = 4
	stripMinutes = 15
)

// Changes of colour after which an airbrush is stripped and cleaned (rule P7); sooner
// where lines below 1 mm are next.
const (
	mostChanges     = 3
	mostChangesFine = 2
)

// nozzle is the state of an airbrush: the colour in it, 0 for none, and the changes
// since its last strip.
type nozzle struct {
	paint   int32
	changes int32
	flush   int32 // minutes
	strip   int32
}

func (b Airbrush) nozzle(paint int32) nozzle {
	n := nozzle{paint: paint, changes: int32(b.Changes), flush: flushMinutes, strip: stripMinutes}
	if b.Flush > 0 {
		n.flush = int32(math.Ceil(b.Flush))
	}
	if b.Strip > 0 {
		n.strip = int32(math.Ceil(b.Strip))
	}
	return n
}

// setUp says what must be done at an airbrush before a task sprays with it, in
// minutes, and what its state is then; changed tells whether its colour changes.
func (n nozzle) setUp(j *job) (minutes int32, strip, changed bool, then nozzle) {
	limit := int32(mostChanges)
	if j.fine {
		limit = mostChangesFine
	}
	changed = n.paint != 0 && n.paint != j.paint
	then = n
	then.paint = j.paint
	switch {
	case n.changes >= limit:
		then.changes = 0
		return n.strip, true, changed, then
	case changed:
		then.changes++
		return n.flush, false, true, then
	default:
		return 0, false, false, then
	}
}
