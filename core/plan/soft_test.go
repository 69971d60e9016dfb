package plan_test

import (
	"slices"
	"strings"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/core/relief"
	"cinderpath/core/strata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Earth from a mix that is too small for its area and depth and a fifth is mixed in one batch and
// tried first (W21); a larger batch, a trial or the modeller's word settles it.
func TestEarthIsMixedInOneBatch(t *testing.T) {
	w, b := shelved(t)
	mud := strata.Mud.Fresh()
	mud.ID, mud.Name, mud.Jar, mud.Zones = "mud", "Mud", "earth", []string{"lower"}
	b.Layers = append(slices.Clone(b.Layers), mud)
	mix := paint.Mixture{
		ID: "earth", Name: "pale earth", Parts: []paint.Part{{Jar: "green", Drops: 1}, {Jar: "grey", Drops: 1}},
	}
	var d plan.Deriver
	rules := func(b document.Build, left float64) (out []strata.Finding) {
		mix.Left = left
		w.Paint.Mixes = []paint.Mixture{mix}
		plans, err := d.Plans(w, []document.Item{{Build: b}}, monday)
		require.NoError(t, err)
		for _, f := range plans[0].Findings {
			if f.Layer == "mud" && (f.Rule == "W21" || f.Rule == "P9") {
				out = append(out, f)
			}
		}
		return out
	}
	found := rules(b, 0.1)
	require.Len(t, found, 1, "one of the two speaks of it")
	assert.Equal(t, "W21", found[0].Rule)
	assert.Contains(t, found[0].Reason, "0.1 ml are kept")
	assert.Empty(t, rules(b, 500))
	rules(b, 0.1)
	for _, m := range found[0].Mends {
		edits := []document.Edit{{Op: document.ApplyMend, Finding: found[0].ID, Mend: m.ID}}
		next, err := d.Apply(w, document.Item{Build: b}, edits, ids(), monday)
		require.NoError(t, err, m.Label)
		assert.Empty(t, rules(next, 0.1), m.Label)
	}
}

// What is fitted waits until oil elsewhere on the model can be touched (W15).
func TestPartsWaitForSoftOil(t *testing.T) {
	b := boxed(t)
	tasks, err := stepsOf()(b)
	require.NoError(t, err)
	soft := func(tasks []path.Task) (n int) {
		for _, x := range tasks {
			for _, a := range x.After {
				if a.Rule == "W15" {
					assert.True(t, strings.HasPrefix(x.ID, "fit:"), x.Title)
					assert.Positive(t, float64(a.Wait))
					n++
				}
			}
		}
		return n
	}
	before := soft(tasks)
	dots := strata.Dots.Fresh()
	dots.ID, dots.Zones = "dots", []string{"turret"}
	at := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.Kind == strata.Mud })
	b.Layers = slices.Insert(slices.Clone(b.Layers), at, dots)
	tasks, err = stepsOf()(b)
	require.NoError(t, err)
	assert.Greater(t, soft(tasks), before)
}

// Detail that is made larger than life, because it looks best so, is drawn wider, told with its factor
// and written down at the end; what is engraved stays as it is.
func TestExaggerationIsRecorded(t *testing.T) {
	b := tank(t)
	var d plan.Deriver
	small := func(b document.Build) map[string]string {
		drawing, err := d.Drawing(b)
		require.NoError(t, err)
		out := map[string]string{}
		for _, l := range drawing.Small {
			out[l.ID] = l.Words
		}
		return out
	}
	record := func(b document.Build) []string {
		p := planOf(t, b)
		i := slices.IndexFunc(p.Steps, func(s plan.Step) bool { return s.Kind == "record" })
		require.GreaterOrEqual(t, i, 0)
		return p.Steps[i].Told
	}
	asIs := small(b)
	life := b.Details()
	assert.NotContains(t, strings.Join(record(b), " "), "as large as life")
	b.Schools = map[string]string{document.SchoolAccuracy: document.LooksBest}
	require.NoError(t, b.Check())
	larger := small(b)
	require.Len(t, larger, len(asIs))
	told := 0
	for i, raised := range b.Raised() {
		was, is := life[i].Filled(), raised.Filled()
		if words, lies := larger[raised.ID]; lies && was.Kind != relief.Joint {
			assert.Contains(t, words, "1.5 times as large as life")
			told++
		}
		want := was.SizeMM * document.Exaggeration
		if was.Kind == relief.Joint {
			want = was.SizeMM
		}
		assert.InDelta(t, want, is.SizeMM, 1e-9, raised.ID)
		assert.Equal(t, life[i].SizeMM, b.Details()[i].SizeMM, "what the build says stays as it is")
	}
	assert.Positive(t, told)
	assert.Contains(t, strings.Join(record(b), " "), "raised detail is made 1.5 times as large as life")
}

// Printed views show bolts, rivets and joints, which lie under none of the drawing's edges.
func TestPrintedViewsShowSmallRelief(t *testing.T) {
	bare := tank(t)
	bare.Layers = nil
	var d plan.Deriver
	shots := func(b document.Build) []plan.Portrait {
		plans, err := d.Plans(workshop(), []document.Item{{Build: b}}, monday)
		require.NoError(t, err)
		seen, err := d.Portraits(plans[0].Steps[0].Look)
		require.NoError(t, err)
		return seen
	}
	with := shots(bare)
	bare.Small = &[]relief.Detail{}
	without := shots(bare)
	require.Len(t, with, len(form.Sides))
	for i := range with {
		darker := 0
		box := with[i].Image.Bounds()
		require.Equal(t, box, without[i].Image.Bounds())
		for y := range box.Dy() {
			for x := range box.Dx() {
				r, _, _, _ := with[i].Image.At(x, y).RGBA()
				was, _, _, _ := without[i].Image.At(x, y).RGBA()
				if r < was {
					darker++
				}
			}
		}
		assert.Greater(t, darker, 100, with[i].Side)
	}
}
