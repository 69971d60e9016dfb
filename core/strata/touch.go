package strata

import (
	"fmt"
	"math"

	"cinderpath/core/form"
	"cinderpath/core/landing"
	"cinderpath/core/paint"
)

// Touch is a mark of the person's own on where a layer lands: more here, none here, or only here; round a
// point, or along a stroke.
type Touch struct {
	What   string    `json:"what"`           // more, none or only
	At     form.Vec  `json:"at"`             // on the surface, real mm
	To     *form.Vec `json:"to,omitempty"`   // of a stroke
	Radius float64   `json:"radiusMm"`       // real mm
	Zone   string    `json:"zone,omitempty"` // on which it was set, for whoever reads it
}

// What a touch says.
const (
	MoreHere = "more"
	NoneHere = "none"
	OnlyHere = "only"
)

const (
	timesMore   = 3.0     // how much more lands where more is wanted
	mostTouches = 200     // of one layer
	mostRadius  = 5_000.0 // real mm
)

// check reports what is wrong with a touch.
func (t Touch) check() error {
	switch {
	case t.What != MoreHere && t.What != NoneHere && t.What != OnlyHere:
		return fmt.Errorf("%q is no mark; use more, none or only", t.What)
	case !(t.Radius > 0 && t.Radius <= mostRadius):
		return fmt.Errorf("a mark of %g mm; give a radius above 0, up to %g mm real", t.Radius, mostRadius)
	}
	return nil
}

// within is 1 in the middle of a touch, falling to 0 at its rim.
func (t Touch) within(p form.Vec) float64 {
	d := distanceTo(p, t.At, t.To) / t.Radius
	if d >= 1 {
		return 0
	}
	if d <= 0.7 { // a soft rim
		return 1
	}
	u := (1 - d) / 0.3
	return u * u * (3 - 2*u)
}

// distanceTo is how far a point is from another, or from the line between two.
func distanceTo(p, a form.Vec, to *form.Vec) float64 {
	near := a
	if to != nil {
		along := to.Sub(a)
		if long := along.Dot(along); long > 0 {
			near = a.Plus(along.Times(min(max(p.Sub(a).Dot(along)/long, 0), 1)))
		}
	}
	off := p.Sub(near)
	return math.Sqrt(off.Dot(off))
}

// touched is by how much the person's marks change what lands at a place.
func (l Layer) touched(p form.Vec) float32 {
	only, any := 0.0, false
	factor := 1.0
	for _, t := range l.Touches {
		w := t.within(p)
		switch t.What {
		case MoreHere:
			factor *= 1 + w*(timesMore-1)
		case NoneHere:
			factor *= 1 - w
		case OnlyHere:
			only, any = max(only, w), true
		}
	}
	if any {
		factor *= only
	}
	return float32(factor)
}

// touch changes a field by the person's marks.
func (l Layer) touch(s *landing.Site, panels []int, field []float32) {
	if len(l.Touches) == 0 {
		return
	}
	form.Each(len(panels), func(n int) {
		t := s.Grid.Texels[panels[n]]
		for k := range t.Area {
			if field[t.First+k] != 0 {
				field[t.First+k] *= l.touched(t.Point(k))
			}
		}
	})
}

// touchedFilm changes a film by the person's marks: elsewhere it stays as thick as it is.
func (l Layer) touchedFilm(s *landing.Site, d Deposit) Deposit {
	if len(l.Touches) == 0 || d.Film == nil {
		return d
	}
	factor := make([]float32, len(d.Film))
	for at, step := range d.Film {
		factor[at] = min(float32(step), 1)
	}
	l.touch(s, d.Panels, factor)
	most := float32(1)
	for _, f := range factor {
		most = max(most, f)
	}
	d.Full *= paint.Film(most)
	for at, f := range factor {
		d.Film[at] = uint8(float32(d.Film[at])*f/most + 0.5)
	}
	return d
}
