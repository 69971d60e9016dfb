package scheme

import (
	"math"

	"cinderpath/core/form"
	"cinderpath/core/zone"
)

// verge finds the guessed texels that lie beside seen ones, over the edges of panels too.
type verge struct {
	l      *laying
	labels []uint8
	near   float64 // within which texels lie beside each other, real mm
	states map[cell]uint8
	seen   map[cell][]seenAt // texels of which a guessed one may lie near
	close  map[cell]bool     // where guessed ones may lie near seen ones
}

type cell = [3]int32

type seenAt struct {
	at     form.Vec
	colour uint8
}

// What a cell holds.
const (
	holdsSeen = 1 << iota
	holdsGuessed
)

func cellOf(p form.Vec, room float64) (k cell) {
	for q := range 3 {
		k[q] = int32(math.Floor(p[q] / room))
	}
	return k
}

// around runs f over a cell and those about it.
func around(k cell, f func(cell)) {
	for dx := int32(-1); dx <= 1; dx++ {
		for dy := int32(-1); dy <= 1; dy++ {
			for dz := int32(-1); dz <= 1; dz++ {
				f(cell{k[0] + dx, k[1] + dy, k[2] + dz})
			}
		}
	}
}

func (l *laying) verge(labels []uint8) *verge {
	r := &verge{l, labels, 1.5 * l.grid.Step, map[cell]uint8{}, map[cell][]seenAt{}, map[cell]bool{}}
	r.each(func(_ int, t *form.Texels, k int) {
		state := uint8(holdsSeen)
		if labels[t.First+k] == unknown {
			state = holdsGuessed
		}
		r.states[cellOf(t.Point(k), r.near)] |= state
	})
	wanted := map[cell]bool{}
	for k, state := range r.states {
		if state&holdsSeen == 0 {
			continue
		}
		around(k, func(o cell) {
			if r.states[o]&holdsGuessed != 0 {
				wanted[k], r.close[o] = true, true
			}
		})
	}
	r.each(func(_ int, t *form.Texels, k int) {
		if c := labels[t.First+k]; c != unknown {
			p := t.Point(k)
			if at := cellOf(p, r.near); wanted[at] {
				r.seen[at] = append(r.seen[at], seenAt{p, c})
			}
		}
	})
	return r
}

// each runs f over all texels that are painted.
func (r *verge) each(f func(i int, t *form.Texels, k int)) {
	for i, t := range r.l.grid.Texels {
		if zone.Bare(t.Zone) {
			continue
		}
		for k, a := range t.Area {
			if a > 0 {
				f(i, t, k)
			}
		}
	}
}

// beside is the colour that is seen nearest to a place; alone tells that no other is seen about it.
func (r *verge) beside(p form.Vec) (colour int, alone, ok bool) {
	least, colours := r.near, uint32(0)
	at := cellOf(p, r.near)
	if !r.close[at] {
		return 0, false, false
	}
	around(at, func(k cell) {
		for _, s := range r.seen[k] {
			colours |= 1 << s.colour
			if d := distance(s.at, p); d < least {
				colour, least, ok = int(s.colour), d, true
			}
		}
	})
	return colour, colours&(colours-1) == 0, ok
}

// border gives pins, many to a width, along the rim between what is seen and what is guessed; and finer
// ones, with which the fields are drawn to where edges run over it.
func (l *laying) border(labels []uint8) {
	r := l.verge(labels)
	room, set := l.pattern.widthOf(0)/9, map[cell]bool{}
	r.each(func(i int, t *form.Texels, k int) {
		if labels[t.First+k] != unknown {
			return
		}
		p := t.Point(k)
		c, alone, ok := r.beside(p)
		if !ok {
			return
		}
		flat := t.Flat(p)
		here := pin{l.placeOn(i, flat[0], flat[1]), c, true}
		l.fine = append(l.fine, here)
		if at := cellOf(p, room); alone && !set[at] { // where an edge runs over the rim, its two sides say where
			set[at] = true
			l.pins = append(l.pins, here)
		}
	})
}
