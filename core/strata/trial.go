package strata

import (
	"math"

	"cinderpath/core/form"
	"cinderpath/core/landing"
	"cinderpath/core/paint"
)

// Tried tells of a layer that is tried on a card first: marks, streaks and mists, whose density a hand
// finds only by doing.
func (l Layer) Tried() bool {
	_, worked := l.Worked()
	return worked && !l.Kind.Works() && l.Kind != Fix
}

// Trial is what the layer leaves on an upright card, so many times what it should be: its marks at the
// share that they have where it lands, its film as it is thick there.
func (l Layer) Trial(s *landing.Site, times float64) Deposit {
	g := s.Grid
	panels := make([]int, len(g.Texels))
	lands := make([]float32, g.Count)
	for i, t := range g.Texels {
		panels[i] = i
		for k, a := range t.Area {
			if a > 0 {
				lands[t.First+k] = 1
			}
		}
	}
	how, worked := l.Worked()
	whole, _ := areas(g, panels, nil)
	area := math.Min(how.Amount*times, 1) * whole
	switch {
	case !worked:
		return filmed(g, panels, lands, l.film())
	case len(how.formula.Falls) > 0:
		if !how.Share {
			area = streaky.Of(whole) * times
		}
		// They all begin at the upper edge, and reach down so far.
		if high := float64(g.Texels[0].NY) * g.Step; how.Long[1] > 0 {
			area *= min(how.Long[1]/high, 1)
		}
		marks, cover := s.Streaks(panels, landing.Sources{}, how.brush(s), area, l.seed())
		return covered(g, panels, cover, l.film(), marks)
	case how.Share && how.marked():
		marks, cover := s.Marks(panels, lands, how.brush(s), area, l.seed())
		return covered(g, panels, cover, l.film(), marks)
	case how.Share:
		form.Each(len(panels), func(i int) {
			t := g.Texels[i]
			landing.Noise(cardPatch, 2).On(s, i, l.seed(), lands[t.First:t.First+len(t.Area)])
		})
		return shared(g, panels, lands, area, l.film())
	}
	return filmed(g, panels, lands, l.film()*paint.Film(times))
}

// cardPatch is how large patches are on a card, real mm.
const cardPatch = 150.0
