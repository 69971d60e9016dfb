package document_test

import (
	"fmt"
	"slices"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// stacked is a build with a layer of every kind that wears it, in working order.
func stacked() document.Build {
	b := document.Build{Scheme: scheme.Pattern{Colours: []scheme.Colour{{Name: "green", Hex: "#66704f"}}}}
	for _, k := range []strata.Kind{
		strata.Prime, strata.Colour, strata.Clear, strata.Decals, strata.Clear, strata.Wash, strata.Chips, strata.DryBrush,
		strata.Highlight, strata.Rust, strata.Dust, strata.Splash, strata.Mud, strata.Pigment,
	} {
		l := k.Fresh()
		l.ID = fmt.Sprint(k, len(b.Layers))
		if k == strata.Colour {
			l.Hex = ""
		}
		b.Layers = append(b.Layers, l)
	}
	return b
}

func answered(t *testing.T, b document.Build, school, answer string, laid ...strata.Kind) document.Build {
	t.Helper()
	after, err := document.Edited(b, document.Edit{Op: document.SetSchool, School: school, Text: answer},
		document.Standing{Laid: func(l strata.Layer) bool { return slices.Contains(laid, l.Kind) }})
	require.NoError(t, err)
	return after
}

func layerOf(t *testing.T, b document.Build, k strata.Kind) strata.Layer {
	t.Helper()
	i := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.Kind == k })
	require.GreaterOrEqual(t, i, 0, k)
	return b.Layers[i]
}

// Every school of wear and earth changes how its layers are worked: family, technique, colour, amount, or
// whether they are there; what was laid stays.
func TestSchoolsChangeHowLayersAreWorked(t *testing.T) {
	for _, c := range []struct {
		school, answer string
		kind           strata.Kind
	}{
		{document.SchoolWash, "all over", strata.Wash},
		{document.SchoolWashTone, "black", strata.Wash},
		{document.SchoolWashTone, "a darker tone of the ground colour", strata.Wash},
		{document.SchoolChipping, "lighter paint only", strata.Chips},
		{document.SchoolChipMeans, "brush", strata.Chips},
		{document.SchoolChipMeans, "none", strata.Chips},
		{document.SchoolDryBrush, "never", strata.DryBrush},
		{document.SchoolDust, "acrylic, many thin coats", strata.Dust},
		{document.SchoolDust, "oil, blended", strata.Dust},
		{document.SchoolDust, "pigment, fixed", strata.Dust},
		{document.SchoolDust, "airbrushed mist", strata.Dust},
		{document.SchoolDust, "pastel", strata.Dust},
		{document.SchoolMud, "acrylic texture", strata.Mud},
		{document.SchoolMud, "pigment, flicked", strata.Mud},
		{document.SchoolMud, "plaster and oil", strata.Mud},
		{document.SchoolPigment, "acrylic thinner", strata.Pigment},
		{document.SchoolPigment, "acrylic-bound", strata.Pigment},
		{document.SchoolSplashes, "airbrush spatter", strata.Splash},
		{document.SchoolSplashes, "blown off a brush", strata.Splash},
		{document.SchoolHighlights, "enamel, wiped", strata.Highlight},
		{document.SchoolHighlights, "dry brush", strata.Highlight},
		{document.SchoolHighlights, "none", strata.Highlight},
		{document.SchoolRust, "heavy", strata.Rust},
		{document.SchoolRust, "none", strata.Rust},
	} {
		b := stacked()
		assert.NotEqual(t, b.Layers, answered(t, b, c.school, c.answer).Layers, "%s: %s", c.school, c.answer)
		assert.Equal(t, b.Layers, answered(t, b, c.school, c.answer, c.kind).Layers, "%s: %s, laid", c.school, c.answer)
		for _, l := range answered(t, b, c.school, c.answer).Layers {
			require.NoError(t, l.Check(), "%s: %s", c.school, c.answer)
		}
	}
}

func TestRustByStorySparingAndHeavy(t *testing.T) {
	b := stacked()
	usual, _ := layerOf(t, b, strata.Rust).Worked()
	heavy, _ := layerOf(t, answered(t, b, document.SchoolRust, "heavy"), strata.Rust).Worked()
	sparing := answered(t, b, document.SchoolRust, "sparing")
	some, _ := layerOf(t, sparing, strata.Rust).Worked()
	assert.InDelta(t, 2*usual.Amount, heavy.Amount, 1e-9)
	assert.InDelta(t, usual.Amount/2, some.Amount, 1e-9)
	assert.Nil(t, layerOf(t, answered(t, sparing, document.SchoolRust, "by story"), strata.Rust).Amount)
}

// Schools of order and depth: chips move about the decals, dark cores and a chipping coat come and go, mud is
// coloured after its volume, earth goes from light to dark or back.
func TestSchoolsOfOrderAndDepth(t *testing.T) {
	rank := func(b document.Build, k strata.Kind) int {
		return slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.Kind == k })
	}
	b := stacked()
	first := answered(t, b, document.SchoolChipDecals, "chips before decals")
	assert.Less(t, rank(first, strata.Chips), rank(first, strata.Decals))
	assert.Equal(t, strata.Clear, first.Layers[rank(first, strata.Decals)-1].Kind, "the gloss stays under the decals")
	back := answered(t, first, document.SchoolChipDecals, "chips over decals")
	assert.Greater(t, rank(back, strata.Chips), rank(back, strata.Decals))

	cored := answered(t, b, document.SchoolChipping, "lighter, then dark core")
	assert.Len(t, cored.Layers, len(b.Layers)+1)
	rusty := answered(t, cored, document.SchoolChipping, "rust in the deepest")
	assert.Len(t, rusty.Layers, len(cored.Layers), "the cores are there already: they turn to rust")
	assert.Len(t, answered(t, rusty, document.SchoolChipping, "lighter paint only").Layers, len(b.Layers))

	coat := answered(t, b, document.SchoolChipMeans, "chipping coat")
	colour := rank(coat, strata.Colour)
	assert.Equal(t, strata.ChippingCoat, coat.Layers[colour-1].Kind)
	assert.Equal(t, strata.ChippingWork, coat.Layers[colour+1].Kind)
	assert.Equal(t, -1, rank(coat, strata.Chips))

	b.Body.Hulls = []form.Hull{{ID: "lower"}, {ID: "hull"}}
	two := answered(t, b, document.SchoolWashTones, "light in some recesses, dark in others")
	wash := rank(two, strata.Wash)
	assert.Equal(t, []string{"hull"}, two.Layers[wash].Zones)
	assert.Equal(t, []string{"lower", "gear"}, two.Layers[wash+1].Zones)
	assert.NotEqual(t, two.Layers[wash].Hex, two.Layers[wash+1].Hex)
	one := answered(t, two, document.SchoolWashTones, "one")
	assert.Len(t, one.Layers, len(b.Layers))
	assert.Empty(t, one.Layers[wash].Zones, "everywhere again")

	blended := answered(t, b, document.SchoolMudColour, "volume first, colour after")
	mud := rank(blended, strata.Mud)
	assert.Equal(t, "mud_blend", blended.Layers[mud+1].Technique)
	assert.Len(t, answered(t, blended, document.SchoolMudColour, "coloured paste").Layers, len(b.Layers))

	dark := answered(t, b, document.SchoolEarthTones, "dark to light")
	light := answered(t, b, document.SchoolEarthTones, "light to dark")
	for _, earth := range []document.Build{dark, light} {
		for i := range earth.Layers { // the colours are the same ones, in another order
			assert.True(t, slices.ContainsFunc(b.Layers, func(l strata.Layer) bool { return l.Hex == earth.Layers[i].Hex }))
		}
	}
	assert.Equal(t, layerOf(t, dark, strata.Dust).Hex, layerOf(t, light, strata.Mud).Hex)
	assert.Equal(t, layerOf(t, light, strata.Dust).Hex, layerOf(t, dark, strata.Mud).Hex)
}

// Shading that is a layer of its own is worked as one answers, or left out; a primer tints, and no more
// once one answers otherwise.
func TestUndertonesAreWorkedAsOneAnswers(t *testing.T) {
	b := stacked()
	shade := strata.Undertone.Fresh()
	shade.ID, shade.Technique = "shade", "undertone_middle"
	b.Layers = slices.Insert(b.Layers, 1, shade)
	plain := layerOf(t, b, strata.Prime).Hex
	above := answered(t, b, document.SchoolUndertone, document.FromAbove)
	assert.Equal(t, "undertone_sky", layerOf(t, above, strata.Undertone).Technique)
	same := answered(t, b, document.SchoolUndertone, document.FromAbove, strata.Undertone)
	assert.Equal(t, "undertone_middle", layerOf(t, same, strata.Undertone).Technique, "it is laid")
	tints := answered(t, b, document.SchoolUndertone, document.TintingPrimer)
	assert.False(t, slices.ContainsFunc(tints.Layers, func(l strata.Layer) bool { return l.Kind == strata.Undertone }))
	assert.NotEqual(t, plain, layerOf(t, tints, strata.Prime).Hex)
	back := answered(t, tints, document.SchoolUndertone, document.NoUndertone)
	assert.Equal(t, plain, layerOf(t, back, strata.Prime).Hex)
}
