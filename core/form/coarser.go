package form

import "math"

// Coarser joins n × n texels of each panel into one, where a surface need only be known roughly; of tells
// which one each texel went into. How far corners and recesses lie is that of the nearest.
func (g *Grid) Coarser(n int) (out *Grid, of []int32) {
	out = &Grid{Step: g.Step * float64(n), Texels: make([]*Texels, len(g.Texels)), Area: g.Area, Facings: g.Facings}
	of = make([]int32, g.Count)
	for i, t := range g.Texels {
		c := *t
		c.First, c.Step = out.Count, out.Step
		c.NX, c.NY = (t.NX+n-1)/n, (t.NY+n-1)/n
		m := c.NX * c.NY
		c.Area, c.Convex, c.Hollow = make([]float32, m), make([]float32, m), make([]float32, m)
		for k := range m {
			c.Convex[k], c.Hollow[k] = float32(math.Inf(1)), float32(math.Inf(1))
		}
		for k, a := range t.Area {
			into := k/t.NX/n*c.NX + k%t.NX/n
			c.Area[into] += a
			c.Convex[into], c.Hollow[into] = min(c.Convex[into], t.Convex[k]), min(c.Hollow[into], t.Hollow[k])
			of[t.First+k] = int32(c.First + into)
		}
		out.Texels[i] = &c
		out.Count += m
	}
	return out, of
}
