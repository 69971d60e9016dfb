package scheme

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"cinderpath/core/form"
	"cinderpath/core/zone"

	"github.com/peterstace/simplefeatures/geom"
)

// Ring is a closed outline, its first point not said again, real mm in a panel's flat frame.
type Ring [][2]float64

// Piece is one field of a colour on a panel.
type Piece struct {
	Colour int // from 0
	Number int // of the pieces of its colour on the panel, from 1
	Of     int
	Rings  []Ring // the outer one first
	Area   float64
	Middle [2]float64 // a place inside it
	Runs   []Run      // straight pieces of its edge, longest first; none of families that bend
}

// Run is a straight piece of edge.
type Run struct{ A, B [2]float64 }

// Length in real mm.
func (r Run) Length() float64 { return math.Hypot(r.B[0]-r.A[0], r.B[1]-r.A[1]) }

// PanelMask is a panel with the fields on it.
type PanelMask struct {
	Panel   int
	Zone    string
	Name    string // as people say it
	Outline []Ring
	Pieces  []Piece // that tile it
	Ticks   []Tick
	Crossed []Crossing
	Narrow  bool // too small to mask
}

// Limits of masks, on the model mm: panels below are left to the hand; pieces below are dust of the
// arithmetic.
const (
	leastPanel = 8.0
	leastPiece = 0.05 // mm²
)

// Masks gives the fields on each panel that carries more than one colour, cut from the fields
// themselves; scale is real to model.
func (l *Layout) Masks(panels []*form.Panel, scale float64) ([]PanelMask, error) {
	all := make([]*PanelMask, len(panels))
	faults := make([]error, len(panels))
	form.Each(len(panels), func(i int) { all[i], faults[i] = l.mask(panels, i, scale) })
	names := map[string]int{}
	var out []PanelMask
	for i, m := range all {
		if faults[i] != nil {
			return nil, faults[i]
		}
		if m == nil {
			continue
		}
		names[m.Zone]++
		if m.Name = zone.Words(m.Zone); names[m.Zone] > 1 {
			m.Name = fmt.Sprintf("%s %d", m.Name, names[m.Zone])
		}
		out = append(out, *m)
	}
	return out, nil
}

func (l *Layout) mask(panels []*form.Panel, i int, scale float64) (*PanelMask, error) {
	p, t := panels[i], l.grid.Texels[i]
	if zone.Bare(p.Zone) || len(l.Edges(i)) == 0 {
		return nil, nil
	}
	out := &PanelMask{Panel: i, Zone: p.Zone}
	x0, y0, x1, y1 := p.FlatBox()
	out.Narrow = min(x1-x0, y1-y0)/scale < leastPanel
	whole, err := rim(p)
	if err != nil {
		return nil, err
	}
	out.Outline = rings(whole)
	out.Ticks, out.Crossed = ticks(panels, i), l.crossings(p, i)
	if out.Narrow {
		return out, nil
	}
	// What of the panel has a colour or one of a higher number: those lie in each other, so that
	// their differences tile the panel.
	colours := l.net(i, t)
	above := geom.Geometry{}
	for c := len(l.Shares) - 1; c >= 0; c-- {
		here := whole
		if c > 0 {
			if here, err = l.region(i, t, colours, c, whole); err != nil {
				return nil, err
			}
		}
		own, err := geom.Difference(here, above)
		if err != nil {
			return nil, fmt.Errorf("mask of %s: %w", p.Zone, err)
		}
		out.Pieces = append(out.Pieces, l.pieces(own, c, whole, scale)...)
		above = here
	}
	slices.SortStableFunc(out.Pieces, func(a, b Piece) int { return cmp.Compare(a.Colour, b.Colour) })
	return out, nil
}

// rim joins a panel's pieces.
func rim(p *form.Panel) (geom.Geometry, error) {
	var all []geom.Geometry
	for _, piece := range p.FlatPieces() {
		all = append(all, polygon(Ring(piece)).AsGeometry())
	}
	out, err := geom.UnionMany(all)
	if err != nil {
		return out, fmt.Errorf("outline of %s: %w", p.Zone, err)
	}
	return out, nil
}

// beyond is how many texels the net reaches over a panel's box.
const beyondBy = 2

// net asks the colour at the middles of all texels of a panel, and a little beyond it.
func (l *Layout) net(i int, t *form.Texels) []float64 {
	nx, ny := t.NX+2*beyondBy, t.NY+2*beyondBy
	out := make([]float64, nx*ny)
	for k := range out {
		x, y := k%nx-beyondBy, k/nx-beyondBy
		if x >= 0 && y >= 0 && x < t.NX && y < t.NY && t.Area[y*t.NX+x] > 0 {
			out[k] = float64(l.Taken[t.First+y*t.NX+x])
			continue
		}
		out[k] = float64(l.At(i, t.X0+(float64(x)+0.5)*t.Step, t.Y0+(float64(y)+0.5)*t.Step))
	}
	return out
}

// region is what of a panel has a colour or one of a higher number.
func (l *Layout) region(i int, t *form.Texels, colours []float64, c int, whole geom.Geometry) (geom.Geometry, error) {
	nx, ny := t.NX+2*beyondBy, t.NY+2*beyondBy
	at := func(x, y float64) [2]float64 {
		return [2]float64{t.X0 + (x-beyondBy+0.5)*t.Step, t.Y0 + (y-beyondBy+0.5)*t.Step}
	}
	inside := func(p [2]float64) bool { return l.At(i, p[0], p[1]) >= c }
	bends := !slices.Contains(straight, l.pattern.Set(max(c, 1)).Family)
	var all []geom.Geometry
	for _, raw := range form.Contour(nx, ny, colours, float64(c)-0.5) {
		ring := make(Ring, 0, len(raw))
		for _, q := range raw {
			ring = append(ring, crossing(q, at, inside))
		}
		if ring = simpler(ring, fine/2); !bends {
			ring = sharpened(ring, t.Step)
		}
		if len(ring) >= 3 && math.Abs(area(ring)) > 1 {
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
			return out, fmt.Errorf("field of %s: %w", t.Zone, err)
		}
	}
	if out, err = geom.Intersection(out, whole); err != nil {
		return out, fmt.Errorf("field of %s: %w", t.Zone, err)
	}
	return out, nil
}

// crossing finds by halving where a field ends on an edge of the net; q is the middle of the edge.
func crossing(q [2]float64, at func(x, y float64) [2]float64, inside func([2]float64) bool) [2]float64 {
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

// pieces takes the parts of a region apart.
func (l *Layout) pieces(g geom.Geometry, c int, whole geom.Geometry, scale float64) (out []Piece) {
	for _, part := range g.Dump() {
		if !part.IsPolygon() || part.Area() < leastPiece*scale*scale {
			continue
		}
		piece := Piece{Colour: c, Rings: rings(part), Area: part.Area()}
		if xy, ok := part.PointOnSurface().XY(); ok {
			piece.Middle = [2]float64{xy.X, xy.Y}
		}
		if c > 0 && slices.Contains(straight, l.pattern.Set(c).Family) {
			piece.Runs = runs(piece.Rings, whole, scale)
		}
		out = append(out, piece)
	}
	for k := range out {
		out[k].Number, out[k].Of = k+1, len(out)
	}
	return out
}

// rings are the outlines of a polygon, or of several.
func rings(g geom.Geometry) (out []Ring) {
	for _, part := range g.Dump() {
		if !part.IsPolygon() {
			continue
		}
		for _, line := range part.MustAsPolygon().DumpRings() {
			s := line.Coordinates()
			ring := make(Ring, 0, s.Length())
			for k := range s.Length() - 1 {
				xy := s.GetXY(k)
				ring = append(ring, [2]float64{xy.X, xy.Y})
			}
			out = append(out, ring)
		}
	}
	return out
}

// runs are the straight pieces of edge of a field, those along the panel's own rim left out.
func runs(all []Ring, whole geom.Geometry, scale float64) (out []Run) {
	border := whole.Boundary()
	for _, ring := range all {
		for k, a := range ring {
			b := ring[(k+1)%len(ring)]
			r := Run{a, b}
			if r.Length() < 1*scale {
				continue
			}
			m := geom.XY{X: (a[0] + b[0]) / 2, Y: (a[1] + b[1]) / 2}.AsPoint().AsGeometry()
			if d, ok := geom.Distance(m, border); ok && d < 0.05*scale {
				continue
			}
			out = append(out, r)
		}
	}
	slices.SortFunc(out, func(a, b Run) int { return cmp.Compare(b.Length(), a.Length()) })
	return out
}
