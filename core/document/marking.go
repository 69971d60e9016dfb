package document

import (
	"slices"

	"cinderpath/core/kit"
	"cinderpath/core/marking"
	"cinderpath/core/measure"
)

// Both asks that something stand on the other side of the vehicle too.
const Both = "both"

// putMarking places the marking that Text names at Place; on both sides where that asks for both.
func putMarking(b *Build, e Edit, _ means) error {
	if e.Place == nil {
		return nothing(e.Op)
	}
	at := slices.IndexFunc(b.Kit.Decals, func(d kit.Decal) bool { return d.ID == e.Text })
	if at < 0 {
		return measure.Refuse("text", "the marking is not in the list any more", "look at the newer state")
	}
	b.Kit.Decals = slices.Clone(b.Kit.Decals)
	d := &b.Kit.Decals[at]
	place := marking.Place{Zone: e.Place.On, At: e.Place.point(b.Scale)}
	d.Places = append(slices.Clone(d.Places), place)
	if other := place.Mirrored(); e.Place.What == Both && other.Zone != place.Zone {
		d.Places = append(d.Places, other)
	}
	d.Zone = d.Places[0].Zone
	return measure.At("place", b.Kit.Check())
}
