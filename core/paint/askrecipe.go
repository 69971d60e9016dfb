package paint

import (
	"fmt"
	"math"
	"slices"

	"cinderpath/core/colour"
	"cinderpath/core/measure"
)

// Target is a colour that is wanted.
type Target struct {
	Hex string      `json:"hex,omitempty"`
	Lab *colour.Lab `json:"lab,omitempty"`
	Pot string      `json:"pot,omitempty"` // a jar or a mix that is to be matched
}

func (t Target) lab(s Shelf) (colour.Lab, error) {
	if t.Lab != nil {
		return *t.Lab, nil
	}
	if t.Pot != "" {
		p, ok := s.Pot(t.Pot)
		if !ok || !p.Seen {
			return colour.Lab{}, measure.Refuse(
				"target.pot",
				"there is no such jar or mix, or it has no colour",
				"choose another",
			)
		}
		return p.Paint.Swatch.Lab(), nil
	}
	c, err := colour.Parse(t.Hex)
	if err != nil {
		return colour.Lab{}, measure.At("target.hex", err)
	}
	return c.Lab(), nil
}

// RecipeQuestion asks for the best mixes of what is owned.
type RecipeQuestion struct {
	Jars     []Jar     `json:"jars,omitempty"` // the workshop's when left out
	Mixes    []Mixture `json:"mixes,omitempty"`
	Target   Target    `json:"target"`
	Paints   int       `json:"maxPaints,omitempty"` // 3 when left out
	Parts    int       `json:"maxParts,omitempty"`  // 12 when left out
	Must     []string  `json:"must,omitempty"`      // jars
	Exclude  []string  `json:"exclude,omitempty"`
	Family   string    `json:"family,omitempty"`
	InStock  bool      `json:"inStock,omitempty"`
	Day      string    `json:"day,omitempty"`      // for what is ordered
	ML       float64   `json:"ml,omitempty"`       // that is needed, unthinned
	Thinner  float64   `json:"thinner,omitempty"`  // parts to one of paint; 0 as its family is sprayed
	Above    []Above   `json:"above,omitempty"`    // that will lie over it
	AtEnd    bool      `json:"atEnd,omitempty"`    // the target is how it shall look at the end
	White    string    `json:"white,omitempty"`    // jar that it is lightened with
	Scale    float64   `json:"scale,omitempty"`    // N of 1:N, for lightening
	Share35  float64   `json:"share35,omitempty"`  // of white at 1:35; 0.08 when left out
	Together bool      `json:"together,omitempty"` // paints of any carrier mix, as the person says
}

// RecipePart is one jar of a recipe.
type RecipePart struct {
	Jar   string `json:"jar"`
	Name  string `json:"name"`
	Hex   string `json:"hex"`
	Parts int    `json:"parts"`
	Drops int    `json:"drops"`           // for the amount
	Short bool   `json:"short,omitempty"` // the jar does not hold so much
}

// RecipeLine is a recipe as it is shown.
type RecipeLine struct {
	Parts      []RecipePart `json:"parts"`
	Hex        string       `json:"hex"`        // as it dries
	End        string       `json:"end"`        // as it looks at the end
	Difference float64      `json:"difference"` // ΔE00 to the target, where that is meant
	Words      string       `json:"words"`
	Family     string       `json:"family"`
	Drops      int          `json:"drops"`
	ML         float64      `json:"ml"`
	Thinner    int          `json:"thinnerDrops"`
	Becomes    []Becomes    `json:"becomes"`
}

// RecipeAnswer is what was found.
type RecipeAnswer struct {
	Target     string             `json:"target"`
	Beyond     bool               `json:"beyond,omitempty"` // no screen shows the target
	Recipes    []RecipeLine       `json:"recipes"`
	Preferred  int                `json:"preferred"`
	ByPaints   map[string]float64 `json:"byPaints"`
	Candidates int                `json:"candidates"`
	Computed   int                `json:"computed"`
	Like       []Like             `json:"like"`
	Why        measure.Why        `json:"why"`
}

// prepared is a question turned into a search.
func (q RecipeQuestion) prepared() (Wanted, []Jar, error) {
	shelf := Shelf{Jars: q.Jars, Mixes: q.Mixes}
	jars := mixable(q.Jars)
	jars = slices.DeleteFunc(jars, func(j Jar) bool {
		return q.Family != "" && j.Family != q.Family || q.InStock && !j.There(q.Day)
	})
	if len(jars) == 0 {
		return Wanted{}, nil, measure.Refuse("jars", "no jar on the shelf can be mixed for that",
			"enter your jars with their swatches, or ask for less")
	}
	w := Wanted{Paints: q.Paints, Parts: q.Parts, Must: indexOf(jars, q.Must), Exclude: indexOf(jars, q.Exclude)}
	if len(w.Must) < len(q.Must) {
		return w, nil, measure.Refuse("must", "one of them cannot be mixed, or is not in stock", "leave it out")
	}
	if w.Paints == 0 {
		w.Paints = 3
	}
	if w.Parts == 0 {
		w.Parts = 12
	}
	for _, j := range jars {
		p, _ := j.Paint()
		w.Shelf = append(w.Shelf, p.Pigment())
	}
	if !q.Together {
		w.Group = group(jars)
	}
	var err error
	if w.Target, err = q.Target.lab(shelf); err != nil {
		return w, nil, err
	}
	w.Over = Seen(colour.Matt)
	if q.AtEnd {
		w.Over, err = through(q.Above)
	}
	return w, jars, err
}

// AskRecipe answers it; stop breaks it off.
func AskRecipe(q RecipeQuestion, stop func() bool) (RecipeAnswer, error) {
	w, jars, err := q.prepared()
	if err != nil {
		return RecipeAnswer{}, err
	}
	w.Stop = stop
	found, err := Search(w)
	if err != nil {
		return RecipeAnswer{}, err
	}
	target, beyond := w.Target.XYZ().RGB()
	out := RecipeAnswer{
		Target: target.Hex(), Beyond: beyond, Recipes: []RecipeLine{}, ByPaints: map[string]float64{},
		Candidates: found.Candidates, Computed: found.Computed, Like: Shelf{Jars: q.Jars, Mixes: q.Mixes}.likest(target, 3),
		Why: measure.Because("least ΔE00 of all recipes in whole parts, mixed by Kubelka–Munk", []string{
			fmt.Sprintf("%d jars that mix, up to %d of them in %d parts", len(jars), w.Paints, w.Parts),
			fmt.Sprintf(
				"%d recipes: %d were computed, all others are proven to be further off",
				found.Candidates,
				found.Computed,
			),
		}),
	}
	for k, d := range found.ByPaints {
		out.ByPaints[fmt.Sprint(k)] = d
	}
	all, err := through(q.Above)
	if err != nil {
		return out, err
	}
	list := found.Best
	at := slices.IndexFunc(list, func(r Recipe) bool { return slices.Equal(r.Parts, found.Preferred.Parts) })
	if at < 0 && found.Preferred.Parts != nil {
		list, at = append(slices.Clone(list), found.Preferred), len(list)
	}
	out.Preferred = max(at, 0)
	for _, r := range list {
		out.Recipes = append(out.Recipes, q.line(r, w, jars, &all))
	}
	return out, nil
}

// line shows a recipe.
func (q RecipeQuestion) line(r Recipe, w Wanted, jars []Jar, all *Over) RecipeLine {
	p := r.Mixed(w.Shelf)
	matt := Seen(colour.Matt)
	dry, _ := matt.Of(p.Infinite()).XYZ().RGB()
	end, _ := all.Of(p.Infinite()).XYZ().RGB()
	out := RecipeLine{
		Parts: []RecipePart{}, Hex: dry.Hex(), End: end.Hex(), Difference: r.Difference, Words: Words(r.Difference),
		Becomes: becomes(p, q.Above),
	}
	if white, ok := (Shelf{Jars: q.Jars}).Jar(q.White); ok && q.Scale > 0 {
		if wp, ok := white.Paint(); ok {
			share := q.Share35
			if share == 0 {
				share = UsualLightening
			}
			share = WhiteShare(share, q.Scale)
			light := becomes(Lightened(p, wp.Pigment(), share), nil)[0]
			light.Under = fmt.Sprintf("lightened for 1:%g with %.0f %% of white", q.Scale, 100*share)
			light.Difference = colour.Difference(matt.Lab(p.Infinite()), colour.Of(light.Hex).Lab())
			out.Becomes = append(out.Becomes, light)
		}
	}
	// Whole drops of each in the same ratio, for at least as much as is needed.
	times := max(1, int(math.Ceil(q.ML/Drop/float64(r.All())-1e-9)))
	for i, n := range r.Parts {
		if n == 0 {
			continue
		}
		if out.Family == "" {
			out.Family = jars[i].Family
		}
		part := RecipePart{Jar: jars[i].ID, Name: jars[i].Said(), Hex: jars[i].Hex, Parts: n, Drops: n * times}
		part.Short = float64(part.Drops)*Drop > jars[i].Left+1e-9
		out.Drops += part.Drops
		out.Parts = append(out.Parts, part)
	}
	out.ML = float64(out.Drops) * Drop
	thinner := q.Thinner
	if s, ok := AirbrushFor(out.Family); ok && thinner == 0 {
		thinner = s.Thin.Usual()
	}
	out.Thinner = drops(out.ML * thinner)
	slices.SortStableFunc(out.Parts, func(a, b RecipePart) int { return b.Parts - a.Parts })
	return out
}
