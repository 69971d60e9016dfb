package scheme

import (
	"cinderpath/core/form"
	"cinderpath/core/zone"
	"math"
)

// border gives pins, many to a width, along the rim between what is seen and what is guessed.
func (l *laying) border(labels []uint8) {
	width := l.pattern.widthOf(0)
	cell := 1.6 * l.grid.Step
	key := func(p form.Vec) (k [3]int32) {
		for q := range 3 {
			k[q] = int32(math.Floor(p[q] / cell))
		}
		return k
	}
	rim := map[[3]int32]uint8{} // colours that are seen beside what is not
	each := func(f func(i int, t *form.Texels, k int)) {
		for i, t := range l.grid.Texels {
			if zone.Bare(t.Zone) {
				continue
			}
			for k, a := range t.Area {
				if a > 0 {
					f(i, t, k)
				}
			}
		}
	}
	edge := func(t *form.Texels, k int) bool { // at the panel's rim, or beside another state
		x, y := k%t.NX, k/t.NX
		for _, d := range [4][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
			i, j := x+d[0], y+d[1]
			if beside(t, i, j) || (labels[t.First+j*t.NX+i] == unknown) != (labels[t.First+k] == unknown) {
				return true
			}
		}
		return false
	}
	each(func(_ int, t *form.Texels, k int) {
		if labels[t.First+k] != unknown && edge(t, k) {
			rim[key(t.Point(k))] = labels[t.First+k]
		}
	})
	room := width / 9
	coarse := func(p form.Vec) (k [3]int32) {
		for q := range 3 {
			k[q] = int32(math.Floor(p[q] / room))
		}
		return k
	}
	set := map[[3]int32]bool{}
	each(func(i int, t *form.Texels, k int) {
		if labels[t.First+k] != unknown || !edge(t, k) {
			return
		}
		p := t.Point(k)
		at := coarse(p)
		if set[at] {
			return
		}
		near := key(p)
		found := unknown
		for dx := int32(-1); dx <= 1; dx++ {
			for dy := int32(-1); dy <= 1; dy++ {
				for dz := int32(-1); dz <= 1; dz++ {
					c, ok := rim[[3]int32{near[0] + dx, near[1] + dy, near[2] + dz}]
					switch {
					case !ok:
					case found == unknown:
						found = int(c)
					case found != int(c):
						return // an edge runs over the rim here: its two sides say where
					}
				}
			}
		}
		if found != unknown {
			set[at] = true
			flat := t.Flat(p)
			l.pins = append(l.pins, pin{l.placeOn(i, flat[0], flat[1]), found, true})
		}
	})
}
