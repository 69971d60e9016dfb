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
	solved, err := Solve(r)
	if err != nil {
		return Schedule{}, err
	}
	return solved.At(r.AsOf), nil
}

// Solution is a plan that was found, from which the schedule follows as of any instant until
// the hands are free again.
type Solution struct {
	taken   Schedule // but for what hangs on the instant
	orders  []standing
	further bool // a better one may well be found, or was sought
}

// At is the schedule as of an instant for which Since is the same as for the request.
func (f *Solution) At(now time.Time) Schedule {
	out := f.Whole()
	out.Placed = make(map[string][]Placed, len(f.taken.Placed))
	for _, o := range f.orders {
		out.Placed[o.Build] = f.Placed(o.Build, now)
	}
	return out
}

// Placed are the tasks of one build as At has them.
func (f *Solution) Placed(build string, now time.Time) []Placed {
	at := slices.IndexFunc(f.orders, func(o standing) bool { return o.Build == build })
	if at < 0 {
		return nil
	}
	placed := slices.Clone(f.taken.Placed[build])
	f.orders[at].states(placed, now)
	return placed
}

// Whole is what the schedule is at any of its instants: all but where each task stands.
func (f *Solution) Whole() Schedule {
	out := f.taken
	out.Placed = nil
	return out
}

// Since is the instant from which a plan is sought: while the hands rest nothing can be begun,
// so all instants from one session to the next have one plan. It lies on the day of asOf.
func (r Request) Since() time.Time {
	for _, log := range r.Log {
		for _, d := range log {
			if d.Ended.IsZero() {
				return r.AsOf // what is begun goes on by the minute
			}
		}
	}
	year, month, day := r.AsOf.Date()
	since := time.Date(year, month, day, 0, 0, 0, 0, r.AsOf.Location())
	for _, s := range r.Calendar.ahead(since, r.AsOf.Sub(since)+time.Minute) {
		switch {
		case s.From.After(r.AsOf):
		case s.To.After(r.AsOf):
			return r.AsOf
		default:
			since = s.To
		}
	}
	return since
}

// Solve looks for the plan of a request; the schedule is as in Lay.
func Solve(r Request) (*Solution, error) { return solve(r, how{}) }

// how a plan is come by: sought until it is worth no more, at a glance, or mended from an earlier one.
type how struct {
	glance bool
	like   Starts
}

func solve(r Request, way how) (*Solution, error) {
	f, err := find(r, way)
	if err != nil {
		return nil, err
	}
	out := &Solution{f.told, nil, f.further}
	for b, o := range f.s.p.orders {
		out.orders = append(out.orders, f.s.p.standing(b, f.r.Log[o.Build]))
	}
	f.take(out.orders, &out.taken)
	return out, nil
}

// found is where a search ended.
type found struct {
	r       Request
	s       *search
	failed  []map[int]string // by build and task: why it cannot be planned
	told    Schedule         // conflicts and nodes
	further bool
}

func find(r Request, way how) (found, error) {
	r.AsOf = r.Since()
	r.Orders = slices.Clone(r.Orders)
	slices.SortStableFunc(r.Orders, func(a, b Order) int {
		return cmp.Or(cmp.Compare(a.Priority, b.Priority), cmp.Compare(a.Build, b.Build))
	})
	out := Schedule{}
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
			return found{}, err
		}
		heads, clashes := p.contradictions()
		var s *search
		if len(clashes) == 0 {
			s, clashes = p.search(heads, r, &left, way.like)
		}
		if r.stopped() {
			return found{}, ErrStopped
		}
		for _, c := range clashes {
			out.Conflicts = append(out.Conflicts, c.told(p))
			p.fail(c, failed)
		}
		if len(clashes) > 0 {
			continue
		}
		if way.like == nil {
			s.sharpen()
		}
		most := s.further()
		if most > 0 && !way.glance {
			s.goOn(most)
		}
		if r.stopped() {
			return found{}, ErrStopped
		}
		s.t.closed = s.closed
		s.t.lay(s.best)
		return found{r, s, failed, out, most > 0}, nil
	}
}

// Glance is Solve as far as nobody waits for it: where a better plan may well be found, Further tells so.
func Glance(r Request) (*Solution, error) { return solve(r, how{glance: true}) }

// Further tells whether a better plan may well be found, or where it was sought.
func (f *Solution) Further() bool { return f.further }

// patience is the budget for a first plan, where windows make one hard to find; it holds
// for all that is tried until there is one.
const patience = 4_000_000

// search looks for a plan; where it finds none, what is in the way.
func (p *problem) search(heads []int32, r Request, left *int, like Starts) (*search, []*clash) {
	s := newSearch(p, heads, p.newBound(heads), cmp.Or(r.Nodes, CommonNodes))
	s.patience, s.stop = max(*left, 1), r.Stop
	if like != nil && s.mendLike(like) {
		return s, nil
	}
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

// take writes the plan that was found, but for what hangs on the instant.
func (f found) take(orders []standing, out *Schedule) {
	s, p := f.s, f.s.p
	out.Placed, out.Ends, out.Bound = map[string][]Placed{}, map[string]time.Time{}, map[string]time.Time{}
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
	for b := range orders {
		o := &orders[b]
		placed := make([]Placed, len(o.Tasks))
		var end time.Time
		for i := range o.Tasks {
			placed[i] = p.placed(b, i, s.t, o, f.r.Calendar)
			placed[i].SetUp = setUps[[2]int32{int32(b), int32(i)}]
			if why := f.failed[b][i]; why != "" {
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
		out.Placed[o.Build] = placed
		out.Ends[o.Build] = end
		out.Bound[o.Build] = p.instant(s.bound.alone[b])
	}
}

// sessions lists what is done when, and gives the set-ups by build and task.
func (out *Schedule) sessions(p *problem, s *search) map[[2]int32]*SetUp {
	setUps := map[[2]int32]*SetUp{}
	states := slices.Clone(p.nozzles)
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
			before := states[j.brush]
			minutes, strip, _, then := before.setUp(j)
			states[j.brush] = then
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
