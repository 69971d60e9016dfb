package paint

import (
	"cinderpath/core/colour"
	"cinderpath/core/measure"
	"fmt"
	"strings"
)

// Above is something that lies over a colour at the end, with its name.
type Above struct {
	Name  string       `json:"name"`
	Hex   string       `json:"hex,omitempty"` // none for a clear coat
	Ratio float64      `json:"hiding,omitempty"`
	Film  float64      `json:"filmUm"`
	Loose bool         `json:"loose,omitempty"`
	Sheen colour.Sheen `json:"sheen,omitempty"` // that it leaves; none keeps what was there
}

// coat is the film that lies above, and the sheen of the skin once it is on.
func (a Above) coat() (Coat, error) {
	if a.Hex == "" {
		return Coat{}, nil
	}
	c, err := colour.Parse(a.Hex)
	if err != nil {
		return Coat{}, err
	}
	sheen := colour.Matt
	if a.Loose {
		sheen = colour.Loose
	}
	hiding := Hiding(a.Ratio)
	if hiding == 0 {
		hiding = Glaze
	}
	return Coat{Paint{Swatch: c, Sheen: sheen, Hiding: hiding, Solids: 0.3}.Pigment(), Film(a.Film), a.Loose}, nil
}

// Through gives what lies over a colour once all of it is on; a swatch that cannot be read is
// refused.
func Through(all []Above) (Over, error) { return through(all) }

// through gives what lies over a colour once all of it is on.
func through(all []Above) (Over, error) {
	skin := colour.Matt
	var films []Coat
	for i, a := range all {
		c, err := a.coat()
		if err != nil {
			return Over{}, measure.At(fmt.Sprintf("above[%d].hex", i), err)
		}
		if a.Hex != "" {
			films = append(films, c)
		}
		if a.Sheen != "" && a.Sheen != colour.Loose {
			skin = a.Sheen
			for k := range films {
				films[k].Loose = false // what has a binder takes powder under its skin
			}
		}
	}
	return Seen(skin, films...), nil
}

// becomes tells how a paint looks dry, under gloss, and under each thing more that is planned.
func becomes(p Pigment, above []Above) []Becomes {
	inner := p.Infinite()
	matt, gloss := Seen(colour.Matt), Seen(colour.Gloss)
	dry := matt.Lab(inner)
	out := []Becomes{}
	say := func(under string, o *Over) {
		xyz := o.Of(inner).XYZ()
		c, _ := xyz.RGB()
		out = append(out, Becomes{under, c.Hex(), colour.Difference(dry, xyz.Lab())})
	}
	say("dry and matt", &matt)
	say("under gloss", &gloss)
	for i := range above {
		if o, err := through(above[:i+1]); err == nil {
			say("under "+strings.ToLower(above[i].Name), &o)
		}
	}
	return out
}
