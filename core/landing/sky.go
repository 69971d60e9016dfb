package landing

import (
	"math"

	"cinderpath/core/form"
)

// directions from which it is looked at a vehicle, even over all that lies above so much below the
// level.
const (
	directions = 64
	lowest     = -0.17 // ten degrees
)

// direction i of them, after Fibonacci's spiral.
func direction(i int) form.Vec {
	z := 1 - (1-lowest)*(float64(i)+0.5)/directions
	r := math.Sqrt(1 - z*z)
	a := math.Pi * (3 - math.Sqrt(5)) * float64(i)
	return form.Vec{r * math.Cos(a), r * math.Sin(a), z}
}

// view is a vehicle seen from far away: the depth of what is nearest in each pixel's middle.
type view struct {
	toward, right, up form.Vec
	x0, y0, pixel     float64
	nx, ny            int
	depth             []float32
}

func newView(panels []*form.Panel, toward form.Vec, pixel float64) *view {
	v := &view{toward: toward, pixel: pixel}
	v.right = form.Vec{0, 1, 0}
	if math.Abs(toward[2]) < 0.999 {
		v.right = form.Vec{0, 0, 1}.Cross(toward).Unit()
	}
	v.up = toward.Cross(v.right)
	x0, y0, x1, y1 := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, p := range panels {
		for _, piece := range p.Pieces {
			for _, c := range piece {
				x, y := c.Dot(v.right), c.Dot(v.up)
				x0, y0, x1, y1 = min(x0, x), min(y0, y), max(x1, x), max(y1, y)
			}
		}
	}
	v.x0, v.y0 = x0, y0
	v.nx, v.ny = int((x1-x0)/pixel)+1, int((y1-y0)/pixel)+1
	v.depth = make([]float32, v.nx*v.ny)
	for i := range v.depth {
		v.depth[i] = float32(math.Inf(-1))
	}
	for _, p := range panels {
		if p.Normal.Dot(toward) > 1e-6 {
			for _, piece := range p.Pieces {
				v.draw(p, piece)
			}
		}
	}
	return v
}

// plane gives a panel's depth at a place of the view: base + x dx + y dy.
func (v *view) plane(p *form.Plane) (base, dx, dy float64) {
	facing := p.Normal.Dot(v.toward)
	return p.Normal.Dot(p.Origin) / facing, -p.Normal.Dot(v.right) / facing, -p.Normal.Dot(v.up) / facing
}

// draw enters a convex piece by rows.
func (v *view) draw(p *form.Panel, piece []form.Vec) {
	base, dx, dy := v.plane(&p.Plane)
	flat := make(form.Ring, len(piece))
	low, high := math.Inf(1), math.Inf(-1)
	for i, c := range piece {
		flat[i] = [2]float64{c.Dot(v.right), c.Dot(v.up)}
		low, high = min(low, flat[i][1]), max(high, flat[i][1])
	}
	x0, y0 := v.x0+v.pixel/2, v.y0+v.pixel/2
	first, last := max(0, int(math.Ceil((low-y0)/v.pixel))), min(v.ny-1, int((high-y0)/v.pixel))
	form.Rows(flat, x0, y0, v.pixel, v.nx, first, last, func(j, from, to int) {
		for i := from; i <= to; i++ {
			d := float32(base + (x0+float64(i)*v.pixel)*dx + (y0+float64(j)*v.pixel)*dy)
			v.depth[j*v.nx+i] = max(v.depth[j*v.nx+i], d)
		}
	})
}

// open calls for each texel of a panel that faces the view and that nothing hides from it.
func (v *view) open(t *form.Texels, p *form.Plane, f func(k int)) {
	base, dx, dy := v.plane(p)
	over := 1 / v.pixel
	corner := t.Space(t.X0+t.Step/2, t.Y0+t.Step/2)
	x0, y0 := (corner.Dot(v.right)-v.x0)*over, (corner.Dot(v.up)-v.y0)*over
	ux, uy := t.U.Dot(v.right)*t.Step*over, t.U.Dot(v.up)*t.Step*over
	vx, vy := t.V.Dot(v.right)*t.Step*over, t.V.Dot(v.up)*t.Step*over
	// Its own plane is held against what was drawn where that was drawn: in the pixel's middle.
	base += (v.x0+v.pixel/2)*dx + (v.y0+v.pixel/2)*dy + t.Step
	dx, dy = dx*v.pixel, dy*v.pixel
	for j := range t.NY {
		x, y := x0+float64(j)*vx, y0+float64(j)*vy
		for k := j * t.NX; k < (j+1)*t.NX; k++ {
			if a, b := int(x), int(y); t.Area[k] > 0 {
				if a < 0 || b < 0 || a >= v.nx || b >= v.ny ||
					float64(v.depth[b*v.nx+a]) <= base+float64(a)*dx+float64(b)*dy {
					f(k)
				}
			}
			x, y = x+ux, y+uy
		}
	}
}

// seen is what is open to the sky, and what is behind something, by texel.
type seen struct{ sky, behind []float32 }

// seen computes them.
func (s *Site) seen() seen {
	return kept(s, "seen", func() seen {
		views := make([]*view, directions)
		form.Each(directions, func(i int) { views[i] = newView(s.Panels, direction(i), s.pixel()) })
		out := seen{make([]float32, s.Grid.Count), make([]float32, s.Grid.Count)}
		level := 0.0 // of the open sky, on a level face
		for i := range directions {
			level += max(direction(i)[2], 0)
		}
		form.Each(len(s.Grid.Texels), func(i int) {
			t := s.Grid.Texels[i]
			looked(t, &s.Panels[i].Plane, views, level, own(t, out.sky), own(t, out.behind))
		})
		return out
	})
}

// looked computes them for a panel.
func looked(t *form.Texels, p *form.Plane, views []*view, level float64, sky, behind []float32) {
	faced := 0
	from := make([]float32, len(t.Area))
	for i, v := range views {
		facing := t.Normal.Dot(v.toward)
		if facing <= 1e-3 {
			continue
		}
		faced++
		weight := float32(0)
		if z := direction(i)[2]; z > 0 {
			weight = float32(facing / level)
		}
		v.open(t, p, func(k int) {
			from[k]++
			sky[k] += weight
		})
	}
	for k, a := range t.Area {
		if a == 0 {
			continue
		}
		sky[k] = min(sky[k], 1)
		behind[k] = 1
		if faced > 0 {
			behind[k] = 1 - from[k]/float32(faced)
		}
	}
}

type sky struct{}

// Sky is the cosine-weighted share of the sky that is open: 1 on a level face in the open, a half
// on an upright one.
func Sky() Landing { return sky{} }

func (sky) On(s *Site, panel int, _ uint64, out []float32) {
	copy(out, own(s.Grid.Texels[panel], s.seen().sky))
}

type behind struct{}

// Behind is the share of directions from the sides and above, of those that the face looks at, from
// which it is not seen: behind wheels, under fenders.
func Behind() Landing { return behind{} }

func (behind) On(s *Site, panel int, _ uint64, out []float32) {
	copy(out, own(s.Grid.Texels[panel], s.seen().behind))
}
