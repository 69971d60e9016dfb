package scheme

import (
	"cmp"
	"math"
	"slices"

	"cinderpath/core/form"
)

// splinters are cells of space between planes, some of which get the colour: every edge is
// straight on every flat panel. Cells are ranked by chance; one cell at most is cut once more by
// the level, along a plane too, so that the share is met.
type splinters struct {
	seed   uint64
	nodes  []node
	leaves []leaf
	frame  float64 // panes: the ground stays as wide along each plane, real mm
	width  float64 // wanted along the middle lines of cells, real mm
	about  []int   // while it is made: the nodes above
}

// node parts space by a plane: below is where normal·p < d.
type node struct {
	normal form.Vec
	d      float64
	child  [2]int // of nodes; below 0: a leaf, -1-n
}

type leaf struct {
	rank      float64  // whole
	along     form.Vec // in which the level cuts it
	low, high float64
	off       int // how far it is from the wanted width, in steps
}

// step of the angles between planes.
const facets = math.Pi / 12

// mostSampled are the points of the surface by which cells are made.
const mostSampled = 12000

func newSplinters(m making) field {
	return cutUp(m, m.width*1.19, sharp)
}

// cutUp parts space into cells about so wide, real mm, by planes of some directions.
func cutUp(m making, width float64, ways []form.Vec) *splinters {
	f := &splinters{seed: m.seed, width: m.width, frame: m.frame}
	every := max(1, m.grid.Count/mostSampled)
	var points []form.Vec
	for _, i := range m.panels {
		t := m.grid.Texels[i]
		for k := (every - t.First%every) % every; k < len(t.Area); k += every {
			if t.Area[k] > 0 {
				points = append(points, t.Point(k))
			}
		}
	}
	f.part(points, form.Hash(m.seed), width, ways, 0)
	// Cells that were one before their last cut lie beside each other: every second cell comes
	// first, so that fields run together late; of those the ones that are as wide as is wanted,
	// by chance.
	order := make([]int, len(f.leaves))
	for i := range order {
		order[i] = i
	}
	slices.SortFunc(order, func(a, b int) int {
		return cmp.Or(cmp.Compare(b&1, a&1), cmp.Compare(f.leaves[a].off, f.leaves[b].off),
			cmp.Compare(form.Hash(m.seed+uint64(a)*7), form.Hash(m.seed+uint64(b)*7)))
	})
	for r, i := range order {
		f.leaves[i].rank = float64(len(order) - 1 - r)
	}
	return f
}

// The directions of planes: of splinters in steps of 15 degrees along the vehicle, of panes upright
// and level; of both across it.
var (
	sharp = func() (out []form.Vec) {
		for k := range 12 {
			sin, cos := math.Sincos(float64(k) * facets)
			out = append(out, form.Vec{cos, 0, sin})
		}
		return append(out, form.Vec{0, 1, 0})
	}()
	square = []form.Vec{{1, 0, 0}, {0, 0, 1}, {0, 1, 0}}
)

// deepest of the tree.
const deepest = 20

// longest is how long a cell may be, of its width.
const longest = 2.2

// Widths of cells: inner is the percentile of their points that lies on the middle line, near how
// unlike two may be that are taken by chance.
const (
	inner = 96
	near  = 0.05
)

// part makes the node, or the leaf, of some points, and tells its number.
func (f *splinters) part(points []form.Vec, h uint64, width float64, ways []form.Vec, depth int) int {
	wide, long, along := math.Inf(1), 0.0, 0
	for k, n := range ways {
		low, high := reach(points, n)
		if across := k == len(ways)-1; !across {
			wide = min(wide, high-low)
		} else if high-low < longest*width {
			continue
		}
		if high-low > long {
			long, along = high-low, k
		}
	}
	h = form.Hash(h)
	if len(points) < 4 || depth == deepest || wide < 1.35*width && long < longest*width {
		n := turned(ways[int(h%uint64(len(ways)-1))], h, 0)
		low, high := reach(points, n)
		f.leaves = append(f.leaves, leaf{
			along: n, low: low, high: max(high, low+1),
			off: int(math.Abs(math.Log(max(f.ridge(points), 1)/f.width)) / near),
		})
		return -len(f.leaves)
	}
	lean := 0.0
	if len(ways) > len(square) {
		lean = 1
		if along < len(ways)-1 { // one step to either side of where it is longest, or straight across
			along = (along + int(h>>8%3) + len(ways) - 2) % (len(ways) - 1)
		}
	}
	best := turned(ways[along], form.Hash(h+3), lean)
	from, to := reach(points, best)
	d := from + (to-from)*(0.42+0.16*form.Unit(form.Hash(h+11)))
	var sides [2][]form.Vec
	for _, p := range points {
		s := 0
		if p.Dot(best) >= d {
			s = 1
		}
		sides[s] = append(sides[s], p)
	}
	at := len(f.nodes)
	f.nodes = append(f.nodes, node{normal: best, d: d})
	f.about = append(f.about, at)
	for s := range 2 {
		child := f.part(sides[s], form.Hash(h+uint64(s)+1), width, ways, depth+1)
		f.nodes[at].child[s] = child
	}
	f.about = f.about[:len(f.about)-1]
	return at
}

// ridge is how wide a cell of these points is along its middle line: what most of them lie within, twice.
func (f *splinters) ridge(points []form.Vec) float64 {
	if len(points) == 0 || len(f.about) == 0 {
		return 0
	}
	deep := make([]float64, len(points))
	for i, p := range points {
		deep[i] = math.Inf(1)
		for _, k := range f.about {
			n := &f.nodes[k]
			deep[i] = min(deep[i], math.Abs(p.Dot(n.normal)-n.d))
		}
	}
	slices.Sort(deep)
	return 2 * (deep[len(deep)*inner/100] - f.frame/2)
}

// turned is a direction turned a little across the vehicle, so that its two sides differ.
func turned(n form.Vec, h uint64, lean float64) form.Vec {
	n[1] += lean * 0.5 * (form.Unit(h) - 0.5)
	k := 1 / math.Sqrt(n.Dot(n))
	return form.Vec{n[0] * k, n[1] * k, n[2] * k}
}

func reach(points []form.Vec, n form.Vec) (low, high float64) {
	if len(points) == 0 {
		return 0, 0
	}
	low, high = math.Inf(1), math.Inf(-1)
	for _, p := range points {
		v := p.Dot(n)
		low, high = min(low, v), max(high, v)
	}
	return low, high
}

// cell is the leaf in which a place lies; framed tells of one in the frame beside a plane.
func (f *splinters) cell(p place) (leaf int, framed bool) {
	at := 0
	if len(f.nodes) == 0 {
		return 0, false
	}
	for {
		n := &f.nodes[at]
		away := p.at.Dot(n.normal) - n.d
		framed = framed || math.Abs(away) < f.frame/2
		side := 0
		if away >= 0 {
			side = 1
		}
		if at = n.child[side]; at < 0 {
			return -1 - at, framed
		}
	}
}

func (f *splinters) at(p place) float64 {
	i, framed := f.cell(p)
	if framed {
		return -1e6
	}
	l := &f.leaves[i]
	inside := (p.at.Dot(l.along) - l.low) / (l.high - l.low)
	return l.rank + math.Min(math.Max(inside, 0), 0.999)
}

// pin gives the cell the colour before all others, or last.
func (f *splinters) pin(p place, inside bool) {
	i, _ := f.cell(p)
	n := float64(len(f.leaves))
	switch r := &f.leaves[i].rank; {
	case inside && *r < n:
		*r += 2 * n
	case !inside && *r >= 0:
		*r -= 4 * n
	}
}

// newPanes are cells with straight sides, upright and level, within a frame of the ground.
func newPanes(m making) field {
	return cutUp(m, (m.width+m.frame)*0.9, square)
}
