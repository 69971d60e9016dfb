package scheme

import (
	"math"

	"cinderpath/core/form"
)

// edgesBelow are the edges between the colours that lie already.
type edgesBelow func() []form.Vec

// outline is a line along the edges of the fields below it, over panel edges too.
type outline struct {
	width, cell float64
	by          map[[3]int32][]form.Vec
}

func newOutline(m making) field {
	f := &outline{width: m.width, cell: m.width, by: map[[3]int32][]form.Vec{}}
	if m.below == nil {
		return f
	}
	for _, p := range m.below() {
		k := f.key(p)
		f.by[k] = append(f.by[k], p)
	}
	return f
}

func (f *outline) key(p form.Vec) (k [3]int32) {
	for i := range 3 {
		k[i] = int32(math.Floor(p[i] / f.cell))
	}
	return k
}

func (f *outline) at(p place) float64 {
	k := f.key(p.at)
	best := f.cell * f.cell
	for dx := int32(-1); dx <= 1; dx++ {
		for dy := int32(-1); dy <= 1; dy++ {
			for dz := int32(-1); dz <= 1; dz++ {
				for _, e := range f.by[[3]int32{k[0] + dx, k[1] + dy, k[2] + dz}] {
					x, y, z := e[0]-p.at[0], e[1]-p.at[1], e[2]-p.at[2]
					best = min(best, x*x+y*y+z*z)
				}
			}
		}
	}
	return f.width/2 - math.Sqrt(best)
}
