package form

import (
	"math"
	"runtime"
	"sort"
	"sync"
	"sync/atomic"
)

// Texels are the squares of the surface grid on one panel: NX × NY of them in its flat
// frame, from X0, Y0 on. A texel stands for the part of its square that the panel covers.
// They know their plane, not their panel: a grid stands for itself.
type Texels struct {
	Plane
	Zone   string
	First  int // the number of its first texel among all of the grid
	NX, NY int
	X0, Y0 float64
	Step   float64   // real mm
	Area   []float32 // covered, real mm²; texel j*NX + i
	Convex []float32 // distance from its middle to the nearest outer corner edge of the panel, real mm
	Hollow []float32 // and to the nearest edge where the surface turns up
}

// Point is the middle of a texel in space; its height is the third coordinate.
func (t *Texels) Point(k int) Vec {
	return t.Space(t.X0+(float64(k%t.NX)+0.5)*t.Step, t.Y0+(float64(k/t.NX)+0.5)*t.Step)
}

// Near are the texels about a point in space, as far as a reach: columns i0 to i1 and rows j0 to j1, the
// last of each left out; none where the panel lies beyond it.
func (t *Texels) Near(at Vec, reach float64) (i0, i1, j0, j1 int) {
	if math.Abs(t.Normal.Dot(at.Sub(t.Origin))) > reach {
		return 0, 0, 0, 0
	}
	q := t.Flat(at)
	span := func(middle, from float64, n int) (int, int) {
		return max(int((middle-reach-from)/t.Step), 0), min(int((middle+reach-from)/t.Step)+1, n)
	}
	i0, i1 = span(q[0], t.X0, t.NX)
	j0, j1 = span(q[1], t.Y0, t.NY)
	return i0, i1, j0, j1
}

// At is the texel at a place of the panel's flat frame; ok is false beside them.
func (t *Texels) At(x, y float64) (k int, ok bool) {
	i, j := int(math.Floor((x-t.X0)/t.Step)), int(math.Floor((y-t.Y0)/t.Step))
	if i < 0 || j < 0 || i >= t.NX || j >= t.NY {
		return 0, false
	}
	return j*t.NX + i, true
}

// Grid is the surface in texels of one size. It is what patterns, dirt and areas share.
type Grid struct {
	Step    float64                       // real mm
	Texels  []*Texels                     // by panel
	Count   int                           // of all texels, those beside their panels too
	Area    map[string]float64            // real mm² by zone
	Facings map[string]map[string]float64 // by zone and how it lies: upright, flat or sloped
}

// known is how far from an edge its distance is known, in texels; beyond it lies infinity.
const known = 12

// NewGrid lays texels of a size (real mm) over all panels.
func NewGrid(panels []*Panel, step float64) *Grid {
	g := &Grid{
		Step:    step,
		Texels:  make([]*Texels, len(panels)),
		Area:    map[string]float64{},
		Facings: map[string]map[string]float64{},
	}
	sums := make([]float64, len(panels))
	Each(len(panels), func(i int) {
		g.Texels[i] = newTexels(panels[i], step)
		for _, a := range g.Texels[i].Area {
			sums[i] += float64(a)
		}
	})
	for i, p := range panels {
		g.Texels[i].First = g.Count
		g.Count += len(g.Texels[i].Area)
		g.Area[p.Zone] += sums[i]
		if g.Facings[p.Zone] == nil {
			g.Facings[p.Zone] = map[string]float64{}
		}
		g.Facings[p.Zone][p.Facing()] += sums[i]
	}
	return g
}

// Find gives a texel of the grid by its number: on which texels it is, and which of them.
func (g *Grid) Find(texel int) (t *Texels, k int) {
	i := sort.Search(len(g.Texels), func(i int) bool { return g.Texels[i].First > texel }) - 1
	return g.Texels[i], texel - g.Texels[i].First
}

// Each runs f for 0 to n-1 on all cores. Every f writes to its own place, so the
// result does not depend on who came first.
func Each(n int, f func(i int)) {
	var next atomic.Int64
	var wg sync.WaitGroup
	for range min(n, runtime.GOMAXPROCS(0)) {
		wg.Go(func() {
			for i := int(next.Add(1)) - 1; i < n; i = int(next.Add(1)) - 1 {
				f(i)
			}
		})
	}
	wg.Wait()
}

func newTexels(p *Panel, step float64) *Texels {
	pieces := p.FlatPieces()
	x0, y0, x1, y1 := span(pieces)
	t := &Texels{
		Plane: p.Plane,
		Zone:  p.Zone,
		X0:    x0,
		Y0:    y0,
		Step:  step,
		NX:    int((x1-x0)/step) + 1,
		NY:    int((y1-y0)/step) + 1,
	}
	n := t.NX * t.NY
	all := make([]float32, 3*n)
	t.Area, t.Convex, t.Hollow = all[:n:n], all[n:2*n:2*n], all[2*n:]
	t.cover(pieces)
	far := float32(math.Inf(1))
	for i := range t.Convex {
		t.Convex[i], t.Hollow[i] = far, far
	}
	for _, l := range p.Lines {
		if l.Smooth {
			continue
		}
		into := t.Convex
		if l.Hollow {
			into = t.Hollow
		}
		t.measure(into, p.Flat(l.A), p.Flat(l.B))
	}
	return t
}

// cover adds up how much of each texel the pieces cover, exactly: each edge adds the
// signed area beside it to the texels it crosses, and a sum along the row carries it on
// (after Levien's font rasteriser).
func (t *Texels) cover(pieces [][][2]float64) {
	w := t.NX + 2
	acc := make([]float64, w*t.NY)
	k := 1 / t.Step
	for _, piece := range pieces {
		for i, a := range piece {
			b := piece[(i+1)%len(piece)]
			edge(acc, w, t.NY, (a[0]-t.X0)*k, (a[1]-t.Y0)*k, (b[0]-t.X0)*k, (b[1]-t.Y0)*k)
		}
	}
	square := t.Step * t.Step
	for j := range t.NY {
		sum := 0.0
		for i := range t.NX {
			sum += acc[j*w+i]
			t.Area[j*t.NX+i] = float32(square * math.Min(math.Abs(sum), 1))
		}
	}
}

func edge(acc []float64, w, rows int, ax, ay, bx, by float64) {
	if ay == by {
		return
	}
	sign := 1.0
	if ay > by {
		ax, ay, bx, by, sign = bx, by, ax, ay, -1
	}
	slope := (bx - ax) / (by - ay)
	x := ax
	for j := int(ay); j < rows && float64(j) < by; j++ {
		dy := math.Min(float64(j+1), by) - math.Max(float64(j), ay)
		next := x + slope*dy
		d := dy * sign
		low, high := math.Min(x, next), math.Max(x, next)
		row := acc[j*w : (j+1)*w]
		first, last := int(math.Max(low, 0)), int(math.Ceil(high))
		last = min(last, w-1)
		if last <= first+1 {
			m := 0.5*(low+high) - float64(first)
			row[first] += d * (1 - m)
			row[first+1] += d * m
		} else {
			s := 1 / (high - low)
			x0 := low - float64(first)
			a0 := 0.5 * s * (1 - x0) * (1 - x0)
			x1 := high - float64(last) + 1
			am := 0.5 * s * x1 * x1
			row[first] += d * a0
			if last == first+2 {
				row[first+1] += d * (1 - a0 - am)
			} else {
				a1 := s * (1.5 - x0)
				row[first+1] += d * (a1 - a0)
				for i := first + 2; i < last-1; i++ {
					row[i] += d * s
				}
				a2 := a1 + float64(last-first-3)*s
				row[last-1] += d * (1 - a2 - am)
			}
			row[last] += d * am
		}
		x = next
	}
}

// measure lowers the distances within reach of a line.
func (t *Texels) measure(into []float32, a, b [2]float64) {
	most := known * t.Step
	i0 := max(0, int((math.Min(a[0], b[0])-most-t.X0)/t.Step))
	i1 := min(t.NX-1, int((math.Max(a[0], b[0])+most-t.X0)/t.Step))
	j0 := max(0, int((math.Min(a[1], b[1])-most-t.Y0)/t.Step))
	j1 := min(t.NY-1, int((math.Max(a[1], b[1])+most-t.Y0)/t.Step))
	dx, dy := b[0]-a[0], b[1]-a[1]
	square := dx*dx + dy*dy
	if square == 0 {
		return
	}
	for j := j0; j <= j1; j++ {
		y := t.Y0 + (float64(j)+0.5)*t.Step - a[1]
		for i := i0; i <= i1; i++ {
			x := t.X0 + (float64(i)+0.5)*t.Step - a[0]
			u := math.Min(math.Max((x*dx+y*dy)/square, 0), 1)
			ex, ey := x-u*dx, y-u*dy
			if d := float32(math.Sqrt(ex*ex + ey*ey)); d < into[j*t.NX+i] && float64(d) <= most {
				into[j*t.NX+i] = d
			}
		}
	}
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

// drawers is into how many values are sorted at a time.
const drawers = 4096

// Threshold is the value above which texels of the wanted area lie, real mm², on some panels:
// found by sorting into ever finer drawers until one holds next to nothing. What is taken
// (not 0) is passed over; values and taken are by texel of the grid, taken may be nil.
func (g *Grid) Threshold(panels []int, values []float32, taken []uint8, want float64) float32 {
	free := func(f func(v float32, area float64)) {
		for _, i := range panels {
			t := g.Texels[i]
			for k, a := range t.Area {
				if a > 0 && (taken == nil || taken[t.First+k] == 0) {
					f(values[t.First+k], float64(a))
				}
			}
		}
	}
	low, high := float32(math.Inf(1)), float32(math.Inf(-1))
	free(func(v float32, _ float64) { low, high = min(low, v), max(high, v) })
	for range 3 {
		var area [drawers]float64
		above := 0.0
		width := (high - low) / drawers
		if !(width > 0) {
			break
		}
		free(func(v float32, a float64) {
			switch {
			case v > high:
				above += a
			case v > low:
				area[min(int((v-low)/width), drawers-1)] += a
			}
		})
		for d := drawers - 1; d >= 0; d-- {
			if above+area[d] >= want || d == 0 {
				low, high = low+float32(d)*width, low+float32(d+1)*width
				break
			}
			above += area[d]
		}
	}
	return low
}
