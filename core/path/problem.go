package path

import (
	"math"
	"slices"
	"time"
)

// never is beyond every horizon, minutes.
const never int32 = math.MaxInt32 / 4

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
// planned; the last is up to half as long again. Of pieces twice as long sessions are filled less well:
// several builds end half a percent later.
const pieceMinutes = 10

func pieces(minutes int32) []int32 {
	var out []int32
	for minutes >= pieceMinutes*3/2 {
		out = append(out, pieceMinutes)
		minutes -= pieceMinutes
	}
	return append(out, minutes)
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
func (p *problem) minute(t time.Time) int32 { return minutesSince(p.asOf, t) }

func minutesSince(asOf, t time.Time) int32 { return int32(math.Floor(t.Sub(asOf).Minutes())) }

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

// sessionOf is the number of the session that a minute lies in or that comes next.
func (p *problem) sessionOf(t int32) int32 { return int32(p.hands.from(t)) }
