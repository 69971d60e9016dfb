package landing

import (
	"math"
	"slices"

	"cinderpath/core/form"
)

// caster finds what stands between two points: a tree of boxes over the convex pieces of all
// panels.
type caster struct {
	pieces []piece
	boxes  []boxed
}

type piece struct {
	panel   int
	plane   *form.Plane
	corners []form.Vec
	sides   []form.Vec // normals of its sides, in its plane, inward
	middle  form.Vec
}

// boxed is a box with its two halves, or with pieces.
type boxed struct {
	low, high  form.Vec
	left, from int // the left half's place; or the first piece
	count      int // of pieces; 0 where there are halves
	right      int
}

func newCaster(panels []*form.Panel) *caster {
	c := &caster{}
	for i, p := range panels {
		for _, corners := range p.Pieces {
			q := piece{panel: i, plane: &p.Plane, corners: corners}
			for k, a := range corners {
				q.sides = append(q.sides, p.Normal.Cross(corners[(k+1)%len(corners)].Sub(a)))
				q.middle = q.middle.Plus(a.Times(1 / float64(len(corners))))
			}
			c.pieces = append(c.pieces, q)
		}
	}
	if len(c.pieces) > 0 {
		c.split(0, len(c.pieces))
	}
	return c
}

// split makes the tree of some pieces and gives its place.
func (c *caster) split(from, to int) int {
	const few = 4
	inf := math.Inf(1)
	b := boxed{low: form.Vec{inf, inf, inf}, high: form.Vec{-inf, -inf, -inf}}
	for _, q := range c.pieces[from:to] {
		for _, v := range q.corners {
			for k := range 3 {
				b.low[k], b.high[k] = min(b.low[k], v[k]), max(b.high[k], v[k])
			}
		}
	}
	at := len(c.boxes)
	c.boxes = append(c.boxes, b)
	if to-from <= few {
		c.boxes[at].from, c.boxes[at].count = from, to-from
		return at
	}
	axis := 0
	for k := range 3 {
		if b.high[k]-b.low[k] > b.high[axis]-b.low[axis] {
			axis = k
		}
	}
	slices.SortStableFunc(c.pieces[from:to], func(x, y piece) int {
		switch {
		case x.middle[axis] < y.middle[axis]:
			return -1
		case x.middle[axis] > y.middle[axis]:
			return 1
		}
		return 0
	})
	half := (from + to) / 2
	left := c.split(from, half)
	right := c.split(half, to)
	c.boxes[at].left, c.boxes[at].right = left, right
	return at
}

// first is the nearest panel that a ray meets within a reach, and how far off; −1 for none.
func (c *caster) first(from, along form.Vec, reach float64) (panel int, at float64) {
	panel, at = -1, reach
	if len(c.boxes) == 0 {
		return panel, at
	}
	var over form.Vec
	for k := range 3 {
		over[k] = 1 / along[k]
	}
	var open [64]int
	open[0] = 0
	for n := 1; n > 0; {
		n--
		b := &c.boxes[open[n]]
		if !b.meets(from, over, at) {
			continue
		}
		if b.count == 0 {
			open[n], open[n+1] = b.left, b.right
			n += 2
			continue
		}
		for i := b.from; i < b.from+b.count; i++ {
			if d, ok := c.pieces[i].meets(from, along, at); ok {
				panel, at = c.pieces[i].panel, d
			}
		}
	}
	return panel, at
}

// about calls f for the panels that have a piece in a box within a reach of a place: some more than
// once.
func (c *caster) about(at form.Vec, reach float64, f func(panel int)) {
	var walk func(box int)
	walk = func(box int) {
		b := &c.boxes[box]
		for k := range 3 {
			if at[k] < b.low[k]-reach || at[k] > b.high[k]+reach {
				return
			}
		}
		if b.count == 0 {
			walk(b.left)
			walk(b.right)
		}
		for _, q := range c.pieces[b.from : b.from+b.count] {
			f(q.panel)
		}
	}
	if len(c.boxes) > 0 {
		walk(0)
	}
}

// clear tells whether nothing stands between two points.
func (c *caster) clear(a, b form.Vec) bool {
	d := b.Sub(a)
	l := d.Length()
	panel, _ := c.first(a, form.Vec{d[0] / l, d[1] / l, d[2] / l}, l)
	return panel < 0
}

func (b *boxed) meets(from, over form.Vec, reach float64) bool {
	near, end := 0.0, reach
	for k := range 3 {
		x, y := (b.low[k]-from[k])*over[k], (b.high[k]-from[k])*over[k]
		if x > y {
			x, y = y, x
		}
		// A ray within a side's plane gives what is no number: it bounds nothing.
		if x > near {
			near = x
		}
		if y < end {
			end = y
		}
	}
	return near <= end
}

func (q *piece) meets(from, along form.Vec, reach float64) (float64, bool) {
	facing := q.plane.Normal.Dot(along)
	if facing == 0 {
		return 0, false
	}
	d := q.plane.Normal.Dot(q.plane.Origin.Sub(from)) / facing
	if d < 1e-6 || d >= reach {
		return 0, false
	}
	p := from.Plus(along.Times(d))
	for k, n := range q.sides {
		if n.Dot(p.Sub(q.corners[k])) < 0 {
			return 0, false
		}
	}
	return d, true
}
