package plan_test

import (
	"bytes"
	"image"
	"image/png"
	"testing"

	"cinderpath/core/colour"
	"cinderpath/core/form"
	"cinderpath/core/kit"
	"cinderpath/core/measure"
	"cinderpath/core/plan"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// within is an inside as it looks, in grey from 0 to 1 at the middle of its picture and on the mean of all
// that it shows.
func within(t *testing.T, in kit.Inside, side form.Side) (middle, mean float64) {
	b := tank(t)
	b.Kit.Insides = []kit.Inside{in}
	require.NoError(t, b.Check())
	data, err := new(plan.Deriver).InsidePicture(b, plan.InsideQuestion{Part: in.Part, Side: side, Pixel: 0.5})
	require.NoError(t, err)
	img, err := png.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	grey := func(p image.Point) (v float64, ok bool) {
		r, g, b, a := img.At(p.X, p.Y).RGBA()
		return colour.RGB{uint8(r >> 8), uint8(g >> 8), uint8(b >> 8)}.Lab()[0] / 100, a > 0xf000
	}
	box := img.Bounds()
	n, m := 0.0, 0.0
	for y := range box.Dy() {
		for x := range box.Dx() {
			v, ok := grey(image.Pt(x, y))
			if !ok {
				continue
			}
			mean += v
			n++
			if x > box.Dx()*2/5 && x < box.Dx()*3/5 && y > box.Dy()*2/5 && y < box.Dy()*3/5 {
				middle += v
				m++
			}
		}
	}
	require.Greater(t, n, 500.0)
	require.Positive(t, m)
	return middle / m, mean / n
}

// An inside is seen as it is worked: pale or dark, washed into its corners, chipped where one stands.
func TestAnInsideIsSeen(t *testing.T) {
	painted := kit.Inside{Part: "hull", State: kit.Detailed, Works: []string{"prime", "paint"}}
	clean, _ := within(t, painted, form.Top)
	painted.Works = append(painted.Works, "chips")
	chipped, _ := within(t, painted, form.Top)
	assert.Less(t, chipped, clean-0.002, "the floor is trodden on")

	painted.Works = []string{"prime", "paint"}
	_, dry := within(t, painted, form.Left)
	painted.Works = append(painted.Works, "wash")
	_, washed := within(t, painted, form.Left)
	assert.Less(t, washed, dry-0.005, "a wash lies in its corners")

	// A part that stands on another one has a floor of its own, and every wall is whole.
	for _, side := range form.Sides {
		turret, _ := within(t, kit.Inside{Part: "turret", State: kit.Detailed, Works: []string{"prime", "paint"}}, side)
		assert.Greater(t, turret, 0.3, side)
	}

	glimpsed, _ := within(t, kit.Inside{Part: "hull", State: kit.Glimpsed}, form.Top)
	assert.Less(t, glimpsed, 0.3)
	painted.Hex = "#804020"
	brown, _ := within(t, painted, form.Top)
	assert.Less(t, brown, clean)

	b := tank(t)
	_, err := new(plan.Deriver).InsidePicture(b, plan.InsideQuestion{Part: "hull", Side: form.Top, Pixel: 0.5})
	var no *measure.Fault
	assert.ErrorAs(t, err, &no, "what is closed is not seen")
	b.Kit.Insides = []kit.Inside{{Part: "bathtub", State: kit.Glimpsed}}
	_, err = new(plan.Deriver).InsidePicture(b, plan.InsideQuestion{Part: "bathtub", Side: form.Top, Pixel: 0.5})
	assert.ErrorAs(t, err, &no)
	b.Kit.Insides[0].Hex = "red"
	assert.Error(t, b.Check())
}

// Seen from within, plates are as large as from without, look the other way, and their outer corners are
// hollow.
func TestPlatesFromWithin(t *testing.T) {
	b := tank(t)
	panels, err := form.Panels(b.Body, form.Running{})
	require.NoError(t, err)
	inner := form.Inner(panels)
	require.Len(t, inner, len(panels))
	turned := 0
	for i, in := range inner {
		out := panels[i]
		assert.InDelta(t, out.Area(), in.Area(), 1e-6*out.Area())
		assert.InDelta(t, -1, in.Normal.Dot(out.Normal), 1e-12)
		for k, l := range in.Lines {
			if !l.Joint && !l.Smooth {
				assert.NotEqual(t, out.Lines[k].Hollow, l.Hollow)
				turned++
			}
		}
	}
	assert.Positive(t, turned)
}
