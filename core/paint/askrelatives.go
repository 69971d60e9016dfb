package paint

import (
	"cinderpath/core/measure"
	"fmt"
)

// RelativesQuestion asks for lighter and darker steps of a mix, faded and shadowed ones.
type RelativesQuestion struct {
	RecipeQuestion

	Step float64 `json:"step,omitempty"` // ΔL of one; 6 when left out
}

// Relative is one of them with its best recipe.
type Relative struct {
	Name   string     `json:"name"`
	Target string     `json:"target"`
	Recipe RecipeLine `json:"recipe"`
}

// relatives are steps of L, and how much of the chroma each keeps: a highlight keeps its hue
// and does not turn chalky.
var relatives = []struct {
	name   string
	steps  float64
	chroma float64
}{
	{"three steps lighter", 3, 1}, {"two steps lighter", 2, 1}, {"one step lighter", 1, 1}, {"faded", 1, 0.7},
	{"shadowed", -1, 0.9}, {"one step darker", -1, 1}, {"two steps darker", -2, 1}, {"three steps darker", -3, 1},
}

// AskRelatives answers it.
func AskRelatives(q RelativesQuestion, stop func() bool) ([]Relative, error) {
	w, _, err := q.prepared()
	if err != nil {
		return nil, err
	}
	step := q.Step
	if step == 0 {
		step = 6
	}
	if !(step >= 1 && step <= 20) {
		return nil, measure.Refuse("step", fmt.Sprintf("steps of L %g", step), "give 1 to 20")
	}
	out := []Relative{}
	for _, r := range relatives {
		lab := w.Target
		lab[0] += r.steps * step
		lab[1], lab[2] = lab[1]*r.chroma, lab[2]*r.chroma
		if lab[0] < 4 || lab[0] > 97 {
			continue // there is no such paint
		}
		one := q.RecipeQuestion
		one.Target = Target{Lab: &lab}
		a, err := AskRecipe(one, stop)
		if err != nil {
			return nil, err
		}
		if len(a.Recipes) > 0 {
			out = append(out, Relative{r.name, a.Target, a.Recipes[a.Preferred]})
		}
	}
	return out, nil
}
