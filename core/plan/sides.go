package plan

import (
	"fmt"
	"slices"

	"cinderpath/core/colour"
	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// SidesQuestion compares a layer on both sides, each seen on a photograph.
type SidesQuestion struct {
	Look  string // of a step at or after which it is on
	Layer string // by id
	Seen  [2]SideSeen
	Coats [2]int // passes that were counted, left and right; none where nobody counted
	Steps []Step // of the plan: they say in how many passes
}

// passesOf is in how many passes a layer goes on: thinned for effect in many, else in as many as it has coats.
func passesOf(steps []Step, l strata.Layer) int {
	for _, s := range steps {
		if s.Layer != l.ID {
			continue
		}
		for _, n := range s.Needs {
			if n.Passes > 1 {
				return n.Passes
			}
		}
	}
	return max(l.Coats, 1)
}

// SideSeen is what a photograph shows of a side.
type SideSeen struct {
	Colour paint.Told
	Patch  paint.Patch
}

// SideTold is what a side has got.
type SideTold struct {
	Hex    string  `json:"hex"`
	FilmUM float64 `json:"filmUm"`
	Passes float64 `json:"passes"`
	Within float64 `json:"within"` // passes, half of the 95 % interval
	Marks  int     `json:"marks"`  // counted on the patch
	Each   float64 `json:"each"`   // on a cm² of the model
	WideMM float64 `json:"wideMm"` // median of the marks, on the model
	CM2    float64 `json:"cm2"`    // of the patch
}

// SidesTold is how both sides differ.
type SidesTold struct {
	Layer    string        `json:"layer"`
	Ground   string        `json:"ground,omitempty"` // what it lies on where it is compared
	InPasses bool          `json:"inPasses"`         // otherwise it is told by its marks
	PassUM   float64       `json:"passUm"`           // that a pass of one's own leaves
	Sides    []SideTold    `json:"sides"`            // left, right
	Words    []string      `json:"words"`
	Why      []measure.Why `json:"why"`
}

// Sides answers. Refused: colours that the layer makes on nothing that is below it, patches on which
// marks cannot be told.
func (d *Deriver) Sides(q SidesQuestion) (out SidesTold, err error) {
	all, _, err := d.named(q.Look)
	if err != nil {
		return out, err
	}
	at := slices.IndexFunc(all.coats, func(c coated) bool { return c.layer.ID == q.Layer })
	if at < 0 {
		return out, measure.Refuse("layer", "it lies on nothing that is drawn", "choose a layer of the path")
	}
	c := all.coats[at]
	if c.hex != "" {
		c.layer.Hex = c.hex
	}
	out = SidesTold{Layer: c.layer.Name, Sides: make([]SideTold, 2), Words: []string{}, Why: []measure.Why{}}
	marks, refused := marksOf(q.Seen)
	for i, m := range marks {
		out.Sides[i] = SideTold{Hex: q.Seen[i].Colour.Hex, Marks: m.Count, Each: m.Each, WideMM: m.Middle, CM2: m.CM2}
	}
	material, coloured := c.layer.Material()
	if out.InPasses = c.layer.InPasses() && coloured; !out.InPasses {
		if refused != nil {
			return out, refused
		}
		out.Words = append(out.Words, paint.CompareSpecks(marks[0], marks[1]))
		out.Why = append(out.Why, measure.Because(
			"a mark differs from the light about it by an eighth at least and five times the median, and is "+
				"0.1 mm wide at least; marks / area of the patch",
			[]string{
				fmt.Sprintf("left: %d on %.2f cm²", marks[0].Count, marks[0].CM2),
				fmt.Sprintf("right: %d on %.2f cm²", marks[1].Count, marks[1].CM2),
			},
		))
		return out, nil
	}
	grounds, err := d.grounds(all, at)
	if err != nil {
		return out, err
	}
	planned := passesOf(q.Steps, c.layer)
	pass := paint.Pass{
		Pigment: material.Pigment(),
		Skin:    c.layer.Finish(),
		Film:    paint.Film(c.layer.EvenFilm()) / paint.Film(planned),
		Planned: planned,
	}
	if c.effect().Loose {
		pass.Skin = ""
	}
	sides, err := paint.MatchSides(pass, grounds, q.Seen[0].Colour, q.Seen[1].Colour, q.Coats)
	if err != nil {
		return out, err
	}
	out.Ground, out.PassUM = sides.Ground, float64(sides.Pass)
	for i, h := range []paint.Hand{sides.Left, sides.Right} {
		s := &out.Sides[i]
		s.FilmUM, s.Passes, s.Within = float64(h.Film), h.Passes, h.Within
	}
	out.Words = append(out.Words, sides.Words...)
	out.Why = append(out.Why, sides.Why, q.Seen[0].Colour.Why, q.Seen[1].Colour.Why)
	return out, nil
}

// marksOf counts the marks of both sides; where that is refused, it says why.
func marksOf(seen [2]SideSeen) (out [2]paint.Specks, err error) {
	for i, s := range seen {
		if out[i], err = paint.CountSpecks(s.Patch); err != nil {
			return [2]paint.Specks{}, err
		}
	}
	return out, nil
}

// grounds are what a coat lies on: of each colour of the scheme, the mean of what is below it on all
// places that it reaches.
func (d *Deriver) grounds(all *dressing, at int) ([]paint.Ground, error) {
	h, err := d.heapOf(all.build, all.coats[:at+1], nil)
	if err != nil {
		return nil, err
	}
	h.most = glanced
	pile, coats, err := h.pile()
	if err != nil {
		return nil, err
	}
	ply := slices.Index(coats, at)
	loose := all.coats[at].effect().Loose
	type sum struct {
		is colour.Bands
		n  float64
	}
	sums := map[string]*sum{}
	names := []string{}
	for z, name := range pile.Zones {
		if zone.Mirrored(name) == name {
			continue // neither left nor right
		}
		for k := pile.First[z]; k < pile.First[z+1]; k++ {
			if pile.Plies[ply].At(k) == 0 {
				continue
			}
			ground := "what is not in the scheme"
			if !zone.Bare(name) && len(h.laid.Taken) > 0 {
				ground = all.build.Scheme.Colour(int(h.laid.Taken[pile.At[k]]) + 1).Name
			}
			s := sums[ground]
			if s == nil {
				s = &sum{}
				sums[ground] = s
				names = append(names, ground)
			}
			below := pile.Below(ply, k)
			for b, v := range below.Ground(loose) {
				s.is[b] += v
			}
			s.n++
		}
	}
	var out []paint.Ground
	for _, name := range names {
		s := sums[name]
		for b := range s.is {
			s.is[b] /= s.n
		}
		out = append(out, paint.Ground{Name: name, Is: s.is})
	}
	return out, nil
}
