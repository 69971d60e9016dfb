package document

import (
	"slices"

	"cinderpath/core/measure"
	"cinderpath/core/strata"
)

// setTouch marks on the layer that Text names, at Place, where more, none or all of it lands.
func setTouch(b *Build, e Edit, _ means) error {
	if e.Touch == nil || e.Place == nil {
		return nothing(e.Op)
	}
	at := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.ID == e.Text })
	if at < 0 {
		return measure.Refuse("text", "the layer to mark is not in the stack", "look at the newer state")
	}
	t := *e.Touch
	t.At, t.Zone = e.Place.point(b.Scale), e.Place.On
	b.Layers = slices.Clone(b.Layers)
	l := &b.Layers[at]
	l.Touches = append(slices.Clone(l.Touches), t)
	return measure.At("touch", l.Check())
}
