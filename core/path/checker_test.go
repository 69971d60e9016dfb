package path_test

import (
	"fmt"
	"math"
	"slices"
	"sort"
	"time"

	"cinderpath/core/path"
)

// violations checks a plan from its times alone, with code of its own: nothing here is
// shared with the scheduler.
func violations(r path.Request, s path.Schedule) []string {
	var out []string
	say := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	type use struct {
		from, to time.Time
		what     string
		task     *path.Task
		setUp    *path.SetUp
	}
	var uses []use
	for _, o := range r.Orders {
		placed := s.Placed[o.Build]
		ends := map[string]time.Time{}
		lasts := map[string]path.Span{}
		for i := range o.Tasks {
			if n := len(placed[i].Spans); n > 0 {
				ends[o.Tasks[i].ID], lasts[o.Tasks[i].ID] = placed[i].Spans[n-1].To, placed[i].Spans[n-1]
			}
		}
		for i := range o.Tasks {
			t, p := &o.Tasks[i], placed[i]
			if d, ok := r.Log[o.Build][t.ID]; ok && !d.Ended.IsZero() {
				if !p.Spans[0].To.Equal(d.Ended) {
					say("%s: what is done was moved", t.ID)
				}
				continue
			}
			if p.Failed != "" {
				continue
			}
			if len(p.Spans) == 0 {
				say("%s has no place and no reason", t.ID)
				continue
			}
			sum := 0.0
			for _, span := range p.Spans {
				sum += span.To.Sub(span.From).Minutes()
				if span.From.Before(r.AsOf) {
					say("%s is laid in the past", t.ID)
				}
				if !open(r, t, span) {
					say("%s: %s to %s is not open for it", t.ID, span.From, span.To)
				}
				uses = append(uses, use{span.From, span.To, o.Build + " " + t.ID, t, nil})
			}
			if p.SetUp != nil {
				uses = append(uses, use{p.SetUp.From, p.SetUp.To, "set-up for " + t.ID, nil, p.SetUp})
				if !p.SetUp.To.Equal(p.Spans[0].From) {
					say("%s: its set-up does not lead to it", t.ID)
				}
			}
			if math.Abs(sum-math.Ceil(float64(t.Minutes))) > 1e-9 {
				say("%s takes %.0f min instead of %.0f", t.ID, sum, t.Minutes)
			}
			if !t.Split && len(p.Spans) > 1 {
				say("%s was split", t.ID)
			}
			for _, a := range t.After {
				end, ok := ends[a.From]
				if !ok {
					say("%s is laid, what comes before it is not", t.ID)
					continue
				}
				if d := r.Log[o.Build][a.From]; d.Skipped {
					continue
				}
				if got := dried(r, end, p.Spans[0].From, a.Water); got < float64(a.Wait)-0.01 || p.Spans[0].From.Before(end) {
					say("%s begins %.1f dry minutes after %s, least %.1f", t.ID, got, a.From, a.Wait)
				}
				if got := dried(r, end, p.End(), a.Water); a.Most > 0 && got > float64(a.Most)+0.01 {
					say("%s ends %.1f dry minutes after %s, most %.1f", t.ID, got, a.From, a.Most)
				}
				if a.Same && session(r, lasts[a.From].From) != session(r, p.Spans[0].From) {
					say("%s is not in the session of %s", t.ID, a.From)
				}
			}
		}
	}
	sort.Slice(uses, func(i, k int) bool { return uses[i].from.Before(uses[k].from) })
	for i := 1; i < len(uses); i++ {
		if uses[i].from.Before(uses[i-1].to) {
			say("the hands are on %s and on %s", uses[i-1].what, uses[i].what)
		}
	}
	for _, b := range r.Airbrush {
		in, changes := b.Paint, b.Changes
		for i, u := range uses {
			if u.task == nil || u.task.Airbrush != b.ID || u.task.Paint == "" {
				continue
			}
			limit := 3
			if u.task.Fine {
				limit = 2
			}
			need, strip := 0.0, false
			switch {
			case changes >= limit:
				need, strip, changes = orElse(b.Strip, 15), true, 0
			case in != "" && in != u.task.Paint:
				need = orElse(b.Flush, 4)
				changes++
			}
			in = u.task.Paint
			var before *path.SetUp
			if i > 0 {
				before = uses[i-1].setUp
			}
			switch {
			case need == 0 && before != nil && before.To.Equal(u.from):
				say("%s has a set-up that nothing asks for", u.what)
			case need > 0 && before == nil:
				say("%s lacks its set-up", u.what)
			case need > 0 && (before.Strip != strip || before.To.Sub(before.From).Minutes() != need || before.Airbrush != b.ID):
				say("%s has the wrong set-up", u.what)
			}
		}
	}
	return out
}

func orElse(x, y float64) float64 {
	if x > 0 {
		return math.Ceil(x)
	}
	return y
}

// airOn is the room's air on a day.
func airOn(r path.Request, at time.Time, outside bool) (temperature, humidity float64) {
	days := r.Calendar.Room
	temperature, humidity = r.Calendar.Temperature, r.Calendar.Humidity
	if outside {
		if days = r.Calendar.Weather; len(days) > 0 {
			temperature, humidity = 0, 0
		}
		for _, d := range days {
			temperature += d.Temperature / float64(len(days))
			humidity += d.Humidity / float64(len(days))
		}
	}
	if midnight(at).Sub(r.AsOf) > 8*7*24*time.Hour {
		return temperature, humidity
	}
	for _, d := range days {
		if d.Date == at.Format("2006-01-02") {
			return d.Temperature, d.Humidity
		}
	}
	return temperature, humidity
}

func midnight(t time.Time) time.Time {
	return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, t.Location())
}

// dried sums the drying day by day.
func dried(r path.Request, from, to time.Time, water bool) float64 {
	sum := 0.0
	for from.Before(to) {
		next := midnight(from).AddDate(0, 0, 1)
		if next.After(to) {
			next = to
		}
		t, h := airOn(r, from, false)
		rate := math.Pow(2, (t-20)/10)
		if water {
			rate *= 2 * (1 - h)
		}
		if t < 5 {
			rate = 0
		}
		sum += rate * next.Sub(from).Minutes()
		from = next
	}
	return sum
}

// session is when the hands' window that an instant lies in begins.
func session(r path.Request, at time.Time) string {
	for _, e := range r.Calendar.Exceptions {
		if e.Date == at.Format("2006-01-02") {
			for _, w := range e.Windows {
				if within(w, at, at) {
					return e.Date + w.From
				}
			}
			return "none"
		}
	}
	for _, w := range r.Calendar.Weekly {
		if w.Day == int(at.Weekday()) && within(w, at, at) {
			return at.Format("2006-01-02") + w.From
		}
	}
	return "none"
}

// within compares wall clocks; 24:00 is the end of the day.
func within(w path.Window, from, to time.Time) bool {
	a, b := from.Format("15:04"), to.Format("15:04")
	if b == "00:00" && to.After(from) {
		b = "24:00"
	}
	return a >= w.From && b <= w.To
}

// open tells whether hands and place are there for a task in a span.
func open(r path.Request, t *path.Task, s path.Span) bool {
	same := func(list []path.Window) bool {
		return slices.ContainsFunc(
			list,
			func(w path.Window) bool { return w.Day == int(s.From.Weekday()) && within(w, s.From, s.To) },
		)
	}
	hands := same(r.Calendar.Weekly)
	for _, e := range r.Calendar.Exceptions {
		if e.Date == s.From.Format("2006-01-02") {
			hands = slices.ContainsFunc(e.Windows, func(w path.Window) bool { return within(w, s.From, s.To) })
		}
	}
	if !hands {
		return false
	}
	id := t.Place
	if id == "" {
		id = path.Bench
	}
	outside := id == path.Outdoors
	var rules path.Place
	for _, p := range r.Calendar.Places {
		if p.ID == id {
			rules, outside = p, p.Outside
		}
	}
	if len(rules.Weekly) > 0 && !same(rules.Weekly) {
		return false
	}
	temperature, humidity := airOn(r, s.From, outside)
	if (rules.Least != nil && temperature < *rules.Least) || (rules.Most != nil && temperature > *rules.Most) {
		return false
	}
	return !t.Spray || (temperature >= 10 && temperature <= 35 && humidity < 0.8)
}
