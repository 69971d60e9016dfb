package kit

import (
	"fmt"

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

// Markings are those of the chosen version that were drawn and placed.
func (k Kit) Markings() (out []marking.Drawn) {
	for _, d := range k.Worn() {
		if d.Drawn != nil && len(d.Places) > 0 {
			out = append(out, marking.Drawn{
				ID: d.ID, Drawing: *d.Drawn, Wide: d.Wide(), Painted: d.Painted, Jar: d.Jar, Places: d.Places,
			})
		}
	}
	return out
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
