package path

import (
	"fmt"
	"time"

	"cinderpath/core/unit"
)

// usualHorizon is how far ahead work is laid where that is far enough; mostHorizon where
// few hours a week make it long. What does not fit into that either is told.
const (
	week         = 7 * 24 * time.Hour
	usualHorizon = 26 * week
	mostHorizon  = 520 * week
)

// horizonFor is how far ahead the hours must be looked at to do so much work: there must
// be twice the hours, since drying leaves some of them unused.
func (c Calendar) horizonFor(work unit.Minutes, asOf time.Time) time.Duration {
	hours := minutesIn(c.ahead(asOf, usualHorizon))
	if hours <= 0 {
		return usualHorizon
	}
	times := time.Duration(2*work/hours) + 1
	return min(times, mostHorizon/usualHorizon) * usualHorizon
}

func minutesIn(spans []Span) (sum unit.Minutes) {
	for _, s := range spans {
		sum += unit.MinutesOf(s.To.Sub(s.From))
	}
	return sum
}

// left is the hands-on work of an order that the log does not tell of.
func (o Order) left(done map[string]Done) (sum unit.Minutes) {
	for _, t := range o.Tasks {
		if d, logged := done[t.ID]; !logged || d.Ended.IsZero() {
			sum += max(t.Minutes, 1)
		}
	}
	return sum
}

// span is how far ahead the work is laid, and the orders, least urgent first, for which
// the hours are too few even then: those are told, and the rest is planned.
func (r Request) span(orders []Order) (horizon time.Duration, over []int, hours unit.Minutes) {
	work := unit.Minutes(0)
	for _, o := range orders {
		work += o.left(r.Log[o.Build])
	}
	horizon = r.Calendar.horizonFor(work, r.AsOf)
	if horizon < mostHorizon {
		return horizon, nil, 0
	}
	hours = minutesIn(r.Calendar.ahead(r.AsOf, horizon))
	for i := len(orders) - 1; i >= 0 && work > usable*hours; i-- {
		over = append(over, i)
		work -= orders[i].left(r.Log[orders[i].Build])
	}
	return horizon, over, hours
}

// usable is the part of few hours that work of many pieces can fill.
const usable = 0.8

// tooMuch tells of an order that the hours are too few for.
func (o Order) tooMuch(work, hours unit.Minutes) Conflict {
	return Conflict{Proven: true, Reasons: []Reason{
		{Build: o.Build, Place: Bench, Words: fmt.Sprintf(
			"your hours leave %.0f h in the next ten years, and the builds before this one take them: add weekly hours",
			float64(hours/unit.Hour),
		)},
		{Build: o.Build, Words: fmt.Sprintf("it needs %.0f h more", float64(work/unit.Hour))},
	}}
}
