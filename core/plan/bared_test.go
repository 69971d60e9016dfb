package plan_test

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"slices"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/core/strata"
	"cinderpath/core/vehicle"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// ends is what a build looks like after its last step, from a side.
func ends(t *testing.T, b document.Build, side form.Side) image.Image {
	var d plan.Deriver
	plans, err := d.Plans(workshop(), []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	data, err := d.Picture(plan.PictureQuestion{Look: plans[0].Last(), Side: side, Pixel: 1})
	require.NoError(t, err)
	img, err := png.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	return img
}

// each compares pictures point by point.
func each(a image.Image, f func(x, y int)) {
	r := a.Bounds()
	for y := r.Min.Y; y < r.Max.Y; y++ {
		for x := r.Min.X; x < r.Max.X; x++ {
			f(x, y)
		}
	}
}

func light(c color.Color) int {
	r, g, b, _ := c.RGBA()
	return int(r>>8 + g>>8 + b>>8)
}

// Earth that is rubbed off bares what lay there before any earth did, with all that went over it
// since; where nothing rubs, the earth stays.
func TestEarthIsRubbedOffDownToWhatLayBelow(t *testing.T) {
	all := func(v float64) *float64 { return &v }
	dust := strata.Layer{Kind: strata.Dust, Name: "Dust", Amount: all(40), Technique: "dust_stipple", Hex: "#d8c8a0"}
	pigment := strata.Layer{Kind: strata.Pigment, Name: "Earth", Amount: all(20), Hex: "#604828"}
	rub := strata.Layer{Kind: strata.RubClean, Amount: all(0.9)}
	clean := ends(t, worn(t), form.Left)
	dirty := ends(t, worn(t, dust, pigment), form.Left)
	rubbed := ends(t, worn(t, dust, pigment, rub), form.Left)
	bared, left := 0, 0
	each(clean, func(x, y int) {
		if clean.At(x, y) == dirty.At(x, y) {
			return
		}
		switch rubbed.At(x, y) {
		case clean.At(x, y):
			bared++
		case dirty.At(x, y):
			left++
		}
	})
	assert.Greater(t, bared, 20, "rubbed down to the paint")
	assert.Greater(t, left, 200, "elsewhere it lies as it lay")
}

// Paint that hands rub thin lets the ground shine through, and nothing else changes: the colour here
// is darker than its primer.
func TestPaintRubbedThinLetsTheGroundThrough(t *testing.T) {
	amount := 6.0
	before, after := worn(t), worn(t, strata.Layer{Kind: strata.Rubbed, Amount: &amount})
	for _, b := range []*document.Build{&before, &after} {
		b.Scheme.Colours = slices.Clone(b.Scheme.Colours[:1])
		b.Scheme.Colours[0].Hex = "#303428"
		i := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.Kind == strata.Prime })
		b.Layers[i].Hex = "#e8e8e4"
	}
	was, is := ends(t, before, form.Top), ends(t, after, form.Top)
	lighter, darker := 0, 0
	each(was, func(x, y int) {
		switch d := light(is.At(x, y)) - light(was.At(x, y)); {
		case d > 1:
			lighter++
		case d < -1:
			darker++
		}
	})
	assert.Greater(t, lighter, 50)
	assert.Zero(t, darker)
}

// Shading that is a layer of its own is laid before the colour, shows through it where it is thin, and
// takes the place of the shading that the path would put there itself.
func TestShadingIsALayerOfItsOwn(t *testing.T) {
	plain := worn(t)
	shaded := worn(t)
	l := strata.Undertone.Fresh()
	l.ID, l.Technique = "under", "undertone_dark"
	shaded.Layers = slices.Insert(slices.Clone(shaded.Layers), 1, l)
	for _, b := range []*document.Build{&plain, &shaded} {
		b.Layers = slices.Clone(b.Layers)
		i := slices.IndexFunc(b.Layers, strata.Layer.IsScheme)
		b.Layers[i].Coats = 1
	}
	tasks, err := stepsOf()(shaded)
	require.NoError(t, err)
	at := func(kind string) int {
		return slices.IndexFunc(tasks, func(x path.Task) bool { return x.Kind == kind })
	}
	assert.Negative(t, at("shade"), "there is one shading, not two")
	under, colour := at("undertone"), at("colour")
	require.GreaterOrEqual(t, under, 0)
	assert.Less(t, under, colour)
	was, is := ends(t, plain, form.Left), ends(t, shaded, form.Left)
	darker := 0
	each(was, func(x, y int) {
		if light(is.At(x, y)) < light(was.At(x, y)) {
			darker++
		}
	})
	assert.Greater(t, darker, 100)
}

// Each technique of the table lands somewhere on a tank that has what others go by below it.
func TestEveryTechniqueLands(t *testing.T) {
	layers := []strata.Layer{
		{Kind: strata.Decals, Name: "Decals"},
		{Kind: strata.Chips, Name: "sponge", Technique: "chips_sponge"},
		{Kind: strata.Chips, Name: "core", Technique: "chips_core"},
		{Kind: strata.Mud, Name: "Mud"},
		{Kind: strata.Pigment, Name: "Pigment"},
	}
	for _, x := range strata.Techniques() {
		layers = append(layers, strata.Layer{Kind: x.Kinds[0], Name: x.ID, Technique: x.ID})
	}
	b := worn(t, layers...)
	panels, err := vehicle.Panels(b)
	require.NoError(t, err)
	deck := panels[slices.IndexFunc(panels, func(p *form.Panel) bool { return p.Zone == "hull.deck" })]
	x0, y0, x1, y1 := deck.FlatBox()
	b.Body = b.Body.WithFitting("cap", "hull.deck", deck.Space(x0+0.1*(x1-x0), y0+0.1*(y1-y0)))
	lands, err := new(plan.Deriver).LandingOf(workshop(), b)
	require.NoError(t, err)
	nowhere := []string{}
	for _, l := range lands.Layers {
		if _, technique := strata.TechniqueOf(l.Name); technique && len(l.Zones) == 0 {
			nowhere = append(nowhere, l.Name)
		}
	}
	assert.Equal(t, []string{"marking_wear"}, nowhere, "no marking has a place yet")
}

// Shading of one's own that the colour buries is told of, with how many coats let it show (P2): the mend
// settles it.
func TestShadingOfOnesOwnThatWouldBeBuried(t *testing.T) {
	b := worn(t)
	l := strata.Undertone.Fresh()
	l.ID = "under"
	b.Layers = slices.Insert(slices.Clone(b.Layers), 1, l)
	i := slices.IndexFunc(b.Layers, strata.Layer.IsScheme)
	b.Layers[i].Coats = 4
	at := func(b document.Build) int {
		return slices.IndexFunc(findingsOf(t, b), func(f strata.Finding) bool { return f.Rule == "P2" })
	}
	n := at(b)
	require.GreaterOrEqual(t, n, 0)
	f := findingsOf(t, b)[n]
	require.Equal(t, "fewer", f.Mends[0].ID)
	b.Layers[i] = *f.Mends[0].Edits[0].Layer
	assert.Negative(t, at(b))
	b.Layers = slices.Delete(b.Layers, 1, 2)
	b.Layers[i-1].Coats = 4
	assert.Negative(t, at(b), "there is no shading to bury")
}
