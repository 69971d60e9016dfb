package path_test

import (
	"fmt"
	"math"
	"math/bits"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"cinderpath/core/path"
	"cinderpath/core/unit"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// small makes a workshop of a few short evenings in which everything falls on whole
// five minutes, so that it can be searched through completely.
func small(rnd *rand.Rand, n int) path.Request {
	r := path.Request{AsOf: monday, Calendar: path.Calendar{Temperature: 20, Humidity: 0.5},
		Airbrush: []path.Airbrush{{ID: "a", Flush: 5, Strip: 10, Paint: "x", Changes: rnd.IntN(3)}}}
	for day := range 7 {
		r.Calendar.Weekly = append(
			r.Calendar.Weekly,
			path.Window{Day: day, From: "20:00", To: []string{"20:40", "21:00", "21:20"}[rnd.IntN(3)]},
		)
	}
	if rnd.IntN(3) == 0 {
		r.Calendar.Places = []path.Place{
			{
				ID: path.Booth,
				Weekly: []path.Window{
					{Day: 1, From: "20:00", To: "20:40"},
					{Day: 3, From: "20:20", To: "22:00"},
					{Day: 5, From: "19:00", To: "21:00"},
				},
			},
		}
	}
	o := path.Order{Build: "b"}
	for i := range n {
		t := path.Task{ID: fmt.Sprint("t", i), Title: fmt.Sprint("t", i), Minutes: unit.Minutes(5 * (1 + rnd.IntN(7)))}
		if rnd.IntN(3) == 0 {
			t.Airbrush, t.Paint, t.Place, t.Fine = "a", []string{"x", "y", "z"}[rnd.IntN(3)], path.Booth, rnd.IntN(4) == 0
		}
		for k := range i {
			if rnd.IntN(8) > n-2 || rnd.IntN(2) == 0 {
				continue
			}
			a := path.Arrow{From: o.Tasks[k].ID, Wait: unit.Minutes(5 * rnd.IntN(8))}
			switch rnd.IntN(6) {
			case 0:
				a.Wait = unit.Minutes(1440 + 5*rnd.IntN(20))
			case 1, 2:
				a.Most = a.Wait + t.Minutes + unit.Minutes(5*rnd.IntN(20))
				a.Same = rnd.IntN(3) == 0
			case 3:
				a.Most = 1440 + t.Minutes + unit.Minutes(5*rnd.IntN(6))
			}
			t.After = append(t.After, a)
		}
		o.Tasks = append(o.Tasks, t)
	}
	if last := &o.Tasks[n-1]; rnd.IntN(2) == 0 {
		// A window beside a long wait: what opens the window has to begin later than it could.
		opens, dries := rnd.IntN(n-1), rnd.IntN(n-1)
		last.After = []path.Arrow{{From: o.Tasks[opens].ID, Most: last.Minutes + unit.Minutes(5*rnd.IntN(8))}}
		if dries != opens {
			last.After = append(
				last.After,
				path.Arrow{From: o.Tasks[dries].ID, Wait: []unit.Minutes{60, 1440, 2880}[rnd.IntN(3)]},
			)
		}
	}
	r.Orders = []path.Order{o}
	return r
}

// slow is a plain search of the test's own: every order of the tasks, and for each the
// starts found by raising whatever breaks a rule by five minutes until nothing does.
type slow struct {
	r        path.Request
	tasks    []path.Task
	sessions []path.Span
	place    map[string]int
	during   []int    // by step: the session, -1 for none
	open     [][]bool // by task: whether it may go on in the five minutes from a step on
	last     int
}

const step = 5

func newSlow(r path.Request) *slow {
	s := &slow{r: r, tasks: r.Orders[0].Tasks, sessions: r.Calendar.Evenings(r.AsOf)[:7]}
	s.last = int(s.sessions[6].To.Sub(r.AsOf).Minutes()) / step
	s.place = map[string]int{}
	for i, t := range s.tasks {
		s.place[t.ID] = i
	}
	for k := range s.last + 1 {
		at := r.AsOf.Add(time.Duration(k*step) * time.Minute)
		s.during = append(
			s.during,
			slices.IndexFunc(s.sessions, func(e path.Span) bool { return !at.Before(e.From) && at.Before(e.To) }),
		)
	}
	for i := range s.tasks {
		may := make([]bool, s.last)
		for k := range may {
			at := r.AsOf.Add(time.Duration(k*step) * time.Minute)
			may[k] = open(r, &s.tasks[i], path.Span{From: at, To: at.Add(step * time.Minute)})
		}
		s.open = append(s.open, may)
	}
	return s
}

func (s *slow) session(k int) int { return s.during[k] }

type value struct{ end, changes, sessions int }

func (a value) less(b value) bool {
	if a.end != b.end {
		return a.end < b.end
	}
	if a.changes != b.changes {
		return a.changes < b.changes
	}
	return a.sessions < b.sessions
}

var worst = value{end: math.MaxInt32}

// order gives the earliest starts for one order of the tasks within allowed sessions.
func (s *slow) order(seq []int, allowed uint) (value, bool) {
	n := len(seq)
	length, setUp := make([]int, n), make([]int, n)
	b := s.r.Airbrush[0]
	in, count, changes := b.Paint, b.Changes, 0
	place := make([]int, n)
	for p, i := range seq {
		place[i] = p
		t := s.tasks[i]
		length[i] = int(t.Minutes) / step
		if t.Paint == "" {
			continue
		}
		limit := 3
		if t.Fine {
			limit = 2
		}
		if in != t.Paint {
			changes++
		}
		switch {
		case count >= limit:
			setUp[i], count = int(b.Strip)/step, 0
		case in != t.Paint:
			setUp[i] = int(b.Flush) / step
			count++
		}
		in = t.Paint
	}
	for i, t := range s.tasks {
		for _, a := range t.After {
			if place[s.index(a.From)] > place[i] {
				return worst, false
			}
		}
	}
	from := make([]int, n) // when the set-up begins
	for raised := true; raised; {
		raised = false
		raise := func(i int) { // to the next step at which it may be begun at all
			raised = true
			for from[i]++; from[i] < s.last && !s.open[i][from[i]]; from[i]++ {
			}
		}
		for p, i := range seq {
			ok := true
			if p > 0 {
				before := seq[p-1]
				ok = from[i] >= from[before]+setUp[before]+length[before]
			}
			session := -2
			for k := from[i]; k < from[i]+setUp[i]+length[i] && ok; k++ {
				ok = k < s.last && s.open[i][k]
				if ok {
					now := s.session(k)
					ok = (session == -2 || now == session) && allowed&(1<<now) != 0
					session = now
				}
			}
			start, end := from[i]+setUp[i], from[i]+setUp[i]+length[i]
			for _, a := range s.tasks[i].After {
				k := s.index(a.From)
				done := from[k] + setUp[k] + length[k]
				ok = ok && (start-done)*step >= int(a.Wait)
				if ok && ((a.Most > 0 && (end-done)*step > int(a.Most)) || (a.Same && s.session(start) != s.session(done-1))) {
					raise(k) // what opened the window begins later
				}
			}
			if !ok {
				raise(i)
			}
			if end > s.last {
				return worst, false
			}
		}
	}
	v := value{changes: changes}
	used := uint(0)
	for i := range n {
		v.end = max(v.end, (from[i]+setUp[i]+length[i])*step)
		used |= 1 << s.session(from[i])
	}
	v.sessions = bits.OnesCount(used)
	return v, true
}

func (s *slow) index(id string) int { return s.place[id] }

// best goes through every order, and every choice of sessions that could still be better.
func (s *slow) best() value {
	out := worst
	n := len(s.tasks)
	seq := make([]int, 0, n)
	used := make([]bool, n)
	var walk func()
	walk = func() {
		if len(seq) == n {
			v, ok := s.order(seq, 1<<7-1)
			if !ok {
				return
			}
			if v.less(out) {
				out = v
			}
			if v.end != out.end || v.changes != out.changes {
				return
			}
			for allowed := uint(1); allowed < 1<<7; allowed++ {
				if bits.OnesCount(allowed) < out.sessions {
					if w, ok := s.order(seq, allowed); ok && w.less(out) {
						out = w
					}
				}
			}
			return
		}
		for i := range n {
			ready := !used[i]
			for _, a := range s.tasks[i].After {
				ready = ready && used[s.index(a.From)]
			}
			if ready {
				used[i] = true
				seq = append(seq, i)
				walk()
				seq = seq[:len(seq)-1]
				used[i] = false
			}
		}
	}
	walk()
	return out
}

// anyStart goes through every start of every task, in five minutes: nothing is assumed,
// not even that a task begins as early as it can. For very small cases.
func (s *slow) anyStart() int {
	best := math.MaxInt32
	n := len(s.tasks)
	start := make([]int, n)
	var walk func(i int)
	walk = func(i int) {
		if i == n {
			end := 0
			for k := range n {
				end = max(end, start[k]+int(s.tasks[k].Minutes)/step)
			}
			best = min(best, end*step)
			return
		}
		t := s.tasks[i]
		length := int(t.Minutes) / step
	next:
		for at := 0; (at+length)*step < min(best, s.last*step); at++ {
			session := s.session(at)
			for k := at; k < at+length; k++ {
				if !s.open[i][k] || s.session(k) != session {
					continue next
				}
			}
			for k := range i {
				if at < start[k]+int(s.tasks[k].Minutes)/step && start[k] < at+length {
					continue next
				}
			}
			for _, a := range t.After {
				k := s.index(a.From)
				done := start[k] + int(s.tasks[k].Minutes)/step
				if (at-done)*step < int(a.Wait) || (a.Most > 0 && (at+length-done)*step > int(a.Most)) || (a.Same && s.session(at) != s.session(done-1)) {
					continue next
				}
			}
			start[i] = at
			walk(i + 1)
		}
	}
	walk(0)
	return best
}

// Small workshops: end, changes of colour and sessions are those of a plain search
// through all orders; what that says has no plan is told as a contradiction.
func TestSmallWorkshopsAreSolvedExactly(t *testing.T) {
	solved, without, delayed := 0, 0, 0
	for seed := range 240 {
		rnd := rand.New(rand.NewPCG(uint64(seed), 3))
		r := small(rnd, 3+seed%6)
		r.Nodes = 3_000_000
		want := newSlow(r).best()
		s, err := path.Lay(r)
		require.NoError(t, err)
		for _, v := range violations(r, s) {
			t.Errorf("instance %d: %s", seed, v)
		}
		if want == worst {
			if len(s.Conflicts) == 0 { // one that lies beyond the week that the plain search looks at
				assert.True(t, s.Ends["b"].After(newSlow(r).sessions[6].To), "instance %d has no plan", seed)
			}
			without++
			continue
		}
		if !assert.Empty(t, s.Conflicts, "instance %d has a plan", seed) {
			continue
		}
		solved++
		got := value{end: int(s.Ends["b"].Sub(r.AsOf).Minutes()), changes: s.Changes, sessions: len(s.Sessions)}
		assert.Equal(t, want, got, "instance %d of %d tasks", seed, len(r.Orders[0].Tasks))
		assert.True(t, s.Proven, "instance %d", seed)
		assert.False(t, s.Bound["b"].After(s.Ends["b"]), "instance %d: the bound lies above a plan", seed)
		if late(r, s) {
			delayed++
		}
	}
	t.Logf("%d solved, in %d of them a task begins later than it could, %d without a plan", solved, delayed, without)
	assert.Greater(t, delayed, 20)
	assert.Greater(t, without, 0)
}

// late tells whether a task that opens a window begins later than hands, hours and the
// arrows to it ask: somewhere before it there is room for it.
func late(r path.Request, s path.Schedule) bool {
	tasks := r.Orders[0].Tasks
	placed := s.Placed["b"]
	fits := func(i int, span path.Span) bool {
		ok := open(r, &tasks[i], span) && session(r, span.From) == session(r, span.To.Add(-time.Minute))
		for k, q := range placed {
			begins := q.Spans[0].From
			if q.SetUp != nil {
				begins = q.SetUp.From
			}
			ok = ok && (k == i || !begins.Before(span.To) || !q.End().After(span.From))
			if a := slices.IndexFunc(tasks[i].After, func(a path.Arrow) bool { return a.From == tasks[k].ID }); a >= 0 {
				ok = ok && span.From.Sub(q.End()) >= tasks[i].After[a].Wait.Duration()
			}
		}
		return ok
	}
	for i, p := range placed {
		opens := slices.ContainsFunc(tasks, func(t path.Task) bool {
			return slices.ContainsFunc(t.After, func(a path.Arrow) bool { return a.From == tasks[i].ID && a.Most > 0 })
		})
		if !opens || p.SetUp != nil {
			continue
		}
		need := time.Duration(tasks[i].Minutes) * time.Minute
		for from := r.AsOf; from.Before(p.Spans[0].From); from = from.Add(step * time.Minute) {
			if fits(i, path.Span{From: from, To: from.Add(need)}) {
				return true
			}
		}
	}
	return false
}

func TestVerySmallWorkshopsAgainstEveryStart(t *testing.T) {
	for seed := range every(60) {
		rnd := rand.New(rand.NewPCG(uint64(seed), 5))
		r := small(rnd, 3+seed%2)
		for i := range r.Orders[0].Tasks {
			r.Orders[0].Tasks[i].Paint = "" // no set-ups here
		}
		want := newSlow(r).anyStart()
		s, err := path.Lay(r)
		require.NoError(t, err)
		if want == math.MaxInt32 {
			assert.NotEmpty(t, s.Conflicts, "instance %d", seed)
			continue
		}
		require.Empty(t, s.Conflicts, "instance %d", seed)
		assert.Equal(t, want, int(s.Ends["b"].Sub(r.AsOf).Minutes()), "instance %d", seed)
	}
}
