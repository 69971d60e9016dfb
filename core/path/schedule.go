package path

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"time"
)

// Arrow says that a task comes after another, and how long after its end.
type Arrow struct {
	From   string  `json:"from"`           // id of the earlier task
	Wait   float64 `json:"waitMin"`        // least, minutes at 20 °C and 50 % humidity
	Most   float64 `json:"mostMin"`        // greatest, 0 for none
	Water  bool    `json:"water"`          // dries by losing water
	Kind   string  `json:"kind"`           // touch, next coat, handle, cured, take-back, order
	Rule   string  `json:"rule,omitempty"` // id of the rule
	Reason string  `json:"reason"`
}

// Task is one step of the work.
type Task struct {
	ID      string   `json:"id"` // kind:subject:ordinal
	Title   string   `json:"title"`
	Stage   string   `json:"stage"`
	Minutes float64  `json:"minutes"` // hands on
	Split   bool     `json:"split"`   // may be laid down and taken up again
	After   []Arrow  `json:"after"`
	Layer   string   `json:"layer,omitempty"`
	Zones   []string `json:"zones,omitempty"`
	AreaCM  float64  `json:"areaCm2,omitempty"` // worked on the model, cm²
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
)

// Placed is a task laid on the calendar.
type Placed struct {
	Task   string    `json:"task"`
	Status Status    `json:"status"`
	Spans  []Span    `json:"spans"`            // when hands are on it; past for what is done
	Until  time.Time `json:"until,omitzero"`   // drying or waiting ends
	Why    string    `json:"why"`              // what set its place
	Failed string    `json:"failed,omitempty"` // why it could not be placed
	Waits  []float64 `json:"waits,omitempty"`  // each arrow's wait in this room, minutes; -1 where nothing dries
}

// End is when the last span ends.
func (p Placed) End() time.Time {
	if len(p.Spans) == 0 {
		return time.Time{}
	}
	return p.Spans[len(p.Spans)-1].To
}

// hands keeps the free time of the one pair of hands.
type hands struct {
	free []Span
}

// Schedule lays all orders on the calendar from asOf on. What the log says is done
// stays where it was. The result has one list per build, in the order of its tasks.
func Schedule(orders []Order, cal Calendar, log Log, asOf time.Time) map[string][]Placed {
	h := hands{free: cal.Evenings(asOf)}
	sorted := slices.Clone(orders)
	slices.SortStableFunc(sorted, func(a, b Order) int {
		return cmp.Or(cmp.Compare(a.Priority, b.Priority), cmp.Compare(a.Build, b.Build))
	})
	out := map[string][]Placed{}
	for _, o := range sorted {
		out[o.Build] = h.lay(o, cal, log[o.Build], asOf)
	}
	return out
}

// lay places one build's tasks in their order, which is a working order: every
// arrow points back.
func (h *hands) lay(o Order, cal Calendar, done map[string]Done, asOf time.Time) []Placed {
	placed := make([]Placed, len(o.Tasks))
	ends := map[string]time.Time{}
	finished := map[string]bool{}
	titles := map[string]string{}
	for i := range o.Tasks {
		t := &o.Tasks[i]
		titles[t.ID] = t.Title
		p := &placed[i]
		p.Task = t.ID
		for _, a := range t.After {
			p.Waits = append(p.Waits, inRoom(a, cal))
		}
		if d, ok := done[t.ID]; ok && !d.Ended.IsZero() {
			p.Status, p.Spans, p.Why = IsDone, []Span{{d.Started, d.Ended}}, "done, from the log"
			ends[t.ID], finished[t.ID] = d.Ended, true
		}
	}
	for i := range o.Tasks {
		t, p := &o.Tasks[i], &placed[i]
		if p.Status == IsDone {
			continue
		}
		release, why, state := asOf, "the hands are free", IsReady
		for k := range t.After {
			a := t.After[k]
			end, known := ends[a.From]
			switch {
			case !known:
				p.Failed = fmt.Sprintf("%s has no place, and this comes after it", titles[a.From])
				continue
			case p.Waits[k] < 0:
				p.Failed = fmt.Sprintf("nothing dries below %.0f °C: warm the room", Coldest)
				continue
			}
			dry := end.Add(minutes(p.Waits[k]))
			if !finished[a.From] {
				state = IsBlocked
			} else if dry.After(asOf) && state != IsBlocked {
				state = IsWaiting
				if dry.After(p.Until) {
					p.Until = dry
				}
			}
			if dry.After(release) {
				release, why = dry, a.Reason
			}
		}
		if state == IsBlocked {
			p.Until = time.Time{}
		}
		p.Status, p.Why = state, why
		d, begun := done[t.ID]
		if begun {
			p.Status, p.Until, p.Why = IsNow, time.Time{}, "begun, from the log"
			release = asOf
		}
		if p.Failed != "" {
			continue
		}
		need := t.Minutes
		if begun {
			need = math.Max(t.Minutes-asOf.Sub(d.Started).Minutes(), 5)
		}
		spans, ok := h.place(o, i, release, need, cal)
		if !ok {
			p.Failed = h.failure(t, cal, asOf)
			continue
		}
		h.take(spans)
		p.Spans = spans
		ends[t.ID] = p.End()
	}
	// What is done is drying while something open still waits for it.
	for i := range o.Tasks {
		if placed[i].Status != IsDone {
			continue
		}
		for k := range o.Tasks {
			if placed[k].Status == IsDone {
				continue
			}
			for n, a := range o.Tasks[k].After {
				if a.From != o.Tasks[i].ID || placed[k].Waits[n] <= 0 {
					continue
				}
				if dry := placed[i].End().Add(minutes(placed[k].Waits[n])); dry.After(asOf) {
					placed[i].Status = IsDrying
					// What is said is when the first of them may follow.
					if placed[i].Until.IsZero() || dry.Before(placed[i].Until) {
						placed[i].Until = dry
					}
				}
			}
		}
	}
	return placed
}

// inRoom is an arrow's least wait at the room's drying rate, whole minutes; -1
// where it is too cold for anything to dry.
func inRoom(a Arrow, cal Calendar) float64 {
	if a.Wait <= 0 {
		return 0
	}
	rate := cal.Rate(a.Water)
	if rate <= 0 {
		return -1
	}
	return math.Ceil(a.Wait/rate - 1e-9)
}

func minutes(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }

// place finds the first spans for a task from release on. When a later task has a
// window after this one that closes, the place must leave room for it there.
func (h *hands) place(o Order, i int, release time.Time, need float64, cal Calendar) ([]Span, bool) {
	t := o.Tasks[i]
	for {
		spans, ok := h.first(release, need, t.Split)
		if !ok {
			return nil, false
		}
		late, room := h.leavesRoom(o, i, spans, cal)
		if room {
			return spans, true
		}
		release = late
	}
}

// leavesRoom tells whether a successor with a closing window fits after the spans;
// if not, from when on to try again.
func (h *hands) leavesRoom(o Order, i int, spans []Span, cal Calendar) (again time.Time, ok bool) {
	end := spans[len(spans)-1].To
	for k := i + 1; k < len(o.Tasks); k++ {
		for _, a := range o.Tasks[k].After {
			if a.From != o.Tasks[i].ID || a.Most <= 0 {
				continue
			}
			rate := cal.Rate(a.Water)
			if rate <= 0 {
				continue
			}
			rest := hands{free: slices.Clone(h.free)}
			rest.take(spans)
			next, found := rest.first(end.Add(minutes(math.Ceil(a.Wait/rate))), o.Tasks[k].Minutes, false)
			if found && !next[0].To.After(end.Add(minutes(a.Most/rate))) {
				continue
			}
			// Try later within the evening in steps, so that the windows meet.
			return spans[0].From.Add(15 * time.Minute), false
		}
	}
	return time.Time{}, true
}

// first finds the earliest spans of free time; unsplit work takes one span.
func (h *hands) first(release time.Time, need float64, split bool) ([]Span, bool) {
	const least = 15 * time.Minute // no use in taking a task up for less
	left := minutes(need)
	var out []Span
	for _, f := range h.free {
		from := f.From
		if release.After(from) {
			from = release
		}
		room := f.To.Sub(from)
		switch {
		case room <= 0:
		case room >= left:
			return append(out, Span{from, from.Add(left)}), true
		case split && room >= least:
			out = append(out, Span{from, f.To})
			left -= room
		}
	}
	return nil, false
}

// take removes spans, each of which lies within one stretch of free time.
func (h *hands) take(spans []Span) {
	for _, s := range spans {
		at := slices.IndexFunc(h.free, func(f Span) bool { return s.From.Before(f.To) && s.To.After(f.From) })
		if at < 0 {
			continue
		}
		f := h.free[at]
		var rest []Span
		if s.From.After(f.From) {
			rest = append(rest, Span{f.From, s.From})
		}
		if s.To.Before(f.To) {
			rest = append(rest, Span{s.To, f.To})
		}
		h.free = slices.Replace(h.free, at, at+1, rest...)
	}
}

// failure says why a task found no place.
func (h *hands) failure(t *Task, cal Calendar, asOf time.Time) string {
	longest := 0.0
	for _, e := range cal.Evenings(asOf) {
		longest = math.Max(longest, e.To.Sub(e.From).Minutes())
	}
	switch {
	case longest == 0:
		return "the calendar has no evening in the next half year; add weekly hours"
	case !t.Split && t.Minutes > longest:
		return fmt.Sprintf("it takes %.0f min in one go and the longest evening has %.0f; lengthen an evening", t.Minutes, longest)
	default:
		return "no room in the next half year; add hours, or a window after the step before it closes too soon for these evenings"
	}
}
