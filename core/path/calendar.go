package path

import (
	"fmt"
	"math"
	"slices"
	"time"
)

// Window is a stretch of working time on a weekday (0 is Sunday), "20:00" to "22:30".
type Window struct {
	Day  int    `json:"day"`
	From string `json:"from"`
	To   string `json:"to"`
}

// Exception replaces the windows of one date, "2026-11-23". No windows: no work.
type Exception struct {
	Date    string   `json:"date"`
	Windows []Window `json:"windows"`
}

// Calendar is the week of the workshop and the air in it.
type Calendar struct {
	Weekly      []Window    `json:"weekly"`
	Exceptions  []Exception `json:"exceptions,omitempty"`
	Temperature float64     `json:"temperatureC"`
	Humidity    float64     `json:"humidity"` // 0 to 1
}

// Coldest is the temperature below which nothing dries, °C.
const Coldest = 5.0

// Rate is how much faster than at 20 °C and 50 % humidity things dry:
// 2^((T − 20)/10), for water also × (1 − RH)/0.5; 0 below 5 °C.
func (c Calendar) Rate(water bool) float64 {
	if c.Temperature < Coldest {
		return 0
	}
	r := math.Exp2((c.Temperature - 20) / 10)
	if water {
		r *= (1 - c.Humidity) / 0.5
	}
	return r
}

// Check reports the first thing in the calendar that cannot be.
func (c Calendar) Check() error {
	all := slices.Clone(c.Weekly)
	for _, e := range c.Exceptions {
		if _, err := time.Parse(time.DateOnly, e.Date); err != nil {
			return fmt.Errorf("exception %q is not a date; write it like 2026-11-23", e.Date)
		}
		all = append(all, e.Windows...)
	}
	for _, w := range all {
		from, okFrom := clock(w.From)
		to, okTo := clock(w.To)
		switch {
		case w.Day < 0 || w.Day > 6:
			return fmt.Errorf("weekday %d does not exist; 0 is Sunday, 6 Saturday", w.Day)
		case !okFrom || !okTo:
			return fmt.Errorf("%q to %q are not times of day; write them like 20:00", w.From, w.To)
		case to <= from:
			return fmt.Errorf("an evening from %s to %s ends before it begins", w.From, w.To)
		}
	}
	switch {
	case !(c.Temperature >= -30 && c.Temperature <= 50):
		return fmt.Errorf("room temperature %.0f °C: give -30 to 50", c.Temperature)
	case !(c.Humidity >= 0 && c.Humidity < 1):
		return fmt.Errorf("humidity %.0f %%: give 0 to 99", 100*c.Humidity)
	}
	return nil
}

func clock(s string) (minutes int, ok bool) {
	t, err := time.Parse("15:04", s)
	if err != nil {
		if s == "24:00" {
			return 24 * 60, true
		}
		return 0, false
	}
	return t.Hour()*60 + t.Minute(), true
}

// Span is a stretch of time.
type Span struct {
	From time.Time `json:"from"`
	To   time.Time `json:"to"`
}

// horizon is how far ahead work is laid.
const horizon = 26 * 7 * 24 * time.Hour

// Evenings lists the working windows from an instant on, in its location.
func (c Calendar) Evenings(from time.Time) []Span {
	var out []Span
	year, month, day := from.Date()
	for k := 0; ; k++ {
		date := time.Date(year, month, day+k, 0, 0, 0, 0, from.Location())
		if date.Sub(from) > horizon {
			break
		}
		windows := c.Weekly
		weekday := int(date.Weekday())
		if i := slices.IndexFunc(c.Exceptions, func(e Exception) bool { return e.Date == date.Format(time.DateOnly) }); i >= 0 {
			windows, weekday = c.Exceptions[i].Windows, -1
		}
		var today []Span
		for _, w := range windows {
			if weekday >= 0 && w.Day != weekday {
				continue
			}
			at := func(s string) time.Time {
				m, _ := clock(s)
				return time.Date(date.Year(), date.Month(), date.Day(), 0, m, 0, 0, from.Location())
			}
			if span := (Span{at(w.From), at(w.To)}); span.To.After(from) {
				today = append(today, span)
			}
		}
		slices.SortFunc(today, func(a, b Span) int { return a.From.Compare(b.From) })
		for _, s := range today {
			if n := len(out); n > 0 && !s.From.After(out[n-1].To) { // windows that touch or overlap are one
				if s.To.After(out[n-1].To) {
					out[n-1].To = s.To
				}
				continue
			}
			out = append(out, s)
		}
	}
	if len(out) > 0 && out[0].From.Before(from) {
		out[0].From = from
	}
	return out
}
