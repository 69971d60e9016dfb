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
		facing := p.Normal.dot(f.toward)
		if facing <= 1e-6 {
			continue
		}
		dx, dy := -n*p.Normal.dot(f.right)/facing, -n*p.Normal.dot(f.down)/facing
		start := f.right.times(f.x0).plus(f.down.times(f.y0)) // of the view, in the plane through the origin
		base := p.Origin.sub(start).dot(p.Normal) / facing
		// What a step of the view is on the panel.
		at := start.plus(f.toward.times(base)).sub(p.Origin)
		right, down := f.right.times(n).plus(f.toward.times(dx)), f.down.times(n).plus(f.toward.times(dy))
		s.Flats[i] = Affine{at.dot(p.U), right.dot(p.U), down.dot(p.U), at.dot(p.V), right.dot(p.V), down.dot(p.V)}
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
		for j := first; j <= last; j++ {
			y := r.Y + float64(j)*r.Step
			low, high := math.Inf(1), math.Inf(-1)
			for i, a := range f.outline {
				b := f.outline[(i+1)%len(f.outline)]
				if (a[1] > y) != (b[1] > y) {
					x := a[0] + (b[0]-a[0])*(y-a[1])/(b[1]-a[1])
					low, high = min(low, x), max(high, x)
				}
			}
			if low > high {
				continue
			}
			i0, i1 := max(0, int(math.Ceil((low-r.X)/r.Step))), min(r.NX-1, int(math.Floor((high-r.X)/r.Step)))
			row, seen := (j-from)*r.NX, j*r.NX
			d := f.depth(r.X+float64(i0)*r.Step, y)
			for i := i0; i <= i1; i++ {
				if d > depth[row+i] {
					depth[row+i], r.Panel[seen+i] = d, f.panel
				}
				d += f.dx * r.Step
			}
		}
	}
}
