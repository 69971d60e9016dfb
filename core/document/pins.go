package document

import (
	"fmt"
	"math"
	"slices"

	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/scheme"
	"cinderpath/core/zone"
)

// PinEdit says that a place has a colour of the scheme.
type PinEdit struct {
	Number int    `json:"number,omitempty"` // of the pin that is meant, from 1; 0: a new one
	Colour int    `json:"colour"`           // from 0
	Place  *Place `json:"place,omitempty"`
	To     *Place `json:"to,omitempty"` // where a field is brought
}

func setPin(b *Build, e Edit, _ means) error {
	if e.Pin == nil || e.Pin.Place == nil {
		return nothing(SetPin)
	}
	if e.Pin.Number > len(b.Scheme.Anchors) {
		return noPin(e.Pin.Number)
	}
	if zone.Bare(e.Pin.Place.On) {
		return measure.Refuse("pin.place", zone.Words(e.Pin.Place.On)+" takes no scheme", "click on painted metal")
	}
	all := slices.Clone(b.Scheme.Anchors)
	if n := e.Pin.Number; n > 0 {
		all = slices.Delete(all, n-1, n)
	}
	b.Scheme.Anchors = pinned(b.Scheme, all, anchorAt(b, *e.Pin.Place, e.Pin.Colour))
	return nil
}

func dropPin(b *Build, e Edit, _ means) error {
	if e.Pin == nil || e.Pin.Number < 1 || e.Pin.Number > len(b.Scheme.Anchors) {
		return noPin(0)
	}
	b.Scheme.Anchors = slices.Delete(slices.Clone(b.Scheme.Anchors), e.Pin.Number-1, e.Pin.Number)
	return nil
}

func moveField(b *Build, e Edit, m means) error {
	if e.Pin == nil || e.Pin.Place == nil || e.Pin.To == nil || m.now.Colour == nil {
		return nothing(MoveField)
	}
	from, to := anchorAt(b, *e.Pin.Place, 0), anchorAt(b, *e.Pin.To, 0)
	colour, err := m.now.Colour(*b, from)
	if err != nil {
		return err
	}
	below, err := m.now.Colour(*b, to)
	if err != nil {
		return err
	}
	if below == colour {
		return measure.Refuse("pin.to", "that place has the colour already", "drag the field to where it is not")
	}
	to.Colour, from.Colour = colour, below
	all := pinned(b.Scheme, slices.Clone(b.Scheme.Anchors), to)
	if apart(from.At, to.At) > pinRoom(b.Scheme) {
		all = pinned(b.Scheme, all, from)
	}
	b.Scheme.Anchors = all
	return nil
}

func noPin(n int) error {
	return measure.Refuse("pin.number", fmt.Sprintf("there is no pin %d", n), "look at the newer state")
}

// anchorAt is a pin at a place of the model.
func anchorAt(b *Build, p Place, colour int) scheme.Anchor {
	return scheme.Anchor{At: p.point(b.Scale), Zone: p.On, Colour: colour}
}

// pinRoom is how near pins of different colours contradict each other, real mm.
func pinRoom(p scheme.Pattern) float64 {
	width, _ := p.Narrowest()
	return width / 2
}

// pinned adds a pin; those of other colours that it would contradict give way to it.
func pinned(p scheme.Pattern, all []scheme.Anchor, a scheme.Anchor) []scheme.Anchor {
	room := pinRoom(p)
	all = slices.DeleteFunc(all, func(o scheme.Anchor) bool { return apart(o.At, a.At) < room })
	return append(all, a)
}

func apart(a, b form.Vec) float64 {
	return math.Hypot(math.Hypot(a[0]-b[0], a[1]-b[1]), a[2]-b[2])
}
