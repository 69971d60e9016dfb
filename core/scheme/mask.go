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

// PanelMask is a panel with the fields on it, or several that meet without an edge, unrolled.
type PanelMask struct {
	Net     form.Net
	Number  int // on the sheet, from 1
	Zone    string
	Name    string  // as people say it
	Outline []Ring  // the outer ones and those of holes where other parts stand
	Pieces  []Piece // that tile it
	Ticks   []Tick
	Crossed []Crossing
	Narrow  bool // too small to mask
	Rolled  bool // unrolled from a round part: it is as long as the girth
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
	nets, beyond := form.Nets(panels), form.Beyond(panels)
	all := make([]*PanelMask, len(nets))
	faults := make([]error, len(nets))
	form.Each(len(nets), func(i int) { all[i], faults[i] = l.mask(panels, nets[i], beyond, scale) })
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
	return numbered(out), nil
}

func (l *Layout) mask(panels []*form.Panel, net form.Net, beyond [][]form.Other, scale float64) (*PanelMask, error) {
	several := func(m form.Member) bool { return len(l.Edges(m.Panel)) > 0 }
	s := l.sheet(panels, net)
	if zone.Bare(s.zone()) || !slices.ContainsFunc(net.Members, several) {
		return nil, nil
	}
	out := &PanelMask{Net: net, Zone: s.zone()}
	whole, err := s.whole()
	if err != nil {
		return nil, err
	}
	out.Outline = rings(whole)
	x0, y0, x1, y1 := Box(out.Outline)
	wide := min(x1-x0, y1-y0)
	for i := range net.Members {
		m := &net.Members[i]
		out.Rolled = out.Rolled || len(m.Folds) > 0 && panels[m.Panel].Round
		out.Ticks = append(out.Ticks, ticks(panels, m, beyond, scale)...)
	}
	if out.Rolled { // a band may lie in an arc
		wide = min(wide, out.Outline[0].breadth())
	}
	out.Narrow = wide/scale < leastPanel
	out.Crossed = s.crossings(whole, scale)
	if out.Narrow {
		return out, nil
	}
	// What of the panel has a colour or one of a higher number: those lie in each other, so that
	// their differences tile the panel.
	colours := s.squares()
	above := geom.Geometry{}
	for c := len(l.Shares) - 1; c >= 0; c-- {
		here := whole
		if c > 0 {
			if here, err = s.region(colours, c, whole); err != nil {
				return nil, err
			}
		}
		own, err := geom.Difference(here, above)
		if err != nil {
			return nil, fmt.Errorf("mask of %s: %w", s.zone(), err)
		}
		out.Pieces = append(out.Pieces, l.pieces(own, c, whole, scale)...)
		above = here
	}
	slices.SortStableFunc(out.Pieces, func(a, b Piece) int { return cmp.Compare(a.Colour, b.Colour) })
	return out, nil
}

// pieces takes the parts of a region apart.
func (l *Layout) pieces(g geom.Geometry, c int, whole geom.Geometry, scale float64) (out []Piece) {
	for _, part := range g.Dump() {
		if !part.IsPolygon() || part.Area() < leastPiece*scale*scale {
			continue
		}
		piece := Piece{Colour: c, Area: part.Area()}
		for k, r := range rings(part) {
			if r = r.unspiked(fine / 2); len(r) > 2 {
				piece.Rings = append(piece.Rings, r)
			} else if k == 0 {
				break
			}
		}
		if len(piece.Rings) == 0 {
			continue
		}
		if xy, ok := polygon(piece.Rings...).AsGeometry().PointOnSurface().XY(); ok {
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
