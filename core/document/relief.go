package document

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"cinderpath/core/measure"
	"cinderpath/core/zone"
)

// The reliefs of a surface; what says nothing is smooth.
const (
	Smooth = "smooth"
	Cast   = "cast"
	Ribbed = "ribbed" // or coated
	Rolled = "rolled" // with cut edges
)

var reliefs = []string{Smooth, Cast, Ribbed, Rolled}

// Rough tells of a zone on whose relief thin washes run and decals bridge: cast, ribbed or coated.
func (b Build) Rough(name string) bool {
	best, relief := "", ""
	for place, r := range b.Relief {
		if zone.Under(name, place) && len(place) > len(best) { // the nearest word rules
			best, relief = place, r
		}
	}
	return relief == Cast || relief == Ribbed
}

// checkRelief reports the first relief that is none.
func (b Build) checkRelief() error {
	for _, place := range slices.Sorted(maps.Keys(b.Relief)) {
		if !zone.ValidPlace(place) || !slices.Contains(reliefs, b.Relief[place]) {
			return measure.Refuse("relief", fmt.Sprintf("%q on %q is no relief of a zone", b.Relief[place], place),
				"use "+strings.Join(reliefs, ", "))
		}
	}
	return nil
}

// setRelief says how the surface of a zone, or of a part, is: Zone and Text.
func setRelief(b *Build, e Edit, _ means) error {
	text := e.Text
	if text == Smooth {
		text = ""
	}
	b.Relief = saidOf(b.Relief, e.Zone, text)
	return b.checkRelief()
}
