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

// Tick is a mark on an edge that two panels share: the same on both.
type Tick struct {
	At    [2]float64
	Along [2]float64 // unit, into the panel
	Name  string
	Zone  string // beyond it
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

func polygon(ring ...Ring) geom.Polygon {
	var lines []geom.LineString
	for _, r := range ring {
		xy := make([]float64, 0, 2*len(r)+2)
		for _, q := range r {
			xy = append(xy, q[0], q[1])
		}
		xy = append(xy, r[0][0], r[0][1])
		lines = append(lines, geom.NewLineString(geom.NewSequence(xy, geom.DimXY)))
	}
	return geom.NewPolygon(lines)
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

func area(r Ring) float64 {
	sum := 0.0
	for k, a := range r {
		b := r[(k+1)%len(r)]
		sum += a[0]*b[1] - b[0]*a[1]
	}
	return sum / 2
}

// simpler leaves out points that lie on the line between those that stay, to a tolerance
// (Douglas and Peucker, on both halves of the ring).
func simpler(r Ring, tolerance float64) Ring {
	if len(r) < 5 {
		return r
	}
	// The two ends are the point farthest from the first, and the one farthest from that.
	far := func(from int) int {
		best, d := 0, -1.0
		for k, q := range r {
			if e := math.Hypot(q[0]-r[from][0], q[1]-r[from][1]); e > d {
				best, d = k, e
			}
		}
		return best
	}
	a := far(0)
	b := far(a)
	turned := append(slices.Clone(r[a:]), r[:a]...)
	split := (b - a + len(r)) % len(r)
	first := thinned(turned[:split+1], tolerance)
	second := thinned(append(slices.Clone(turned[split:]), turned[0]), tolerance)
	return append(first[:len(first)-1], second[:len(second)-1]...)
}

func thinned(line Ring, tolerance float64) Ring {
	if len(line) < 3 {
		return line
	}
	a, b := line[0], line[len(line)-1]
	long := math.Hypot(b[0]-a[0], b[1]-a[1])
	worst, at := 0.0, 0
	for k := 1; k < len(line)-1; k++ {
		d := math.Hypot(line[k][0]-a[0], line[k][1]-a[1])
		if long > 0 {
			d = math.Abs((b[0]-a[0])*(line[k][1]-a[1])-(b[1]-a[1])*(line[k][0]-a[0])) / long
		}
		if d > worst {
			worst, at = d, k
		}
	}
	if worst <= tolerance {
		return Ring{a, b}
	}
	left := thinned(slices.Clone(line[:at+1]), tolerance)
	return append(left[:len(left)-1], thinned(slices.Clone(line[at:]), tolerance)...)
}

// sharpened gives the corners back to straight edges: the net cuts them off, by less than two of
// its steps.
func sharpened(r Ring, step float64) Ring {
	out := slices.Clone(r)
	for k := 0; k < len(out) && len(out) > 3; k++ {
		n := len(out)
		a, b, c, d := out[(k+n-1)%n], out[k], out[(k+1)%n], out[(k+2)%n]
		short := math.Hypot(c[0]-b[0], c[1]-b[1])
		if short > 1.6*step || math.Hypot(b[0]-a[0], b[1]-a[1]) < 1.6*step || math.Hypot(d[0]-c[0], d[1]-c[1]) < 1.6*step {
			continue
		}
		x, ok := meet(a, b, c, d)
		if !ok || math.Hypot(x[0]-b[0], x[1]-b[1]) > 4*step || math.Hypot(x[0]-c[0], x[1]-c[1]) > 4*step {
			continue
		}
		out[k] = x
		out = slices.Delete(out, (k+1)%n, (k+1)%n+1)
	}
	return out
}

// meet is where the lines through a, b and c, d cross.
func meet(a, b, c, d [2]float64) ([2]float64, bool) {
	ux, uy, vx, vy := b[0]-a[0], b[1]-a[1], d[0]-c[0], d[1]-c[1]
	cross := ux*vy - uy*vx
	if math.Abs(cross) < 1e-3*math.Hypot(ux, uy)*math.Hypot(vx, vy) {
		return [2]float64{}, false
	}
	t := ((c[0]-a[0])*vy - (c[1]-a[1])*vx) / cross
	return [2]float64{a[0] + t*ux, a[1] + t*uy}, true
}

// ticks are marks at a third and two thirds of the edges that a panel shares with another.
func ticks(panels []*form.Panel, i int) (out []Tick) {
	p := panels[i]
	for _, line := range p.Lines {
		if line.Joint || line.Smooth {
			continue
		}
		o := beyond(panels, i, line)
		if o < 0 || zone.Bare(panels[o].Zone) {
			continue
		}
		a, b := p.Flat(line.A), p.Flat(line.B)
		long := math.Hypot(b[0]-a[0], b[1]-a[1])
		if long < 1 {
			continue
		}
		// The panel lies on the left of its own edges.
		into := [2]float64{-(b[1] - a[1]) / long, (b[0] - a[0]) / long}
		// The lower panel names the edge, so that both say the same.
		low, high := min(i, o), max(i, o)
		for k, part := range [2]float64{1.0 / 3, 2.0 / 3} {
			if i > o { // it runs the other way
				k = 1 - k
			}
			out = append(out, Tick{
				At:    [2]float64{a[0] + part*(b[0]-a[0]), a[1] + part*(b[1]-a[1])},
				Along: into,
				Name:  fmt.Sprintf("%d.%d%c", low, high, 'a'+k),
				Zone:  panels[o].Zone,
			})
		}
	}
	return out
}

// beyond is the panel on the other side of a panel's edge; below 0: none.
func beyond(panels []*form.Panel, i int, line form.Line) int {
	for o, q := range panels {
		if o == i {
			continue
		}
		for _, other := range q.Lines {
			if distance(other.A, line.B) < 0.01 && distance(other.B, line.A) < 0.01 {
				return o
			}
		}
	}
	return -1
}
