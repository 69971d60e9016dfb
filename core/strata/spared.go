package strata

import (
	"slices"

	"cinderpath/core/form"
	"cinderpath/core/marking"
	"cinderpath/core/zone"
)

// Whitewash is the technique of temporary paint.
const Whitewash = "whitewash"

// Temporary tells of a paint that was laid over other paint for a season: by its technique, or since it lies
// over a chipping coat over another colour (Stacked).
func (l Layer) Temporary() bool {
	return l.Kind == Colour && (l.Technique == Whitewash || l.Under.Chipped)
}

// overChipping tells whether a layer of a stack lies over a chipping coat over another colour.
func overChipping(stack []Layer, at int) bool {
	coat := false
	for i := at - 1; i >= 0; i-- {
		switch x := stack[i]; {
		case !x.meets(stack[at]):
		case x.Kind == ChippingCoat:
			coat = true
		case x.Kind == Colour && coat:
			return true
		}
	}
	return false
}

// meets tells whether two layers lie on one place somewhere.
func (l Layer) meets(o Layer) bool {
	return len(l.Zones) == 0 || len(o.Zones) == 0 || slices.ContainsFunc(l.Zones, func(a string) bool {
		return slices.ContainsFunc(o.Zones, func(b string) bool { return zone.Meet(a, b) })
	})
}

// Spares are markings that a layer leaves free, or lies thinner on.
type Spares struct {
	Drawn  []marking.Drawn
	Margin float64 // how far round them it ends, real mm
	Boxed  bool    // it leaves the whole field that a marking stands in
	Lies   float64 // the part of it that lies on them all the same, 0 to 1
}

// from takes off a deposit what is left free.
func (s Spares) from(d Deposit, g *form.Grid) Deposit {
	if len(s.Drawn) == 0 || d.Film == nil {
		return d
	}
	for at, c := range marking.About(s.Drawn, g, s.Margin, s.Boxed) {
		if c > 0 {
			d.Film[at] = uint8(float64(d.Film[at])*(1-float64(c)*(1-s.Lies)) + 0.5)
		}
	}
	return d
}

// marked is what of some markings lies on a surface.
func marked(all []marking.Drawn, g *form.Grid) Deposit {
	cover, panels := marking.Cover(all, g)
	if cover == nil {
		return Deposit{}
	}
	return covered(g, panels, cover, opaque, nil)
}
