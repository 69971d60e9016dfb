package paint

import (
	"fmt"
	"math"

	"cinderpath/core/colour"
	"cinderpath/core/measure"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/stat/distuv"
)

// CardField is one field of the neutral card: its place on the card, 0 to 1 from the left and
// from the top, and what it reflects beside the bare paper.
type CardField struct {
	At   [2]float64
	Grey uint8   // as it is printed, 255 for the bare paper
	Part float64 // of the paper's light, 0 to 1
}

// cardSide is how many fields lie along a side of the card; the middle is cut out, and what
// is measured is seen through it.
const cardSide = 5

// cardGreys go round the card between fields of bare paper.
var cardGreys = []uint8{190, 140, 95, 60}

// Card is the neutral card, field by field round its edge: paper and greys by turns, so that
// light is known everywhere and tone is known at both sides.
func Card() (out []CardField) {
	ring := [][2]int{}
	for i := range cardSide - 1 {
		ring = append(ring, [2]int{i, 0})
	}
	for i := range cardSide - 1 {
		ring = append(ring, [2]int{cardSide - 1, i})
	}
	for i := range cardSide - 1 {
		ring = append(ring, [2]int{cardSide - 1 - i, cardSide - 1})
	}
	for i := range cardSide - 1 {
		ring = append(ring, [2]int{0, cardSide - 1 - i})
	}
	for n, at := range ring {
		f := CardField{At: [2]float64{(float64(at[0]) + 0.5) / cardSide, (float64(at[1]) + 0.5) / cardSide}, Grey: 255}
		if n%2 == 1 {
			f.Grey = cardGreys[n/2%len(cardGreys)]
		}
		f.Part = colour.RGB{f.Grey, f.Grey, f.Grey}.Linear()[0]
		out = append(out, f)
	}
	return out
}

// paperWhite is what office paper reflects.
const paperWhite = 0.86

// Photographed is light as a camera wrote it, 0 to 1 in each channel, linear.
type Photographed [3]float64

// overexposed is light that a camera cuts off.
const overexposed = 0.985

// Told is a colour as a photograph tells it.
type Told struct {
	Lab    colour.Lab
	Hex    string
	Sure   [3]float64 // of L, a and b: half the width of the 95 % interval
	Off    float64    // scatter of the card's own fields about the fit, per cent of light
	Why    measure.Why
	Beyond bool // no screen shows it
}

// Evened finds the colour of what is seen in a photograph beside the card. In each channel the
// logarithm of light is a quadratic of the place (the lamp's colour and falloff) and a multiple
// of the logarithm of what is reflected (paper, printer and camera bend the tone); the card's
// fields give both by least squares, and what is left of them says how sure the colour is.
func Evened(fields []Photographed, at [2]float64, sample Photographed) (Told, error) {
	card := Card()
	if len(fields) != len(card) {
		return Told{}, measure.Refuse(
			"fields",
			fmt.Sprintf("%d of the card's %d fields", len(fields), len(card)),
			"mark all four corners of the card",
		)
	}
	for _, f := range append([]Photographed{sample}, fields...) {
		for _, v := range f {
			if !(v > 0.0005) || v > overexposed {
				return Told{}, measure.Refuse("photograph", "a part of the card or of the colour is black or overexposed",
					"photograph it again, darker or lighter, out of the sun")
			}
		}
	}
	var z, spread [3]float64
	off, dof := 0.0, float64(len(card)-terms)
	for c := range 3 {
		fit, err := evened(card, fields, c)
		if err != nil {
			return Told{}, err
		}
		z[c], spread[c] = fit.read(at, math.Log(sample[c]))
		off += fit.variance / 3
	}
	lab := func(z [3]float64) colour.Lab {
		return colour.OfLight(
			[3]float64{paperWhite * math.Exp(z[0]), paperWhite * math.Exp(z[1]), paperWhite * math.Exp(z[2])},
		).Lab()
	}
	out := Told{Lab: lab(z), Off: 100 * math.Sqrt(off)}
	var squares [3]float64 // of the channels' parts: Welch and Satterthwaite's degrees of freedom
	for c := range 3 {
		up, down := z, z
		const h = 1e-4
		up[c] += h
		down[c] -= h
		u, d := lab(up), lab(down)
		for k := range out.Sure {
			slope := (u[k] - d[k]) / (2 * h)
			part := slope * slope * spread[c]
			out.Sure[k] += part
			squares[k] += part * part
		}
	}
	for k := range out.Sure {
		free := dof * out.Sure[k] * out.Sure[k] / squares[k]
		out.Sure[k] = distuv.StudentsT{Nu: free, Sigma: 1}.Quantile(0.975) * math.Sqrt(out.Sure[k])
	}
	swatch, beyond := out.Lab.XYZ().RGB()
	out.Hex, out.Beyond = swatch.Hex(), beyond
	out.Why = measure.Because(
		"log light = a quadratic of the place + tone · log reflectance, from the card's 16 fields, channel by channel",
		[]string{
			fmt.Sprintf("its fields scatter by %.1f %% of light about the fit", out.Off),
			fmt.Sprintf(
				"L %.1f ± %.1f, a %.1f ± %.1f, b %.1f ± %.1f (95 %%)",
				out.Lab[0],
				out.Sure[0],
				out.Lab[1],
				out.Sure[1],
				out.Lab[2],
				out.Sure[2],
			),
			fmt.Sprintf("the bare paper is taken to reflect %.0f %%", 100*paperWhite),
		},
	)
	return out, nil
}

// terms of the fit: six of the place, one of the tone.
const terms = 7

func basis(at [2]float64, tone float64) []float64 {
	x, y := at[0]-0.5, at[1]-0.5
	return []float64{1, x, y, x * x, x * y, y * y, tone}
}

// fitted is one channel of the card.
type fitted struct {
	by       mat.VecDense
	inverse  mat.Dense // of the normal matrix
	variance float64   // of one field about the fit
}

func evened(card []CardField, fields []Photographed, channel int) (fitted, error) {
	a, b := mat.NewDense(len(card), terms, nil), mat.NewVecDense(len(card), nil)
	for i, f := range card {
		a.SetRow(i, basis(f.At, math.Log(f.Part)))
		b.SetVec(i, math.Log(fields[i][channel]))
	}
	var normal mat.Dense
	var right, rest mat.VecDense
	var out fitted
	normal.Mul(a.T(), a)
	right.MulVec(a.T(), b)
	if err := out.inverse.Inverse(&normal); err != nil {
		return out, measure.Refuse("photograph", "the card's fields tell nothing of the light", "mark its four corners again")
	}
	out.by.MulVec(&out.inverse, &right)
	rest.MulVec(a, &out.by)
	rest.SubVec(b, &rest)
	out.variance = mat.Dot(&rest, &rest) / float64(len(card)-terms)
	if tone := out.by.AtVec(terms - 1); !(tone > 0.3 && tone < 3) {
		return out, measure.Refuse("photograph", "the card's greys do not get darker as they should",
			"mark its corners in turn: upper left, upper right, lower right, lower left")
	}
	return out, nil
}

// read gives the logarithm of what is reflected at a place, and its variance.
func (f *fitted) read(at [2]float64, light float64) (z, variance float64) {
	tone := f.by.AtVec(terms - 1)
	flat := mat.NewVecDense(terms, basis(at, 0))
	z = (light - mat.Dot(flat, &f.by)) / tone
	g := mat.NewVecDense(terms, basis(at, z))
	var h mat.VecDense
	h.MulVec(&f.inverse, g)
	return z, f.variance * (1 + mat.Dot(g, &h)) / (tone * tone)
}
