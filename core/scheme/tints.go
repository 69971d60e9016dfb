package scheme

import (
	"cinderpath/core/colour"
	"cinderpath/core/measure"
	"fmt"
	"image"
	"math"
	"slices"
)

// tints are the colours as the picture shows them: where they were picked, or the middles of as many
// clusters as the pattern has colours, given to those they look most like.
func (p Pattern) tints(img image.Image, r Reading, points []colour.Lab, known []bool) ([]colour.Lab, error) {
	n := len(p.Colours)
	out := make([]colour.Lab, n)
	picked := make([]bool, n)
	for i, k := range r.Picks {
		if k.Colour < 0 || k.Colour >= n {
			return nil, measure.Refuse(
				fmt.Sprintf("picks[%d].colour", i),
				"the scheme has no such colour",
				"pick for one of its colours",
			)
		}
		c, ok := meanOf(img, k.Pixel[0], k.Pixel[1], 2.5)
		if !ok {
			return nil, measure.Refuse(fmt.Sprintf("picks[%d].pixel", i), "it lies beside the picture", "pick on the picture")
		}
		out[k.Colour], picked[k.Colour] = c, true
	}
	if !slices.Contains(picked, false) {
		return out, nil
	}
	if len(r.Picks) > 0 {
		c := slices.Index(picked, false)
		return nil, measure.Refuse(
			"picks",
			p.Colours[c].Name+" was not picked",
			"pick each colour of the scheme once, or none",
		)
	}
	middles := clusters(points, known, n)
	// Each colour takes the cluster that looks most like it, the surest first.
	for range n {
		best, from, to := math.Inf(1), 0, 0
		for c := range n {
			for m := range middles {
				if picked[c] || math.IsNaN(middles[m][0]) {
					continue
				}
				if d := colour.Difference(colour.Of(p.Colours[c].Hex).Lab(), middles[m]); d < best {
					best, from, to = d, m, c
				}
			}
		}
		out[to], picked[to] = middles[from], true
		middles[from][0] = math.NaN()
	}
	return out, nil
}

// Of colours on a picture: within how much they are taken together for seeds, and beyond which one
// belongs to no cluster: drawn lines, shadows, rivets.
const (
	bin     = 4.0
	outside = 11.0
)

// clusters are the middles of n groups of colours (Lloyd's), begun with colours of which there is
// much, far apart from each other.
func clusters(points []colour.Lab, known []bool, n int) []colour.Lab {
	type group struct {
		sum   colour.Lab
		count float64
	}
	bins := map[[3]int]*group{}
	var order [][3]int
	for k, ok := range known {
		if !ok {
			continue
		}
		var at [3]int
		for q := range 3 {
			at[q] = int(math.Floor(points[k][q] / bin))
		}
		if bins[at] == nil {
			bins[at] = &group{}
			order = append(order, at)
		}
		g := bins[at]
		g.count++
		for q := range 3 {
			g.sum[q] += points[k][q]
		}
	}
	middle := func(g *group) (c colour.Lab) {
		for q := range 3 {
			c[q] = g.sum[q] / g.count
		}
		return c
	}
	var middles []colour.Lab
	for len(middles) < n {
		best, most := colour.Lab{}, -1.0
		for _, at := range order {
			g := bins[at]
			c := middle(g)
			apart := outside * outside
			for _, m := range middles {
				apart = min(apart, apartLab(c, m))
			}
			if v := g.count * apart * apart; v > most {
				best, most = c, v
			}
		}
		middles = append(middles, best)
	}
	for range 20 {
		sums := make([]group, n)
		for _, at := range order {
			c := middle(bins[at])
			m := nearestTo(c, middles)
			if apartLab(c, middles[m]) > outside*outside {
				continue
			}
			sums[m].count += bins[at].count
			for q := range 3 {
				sums[m].sum[q] += bins[at].sum[q]
			}
		}
		for m := range middles {
			if sums[m].count > 0 {
				middles[m] = middle(&sums[m])
			}
		}
	}
	return middles
}

// apartLab is the distance of two colours, lightness counted less: light on a picture is uneven.
func apartLab(a, b colour.Lab) float64 {
	l, x, y := (a[0]-b[0])*0.8, a[1]-b[1], a[2]-b[2]
	return l*l + x*x + y*y
}

func nearestTo(c colour.Lab, all []colour.Lab) int {
	best, d := 0, math.Inf(1)
	for i, m := range all {
		if e := apartLab(c, m); e < d {
			best, d = i, e
		}
	}
	return best
}
