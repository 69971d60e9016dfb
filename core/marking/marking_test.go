package marking_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cinderpath/core/form"
	"cinderpath/core/marking"
)

// plate is a body with plane sides: a box whose left side is 4 m by 1 m.
func plate(t testing.TB) []*form.Panel {
	t.Helper()
	panels, err := form.Panels(form.Body{Hulls: []form.Hull{{
		ID: "hull", Width: 2000, Profile: [][2]float64{{-2000, 500}, {2000, 500}, {2000, 1500}, {-2000, 1500}},
	}}}, form.Running{})
	require.NoError(t, err)
	return panels
}

func left(x, z float64) marking.Place {
	return marking.Place{Zone: "hull.left", At: form.Vec{x, 1000, z}}
}

// covered is the area that is covered, real mm², and its middle.
func covered(t testing.TB, g *form.Grid, d ...marking.Drawn) (area float64, middle form.Vec) {
	t.Helper()
	cover, panels := marking.Cover(d, g)
	for _, i := range panels {
		x := g.Texels[i]
		for k, a := range x.Area {
			v := float64(cover[x.First+k]) * float64(a)
			area += v
			middle = middle.Plus(x.Point(k).Times(v))
		}
	}
	return area, middle.Times(1 / max(area, 1e-9))
}

// What is drawn has the area that geometry says, wherever on the plate it stands and however it is turned.
func TestAMarkingCoversItsArea(t *testing.T) {
	g := form.NewGrid(plate(t), 4)
	areas := map[marking.Shape]func(w float64) float64{
		marking.Disc:     func(w float64) float64 { return math.Pi * w * w / 4 },
		marking.Ring:     func(w float64) float64 { return math.Pi * w * w * 0.14 * (1 - 0.14) },
		marking.Square:   func(w float64) float64 { return w * w },
		marking.Triangle: func(w float64) float64 { return w * w * 0.433 },
		marking.Diamond:  func(w float64) float64 { return w * w / 2 },
		marking.Bar:      func(w float64) float64 { return w * w * 0.2 },
	}
	rapid.Check(t, func(r *rapid.T) {
		shape := rapid.SampledFrom([]marking.Shape{
			marking.Disc, marking.Ring, marking.Square, marking.Triangle, marking.Diamond, marking.Bar,
		}).Draw(r, "shape")
		wide := rapid.Float64Range(150, 600).Draw(r, "wide")
		p := left(rapid.Float64Range(-1500, 1500).Draw(r, "x"), rapid.Float64Range(850, 1150).Draw(r, "z"))
		p.Turn = rapid.Float64Range(-180, 180).Draw(r, "turn")
		d := marking.Drawn{Drawing: marking.Drawing{Shape: shape, Hex: "#ffffff"}, Wide: wide, Places: []marking.Place{p}}
		area, middle := covered(t, g, d)
		assert.InEpsilon(t, areas[shape](wide), area, 0.02)
		if shape != marking.Triangle { // whose middle is that of its box
			assert.InDelta(t, p.At[0], middle[0], 4)
		}
	})
}

// A text is read from left to right on both sides of a vehicle, and a line about it is a coat of its own
// that leaves the letters free.
func TestATextIsReadOnBothSides(t *testing.T) {
	g := form.NewGrid(plate(t), 4)
	draw := marking.Drawing{Shape: marking.Text, Text: "L.", Hex: "#ffffff", Edge: "#000000", EdgeMM: 20}
	at := left(300, 1000)
	both := []marking.Place{at, at.Mirrored()}
	assert.Equal(t, "hull.right", both[1].Zone)
	// L stands to the left of the point, seen from outside: more of it toward the front on the left side.
	for i, sign := range []float64{1, -1} {
		_, middle := covered(t, g, marking.Drawn{Drawing: draw, Wide: 500, Places: both[i : i+1]})
		assert.Positive(t, sign*(middle[0]-300), "side %d", i)
	}
	one := []marking.Drawn{{Drawing: draw, Wide: 500, Places: both[:1]}}
	assert.Equal(t, []string{"#ffffff", "#000000"}, marking.Colours(one))
	all, _ := covered(t, g, one...)
	white, _ := covered(t, g, marking.InColour(one, "#ffffff")...)
	black, _ := covered(t, g, marking.InColour(one, "#000000")...)
	assert.InEpsilon(t, all, white+black, 1e-3, "each texel is of one or the other")
	assert.Greater(t, black, 0.3*white)
	cover, _ := marking.Cover(one, g)
	for _, v := range cover {
		require.LessOrEqual(t, v, float32(1))
	}
}

// Every letter that may be typed draws something, of its own shape, inside its box.
func TestLettersDifferAndStayInTheirBox(t *testing.T) {
	seen := map[string]rune{}
	for _, r := range "0123456789ABCDEFGHIJKLMNPQRSTUVWXYZ-/." { // O is drawn as nought is
		d := marking.Drawing{Shape: marking.Text, Text: string(r), Hex: "#ffffff"}
		require.NoError(t, d.Check())
		f := d.Figure(5)
		key := ""
		for i := range 400 {
			p := marking.Point{5 * (float64(i%20)/19 - 0.5) * 1.2, 7 * (float64(i/20)/19 - 0.5) * 1.2}
			on := f.Beyond(p) <= 0
			key += map[bool]string{true: "x", false: "."}[on]
			if on {
				require.LessOrEqual(t, math.Abs(p[0]), f.Wide/2+1e-9, string(r))
				require.LessOrEqual(t, math.Abs(p[1]), f.High/2+1e-9, string(r))
			}
		}
		require.Contains(t, key, "x", string(r))
		require.Zero(t, seen[key], "%c looks like %c", r, seen[key])
		seen[key] = r
	}
}

// A place whose face is gone is told as lost; what stands over a marking is named with how much it hides.
func TestPlacesAreLostAndHidden(t *testing.T) {
	body := form.Body{
		Hulls: []form.Hull{{
			ID: "hull", Width: 2000, Profile: [][2]float64{{-2000, 500}, {2000, 500}, {2000, 1500}, {-2000, 1500}},
		}},
		Fittings: []form.Fitting{{
			ID: "chest", Kind: "box", On: "hull.left", At: form.Vec{0, 1000, 1000}, Size: [3]float64{1000, 600, 300},
		}},
	}
	panels, err := form.Panels(body, form.Running{})
	require.NoError(t, err)
	g := form.NewGrid(panels, 10)
	d := marking.Drawn{
		Drawing: marking.Drawing{Shape: marking.Square, Hex: "#ffffff"}, Wide: 400,
		Places: []marking.Place{left(-1500, 1000), left(-1500, 3000), left(0, 1000)},
	}
	assert.Len(t, d.Lost(g), 2, "above the body, and under the chest")
	assert.Empty(t, d.Over(g, panels))
	d.Places = []marking.Place{left(-550, 1000)}
	over := d.Over(g, panels)
	require.NotEmpty(t, over)
	assert.Equal(t, "hull.chest", over[0].Zone)
	assert.InDelta(t, 0.4125, over[0].Share, 0.03, "its lid reaches to 515 mm")
}

func TestAMarkingThatCannotBeIsRefused(t *testing.T) {
	good := marking.Usual
	require.NoError(t, good.Check())
	for want, change := range map[string]func(d *marking.Drawing){
		"shape":  func(d *marking.Drawing) { d.Shape = "skull" },
		"text":   func(d *marking.Drawing) { d.Text = "Ä" },
		"hex":    func(d *marking.Drawing) { d.Hex = "white" },
		"edge":   func(d *marking.Drawing) { d.Edge = "#12" },
		"edgeMm": func(d *marking.Drawing) { d.EdgeMM = math.NaN() },
	} {
		d := good
		change(&d)
		require.ErrorContains(t, d.Check(), want)
	}
	require.Error(t, marking.Place{Zone: "hull left"}.Check())
	require.Error(t, marking.Place{Zone: "hull.left", Turn: math.Inf(1)}.Check())
}
