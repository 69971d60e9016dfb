package path

import "math"

// Airbrush is one of the workshop's, with what is in it at the moment of planning.
type Airbrush struct {
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Nozzle  float64 `json:"nozzleMm"`
	Paint   string  `json:"paint"`   // what is in it; empty when clean
	Changes int     `json:"changes"` // of colour since its last strip
	Flush   float64 `json:"flushMin,omitempty"`
	Strip   float64 `json:"stripMin,omitempty"`
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
