package scheme

import (
	"math"
	"slices"

	"github.com/peterstace/simplefeatures/geom"
)

func polygon(ring ...Ring) geom.Polygon {
	var lines []geom.LineString
	for _, r := range ring {
		xy := make([]float64, 0, 2*len(r)+2)
		for _, q := range r {
			xy = append(xy, q[0], q[1])
		}
		xy = append(xy, r[0][0], r[0][1])
		lines = append(lines, geom.NewLineString(geom.NewSequence(xy, geom.DimXY)))
	}
	return geom.NewPolygon(lines)
}

// breadth is that of the rectangle with as much area and edge as a ring, or of the square with its area.
func (r Ring) breadth() float64 {
	a, half := math.Abs(r.area()), 0.0
	for k, q := range r {
		p := r[(k+1)%len(r)]
		half += math.Hypot(p[0]-q[0], p[1]-q[1]) / 2
	}
	if half*half <= 4*a {
		return math.Sqrt(a)
	}
	return (half - math.Sqrt(half*half-4*a)) / 2
}

// simpler leaves out points that lie on the line between those that stay, to a tolerance
// (Douglas and Peucker, on both halves of the ring).
func simpler(r Ring, tolerance float64) Ring {
	if len(r) < 5 {
		return r
	}
	// The two ends are the point farthest from the first, and the one farthest from that.
	far := func(from int) int {
		best, d := 0, -1.0
		for k, q := range r {
			if e := math.Hypot(q[0]-r[from][0], q[1]-r[from][1]); e > d {
				best, d = k, e
			}
		}
		return best
	}
	a := far(0)
	b := far(a)
	turned := append(slices.Clone(r[a:]), r[:a]...)
	split := (b - a + len(r)) % len(r)
	first := thinned(turned[:split+1], tolerance)
	second := thinned(append(slices.Clone(turned[split:]), turned[0]), tolerance)
	return append(first[:len(first)-1], second[:len(second)-1]...)
}

func thinned(line Ring, tolerance float64) Ring {
	if len(line) < 3 {
		return line
	}
	a, b := line[0], line[len(line)-1]
	long := math.Hypot(b[0]-a[0], b[1]-a[1])
	worst, at := 0.0, 0
	for k := 1; k < len(line)-1; k++ {
		d := math.Hypot(line[k][0]-a[0], line[k][1]-a[1])
		if long > 0 {
			d = math.Abs((b[0]-a[0])*(line[k][1]-a[1])-(b[1]-a[1])*(line[k][0]-a[0])) / long
		}
		if d > worst {
			worst, at = d, k
		}
	}
	if worst <= tolerance {
		return Ring{a, b}
	}
	left := thinned(slices.Clone(line[:at+1]), tolerance)
	return append(left[:len(left)-1], thinned(slices.Clone(line[at:]), tolerance)...)
}

// unspiked is a ring without tips that are narrower than a tolerance over all of their length: where two
// fields end on one line, both outlines of it never agree to the last digit.
func (r Ring) unspiked(tolerance float64) Ring {
	out := slices.Clone(r)
	for k, kept := 0, 0; kept < len(out) && len(out) > 2; {
		n := len(out)
		a, t, b := out[(k+n-1)%n], out[k%n], out[(k+1)%n]
		if (a[0]-t[0])*(b[0]-t[0])+(a[1]-t[1])*(b[1]-t[1]) >= 0 && min(off(a, t, b), off(b, t, a)) < tolerance {
			out = slices.Delete(out, k%n, k%n+1)
			k, kept = max(k%n-1, 0), 0 // what it stood on may be one too
			continue
		}
		k, kept = (k+1)%n, kept+1
	}
	return out
}

// sharpened gives the corners back to straight edges: the net cuts them off, by less than two of
// its steps. What a corner adds must be inside, what it takes away outside.
func sharpened(r Ring, step float64, inside func([2]float64) bool) Ring {
	out := slices.Clone(r)
	way := r.area()
	for k := 0; k < len(out) && len(out) > 3; k++ {
		n := len(out)
		a, b, c, d := out[(k+n-1)%n], out[k], out[(k+1)%n], out[(k+2)%n]
		short := math.Hypot(c[0]-b[0], c[1]-b[1])
		if short > 1.6*step || math.Hypot(b[0]-a[0], b[1]-a[1]) < 1.6*step || math.Hypot(d[0]-c[0], d[1]-c[1]) < 1.6*step {
			continue
		}
		x, ok := meet(a, b, c, d)
		if !ok || math.Hypot(x[0]-b[0], x[1]-b[1]) > 4*step || math.Hypot(x[0]-c[0], x[1]-c[1]) > 4*step {
			continue
		}
		// The tip's triangle lies beyond the ring where it turns the ring's own way.
		adds := ((c[0]-b[0])*(x[1]-b[1])-(c[1]-b[1])*(x[0]-b[0]))*way < 0
		tip := func(t float64) [2]float64 {
			return [2]float64{t*x[0] + (1-t)*(b[0]+c[0])/2, t*x[1] + (1-t)*(b[1]+c[1])/2}
		}
		if inside(tip(0.3)) != adds || inside(tip(0.8)) != adds {
			continue
		}
		out[k] = x
		out = slices.Delete(out, (k+1)%n, (k+1)%n+1)
	}
	return out
}

// meet is where the lines through a, b and c, d cross.
func meet(a, b, c, d [2]float64) ([2]float64, bool) {
	ux, uy, vx, vy := b[0]-a[0], b[1]-a[1], d[0]-c[0], d[1]-c[1]
	cross := ux*vy - uy*vx
	if math.Abs(cross) < 1e-3*math.Hypot(ux, uy)*math.Hypot(vx, vy) {
		return [2]float64{}, false
	}
	t := ((c[0]-a[0])*vy - (c[1]-a[1])*vx) / cross
	return [2]float64{a[0] + t*ux, a[1] + t*uy}, true
}

// off is how far a place lies from a line between two others.
func off(q, a, b [2]float64) float64 {
	dx, dy := b[0]-a[0], b[1]-a[1]
	u := 0.0
	if long := dx*dx + dy*dy; long > 0 {
		u = min(max(((q[0]-a[0])*dx+(q[1]-a[1])*dy)/long, 0), 1)
	}
	return math.Hypot(q[0]-a[0]-u*dx, q[1]-a[1]-u*dy)
}
