package form

import "math"

// touching is how near faces lie when they rest on one another, real mm: less than
// half the thinnest plate, far more than rounding.
const touching = 0.2

// cell is a node of a solid's partition of space: behind its plane lies the inside
// unless a further plane says otherwise.
type cell struct {
	normal      Vec
	offset      float64
	front, back *cell // nil: outside, inside
}

type polygon struct {
	corners []Vec
	normal  Vec
}

func (s *solid) partition() *cell {
	var all []polygon
	for _, f := range s.faces {
		for _, part := range f.parts {
			all = append(all, polygon{part, f.normal})
		}
	}
	return grow(all)
}

func grow(all []polygon) *cell {
	if len(all) == 0 {
		return nil
	}
	c := &cell{normal: all[0].normal, offset: all[0].normal.Dot(all[0].corners[0])}
	var front, back []polygon
	for _, p := range all[1:] {
		f, b, flat := c.split(p)
		if flat {
			continue
		}
		if f.corners != nil {
			front = append(front, f)
		}
		if b.corners != nil {
			back = append(back, b)
		}
	}
	c.front, c.back = grow(front), grow(back)
	return c
}

// split cuts a convex polygon by the cell's plane; flat when it lies in it.
func (c *cell) split(p polygon) (front, back polygon, flat bool) {
	most, least := math.Inf(-1), math.Inf(1)
	var stack [16]float64
	d := stack[:0]
	for _, v := range p.corners {
		x := c.normal.Dot(v) - c.offset
		d = append(d, x)
		most, least = max(most, x), min(least, x)
	}
	switch {
	case most <= touching && least >= -touching:
		return polygon{}, polygon{}, true
	case least >= -touching:
		return p, polygon{}, false
	case most <= touching:
		return polygon{}, p, false
	}
	front.normal, back.normal = p.normal, p.normal
	n := len(p.corners)
	for i, v := range p.corners {
		j := (i + 1) % n
		if d[i] >= 0 {
			front.corners = append(front.corners, v)
		}
		if d[i] <= 0 {
			back.corners = append(back.corners, v)
		}
		if (d[i] > 0 && d[j] < 0) || (d[i] < 0 && d[j] > 0) {
			cut := v.Plus(p.corners[j].Sub(v).Times(d[i] / (d[i] - d[j])))
			front.corners = append(front.corners, cut)
			back.corners = append(back.corners, cut)
		}
	}
	return front, back, false
}

// outside gives what of a convex polygon lies outside the solid, and whether anything
// was cut away. A face that rests on the solid is inside; one that lies flush with a
// face of it is inside when flush says so.
func (c *cell) outside(p polygon, flush bool) (kept []polygon, cut bool) {
	f, b, flat := c.split(p)
	if flat {
		if flush || p.normal.Dot(c.normal) < 0 {
			b = p
		} else {
			f = p
		}
	}
	if b.corners != nil {
		if c.back == nil {
			cut = true
		} else {
			k, h := c.back.outside(b, flush)
			kept, cut = append(kept, k...), cut || h
		}
	}
	if f.corners != nil {
		if c.front == nil {
			kept = append(kept, f)
		} else {
			k, h := c.front.outside(f, flush)
			kept, cut = append(kept, k...), cut || h
		}
	}
	if !cut {
		return []polygon{p}, false
	}
	return kept, true
}

// meets gives the line along which two convex polygons cross, if they do.
func meets(p polygon, q polygon) (a, b Vec, ok bool) {
	along := p.normal.Cross(q.normal)
	if along.Length() < 1e-6 {
		return a, b, false
	}
	along = along.Unit()
	p0, p1, okP := chord(p, q, along)
	q0, q1, okQ := chord(q, p, along)
	if !okP || !okQ {
		return a, b, false
	}
	low, high := p0, p1
	if q0.Sub(low).Dot(along) > 0 {
		low = q0
	}
	if q1.Sub(high).Dot(along) < 0 {
		high = q1
	}
	return low, high, high.Sub(low).Dot(along) > touching
}

// chord is where a polygon crosses the plane of another, by rising place along a line.
func chord(p, plane polygon, along Vec) (low, high Vec, ok bool) {
	offset := plane.normal.Dot(plane.corners[0])
	take := func(v Vec) {
		if !ok || v.Sub(low).Dot(along) < 0 {
			low = v
		}
		if !ok || v.Sub(high).Dot(along) > 0 {
			high = v
		}
		ok = true
	}
	n := len(p.corners)
	for i, v := range p.corners {
		w := p.corners[(i+1)%n]
		d, e := plane.normal.Dot(v)-offset, plane.normal.Dot(w)-offset
		if math.Abs(d) <= touching {
			take(v)
		}
		if (d > touching && e < -touching) || (d < -touching && e > touching) {
			take(v.Plus(w.Sub(v).Times(d / (d - e))))
		}
	}
	return low, high, ok
}
