package sheets_test

import (
	"bytes"
	"encoding/base64"
	"image"
	"image/color"
	"image/png"
	"math"
	"math/rand/v2"
	"testing"

	"cinderpath/core/colour"
	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/sheets"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// cardPhoto draws the card as a camera sees it from the front, with a colour in its hole, under a
// warm lamp that falls off to the right, with noise in each pixel.
func cardPhoto(t *testing.T, seen colour.RGB) string {
	const side, edge = 500, 40
	r := rand.New(rand.NewPCG(4, 2))
	img := image.NewRGBA(image.Rect(0, 0, side+2*edge, side+2*edge))
	inks := seen.Linear()
	for y := range side + 2*edge {
		for x := range side + 2*edge {
			u, v := (float64(x)-edge+0.5)/side, (float64(y)-edge+0.5)/side
			part := [3]float64{0.3, 0.3, 0.3}
			if u > 0 && u < 1 && v > 0 && v < 1 {
				part = [3]float64{inks[0] / 0.86, inks[1] / 0.86, inks[2] / 0.86}
				for _, f := range paint.Card() {
					if math.Abs(u-f.At[0]) < 0.1 && math.Abs(v-f.At[1]) < 0.1 {
						part = [3]float64{f.Part, f.Part, f.Part}
					}
				}
			}
			out := [3]uint8{}
			for c, lamp := range [3]float64{0.8, 0.62, 0.42} {
				light := lamp * part[c] * math.Exp(-0.35*u) * (1 + 0.02*r.NormFloat64())
				out[c] = uint8(math.Round(255 * min(max(colour.Encode(light), 0), 1)))
			}
			img.Set(x, y, color.RGBA{out[0], out[1], out[2], 255})
		}
	}
	var data bytes.Buffer
	require.NoError(t, png.Encode(&data, img))
	return base64.StdEncoding.EncodeToString(data.Bytes())
}

func TestASwatchFromAPhotograph(t *testing.T) {
	for _, hex := range []string{"#66704f", "#5d4836", "#a39a86"} {
		want, err := colour.Parse(hex)
		require.NoError(t, err)
		q := sheets.SwatchQuestion{
			Image:   cardPhoto(t, want),
			Corners: [4]measure.Pixel{{40, 40}, {540, 40}, {540, 540}, {40, 540}},
			At:      measure.Pixel{310, 250}, Radius: 12,
		}
		a, err := sheets.AskSwatch(q)
		require.NoError(t, err)
		assert.Less(t, colour.Difference(want.Lab(), a.Lab), 1.0, "%s was told as %s", hex, a.Hex)
		assert.NotEmpty(t, a.Why.Inputs)
		q.Corners[0], q.Corners[1] = q.Corners[1], q.Corners[0]
		_, err = sheets.AskSwatch(q)
		assert.Error(t, err, "corners that cross")
	}
	_, err := sheets.AskSwatch(sheets.SwatchQuestion{Image: "%%"})
	assert.ErrorContains(t, err, "base64")
}

// The card's fields are printed where the photograph is read.
func TestTheNeutralCardIsDrawnToSize(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, sheets.NeutralCard().WriteSVG(&out))
	assert.Contains(t, out.String(), "cut out")
	d := sheets.NeutralCard()
	assert.InDelta(t, 75, d.Width, 0)
}
