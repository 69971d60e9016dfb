package plan

import (
	"slices"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/scheme"
	"cinderpath/core/zone"
)

// FieldLine is a field of the scheme as one view shows it.
type FieldLine struct {
	Colour int           `json:"colour"` // from 0
	AreaCM float64       `json:"areaCm2"`
	Where  string        `json:"where"`
	Spots  []scheme.Spot `json:"spots"` // model mm: pins there hold all of it
}

// FieldsOf lists the fields that a view shows, the largest first.
func (d *Deriver) FieldsOf(w document.Workshop, b document.Build, side form.Side) ([]FieldLine, error) {
	if !slices.Contains(form.Sides, side) {
		return nil, measure.Refuse("side", "there is no such view", "use left, right, top, front or rear")
	}
	b = w.Filled(b)
	_, laid, err := d.wearing(b)
	if err != nil {
		return nil, err
	}
	return stage(d, "fields", []any{laid.key, b.Scale, side}, func() ([]FieldLine, error) {
		out := []FieldLine{}
		k := float64(b.Scale)
		for _, f := range laid.Fields(side) {
			line := FieldLine{Colour: f.Colour, AreaCM: cents(f.Area / k / k / 100), Where: zone.Words(f.Zone)}
			for _, at := range f.Spots {
				for q := range 3 {
					at.At[q] /= k
				}
				line.Spots = append(line.Spots, at)
			}
			out = append(out, line)
		}
		return out, nil
	})
}
