package plan_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/kit"
	"cinderpath/core/marking"
	"cinderpath/core/plan"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
)

// wintered is a tank on which a winter wash was brushed, as its school has it.
func wintered(t *testing.T, school string) (document.Build, []strata.Layer) {
	b := tank(t)
	b.Schools = map[string]string{document.SchoolWornColour: school}
	var d plan.Deriver
	after, err := d.Apply(workshop(), document.Item{Build: b}, []document.Edit{{Op: document.Temporary}}, other(), monday)
	require.NoError(t, err)
	at := slices.IndexFunc(after.Layers, strata.Layer.Temporary)
	require.GreaterOrEqual(t, at, 0)
	return after, after.Layers[at-1:]
}

// A winter wash comes with what wears it, over scheme and markings and under all wear, and harms nothing.
func TestAWinterWashComesWithWhatWearsIt(t *testing.T) {
	for _, c := range []struct {
		school string
		kinds  []strata.Kind
	}{
		{"chipping coat", []strata.Kind{strata.ChippingCoat, strata.Colour, strata.ChippingWork}},
		{document.RubbedBack, []strata.Kind{strata.Clear, strata.Colour, strata.Rubbed}},
		{document.SprayedThin, []strata.Kind{strata.Clear, strata.Colour}},
	} {
		b, from := wintered(t, c.school)
		for i, k := range c.kinds {
			assert.Equal(t, k, from[i].Kind, c.school)
		}
		markings := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.Kind == strata.Decals })
		wash := slices.IndexFunc(b.Layers, strata.Layer.Temporary)
		worn := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.Kind == strata.Wash })
		assert.Greater(t, wash, markings)
		assert.Less(t, wash, worn)
		assert.False(t, b.Layers[wash].Covers("lower.left"), "the lower hull is left out")
		for _, f := range findingsOf(t, b) {
			assert.NotEqual(t, rule.Stop, f.Severity, "%s: %s", c.school, f.Title)
		}
		sound(t, planOf(t, b))
		var d plan.Deriver
		_, err := d.Apply(workshop(), document.Item{Build: b}, []document.Edit{{Op: document.Temporary}}, other(), monday)
		require.ErrorContains(t, err, "temporary paint on it already")
	}
}

// It is taken off again with what came with it, by whichever way it is known: its technique, or a chipping coat
// over other paint. One that is on the model stays.
func TestAWinterWashIsTakenOffAgain(t *testing.T) {
	for _, school := range []string{"chipping coat", document.RubbedBack, document.SprayedThin} {
		b, _ := wintered(t, school)
		wash := slices.IndexFunc(b.Layers, strata.Layer.Temporary)
		b.Layers[wash].Technique = ""
		known := school == "chipping coat" // laid by hand it is known by what lies under it
		assert.Equal(t, known, planOf(t, b).Temporary != "", school)
		if !known {
			b.Layers[wash].Technique = strata.Whitewash
		}
		assert.Equal(t, b.Layers[wash].ID, planOf(t, b).Temporary, school)
		var d plan.Deriver
		off := []document.Edit{{Op: document.Temporary, Text: document.Off}}
		after, err := d.Apply(workshop(), document.Item{Build: b}, off, other(), monday)
		require.NoError(t, err)
		for _, l := range after.Layers {
			assert.NotContains(t, []strata.Kind{strata.ChippingCoat, strata.ChippingWork, strata.Rubbed}, l.Kind, school)
			assert.False(t, l.Temporary(), school)
			assert.Equal(t, l.AsTyped(), l, "nothing that was filled in is kept")
		}
		_, err = d.Apply(workshop(), document.Item{Build: after}, off, other(), monday)
		require.ErrorContains(t, err, "no temporary paint")
		log := doneUpTo(t, b, func(s plan.Step) bool { return s.Stage == "Earth" })
		_, err = d.Apply(workshop(), document.Item{Build: b, Log: log}, off, other(), monday)
		require.ErrorContains(t, err, "on the model already")
	}
}

// What is under a winter wash is seen after it as one's school has it: a marking is left free with its field,
// painted round closely, or painted over thinly.
func TestMarkingsUnderAWinterWash(t *testing.T) {
	b, _ := wintered(t, "chipping coat")
	b.Kit.Decals = []kit.Decal{{
		ID: "d", Name: "sign", Zone: "hull.left", SizeMM: 300,
		Drawn:  &marking.Drawing{Shape: marking.Ring, Hex: "#c03020"},
		Places: []marking.Place{placeOn(t, b, "hull.left")},
	}}
	white := func(school string) float64 {
		b.Schools = map[string]string{document.SchoolUnderWash: school}
		wash := b.Layers[slices.IndexFunc(b.Layers, strata.Layer.Temporary)]
		var d plan.Deriver
		all, err := d.LandingOf(workshop(), b)
		require.NoError(t, err)
		at := slices.IndexFunc(all.Layers, func(l plan.LandedLayer) bool { return l.ID == wash.ID })
		return all.Layers[at].Zones["hull.left"].Film
	}
	left, round, over := white("left clear"), white(document.PaintedRound), white(document.OverThinly)
	assert.Less(t, left, round)
	assert.Less(t, round, over)
}

func placeOn(t *testing.T, b document.Build, name string) marking.Place {
	panels, err := form.Panels(b.Body, form.Running{})
	require.NoError(t, err)
	best := slices.MaxFunc(panels, func(p, q *form.Panel) int {
		area := func(p *form.Panel) int {
			if p.Zone != name {
				return 0
			}
			return int(p.Area())
		}
		return area(p) - area(q)
	})
	x0, y0, x1, y1 := best.FlatBox()
	return marking.Place{Zone: name, At: best.Space((x0+x1)/2, (y0+y1)/2)}
}

// other ids than those that a build begins with.
func other() func() string {
	n := 0
	return func() string { n++; return fmt.Sprintf("winter-%d", n) }
}
