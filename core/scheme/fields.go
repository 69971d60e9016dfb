package scheme

import (
	"cmp"
	"slices"

	"cinderpath/core/form"
	"cinderpath/core/zone"
)

// Field is a field of a colour as one view shows it.
type Field struct {
	Colour int     `json:"colour"` // from 0
	Area   float64 `json:"area"`   // of it that faces the view, real mm²
	Zone   string  `json:"zone"`   // where most of it lies
	Spots  []Spot  `json:"spots"`  // in it, spread so that pins there hold all of it
}

// Spot is a place on the surface.
type Spot struct {
	At   form.Vec `json:"at"` // real mm
	Zone string   `json:"zone"`
}

// Limits of a list of fields.
const (
	mostFields = 24
	mostPoints = 14
)

// Fields lists the fields that a view shows, the largest first, those of the first colour too.
func (l *Layout) Fields(side form.Side) []Field {
	_, _, toward := side.Axes()
	n := len(l.grid.Texels)
	read := make([]panelTold, n)
	form.Each(n, func(i int) {
		if t := l.grid.Texels[i]; !zone.Bare(t.Zone) {
			l.count(t, &read[i])
		}
	})
	joined := l.join(read)
	type sum struct {
		Field
		inner []Spot // texels with nothing else beside them
		outer []Spot
		zones map[string]float64
	}
	all := map[int]*sum{}
	for i, t := range l.grid.Texels {
		facing := t.Normal.Dot(toward)
		if facing < leastFacing || zone.Bare(t.Zone) {
			continue
		}
		for k, a := range t.Area {
			if a == 0 {
				continue
			}
			f := joined.root(read[i].first + int(read[i].of[k]))
			s := all[f]
			if s == nil {
				s = &sum{Field: Field{Colour: int(l.Taken[t.First+k])}, zones: map[string]float64{}}
				all[f] = s
			}
			s.Area += float64(a) * facing
			s.zones[t.Zone] += float64(a)
			if spot := (Spot{t.Point(k), t.Zone}); inside(t, read[i].of, k) {
				s.inner = append(s.inner, spot)
			} else {
				s.outer = append(s.outer, spot)
			}
		}
	}
	var out []Field
	for _, s := range all {
		for z, a := range s.zones {
			if best := s.zones[s.Zone]; a > best || a == best && z < s.Zone {
				s.Zone = z
			}
		}
		if len(s.inner) == 0 {
			s.inner = s.outer
		}
		s.Spots = spread(s.inner, 0.6*l.pattern.widthOf(s.Colour))
		out = append(out, s.Field)
	}
	slices.SortFunc(out, func(a, b Field) int {
		return cmp.Or(cmp.Compare(b.Area, a.Area), slices.Compare(a.Spots[0].At[:], b.Spots[0].At[:]))
	})
	return out[:min(len(out), mostFields)]
}

// inside tells of a texel with nothing but its own field about it.
func inside(t *form.Texels, of []int32, k int) bool {
	x, y := k%t.NX, k/t.NX
	for _, d := range [4][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
		if beside(t, x+d[0], y+d[1]) || of[k] != of[k+d[0]+d[1]*t.NX] {
			return false
		}
	}
	return true
}

// spread chooses places that lie so far apart that between them nothing is farther than that.
func spread(all []Spot, room float64) []Spot {
	var middle form.Vec
	for _, p := range all {
		for k := range 3 {
			middle[k] += p.At[k] / float64(len(all))
		}
	}
	// The one nearest to the middle first, then always the farthest from those chosen.
	first := slices.MinFunc(all, func(a, b Spot) int {
		return cmp.Compare(distance(a.At, middle), distance(b.At, middle))
	})
	out := []Spot{first}
	away := make([]float64, len(all))
	for i, p := range all {
		away[i] = distance(p.At, first.At)
	}
	for len(out) < mostPoints {
		far := 0
		for i, d := range away {
			if d > away[far] {
				far = i
			}
		}
		if away[far] < room {
			break
		}
		out = append(out, all[far])
		for i, p := range all {
			away[i] = min(away[i], distance(p.At, all[far].At))
		}
	}
	return out
}
