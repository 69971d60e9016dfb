package strata

import (
	"cinderpath/core/form"
	"cinderpath/core/marking"
)

// Whitewash is the technique of temporary paint.
const Whitewash = "whitewash"

// Temporary tells of a paint that was brushed on over scheme and markings for a season.
func (l Layer) Temporary() bool { return l.Kind == Colour && l.Technique == Whitewash }

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
