package paint

import (
	"math"

	"cinderpath/core/colour"
)

// plain is Lab made straight about a goal: a linear map of X, Y, Z, so that what is seen of a
// band counts for a colour with one weight, whatever the mix.
type plain struct {
	from [3]float64 // the goal's X, Y, Z, parts of white's
	root [3]float64 // and what Lab takes of them
	by   [3]float64 // what X, Y, Z add to that for each unit
}

func newPlain(at colour.Lab) (p plain) {
	y := (at[0] + 16) / 116
	p.root = [3]float64{y + at[1]/500, y, y - at[2]/200}
	for k, f := range p.root {
		p.from[k] = light(f)
		p.by[k] = 1 / steep(f)
	}
	return p
}

// light is what has a root; steep is how fast it grows with it.
func light(root float64) float64 {
	if root > 6.0/29 {
		return root * root * root
	}
	return (116*root - 16) * 27 / 24389
}

func steep(root float64) float64 {
	if root > 6.0/29 {
		return 3 * root * root
	}
	return 116.0 * 27 / 24389
}

// of X, Y, Z.
func (p *plain) of(xyz *[3]float64) [3]float64 {
	var f [3]float64
	for k, v := range xyz {
		f[k] = (v - p.from[k]) * p.by[k]
	}
	return [3]float64{116 * f[1], 500 * (f[0] - f[1]), 200 * (f[1] - f[2])}
}

// weights of X, Y, Z in a direction of the straight Lab.
func (p *plain) weights(n [3]float64) [3]float64 {
	return [3]float64{
		500 * n[1] * p.by[0],
		(116*n[0] - 500*n[1] + 200*n[2]) * p.by[1],
		-200 * n[2] * p.by[2],
	}
}

// reach is how far, in the straight Lab, what is no farther from a goal than a limit can lie.
type reach struct {
	light, hue float64    // along L, and across it
	bent       [3]float64 // by how much X, Y, Z lie above their straight lines, at most
}

// reach of a difference, of all colours within it; see least for where its numbers are from.
func (g *goal) reach(limit float64) (r reach, ok bool) {
	const perChroma = 0.045 * 0.75 // S_C for each unit of both chromas together
	if math.IsInf(limit, 1) {
		return r, false
	}
	rest := 1 - 0.8660254037844387
	for range 4 {
		q := limit / math.Sqrt(rest)
		if q*perChroma >= 0.9 {
			return r, false
		}
		r.hue = q * (1 + 2*perChroma*g.chroma) / (1 - q*perChroma)
		most := 0.75 * (2*g.chroma + r.hue)
		c2 := most * most
		c7 := c2 * c2 * c2 * most
		rest = 1 - math.Sqrt(c7/(c7+pow25))*0.8660254037844387
	}
	r.light = 1.75 * limit
	for k, far := range [3]float64{r.light/116 + r.hue/500, r.light / 116, r.light/116 + r.hue/200} {
		f, here := g.plain.root[k], steep(g.plain.root[k])
		r.bent[k] = far * max(steep(f+far)-here, here-steep(f-far)) // its steepness only grows
	}
	return r, true
}

// along is how far the reach goes in a direction.
func (r *reach) along(n, weights [3]float64) float64 {
	out := math.Abs(n[0])*r.light + math.Hypot(n[1], n[2])*r.hue
	for k, c := range weights {
		out += math.Abs(c) * r.bent[k]
	}
	return out
}

// aside tells that a plane parts a piece from all that is near enough to the goal. What is
// seen of a band is convex in K/S, and K/S anywhere in the piece is a mean of its corners':
// so the same mean of the corners' sight is above, a tangent below, and both are least or
// most at a corner.
func (w *walk) aside(c *cell) bool {
	var at [MostPaints][3]float64
	for i, p := range c.corners {
		at[i] = w.goal.plain.of(&w.corner(p).xyz)
	}
	n := nearest(at[:len(c.corners)])
	weights := w.goal.plain.weights(n)
	need := w.reach.along(n, weights)
	// A tangent lies below the corners, too: they must be far enough first.
	low := math.Inf(1)
	for i := range c.corners {
		low = min(low, dot(n, at[i]))
	}
	if low <= need {
		return false
	}
	base := 0.0
	for k, v := range weights {
		base += v * w.goal.plain.from[k]
	}
	var sum [MostPaints]float64
	corners := w.corners
	share := 1 / float64(len(c.corners))
	wx, wy, wz := &w.weight[0], &w.weight[1], &w.weight[2]
	for b := range wx {
		v := weights[0]*wx[b] + weights[1]*wy[b] + weights[2]*wz[b]
		if v < 0 {
			for i, p := range c.corners {
				sum[i] += v * corners[p].seen[b]
			}
			continue
		}
		var ratio [MostPaints]float64
		mid := 0.0
		for i, p := range c.corners {
			ratio[i] = corners[p].ratio[b]
			mid += ratio[i]
		}
		mid *= share
		r := math.Sqrt(mid * (mid + 2))
		t := 1 + mid + r
		o := &w.Over[b]
		under := 1 / (o.c*t + o.d)
		slope := v * (o.a*o.d - o.b*o.c) * under * under * t / r
		base -= v*(o.a*t+o.b)*under - slope*mid
		for i := range c.corners {
			sum[i] += slope * ratio[i]
		}
	}
	for _, s := range sum[:len(c.corners)] {
		if s-base <= need {
			return false
		}
	}
	return true
}

func dot(a, b [3]float64) float64 { return a[0]*b[0] + a[1]*b[1] + a[2]*b[2] }

// nearest is about the point of the hull of some points that is nearest to the origin.
func nearest(at [][3]float64) [3]float64 {
	p := at[0]
	for range 4 {
		best := at[0]
		for _, q := range at[1:] {
			if dot(q, p) < dot(best, p) {
				best = q
			}
		}
		d := [3]float64{best[0] - p[0], best[1] - p[1], best[2] - p[2]}
		dd := dot(d, d)
		if dd == 0 {
			break
		}
		t := min(max(-dot(p, d)/dd, 0), 1)
		if t == 0 {
			break
		}
		for k := range p {
			p[k] += t * d[k]
		}
	}
	return p
}
