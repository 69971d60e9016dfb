package scheme

import (
	"cinderpath/core/colour"
	"cinderpath/core/unit"
	"cmp"
	"math"
	"slices"
	"strings"
)

// LightFirst is the spraying order from light to dark, each colour by its place now; same tells that
// it is laid so already.
func (p Pattern) LightFirst() (order []int, same bool) {
	for c := range p.Colours {
		order = append(order, c)
	}
	// What nobody tells apart needs no order.
	lightness := func(c int) int { return int(math.Round(colour.Of(p.Colours[c].Hex).Lab()[0] / darker)) }
	slices.SortStableFunc(order, func(a, b int) int { return lightness(b) - lightness(a) })
	return order, slices.IsSorted(order)
}

// darker is by how much a colour must be to be called so, L.
const darker = 3

// Reordered is the pattern sprayed in another order: the first takes what is left, so shares go with
// their colours. Pins and pictures follow.
func (p Pattern) Reordered(order []int) Pattern {
	colours, to := make([]Colour, len(order)), make([]int, len(order))
	left := unit.Share(1)
	for _, c := range p.Colours[1:] {
		left -= c.Share
	}
	for at, from := range order {
		colours[at], to[from] = p.Colours[from], at
		colours[at].From = cmp.Or(colours[at].From, from+1) // its fields stay where they are
		if from == 0 {
			colours[at].Share = max(left, 0.05)
		}
	}
	first := &colours[0]
	first.Share, first.Family, first.Zones, first.Without = 0, "", nil, nil
	p.Colours = colours
	return p.renumbered(to)
}

// Dropped is the pattern without a colour; what pictures showed of it becomes the first one's, and its
// pins go. The first colour stays.
func (p Pattern) Dropped(colour int) Pattern {
	if colour < 1 || colour >= len(p.Colours) {
		return p
	}
	to := make([]int, len(p.Colours))
	p.Colours = slices.Clone(p.Colours)
	for c := range to {
		to[c] = c
		if c > colour {
			to[c]--
			p.Colours[c].From = cmp.Or(p.Colours[c].From, c+1)
		}
	}
	to[colour] = none
	p.Colours = slices.Delete(p.Colours, colour, colour+1)
	return p.renumbered(to)
}

// none is the number of a colour that is gone.
const none = -1

// renumbered gives pins and pictures the colours' new numbers.
func (p Pattern) renumbered(to []int) Pattern {
	var anchors []Anchor
	for _, a := range p.Anchors {
		if a.Colour = to[a.Colour]; a.Colour != none {
			anchors = append(anchors, a)
		}
	}
	p.Anchors, p.Traces = anchors, slices.Clone(p.Traces)
	for i, t := range p.Traces {
		p.Traces[i].Rows = slices.Clone(t.Rows)
		for k, row := range t.Rows {
			p.Traces[i].Rows[k] = strings.Map(func(r rune) rune {
				if r < 'a' || r >= 'a'+rune(len(to)) {
					return r
				}
				return 'a' + rune(max(to[r-'a'], 0))
			}, row)
		}
	}
	return p
}

// Colour is the one that a task lays, from 1; the first where none is said.
func (p Pattern) Colour(n int) Colour { return p.Colours[min(max(n-1, 0), len(p.Colours)-1)] }
