package look

import (
	"cmp"
	"image"
	"math"
	"slices"

	"cinderpath/core/form"
	"cinderpath/core/zone"
)

// Slot is where a panel's texels lie on a sheet, points from its upper left.
type Slot struct{ X, Y int }

// Sheet lays all panels side by side, texel by texel, on a square: what a turning body wears.
type Sheet struct {
	Side  int
	Slots []Slot // by panel: of its first texel, with room about it
}

// bleed is the room about a panel, points, so that its neighbours do not shine in.
const bleed = 2

// NewSheet lays the panels of a grid on shelves, the highest first, on a square that grows
// until all fit.
func NewSheet(g *form.Grid) Sheet {
	order := make([]int, len(g.Texels))
	area, side := 0, 1
	for i, t := range g.Texels {
		order[i] = i
		w, h := t.NX+2*bleed, t.NY+2*bleed
		area += w * h
		side = max(side, w, h)
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(g.Texels[b].NY, g.Texels[a].NY) })
	s := Sheet{Side: max(side, int(math.Sqrt(float64(area)))), Slots: make([]Slot, len(g.Texels))}
	for !s.shelve(g, order) {
		s.Side += max(s.Side/32, 1)
	}
	return s
}

func (s *Sheet) shelve(g *form.Grid, order []int) bool {
	x, y, row := 0, 0, 0
	for _, i := range order {
		w, h := g.Texels[i].NX+2*bleed, g.Texels[i].NY+2*bleed
		if x+w > s.Side {
			x, y, row = 0, y+row, 0
		}
		if y+h > s.Side {
			return false
		}
		s.Slots[i] = Slot{x + bleed, y + bleed}
		x += w
		row = max(row, h)
	}
	return true
}

// At is where a place of a panel's flat frame lies on the sheet, 0 to 1 from its upper left.
func (s Sheet) At(g *form.Grid, panel int, flat [2]float64) (u, v float64) {
	t, at, side := g.Texels[panel], s.Slots[panel], float64(s.Side)
	return (float64(at.X) + (flat[0]-t.X0)/t.Step) / side, (float64(at.Y) + (flat[1]-t.Y0)/t.Step) / side
}

// joint is how dark the edges of what turns are on the sheet: they are too many to be drawn
// as lines.
const joint = 0.6

// Paint fills the sheet from a frame, unlit. Points about a panel take the colour of its
// nearest texel.
func (s Sheet) Paint(g *form.Grid, f Frame) *image.NRGBA {
	out := image.NewNRGBA(image.Rect(0, 0, s.Side, s.Side))
	form.Each(len(g.Texels), func(i int) {
		t, at := g.Texels[i], s.Slots[i]
		for j := -bleed; j < t.NY+bleed; j++ {
			for k := -bleed; k < t.NX+bleed; k++ {
				a, b := min(max(k, 0), t.NX-1), min(max(j, 0), t.NY-1)
				px := f[4*(t.First+b*t.NX+a):]
				c := [3]float64{float64(px[0]), float64(px[1]), float64(px[2])}
				if px[3] == 0 {
					c = f.near(t, a, b)
				}
				if zone.IsTrack(t.Zone) && float64(t.Convex[b*t.NX+a]) < 0.8*t.Step {
					c = [3]float64{joint * c[0], joint * c[1], joint * c[2]}
				}
				n := out.PixOffset(at.X+k, at.Y+j)
				out.Pix[n], out.Pix[n+1], out.Pix[n+2], out.Pix[n+3] = uint8(c[0]), uint8(c[1]), uint8(c[2]), 255
			}
		}
	})
	return out
}
