package form

import (
	"math"
	"slices"
)

// tree is a bounding volume hierarchy over a mesh's faces, split where binned
// surface-area cost is least (after Wald, On fast construction of SAH-based
// bounding volume hierarchies, 2007).
type tree struct {
	mesh  *Mesh
	nodes []node
	faces []int32
}

// node is an inner node (count 0, children at first and first+1) or a leaf.
type node struct {
	low, high    [3]float32
	first, count int32
}

const (
	leafFaces = 4
	bins      = 16
)

type bounded struct {
	low, high [3]float32
}

func empty() bounded {
	inf := float32(math.Inf(1))
	return bounded{[3]float32{inf, inf, inf}, [3]float32{-inf, -inf, -inf}}
}

func (b *bounded) add(low, high [3]float32) {
	for k := range 3 {
		b.low[k], b.high[k] = min(b.low[k], low[k]), max(b.high[k], high[k])
	}
}

func (b bounded) half() float32 {
	x, y, z := b.high[0]-b.low[0], b.high[1]-b.low[1], b.high[2]-b.low[2]
	if x < 0 {
		return 0
	}
	return x*y + y*z + z*x
}

func newTree(m *Mesh) *tree {
	t := &tree{mesh: m, faces: make([]int32, len(m.Faces))}
	boxes := make([]bounded, len(m.Faces))
	for i, f := range m.Faces {
		t.faces[i] = int32(i)
		boxes[i] = empty()
		for _, v := range f {
			boxes[i].add(m.Points[v], m.Points[v])
		}
	}
	t.nodes = append(make([]node, 0, len(m.Faces)), node{})
	t.split(0, 0, len(m.Faces), boxes)
	return t
}

func (t *tree) split(at, from, to int, boxes []bounded) {
	whole, middles := empty(), empty()
	for _, f := range t.faces[from:to] {
		b := &boxes[f]
		whole.add(b.low, b.high)
		c := centre(b)
		middles.add(c, c)
	}
	n := &t.nodes[at]
	n.low, n.high = whole.low, whole.high
	if to-from <= leafFaces {
		n.first, n.count = int32(from), int32(to-from)
		return
	}
	axis, cut, ok := cheapest(t.faces[from:to], boxes, middles)
	split := from
	if ok {
		for i := from; i < to; i++ {
			if centre(&boxes[t.faces[i]])[axis] < cut {
				t.faces[i], t.faces[split] = t.faces[split], t.faces[i]
				split++
			}
		}
	}
	if split == from || split == to {
		// All middles in one bin: any halving will do.
		split = (from + to) / 2
	}
	first := len(t.nodes)
	n.first = int32(first)
	t.nodes = append(t.nodes, node{}, node{})
	t.split(first, from, split, boxes)
	t.split(first+1, split, to, boxes)
}

func centre(b *bounded) [3]float32 {
	return [3]float32{(b.low[0] + b.high[0]) / 2, (b.low[1] + b.high[1]) / 2, (b.low[2] + b.high[2]) / 2}
}

func cheapest(faces []int32, boxes []bounded, middles bounded) (axis int, cut float32, ok bool) {
	least := float32(math.Inf(1))
	for k := range 3 {
		low, width := middles.low[k], middles.high[k]-middles.low[k]
		if width <= 0 {
			continue
		}
		var bin [bins]bounded
		var count [bins]int
		for i := range bin {
			bin[i] = empty()
		}
		per := bins / width
		if math.IsInf(float64(per), 0) {
			continue // so flat that it cannot be divided
		}
		for _, f := range faces {
			b := &boxes[f]
			i := min(int((centre(b)[k]-low)*per), bins-1)
			bin[i].add(b.low, b.high)
			count[i]++
		}
		var cost [bins]float32
		sweep, n := empty(), 0
		for i := range bins - 1 {
			sweep.add(bin[i].low, bin[i].high)
			n += count[i]
			cost[i] = sweep.half() * float32(n)
		}
		sweep, n = empty(), 0
		for i := bins - 1; i > 0; i-- {
			sweep.add(bin[i].low, bin[i].high)
			n += count[i]
			if c := cost[i-1] + sweep.half()*float32(n); c < least && n > 0 && n < len(faces) {
				least, axis, cut, ok = c, k, low+float32(i)/per, true
			}
		}
	}
	return axis, cut, ok
}

// hit is where a ray leaves the solid.
type hit struct {
	t    float64
	face int
	exit float64 // cosine between the ray and the face's outward normal
}

// leave follows a ray from a point (direction of unit length) to the first face
// that it leaves the solid by; without one ok is false. Faces nearer than from are
// passed over, as is the face skip; sign is -1 for a mesh that is inside out.
func (t *tree) leave(o, d Vec, skip int, from, most, sign float64) (h hit, ok bool) {
	var inverse [3]float64
	for k := range 3 {
		inverse[k] = 1 / d[k]
	}
	h.t = most
	var stack [64]int32
	top := 1
	for top > 0 {
		top--
		n := &t.nodes[stack[top]]
		if !reach(n, o, inverse, h.t) {
			continue
		}
		if n.count == 0 {
			if top+2 > len(stack) {
				return t.everyFace(o, d, skip, from, most, sign)
			}
			stack[top], stack[top+1] = n.first, n.first+1
			top += 2
			continue
		}
		for _, f := range t.faces[n.first : n.first+n.count] {
			t.try(&h, &ok, int(f), o, d, skip, from, sign)
		}
	}
	return h, ok
}

// everyFace is leave without the tree, for trees deeper than its stack.
func (t *tree) everyFace(o, d Vec, skip int, from, most, sign float64) (h hit, ok bool) {
	h.t = most
	for f := range t.mesh.Faces {
		t.try(&h, &ok, f, o, d, skip, from, sign)
	}
	return h, ok
}

// try meets one face (Möller and Trumbore, 1997).
func (t *tree) try(h *hit, ok *bool, f int, o, d Vec, skip int, from, sign float64) {
	if f == skip {
		return
	}
	a, b, c := t.mesh.corners(f)
	e, g := b.Sub(a), c.Sub(a)
	normal := e.Cross(g)
	facing := normal.Dot(d) * sign
	if facing <= 0 {
		return // an entrance, or seen edge on
	}
	p := d.Cross(g)
	det := e.Dot(p)
	if det == 0 {
		return
	}
	s := o.Sub(a)
	u := s.Dot(p) / det
	q := s.Cross(e)
	v := d.Dot(q) / det
	const rim = 1e-9 // so that a ray along a shared edge does not slip between two faces
	if u < -rim || v < -rim || u+v > 1+rim {
		return
	}
	if x := g.Dot(q) / det; x > from && (x < h.t || x == h.t && f < h.face) {
		*h, *ok = hit{x, f, facing / normal.Length()}, true
	}
}

func reach(n *node, o Vec, inverse [3]float64, most float64) bool {
	near, far := 0.0, most
	for k := range 3 {
		a, b := (float64(n.low[k])-o[k])*inverse[k], (float64(n.high[k])-o[k])*inverse[k]
		if a > b {
			a, b = b, a
		}
		// NaN (a ray within a flat box's plane) leaves the bounds as they are.
		if a > near {
			near = a
		}
		if b < far {
			far = b
		}
	}
	return near <= far*(1+1e-9)+1e-12
}

// sortedBy gives the indices 0…n-1 by key, equal keys by index.
func sortedBy(n int, key func(int) float64) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = i
	}
	slices.SortStableFunc(out, func(a, b int) int {
		switch x, y := key(a), key(b); {
		case x < y:
			return -1
		case x > y:
			return 1
		}
		return 0
	})
	return out
}
