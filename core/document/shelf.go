package document

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"cinderpath/core/colour"
	"cinderpath/core/measure"
	"cinderpath/core/paint"
)

// ShelfEdit is one change to the jars and mixes of a workshop.
type ShelfEdit struct {
	Op   string         `json:"op"`             // one of the Op constants
	ID   string         `json:"id,omitempty"`   // of what is meant, or is made: sent twice under one id, it is done once
	Text string         `json:"text,omitempty"` // as typed: a line, a list
	Jar  *paint.Jar     `json:"jar,omitempty"`
	Mix  *paint.Mixture `json:"mix,omitempty"`
	ML   *float64       `json:"ml,omitempty"`
	Days *int           `json:"days,omitempty"`

	Trial *paint.Trial `json:"trial,omitempty"`
}

// The changes to a shelf.
const (
	JarByLine  = "line"
	SetJar     = "jar"
	DropJar    = "dropJar"
	ReadJars   = "list"   // CSV in Text
	ForgetRow  = "forget" // a row that could not be read, by its text
	SetLevel   = "level"  // ml that are left of a jar or a mix
	MakeMix    = "make"   // takes its drops from the jars
	SetMix     = "mix"    // changes name, place or what it is for
	DropMix    = "dropMix"
	AddTrial   = "trial"    // of a jar; corrected: its swatch becomes what was seen
	SetArrival = "delivery" // days that an order takes
)

// EditShelf makes changes on a copy of the workshop, whose levels are as the logs of its builds
// left them; on the first fault nothing is changed.
func (w Workshop) EditShelf(edits []ShelfEdit, items []Item, newID func() string, now time.Time) (Workshop, error) {
	m := shelfMeans{newID, now, w.Levels(items).Paint}
	w.Paint.Jars, w.Paint.Mixes = slices.Clone(w.Paint.Jars), slices.Clone(w.Paint.Mixes)
	w.Paint.Unread = slices.Clone(w.Paint.Unread)
	for _, e := range edits {
		do, known := shelfOps[e.Op]
		if !known {
			return w, measure.Refuse(
				"op",
				fmt.Sprintf("%q is no change to a shelf", e.Op),
				"use one that the interface description lists",
			)
		}
		if err := do(&w.Paint, e, m); err != nil {
			return w, err
		}
	}
	return w, w.Check()
}

// shelfMeans is what a change to the shelf may need besides it.
type shelfMeans struct {
	newID func() string
	now   time.Time
	level paint.Shelf // as it is after all that was taken
}

// left of a jar now.
func (m shelfMeans) left(j paint.Jar) float64 {
	if at, ok := m.levelled(j.ID); ok && at.Since.Equal(j.Since) {
		return at.Left
	}
	return j.Left // its level was said by an edit before this one
}

func (m shelfMeans) levelled(id string) (paint.Jar, bool) { return m.level.Jar(id) }

var shelfOps = map[string]func(s *paint.Shelf, e ShelfEdit, m shelfMeans) error{
	JarByLine: func(s *paint.Shelf, e ShelfEdit, m shelfMeans) error {
		j, err := paint.ReadLine(e.Text)
		if err != nil {
			return err
		}
		if j.ID = e.ID; j.ID == "" {
			j.ID = m.newID()
		}
		j.Since = m.now
		putJar(s, j)
		return nil
	},
	SetJar: func(s *paint.Shelf, e ShelfEdit, m shelfMeans) error {
		if e.Jar == nil {
			return nothing(SetJar)
		}
		j := *e.Jar
		if j.ID == "" {
			j.ID = m.newID()
		}
		if old, ok := s.Jar(j.ID); !ok || m.left(old) != j.Left {
			j.Since = m.now
		} else {
			j.Left, j.Since = old.Left, old.Since // what was taken still counts from there
		}
		putJar(s, j)
		return measure.At("jar", j.Check())
	},
	DropJar: func(s *paint.Shelf, e ShelfEdit, _ shelfMeans) error {
		return drop(&s.Jars, e.ID, func(j paint.Jar) string { return j.ID })
	},
	ReadJars: func(s *paint.Shelf, e ShelfEdit, m shelfMeans) error {
		jars, unread, err := paint.ReadList(e.Text)
		if err != nil {
			return err
		}
		for _, j := range jars {
			// A list read twice makes no jar twice.
			if i := slices.IndexFunc(s.Jars, func(o paint.Jar) bool {
				return o.Number == j.Number && o.Name == j.Name && o.Family == j.Family
			}); i >= 0 {
				j.ID = s.Jars[i].ID
			} else {
				j.ID = m.newID()
			}
			j.Since = m.now
			putJar(s, j)
		}
		for _, u := range unread {
			if !slices.ContainsFunc(s.Unread, func(o paint.Unread) bool { return o.Text == u.Text }) {
				s.Unread = append(s.Unread, u)
			}
		}
		return nil
	},
	ForgetRow: func(s *paint.Shelf, e ShelfEdit, _ shelfMeans) error {
		s.Unread = slices.DeleteFunc(s.Unread, func(u paint.Unread) bool { return u.Text == e.Text })
		return nil
	},
	SetLevel: func(s *paint.Shelf, e ShelfEdit, m shelfMeans) error {
		if e.ML == nil {
			return nothing(SetLevel)
		}
		for i := range s.Jars {
			if j := &s.Jars[i]; j.ID == e.ID {
				j.Left, j.Since = *e.ML, m.now
				switch {
				case j.Left == 0 && j.State != paint.Ordered:
					j.State = paint.Empty
				case j.Left > 0 && j.State == paint.Empty:
					j.State = paint.Fine
				}
				return nil
			}
		}
		for i := range s.Mixes {
			if x := &s.Mixes[i]; x.ID == e.ID {
				x.Left, x.Since = *e.ML, m.now
				return nil
			}
		}
		return measure.Refuse("id", "there is no such jar or mix", "look at the newer state")
	},
	MakeMix: makeMix,
	SetMix: func(s *paint.Shelf, e ShelfEdit, _ shelfMeans) error {
		if e.Mix == nil {
			return nothing(SetMix)
		}
		i := slices.IndexFunc(s.Mixes, func(x paint.Mixture) bool { return x.ID == e.Mix.ID })
		if i < 0 {
			return measure.Refuse("mix", "it is not there", "look at the newer state")
		}
		x, old := *e.Mix, s.Mixes[i]
		x.Left, x.Since, x.Parts, x.Hex, x.Made = old.Left, old.Since, old.Parts, old.Hex, old.Made
		s.Mixes[i] = x
		return nil
	},
	DropMix: func(s *paint.Shelf, e ShelfEdit, _ shelfMeans) error {
		return drop(&s.Mixes, e.ID, func(m paint.Mixture) string { return m.ID })
	},
	AddTrial: func(s *paint.Shelf, e ShelfEdit, m shelfMeans) error {
		i := slices.IndexFunc(s.Jars, func(j paint.Jar) bool { return j.ID == e.ID })
		if i < 0 || e.Trial == nil {
			return measure.Refuse("id", "there is no such jar, or nothing was seen", "choose the jar that was sprayed")
		}
		j, t := s.Jars[i], *e.Trial
		seen, err := colour.Parse(t.Seen)
		if err != nil {
			return measure.At("trial.seen", err)
		}
		t.Forecast, t.On = j.Hex, m.now.Format(time.DateOnly)
		if was, err := colour.Parse(j.Hex); err == nil {
			t.Difference = colour.Difference(was.Lab(), seen.Lab())
		}
		t.Seen = seen.Hex()
		if t = t.Held(*s); t.Corrected {
			j.Hex = t.Seen
		}
		j.Trials = append(slices.Clone(j.Trials), t)
		s.Jars[i] = j
		return nil
	},
	SetArrival: func(s *paint.Shelf, e ShelfEdit, _ shelfMeans) error {
		if e.Days == nil {
			return nothing(SetArrival)
		}
		s.Delivery = *e.Days
		return nil
	},
}

// putJar replaces the jar of the same id, or adds it.
func putJar(s *paint.Shelf, j paint.Jar) {
	if i := slices.IndexFunc(s.Jars, func(o paint.Jar) bool { return o.ID == j.ID }); i >= 0 {
		s.Jars[i] = j
		return
	}
	s.Jars = append(s.Jars, j)
}

// makeMix takes the drops of a mix from its jars and keeps it. The same mix sent twice is
// made once.
func makeMix(s *paint.Shelf, e ShelfEdit, m shelfMeans) error {
	if e.Mix == nil || len(e.Mix.Parts) == 0 {
		return nothing(MakeMix)
	}
	x := *e.Mix
	if x.ID == "" {
		x.ID = m.newID()
	}
	old, again := s.Mix(x.ID)
	if again && slices.Equal(old.Parts, x.Parts) && old.Since.After(m.now.Add(-time.Minute)) {
		return nil
	}
	p, _, err := s.Mixed(x.Parts)
	if err != nil {
		return measure.At("mix", err)
	}
	if x.Name = strings.TrimSpace(x.Name); x.Name == "" {
		return measure.Refuse("mix.name", "nothing is written", "say what the mix is for")
	}
	x.Left = 0
	for _, part := range x.Parts {
		ml := float64(part.Drops) * paint.Drop
		j := &s.Jars[slices.IndexFunc(s.Jars, func(j paint.Jar) bool { return j.ID == part.Jar })]
		left := m.left(*j)
		if left+1e-9 < ml {
			return measure.Refuse("mix.parts",
				fmt.Sprintf("%s holds %.1f ml, and %d drops are %.1f ml", j.Said(), left, part.Drops, ml),
				"mix less, or say what is really left in it")
		}
		if j.Left, j.Since = max(0, left-ml), m.now; j.Left == 0 {
			j.State = paint.Empty
		}
		x.Left += ml
	}
	swatch, _ := colour.Matt.Seen(p.Infinite()).XYZ().RGB()
	x.Hex, x.Made, x.Since = swatch.Hex(), m.now.Format(time.DateOnly), m.now
	if !again {
		s.Mixes = append(s.Mixes, x)
		return nil
	}
	if l, ok := m.level.Mix(x.ID); ok { // poured to what is left
		x.Left += l.Left
	}
	s.Mixes[slices.IndexFunc(s.Mixes, func(o paint.Mixture) bool { return o.ID == x.ID })] = x
	return nil
}

// Levels is the workshop with what the logs of its builds took from its jars and mixes.
func (w Workshop) Levels(items []Item) Workshop {
	for _, item := range items {
		undone := map[string]bool{} // the last word on a step counts
		for i := len(item.Log) - 1; i >= 0; i-- {
			e := item.Log[i]
			switch {
			case e.Kind == Undone:
				undone[e.Task] = true
			case len(e.Used) > 0 && (e.Kind != Finished || !undone[e.Task]):
				w.Paint = w.Paint.Less(e.At, e.Used...)
			}
		}
	}
	return w
}
