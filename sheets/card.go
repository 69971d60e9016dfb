package sheets

import (
	"bytes"
	"encoding/base64"
	"image"
	"image/color"

	"cinderpath/core/colour"
	"cinderpath/core/measure"
	"cinderpath/core/paint"
)

// The neutral card: its side, and that of one field, mm.
const (
	cardWide  = 75.0
	cardField = cardWide / 5
)

// NeutralCard is the sheet of greys that a colour is photographed beside, or through the hole
// in its middle.
func NeutralCard() Drawing {
	return Drawing{
		Title: "Neutral card. Cut it out and cut out the middle; lay it on what is measured, out of the sun.",
		Width: cardWide, Height: cardWide,
		Draw: func(c Pen) {
			square := func(x0, y0, side float64) {
				c.Fill(lines(true, point(x0, y0), point(x0+side, y0), point(x0+side, y0+side), point(x0, y0+side)))
			}
			for _, f := range paint.Card() {
				if f.Grey == 255 {
					continue // the bare paper
				}
				c.SetColor(color.Gray{Y: f.Grey})
				square(f.At[0]*cardWide-cardField/2, cardWide-f.At[1]*cardWide-cardField/2, cardField)
			}
			c.SetColor(color.Black)
			inner := cardField
			c.Line(0.2, true, [2]float64{inner, inner}, [2]float64{cardWide - inner, inner},
				[2]float64{cardWide - inner, cardWide - inner}, [2]float64{inner, cardWide - inner})
			c.Line(0.3, true, [2]float64{0, 0}, [2]float64{cardWide, 0}, [2]float64{cardWide, cardWide}, [2]float64{0, cardWide})
			c.Say(inner+2, cardWide/2, "cut out")
		},
	}
}

// SwatchQuestion asks for the colour of something photographed beside the neutral card.
type SwatchQuestion struct {
	Image   string           `json:"image"`   // JPEG or PNG, base64
	Corners [4]measure.Pixel `json:"corners"` // of the card: upper left, upper right, lower right, lower left
	At      measure.Pixel    `json:"at"`      // the colour that is wanted
	Radius  float64          `json:"radius"`  // pixels about it that count
}

// SwatchAnswer is the colour with how sure it is.
type SwatchAnswer struct {
	Hex    string      `json:"hex"`
	Lab    colour.Lab  `json:"lab"`
	Sure   [3]float64  `json:"sure"` // of L, a, b: half of the 95 % interval
	Beyond bool        `json:"beyond,omitempty"`
	Why    measure.Why `json:"why"`
}

// sent is a JPEG or PNG as it comes in a question, in base64. Refused: what is none, by its field.
func sent(text string) (image.Image, error) {
	data, err := base64.StdEncoding.DecodeString(text)
	if err != nil {
		return nil, measure.Refuse("image", "it is not base64", "send the file's bytes in base64")
	}
	picture, err := ReadPhoto(data)
	if err != nil {
		return nil, err
	}
	img, _, err := image.Decode(bytes.NewReader(picture.Data))
	if err != nil {
		return nil, measure.Refuse("image", err.Error(), "save it again")
	}
	return img, nil
}

// mostRead bounds how many pixels of the card are read.
const mostRead = 1_000_000

// AskSwatch answers it.
func AskSwatch(q SwatchQuestion) (SwatchAnswer, error) {
	img, err := sent(q.Image)
	if err != nil {
		return SwatchAnswer{}, err
	}
	plane, err := measure.NewPlane(q.Corners, 1, 1)
	if err != nil {
		return SwatchAnswer{}, err
	}
	at, ok := plane.On(q.At)
	if !ok || !(q.Radius >= 1 && q.Radius <= 500) {
		return SwatchAnswer{}, measure.Refuse(
			"at",
			"the place lies beyond the card's plane, or is wider than 500 pixels",
			"mark it again",
		)
	}
	told, err := paint.Evened(fieldsOf(img, plane, q.Corners), at, mean(img, func(x, y int) bool {
		dx, dy := float64(x)+0.5-q.At[0], float64(y)+0.5-q.At[1]
		return dx*dx+dy*dy <= q.Radius*q.Radius
	}, around(img, q.Radius, q.At)))
	if err != nil {
		return SwatchAnswer{}, err
	}
	return SwatchAnswer{told.Hex, told.Lab, told.Sure, told.Beyond, told.Why}, nil
}

// around is the box of some places with a margin, inside the picture.
func around(img image.Image, margin float64, places ...measure.Pixel) image.Rectangle {
	box := image.Rectangle{}
	for _, p := range places {
		r := image.Rect(int(p[0]-margin), int(p[1]-margin), int(p[0]+margin)+2, int(p[1]+margin)+2)
		box = box.Union(r)
	}
	return box.Intersect(img.Bounds())
}

// mean is the mean light of the pixels of a box that count.
func mean(img image.Image, counts func(x, y int) bool, box image.Rectangle) (out paint.Photographed) {
	n := 0.0
	for y := box.Min.Y; y < box.Max.Y; y++ {
		for x := box.Min.X; x < box.Max.X; x++ {
			if counts(x, y) {
				light := lightOf(img.At(x, y))
				for c := range out {
					out[c] += light[c]
				}
				n++
			}
		}
	}
	for c := range out {
		out[c] /= max(n, 1)
	}
	return out
}

func lightOf(c color.Color) [3]float64 {
	r, g, b, _ := c.RGBA()
	return colour.RGB{uint8(r >> 8), uint8(g >> 8), uint8(b >> 8)}.Linear()
}

// fieldsOf are the means of the card's fields, of the middle half of each.
func fieldsOf(img image.Image, plane measure.Plane, corners [4]measure.Pixel) []paint.Photographed {
	card := paint.Card()
	sums, counts := make([]paint.Photographed, len(card)), make([]float64, len(card))
	box := around(img, 0, corners[:]...)
	stride := 1
	for box.Dx()/stride*(box.Dy()/stride) > mostRead {
		stride++
	}
	const half = 0.5 / 5 / 2
	for y := box.Min.Y; y < box.Max.Y; y += stride {
		for x := box.Min.X; x < box.Max.X; x += stride {
			on, ok := plane.On(measure.Pixel{float64(x) + 0.5, float64(y) + 0.5})
			if !ok {
				continue
			}
			for i, f := range card {
				if on[0] > f.At[0]-half && on[0] < f.At[0]+half && on[1] > f.At[1]-half && on[1] < f.At[1]+half {
					for c, v := range lightOf(img.At(x, y)) {
						sums[i][c] += v
					}
					counts[i]++
				}
			}
		}
	}
	for i := range sums {
		for c := range sums[i] {
			sums[i][c] /= max(counts[i], 1)
		}
	}
	return sums
}
