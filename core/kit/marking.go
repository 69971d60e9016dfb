package kit

import (
	"fmt"
	"math"
	"slices"

	"cinderpath/core/marking"
)

// usualWide is how wide a marking is in life while nobody says, real mm.
const usualWide = 400.0

// Wide is how wide a marking is in life, real mm.
func (d Decal) Wide() float64 {
	if d.SizeMM > 0 {
		return d.SizeMM
	}
	return usualWide
}

// Above are the parts of the chosen version that run over a marking.
func (k Kit) Above(decal string) []Part {
	return slices.DeleteFunc(k.Used(), func(p Part) bool { return !slices.Contains(p.Over, decal) })
}

// Markings are those of the chosen version that were drawn and placed.
func (k Kit) Markings() (out []marking.Drawn) {
	for _, d := range k.Worn() {
		if m, ok := d.Marking(); ok && len(d.Places) > 0 {
			out = append(out, m)
		}
	}
	return out
}

// usualEdge is how wide a line about a marking is while nobody says, beside the marking.
const usualEdge = 1.0 / 20

// Marking is what is drawn of it, with all its sizes; ok is false of one that is not drawn yet.
func (d Decal) Marking() (m marking.Drawn, ok bool) {
	if d.Drawn == nil {
		return m, false
	}
	m = marking.Drawn{
		ID: d.ID, Drawing: *d.Drawn, Wide: d.Wide(), Painted: d.Painted, Jar: d.Jar, Places: d.Places,
	}
	switch {
	case m.Drawing.Edge == "":
		m.Drawing.EdgeMM = 0
	case m.Drawing.EdgeMM == 0:
		m.Drawing.EdgeMM = min(math.Round(usualEdge*m.Wide), marking.MostEdge)
	}
	return m, true
}

// check reports what is wrong with how a marking is drawn and where it stands.
func (d Decal) check() error {
	if d.Drawn != nil {
		if err := d.Drawn.Check(); err != nil {
			return fmt.Errorf("marking %s: %w", d.Name, err)
		}
	}
	if len(d.Places) > marking.MostPlaces {
		return fmt.Errorf("marking %s stands in %d places; keep at most %d", d.Name, len(d.Places), marking.MostPlaces)
	}
	for _, p := range d.Places {
		if err := p.Check(); err != nil {
			return fmt.Errorf("marking %s: %w", d.Name, err)
		}
	}
	return nil
}
