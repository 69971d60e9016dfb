package form

import (
	"math"
	"slices"
)

// Lattice is a coarse sampling of one panel, for outlines: NX × NY nodes in the panel's
// flat frame, covering its bounding box. Node (i, j) lies at X0 + i DX, Y0 + j DY.
type Lattice struct {
	Panel  *Panel
	NX, NY int
	X0, Y0 float64
	DX, DY float64
	Points []Vec // node j*NX + i in space, real mm

	pieces [][][2]float64
}

// Lattices lays a lattice with nodes at most step apart (real mm) over each panel, and
// at least three nodes each way, so that thin strips are sampled within.
func Lattices(panels []*Panel, step float64) []*Lattice {
	out := make([]*Lattice, len(panels))
	for n, p := range panels {
		l := &Lattice{Panel: p, pieces: p.FlatPieces()}
		x0, y0, x1, y1 := span(l.pieces)
		l.NX = max(2, int(math.Ceil((x1-x0)/step))) + 1
		l.NY = max(2, int(math.Ceil((y1-y0)/step))) + 1
		l.X0, l.Y0, l.DX, l.DY = x0, y0, (x1-x0)/float64(l.NX-1), (y1-y0)/float64(l.NY-1)
		l.Points = make([]Vec, l.NX*l.NY)
		for j := range l.NY {
			for i := range l.NX {
				l.Points[j*l.NX+i] = p.Space(x0+float64(i)*l.DX, y0+float64(j)*l.DY)
			}
		}
		out[n] = l
	}
	return out
}

// span is the box about pieces.
func span(pieces [][][2]float64) (x0, y0, x1, y1 float64) {
	x0, y0, x1, y1 = math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, piece := range pieces {
		a, b, c, d := bounds(piece)
		x0, y0, x1, y1 = min(x0, a), min(y0, b), max(x1, c), max(y1, d)
	}
	return x0, y0, x1, y1
}

// Regions returns the closed outlines, in the panel's flat frame and cut to the panel
// when it is of one piece, of where the field exceeds level. Values has one entry per
// node. Rings are to be filled by the even-odd rule.
func (l *Lattice) Regions(values []float64, level float64) [][][2]float64 {
	lowest, highest := slices.Min(values), slices.Max(values)
	if highest <= level {
		return nil
	}
	if lowest > level {
		return l.pieces
	}
	rings := contour(l, values, level)
	if len(l.pieces) > 1 {
		return rings // cut when they are drawn, each piece for itself
	}
	var out [][][2]float64
	for _, ring := range rings {
		if cut := clip(ring, l.pieces[0]); len(cut) >= 3 {
			out = append(out, cut)
		}
	}
	return out
}

// contour walks the cells (marching squares). Nodes beyond the rim count as
// below the level, so that every outline closes.
func contour(l *Lattice, values []float64, level float64) [][][2]float64 {
	nx, ny := l.NX, l.NY
	above := func(i, j int) bool {
		return i >= 0 && j >= 0 && i < nx && j < ny && values[j*nx+i] > level
	}
	at := func(i, j int) float64 {
		if i < 0 || j < 0 || i >= nx || j >= ny {
			return math.Inf(-1)
		}
		return values[j*nx+i]
	}
	// An edge of the lattice, by number: between node (i, j) and its right (0) or
	// upper (1) neighbour, one row and column of nodes beyond the rim included.
	edge := func(i, j, dir int) int32 { return int32(2*((j+1)*(nx+2)+i+1) + dir) }
	point := func(e int32) [2]float64 {
		dir, node := int(e%2), int(e/2)
		i, j := node%(nx+2)-1, node/(nx+2)-1
		a, b := at(i, j), at(i+1-dir, j+dir)
		t := 0.0
		switch {
		case math.IsInf(a, -1):
			t = 1
		case !math.IsInf(b, -1):
			t = (level - a) / (b - a)
		}
		return [2]float64{l.X0 + (float64(i)+t*float64(1-dir))*l.DX, l.Y0 + (float64(j)+t*float64(dir))*l.DY}
	}
	follow := make([]int32, 2*(nx+2)*(ny+2)) // the edge a line goes on to, plus one; 0 for none
	order := make([]int32, 0, 4*(nx+ny))
	link := func(a, b int32) {
		follow[a] = b + 1
		order = append(order, a)
	}
	for j := -1; j < ny; j++ {
		for i := -1; i < nx; i++ {
			index := 0
			for bit, on := range [4]bool{above(i, j), above(i+1, j), above(i+1, j+1), above(i, j+1)} {
				if on {
					index |= 1 << bit
				}
			}
			if index == 0 || index == 15 {
				continue
			}
			bottom, right, top, left := edge(i, j, 0), edge(i+1, j, 1), edge(i, j+1, 0), edge(i, j, 1)
			// Each line keeps the region on its left.
			switch index {
			case 1:
				link(bottom, left)
			case 2:
				link(right, bottom)
			case 3:
				link(right, left)
			case 4:
				link(top, right)
			case 6:
				link(top, bottom)
			case 7:
				link(top, left)
			case 8:
				link(left, top)
			case 9:
				link(bottom, top)
			case 11:
				link(right, top)
			case 12:
				link(left, right)
			case 13:
				link(bottom, right)
			case 14:
				link(left, bottom)
			case 5, 10: // two corners across: joined when the middle lies above
				joined := (at(i, j)+at(i+1, j)+at(i+1, j+1)+at(i, j+1))/4 > level
				switch {
				case index == 5 && joined:
					link(bottom, right)
					link(top, left)
				case index == 5:
					link(bottom, left)
					link(top, right)
				case joined:
					link(left, bottom)
					link(right, top)
				default:
					link(right, bottom)
					link(left, top)
				}
			}
		}
	}
	var rings [][][2]float64
	for _, start := range order {
		var ring [][2]float64
		for e := start; follow[e] != 0; {
			next := follow[e] - 1
			follow[e] = 0
			ring = append(ring, point(e))
			e = next
		}
		if len(ring) >= 3 {
			rings = append(rings, ring)
		}
	}
	return rings
}

// clip cuts a polygon to a convex one (Sutherland and Hodgman).
func clip(ring, window [][2]float64) [][2]float64 {
	direction := 0.0
	for i := range window {
		j := (i + 1) % len(window)
		direction += window[i][0]*window[j][1] - window[j][0]*window[i][1]
	}
	for i := range window {
		a, b := window[i], window[(i+1)%len(window)]
		side := func(p [2]float64) float64 {
			return math.Copysign(1, direction) * ((b[0]-a[0])*(p[1]-a[1]) - (b[1]-a[1])*(p[0]-a[0]))
		}
		if !slices.ContainsFunc(ring, func(p [2]float64) bool { return side(p) < 0 }) {
			continue // nothing lies beyond this edge
		}
		kept := make([][2]float64, 0, len(ring)+4)
		for k, p := range ring {
			q := ring[(k+1)%len(ring)]
			sp, sq := side(p), side(q)
			if sp >= 0 {
				kept = append(kept, p)
			}
			if (sp > 0 && sq < 0) || (sp < 0 && sq > 0) {
				t := sp / (sp - sq)
				kept = append(kept, [2]float64{p[0] + t*(q[0]-p[0]), p[1] + t*(q[1]-p[1])})
			}
		}
		ring = kept
	}
	return ring
}
