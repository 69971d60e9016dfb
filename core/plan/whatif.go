package plan

import (
	"context"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/path"
	"cinderpath/core/rule"
	"cinderpath/core/unit"
)

// WhatIf asks what a change would do, before it is taken: another evening a week, a
// warmer room, another school.
type WhatIf struct {
	Kind    string  `json:"kind"` // evening, warmer, school
	Day     int     `json:"day"`
	From    string  `json:"from"`
	To      string  `json:"to"`
	Degrees float64 `json:"degrees"`
	School  string  `json:"school"`
	Answer  string  `json:"answer"`
}

// Outcome is what comes out for a build.
type Outcome struct {
	Words    string       `json:"words"`
	Ends     time.Time    `json:"ends,omitzero"`
	Sessions int          `json:"sessions"` // in which the build is worked on
	Steps    int          `json:"steps"`    // that are open
	Minutes  unit.Minutes `json:"minutes"`  // hands on, open
	Changes  int          `json:"changes"`  // of colour, over all builds
}

// Compared is now and then, side by side.
type Compared struct {
	Now     Outcome       `json:"now"`
	Then    Outcome       `json:"then"`
	Changes []path.Change `json:"changes"`

	Workshop document.Workshop `json:"workshop"` // as it would be: kept when it is taken
}

// Apply makes the change on copies.
func (q WhatIf) Apply(w document.Workshop, b document.Build) (document.Workshop, document.Build, error) {
	switch q.Kind {
	case "evening":
		w.Calendar.Weekly = append(slices.Clone(w.Calendar.Weekly), path.Window{Day: q.Day, From: q.From, To: q.To})
	case "warmer":
		if !(math.Abs(q.Degrees) <= 20) || q.Degrees == 0 {
			return w, b, measure.Refuse(
				"degrees",
				fmt.Sprintf("%.0f degrees", q.Degrees),
				"give 1 to 20, with a minus for colder",
			)
		}
		w.Calendar.Temperature += q.Degrees
		w.Calendar.Room = slices.Clone(w.Calendar.Room)
		for i := range w.Calendar.Room {
			w.Calendar.Room[i].Temperature += q.Degrees
		}
	case "school":
		b.Schools = maps.Clone(b.Schools)
		if b.Schools == nil {
			b.Schools = map[string]string{}
		}
		b.Schools[q.School] = q.Answer // what of the stack follows from it needs to know what is laid: Compare
	default:
		return w, b, measure.Refuse("kind", fmt.Sprintf("%q is nothing to try", q.Kind), "use evening, warmer or school")
	}
	if err := w.Check(); err != nil {
		return w, b, err
	}
	return w, b, b.Check()
}

// Compare derives now and then for a build.
func (d *Deriver) Compare(
	ctx context.Context,
	w document.Workshop,
	items []document.Item,
	id string,
	q WhatIf,
	asOf time.Time,
) (Compared, error) {
	at := slices.IndexFunc(items, func(i document.Item) bool { return i.Build.ID == id })
	if at < 0 {
		return Compared{}, measure.Refuse("id", "there is no such build", "choose one of the workshop")
	}
	other, b, err := q.Apply(w, items[at].Build)
	if err != nil {
		return Compared{}, err
	}
	if q.Kind == "school" {
		n := 0
		edit := document.Edit{Op: document.SetSchool, School: q.School, Text: q.Answer}
		b, err = d.Apply(
			other,
			items[at],
			[]document.Edit{edit},
			func() string { n++; return fmt.Sprintf("tried-%d", n) },
			asOf,
		)
		if err != nil {
			return Compared{}, err
		}
	}
	changed := slices.Clone(items)
	changed[at] = changed[at].With(b)
	now, err := d.For(ctx, w, items, asOf)
	if err != nil {
		return Compared{}, err
	}
	then, err := d.For(ctx, other, changed, asOf)
	if err != nil {
		return Compared{}, err
	}
	out := Compared{
		Now:      outcome(now, at),
		Then:     outcome(then, at),
		Changes:  Differences(now.Plans[at], then.Plans[at]),
		Workshop: other,
	}
	return out, nil
}

func outcome(a All, at int) Outcome {
	p := a.Plans[at]
	out := Outcome{Ends: p.Ends, Changes: a.Evenings.Changes}
	for _, s := range p.Steps {
		if !s.Status.Over() {
			out.Steps++
			out.Minutes += s.Minutes
		}
	}
	for _, s := range a.Evenings.Sessions {
		if slices.ContainsFunc(s.Lines, func(l Line) bool { return l.Build == p.Build }) {
			out.Sessions++
		}
	}
	out.Words = fmt.Sprintf(
		"ends %s: %d steps, %.1f h of work in %d sessions, %d changes of colour",
		p.Ends.Format("Mon 2 Jan"),
		out.Steps,
		out.Minutes/60,
		out.Sessions,
		out.Changes,
	)
	if len(p.Conflicts) > 0 {
		out.Words = "some steps have no place: " + p.Conflicts[0]
	}
	return out
}

// Changes tells two plans of one build apart in words.
func Changes(before, after Plan) []path.Change {
	titles := map[string]string{}
	list := func(p Plan) []path.Placed {
		var out []path.Placed
		for _, s := range p.Steps {
			titles[s.ID] = s.Title
			placed := s.Placed
			placed.Task = s.ID
			out = append(out, placed)
		}
		return out
	}
	a, b := list(before), list(after)
	out := path.Changes(a, b, func(id string) string { return titles[id] })
	if out == nil {
		out = []path.Change{}
	}
	return append(worked(before, after), out...) // with what one works stands before when
}

// Differences tells two plans of one build apart which nothing was done between: besides the changes,
// what takes longer, what is said at a step, what advises and no longer stops, and whether the vehicle will
// look otherwise.
func Differences(before, after Plan) []path.Change {
	out := Changes(before, after)
	told := map[string]bool{} // with its minutes
	for _, c := range worked(before, after) {
		told[c.Task] = true
	}
	was := map[string]Step{}
	for _, s := range before.Steps {
		was[s.ID] = s
	}
	stops := [2]int{}
	for _, s := range after.Steps {
		b, known := was[s.ID]
		if !known || s.Status.Over() {
			continue
		}
		stops[0] += stopping(b.After)
		stops[1] += stopping(s.After)
		if told[s.ID] {
			continue
		}
		var words []string
		if s.Title != b.Title {
			words = append(words, "in place of “"+b.Title+"”")
		}
		if s.Minutes != b.Minutes {
			words = append(words, fmt.Sprintf("%.0f min instead of %.0f", float64(s.Minutes), float64(b.Minutes)))
		}
		for _, t := range s.Told {
			if !slices.Contains(b.Told, t) {
				words = append(words, t)
			}
		}
		if len(words) > 0 {
			out = append(out, path.Change{Task: s.ID, Words: s.Title + ": " + strings.Join(words, ", ")})
		}
	}
	if stops[0] != stops[1] {
		out = append(out, path.Change{Words: fmt.Sprintf(
			"the order of steps is held to in %d places, in %d before; elsewhere it is advice", stops[1], stops[0])})
	}
	n, m := len(before.Steps), len(after.Steps)
	if n > 0 && m > 0 && before.Steps[n-1].Look != after.Steps[m-1].Look {
		out = append(out, path.Change{Words: "the vehicle will look otherwise"})
	}
	return out
}

func stopping(arrows []path.Arrow) (n int) {
	for _, a := range arrows {
		if a.Severity == rule.Stop {
			n++
		}
	}
	return n
}

// worked says of steps that are in both plans with what they are worked now, and how long that takes.
func worked(before, after Plan) (out []path.Change) {
	was := map[string]Step{}
	for _, s := range before.Steps {
		was[s.ID] = s
	}
	for _, s := range after.Steps {
		b, known := was[s.ID]
		if !known || s.Status.Over() || s.Layer == "" {
			continue
		}
		var words []string
		switch {
		case b.Product != s.Product && b.Product != "" && s.Product != "":
			words = append(words, fmt.Sprintf("%s instead of %s", s.Product, b.Product))
		case b.Hex != s.Hex && b.Hex != "" && s.Hex != "":
			words = append(words, fmt.Sprintf("colour %s instead of %s", s.Hex, b.Hex))
		case b.Place != s.Place:
			words = append(words, fmt.Sprintf("at the %s instead of the %s", s.Place, b.Place))
		}
		// Times alone are learned with every step that is done: they are told with what they come of.
		if len(words) > 0 && math.Abs(float64(s.Minutes-b.Minutes)) >= 2 {
			words = append(words, fmt.Sprintf("%.0f min instead of %.0f", float64(s.Minutes), float64(b.Minutes)))
		}
		if len(words) > 0 {
			out = append(out, path.Change{Task: s.ID, Words: s.Title + ": " + strings.Join(words, ", ")})
		}
	}
	return out
}
