package form

import (
	"math"
	"slices"
)

// Outline is what shows of a zone in a view, model mm.
type Outline struct {
	Zone  string `json:"zone"`
	Rings []Ring `json:"rings"` // filled by the even-odd rule
}

// fineness of outlines, model mm: a quarter of what a finger or a pointer can choose.
const fineness = 0.3

// Outlines gives what shows of each zone, in the order in which the zones first appear.
func (s *Sight) Outlines(panels []*Panel) []Outline {
	step := max(fineness, s.Width/1200, s.Height/1200)
	r := s.Raster(s.Whole(), step)
	number := map[string]int{}
	var out []Outline
	var boxes [][4]int
	zone := make([]int, len(panels))
	for i, p := range panels {
		n, known := number[p.Zone]
		if !known {
			n = len(out)
			number[p.Zone] = n
			out = append(out, Outline{Zone: p.Zone, Rings: []Ring{}})
			boxes = append(boxes, [4]int{r.NX, r.NY, -1, -1})
		}
		zone[i] = n
	}
	for at, p := range r.Panel {
		if p >= 0 {
			b := &boxes[zone[p]]
			i, j := at%r.NX, at/r.NX
			b[0], b[1], b[2], b[3] = min(b[0], i), min(b[1], j), max(b[2], i), max(b[3], j)
		}
	}
	shown := out[:0]
	for n, o := range out {
		b := boxes[n]
		if b[2] < 0 {
			continue
		}
		l := lattice{
			NX: b[2] - b[0] + 1,
			NY: b[3] - b[1] + 1,
			X0: r.X + float64(b[0])*step,
			Y0: r.Y + float64(b[1])*step,
			DX: step,
			DY: step,
		}
		values := make([]float64, l.NX*l.NY)
		for j := range l.NY {
			for i := range l.NX {
				if p := r.Panel[(b[1]+j)*r.NX+b[0]+i]; p >= 0 && zone[p] == n {
					values[j*l.NX+i] = 1
				}
			}
		}
		for _, ring := range contour(l, values, 0.5) {
			if ring = thinned(ring, 0.6*step); len(ring) >= 3 && polygonArea(ring) > 2*step*step {
				o.Rings = append(o.Rings, ring)
			}
		}
		if len(o.Rings) > 0 {
			shown = append(shown, o)
		}
	}
	return shown
}

// thinned leaves out points of a closed line that lie within so much of it (Douglas and
// Peucker 1973).
func thinned(ring [][2]float64, within float64) [][2]float64 {
	if len(ring) < 4 {
		return ring
	}
	// From the first point to the farthest from it, and back.
	far, most := 0, -1.0
	for i, p := range ring {
		if d := math.Hypot(p[0]-ring[0][0], p[1]-ring[0][1]); d > most {
			far, most = i, d
		}
	}
	keep := make([]bool, len(ring)+1)
	keep[0], keep[far] = true, true
	closed := slices.Concat(ring, ring[:1])
	var split func(a, b int)
	split = func(a, b int) {
		p, q := closed[a], closed[b]
		long := math.Hypot(q[0]-p[0], q[1]-p[1])
		at, most := -1, within
		for i := a + 1; i < b; i++ {
			d := math.Hypot(closed[i][0]-p[0], closed[i][1]-p[1])
			if long > 0 {
				d = math.Abs((q[0]-p[0])*(closed[i][1]-p[1])-(q[1]-p[1])*(closed[i][0]-p[0])) / long
			}
			if d > most {
				at, most = i, d
			}
		}
		if at >= 0 {
			keep[at] = true
			split(a, at)
			split(at, b)
		}
	}
	split(0, far)
	split(far, len(ring))
	var out [][2]float64
	for i, p := range ring {
		if keep[i] {
			out = append(out, p)
		}
	}
	return out
}
