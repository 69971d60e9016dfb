package strata

import "cinderpath/core/form"

// Spread is how much of a layer lies on a zone: the area that it reaches, real mm², and its
// film over it, real mm² · µm.
type Spread struct{ Area, Film float64 }

// Spread sums a deposit over the texels of each zone.
func (d Deposit) Spread(g *form.Grid) map[string]Spread {
	out := map[string]Spread{}
	for _, i := range d.Panels {
		t := g.Texels[i]
		s := out[t.Zone]
		for k, a := range t.Area {
			if step := d.Film[t.First+k]; step > 0 {
				s.Area += float64(a)
				s.Film += float64(a) * float64(d.Full) * float64(step) / Steps
			}
		}
		out[t.Zone] = s
	}
	return out
}

// Even tells of a layer that goes all over its zones in one film: areas alone say how much
// of it there is.
func (l Layer) Even() bool {
	about := l.Kind.About()
	_, everywhere := about.land.(all)
	return everywhere && about.share == 0 || about.land == nil
}

// EvenFilm is the dry film of all coats of a layer that goes all over its zones.
func (l Layer) EvenFilm() float64 { return float64(l.film(l.Kind.About())) }
