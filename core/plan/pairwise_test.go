package plan_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/kit"
	"cinderpath/core/paint"
	"cinderpath/core/plan"
	"cinderpath/core/strata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// everything is a vehicle on which every school has something to say.
func everything(t *testing.T) document.Build {
	b := boxed(t)
	for _, k := range []strata.Kind{
		strata.Lighter, strata.Highlight, strata.DryBrush, strata.Chips, strata.Filter, strata.Rust, strata.Splash, strata.Pigment,
	} {
		if slices.ContainsFunc(b.Layers, func(l strata.Layer) bool { return l.Kind == k }) {
			continue
		}
		l := k.Fresh()
		l.ID = "of " + string(k)
		at := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.Kind == strata.Mud })
		b.Layers = slices.Insert(b.Layers, max(at, 0), l)
	}
	b.Wheels = slices.Clone(b.Wheels)
	for i := range b.Wheels {
		if b.Wheels[i].Rubber() {
			b.Wheels[i].Hub = 0.75 * b.Wheels[i].Radius
		}
	}
	b.Kit.Parts = append(slices.Clone(b.Kit.Parts),
		kit.Part{ID: "spade", Name: "spade", Material: kit.Plastic, Assembly: "hull", Kind: "tool"},
		kit.Part{ID: "axe", Name: "axe", Material: kit.Plastic, Assembly: "hull", Kind: "tool"},
	)
	return b
}

// where are the vehicles on which the answers of a school can differ: on one of them at least.
func where(t *testing.T, school string) []document.Build {
	b := everything(t)
	var d plan.Deriver
	edited := func(b document.Build, e document.Edit) document.Build {
		next, err := d.Apply(workshop(), document.Item{Build: b}, []document.Edit{e}, other(), monday)
		require.NoError(t, err)
		return next
	}
	switch school {
	case document.SchoolFilter: // of one colour, and of several
		one := b
		one.Scheme.Colours = b.Scheme.Colours[:1]
		return []document.Build{b, one}
	case document.SchoolHidden:
		return []document.Build{
			edited(b, document.Edit{Op: document.SetSchool, School: document.SchoolDisplay, Text: document.OnABase}),
		}
	case document.SchoolUnderWash, document.SchoolWornColour:
		return []document.Build{edited(b, document.Edit{Op: document.Temporary})}
	case document.SchoolEarth: // with a tone after the paste
		damp := strata.Splash.Fresh()
		damp.ID = "damp"
		b.Layers = append(slices.Clone(b.Layers), damp)
	case document.SchoolUndertone: // thin enough to let it show
		i := slices.IndexFunc(b.Layers, strata.Layer.IsScheme)
		b.Layers[i].Coats = 1
		b.Scheme.Colours = slices.Clone(b.Scheme.Colours)
		b.Scheme.Colours[0].Jar = "thin"
	}
	return []document.Build{b}
}

// signature is what a plan says to whoever works by it; looks is what it shows.
func signature(p plan.Plan) (said, looks string) {
	var out []string
	for _, s := range p.Steps {
		out = append(out, fmt.Sprint(s.ID, s.Title, s.Minutes, s.Product, s.Hex, s.Place, s.Told, s.Airbrush))
		for _, a := range s.After {
			out = append(out, fmt.Sprint(a.From, a.Severity))
		}
	}
	return strings.Join(out, "\n"), p.Steps[len(p.Steps)-1].Look
}

// Any two answers of a school differ: in steps, their order, what stops, product, minutes or in how the
// vehicle looks; and the difference is told in words.
func TestAnswersOfASchoolDiffer(t *testing.T) {
	t.Parallel()
	var d plan.Deriver // what does not change is derived once
	for _, s := range document.Schools() {
		t.Run(s.ID, func(t *testing.T) {
			bs := where(t, s.ID)
			w := workshop()
			w.Paint.Jars = []paint.Jar{{
				ID: "thin", Name: "thin yellow", Family: "waterborne_acrylic", Hex: "#e8c84a", Hiding: 0.6,
				State: paint.Fine, Volume: 20, Left: 15,
			}}
			plans := make([][]plan.Plan, len(s.Choices))
			for i, answer := range s.Choices {
				for _, b := range bs {
					edits := []document.Edit{{Op: document.SetSchool, School: s.ID, Text: answer}}
					next, err := d.Apply(w, document.Item{Build: b}, edits, other(), monday)
					require.NoError(t, err)
					made, err := d.Plans(w, []document.Item{{Build: next}}, monday)
					require.NoError(t, err)
					plans[i] = append(plans[i], made[0])
				}
			}
			for i, some := range plans {
				for k, others := range plans[:i] {
					if strings.HasPrefix(s.Choices[k], "the quicker") {
						continue // it is one of the others
					}
					differ, told := false, false
					for n, one := range some {
						a, x := signature(one)
						c, y := signature(others[n])
						differ = differ || a != c || x != y
						told = told || len(plan.Differences(others[n], one)) > 0
					}
					assert.True(t, differ, "%q and %q are the same plan", s.Choices[k], s.Choices[i])
					assert.True(t, told, "%q and %q: no word tells them apart", s.Choices[k], s.Choices[i])
				}
			}
		})
	}
}
