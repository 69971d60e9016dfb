package form

import (
	"math"

	"cinderpath/core/gear"
)

// across visits places of a wheel's disc in the side view: its middle and three rings.
func across(w gear.Wheel, visit func(x, z float64)) {
	visit(w.X, w.Z)
	for _, share := range []float64{0.4, 0.7, 0.97} {
		for i := range 32 {
			sin, cos := math.Sincos(2 * math.Pi * float64(i) / 32)
			visit(w.X+share*w.Radius*cos, w.Z+share*w.Radius*sin)
		}
	}
}

// beside is how far a hull reaches to the side within a wheel's disc, real mm; 0 where
// the two do not overlap in the side view.
func (h Hull) beside(w gear.Wheel) (out float64) {
	across(w, func(x, z float64) {
		if within(h.Profile, [2]float64{x, z}) {
			out = math.Max(out, h.half(x, z))
		}
	})
	return out
}

// Clash tells of the first wheel that stands within a hull. Wheels reach from their
// faces, that far from the middle, inward by their width, real mm; name gives a wheel's.
func Clash(b Body, wheels []gear.Wheel, face, width float64, name func(wheel int) string) error {
	for i, w := range wheels {
		for _, h := range b.Hulls {
			if reach := h.beside(w); reach > face-width+1 {
				return fitted(
					name(i),
					"it stands %.0f mm within %s; move it, or make the hull narrower there than %.0f mm, or cut an arch",
					reach-(face-width),
					h.ID,
					2*(face-width),
				)
			}
		}
	}
	return nil
}

// Gap is the room between two things that must not touch, real mm.
type Gap struct {
	Between string
	Real    float64
}

// Gaps gives the room that wheels and track have: behind the wheels to the hull, above
// the track to the fenders, beside it to the skirts. line is the track's pin line.
func Gaps(b Body, wheels []gear.Wheel, face, width float64, line [][2]float64, l gear.Link) []Gap {
	var out []Gap
	inner, known := 0.0, false
	for _, w := range wheels {
		for _, h := range b.Hulls {
			if reach := h.beside(w); reach > 0 {
				inner, known = math.Max(inner, reach), true
			}
		}
	}
	if known {
		out = append(out, Gap{"wheel back and hull", face - width - inner})
	}
	for _, s := range b.Skirts {
		out = append(out, Gap{"wheel face and " + s.ID, s.Out - s.Thick - face})
	}
	for _, f := range b.Fenders {
		if f.Outer < face-width || f.Inner > face {
			continue
		}
		least := math.Inf(1)
		for i, p := range f.Line[:len(f.Line)-1] {
			q := f.Line[i+1]
			over := func(x, z float64) {
				if lo, hi := math.Min(p[0], q[0]), math.Max(p[0], q[0]); x >= lo && x <= hi && p[0] != q[0] {
					// Only what runs below this stretch counts, not what passes beside it.
					if gap := p[1] + (q[1]-p[1])*(x-p[0])/(q[0]-p[0]) - f.Thick - z; gap > -100 {
						least = math.Min(least, gap)
					}
				}
			}
			for _, at := range line {
				over(at[0], at[1]+l.Ground)
			}
			for _, w := range wheels {
				if !w.Carries() {
					over(w.X, w.Z+w.Radius)
				}
			}
		}
		if !math.IsInf(least, 1) {
			what := "track and "
			if len(line) == 0 {
				what = "tyre and "
			}
			out = append(out, Gap{what + f.ID, least})
		}
	}
	return out
}
