package scheme

import (
	"cmp"
	"fmt"
	"slices"

	"cinderpath/core/measure"
	"cinderpath/core/unit"
)

// OnPart is the pattern with one zone in another one: a part that came from a vehicle of that pattern. Called is how
// people say the zone; share what it is of all that is painted. The part's colours come above those that are
// there, so that none of these cross onto it. Refused: more colours than a scheme bears.
func (p Pattern) OnPart(name, called string, part Pattern, share unit.Share) (Pattern, error) {
	if len(p.Colours)+len(part.Colours) > MostColours {
		return p, measure.Refuse("scheme", fmt.Sprintf(
			"it has %d colours and this one %d: a scheme bears %d", len(part.Colours), len(p.Colours), MostColours,
		), "take one with fewer colours, or take some out")
	}
	p.Colours = slices.Clone(p.Colours)
	for i, c := range part.Colours {
		of := part.Set(i)
		own := c
		own.Name = c.Name + ", " + called
		own.Zones, own.Without = []string{name}, nil
		if i == 0 {
			own = Colour{Name: own.Name, Hex: c.Hex, Jar: c.Jar, Family: Single, Zones: own.Zones}
		} else {
			// As it lay there: by the seed and the place in the order that it was laid with.
			own.Share = unit.Share(c.Share.Of(float64(share)))
			own.Width, own.Feather, own.Bend, own.Frame = of.Width, of.Feather, of.Bend, of.Frame
			own.Seed, own.From = cmp.Or(c.Seed, part.Seed), cmp.Or(c.From, i+1)
		}
		p.Colours = append(p.Colours, own)
	}
	return p, nil
}
