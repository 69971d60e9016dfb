package scheme

import "cinderpath/core/form"

// rubbedAway is how far from an edge a cloth takes most, real mm.
const rubbedAway = 90.0

// Laid is how much of a colour lies on each texel once it is as strong as is wanted, 255 for a full
// coat: Cover where it is laid in full. grid and layout belong together.
func (l *Layout) Laid(c int, strength string) []uint8 {
	cover := l.Cover[c]
	if strength == Mist {
		return l.mist()
	}
	if cover == nil || strength == Full {
		return cover
	}
	out := make([]uint8, len(cover))
	form.Each(len(l.grid.Texels), func(i int) {
		t := l.grid.Texels[i]
		for k, a := range t.Area {
			at := t.First + k
			if a == 0 || cover[at] == 0 {
				continue
			}
			left := thinness
			if strength == Rubbed {
				p := t.Point(k)
				// Cloth goes over what stands out, and unevenly.
				left = 0.86 + 0.3*form.Noise(77, p[0]/220, p[1]/220, p[2]/220) + 0.16*form.Noise(78, p[0]/60, p[1]/60, p[2]/60)
				if d := float64(t.Convex[k]); d < rubbedAway {
					left -= 0.75 * (1 - d/rubbedAway)
				}
				left = min(max(left, 0.08), 1)
			}
			out[at] = uint8(float64(cover[at])*left + 0.5)
		}
	})
	return out
}

// misted is what of a full coat a mist is.
const misted = 0.16

// mist is a little of the first colour wherever the scheme goes.
func (l *Layout) mist() []uint8 {
	out := make([]uint8, l.grid.Count)
	form.Each(len(l.grid.Texels), func(i int) {
		t := l.grid.Texels[i]
		if !l.pattern.takes(0, t.Zone) {
			return
		}
		for k, a := range t.Area {
			if a > 0 {
				share := misted
				out[t.First+k] = uint8(255 * share)
			}
		}
	})
	return out
}
