package path

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"sort"
	"time"
)

// never is beyond every horizon, minutes.
const never int32 = math.MaxInt32 / 4

// stretch is a stretch of minutes since asOf.
type stretch struct{ from, to int32 }

// openings are the stretches in which a class of work may be done, rising and apart.
type openings struct {
	all   []stretch
	byDay []int32 // for each day from asOf on: the first stretch that ends after it begins
	long  int32   // the longest stretch
}

func newOpenings(all []stretch) openings {
	o := openings{all: all}
	for day := int32(0); ; day++ {
		i := sort.Search(len(all), func(k int) bool { return all[k].to > day*1440 })
		o.byDay = append(o.byDay, int32(i))
		if i == len(all) {
			break
		}
	}
	for _, s := range all {
		o.long = max(o.long, s.to-s.from)
	}
	return o
}

// from is the index of the first stretch that ends after t.
func (o *openings) from(t int32) int {
	day := max(int(t)/1440, 0)
	if day >= len(o.byDay) {
		return len(o.all)
	}
	i := int(o.byDay[day])
	for i < len(o.all) && o.all[i].to <= t {
		i++
	}
	return i
}

// first is the least minute from t on at which need minutes fit into one stretch.
func (o *openings) first(t, need int32) int32 {
	for i := o.from(t); i < len(o.all); i++ {
		if s := max(t, o.all[i].from); s+need <= o.all[i].to {
			return s
		}
	}
	return never
}

// last is the greatest minute such that need minutes from it fit and end by t; -1 for none.
func (o *openings) last(t, need int32) int32 {
	for i := min(o.from(t), len(o.all)-1); i >= 0; i-- {
		if s := min(t, o.all[i].to) - need; s >= o.all[i].from {
			return s
		}
	}
	return -1
}

// meet is what two lists of spans share.
func meet(a, b []Span) []Span {
	var out []Span
	for i, k := 0, 0; i < len(a) && k < len(b); {
		from, to := a[i].From, a[i].To
		if b[k].From.After(from) {
			from = b[k].From
		}
		if b[k].To.Before(to) {
			to = b[k].To
		}
		if to.After(from) {
			out = append(out, Span{from, to})
		}
		if a[i].To.Before(b[k].To) {
			i++
		} else {
			k++
		}
	}
	return out
}

// link is an arrow between two jobs.
type link struct {
	other      int32 // the job at the other end
	wait, most float64
	dry        *drying
	same       bool
	arrow      *Arrow // nil between the pieces of a split task
}

// job is a task, or a piece of one that may be laid down and taken up again.
type job struct {
	build, task   int32
	minutes       int32
	class         int32
	release       int32 // not before, from what is done
	deadline      int32 // its end not after, from windows of what is done
	session       int32 // to be done in this session, -1 for any
	before, after []link
	brush         int32 // -1 for none
	paint         int32
	fine          bool
	begun         bool    // under way now: it goes on, whatever the hour
	late          bool    // its window closes before the next working time: done outside it
	fixed         []fixed // where release and deadline come from
}

// fixed is what an arrow from a finished task asks.
type fixed struct {
	arrow             *Arrow
	release, deadline int32
}

// problem is what is to be scheduled, in whole minutes since asOf.
type problem struct {
	asOf     time.Time
	horizon  time.Duration // how far ahead the hours are known
	orders   []Order       // as given, sorted by priority
	jobs     []job
	first    [][]int32 // by build and task: its first job, -1 when nothing is left to do
	count    [][]int32 // and how many
	hands    openings
	classes  []openings
	keys     []classKey
	fluid    [2]*drying // without and with water
	nozzles  []nozzle
	brushes  []Airbrush
	paints   []string
	weight   []float64 // by build
	minutes  float64   // of all jobs
	order    []int32   // a topological order of the jobs
	byBuild  [][]int32 // the same, of each build alone: no arrow leads from one to another
	fixedEnd []int32   // by build: the end of what is done, where nothing is left

	relaxed []bool // classes whose hours are not looked at, for finding contradictions
}

// classKey tells classes of work apart: those with the same hours.
type classKey struct {
	place PlaceID
	spray bool
}

// pieceMinutes is the length of the pieces in which a task that may be laid down is
// planned; the last is up to half as long again.
const pieceMinutes = 20

func pieces(minutes int32) []int32 {
	var out []int32
	for minutes >= pieceMinutes*3/2 {
		out = append(out, pieceMinutes)
		minutes -= pieceMinutes
	}
	return append(out, minutes)
}

// newProblem compiles a request's orders, calendar and log, so far ahead. skip tells
// tasks that are not to be placed. A task that names an unknown one is a fault of the
// caller.
func newProblem(r Request, horizon time.Duration, skip func(build, task int) bool) (*problem, error) {
	p := &problem{asOf: r.AsOf, orders: r.Orders, brushes: r.Airbrush, horizon: horizon}
	p.fluid = [2]*drying{
		newDrying(r.Calendar, false, r.AsOf, horizon),
		newDrying(r.Calendar, true, r.AsOf, horizon),
	}
	c := newCompiler(p, r.Calendar)
	p.fixedEnd = make([]int32, len(r.Orders))
	for b, o := range r.Orders {
		done := r.Log[o.Build]
		c.tasks(b, o, done, skip)
		if err := p.arrows(b, o, done); err != nil {
			return nil, err
		}
		p.weight = append(p.weight, weight(r.Orders, b))
	}
	for i := range p.jobs {
		p.minutes += float64(p.jobs[i].minutes)
	}
	for i := range p.jobs {
		// A window is open and closes before the next working time: it is done all the same.
		j := &p.jobs[i]
		soonest := max(j.release, 0)
		if j.deadline < never && soonest+j.minutes <= j.deadline {
			j.late = p.classes[j.class].first(soonest, j.minutes)+j.minutes > j.deadline
		}
	}
	return p, nil
}

// compiler gives numbers to what tasks name.
type compiler struct {
	*problem
	cal     Calendar
	evening []Span // the hands' windows
	classOf map[classKey]int32
	paintOf map[string]int32
	brushAt map[string]int32
}

func newCompiler(p *problem, cal Calendar) *compiler {
	c := &compiler{
		problem: p,
		cal:     cal,
		evening: cal.ahead(p.asOf, p.horizon),
		classOf: map[classKey]int32{},
		paintOf: map[string]int32{"": 0},
		brushAt: map[string]int32{},
	}
	p.hands = newOpenings(p.stretches(c.evening))
	p.paints = []string{""}
	for i, b := range p.brushes {
		c.brushAt[b.ID] = int32(i)
		p.nozzles = append(p.nozzles, b.nozzle(c.paint(b.Paint)))
	}
	return c
}

// class is that of the tasks with the same hours.
func (c *compiler) class(t *Task) int32 {
	place := cmp.Or(t.Place, Bench)
	key := classKey{place, t.Spray}
	if k, ok := c.classOf[key]; ok {
		return k
	}
	open := c.hands
	if rules := c.cal.Place(place); len(rules.Weekly) > 0 || rules.Least != nil || rules.Most != nil || t.Spray {
		open = newOpenings(c.stretches(meet(c.evening, c.cal.open(place, t.Spray, c.asOf, c.horizon))))
	}
	c.classOf[key] = int32(len(c.classes))
	c.classes, c.keys = append(c.classes, open), append(c.keys, key)
	return c.classOf[key]
}

func (c *compiler) paint(name string) int32 {
	if k, ok := c.paintOf[name]; ok {
		return k
	}
	c.paintOf[name] = int32(len(c.paints))
	c.paints = append(c.paints, name)
	return c.paintOf[name]
}

// tasks makes the jobs of a build.
func (c *compiler) tasks(b int, o Order, done map[string]Done, skip func(build, task int) bool) {
	first, count := make([]int32, len(o.Tasks)), make([]int32, len(o.Tasks))
	for i := range o.Tasks {
		t := &o.Tasks[i]
		first[i] = -1
		d, logged := done[t.ID]
		if logged && !d.Ended.IsZero() {
			c.fixedEnd[b] = max(c.fixedEnd[b], c.minute(d.Ended))
			continue
		}
		if skip(b, i) {
			continue
		}
		need := int32(max(t.Minutes, 1).Whole())
		parts := []int32{need}
		if logged {
			parts[0] = max(need-int32(c.asOf.Sub(d.Started).Minutes()), 5)
		} else if t.Split {
			parts = pieces(need)
		}
		first[i], count[i] = int32(len(c.jobs)), int32(len(parts))
		for _, m := range parts {
			c.jobs = append(c.jobs, c.job(b, i, t, m, logged))
		}
	}
	c.first, c.count = append(c.first, first), append(c.count, count)
}

// job is a task or a piece of one.
func (c *compiler) job(b, i int, t *Task, minutes int32, begun bool) job {
	j := job{
		build:    int32(b),
		task:     int32(i),
		minutes:  minutes,
		class:    c.class(t),
		deadline: never,
		session:  -1,
		brush:    -1,
		begun:    begun,
		fine:     t.Fine,
	}
	if !t.NotFrom.IsZero() {
		j.release = max(c.minute(t.NotFrom), 0)
	}
	// What is under way is in the airbrush already: nothing is set up for it.
	if at, ok := c.brushAt[t.Airbrush]; ok && t.Paint != "" && !begun {
		j.brush, j.paint = at, c.paint(t.Paint)
	}
	return j
}

// arrows joins the jobs of a build.
func (p *problem) arrows(b int, o Order, done map[string]Done) error {
	first, count := p.first[b], p.count[b]
	index := map[string]int{}
	for i := range o.Tasks {
		index[o.Tasks[i].ID] = i
	}
	for i := range o.Tasks {
		if first[i] < 0 {
			continue
		}
		for k := int32(1); k < count[i]; k++ {
			p.join(first[i]+k-1, first[i]+k, link{})
		}
		for k := range o.Tasks[i].After {
			a := &o.Tasks[i].After[k]
			at, ok := index[a.From]
			if !ok {
				return fmt.Errorf(
					"task %s comes after %s, which is not in its build; leave the arrow out or add the task",
					o.Tasks[i].ID,
					a.From,
				)
			}
			if err := a.check(o.Tasks[i].ID); err != nil {
				return err
			}
			p.arrow(a, first[i], first[i]+count[i]-1, at, first, count, done[a.From])
		}
	}
	return nil
}

// weight is how much a minute of a build's end counts: half of what the one before it
// in priority counts, down to a sixteenth, so that no build is forgotten.
func weight(orders []Order, at int) float64 {
	rank := 0
	for i := 0; i < at; i++ {
		if orders[i].Priority < orders[i+1].Priority {
			rank++
		}
	}
	return math.Exp2(-float64(min(rank, 4)))
}

func (p *problem) stretches(spans []Span) []stretch {
	var out []stretch
	for _, s := range spans {
		from := int32(math.Ceil(s.From.Sub(p.asOf).Minutes()))
		if to := p.minute(s.To); to > from {
			out = append(out, stretch{from, to})
		}
	}
	return out
}

// minute is an instant in minutes since asOf.
func (p *problem) minute(t time.Time) int32 { return int32(math.Floor(t.Sub(p.asOf).Minutes())) }

func (p *problem) instant(m int32) time.Time { return p.asOf.Add(time.Duration(m) * time.Minute) }

func (p *problem) join(from, to int32, l link) {
	if l.dry == nil {
		l.dry = p.fluid[0]
	}
	back := l
	l.other, back.other = from, to
	p.jobs[to].before = append(p.jobs[to].before, l)
	p.jobs[from].after = append(p.jobs[from].after, back)
}

// arrow enters an arrow: between jobs, or as release and deadline where the earlier
// task is done.
func (p *problem) arrow(a *Arrow, head, tail int32, from int, first, count []int32, done Done) {
	dry := p.fluid[0]
	if a.Water {
		dry = p.fluid[1]
	}
	if first[from] >= 0 {
		end := first[from] + count[from] - 1
		p.join(end, head, link{wait: float64(a.Wait), dry: dry, arrow: a, same: a.Same})
		if a.Most > 0 {
			p.join(end, tail, link{most: float64(a.Most), dry: dry, arrow: a, same: a.Same})
		}
		return
	}
	if done.Ended.IsZero() || done.Skipped {
		return // the earlier one has no place either, or put nothing on
	}
	end := p.minute(done.Ended)
	ready := dry.dry(end, float64(a.Wait))
	p.jobs[head].release = max(p.jobs[head].release, ready)
	p.jobs[head].fixed = append(p.jobs[head].fixed, fixed{a, ready, never})
	if a.Most > 0 && !p.jobs[tail].begun {
		closes := dry.closes(end, float64(a.Most))
		p.jobs[tail].deadline = min(p.jobs[tail].deadline, closes)
		p.jobs[tail].fixed = append(p.jobs[tail].fixed, fixed{a, 0, closes})
	}
}

// sort finds a topological order; where there is none it gives the jobs of a circle.
func (p *problem) sort() (circle []int32) {
	n := len(p.jobs)
	open := make([]int, n)
	var ready []int32
	for i := range p.jobs {
		open[i] = len(p.jobs[i].before)
		if open[i] == 0 {
			ready = append(ready, int32(i))
		}
	}
	p.order = p.order[:0]
	for len(ready) > 0 {
		j := ready[0]
		ready = ready[1:]
		p.order = append(p.order, j)
		for _, l := range p.jobs[j].after {
			if open[l.other]--; open[l.other] == 0 {
				ready = append(ready, l.other)
			}
		}
	}
	if len(p.order) == n {
		p.byBuild = make([][]int32, len(p.orders))
		for _, id := range p.order {
			b := p.jobs[id].build
			p.byBuild[b] = append(p.byBuild[b], id)
		}
		return nil
	}
	// Every job left has one before it that is left: going back ends in a circle.
	at := int32(slices.IndexFunc(open, func(k int) bool { return k > 0 }))
	seen := map[int32]int{}
	var walk []int32
	for {
		if k, ok := seen[at]; ok {
			return walk[k:]
		}
		seen[at] = len(walk)
		walk = append(walk, at)
		for _, l := range p.jobs[at].before {
			if open[l.other] > 0 {
				at = l.other
				break
			}
		}
	}
}

// open is when a job's class may be worked.
func (p *problem) open(j *job) *openings {
	if j.begun || j.late || (p.relaxed != nil && p.relaxed[j.class]) {
		return &always
	}
	return &p.classes[j.class]
}

// always is open without an end.
var always = openings{all: []stretch{{0, never}}, byDay: make([]int32, 366), long: never}

// sessionOf is the number of the session that a minute lies in or that comes next.
func (p *problem) sessionOf(t int32) int32 { return int32(p.hands.from(t)) }
