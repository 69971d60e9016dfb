package scheme

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"cinderpath/core/form"
	"cinderpath/core/zone"
)

// bent is a field that pins pull up or push down near them.
type bent struct {
	field
	width float64
	bumps map[[3]int32][]bump // by cells as wide as they reach
}

// bump is one width wide.
type bump struct {
	at     form.Vec
	radius float64
	height float64
}

func (b bump) of(p form.Vec) float64 {
	x, y, z := p[0]-b.at[0], p[1]-b.at[1], p[2]-b.at[2]
	d := (x*x + y*y + z*z) / (b.radius * b.radius)
	if d >= 1 {
		return 0
	}
	return b.height * (1 - d) * (1 - d)
}

// bumpWide is how far a bump reaches, of the width.
const bumpWide = 0.5

func (f *bent) at(p place) float64 {
	return f.field.at(p) + f.bumped(p.at)
}

// bumped is how far bumps raise a place.
func (f *bent) bumped(p form.Vec) (v float64) {
	if f.bumps == nil {
		return 0
	}
	for _, b := range f.bumps[f.cell(p)] {
		v += b.of(p)
	}
	return v
}

func (f *bent) cell(p form.Vec) (k [3]int32) {
	for q := range 3 {
		k[q] = int32(math.Floor(p[q] / (bumpWide * f.width)))
	}
	return k
}

// bend adds bumps.
func (f *bent) bend(bumps []bump) {
	if f.bumps == nil && len(bumps) > 0 {
		f.bumps = map[[3]int32][]bump{}
	}
	for _, b := range bumps {
		k := f.cell(b.at)
		for dx := int32(-1); dx <= 1; dx++ {
			for dy := int32(-1); dy <= 1; dy++ {
				for dz := int32(-1); dz <= 1; dz++ {
					at := [3]int32{k[0] + dx, k[1] + dy, k[2] + dz}
					f.bumps[at] = append(f.bumps[at], b)
				}
			}
		}
	}
}

// besideBy is how far from the surface a pin may hang, real mm: bodies are changed under them.
const besideBy = 300.0

// place finds the panel on which a pin sits: the nearest one of its zone, or of all.
func (l *Layout) place(a Anchor) (place, bool) {
	best, found, near := place{}, false, besideBy
	for _, named := range []bool{true, false} {
		for i, t := range l.grid.Texels {
			if named && t.Zone != a.Zone || zone.Bare(t.Zone) {
				continue
			}
			flat := t.Flat(a.At)
			k, ok := t.At(flat[0], flat[1])
			if !ok || t.Area[k] == 0 {
				continue
			}
			p := l.placeOn(i, flat[0], flat[1])
			if d := distance(p.at, a.At); d < near {
				best, found, near = p, true, d
			}
		}
		if found {
			break
		}
	}
	return best, found
}

// Where is the colour at a place on the surface; ok is false beside it.
func (l *Layout) Where(a Anchor) (colour int, ok bool) {
	p, ok := l.place(a)
	if !ok {
		return 0, false
	}
	return l.colourAt(p), true
}

func distance(a, b form.Vec) float64 {
	x, y, z := a[0]-b[0], a[1]-b[1], a[2]-b[2]
	return math.Sqrt(x*x + y*y + z*z)
}

// wants tells whether a pin wants a colour above its level, or below; of what lies over it
// already it wants nothing.
func (l *laying) wants(p pin, c int) (inside, asks bool) {
	if !p.on || p.colour > c || !l.pattern.takes(c, p.zone.Zone) {
		return false, false
	}
	return p.colour == c, true
}

// pinShapes moves the shapes of a field that has some.
func (l *laying) pinShapes(c int, f *bent) {
	shapes, ok := f.field.(shaped)
	if !ok {
		return
	}
	for _, outside := range []bool{true, false} {
		for _, p := range l.pins {
			if inside, asks := l.wants(p, c); asks && inside != outside {
				shapes.pin(p.place, inside)
			}
		}
	}
}

// damp is how far each of many pins pulls at once.
const damp = 0.4

// pull raises and lowers the field at pins that do not hold; it tells which bumps are new.
func (l *laying) pull(c int, f *bent, level float32) (moved []bump) {
	if _, shapes := f.field.(shaped); shapes || math.IsInf(float64(level), 1) {
		return nil
	}
	for i, p := range l.pins {
		inside, asks := l.wants(p, c)
		if !asks {
			continue
		}
		v := f.at(p.place) - float64(level)
		margin := 0.06*f.width + l.laid[c].feather/2
		if inside && v > margin/2 || !inside && v < -margin/2 {
			continue
		}
		b := bump{at: p.at, radius: f.width * bumpWide, height: margin - v}
		if !inside {
			b.height = -margin - v
		}
		if i >= len(l.pattern.Anchors) {
			b.height *= damp // those along the rim of a picture lie close: together they overshoot
		}
		moved = append(moved, b)
	}
	f.bend(moved)
	return moved
}

// draw raises and lowers the field where it does not go on as the rim of a picture has it; it tells
// which bumps are new. What lies within a bump is drawn once, by the farthest off.
func (l *laying) draw(c int, f *bent, wide float64) (moved []bump) {
	level := float64(l.laid[c].level)
	if _, shapes := f.field.(shaped); shapes || l.line(c) || math.IsInf(level, 1) {
		return nil
	}
	radius := max(wide*f.width, 1.2*l.grid.Step)
	type off struct {
		at form.Vec
		by float64
	}
	var all []off
	for _, p := range l.fine {
		inside, asks := l.wants(p, c)
		if !asks {
			continue
		}
		v := f.at(p.place) - level
		switch margin := 0.005 * f.width; {
		case inside && v <= 0:
			all = append(all, off{p.at, margin - v})
		case !inside && v > 0:
			all = append(all, off{p.at, -margin - v})
		}
	}
	slices.SortStableFunc(all, func(a, b off) int { return cmp.Compare(math.Abs(b.by), math.Abs(a.by)) })
	taken := bent{width: radius / bumpWide}
	for _, o := range all {
		if taken.bumped(o.at) != 0 {
			continue
		}
		b := bump{o.at, radius, o.by}
		moved = append(moved, b)
		taken.bend([]bump{{o.at, radius / 2, 1}})
	}
	f.bend(moved)
	return moved
}

// disputed tells of a pin whose texel another colour is pinned to as well: by luck an edge may run between
// them, but nobody sees or sprays it.
func (l *laying) disputed(i int) bool {
	p := l.pins[i]
	return slices.ContainsFunc(l.pins[:len(l.pattern.Anchors)], func(o pin) bool {
		return o.on && o.colour != p.colour && distance(o.at, p.at) < l.grid.Step/2
	})
}

// judge names the pins that do not hold.
func (l *laying) judge() {
	for i, p := range l.pins[:len(l.pattern.Anchors)] { // not those along the rim of a picture
		name := l.pattern.Colours[p.colour].Name
		switch {
		case !p.on:
			l.Lost = append(l.Lost, Lost{i, "it lies beside the vehicle: put it back on"})
			continue
		case l.colourAt(p.place) == p.colour && !l.disputed(i):
			continue
		case p.colour > 0 && !l.pattern.takes(p.colour, p.zone.Zone):
			l.Lost = append(l.Lost, Lost{i, fmt.Sprintf("%s does not go on %s", name, zone.Words(p.zone.Zone))})
			continue
		}
		why := fmt.Sprintf("%s has too small a share for all its pins: give it more, or take some out", name)
		for k, o := range l.pins {
			width := min(l.pattern.widthOf(p.colour), l.pattern.widthOf(o.colour))
			if k != i && o.on && o.colour != p.colour && distance(o.at, p.at) < width/2 {
				why = fmt.Sprintf("a pin of %s is nearer than half a width: move one of them", l.pattern.Colours[o.colour].Name)
			}
		}
		l.Lost = append(l.Lost, Lost{i, why})
	}
}
