package document

import (
	"slices"

	"cinderpath/core/colour"
	"cinderpath/core/marking"
	"cinderpath/core/strata"
)

// Filled is a build whose layers and colours know what the jars and mixes that they name are:
// those rule over family and swatch. What names nothing that is on the shelf is left as it is.
func (w Workshop) Filled(b Build) Build {
	b.Layers, b.Scheme.Colours = slices.Clone(b.Layers), slices.Clone(b.Scheme.Colours)
	for i := range b.Layers {
		l := &b.Layers[i]
		l.Lived = strata.Lived{Life: b.Life, Scale: float64(b.Scale)}
		byHand(l, b.School(SchoolWholeKit))
		if l.Kind == strata.Decals {
			l.Drawn = w.markings(b)
		}
		if l.IsScheme() {
			l.Rubber = rubbers[b.School(SchoolTyres)]
		}
		p, ok := w.Paint.Pot(l.Jar)
		if !ok {
			continue
		}
		l.Pot, l.Family = p, p.Family
		if p.Seen && !l.IsScheme() {
			l.Hex = p.Paint.Swatch.Hex()
		}
		if l.Sheen == "" && p.Sheen != colour.Loose {
			l.Sheen = p.Sheen
		}
	}
	strata.Stacked(b.Layers)
	var worn []marking.Drawn // by what lies below
	for i := range b.Layers {
		if l := &b.Layers[i]; l.Temporary() {
			l.Spares = b.spares(worn)
		} else if l.Kind == strata.Decals {
			worn = l.Drawn
		}
	}
	for i := range b.Scheme.Colours {
		c := &b.Scheme.Colours[i]
		if p, ok := w.Paint.Pot(c.Jar); ok && p.Seen {
			c.Pot, c.Hex = p, p.Paint.Swatch.Hex()
		}
	}
	return b
}

// markings are those that the chosen version wears and that were drawn and placed: what is painted
// has the colour of its jar.
func (w Workshop) markings(b Build) []marking.Drawn {
	all := b.Kit.Markings()
	for i := range all {
		d := &all[i]
		if p, ok := w.Paint.Pot(d.Jar); ok && p.Seen && d.Painted {
			d.Drawing.Hex = p.Paint.Swatch.Hex()
		}
	}
	return all
}

// spares is how a temporary paint goes about the markings below it, as one's school has it.
func (b Build) spares(worn []marking.Drawn) strata.Spares {
	out := strata.Spares{Drawn: worn, Margin: 70, Boxed: true}
	switch b.School(SchoolUnderWash) {
	case PaintedRound:
		out.Margin, out.Boxed = 25, false
	case OverThinly:
		out.Margin, out.Lies = 0, 0.4
	}
	return out
}

// rubbers are the swatches of rubber by the answer to what it is painted; the usual one is not among them.
var rubbers = map[string]string{"black": "#252423", "faded brown-grey": "#585048"}

// fewestByBrush is how many coats a brush takes at least until a colour is even.
const fewestByBrush = 2

// cans are the kinds of product that come in a can, by what is sprayed of them otherwise.
var cans = map[strata.Kind]string{strata.Prime: "spray_can_primer", strata.Colour: "spray_can_colour"}

// byHand lays what is usually sprayed as one's school has it: by brush, or from cans.
func byHand(l *strata.Layer, school string) {
	if l.Applied != strata.Misted {
		return
	}
	switch {
	case school == ByBrush:
		l.Applied = strata.Brushed
		if l.Kind == strata.Colour {
			l.Coats = max(l.Coats, fewestByBrush)
		}
	case school == ByCans && cans[l.Kind] != "":
		l.Family, l.Jar = cans[l.Kind], ""
	}
}
