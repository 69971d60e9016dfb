package paint

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"cinderpath/core/colour"
	"cinderpath/core/measure"
)

// Part is how much of one jar goes into a mix.
type Part struct {
	Jar   string `json:"jar"`
	Drops int    `json:"drops"`
}

// Mixture is a mix that is kept.
type Mixture struct {
	ID    string   `json:"id"`
	Name  string   `json:"name"`
	Parts []Part   `json:"parts"`
	Hex   string   `json:"hex"` // as it was forecast when it was made
	Made  string   `json:"made"`
	For   []string `json:"for,omitempty"` // builds and colours, in words
	Left  float64  `json:"leftMl"`
	In    string   `json:"in,omitempty"` // which empty jar it is kept in

	Since time.Time `json:"since,omitzero"` // when its level was said; later use takes from it
}

// Used is what was taken of a jar or a mix at the bench.
type Used struct {
	Pot string  `json:"pot"`
	ML  float64 `json:"ml"` // unthinned
}

// Shelf is all that one can paint with.
type Shelf struct {
	Jars  []Jar     `json:"jars,omitempty"`
	Mixes []Mixture `json:"mixes,omitempty"`
	// Unread are the rows of imported lists that could not be read, kept until they are set right.
	Unread []Unread `json:"unread,omitempty"`
	// Delivery is how many days an order takes.
	Delivery int `json:"deliveryDays,omitempty"`
}

// Check reports the first fault of a shelf.
func (s Shelf) Check() error {
	if len(s.Jars) > MostJars || len(s.Mixes) > MostMixes {
		return measure.Refuse(
			"jars",
			"more than a shelf bears",
			fmt.Sprintf("keep at most %d jars and %d mixes", MostJars, MostMixes),
		)
	}
	if s.Delivery < 0 || s.Delivery > 365 {
		return measure.Refuse("deliveryDays", fmt.Sprintf("%d days", s.Delivery), "give 0 to 365")
	}
	seen := map[string]bool{}
	for i, j := range s.Jars {
		field := fmt.Sprintf("jars[%d]", i)
		if err := j.Check(); err != nil {
			return measure.At(field, err)
		}
		if seen[j.ID] {
			return measure.Refuse(field, "two jars have the same id", "give each its own")
		}
		seen[j.ID] = true
	}
	for i, m := range s.Mixes {
		field := fmt.Sprintf("mixes[%d]", i)
		if m.ID == "" || strings.TrimSpace(m.Name) == "" || len(m.Name) > longName || seen[m.ID] {
			return measure.Refuse(field, "it has no name, or an id that is taken", "give each mix its own")
		}
		seen[m.ID] = true
		if len(m.Parts) == 0 || len(m.Parts) > 12 {
			return measure.Refuse(field+".parts", fmt.Sprintf("%d jars in it", len(m.Parts)), "give 1 to 12")
		}
		for _, p := range m.Parts {
			if p.Drops < 1 || p.Drops > 10_000 {
				return measure.Refuse(field+".parts", fmt.Sprintf("%d drops", p.Drops), "give 1 to 10000")
			}
		}
		if !(m.Left >= 0 && m.Left <= MostVolume) {
			return measure.Refuse(
				field+".leftMl",
				"less than nothing, or more than a jar holds",
				fmt.Sprintf("give 0 to %.0f ml", MostVolume),
			)
		}
		if err := checkDate(field+".made", m.Made); err != nil {
			return err
		}
	}
	return nil
}

// Jar finds a jar by its id.
func (s Shelf) Jar(id string) (Jar, bool) {
	i := slices.IndexFunc(s.Jars, func(j Jar) bool { return j.ID == id && id != "" })
	if i < 0 {
		return Jar{}, false
	}
	return s.Jars[i], true
}

// Mix finds a mix by its id.
func (s Shelf) Mix(id string) (Mixture, bool) {
	i := slices.IndexFunc(s.Mixes, func(m Mixture) bool { return m.ID == id && id != "" })
	if i < 0 {
		return Mixture{}, false
	}
	return s.Mixes[i], true
}

// Pot is a jar or a mix, as a layer is laid from it.
type Pot struct {
	ID     string
	Name   string // as it is said
	Family string
	Mixed  bool
	Left   float64 // ml
	Paint  Paint
	Seen   bool // it has a colour
	Temper *Temper
	Sheen  colour.Sheen // that it leaves, where the jar says
	From   string       // the day on which what is on order arrives
}

// Pot finds a jar or a mix by its id.
func (s Shelf) Pot(id string) (Pot, bool) {
	if j, ok := s.Jar(id); ok {
		p, seen := j.Paint()
		out := Pot{
			ID:     j.ID,
			Name:   j.Said(),
			Family: j.Family,
			Left:   j.Left,
			Paint:  p,
			Seen:   seen,
			Temper: j.Temper,
			Sheen:  j.Sheen,
		}
		if j.State == Ordered {
			out.From = j.Arrives
		}
		return out, true
	}
	m, ok := s.Mix(id)
	if !ok {
		return Pot{}, false
	}
	out := Pot{ID: m.ID, Name: m.Name, Mixed: true, Left: m.Left}
	p, family, err := s.Mixed(m.Parts)
	if out.Family = family; err != nil {
		// A jar of it is gone: what was forecast when it was made still tells how it looks.
		c, bad := colour.Parse(m.Hex)
		f, known := FamilyOf(family)
		if bad != nil || !known {
			return out, true
		}
		out.Paint, out.Seen = Paint{Swatch: c, Sheen: colour.Matt, Hiding: Good, Solids: f.Solids}, true
		return out, true
	}
	swatch, _ := colour.Matt.Seen(p.Infinite()).XYZ().RGB()
	out.Paint = Paint{
		Swatch: swatch,
		Sheen:  colour.Matt,
		Hiding: min(Hiding(p.Opacity(hidingFilm)), Black),
		Solids: p.Solids,
	}
	out.Seen = true
	return out, true
}

// Mixed is what some drops of some jars give, and the family of the first of them.
func (s Shelf) Mixed(parts []Part) (p Pigment, family string, err error) {
	var drops []float64
	var paints []Pigment
	for _, part := range parts {
		j, ok := s.Jar(part.Jar)
		if !ok {
			err = measure.Refuse(
				"parts",
				fmt.Sprintf("there is no jar %q on the shelf", part.Jar),
				"take it out, or enter the jar",
			)
			continue
		}
		if family == "" {
			family = j.Family
		}
		q, seen := j.Paint()
		if !seen {
			return p, family, measure.Refuse("parts", j.Said()+" has no swatch", "say how it looks when it is dry")
		}
		drops, paints = append(drops, float64(part.Drops)), append(paints, q.Pigment())
	}
	if err != nil || len(paints) == 0 {
		return p, family, err
	}
	return Mix(drops, paints), family, nil
}

// Again says how a mix would dry if it were made again from its jars as they are now; ok is
// false where one of them is gone.
func (s Shelf) Again(m Mixture) (words string, ok bool) {
	p, _, err := s.Mixed(m.Parts)
	was, bad := colour.Parse(m.Hex)
	if err != nil || bad != nil {
		return "", false
	}
	now := colour.Matt.Seen(p.Infinite()).XYZ()
	swatch, _ := now.RGB()
	d := colour.Difference(was.Lab(), now.Lab())
	return fmt.Sprintf("mixed again it dries %s, ΔE00 %.1f to this one: %s", swatch.Hex(), d, Words(d)), true
}

// Like are the pots of a shelf with a colour, the likest first.
func (s Shelf) Like(c colour.RGB) (ids []string, differences []float64) {
	type near struct {
		id string
		d  float64
	}
	var all []near
	for _, j := range s.Jars {
		if p, ok := j.Paint(); ok {
			all = append(all, near{j.ID, colour.Difference(c.Lab(), p.Swatch.Lab())})
		}
	}
	for _, m := range s.Mixes {
		if p, ok := s.Pot(m.ID); ok && p.Seen {
			all = append(all, near{m.ID, colour.Difference(c.Lab(), p.Paint.Swatch.Lab())})
		}
	}
	slices.SortStableFunc(all, func(a, b near) int {
		switch {
		case a.d < b.d:
			return -1
		case a.d > b.d:
			return 1
		}
		return 0
	})
	for _, n := range all {
		ids, differences = append(ids, n.id), append(differences, n.d)
	}
	return ids, differences
}

// Less is the shelf after so much was taken from it at an instant. What was taken before a
// level was said is in that level already.
func (s Shelf) Less(at time.Time, used ...Used) Shelf {
	s.Jars, s.Mixes = slices.Clone(s.Jars), slices.Clone(s.Mixes)
	for _, u := range used {
		for i := range s.Jars {
			if j := &s.Jars[i]; j.ID == u.Pot && at.After(j.Since) {
				j.Left = max(0, j.Left-u.ML)
			}
		}
		for i := range s.Mixes {
			if m := &s.Mixes[i]; m.ID == u.Pot && at.After(m.Since) {
				m.Left = max(0, m.Left-u.ML)
			}
		}
	}
	return s
}

// Shows tells whether a file is the photograph of a chip on some jar.
func (s Shelf) Shows(hash string) bool {
	return slices.ContainsFunc(s.Jars, func(j Jar) bool { return slices.Contains(j.Chips, hash) })
}
