package scheme

import "math"

// tipped is how sharp a corner may be before its tip is cut off: 1 + the cosine between its normals.
const tipped = 0.3

// Beyond is a ring so far outside another one, its corners mitred, sharp ones cut off. Where the ring turns
// in on itself within that distance it crosses itself.
func (r Ring) Beyond(far float64) Ring {
	var corners Ring
	for i, q := range r {
		if p := r[(i+len(r)-1)%len(r)]; math.Hypot(q[0]-p[0], q[1]-p[1]) > 1e-9 {
			corners = append(corners, q)
		}
	}
	n := len(corners)
	if n < 3 {
		return corners
	}
	side := math.Copysign(1, corners.area())
	outward := func(a, b [2]float64) [2]float64 {
		dx, dy := b[0]-a[0], b[1]-a[1]
		long := math.Hypot(dx, dy)
		return [2]float64{side * dy / long, -side * dx / long}
	}
	var out Ring
	for i, q := range corners {
		a := outward(corners[(i+n-1)%n], q)
		b := outward(q, corners[(i+1)%n])
		if turn := 1 + a[0]*b[0] + a[1]*b[1]; turn > tipped {
			k := far / turn
			out = append(out, [2]float64{q[0] + k*(a[0]+b[0]), q[1] + k*(a[1]+b[1])})
			continue
		}
		out = append(out, [2]float64{q[0] + far*a[0], q[1] + far*a[1]}, [2]float64{q[0] + far*b[0], q[1] + far*b[1]})
	}
	return out
}

// area of a ring, positive where it runs against the clock.
func (r Ring) area() (twice float64) {
	for i, q := range r {
		p := r[(i+1)%len(r)]
		twice += q[0]*p[1] - p[0]*q[1]
	}
	return twice / 2
}

// Allowed are the rings of an outline with an allowance: outer ones grow by it, holes shrink.
func Allowed(outline []Ring, far float64) (out []Ring) {
	most := 0.0
	for _, r := range outline {
		if a := r.area(); math.Abs(a) > math.Abs(most) {
			most = a
		}
	}
	for _, r := range outline {
		by := far
		if r.area()*most < 0 {
			by = -far
		}
		out = append(out, r.Beyond(by))
	}
	return out
}
