package strata

import "cinderpath/core/paint"

// Bared says down to what a layer takes off what lies there.
type Bared uint8

// What can be bared again; nothing for most layers.
const (
	_          Bared = iota
	bareCoat         // what lay below the chipping coat
	bareColour       // what lay below the last colour
	bareEarth        // what lay there before any earth or powder did

	Bares // so many there are
)

// Under is what of its stack matters to a layer.
type Under struct {
	Film  paint.Film // of the colour that it rubs thin, µm
	Keeps Bared      // what a layer above asks for, that lay below this one

	Chipped bool // it lies over a chipping coat over another colour
}

// Stacked tells each layer what of the stack matters to it; the lowest layer comes first.
func Stacked(stack []Layer) {
	colour, earth := -1, -1
	for i := range stack {
		l := &stack[i]
		l.Under = Under{Chipped: l.Kind == Colour && overChipping(stack, i)}
		about := l.Kind.About()
		switch {
		case l.Kind == ChippingCoat:
			l.Under.Keeps = bareCoat
		case l.Kind == Colour:
			colour = i
		case about.Loose && earth < 0:
			earth = i
		}
		if about.bares == bareColour && colour >= 0 {
			l.Under.Film = stack[colour].film()
			stack[colour].Under.Keeps = bareColour
		}
		if about.bares == bareEarth && earth >= 0 {
			stack[earth].Under.Keeps = bareEarth
		}
	}
}

// thinned is the part of a colour's film that rubbing takes off, where so much would be off a
// thick one.
func (d Deposit) thinned(of paint.Film) Deposit {
	if of <= 0 {
		return Deposit{}
	}
	part := min(float64(d.Full/of), 1)
	for i, step := range d.Film {
		d.Film[i] = uint8(float64(step)*part + 0.5)
	}
	d.Full, d.Cover = opaque, true
	return d
}
