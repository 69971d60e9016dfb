package form

import (
	"math"
	"slices"
)

// Weight is how strongly an edge is drawn.
type Weight uint8

// The weights.
const (
	Heavy Weight = iota // where the part ends against what is behind
	Plain               // where two faces meet
	Fine                // where they meet nearly flat
)

// Edge is a line of a drawing, model mm in its view.
type Edge struct {
	A, B   [2]float64
	Weight Weight
}

// stroke is an edge that may be hidden in part, with the depth of its ends, real mm.
type stroke struct {
	Edge
	a, b float64
}

// weight tells how an edge of a panel is drawn; ok is false where it is not.
func (l Line) weight(p *Panel, f Frame) (w Weight, ok bool) {
	away := l.Beyond.Dot(f.toward) <= 1e-6
	switch {
	case !l.Joint && !l.Hollow && away && l.Beyond != Vec{}:
		return Heavy, true
	case l.Smooth:
		return 0, false
	case l.Slight(p):
		return Fine, true
	}
	return Plain, true
}

// pieceLines gives each piece of a panel those parts of the panel's lines that run
// along its rim.
func (p *Panel) pieceLines() [][]Line {
	out := make([][]Line, len(p.Pieces))
	for i, piece := range p.Pieces {
		for k, a := range piece {
			b := piece[(k+1)%len(piece)]
			along := b.Sub(a)
			long := along.Length()
			if long < 1e-6 {
				continue
			}
			along = along.Times(1 / long)
			for _, l := range p.Lines {
				s, t := l.A.Sub(a), l.B.Sub(a)
				u, v := s.Dot(along), t.Dot(along)
				if s.Sub(along.Times(u)).Length() > 2*touching || t.Sub(along.Times(v)).Length() > 2*touching {
					continue
				}
				u, v = max(min(u, v), 0), min(max(u, v), long)
				if v-u > 1e-3 {
					part := l
					part.A, part.B = a.Plus(along.Times(u)), a.Plus(along.Times(v))
					out[i] = append(out[i], part)
				}
			}
		}
	}
	return out
}

// shown leaves of edges what nothing nearer covers. An edge that two faces share is drawn once.
func shown(all []stroke, pieces []seen, width, height float64) []Edge {
	index := newCells(pieces, width, height)
	// By its ends in space: behind one that is seen another may run that is not.
	known := map[[2][3]int32]bool{}
	key := func(p [2]float64, depth float64) [3]int32 {
		return [3]int32{int32(math.Round(p[0] * 100)), int32(math.Round(p[1] * 100)), int32(math.Round(depth))}
	}
	slices.SortStableFunc(all, func(a, b stroke) int { return int(a.Weight) - int(b.Weight) })
	var out []Edge
	for _, e := range all {
		a, b := key(e.A, e.a), key(e.B, e.b)
		if a == b || known[[2][3]int32{a, b}] || known[[2][3]int32{b, a}] {
			continue
		}
		known[[2][3]int32{a, b}] = true
		left := [][2]float64{{0, 1}}
		index.along(e.A, e.B, func(n int32) bool {
			if from, to, hit := pieces[n].hides(e); hit {
				left = without(left, from, to)
			}
			return len(left) > 0
		})
		at := func(t float64) [2]float64 {
			return [2]float64{e.A[0] + t*(e.B[0]-e.A[0]), e.A[1] + t*(e.B[1]-e.A[1])}
		}
		for _, part := range left {
			out = append(out, Edge{at(part[0]), at(part[1]), e.Weight})
		}
	}
	return out
}

// without takes a stretch out of stretches of a line.
func without(left [][2]float64, from, to float64) [][2]float64 {
	const hair = 1e-9
	out := left[:0:0]
	for _, s := range left {
		if from-s[0] > hair {
			out = append(out, [2]float64{s[0], min(s[1], from)})
		}
		if s[1]-to > hair {
			out = append(out, [2]float64{max(s[0], to), s[1]})
		}
	}
	return out
}

// hides tells which stretch of an edge a seen covers: within its outline, and nearer by
// more than what faces touch within.
func (f *seen) hides(e stroke) (from, to float64, ok bool) {
	if max(e.A[0], e.B[0]) < f.low[0] || min(e.A[0], e.B[0]) > f.high[0] || max(e.A[1], e.B[1]) < f.low[1] ||
		min(e.A[1], e.B[1]) > f.high[1] {
		return 0, 0, false
	}
	from, to = 0, 1
	half := func(a, b float64) bool { // where a + t (b − a) is above 0
		switch {
		case a <= 0 && b <= 0:
			return false
		case a < 0:
			from = max(from, a/(a-b))
		case b < 0:
			to = min(to, a/(a-b))
		}
		return from < to
	}
	turn := math.Copysign(1, signed(f.outline))
	for i, p := range f.outline {
		q := f.outline[(i+1)%len(f.outline)]
		side := func(c [2]float64) float64 { return turn * ((q[0]-p[0])*(c[1]-p[1]) - (q[1]-p[1])*(c[0]-p[0])) }
		if !half(side(e.A), side(e.B)) {
			return 0, 0, false
		}
	}
	near := 2 * touching
	ok = half(f.depth(e.A[0], e.A[1])-e.a-near, f.depth(e.B[0], e.B[1])-e.b-near)
	return from, to, ok
}

// cells finds the pieces near a line.
type cells struct {
	nx, ny int
	size   float64
	in     [][]int32
}

func newCells(pieces []seen, width, height float64) *cells {
	c := &cells{size: max(width, height, 1) / 96}
	c.nx, c.ny = int(width/c.size)+1, int(height/c.size)+1
	c.in = make([][]int32, c.nx*c.ny)
	for n := range pieces {
		f := &pieces[n]
		i0, j0 := c.at(f.low)
		i1, j1 := c.at(f.high)
		for j := j0; j <= j1; j++ {
			for i := i0; i <= i1; i++ {
				c.in[j*c.nx+i] = append(c.in[j*c.nx+i], int32(n))
			}
		}
	}
	return c
}

func (c *cells) at(p [2]float64) (i, j int) {
	return min(max(int(p[0]/c.size), 0), c.nx-1), min(max(int(p[1]/c.size), 0), c.ny-1)
}

// along visits the pieces in the cells that a line runs through, some of them again, until
// f has enough.
func (c *cells) along(a, b [2]float64, f func(n int32) bool) {
	steps := int(max(math.Abs(b[0]-a[0]), math.Abs(b[1]-a[1]))/c.size*4) + 1
	last := -1
	for k := 0; k <= steps; k++ {
		t := float64(k) / float64(steps)
		i, j := c.at([2]float64{a[0] + t*(b[0]-a[0]), a[1] + t*(b[1]-a[1])})
		if at := j*c.nx + i; at != last {
			last = at
			for _, n := range c.in[at] {
				if !f(n) {
					return
				}
			}
		}
	}
}
