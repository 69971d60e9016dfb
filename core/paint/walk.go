package paint

import (
	"cinderpath/core/colour"
	"math"
	"slices"
)

// walk goes through the pieces of the range of shares of one set of paints after the other.
type walk struct {
	*seeker

	tree    *tree
	k       int
	these   []int
	corners []corner // by point of the tree
	known   []bool
	limit   float64
	found   find

	darkest, brightest float64 // Y of anything within the limit

	reach reach
	near  bool // the limit is small enough for planes to part
}

func newWalk(s *seeker, t *tree, k int) *walk {
	return &walk{seeker: s, tree: t, k: k, corners: make([]corner, len(t.points)), known: make([]bool, len(t.points))}
}

func (w *walk) set(set []int) find {
	w.these, w.found = set, find{}
	w.within(w.seeker.limit(w.k))
	clear(w.known)
	for i, at := range set {
		w.corners[i], w.known[i] = w.pure[at], true
	}
	w.into(w.tree.root)
	return w.found
}

// within sets the difference that is too much.
func (w *walk) within(limit float64) {
	w.limit, w.darkest, w.brightest, w.near = limit, 0, math.Inf(1), false
	if !math.IsInf(limit, 1) {
		w.darkest, w.brightest = w.goal.band(limit)
		w.reach, w.near = w.goal.reach(limit)
	}
}

// into looks at a piece, unless all in it is proven too far off.
func (w *walk) into(c *cell) {
	switch {
	case math.IsInf(w.limit, 1):
	case w.near:
		if w.aside(c) {
			return
		}
	default:
		if s, ok := w.span(c); !ok || !w.goal.nearer(&s, w.limit) {
			return
		}
	}
	for _, half := range c.halves {
		w.into(half)
	}
	for _, r := range c.recipes {
		w.recipe(w.tree.recipes[r])
	}
}

// span is what X, Y, Z and their differences can be in a piece; ok is false where Y alone
// says that all in it is too far off.
func (w *walk) span(c *cell) (out span, ok bool) {
	// What is seen of a band is a convex function of K/S: X, Y and Z are greatest at corners.
	var most [3]float64
	for _, at := range c.corners {
		for k, v := range w.corner(at).xyz {
			most[k] = max(most[k], v)
		}
	}
	if most[1] < w.darkest {
		return out, false
	}
	low := w.corners[c.corners[0]].seen
	high := low
	for _, at := range c.corners[1:] {
		for b, v := range &w.corners[at].seen {
			low[b], high[b] = min(low[b], v), max(high[b], v)
		}
	}
	wy := &w.weight[1]
	y0 := 0.0
	for b, y := range wy {
		y0 += y * low[b]
	}
	if y0 > w.brightest {
		return out, false
	}
	// A difference is least where what adds to it is low and what takes from it is high.
	var x0, z0, xy0, xy1, yz0, yz1 float64
	wx, wz, xy, yz := &w.weight[0], &w.weight[2], &w.apart[0], &w.apart[1]
	for b, l := range low {
		h := high[b]
		x0 += wx[b] * l
		z0 += wz[b] * l
		if d := xy[b]; d >= 0 {
			xy0 += d * l
			xy1 += d * h
		} else {
			xy0 += d * h
			xy1 += d * l
		}
		if d := yz[b]; d >= 0 {
			yz0 += d * l
			yz1 += d * h
		} else {
			yz0 += d * h
			yz1 += d * l
		}
	}
	return span{
		low:  [5]float64{x0, y0, z0, xy0, yz0},
		high: [5]float64{most[0], most[1], most[2], xy1, yz1},
	}, true
}

// corner is what is known of a point of the tree.
type corner struct {
	ratio colour.Bands
	seen  colour.Bands
	xyz   [3]float64 // parts of white's
}

// corner gives what is known of a point of the tree.
func (w *walk) corner(at int) *corner {
	p := &w.corners[at]
	if !w.known[at] {
		w.ratio(w.these, w.tree.points[at], &p.ratio)
		w.see(&p.ratio, &p.seen)
		p.xyz, w.known[at] = w.xyz(&p.seen), true
	}
	return p
}

func (w *walk) recipe(parts []int) {
	w.found.computed++
	var shares [MostPaints]float64
	for i, p := range parts {
		shares[i] = float64(p)
	}
	var ratio, seen colour.Bands
	w.ratio(w.these, shares[:len(parts)], &ratio)
	w.see(&ratio, &seen)
	y := 0.0
	for b, r := range &seen {
		y += w.weight[1][b] * r
	}
	if y < w.darkest || y > w.brightest {
		return // its brightness alone says that it is too far off
	}
	lab := w.lab(&seen)
	d := w.distance(lab, w.limit)
	if d > w.limit {
		return
	}
	r := Recipe{Difference: d, Parts: make([]int, len(w.Shelf)), Seen: lab}
	for i, at := range w.these {
		r.Parts[at] = parts[i]
	}
	w.found.recipes = append(w.found.recipes, r)
	if len(w.found.recipes) > 4*bestCount { // of one set, too, only the best may stay
		slices.SortFunc(w.found.recipes, compare)
		w.found.recipes = w.found.recipes[:bestCount]
		if last := w.found.recipes[bestCount-1].Difference + 1e-9; last < w.limit && w.leading[w.k].Parts != nil {
			w.within(last)
		}
	}
}
