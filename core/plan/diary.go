package plan

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/unit"
)

// Diary is the record of a build: what was done, day by day, planned and real.
type Diary struct {
	Name     string        `json:"name"`
	Scale    string        `json:"scale"`
	Story    string        `json:"story,omitempty"`
	Days     []DiaryDay    `json:"days"`
	Planned  unit.Minutes  `json:"plannedMin"` // of the steps that are done
	Real     unit.Minutes  `json:"realMin"`
	Products []string      `json:"products"`
	Learned  []LearnedLine `json:"learned"`
	Lessons  []Reminder    `json:"lessons"`
	Coats    []string      `json:"coats"` // left and right compared
}

// DiaryDay is one day of it.
type DiaryDay struct {
	Date  string      `json:"date"`
	Lines []DiaryLine `json:"lines"`
}

// DiaryLine is one thing that happened.
type DiaryLine struct {
	At       time.Time           `json:"at"`
	Kind     string              `json:"kind"`
	Title    string              `json:"title"`
	Words    string              `json:"words"`
	Planned  unit.Minutes        `json:"plannedMin,omitempty"`
	Real     unit.Minutes        `json:"realMin,omitempty"`
	Product  string              `json:"product,omitempty"`
	Photo    string              `json:"photo,omitempty"`
	Checks   []string            `json:"checks,omitempty"`
	Measured []document.Measured `json:"measured,omitempty"`
	Coats    *document.Coats     `json:"coats,omitempty"`
}

// LearnedLine is what the log says of a kind of step.
type LearnedLine struct {
	Kind   string  `json:"kind"`
	Count  int     `json:"count"`
	Factor float64 `json:"factor"`
	Words  string  `json:"words"`
}

// DiaryOf writes the record of one of several builds, in the zone of an instant.
func DiaryOf(items []document.Item, at int, zone *time.Location) Diary {
	item := items[at]
	b := item.Build
	d := Diary{
		Name:     b.Name,
		Scale:    b.Scale.String(),
		Story:    b.Story,
		Days:     []DiaryDay{},
		Products: []string{},
		Learned:  []LearnedLine{},
		Lessons:  []Reminder{},
		Coats:    []string{},
	}
	begun := map[string]time.Time{}
	for _, e := range item.Log {
		local := e.At.In(zone)
		line := DiaryLine{
			At:       local,
			Kind:     e.Kind,
			Title:    e.Title,
			Product:  e.Product,
			Photo:    e.Photo,
			Checks:   e.Checks,
			Measured: e.Measured,
			Coats:    e.Coats,
			Words:    e.Note,
		}
		switch e.Kind {
		case document.Started:
			begun[e.Task] = e.At
			continue // its end tells it
		case document.Finished:
			if from, ok := begun[e.Task]; ok {
				line.Real = unit.MinutesOf(e.At.Sub(from))
			}
			line.Planned = e.Planned
			d.Planned += line.Planned
			if line.Planned > 0 {
				d.Real += line.Real
			}
		case document.Mishap:
			m, _ := bench.MishapOf(e.Mishap)
			done := map[string]string{document.Repair: m.Words, document.Leave: "left; " + m.Leave}[e.Choice]
			line.Words = strings.TrimSpace(fmt.Sprintf("%s: %s. %s", m.Name, done, e.Note))
		case document.Skipped:
			line.Words = "left out. " + e.Note
		case document.Repeated:
			line.Words = "to be done once more. " + e.Note
		case document.Undone:
			line.Words = "opened again"
		}
		if e.Product != "" && e.Kind == document.Finished && !slices.Contains(d.Products, e.Product) {
			d.Products = append(d.Products, e.Product)
		}
		if c := e.Coats; c != nil && c.Left != c.Right {
			d.Coats = append(d.Coats, fmt.Sprintf("%s: %d coats left, %d right", e.Title, c.Left, c.Right))
		}
		date := local.Format(time.DateOnly)
		if n := len(d.Days); n == 0 || d.Days[n-1].Date != date {
			d.Days = append(d.Days, DiaryDay{Date: date})
		}
		last := &d.Days[len(d.Days)-1]
		last.Lines = append(last.Lines, line)
	}
	own := learned(items)
	for _, k := range bench.Kinds() {
		if l, ok := own[k.ID]; ok {
			name := strings.TrimSpace(strings.ReplaceAll(cmp.Or(k.Name, strings.ReplaceAll(k.ID, "_", " ")), "%s", "…"))
			d.Learned = append(
				d.Learned,
				LearnedLine{
					k.ID,
					l.Count,
					l.Factor,
					fmt.Sprintf("%s: × %.2f of the table, from %d of your steps", name, l.Factor, l.Count),
				},
			)
		}
	}
	for _, r := range lessons(items) {
		if r.Build == b.ID {
			d.Lessons = append(d.Lessons, r)
		}
	}
	return d
}
