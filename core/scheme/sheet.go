package scheme

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"cinderpath/core/form"

	"github.com/peterstace/simplefeatures/geom"
)

// sheet is a net of panels with a layout on it: colours are asked in its flat frame.
type sheet struct {
	*Layout
	panels []*form.Panel
	net    form.Net
	step   float64 // of its squares, real mm
	x0, y0 float64 // the middle of the first
	nx, ny int
	near   [][]int32 // members that may lie on each square
	pieces [][]Ring  // by member, a hair wider over its folds so that neighbours overlap
}

// hair is how far panels of a net are widened over their folds, real mm: 0.0003 mm on a model of 1:35.
const hair = 0.01

// beyondBy is how many squares a sheet reaches over its panels' box.
const beyondBy = 2

func (l *Layout) sheet(panels []*form.Panel, net form.Net) *sheet {
	s := &sheet{Layout: l, panels: panels, net: net, step: l.grid.Step}
	low, high := [2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}
	for i := range net.Members {
		m := &net.Members[i]
		own := s.widened(m)
		s.pieces = append(s.pieces, own)
		for _, piece := range own {
			for _, q := range piece {
				for k := range 2 {
					low[k], high[k] = min(low[k], q[k]), max(high[k], q[k])
				}
			}
		}
	}
	s.x0, s.y0 = low[0]+(0.5-beyondBy)*s.step, low[1]+(0.5-beyondBy)*s.step
	s.nx = int((high[0]-low[0])/s.step) + 1 + 2*beyondBy
	s.ny = int((high[1]-low[1])/s.step) + 1 + 2*beyondBy
	if len(net.Members) == 1 {
		return s
	}
	s.near = make([][]int32, s.nx*s.ny)
	for i, own := range s.pieces {
		x0, y0, x1, y1 := Box(own)
		i0, j0 := s.square(x0-3*s.step, y0-3*s.step)
		i1, j1 := s.square(x1+3*s.step, y1+3*s.step)
		for j := j0; j <= j1; j++ {
			for k := i0; k <= i1; k++ {
				s.near[j*s.nx+k] = append(s.near[j*s.nx+k], int32(i))
			}
		}
	}
	return s
}

// Box is the one about rings.
func Box(all []Ring) (x0, y0, x1, y1 float64) {
	x0, y0, x1, y1 = math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, r := range all {
		for _, q := range r {
			x0, y0, x1, y1 = min(x0, q[0]), min(y0, q[1]), max(x1, q[0]), max(y1, q[1])
		}
	}
	return x0, y0, x1, y1
}

// square is the one at a place, the nearest where it lies beside them.
func (s *sheet) square(x, y float64) (i, j int) {
	i, j = int(math.Round((x-s.x0)/s.step)), int(math.Round((y-s.y0)/s.step))
	return min(max(i, 0), s.nx-1), min(max(j, 0), s.ny-1)
}

// widened are a member's pieces in the net, their edges along its folds moved out by a hair.
func (s *sheet) widened(m *form.Member) (out []Ring) {
	p := s.panels[m.Panel]
	for _, piece := range m.Pieces(p) {
		ring := Ring(piece)
		for _, k := range m.Folds {
			a, b := m.Flat(p.Flat(p.Lines[k].A)), m.Flat(p.Flat(p.Lines[k].B))
			long := math.Hypot(b[0]-a[0], b[1]-a[1])
			dx, dy := (b[0]-a[0])/long, (b[1]-a[1])/long
			for i, q := range ring { // the panel lies on the left of its own edges
				if math.Abs(dx*(q[1]-a[1])-dy*(q[0]-a[0])) < hair/2 {
					ring[i] = [2]float64{q[0] + hair*dy, q[1] - hair*dx}
				}
			}
		}
		out = append(out, ring)
	}
	return out
}

// whole is the outline of all panels of a sheet.
func (s *sheet) whole() (geom.Geometry, error) {
	var all []geom.Geometry
	for _, own := range s.pieces {
		for _, piece := range own {
			all = append(all, polygon(piece).AsGeometry())
		}
	}
	out, err := geom.UnionMany(all)
	if err != nil {
		return out, fmt.Errorf("outline of %s: %w", s.zone(), err)
	}
	return out, nil
}

func (s *sheet) zone() string { return s.panels[s.net.Members[0].Panel].Zone }

// member is the one that a place of the sheet lies on, or lies nearest to.
func (s *sheet) member(x, y float64) *form.Member {
	if len(s.net.Members) == 1 {
		return &s.net.Members[0]
	}
	i, j := s.square(x, y)
	near := s.near[j*s.nx+i]
	best, deepest := 0, math.Inf(-1)
	for _, k := range near {
		for _, piece := range s.pieces[k] {
			if d := piece.depth(x, y); d > deepest {
				best, deepest = int(k), d
			}
		}
	}
	if len(near) == 0 { // beside all of them: any is as far
		for k, own := range s.pieces {
			for _, piece := range own {
				if d := piece.depth(x, y); d > deepest {
					best, deepest = k, d
				}
			}
		}
	}
	return &s.net.Members[best]
}

// depth is how deep a place lies in a convex ring that runs against the clock; below 0 outside.
func (r Ring) depth(x, y float64) float64 {
	out := math.Inf(1)
	for k, a := range r {
		b := r[(k+1)%len(r)]
		if long := math.Hypot(b[0]-a[0], b[1]-a[1]); long > 0 {
			out = min(out, ((b[0]-a[0])*(y-a[1])-(b[1]-a[1])*(x-a[0]))/long)
		}
	}
	return out
}

// at is the colour at a place of the sheet.
func (s *sheet) at(x, y float64) int {
	m := s.member(x, y)
	q := m.Back([2]float64{x, y})
	return s.At(m.Panel, q[0], q[1])
}

// middle is the middle of a square, in squares from the first.
func (s *sheet) middle(x, y float64) [2]float64 {
	return [2]float64{s.x0 + x*s.step, s.y0 + y*s.step}
}

// squares asks the colour at the middles of all of them. Those of a single panel are its texels, which
// know.
func (s *sheet) squares() []float64 {
	out := make([]float64, s.nx*s.ny)
	var t *form.Texels
	if len(s.net.Members) == 1 {
		t = s.grid.Texels[s.net.Members[0].Panel]
	}
	for k := range out {
		i, j := k%s.nx, k/s.nx
		if t != nil {
			x, y := i-beyondBy, j-beyondBy
			if x >= 0 && y >= 0 && x < t.NX && y < t.NY && t.Area[y*t.NX+x] > 0 {
				out[k] = float64(s.Taken[t.First+y*t.NX+x])
				continue
			}
		}
		q := s.middle(float64(i), float64(j))
		out[k] = float64(s.at(q[0], q[1]))
	}
	return out
}

// region is what of the sheet has a colour or one of a higher number.
func (s *sheet) region(colours []float64, c int, whole geom.Geometry) (geom.Geometry, error) {
	inside := func(p [2]float64) bool { return s.at(p[0], p[1]) >= c }
	bends := !slices.Contains(straight, s.pattern.Set(max(c, 1)).Family)
	var all []geom.Geometry
	for _, raw := range form.Contour(s.nx, s.ny, colours, float64(c)-0.5) {
		ring := make(Ring, 0, len(raw))
		for _, q := range raw {
			ring = append(ring, ending(q, s.middle, inside))
		}
		if ring = simpler(ring, fine/2); !bends {
			ring = sharpened(ring, s.step, inside)
		}
		if len(ring) >= 3 && math.Abs(ring.area()) > 1 {
			all = append(all, polygon(ring).AsGeometry())
		}
	}
	// Holes lie in what they are holes of: each outline turns over what is inside it.
	slices.SortStableFunc(all, func(a, b geom.Geometry) int { return cmp.Compare(b.Area(), a.Area()) })
	out := geom.Geometry{}
	var err error
	for _, g := range all {
		if g, err = geom.UnaryUnion(g); err == nil {
			out, err = geom.SymmetricDifference(out, g)
		}
		if err != nil {
			return out, fmt.Errorf("field of %s: %w", s.zone(), err)
		}
	}
	if out, err = geom.Intersection(out, whole); err != nil {
		return out, fmt.Errorf("field of %s: %w", s.zone(), err)
	}
	return out, nil
}

// ending finds by halving where a field ends on an edge of the net; q is the middle of the edge.
func ending(q [2]float64, at func(x, y float64) [2]float64, inside func([2]float64) bool) [2]float64 {
	a, b := q, q
	for k := range 2 {
		a[k], b[k] = math.Floor(q[k]), math.Ceil(q[k])
	}
	p, r := at(a[0], a[1]), at(b[0], b[1])
	first := inside(p)
	if first == inside(r) {
		return at(q[0], q[1])
	}
	for math.Hypot(r[0]-p[0], r[1]-p[1]) > fine/4 {
		m := [2]float64{(p[0] + r[0]) / 2, (p[1] + r[1]) / 2}
		if inside(m) == first {
			p = m
		} else {
			r = m
		}
	}
	return [2]float64{(p[0] + r[0]) / 2, (p[1] + r[1]) / 2}
}
