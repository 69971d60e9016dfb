package document

import (
	"slices"

	"cinderpath/core/colour"
)

// Filled is a build whose layers and colours know what the jars and mixes that they name are:
// those rule over family and swatch. What names nothing that is on the shelf is left as it is.
func (w Workshop) Filled(b Build) Build {
	b.Layers, b.Scheme.Colours = slices.Clone(b.Layers), slices.Clone(b.Scheme.Colours)
	for i := range b.Layers {
		l := &b.Layers[i]
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
	for i := range b.Scheme.Colours {
		c := &b.Scheme.Colours[i]
		if p, ok := w.Paint.Pot(c.Jar); ok && p.Seen {
			c.Pot, c.Hex = p, p.Paint.Swatch.Hex()
		}
	}
	return b
}
