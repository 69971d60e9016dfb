package form

import (
	"math"

	"cinderpath/core/length"
)

// Sight is what is seen of a vehicle from one side, hidden lines removed. Panels are told
// by their place in the list that it was made of.
type Sight struct {
	View
	Edges []Edge // that show
	Flats []Affine

	pieces []seen
}

// Affine maps a place in a view, model mm, to a panel's flat frame, real mm.
type Affine [6]float64

// At is the place in the flat frame.
func (a *Affine) At(x, y float64) (u, v float64) {
	return a[0] + a[1]*x + a[2]*y, a[3] + a[4]*x + a[5]*y
}

// Back is the way back from the flat frame to the view; nothing of a panel that is on edge.
func (a *Affine) Back() (out Affine) {
	det := a[1]*a[5] - a[2]*a[4]
	if det == 0 {
		return out
	}
	out[1], out[2], out[4], out[5] = a[5]/det, -a[2]/det, -a[4]/det, a[1]/det
	out[0] = -(out[1]*a[0] + out[2]*a[3])
	out[3] = -(out[4]*a[0] + out[5]*a[3])
	return out
}

// seen is a piece of a panel in a view: its outline, and its depth toward the viewer,
// which is base + x dx + y dy at a place of the view, real mm.
type seen struct {
	panel        int32
	outline      Ring
	low, high    [2]float64
	base, dx, dy float64
}

func (f *seen) depth(x, y float64) float64 { return f.base + x*f.dx + y*f.dy }

// Sights looks at panels from all sides.
func Sights(panels []*Panel, scale length.Scale) []Sight {
	edged := make([][][]Line, len(panels))
	Each(len(panels), func(i int) { edged[i] = panels[i].pieceLines() })
	views := Views(panels, scale)
	out := make([]Sight, len(views))
	Each(len(views), func(i int) { out[i] = look(views[i], panels, edged, scale) })
	return out
}

func look(view View, panels []*Panel, edged [][][]Line, scale length.Scale) Sight {
	f := NewFrame(view.Side, panels, scale)
	s := Sight{View: view, Flats: make([]Affine, len(panels))}
	n := float64(scale)
	var drawn []stroke
	for i, p := range panels {
		facing := p.Normal.Dot(f.toward)
		if facing <= 1e-6 {
			continue
		}
		dx, dy := -n*p.Normal.Dot(f.right)/facing, -n*p.Normal.Dot(f.down)/facing
		start := f.right.Times(f.x0).Plus(f.down.Times(f.y0)) // of the view, in the plane through the origin
		base := p.Origin.Sub(start).Dot(p.Normal) / facing
		// What a step of the view is on the panel.
		at := start.Plus(f.toward.Times(base)).Sub(p.Origin)
		right, down := f.right.Times(n).Plus(f.toward.Times(dx)), f.down.Times(n).Plus(f.toward.Times(dy))
		s.Flats[i] = Affine{at.Dot(p.U), right.Dot(p.U), down.Dot(p.U), at.Dot(p.V), right.Dot(p.V), down.Dot(p.V)}
		for k, piece := range p.Pieces {
			t := seen{panel: int32(i), base: base, dx: dx, dy: dy}
			for _, c := range piece {
				t.outline = append(t.outline, f.Flat(c))
			}
			if polygonArea(t.outline) < 1e-3 {
				continue // on edge
			}
			t.low[0], t.low[1], t.high[0], t.high[1] = bounds(t.outline)
			for _, l := range edged[i][k] {
				if w, ok := l.weight(p, f); ok {
					a, b := f.Flat(l.A), f.Flat(l.B)
					drawn = append(drawn, stroke{Edge{a, b, w}, t.depth(a[0], a[1]), t.depth(b[0], b[1])})
				}
			}
			s.pieces = append(s.pieces, t)
		}
	}
	s.Edges = shown(drawn, s.pieces, view.Width, view.Height)
	return s
}

// Box is a part of a view, model mm.
type Box struct{ X, Y, Width, Height float64 }

// Whole is all of a view.
func (v View) Whole() Box { return Box{0, 0, v.Width, v.Height} }

// Raster tells for each point of a picture which panel is seen there; −1 beside the vehicle.
type Raster struct {
	NX, NY int
	X, Y   float64 // of the middle of the first point, model mm
	Step   float64
	Panel  []int32 // point j*NX + i
}

// Raster finds what is seen on points of a spacing, model mm: of all pieces over a point
// the nearest.
func (s *Sight) Raster(box Box, step float64) Raster {
	r := Raster{
		NX:   max(int(math.Ceil(box.Width/step-1e-6)), 1),
		NY:   max(int(math.Ceil(box.Height/step-1e-6)), 1),
		X:    box.X + step/2,
		Y:    box.Y + step/2,
		Step: step,
	}
	r.Panel = make([]int32, r.NX*r.NY)
	const band = 32 // rows that are drawn in one go
	Each((r.NY+band-1)/band, func(k int) {
		r.draw(s.pieces, k*band, min((k+1)*band, r.NY))
	})
	return r
}

func (r *Raster) draw(pieces []seen, from, to int) {
	depth := make([]float64, (to-from)*r.NX)
	for i := range depth {
		depth[i] = math.Inf(-1)
		r.Panel[from*r.NX+i] = -1
	}
	for n := range pieces {
		f := &pieces[n]
		first := max(from, int(math.Ceil((f.low[1]-r.Y)/r.Step)))
		last := min(to-1, int((f.high[1]-r.Y)/r.Step))
		Rows(f.outline, r.X, r.Y, r.Step, r.NX, first, last, func(j, i0, i1 int) {
			row, seen := (j-from)*r.NX, j*r.NX
			d := f.depth(r.X+float64(i0)*r.Step, r.Y+float64(j)*r.Step)
			for i := i0; i <= i1; i++ {
				if d > depth[row+i] {
					depth[row+i], r.Panel[seen+i] = d, f.panel
				}
				d += f.dx * r.Step
			}
		})
	}
}

// Rows calls f for each of some rows, with the first and the last of its points that a convex
// outline covers. Points lie step apart, the first of the first row at x, y; n to a row.
func Rows(outline Ring, x, y, step float64, n, first, last int, f func(row, from, to int)) {
	for j := first; j <= last; j++ {
		at := y + float64(j)*step
		low, high := math.Inf(1), math.Inf(-1)
		for i, a := range outline {
			b := outline[(i+1)%len(outline)]
			if (a[1] > at) != (b[1] > at) {
				c := a[0] + (b[0]-a[0])*(at-a[1])/(b[1]-a[1])
				low, high = min(low, c), max(high, c)
			}
		}
		if low > high {
			continue
		}
		if i0, i1 := max(0, int(math.Ceil((low-x)/step))), min(n-1, int(math.Floor((high-x)/step))); i0 <= i1 {
			f(j, i0, i1)
		}
	}
}
