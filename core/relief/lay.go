package relief

import (
	"math"

	"cinderpath/core/form"
)

// Mark is a piece of relief on a panel, in its flat frame: a dot, whose ends are one, or a line.
type Mark struct {
	A, B   [2]float64
	Radius float64 // half its width, real mm
	Raised bool
	Kind   Kind
}

// Dot tells of one that is round.
func (m Mark) Dot() bool { return m.A == m.B }

// Away is how far a place of the panel is from the middle of the mark, real mm.
func (m Mark) Away(x, y float64) float64 {
	dx, dy := m.B[0]-m.A[0], m.B[1]-m.A[1]
	u := 0.0
	if square := dx*dx + dy*dy; square > 0 {
		u = min(max(((x-m.A[0])*dx+(y-m.A[1])*dy)/square, 0), 1)
	}
	return math.Hypot(x-m.A[0]-u*dx, y-m.A[1]-u*dy)
}

// Laid are the marks of details by panel, each list in the order of the details.
type Laid [][]Mark

// Of are the marks of a panel.
func (l Laid) Of(panel int) []Mark {
	if panel >= len(l) {
		return nil
	}
	return l[panel]
}

// leastPlate is the area of the smallest plate that details go round, real mm².
const leastPlate = 60_000.0

// mostMarks bounds what one detail lays on one plate.
const mostMarks = 2000

// Lay gives the marks of details on panels.
func Lay(details []Detail, panels []*form.Panel) Laid {
	out := make(Laid, len(panels))
	for _, d := range details {
		f := d.Filled()
		switch d.Way {
		case Round:
			for i, p := range panels {
				if p.Zone == d.Zone && !p.Round && p.Area() >= leastPlate {
					out[i] = append(out[i], f.round(p)...)
				}
			}
		default:
			if i := nearest(panels, d.Zone, *d.At); i >= 0 {
				a := panels[i].Flat(*d.At)
				b := a
				if d.To != nil {
					b = panels[i].Flat(*d.To)
				}
				out[i] = append(out[i], f.along(newPlate(panels[i]), a, b)...)
			}
		}
	}
	return out
}

// nearest is the panel of a zone in whose plane a place lies most nearly, of those that it lies on;
// −1 for none.
func nearest(panels []*form.Panel, zone string, at form.Vec) int {
	best, least := -1, math.Inf(1)
	for i, p := range panels {
		if p.Zone != zone {
			continue
		}
		off := math.Abs(p.Normal.Dot(at.Sub(p.Origin)))
		if flat := p.Flat(at); off < least && newPlate(p).holds(flat[0], flat[1]) {
			best, least = i, off
		}
	}
	return best
}

// plate is a panel by its convex pieces in its flat frame.
type plate [][][2]float64

func newPlate(p *form.Panel) plate { return p.FlatPieces() }

// holds tells whether a place lies on the plate.
func (p plate) holds(x, y float64) bool {
	for _, piece := range p {
		if inside(piece, x, y) {
			return true
		}
	}
	return false
}

// inside tells of a convex piece, whichever way round it goes.
func inside(piece [][2]float64, x, y float64) bool {
	left, right := false, false
	for i, a := range piece {
		b := piece[(i+1)%len(piece)]
		c := (b[0]-a[0])*(y-a[1]) - (b[1]-a[1])*(x-a[0])
		left, right = left || c > 1e-6, right || c < -1e-6
	}
	return len(piece) > 2 && (!left || !right)
}

// round lays the detail along the outer edges of a plate, so far in.
func (d Detail) round(panel *form.Panel) (out []Mark) {
	p := newPlate(panel)
	for _, l := range panel.Lines {
		if l.Smooth || l.Joint {
			continue // not where another part stands on it
		}
		a, b := panel.Flat(l.A), panel.Flat(l.B)
		long := math.Hypot(b[0]-a[0], b[1]-a[1])
		if long < 2*d.InsetMM+d.SizeMM {
			continue
		}
		ux, uy := (b[0]-a[0])/long, (b[1]-a[1])/long
		for _, side := range []float64{1, -1} {
			nx, ny := -uy*side*d.InsetMM, ux*side*d.InsetMM
			if !p.holds((a[0]+b[0])/2+nx, (a[1]+b[1])/2+ny) {
				continue
			}
			from := [2]float64{a[0] + ux*d.InsetMM + nx, a[1] + uy*d.InsetMM + ny}
			to := [2]float64{b[0] - ux*d.InsetMM + nx, b[1] - uy*d.InsetMM + ny}
			out = append(out, d.along(p, from, to)...)
			break
		}
	}
	return out
}

// along lays the detail from one place of a plate to another: what lies beside the plate is left out.
func (d Detail) along(p plate, a, b [2]float64) (out []Mark) {
	kind := about(d.Kind)
	mark := Mark{Radius: d.SizeMM / 2, Raised: kind.Raised, Kind: d.Kind}
	long := math.Hypot(b[0]-a[0], b[1]-a[1])
	at := func(u float64) [2]float64 { return [2]float64{a[0] + u*(b[0]-a[0]), a[1] + u*(b[1]-a[1])} }
	if !kind.Dots {
		// In pieces, so that it ends where the plate does.
		n := min(max(int(long/100), 1), mostMarks)
		for i := range n {
			from, to := at(float64(i)/float64(n)), at(float64(i+1)/float64(n))
			if p.holds(from[0], from[1]) && p.holds(to[0], to[1]) {
				mark.A, mark.B = from, to
				out = append(out, mark)
			}
		}
		return joined(out)
	}
	n := min(int(math.Floor(long/d.PitchMM+1e-9))+1, mostMarks)
	for i := range n {
		u := 0.0
		if n > 1 {
			u = float64(i) / float64(n-1)
		}
		if c := at(u); p.holds(c[0], c[1]) {
			mark.A, mark.B = c, c
			out = append(out, mark)
		}
	}
	return out
}

// joined makes one of pieces that meet.
func joined(marks []Mark) (out []Mark) {
	for _, m := range marks {
		if last := len(out) - 1; last >= 0 && out[last].B == m.A {
			out[last].B = m.B
			continue
		}
		out = append(out, m)
	}
	return out
}

// Count is how many dots, and how many millimetres of line, there are of a list of marks.
func Count(marks []Mark) (dots int, long float64) {
	for _, m := range marks {
		if m.Dot() {
			dots++
		}
		long += math.Hypot(m.B[0]-m.A[0], m.B[1]-m.A[1])
	}
	return dots, long
}
