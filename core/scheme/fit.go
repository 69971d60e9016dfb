package scheme

import (
	"math"
	"slices"

	"cinderpath/core/form"
	"cinderpath/core/unit"
)

// A scheme is fitted to a picture by its edges: how much of them runs over what is seen does not hang on
// where the view ends, as the width of a field that runs out of it would.
const (
	fits         = 3   // how often it is laid anew for that, at most
	chances      = 3   // by how many seeds, since a vehicle has room for few fields
	roughly      = 12  // how many texels go into the narrowest width, for that
	tellingEdge  = 60  // squares of edge that must be seen for a width to be told
	nearlyFitted = 1.1 // a width is not looked for more closely
	mostFitted   = 4.0 // how many times wider or narrower it becomes at once
)

// fitted are the widths with which colours lay as much edge on squares as the labels show, real mm; nought
// where too little of it is seen. at tells which texel each square shows.
func (p Pattern) fitted(labels []uint8, at []int32, wide int, shares []float64, g *form.Grid) ([]float64, error) {
	out := make([]float64, len(p.Colours))
	q := p
	q.Traces, q.Anchors = nil, nil
	q.Colours = append([]Colour{}, p.Colours...)
	var asked []int
	want := edgesOf(labels, wide, len(out))
	for c := 1; c < len(out); c++ {
		set := &q.Colours[c]
		set.Share = unit.Share(min(max(shares[c], 0.01), 0.9))
		if want[c] >= tellingEdge && p.hasWidth(c) {
			asked = append(asked, c)
			set.Width = p.Set(c).Width
		}
	}
	if narrow, ok := p.Narrowest(); ok && len(asked) > 0 {
		coarse, of := g.Coarser(max(int(narrow/roughly/g.Step), 1))
		g, at = coarse, slices.Clone(at)
		for k, texel := range at {
			if texel >= 0 {
				at[k] = of[texel]
			}
		}
	}
	sim := make([]uint8, len(labels))
	for range fits {
		if bears := q.Check() == nil; len(asked) == 0 || !bears {
			break // what cannot be laid is not fitted further
		}
		laid, most := make([]float64, len(out)), 1.0
		for chance := range uint64(chances) {
			q.Seed = form.Hash(p.Seed + chance)
			l, err := Lay(q, g)
			if err != nil {
				return nil, err
			}
			for k, v := range labels {
				if sim[k] = v; v != unknown {
					sim[k] = l.Taken[at[k]]
				}
			}
			for c, edge := range edgesOf(sim, wide, len(out)) {
				laid[c] += edge / chances
			}
		}
		for _, c := range asked {
			times := min(max(laid[c]/want[c], 1/mostFitted), mostFitted)
			set := &q.Colours[c]
			whole := p.Set(c)
			set.Width = min(max(set.Width*times, 10, *whole.Feather, whole.Frame), 5000)
			out[c] = set.Width
			most = max(most, times, 1/times)
		}
		if most < nearlyFitted {
			break
		}
	}
	return out, nil
}

// edgesOf is how much edge each colour has to those below it, in squares.
func edgesOf(labels []uint8, wide, colours int) []float64 {
	out := make([]float64, colours)
	count := func(a, b uint8) {
		if a != b && a != unknown && b != unknown {
			out[max(a, b)]++
		}
	}
	for k, v := range labels {
		if (k+1)%wide > 0 {
			count(v, labels[k+1])
		}
		if k+wide < len(labels) {
			count(v, labels[k+wide])
		}
	}
	for c := range out {
		out[c] *= math.Pi / 4 // of an edge whichever way it runs, rows and columns tell 4/π of its length
	}
	return out
}
