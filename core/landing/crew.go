package landing

import (
	"container/heap"
	"math"

	"cinderpath/core/form"
)

// Where people can go.
const (
	steepest = 30.0  // degrees
	width    = 250.0 // of what one stands on, real mm
	stride   = 500.0 // that one steps up or down
	cellSize = 50.0
	mostWide = 400   // cells each way: larger vehicles are walked in coarser ones
	boots    = 2     // cells each way that a boot wants
	reach    = 150.0 // of hands and boots about what they use
)

// used are the fittings that people use.
var used = []string{"hatch", "rail", "box", "hook"}

// ground is the vehicle from above: how high it is in each cell, and whether one can stand there.
type ground struct {
	x0, y0 float64
	nx, ny int
	cell   float64
	height []float64
	stands []bool
}

func (g *ground) at(x, y float64) int {
	i, j := int((x-g.x0)/g.cell), int((y-g.y0)/g.cell)
	return min(max(j, 0), g.ny-1)*g.nx + min(max(i, 0), g.nx-1)
}

func newGround(panels []*form.Panel) *ground {
	g := fromAbove(panels, cellSize)
	g.stood()
	return g
}

// fromAbove is the height of some panels in cells of a size, or coarser where there would be too many.
func fromAbove(panels []*form.Panel, cell float64) *ground {
	most := mostWide * cellSize / cell // cells each way
	for _, p := range panels {
		for _, piece := range p.Pieces {
			for _, c := range piece {
				cell = max(cell, 2*math.Abs(c[0])/most, 2*math.Abs(c[1])/most)
			}
		}
	}
	v := newView(panels, form.Vec{0, 0, 1}, cell)
	g := &ground{cell: cell}
	// From straight above right is y, up is −x: turned so that the rows run along x.
	g.x0, g.y0, g.nx, g.ny = -(v.y0 + float64(v.ny)*g.cell), v.x0, v.ny, v.nx
	g.height, g.stands = make([]float64, g.nx*g.ny), make([]bool, g.nx*g.ny)
	for j := range g.ny {
		for i := range g.nx {
			g.height[j*g.nx+i] = float64(v.depth[(v.ny-1-i)*v.nx+j])
		}
	}
	return g
}

// stood finds where one can stand.
func (g *ground) stood() {
	most := g.cell * math.Tan(steepest*math.Pi/180)
	flat := make([]bool, len(g.stands))
	for k := range flat {
		flat[k] = !math.IsInf(g.height[k], -1)
		for _, o := range g.about(k, 1) {
			flat[k] = flat[k] && math.Abs(g.height[o]-g.height[k]) <= most
		}
	}
	// One stands where there is room for a boot.
	for k := range flat {
		g.stands[k] = flat[k]
		for _, o := range g.about(k, boots) {
			g.stands[k] = g.stands[k] && flat[o]
		}
	}
}

// about are the cells within so many of one.
func (g *ground) about(k, r int) (out []int) {
	i, j := k%g.nx, k/g.nx
	for b := max(j-r, 0); b <= min(j+r, g.ny-1); b++ {
		for a := max(i-r, 0); a <= min(i+r, g.nx-1); a++ {
			if o := b*g.nx + a; o != k {
				out = append(out, o)
			}
		}
	}
	return out
}

// near are the cells where one stands next to a block.
func (g *ground) near(b block) (out []int) {
	for k, ok := range g.stands {
		x, y := g.x0+(float64(k%g.nx)+0.5)*g.cell, g.y0+(float64(k/g.nx)+0.5)*g.cell
		p := form.Vec{x, y, g.height[k]}
		if ok && b.distance(p) <= width+g.cell {
			out = append(out, k)
		}
	}
	return out
}

// ways are the shortest ways from some cells to all, over what can be stood on: how long, and from
// where each is reached.
func (g *ground) ways(from []int) (long []float64, back []int) {
	long, back = make([]float64, len(g.stands)), make([]int, len(g.stands))
	for k := range long {
		long[k], back[k] = math.Inf(1), -1
	}
	q := &queue{}
	for _, k := range from {
		long[k] = 0
		heap.Push(q, way{k, 0})
	}
	for q.Len() > 0 {
		w, _ := heap.Pop(q).(way)
		if w.long > long[w.cell] {
			continue
		}
		for _, o := range g.about(w.cell, 1) {
			rise := math.Abs(g.height[o] - g.height[w.cell])
			if !g.stands[o] || rise > stride {
				continue
			}
			across := g.cell
			if o%g.nx != w.cell%g.nx && o/g.nx != w.cell/g.nx {
				across *= math.Sqrt2
			}
			if l := w.long + math.Hypot(across, rise); l < long[o]-1e-9 {
				long[o], back[o] = l, w.cell
				heap.Push(q, way{o, l})
			}
		}
	}
	return long, back
}

type way struct {
	cell int
	long float64
}

type queue []way

func (q queue) Len() int { return len(q) }
func (q queue) Less(i, j int) bool {
	return q[i].long < q[j].long || q[i].long == q[j].long && q[i].cell < q[j].cell
}
func (q queue) Swap(i, j int) { q[i], q[j] = q[j], q[i] }
func (q *queue) Push(x any) {
	w, _ := x.(way)
	*q = append(*q, w)
}

func (q *queue) Pop() any {
	last := (*q)[len(*q)-1]
	*q = (*q)[:len(*q)-1]
	return last
}

// trodden computes crew.
func (s *Site) trodden() []float32 {
	return kept(s, "crew", func() []float32 {
		out := make([]float32, s.Grid.Count)
		if len(s.Panels) == 0 {
			return out
		}
		blocks := s.blocks(used)
		g := newGround(s.Panels)
		trodden := make([]bool, len(g.stands))
		starts := make([][]int, len(blocks))
		for i, b := range blocks {
			starts[i] = g.near(b)
		}
		for i := range blocks {
			long, back := g.ways(starts[i])
			for j := range blocks[:i] {
				best := -1
				for _, k := range starts[j] {
					if !math.IsInf(long[k], 1) && (best < 0 || long[k] < long[best]) {
						best = k
					}
				}
				for k := best; k >= 0; k = back[k] {
					trodden[k] = true
				}
			}
		}
		away := g.distances(trodden)
		form.Each(len(s.Grid.Texels), func(i int) {
			t := s.Grid.Texels[i]
			fill(t, own(t, out), func(k int) float32 {
				p := t.Point(k)
				v := float32(0)
				for _, b := range blocks {
					v = max(v, bell(float32(b.distance(p)), reach))
				}
				c := g.at(p[0], p[1])
				if t.Normal[2] > math.Cos(steepest*math.Pi/180) && math.Abs(p[2]-g.height[c]) < g.cell {
					v = max(v, bell(float32(away[c]), reach))
				}
				return v
			})
		})
		return out
	})
}

// distances to the nearest cell that is trodden.
func (g *ground) distances(trodden []bool) []float64 {
	out := make([]float64, len(trodden))
	r := int(3*reach/g.cell) + 1
	for k := range out {
		out[k] = math.Inf(1)
		if trodden[k] {
			out[k] = 0
			continue
		}
		for _, o := range g.about(k, r) {
			if trodden[o] {
				out[k] = min(out[k], g.cell*math.Hypot(float64(o%g.nx-k%g.nx), float64(o/g.nx-k/g.nx)))
			}
		}
	}
	return out
}

type crew struct{}

// Crew is what hands and boots rub: about hatches, handles, bins and hooks, and the shortest ways
// between them over faces that can be stood on.
func Crew() Landing { return crew{} }

func (crew) On(s *Site, panel int, _ uint64, out []float32) {
	copy(out, own(s.Grid.Texels[panel], s.trodden()))
}
