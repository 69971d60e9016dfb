package scheme

import (
	"cinderpath/core/form"
	"cinderpath/core/zone"
	"math"
)

// settled marks the first colour where a picture shows it, while others are laid.
const settled = 254

// settle gives texels the colours that pictures show, so that nothing else is laid there.
func (l *laying) settle(labels []uint8) {
	if labels == nil {
		return
	}
	n := len(l.Shares)
	l.seen = make([]float64, n)
	for c := 1; c < n; c++ {
		l.Cover[c] = make([]uint8, l.grid.Count)
	}
	for _, t := range l.grid.Texels {
		if zone.Bare(t.Zone) {
			continue
		}
		for k, a := range t.Area {
			at := t.First + k
			c := labels[at]
			if a == 0 || c == unknown {
				continue
			}
			l.seen[c] += float64(a)
			if l.Taken[at] = c; c == 0 {
				l.Taken[at] = settled
			} else {
				l.Cover[c][at] = 255
			}
		}
	}
}

// unsettle gives the first colour its number back.
func (l *laying) unsettle(labels []uint8) {
	for at, c := range labels {
		if c == 0 && l.Taken[at] == settled {
			l.Taken[at] = 0
		}
	}
}

// traced is what pictures say of a surface.
type traced struct {
	by   []*shown
	seen []uint8 // by texel: the number of the picture from 1, 0 where none shows it
	pins []patch
}

// patch is a pin on what a picture shows: about it the picture is overruled.
type patch struct {
	at     form.Vec
	reach  float64
	colour int
}

// patchWide is how far a pin overrules a picture, of the width of its colour's fields.
const patchWide = 0.5

// overruled is the colour of the nearest pin that reaches a place.
func (t *traced) overruled(p form.Vec) (colour int, ok bool) {
	near := math.Inf(1)
	for _, b := range t.pins {
		if d := distance(p, b.at); d < b.reach && d < near {
			colour, near, ok = b.colour, d, true
		}
	}
	return colour, ok
}

// trace reads all texels; labels are unknown where no picture tells.
func (l *laying) trace() (labels []uint8, err error) {
	if len(l.pattern.Traces) == 0 {
		return nil, nil
	}
	by, err := shownBy(l.pattern, l.grid)
	if err != nil {
		return nil, err
	}
	l.traced = &traced{by: by, seen: make([]uint8, l.grid.Count)}
	for _, a := range l.pattern.Anchors {
		l.traced.pins = append(l.traced.pins, patch{a.At, patchWide * l.pattern.widthOf(a.Colour), a.Colour})
	}
	labels = make([]uint8, l.grid.Count)
	form.Each(len(l.grid.Texels), func(i int) {
		t := l.grid.Texels[i]
		for k, a := range t.Area {
			at := t.First + k
			labels[at] = unknown
			if a == 0 || zone.Bare(t.Zone) {
				continue
			}
			for n, s := range by {
				c, ok := s.colour(t.Point(k), t.Normal)
				if !ok {
					continue
				}
				if pinned, ok := l.traced.overruled(t.Point(k)); ok {
					c = uint8(pinned)
				}
				if c == 0 || l.pattern.takes(int(c), t.Zone) {
					labels[at], l.traced.seen[at] = c, uint8(n+1)
					break
				}
			}
		}
	})
	return labels, nil
}

// told is what a picture says of a place.
func (t *traced) told(p place) (int, bool) {
	if t == nil {
		return 0, false
	}
	k, ok := p.zone.At(p.x, p.y)
	if !ok {
		return 0, false
	}
	n := t.seen[p.zone.First+k]
	if n == 0 {
		return 0, false
	}
	if c, ok := t.overruled(p.at); ok {
		return c, true
	}
	c, ok := t.by[n-1].read(t.by[n-1].flipped(p.at))
	return int(c), ok
}

// Seen tells which part of a zone's surface pictures show, by zone; with their mirror images.
func (l *Layout) Seen() map[string]float64 {
	out := map[string]float64{}
	if l.traced == nil {
		return out
	}
	for _, t := range l.grid.Texels {
		seen, all := 0.0, 0.0
		for k, a := range t.Area {
			all += float64(a)
			if l.traced.seen[t.First+k] > 0 {
				seen += float64(a)
			}
		}
		out[t.Zone] += seen / max(l.grid.Area[t.Zone], 1)
	}
	return out
}

// Guessed tells of a texel that no picture shows, where some picture shows others.
func (l *Layout) Guessed(at int) bool { return l.traced != nil && l.traced.seen[at] == 0 }
