package path

import (
	"cmp"
	"time"
)

// placed gives a task with its times.
func (p *problem) placed(b, i int, t *timing, o *standing, cal Calendar) Placed {
	task := &o.Tasks[i]
	out := Placed{Task: task.ID}
	for _, a := range task.After {
		out.Waits = append(out.Waits, p.wait(a, t, b, o, cal))
	}
	d, logged := o.log[task.ID]
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
			if d, ok := o.log[a.From]; ok && a.Most > 0 && !d.Ended.IsZero() && !d.Skipped {
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
func (p *problem) wait(a Arrow, t *timing, b int, o *standing, cal Calendar) float64 {
	if a.Wait <= 0 {
		return 0
	}
	dry := p.fluid[0]
	if a.Water {
		dry = p.fluid[1]
	}
	end := int32(0)
	if d, ok := o.log[a.From]; ok && !d.Ended.IsZero() {
		if d.Skipped {
			return 0
		}
		end = p.minute(d.Ended)
	} else if i, ok := o.index[a.From]; ok && p.first[b][i] >= 0 {
		end = t.end[p.first[b][i]+p.count[b][i]-1]
	}
	until := dry.dry(end, float64(a.Wait))
	if until >= never || cal.Rate(a.Water) <= 0 && len(cal.Room) == 0 {
		return -1
	}
	return float64(until - end)
}

// standing is what is needed of an order to say where each of its tasks stands at an instant.
type standing struct {
	Order
	log   map[string]Done
	index map[string]int // of tasks
	late  []bool         // by task: it lies outside of the hours
	asOf  time.Time
	hands openings // from asOf on
}

func (p *problem) standing(b int, log map[string]Done) standing {
	out := standing{
		Order: p.orders[b], log: log, index: map[string]int{}, late: make([]bool, len(p.orders[b].Tasks)),
		asOf: p.asOf, hands: p.hands,
	}
	for i, t := range out.Tasks {
		out.index[t.ID] = i
		first := p.first[b][i]
		out.late[i] = first >= 0 && p.jobs[first].late
	}
	return out
}

// session is the number of the one in which an instant lies or that comes next.
func (o *standing) session(t time.Time) int {
	return o.hands.from(minutesSince(o.asOf, t))
}

// states says of each task where it stands, what set its place and when what waits for
// it may begin.
func (o *standing) states(placed []Placed, now time.Time) {
	tasks, index := o.Tasks, o.index
	over := func(i int) bool { return placed[i].Status == IsDone || placed[i].Status == IsSkipped }
	for i := range tasks {
		if over(i) {
			continue
		}
		at := &placed[i]
		at.Status, at.Why = IsReady, "the hands are free"
		latest := now
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
			} else if dry.After(now) && at.Status != IsBlocked {
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
		if _, begun := o.log[tasks[i].ID]; begun {
			at.Status, at.Until, at.Why = IsNow, time.Time{}, "begun, from the log"
			continue
		}
		if o.late[i] {
			at.Why = "outside your hours: its window closes at " + at.Closes.Format("15:04")
			continue
		}
		if len(at.Spans) > 0 && len(tasks[i].After) > 0 && at.Spans[0].From.After(latest) &&
			o.session(latest) != o.session(at.Spans[0].From) {
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
			if over(index[a.From]) && !over(i) && dry.After(now) {
				from.Status = IsDrying
				if from.Until.IsZero() || dry.Before(from.Until) {
					from.Until = dry
				}
			}
		}
	}
}
