package sheets

import (
	"fmt"
	"image/color"
	"io"
	"math"

	"cinderpath/core/form"
	"cinderpath/core/plan"

	"gonum.org/v1/plot/font"
	"gonum.org/v1/plot/vg"
	"gonum.org/v1/plot/vg/vgsvg"
)

const mm = vg.Millimeter

// Bar is the length of the check bar on every sheet, mm. Measured with a ruler it
// tells whether the printer kept the size.
const Bar = 50.0

const (
	margin = 10.0 // mm
	footer = 18.0 // mm, for the check bar and the words beside it
)

// Views draws the five views at the model's own size: the picture after a step, and the
// drawing's lines over it.
func Views(p plan.Plan, seen []plan.Portrait) Drawing {
	d := Drawing{
		Title:  fmt.Sprintf("%s, %s.", p.Name, p.Scale),
		Width:  math.Max(p.Sheet.Width, 120),
		Height: p.Sheet.Height,
	}
	d.Draw = func(c Pen) {
		for _, v := range seen {
			drawView(c, v, d.Height)
		}
	}
	return d
}

func asSVG(w io.Writer, width, height vg.Length, draw func(vg.Canvas)) error {
	c := vgsvg.New(width, height)
	draw(c)
	_, err := c.WriteTo(w)
	return err
}

// pens are how wide edges are drawn, by weight, mm.
var pens = [...]vg.Length{form.Heavy: 0.26, form.Plain: 0.13, form.Fine: 0.07}

func drawView(c vg.Canvas, v plan.Portrait, height float64) {
	at := func(q [2]float64) vg.Point { return point(v.X+q[0], height-v.Y-q[1]) }
	size := v.Image.Bounds().Size()
	low := at([2]float64{0, float64(size.Y) * v.Pixel})
	high := at([2]float64{float64(size.X) * v.Pixel, 0})
	c.DrawImage(vg.Rectangle{Min: low, Max: high}, v.Image)
	c.SetColor(color.Black)
	for weight, width := range pens {
		var lines vg.Path
		for _, e := range v.Edges {
			if int(e.Weight) == weight {
				lines.Move(at(e.A))
				lines.Line(at(e.B))
			}
		}
		if len(lines) > 0 {
			c.SetLineWidth(width * mm)
			c.Stroke(lines)
		}
	}
}

// checkBar draws the bar that a ruler is held against, with the words of the sheet.
func checkBar(c vg.Canvas, face font.Face, words string) {
	c.SetColor(color.Black)
	c.SetLineWidth(0.3 * mm)
	left, foot := vg.Length(margin)*mm, vg.Length(margin)*mm
	c.Stroke(lines(false, vg.Point{X: left, Y: foot}, vg.Point{X: left + Bar*mm, Y: foot}))
	for _, x := range []vg.Length{0, Bar * mm} {
		c.Stroke(lines(false, vg.Point{X: left + x, Y: foot - 1.5*mm}, vg.Point{X: left + x, Y: foot + 1.5*mm}))
	}
	c.FillString(
		face,
		vg.Point{X: left, Y: foot + 3*mm},
		fmt.Sprintf("%s This bar is %.0f mm long when printed at 100 %%.", words, Bar),
	)
}
