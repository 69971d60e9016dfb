package landing

import (
	"container/heap"
	"math"

	"cinderpath/core/form"
)

// Water that gathers.
const (
	poolCell = 20.0  // how fine the vehicle is seen from above, real mm
	rained   = 4.0   // mm that fall everywhere
	sags     = 3.0   // mm by which plates are uneven, in waves of
	swell    = 260.0 // real mm
	clings   = 0.2   // mm that stay on a flat far from where it drains
	drains   = 400.0 // how far from there it is nearly so much, real mm
	evenness = 0.08  // slope below which a face is flat
	standing = 0.6   // mm at which it is half of what it can be
)

// water is what a rain leaves on the vehicle from above: cell by cell, mm.
type water struct {
	*ground

	kept    []float64
	fell    float64 // all of it, mm · cells
	drained float64
}

// raining lets a rain fall: priority flood from the open edges inward, so that each cell knows over which
// neighbour it drains and how high water stands in it; then all that falls runs down these ways, and each
// cell keeps what it can hold. What is kept and what is drained is what fell. After Barnes, Lehman and
// Mulla, "Priority-flood" (2014).
func raining(panels []*form.Panel) *water {
	w := &water{ground: fromAbove(panels, poolCell)}
	n := len(w.height)
	w.kept = make([]float64, n)
	level, far, to := make([]float64, n), make([]float64, n), make([]int, n)
	known, order := make([]bool, n), make([]int, 0, n)
	open := func(k int) bool { return math.IsInf(w.height[k], -1) }
	for k := range w.height { // no plate is as even as it is drawn: water stands where it sags
		x, y := w.x0+float64(k%w.nx)*w.cell, w.y0+float64(k/w.nx)*w.cell
		w.height[k] += sags * (form.Noise(41, x/swell, y/swell, 0) - 0.5)
	}
	q := &queue{}
	for k := range n {
		if open(k) {
			known[k] = true
			continue
		}
		i, j := k%w.nx, k/w.nx
		edge := i == 0 || j == 0 || i == w.nx-1 || j == w.ny-1
		for _, o := range w.about(k, 1) {
			edge = edge || open(o)
		}
		if edge { // here it runs off
			known[k], level[k], to[k] = true, w.height[k], -1
			heap.Push(q, way{k, level[k]})
		}
	}
	for q.Len() > 0 {
		c, _ := heap.Pop(q).(way)
		order = append(order, c.cell)
		for _, o := range w.about(c.cell, 1) {
			if known[o] {
				continue
			}
			known[o], to[o] = true, c.cell
			level[o] = max(w.height[o], level[c.cell])
			if level[o]-level[c.cell] < evenness*w.cell {
				far[o] = far[c.cell] + w.cell
			}
			heap.Push(q, way{o, level[o]})
		}
	}
	received := make([]float64, n)
	for x := len(order) - 1; x >= 0; x-- {
		k := order[x]
		received[k] += rained
		w.fell += rained
		holds := level[k] - w.height[k] + clings*(1-math.Exp(-far[k]/drains))
		w.kept[k] = min(received[k], holds)
		if rest := received[k] - w.kept[k]; to[k] >= 0 {
			received[to[k]] += rest
		} else {
			w.drained += rest
		}
	}
	return w
}

// pooled is how much water stands on each texel, 0 to 1.
func (s *Site) pooled() []float32 {
	return kept(s, "pool", func() []float32 {
		out := make([]float32, s.Grid.Count)
		if len(s.Panels) == 0 {
			return out
		}
		w := raining(s.Panels)
		form.Each(len(s.Grid.Texels), func(i int) {
			t := s.Grid.Texels[i]
			if t.Normal[2] < 0.5 {
				return
			}
			fill(t, own(t, out), func(k int) float32 {
				p := t.Point(k)
				c := w.at(p[0], p[1])
				if math.Abs(p[2]-w.height[c]) > 2*w.cell {
					return 0 // another face lies over it
				}
				return float32(w.kept[c] / (w.kept[c] + standing))
			})
		})
		return out
	})
}

type pool struct{}

// Pool is where water gathers: in what has a rim, and on flats far from where they drain.
func Pool() Landing { return pool{} }

func (pool) On(s *Site, panel int, _ uint64, out []float32) {
	copy(out, own(s.Grid.Texels[panel], s.pooled()))
}
