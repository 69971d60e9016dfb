package gear

import "cinderpath/core/zone"

// BothSides is where a wheel has a zone of its own on either side.
const BothSides = "both"

// ZoneOf is the zone of a wheel on a side: that of its kind, or one of its own in it, by its number from
// the front among those of its kind as they stand in the list.
func ZoneOf(wheels []Wheel, at int, side string) string {
	w := wheels[at]
	name := zone.Gear(side, string(w.Kind))
	if w.Apart != side && w.Apart != BothSides {
		return name
	}
	n := 1
	for i, o := range wheels {
		if o.Kind == w.Kind && (o.X > w.X || o.X == w.X && i < at) {
			n++
		}
	}
	return zone.Numbered(name, n)
}
