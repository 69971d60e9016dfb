package scheme

import (
	"math"

	"cinderpath/core/form"
	"cinderpath/core/zone"
)

// Stretch is a piece of edge between two colours, in the flat frame of a panel, real mm.
type Stretch struct {
	A, B  [2]float64
	Below int     // colour
	Above int     // the one that is sprayed later
	Part  float64 // how much of it lies on the panel
}

// Length in real mm, of what lies on the panel.
func (s Stretch) Length() float64 {
	return s.Part * math.Hypot(s.B[0]-s.A[0], s.B[1]-s.A[1])
}

// fine is how near edges are found, real mm: 0.02 mm on a model of 1:35.
const fine = 0.7

// Edges are the edges between the colours on a panel: between the middles of its texels they
// are found by halving.
func (l *Layout) Edges(panel int) (out []Stretch) {
	t := l.grid.Texels[panel]
	if zone.Bare(t.Zone) {
		return nil
	}
	node := func(i, j int) (colour int, area float64, at [2]float64) {
		at = [2]float64{t.X0 + (float64(i)+0.5)*t.Step, t.Y0 + (float64(j)+0.5)*t.Step}
		if i < 0 || j < 0 || i >= t.NX || j >= t.NY {
			return -1, 0, at
		}
		k := j*t.NX + i
		if t.Area[k] == 0 {
			return -1, 0, at
		}
		return int(l.Taken[t.First+k]), float64(t.Area[k]) / (t.Step * t.Step), at
	}
	for j := -1; j < t.NY; j++ {
		for i := -1; i < t.NX; i++ {
			var colours [4]int
			var at [4][2]float64
			area, known, differ := 0.0, -1, false
			for q, d := range [4][2]int{{0, 0}, {1, 0}, {1, 1}, {0, 1}} {
				c, a, p := node(i+d[0], j+d[1])
				colours[q], at[q] = c, p
				area += a / 4
				if c >= 0 {
					differ = differ || known >= 0 && c != known
					known = c
				}
			}
			if !differ {
				continue
			}
			out = l.across(out, panel, colours, at, area)
		}
	}
	return out
}

// across adds the edges in the cell between four middles.
func (l *Layout) across(out []Stretch, panel int, colours [4]int, at [4][2]float64, area float64) []Stretch {
	for q := range 4 {
		if colours[q] < 0 { // beside the panel the field goes on
			colours[q] = l.At(panel, at[q][0], at[q][1])
		}
	}
	var cuts [4][2]float64
	var pairs [4][2]int
	n := 0
	for q := range 4 {
		r := (q + 1) % 4
		if colours[q] == colours[r] {
			continue
		}
		cuts[n] = l.between(panel, at[q], at[r], colours[q])
		pairs[n] = [2]int{min(colours[q], colours[r]), max(colours[q], colours[r])}
		n++
	}
	add := func(a, b [2]float64, pair [2]int) {
		out = append(out, Stretch{a, b, pair[0], pair[1], area})
	}
	switch {
	case n == 2:
		add(cuts[0], cuts[1], pairs[0])
	case n > 2:
		middle := [2]float64{}
		for k := range n {
			middle[0] += cuts[k][0] / float64(n)
			middle[1] += cuts[k][1] / float64(n)
		}
		for k := range n {
			add(cuts[k], middle, pairs[k])
		}
	}
	return out
}

// between is where a colour ends between two places.
func (l *Layout) between(panel int, a, b [2]float64, colour int) [2]float64 {
	for math.Hypot(b[0]-a[0], b[1]-a[1]) > fine {
		m := [2]float64{(a[0] + b[0]) / 2, (a[1] + b[1]) / 2}
		if l.At(panel, m[0], m[1]) == colour {
			a = m
		} else {
			b = m
		}
	}
	return [2]float64{(a[0] + b[0]) / 2, (a[1] + b[1]) / 2}
}

// edges are points in space along all edges that lie so far, nearer to each other than a texel;
// those between the middles of neighbouring texels.
func (l *Layout) edges() (out []form.Vec) {
	found := make([][]form.Vec, len(l.grid.Texels))
	form.Each(len(l.grid.Texels), func(i int) {
		t := l.grid.Texels[i]
		for _, s := range l.Edges(i) {
			// Ends and the middle: spaced by half a texel at most.
			for _, k := range [3]float64{0, 0.5, 1} {
				found[i] = append(found[i], t.Space(s.A[0]+k*(s.B[0]-s.A[0]), s.A[1]+k*(s.B[1]-s.A[1])))
			}
		}
	})
	for _, f := range found {
		out = append(out, f...)
	}
	return out
}

// Told is what is told of a colour on a zone, real mm.
type Told struct {
	Colour int
	Zone   string
	Area   float64   // real mm²
	Edge   float64   // with what lies below it
	Over   []float64 // the same by the colour below; nothing where there is no edge
	Fields []int     // by number; one that lies on several zones has the same on all
	Least  float64   // width along the middle line, tips left out, 5th percentile; 0 where nothing is narrow
	At     form.Vec
}
