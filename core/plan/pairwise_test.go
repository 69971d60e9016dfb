package plan_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/kit"
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

// signature is what a plan says to whoever works by it; looks is what it shows.
func signature(p plan.Plan) (said, looks string) {
	var out []string
	for _, s := range p.Steps {
		out = append(out, fmt.Sprint(s.ID, s.Title, s.Minutes, s.Product, s.Hex, s.Place, s.Told, s.Airbrush))
	}
	return strings.Join(out, "\n"), p.Steps[len(p.Steps)-1].Look
}

// Any two answers of a school differ: in steps, their order, product, minutes or in how the vehicle looks;
// and the difference is told in words.
func TestAnswersOfASchoolDiffer(t *testing.T) {
	b := everything(t)
	for _, s := range document.Schools() {
		t.Run(s.ID, func(t *testing.T) {
			t.Parallel()
			var d plan.Deriver
			var plans []plan.Plan
			for _, answer := range s.Choices {
				edits := []document.Edit{{Op: document.SetSchool, School: s.ID, Text: answer}}
				next, err := d.Apply(workshop(), document.Item{Build: b}, edits, ids(), monday)
				require.NoError(t, err)
				plans = append(plans, planOf(t, next))
			}
			for i, one := range plans {
				for k, other := range plans[:i] {
					a, x := signature(one)
					c, y := signature(other)
					assert.True(t, a != c || x != y, "%q and %q are the same plan", s.Choices[k], s.Choices[i])
					assert.True(t, len(plan.Changes(other, one)) > 0, "%q and %q: no word tells them apart", s.Choices[k], s.Choices[i])
				}
			}
		})
	}
}
