package sheets

import (
	"fmt"
	"image"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/plan"

	ics "github.com/arran4/golang-ical"
)

const dayFace = "Monday 2 January 2006"

// WriteDiary prints the record of a build; picture gives a photograph by its hash.
func WriteDiary(w io.Writer, d plan.Diary, p Paper, picture func(hash string) (image.Image, bool)) error {
	b := newBook(p, d.Name+", "+d.Scale+": diary")
	b.say(20, true, 0, d.Name+", "+d.Scale)
	b.say(10, false, 0, d.Story)
	b.gap(3, false)
	if d.Planned > 0 {
		b.say(10, false, 0, fmt.Sprintf("%s planned for what is done, %s real.", d.Planned, d.Real))
	}
	if len(d.Products) > 0 {
		b.say(10, false, 0, "Used: "+strings.Join(d.Products, "; ")+".")
	}
	for _, c := range d.Coats {
		b.say(10, false, 0, "Sides differ: "+c+".")
	}
	for _, day := range d.Days {
		b.gap(6, true)
		b.need(16)
		date, err := time.Parse(time.DateOnly, day.Date)
		if err != nil {
			return err
		}
		b.say(12, true, 0, date.Format(dayFace))
		for _, l := range day.Lines {
			b.say(10, l.Kind == document.Mishap, 0, l.At.Format("15:04")+"  "+l.Title)
			if l.Real > 0 && l.Planned > 0 {
				b.say(9, false, 12, fmt.Sprintf("%.0f min; planned %.0f", l.Real, l.Planned))
			}
			for _, words := range []string{l.Product, l.Words, strings.Join(l.Checks, "; ")} {
				b.say(9, false, 12, words)
			}
			for _, m := range l.Measured {
				b.say(9, false, 12, m.Name+": "+m.Value)
			}
			if l.Coats != nil {
				b.say(9, false, 12, fmt.Sprintf("coats: %d left, %d right", l.Coats.Left, l.Coats.Right))
			}
			if l.Photo != "" && picture != nil {
				if img, ok := picture(l.Photo); ok {
					b.picture(img, 90, 60)
				}
			}
		}
	}
	if len(d.Lessons) > 0 {
		b.gap(6, true)
		b.say(12, true, 0, "Learned")
		for _, r := range d.Lessons {
			b.say(10, false, 0, r.Title+": "+r.Note)
		}
	}
	for _, l := range d.Learned {
		b.say(9, false, 0, l.Words)
	}
	return b.write(w)
}

// WriteCards prints the open steps of a plan as cards for the bench.
func WriteCards(w io.Writer, p plan.Plan, paper Paper) error {
	b := newBook(paper, p.Name+", "+p.Scale+": bench cards")
	open := slices.DeleteFunc(slices.Clone(p.Steps), func(s plan.Step) bool { return s.Status.Over() })
	slices.SortStableFunc(open, plan.Sooner)
	for _, s := range open {
		b.need(42)
		b.say(15, true, 0, s.Title)
		when := s.Failed
		if len(s.Spans) > 0 {
			when = s.Spans[0].From.Format("Mon 2 Jan 15:04")
		}
		b.say(10, false, 0, fmt.Sprintf("%s, %.0f min, %s, %s", when, s.Minutes, s.Room, p.Name))
		for _, x := range [][2]string{
			{"Jar", s.Product},
			{"Amount", s.Amount},
			{"Mix", s.Mix},
			{"Airbrush", s.Air},
			{"Where", s.Where},
			{"Work", s.Work},
			{"Then it dries", strings.Join(s.Dries, ", ")},
			{"Take", strings.Join(s.Tools, ", ")},
		} {
			if x[1] != "" {
				b.say(10, false, 4, x[0]+": "+x[1])
			}
		}
		for _, c := range s.Checks {
			b.tick(10, 4, c)
		}
		for _, c := range s.Cautions {
			b.say(9, false, 4, c)
		}
		b.gap(7, true)
	}
	return b.write(w)
}

// WriteTasks writes the steps of a plan as a table.
func WriteTasks(w io.Writer, p plan.Plan) error {
	rows := [][]string{
		{"id", "stage", "title", "status", "minutes", "from", "to", "place", "product", "airbrush", "after", "rules", "why"},
	}
	for _, s := range p.Steps {
		var after, rules []string
		for _, a := range s.After {
			after = append(after, a.From)
			if a.Rule != "" {
				rules = append(rules, a.Rule)
			}
		}
		from, to := "", ""
		if len(s.Spans) > 0 {
			from, to = s.Spans[0].From.Format(time.RFC3339), s.End().Format(time.RFC3339)
		}
		rows = append(
			rows,
			[]string{
				s.ID,
				s.Stage,
				s.Title,
				string(s.Status),
				strconv.Itoa(int(math.Round(float64(s.Minutes)))),
				from,
				to,
				s.Room,
				s.Product,
				s.Airbrush,
				strings.Join(after, " "),
				strings.Join(rules, " "),
				s.Why,
			},
		)
	}
	if err := writeTable(w, rows); err != nil {
		return fmt.Errorf("tasks: %w", err)
	}
	return nil
}

// WriteCalendar writes the sessions of a build as an iCalendar file, each with its steps;
// a step that must be finished before a window closes has an alarm three minutes before.
// Instants are written in UTC, so that they are right across a change of clocks.
func WriteCalendar(w io.Writer, e plan.Evenings, p plan.Plan) error {
	cal := ics.NewCalendarFor("cinderpath")
	cal.SetMethod(ics.MethodPublish)
	cal.SetName(p.Name)
	for _, s := range e.Sessions {
		var lines []plan.Line
		for _, l := range s.Lines {
			if l.Build == p.Build {
				lines = append(lines, l)
			}
		}
		if len(lines) == 0 {
			continue
		}
		first, last := lines[0].From, lines[len(lines)-1].To
		event := cal.AddEvent(fmt.Sprintf("%s-%d@cinderpath", p.Build, first.Unix()))
		event.SetDtStampTime(e.AsOf)
		event.SetStartAt(first)
		event.SetEndAt(last)
		event.SetSummary(fmt.Sprintf("%s: %s", p.Name, summary(lines)))
		var words []string
		for _, l := range lines {
			words = append(words, l.From.Format("15:04")+" "+l.Title)
		}
		event.SetDescription(strings.Join(words, "\n"))
		for _, l := range lines {
			if l.Closes.IsZero() {
				continue
			}
			alarm := event.AddAlarm()
			alarm.SetAction(ics.ActionDisplay)
			alarm.SetTrigger(l.Closes.Add(-3*time.Minute).UTC().Format("20060102T150405Z"), ics.WithValue("DATE-TIME"))
			alarm.SetProperty(ics.ComponentPropertyDescription, l.Title+": its window closes "+l.Closes.Format("15:04"))
		}
	}
	return cal.SerializeTo(w) //nolint:misspell // its name there
}

func summary(lines []plan.Line) string {
	n := 0
	for _, l := range lines {
		if l.SetUp == nil {
			n++
		}
	}
	if n == 1 {
		return lines[len(lines)-1].Title
	}
	return fmt.Sprintf("%s and %d more", lines[0].Title, n-1)
}
