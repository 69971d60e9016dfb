package path

import (
	"cmp"
	"fmt"
	"math"
	"time"
)

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
