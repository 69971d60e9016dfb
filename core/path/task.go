package path

import (
	"fmt"
	"time"

	"cinderpath/core/rule"
	"cinderpath/core/unit"
)

// Arrow says that a task comes after another, and how long after its end.
type Arrow struct {
	From     string        `json:"from"`              // id of the earlier task
	Wait     unit.Minutes  `json:"waitMin,omitempty"` // least time to the start, minutes at 20 °C and 50 % humidity
	Most     unit.Minutes  `json:"mostMin,omitempty"` // greatest time to the end of the later task, 0 for none
	Water    bool          `json:"water,omitempty"`   // dries by losing water
	Same     bool          `json:"same,omitempty"`    // the later task is done in the same session
	Kind     rule.Need     `json:"kind"`
	Rule     string        `json:"rule,omitempty"`     // id of the rule
	Severity rule.Severity `json:"severity,omitempty"` // of a wrong order
	Reason   string        `json:"reason"`
}

// longestWait is ten years, minutes; mud as deep as a finger asks for one.
const longestWait = 3650 * unit.Day

func (a Arrow) check(task string) error {
	switch {
	case !(a.Wait >= 0 && a.Wait <= longestWait):
		return fmt.Errorf("task %s waits %g min after %s; give 0 to %g", task, a.Wait, a.From, longestWait)
	case !(a.Most >= 0 && a.Most <= longestWait):
		return fmt.Errorf(
			"task %s is finished within %g min of %s; give 1 to %g, or 0 for no such window",
			task,
			a.Most,
			a.From,
			longestWait,
		)
	}
	return nil
}

// Subject is what a step of the work is about. A log entry carries it too, so that what
// happened stays readable when the plan changes.
type Subject struct {
	Layer   string `json:"layer,omitempty"`   // id of the layer that it puts on, prepares, tries or works
	Colour  int    `json:"colour,omitempty"`  // of the scheme, the first is 1
	Part    string `json:"part,omitempty"`    // of the kit or the vehicle
	Section int    `json:"section,omitempty"` // of those it is done in, the first is 1
	Round   int    `json:"round,omitempty"`   // of those it is repeated in, the first is 1
	Again   bool   `json:"again,omitempty"`   // done once more, or on a mended spot
}

// Task is one step of the work.
type Task struct {
	ID      string       `json:"id"` // a name that survives edits; opaque to all but who made it
	Title   string       `json:"title"`
	Stage   string       `json:"stage"`
	Minutes unit.Minutes `json:"minutes"`         // hands on
	Split   bool         `json:"split,omitempty"` // may be laid down and taken up again
	After   []Arrow      `json:"after"`
	Zones   []string     `json:"zones,omitempty"`
	AreaCM  float64      `json:"areaCm2,omitempty"` // worked on the model, cm²
	Subject

	Kind     string    `json:"kind,omitempty"`     // of the step library
	Place    PlaceID   `json:"place,omitempty"`    // bench when empty
	Airbrush string    `json:"airbrush,omitempty"` // id
	Paint    string    `json:"paint,omitempty"`    // what is sprayed: the same word over all builds
	Fine     bool      `json:"fine,omitempty"`     // lines below 1 mm
	Spray    bool      `json:"spray,omitempty"`    // needs air to spray in
	NotFrom  time.Time `json:"notBefore,omitzero"` // what it needs arrives then
	From     []string  `json:"madeFrom,omitempty"` // ids of the tasks it was split from or merged of
	Own      string    `json:"own,omitempty"`      // id of the step of one's own that it is
}

// Order is the work of one build.
type Order struct {
	Build    string
	Priority int // lower goes first
	Tasks    []Task
}

// Done is what the log tells of a task.
type Done struct {
	Started time.Time
	Ended   time.Time // zero while it is under way
	Skipped bool      // left out: nothing was put on, nothing dries
	Zones   []string  // on which it was done, as it was known then
}

// Log tells by build and task what really happened.
type Log map[string]map[string]Done

// Status of a task at the instant of planning.
type Status string

// The states of a task.
const (
	IsDone    Status = "done"    // finished, and nothing waits for it to dry
	IsDrying  Status = "drying"  // finished, something waits for it
	IsNow     Status = "now"     // begun
	IsReady   Status = "ready"   // all that must come before is done and dry
	IsWaiting Status = "waiting" // what comes before is done but not dry
	IsBlocked Status = "blocked" // something before it is not done
	IsSkipped Status = "skipped" // left out
)

// Done tells whether a task was finished, dry or not.
func (s Status) Done() bool { return s == IsDone || s == IsDrying }

// Over tells whether nothing is left to do about a task.
func (s Status) Over() bool { return s.Done() || s == IsSkipped }

// Placed is a task laid on the calendar.
type Placed struct {
	Task   string    `json:"task,omitempty"`
	Status Status    `json:"status"`
	Spans  []Span    `json:"spans"`            // when hands are on it; past for what is done
	Until  time.Time `json:"until,omitzero"`   // drying or waiting ends
	Closes time.Time `json:"closes,omitzero"`  // its window closes: it must be finished by then
	Why    string    `json:"why"`              // what set its place
	Failed string    `json:"failed,omitempty"` // why it could not be placed
	Waits  []float64 `json:"waits,omitempty"`  // each arrow's wait in this air, minutes; -1 where nothing dries
	Tail   time.Time `json:"tail,omitzero"`    // the first that waits for it may begin
	Chain  bool      `json:"chain,omitempty"`  // a minute later here ends the build later
	SetUp  *SetUp    `json:"setUp,omitempty"`  // at the airbrush, before it
}

// SetUp is a flush or a strip of an airbrush, a step of its own before a task.
type SetUp struct {
	Airbrush string `json:"airbrush"`
	Strip    bool   `json:"strip"`
	Span
	Why string `json:"why"`
}

// End is when the last span ends.
func (p Placed) End() time.Time {
	if len(p.Spans) == 0 {
		return time.Time{}
	}
	return p.Spans[len(p.Spans)-1].To
}
