package look

import (
	"image"
	"math"

	"cinderpath/core/form"
	"cinderpath/core/relief"
)

// How small relief is drawn: finer than the edges of the body.
const (
	smallWidth = 0.7 // pixels
	smallDark  = 0.42
	faintDark  = 0.25 // of a bead, which is no edge
	leastDot   = 0.45 // radius of the smallest ring, pixels: below it a dot is a speck
	clearDot   = 2.5  // radius from which on a ring is drawn as dark as a line, pixels
	pieceLong  = 12   // of a line that is looked at as one, pixels
)

// small draws the small relief that is seen: bolts as rings, beads and joints as lines.
func small(img *image.NRGBA, s *form.Sight, r *form.Raster, laid relief.Laid, p Picture) {
	for panel := range s.Flats {
		marks := laid.Of(panel)
		if len(marks) == 0 || s.Flats[panel] == (form.Affine{}) {
			continue
		}
		to := s.Flats[panel].Back()
		at := func(u, v float64) (x, y float64) {
			x, y = to.At(u, v)
			return (x - p.Box.X) / p.Pixel, (y - p.Box.Y) / p.Pixel
		}
		seen := func(x, y float64) bool {
			i, j := int(x*fine), int(y*fine)
			return x >= 0 && y >= 0 && i < r.NX && j < r.NY && int(r.Panel[j*r.NX+i]) == panel
		}
		for _, m := range marks {
			if m.Dot() {
				if x, y := at(m.A[0], m.A[1]); seen(x, y) {
					ring(img, at, m, x, y)
				}
				continue
			}
			bead(img, at, seen, m)
		}
	}
}

// ring draws a dot as it lies on its panel: round there, and narrower where that is seen aslant.
func ring(img *image.NRGBA, at func(u, v float64) (x, y float64), m relief.Mark, x, y float64) {
	const corners = 8
	ax, ay := at(m.A[0]+m.Radius, m.A[1])
	wide := math.Hypot(ax-x, ay-y)
	dark := smallDark * min(wide/clearDot, 1) // from afar a row of bolts is a breath, not a row of holes
	if wide < leastDot {
		stroke(img, x-0.5, y, x+0.5, y, smallWidth, dark)
		return
	}
	for i := range corners {
		t := 2 * math.Pi * float64(i+1) / corners
		bx, by := at(m.A[0]+m.Radius*math.Cos(t), m.A[1]+m.Radius*math.Sin(t))
		stroke(img, ax, ay, bx, by, smallWidth, dark)
		ax, ay = bx, by
	}
}

// bead draws a line, as far as it is seen.
func bead(img *image.NRGBA, at func(u, v float64) (x, y float64), seen func(x, y float64) bool, m relief.Mark) {
	ax, ay := at(m.A[0], m.A[1])
	bx, by := at(m.B[0], m.B[1])
	n := max(int(math.Hypot(bx-ax, by-ay)/pieceLong), 1)
	dark := smallDark
	if m.Raised {
		dark = faintDark
	}
	for i := range n {
		u, v := float64(i)/float64(n), float64(i+1)/float64(n)
		px, py, qx, qy := ax+u*(bx-ax), ay+u*(by-ay), ax+v*(bx-ax), ay+v*(by-ay)
		if seen((px+qx)/2, (py+qy)/2) {
			stroke(img, px, py, qx, qy, smallWidth, dark)
		}
	}
}
