package paint

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"cinderpath/core/colour"
	"cinderpath/core/measure"
)

// Limits of a search for recipes.
const (
	MostShelf  = 400 // paints
	MostPaints = 4   // in one recipe
	MostParts  = 24
	bestCount  = 10
)

// Near is how much closer one more paint must come to be worth it, ΔE00.
const Near = 0.3

// Wanted asks for a colour from a shelf.
type Wanted struct {
	Shelf   []Pigment
	Group   []int // by paint: those of one number mix; none means that all do
	Must    []int // paints that every recipe holds
	Exclude []int
	Target  colour.Lab // as seen through Over
	Over    Over
	Paints  int // at most in one recipe
	Parts   int // at most in all
	Stop    func() bool
}

// Recipe is parts of some paints, by volume.
type Recipe struct {
	Difference float64 // ΔE00 to what is wanted
	Parts      []int   // by paint of the shelf
	Seen       colour.Lab
}

// Of counts the paints of a recipe.
func (r Recipe) Of() (n int) {
	for _, p := range r.Parts {
		if p > 0 {
			n++
		}
	}
	return n
}

// All is the sum of the parts.
func (r Recipe) All() (n int) {
	for _, p := range r.Parts {
		n += p
	}
	return n
}

// compare orders recipes: by difference, then fewer paints, fewer parts, jar order, parts.
func compare(a, b Recipe) int {
	if c := cmp.Or(
		cmp.Compare(a.Difference, b.Difference),
		cmp.Compare(a.Of(), b.Of()),
		cmp.Compare(a.All(), b.All()),
	); c != 0 {
		return c
	}
	for i := range a.Parts { // the one whose earlier jar is used comes first
		if (a.Parts[i] > 0) != (b.Parts[i] > 0) {
			if a.Parts[i] > 0 {
				return -1
			}
			return 1
		}
	}
	return slices.Compare(a.Parts, b.Parts)
}

// Found is what a search found.
type Found struct {
	Best       []Recipe        // the ten best, distinct in ratio
	ByPaints   map[int]float64 // the least difference of recipes of exactly so many paints
	Preferred  Recipe          // the fewest paints that come within Near of the best
	Candidates int             // recipes that were in question
	Computed   int             // of them, those that were computed: the others were proven worse
}

func (w Wanted) check() error {
	switch {
	case len(w.Shelf) == 0:
		return measure.Refuse("shelf", "there is no paint on it", "enter the jars you own")
	case len(w.Shelf) > MostShelf:
		return measure.Refuse("shelf", fmt.Sprintf("%d paints", len(w.Shelf)), fmt.Sprintf("ask among at most %d", MostShelf))
	case w.Paints < 1 || w.Paints > MostPaints:
		return measure.Refuse(
			"maxPaints",
			fmt.Sprintf("%d paints in one recipe", w.Paints),
			fmt.Sprintf("give 1 to %d", MostPaints),
		)
	case w.Parts < 1 || w.Parts > MostParts:
		return measure.Refuse("maxParts", fmt.Sprintf("%d parts", w.Parts), fmt.Sprintf("give 1 to %d", MostParts))
	case len(w.Group) != 0 && len(w.Group) != len(w.Shelf):
		return measure.Refuse("mixGroup", "it does not name each paint", "give one number for each paint")
	}
	for _, i := range slices.Concat(w.Must, w.Exclude) {
		if i < 0 || i >= len(w.Shelf) {
			return measure.Refuse("must", fmt.Sprintf("there is no paint %d", i), "name paints of the shelf")
		}
	}
	for i, p := range w.Shelf {
		if !(p.S > 0 && p.Solids > 0) {
			return measure.Refuse(
				"shelf",
				fmt.Sprintf("paint %d does not scatter light, or has no solids", i+1),
				"leave clears out",
			)
		}
	}
	return nil
}

// Search finds the recipes that come closest, of at most so many paints and parts: the true
// best ones. It passes over what cannot be among them: over a piece of the range of shares
// each band's reflectance lies between those at the corners of the piece, since it falls
// with K/S, which is a mean of the paints'; so do X, Y, Z and their differences, and from
// these follows a difference that nothing in the piece is below.
func Search(w Wanted) (Found, error) {
	if err := w.check(); err != nil {
		return Found{}, err
	}
	s := newSeeker(w)
	for k := 1; k <= w.Paints; k++ {
		if err := s.level(k); err != nil {
			return Found{}, err
		}
	}
	out := Found{Best: s.best, ByPaints: map[int]float64{}, Candidates: s.candidates, Computed: s.computed}
	if len(s.best) == 0 {
		return out, nil
	}
	for k, r := range s.leading {
		if r.Parts != nil {
			out.ByPaints[k] = r.Difference
			if out.Preferred.Parts == nil && r.Difference <= s.best[0].Difference+Near {
				out.Preferred = r
			}
		}
	}
	return out, nil
}

// Mixed is the paint that a recipe gives.
func (r Recipe) Mixed(shelf []Pigment) Pigment {
	var parts []float64
	var paints []Pigment
	for i, p := range r.Parts {
		if p > 0 {
			parts, paints = append(parts, float64(p)), append(paints, shelf[i])
		}
	}
	return Mix(parts, paints)
}

// sights are a paint's share in a mix: its weight for each part, and its ratio K/S.
type sight struct {
	weight float64 // of one part: what it scatters
	ratio  colour.Bands
}

func sightOf(p Pigment) (out sight) {
	out.weight = p.S * p.Solids
	for i, k := range p.K {
		out.ratio[i] = k / p.S
	}
	return out
}

// distance is ΔE00 without what is not needed where a lower bound shows that it is too far.
func (s *seeker) distance(seen colour.Lab, limit float64) float64 {
	if s.goal.least(box{seen, seen}) > limit {
		return math.Inf(1)
	}
	return colour.Difference(s.Target, seen)
}
