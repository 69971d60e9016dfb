package scheme

import (
	"math"

	"cinderpath/core/form"
)

// Into how many places each way a texel is parted on a hard edge, and what lies about it on a soft
// one.
const (
	onHard = 3
	onSoft = 5
)

// smooth tells of texels at the edges of a colour how much of them is covered: of hard ones by how
// much of a texel lies inside, of soft ones that a picture shows by what lies within half the edge.
// Soft edges of fields follow from their values.
func (l *laying) smooth(c int, panels []int, cover []uint8) {
	feather := l.laid[c].feather
	reach, parted := l.grid.Step/2, onHard
	if feather > 0 {
		if l.traced == nil {
			return
		}
		reach, parted = max(feather/2, reach), onSoft
	}
	about := int(math.Ceil(reach / l.grid.Step))
	l.each(panels, func(i int, t *form.Texels) {
		inside := func(k int) bool { return cover[t.First+k] > 127 }
		shares := map[int]float64{}
		for k, a := range t.Area {
			if a == 0 || feather > 0 && l.traced.seen[t.First+k] == 0 || !changes(t, k, about, inside) {
				continue
			}
			in := 0
			for n := range parted * parted {
				dx := (2*(float64(n%parted)+0.5)/float64(parted) - 1) * reach
				dy := (2*(float64(n/parted)+0.5)/float64(parted) - 1) * reach
				x, y := middleOf(t, k)
				if l.liesAt(c, l.placeOn(i, x+dx, y+dy)) {
					in++
				}
			}
			shares[k] = float64(in) / float64(parted*parted)
		}
		for k, share := range shares {
			if inside(k) {
				share = max(share, 0.51) // it counts as covered
			} else {
				share = min(share, 0.49)
			}
			cover[t.First+k] = uint8(255 * share)
		}
	})
}

// changes tells of a texel with others about it that are not as it is.
func changes(t *form.Texels, k, about int, inside func(k int) bool) bool {
	x, y := k%t.NX, k/t.NX
	for dy := -about; dy <= about; dy++ {
		for dx := -about; dx <= about; dx++ {
			if !beside(t, x+dx, y+dy) && inside(k+dy*t.NX+dx) != inside(k) {
				return true
			}
		}
	}
	return false
}
