package path

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"slices"
	"time"
)

// Request is what is to be laid on the calendar.
type Request struct {
	Orders   []Order
	Calendar Calendar
	Airbrush []Airbrush
	Log      Log
	AsOf     time.Time
	Nodes    int         // budget of the search, tasks placed; CommonNodes when 0
	Stop     func() bool `json:"-"` // asked now and then: nobody waits for the answer any more
}

// Budgets: what a plan is worth that somebody waits for once, and one that is made anew
// at every tick at the bench.
const (
	CommonNodes = 1_500_000
	QuickNodes  = 200_000
)

// Entry is one thing in a session: a task, or a set-up at an airbrush before it.
type Entry struct {
	Build string `json:"build"`
	Task  string `json:"task"`
	SetUp *SetUp `json:"setUp,omitempty"`
	Span
}

// Session is one of the hands' windows with what is done in it, over all builds.
type Session struct {
	Span
	Entries []Entry `json:"entries"`
}

// Schedule is all builds laid on the calendar.
type Schedule struct {
	Placed    map[string][]Placed // by build, in the order of its tasks
	Sessions  []Session
	Ends      map[string]time.Time // when the last of a build is laid; past where nothing is left
	Bound     map[string]time.Time // no plan of this build alone can end before
	Gap       float64              // of the weighted ends to their lower bound
	Proven    bool                 // no plan is better
	Changes   int                  // of colour at the airbrushes
	Conflicts []Conflict
	Nodes     int
}

// ErrStopped is the error of a request that nobody waits for any more.
var ErrStopped = errors.New("nobody waits for the schedule any more")

// Lay schedules all builds from asOf on. What the log says is done stays where it was.
// What contradicts itself is left out and told, with all that comes after it; so is what
// the hours are too few for in ten years; the rest is planned. An arrow from a task that
// its order does not have is an error.
func Lay(r Request) (Schedule, error) {
	r.Orders = slices.Clone(r.Orders)
	slices.SortStableFunc(r.Orders, func(a, b Order) int {
		return cmp.Or(cmp.Compare(a.Priority, b.Priority), cmp.Compare(a.Build, b.Build))
	})
	out := Schedule{Placed: map[string][]Placed{}, Ends: map[string]time.Time{}, Bound: map[string]time.Time{}}
	failed := make([]map[int]string, len(r.Orders))
	for i := range failed {
		failed[i] = map[int]string{}
	}
	horizon, over, hours := r.span(r.Orders)
	for _, b := range over {
		o := r.Orders[b]
		c := o.tooMuch(o.left(r.Log[o.Build]), hours)
		out.Conflicts = append(out.Conflicts, c)
		for i := range o.Tasks {
			failed[b][i] = c.Words()
		}
	}
	for left := patience; ; {
		p, err := newProblem(r, horizon, func(b, t int) bool { return failed[b][t] != "" })
		if err != nil {
			return Schedule{}, err
		}
		heads, clashes := p.contradictions()
		var s *search
		if len(clashes) == 0 {
			s, clashes = p.search(heads, r, &left)
		}
		if r.stopped() {
			return Schedule{}, ErrStopped
		}
		for _, c := range clashes {
			out.Conflicts = append(out.Conflicts, c.told(p))
			p.fail(c, failed)
		}
		if len(clashes) > 0 {
			continue
		}
		s.t.closed = s.closed
		s.t.lay(s.best)
		out.take(p, s, r, failed)
		return out, nil
	}
}

// patience is the budget for a first plan, where windows make one hard to find; it holds
// for all that is tried until there is one.
const patience = 4_000_000

// search looks for a plan; where it finds none, what is in the way.
func (p *problem) search(heads []int32, r Request, left *int) (*search, []*clash) {
	s := newSearch(p, heads, p.newBound(heads), cmp.Or(r.Nodes, CommonNodes))
	s.patience, s.stop = max(*left, 1), r.Stop
	if s.first(); s.best == nil && len(p.jobs) > 0 {
		if c := p.cramped(left); c != nil {
			return nil, []*clash{c}
		}
	}
	s.run()
	if s.best == nil && len(p.jobs) > 0 {
		*left -= s.nodes
		return nil, []*clash{p.crowded(s, left)}
	}
	return s, nil
}

func (r Request) stopped() bool { return r.Stop != nil && r.Stop() }

// take writes the plan that the search found.
func (out *Schedule) take(p *problem, s *search, r Request, failed []map[int]string) {
	out.Gap, out.Proven, out.Changes = 0, s.proven, s.cost.changes
	out.Nodes += s.nodes
	if s.bound.cost > 0 {
		out.Gap = math.Max(s.cost.end/s.bound.cost-1, 0)
	}
	if s.cost.end <= s.bound.cost+0.5 && s.cost.changes == 0 {
		out.Proven = true
	}
	setUps := out.sessions(p, s)
	chain := s.chain()
	for b, o := range p.orders {
		placed := make([]Placed, len(o.Tasks))
		log := r.Log[o.Build]
		var end time.Time
		for i := range o.Tasks {
			placed[i] = p.placed(b, i, s.t, log, r.Calendar)
			placed[i].SetUp = setUps[[2]int32{int32(b), int32(i)}]
			if why := failed[b][i]; why != "" {
				placed[i].Failed = why
			}
			for k := range p.count[b][i] {
				if p.first[b][i] >= 0 && chain[p.first[b][i]+k] {
					placed[i].Chain = true
				}
			}
			if e := placed[i].End(); e.After(end) {
				end = e
			}
		}
		p.states(b, placed, log)
		out.Placed[o.Build] = placed
		out.Ends[o.Build] = end
		out.Bound[o.Build] = p.instant(s.bound.alone[b])
	}
}

// sessions lists what is done when, and gives the set-ups by build and task.
func (out *Schedule) sessions(p *problem, s *search) map[[2]int32]*SetUp {
	setUps := map[[2]int32]*SetUp{}
	copy(s.t.states, p.nozzles)
	last := int32(-1)
	for _, id := range s.t.seq {
		j := &p.jobs[id]
		at := p.sessionOf(s.t.from[id])
		if at != last || len(out.Sessions) == 0 {
			span := Span{p.instant(s.t.from[id]), p.instant(s.t.end[id])}
			if int(at) < len(p.hands.all) && p.hands.all[at].from <= s.t.from[id] {
				span = Span{p.instant(p.hands.all[at].from), p.instant(p.hands.all[at].to)}
			}
			out.Sessions = append(out.Sessions, Session{Span: span})
			last = at
		}
		now := &out.Sessions[len(out.Sessions)-1]
		o := p.orders[j.build]
		e := Entry{Build: o.Build, Task: o.Tasks[j.task].ID, Span: Span{p.instant(s.t.start[id]), p.instant(s.t.end[id])}}
		if j.brush >= 0 {
			before := s.t.states[j.brush]
			minutes, strip, _, then := before.setUp(j)
			s.t.states[j.brush] = then
			if minutes > 0 {
				up := &SetUp{
					Airbrush: p.brushes[j.brush].ID,
					Strip:    strip,
					Span:     Span{p.instant(s.t.from[id]), p.instant(s.t.start[id])},
					Why:      fmt.Sprintf("“%s” is in it, “%s” is next", p.paints[before.paint], p.paints[j.paint]),
				}
				if strip {
					up.Why = fmt.Sprintf(
						"%d changes of colour since it was stripped; after %d it clogs and spits (P7)",
						before.changes,
						mostChanges,
					)
					if j.fine {
						up.Why = fmt.Sprintf(
							"%d changes of colour since it was stripped, and lines below 1 mm are next (P7)",
							before.changes,
						)
					}
				}
				setUps[[2]int32{j.build, j.task}] = up
				now.Entries = append(now.Entries, Entry{Build: o.Build, Task: e.Task, SetUp: up, Span: up.Span})
			}
		}
		if n := len(now.Entries); n > 0 && now.Entries[n-1].goesOn(e) {
			now.Entries[n-1].To = e.To
			continue
		}
		now.Entries = append(now.Entries, e)
	}
	return setUps
}

// placed gives a task with its times.
func (p *problem) placed(b, i int, t *timing, log map[string]Done, cal Calendar) Placed {
	task := &p.orders[b].Tasks[i]
	out := Placed{Task: task.ID}
	for _, a := range task.After {
		out.Waits = append(out.Waits, p.wait(a, t, b, log, cal))
	}
	d, logged := log[task.ID]
	if logged && !d.Ended.IsZero() {
		out.Status, out.Spans, out.Why = IsDone, []Span{{d.Started, d.Ended}}, "done, from the log"
		if d.Skipped {
			out.Status, out.Why = IsSkipped, "left out, from the log"
		}
		return out
	}
	first := p.first[b][i]
	if first < 0 {
		out.Status, out.Spans = IsBlocked, []Span{}
		for _, a := range task.After {
			if d, ok := log[a.From]; ok && a.Most > 0 && !d.Ended.IsZero() && !d.Skipped {
				dry := p.fluid[0]
				if a.Water {
					dry = p.fluid[1]
				}
				out.Closes = p.instant(dry.closes(p.minute(d.Ended), float64(a.Most)))
			}
		}
		return out
	}
	for id := first; id < first+p.count[b][i]; id++ {
		from, to := p.instant(t.start[id]), p.instant(t.end[id])
		if n := len(out.Spans); n > 0 && out.Spans[n-1].To.Equal(from) {
			out.Spans[n-1].To = to
			continue
		}
		out.Spans = append(out.Spans, Span{from, to})
	}
	j := &p.jobs[first+p.count[b][i]-1]
	closes := j.deadline
	for k := range j.before {
		if l := &j.before[k]; l.most > 0 {
			closes = min(closes, l.dry.closes(t.end[l.other], l.most))
		}
	}
	if closes < never {
		out.Closes = p.instant(closes)
	}
	return out
}

// wait is an arrow's least wait in minutes, in the air after its earlier task; -1
// where nothing dries.
func (p *problem) wait(a Arrow, t *timing, b int, log map[string]Done, cal Calendar) float64 {
	if a.Wait <= 0 {
		return 0
	}
	dry := p.fluid[0]
	if a.Water {
		dry = p.fluid[1]
	}
	end := int32(0)
	if d, ok := log[a.From]; ok && !d.Ended.IsZero() {
		if d.Skipped {
			return 0
		}
		end = p.minute(d.Ended)
	} else if i := indexOf(p.orders[b].Tasks, a.From); i >= 0 && p.first[b][i] >= 0 {
		end = t.end[p.first[b][i]+p.count[b][i]-1]
	}
	until := dry.dry(end, float64(a.Wait))
	if until >= never || cal.Rate(a.Water) <= 0 && len(cal.Room) == 0 {
		return -1
	}
	return float64(until - end)
}

// states says of each task where it stands, what set its place and when what waits for
// it may begin.
func (p *problem) states(b int, placed []Placed, log map[string]Done) {
	tasks := p.orders[b].Tasks
	index := map[string]int{}
	for i := range tasks {
		index[tasks[i].ID] = i
	}
	over := func(i int) bool { return placed[i].Status == IsDone || placed[i].Status == IsSkipped }
	for i := range tasks {
		if over(i) {
			continue
		}
		at := &placed[i]
		at.Status, at.Why = IsReady, "the hands are free"
		latest := p.asOf
		for k, a := range tasks[i].After {
			from := index[a.From]
			if placed[from].Status == IsSkipped {
				continue
			}
			end := placed[from].End()
			if at.Waits[k] < 0 || end.IsZero() {
				at.Status = IsBlocked
				continue
			}
			dry := end.Add(time.Duration(at.Waits[k]) * time.Minute)
			if !over(from) {
				at.Status = IsBlocked
			} else if dry.After(p.asOf) && at.Status != IsBlocked {
				at.Status = IsWaiting
				if dry.After(at.Until) {
					at.Until = dry
				}
			}
			if dry.After(latest) {
				latest, at.Why = dry, cmp.Or(a.Reason, "it comes after "+tasks[from].Title)
			}
		}
		if n := tasks[i].NotFrom; n.After(latest) {
			latest, at.Why = n, "what it needs is expected then"
			if at.Status != IsBlocked {
				at.Status, at.Until = IsWaiting, n
			}
		}
		if at.Status == IsBlocked {
			at.Until = time.Time{}
		}
		if _, begun := log[tasks[i].ID]; begun {
			at.Status, at.Until, at.Why = IsNow, time.Time{}, "begun, from the log"
			continue
		}
		if first := p.first[b][i]; first >= 0 && p.jobs[first].late {
			at.Why = "outside your hours: its window closes at " + at.Closes.Format("15:04")
			continue
		}
		if len(at.Spans) > 0 && len(tasks[i].After) > 0 && at.Spans[0].From.After(latest) &&
			p.sessionOf(p.minute(latest)) != p.sessionOf(p.minute(at.Spans[0].From)) {
			at.Why += "; then the hands are on other work"
		}
	}
	for i := range tasks {
		for k, a := range tasks[i].After {
			from := &placed[index[a.From]]
			if placed[i].Waits[k] <= 0 || len(from.Spans) == 0 || from.Status == IsSkipped {
				continue
			}
			dry := from.End().Add(time.Duration(placed[i].Waits[k]) * time.Minute)
			if from.Tail.IsZero() || dry.Before(from.Tail) {
				from.Tail = dry
			}
			if over(index[a.From]) && !over(i) && dry.After(p.asOf) {
				from.Status = IsDrying
				if from.Until.IsZero() || dry.Before(from.Until) {
					from.Until = dry
				}
			}
		}
	}
}

// chain marks the jobs that hold a build's end: those with no minute to spare, going
// back from the last job along what set each one's time.
func (s *search) chain() []bool {
	p, t := s.p, s.t
	mark := make([]bool, len(p.jobs))
	for b := range p.orders {
		last := int32(-1)
		for _, id := range t.seq {
			if p.jobs[id].build == int32(b) && (last < 0 || t.end[id] > t.end[last]) {
				last = id
			}
		}
		for last >= 0 && !mark[last] {
			mark[last] = true
			j := &p.jobs[last]
			next := int32(-1)
			// An arrow that leaves no time between counts before the hands do.
			for k := range j.before {
				l := &j.before[k]
				ready := l.dry.dry(t.end[l.other], l.wait)
				if p.open(j).first(max(ready, 0), j.minutes) >= t.start[last] && (next < 0 || t.end[l.other] > t.end[next]) {
					next = l.other
				}
			}
			if at := t.place[last]; next < 0 && at > 0 {
				before := t.seq[at-1]
				if p.open(j).first(t.end[before], t.end[last]-t.from[last]) >= t.from[last] {
					next = before
				}
			}
			last = next
		}
	}
	return mark
}

// goesOn tells whether an entry is the next piece of the same work.
func (e Entry) goesOn(next Entry) bool {
	return e.Build == next.Build && e.Task == next.Task && e.To.Equal(next.From) && e.SetUp == nil
}

func indexOf(tasks []Task, id string) int {
	return slices.IndexFunc(tasks, func(t Task) bool { return t.ID == id })
}
