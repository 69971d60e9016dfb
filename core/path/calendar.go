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

// Air is what the air is like on one date.
type Air struct {
	Date        string  `json:"date"`
	Temperature float64 `json:"temperatureC"`
	Humidity    float64 `json:"humidity"` // 0 to 1
}

// PlaceID names a place where work is done.
type PlaceID string

// The places. A workshop may give each hours and limits.
const (
	Bench    PlaceID = "bench"
	Booth    PlaceID = "booth"
	Outdoors PlaceID = "outdoors"
)

// Places lists them.
var Places = []PlaceID{Bench, Booth, Outdoors}

// Place is where some of the work is done, with its own hours and limits.
type Place struct {
	ID      PlaceID  `json:"id"`   // bench, booth or outdoors
	Name    string   `json:"name"` // such as garage
	Weekly  []Window `json:"weekly"`
	Outside bool     `json:"outside"` // its air is the weather's, not the room's
	Vapour  bool     `json:"vapour"`  // lacquers and spray cans are allowed there
	Least   *float64 `json:"leastC,omitempty"`
	Most    *float64 `json:"mostC,omitempty"`
}

// Calendar is the week of the workshop, its places and the air in them.
type Calendar struct {
	Weekly      []Window    `json:"weekly"`
	Exceptions  []Exception `json:"exceptions,omitempty"`
	Temperature float64     `json:"temperatureC"` // of the room on most days, its yearly mean
	Humidity    float64     `json:"humidity"`     // 0 to 1
	Room        []Air       `json:"room,omitempty"`
	Weather     []Air       `json:"weather,omitempty"` // outside
	Places      []Place     `json:"places,omitempty"`
}

// Coldest is the temperature below which nothing dries; spraying is planned only
// between sprayColdest and sprayHottest, °C, and below sprayDampest.
const (
	Coldest      = 5.0
	sprayColdest = 10.0
	sprayHottest = 35.0
	sprayDampest = 0.8
)

// ahead is how far weather is believed; later the mean counts.
const ahead = 8 * 7 * 24 * time.Hour

// mean is the air of the room on days that nothing is typed for.
func (c Calendar) mean() Air { return Air{Temperature: c.Temperature, Humidity: c.Humidity} }

// Rate is how much faster than at 20 °C and 50 % humidity things dry in the room's
// usual air.
func (c Calendar) Rate(water bool) float64 { return c.mean().rate(water) }

// rate is 2^((T − 20)/10), for water also × (1 − RH)/0.5; 0 below 5 °C.
func (a Air) rate(water bool) float64 {
	if a.Temperature < Coldest {
		return 0
	}
	r := math.Exp2((a.Temperature - 20) / 10)
	if water {
		r *= (1 - a.Humidity) / 0.5
	}
	return r
}

// On is the room's air on a date, as planned from asOf.
func (c Calendar) On(date, asOf time.Time) Air { return on(c.Room, c.mean(), date, asOf) }

// outside is the weather's on a date; where none is typed, the mean of what is.
func (c Calendar) outside(date, asOf time.Time) Air {
	usual := c.mean()
	if n := float64(len(c.Weather)); n > 0 {
		usual = Air{}
		for _, d := range c.Weather {
			usual.Temperature += d.Temperature / n
			usual.Humidity += d.Humidity / n
		}
	}
	return on(c.Weather, usual, date, asOf)
}

func on(days []Air, usual Air, date, asOf time.Time) Air {
	if date.Sub(asOf) <= ahead {
		key := date.Format(time.DateOnly)
		if i := slices.IndexFunc(days, func(d Air) bool { return d.Date == key }); i >= 0 {
			return days[i]
		}
	}
	return usual
}

// Place looks a place up; one that the workshop says nothing about is always open.
func (c Calendar) Place(id PlaceID) Place {
	for _, p := range c.Places {
		if p.ID == id {
			return p
		}
	}
	return Place{ID: id, Name: string(id), Outside: id == Outdoors, Vapour: id != Bench}
}

// suits tells whether the air of a place allows work on a date; spraying has limits
// of its own.
func (c Calendar) suits(p Place, spray bool, date, asOf time.Time) bool {
	air := c.On(date, asOf)
	if p.Outside {
		air = c.outside(date, asOf)
	}
	switch {
	case p.Least != nil && air.Temperature < *p.Least, p.Most != nil && air.Temperature > *p.Most:
		return false
	case spray:
		return air.Temperature >= sprayColdest && air.Temperature <= sprayHottest && air.Humidity < sprayDampest
	default:
		return true
	}
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
	for i, p := range c.Places {
		switch {
		case !slices.Contains(Places, p.ID):
			return fmt.Errorf("%q is not a place of work; use bench, booth or outdoors", p.ID)
		case slices.ContainsFunc(c.Places[:i], func(q Place) bool { return q.ID == p.ID }):
			return fmt.Errorf("the %s is given twice; keep one", p.ID)
		case p.Least != nil && p.Most != nil && *p.Least > *p.Most:
			return fmt.Errorf("the %s is to be above %.0f °C and below %.0f °C; swap them", p.ID, *p.Least, *p.Most)
		}
		all = append(all, p.Weekly...)
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
			return fmt.Errorf(
				"an evening from %s to %s ends before it begins; swap them, or make two of it at midnight",
				w.From,
				w.To,
			)
		}
	}
	for _, d := range slices.Concat(c.Room, c.Weather, []Air{c.mean()}) {
		if _, err := time.Parse(time.DateOnly, d.Date); err != nil && d != c.mean() {
			return fmt.Errorf("%q is not a date; write it like 2026-11-23", d.Date)
		}
		switch {
		case !(d.Temperature >= -30 && d.Temperature <= 50):
			return fmt.Errorf("room temperature %.0f °C; give -30 to 50", d.Temperature)
		case !(d.Humidity >= 0 && d.Humidity < 1):
			return fmt.Errorf("humidity %.0f %%; give 0 to 99", 100*d.Humidity)
		}
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

// Evenings lists the hands' windows of the next half year from an instant on, in its
// location.
func (c Calendar) Evenings(from time.Time) []Span { return c.ahead(from, usualHorizon) }

// ahead lists the hands' windows within so long.
func (c Calendar) ahead(from time.Time, horizon time.Duration) []Span {
	return windows(from, horizon, func(date time.Time) []Window {
		if i := slices.IndexFunc(
			c.Exceptions,
			func(e Exception) bool { return e.Date == date.Format(time.DateOnly) },
		); i >= 0 {
			return allDays(c.Exceptions[i].Windows, date)
		}
		return c.Weekly
	})
}

// allDays turns the windows of an exception, whose weekday says nothing, to its date.
func allDays(all []Window, date time.Time) []Window {
	out := slices.Clone(all)
	for i := range out {
		out[i].Day = int(date.Weekday())
	}
	return out
}

// Open lists when a place may be worked in in the next half year, whether or not the hands
// are there.
func (c Calendar) Open(id PlaceID, spray bool, from time.Time) []Span {
	return c.open(id, spray, from, usualHorizon)
}

func (c Calendar) open(id PlaceID, spray bool, from time.Time, horizon time.Duration) []Span {
	p := c.Place(id)
	whole := make([]Window, 7)
	for d := range whole {
		whole[d] = Window{Day: d, From: "00:00", To: "24:00"}
	}
	weekly := p.Weekly
	if len(weekly) == 0 {
		weekly = whole
	}
	return windows(from, horizon, func(date time.Time) []Window {
		if !c.suits(p, spray, date, from) {
			return nil
		}
		return weekly
	})
}

// windows lays each date's windows from an instant on; those that touch are one.
func windows(from time.Time, horizon time.Duration, of func(date time.Time) []Window) []Span {
	var out []Span
	year, month, day := from.Date()
	for k := 0; ; k++ {
		date := time.Date(year, month, day+k, 0, 0, 0, 0, from.Location())
		if date.Sub(from) > horizon {
			break
		}
		var today []Span
		for _, w := range of(date) {
			if w.Day != int(date.Weekday()) {
				continue
			}
			at := func(s string) time.Time {
				m, _ := clock(s)
				// As a wall clock, so that a change of clocks does not shift the evening.
				return time.Date(date.Year(), date.Month(), date.Day(), 0, m, 0, 0, from.Location())
			}
			if span := (Span{at(w.From), at(w.To)}); span.To.After(from) {
				today = append(today, span)
			}
		}
		slices.SortFunc(today, func(a, b Span) int { return a.From.Compare(b.From) })
		for _, s := range today {
			if n := len(out); n > 0 && !s.From.After(out[n-1].To) {
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
