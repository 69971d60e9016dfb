package plan

import (
	"fmt"
	"maps"
	"slices"

	"cinderpath/core/colour"
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// Camouflage is all that is told of a scheme as it lies on a model.
type Camouflage struct {
	Holds    []scheme.Hold     `json:"holds"` // by colour and part
	Lost     []scheme.Lost     `json:"lost"`
	Notes    []string          `json:"notes"`
	Alike    []Alike           `json:"alike"` // pairs that will not be told apart at the end
	Mends    []Correction      `json:"corrections"`
	Views    []ViewShares      `json:"views"`
	Minutes  unit.Minutes      `json:"min"` // of all edges and fields above the first colour
	TapeCM   float64           `json:"tapeCm"`
	CoverCM  float64           `json:"coverCm2"`
	Pins     []PinLine         `json:"pins"`
	Families []scheme.Family   `json:"families"`
	Seen     []SeenLine        `json:"seen"`  // where pictures tell of the scheme
	Parts    map[string]string `json:"parts"` // as people say them
}

// SeenLine is how much of a part some picture shows.
type SeenLine struct {
	Part  string     `json:"part"`
	Share unit.Share `json:"share"`
}

// PinLine is a pin as it is shown.
type PinLine struct {
	Where string  `json:"where"`
	Seen  []PinAt `json:"seen"`
	Name  string  `json:"name"` // of the colour
	Hex   string  `json:"hex"`
	Lost  string  `json:"lost,omitempty"`
}

// PinAt is where a pin is seen in a view, model mm.
type PinAt struct {
	Side form.Side  `json:"side"`
	At   [2]float64 `json:"at"`
}

// Alike are two colours of a scheme that look nearly the same, ΔE00, now and at the end.
type Alike struct {
	A     string  `json:"a"`
	B     string  `json:"b"`
	Now   float64 `json:"now"`
	End   float64 `json:"end"`
	Words string  `json:"words"`
}

// CamouflageOf tells of a build's scheme as it lies.
func (d *Deriver) CamouflageOf(w document.Workshop, b document.Build) (Camouflage, error) {
	above, err := d.Above(w, b)
	if err != nil {
		return Camouflage{}, err
	}
	b = w.Filled(b)
	s, err := d.shaped(b, w)
	if err != nil {
		return Camouflage{}, err
	}
	out := Camouflage{
		Holds:    holds(b, w, s.told),
		Lost:     append([]scheme.Lost{}, s.lost...),
		Notes:    append([]string{}, s.notes...),
		Alike:    []Alike{},
		Mends:    corrections(b, s.told),
		Pins:     []PinLine{},
		Families: scheme.Families(),
		Seen:     s.seen,
		Parts:    map[string]string{},
	}
	for _, h := range out.Holds {
		out.Minutes += h.Minutes
		out.TapeCM += h.TapeCM
		out.CoverCM += h.CoverCM
		out.Parts[h.Part] = zone.Words(h.Part)
		out.Parts[h.Zone] = zone.Words(h.Zone)
	}
	whole, err := d.surface(b)
	if err != nil {
		return Camouflage{}, err
	}
	for i, a := range b.Scheme.Anchors {
		c := b.Scheme.Colours[min(a.Colour, len(b.Scheme.Colours)-1)]
		line := PinLine{Where: zone.Words(a.Zone), Name: c.Name, Hex: c.Hex, Seen: seenFrom(whole, b, a)}
		for _, l := range s.lost {
			if l.Anchor == i {
				line.Lost = l.Why
			}
		}
		out.Pins = append(out.Pins, line)
	}
	over, err := paint.Through(above)
	if err != nil {
		return out, err
	}
	out.Alike = alike(b, over)
	out.Views, err = d.viewShares(b)
	return out, err
}

// seenFrom tells in which views the face of a pin is turned to the viewer, and where it is there.
func seenFrom(s surface, b document.Build, a scheme.Anchor) []PinAt {
	return seenAt(s, b, a.Zone, a.At)
}

// seenAt tells it of a place of a zone.
func seenAt(s surface, b document.Build, name string, place form.Vec) []PinAt {
	out := []PinAt{}
	for _, side := range form.Sides {
		at := form.NewFrame(side, s.panels, b.Scale).Flat(place)
		p, on, ok := form.Pick(side, s.panels, b.Scale, at)
		far := 0.0
		for k := range 3 {
			far += (p[k] - place[k]) * (p[k] - place[k])
		}
		// Nothing nearer covers it.
		if ok && (on == name || far < 100*100) {
			out = append(out, PinAt{side, at})
		}
	}
	return out
}

// alike compares all pairs of colours, as they are and under what is planned over them.
func alike(b document.Build, over paint.Over) []Alike {
	out := []Alike{}
	for i, a := range b.Scheme.Colours {
		for _, c := range b.Scheme.Colours[:i] {
			p, q := colour.Of(a.Hex), colour.Of(c.Hex)
			now := colour.Difference(p.Lab(), q.Lab())
			end := colour.Difference(ends(over, p), ends(over, q))
			if end >= toldApart {
				continue
			}
			out = append(out, Alike{
				A:   c.Name,
				B:   a.Name,
				Now: now,
				End: end,
				Words: fmt.Sprintf(
					"%s and %s are ΔE00 %.1f apart now, and %.1f at the end: %s",
					c.Name,
					a.Name,
					now,
					end,
					paint.Words(end),
				),
			})
		}
	}
	return out
}

// toldApart is the difference below which two fields are not told apart at arm's length, ΔE00.
const toldApart = 2.0

func ends(over paint.Over, c colour.RGB) colour.Lab {
	return over.Lab(colour.Spectrum(c, colour.Matt).Internal)
}

// finest airbrush of a workshop; one without a nozzle where it has none.
func finest(w document.Workshop) (out path.Airbrush) {
	for _, a := range w.Airbrushes {
		if out.Nozzle == 0 || a.Nozzle < out.Nozzle {
			out = a
		}
	}
	return out
}

// holds tells how the edges of a scheme are held with what the workshop has.
func holds(b document.Build, w document.Workshop, told []scheme.Told) []scheme.Hold {
	m := scheme.Means{Coats: 1}
	for _, l := range b.Layers {
		if !l.IsScheme() {
			continue
		}
		m.Coats = l.Coats
		if a := finest(w); l.Applied == strata.Misted && a.Nozzle > 0 {
			m.Airbrush = fmt.Sprintf("your %.2g mm nozzle", a.Nozzle)
			m.Line, m.Soft = paint.FinestLine(a.Nozzle), paint.FinestEdge(a.Nozzle)
		} else if l.Applied == strata.Misted {
			m.Airbrush = "your airbrush" // of which nothing is known
		}
	}
	return b.Scheme.Holds(told, b.Scale, m)
}

// schemeSheets are those that a scheme has something on.
func schemeSheets(b document.Build) []string {
	if len(b.Scheme.Colours) < 2 {
		return nil
	}
	return []string{"guide", "masks", "crossings"}
}

// seenLines sums what pictures show by part.
func seenLines(laid camouflage, s surface) []SeenLine {
	out := []SeenLine{}
	seen := laid.Seen()
	if len(seen) == 0 {
		return out
	}
	whole, told := map[string]float64{}, map[string]float64{}
	for _, z := range s.zones {
		if !zone.Bare(z) {
			whole[zone.Part(z)] += s.area[z]
			told[zone.Part(z)] += s.area[z] * seen[z]
		}
	}
	for _, part := range slices.Sorted(maps.Keys(whole)) {
		out = append(out, SeenLine{part, unit.ShareOf(told[part], whole[part])})
	}
	return out
}
