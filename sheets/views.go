package sheets

import (
	"fmt"
	"image/color"
	"io"
	"math"
	"strconv"
	"strings"

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

// Views draws the five views at the model's own size.
func Views(p plan.Plan) Drawing {
	d := Drawing{Title: fmt.Sprintf("%s, %s.", p.Name, p.Scale), Width: math.Max(p.Sheet.Width, 120), Height: p.Sheet.Height}
	d.Draw = func(c Pen) { drawViews(c, p, d.Height) }
	return d
}

func asSVG(w io.Writer, width, height vg.Length, draw func(vg.Canvas)) error {
	c := vgsvg.New(width, height)
	draw(c)
	_, err := c.WriteTo(w)
	return err
}

func drawViews(c vg.Canvas, p plan.Plan, height float64) {
	colours := make([]color.Color, len(p.Colours))
	for i, line := range p.Colours {
		colours[i] = swatch(line.Hex)
	}
	for _, view := range p.Views {
		at := func(q [2]float64) vg.Point {
			return point(view.X+q[0], height-view.Y-q[1])
		}
		for _, shape := range view.Shapes {
			outline := rings(shape.Rings, at)
			c.SetColor(base(shape, colours))
			c.Fill(outline)
			// A hair in the same colour closes the seams between strips of a round shape.
			c.SetLineWidth(0.04 * mm)
			c.Stroke(outline)
			for _, patch := range printed(shape.Patches) {
				c.SetColor(swatch(p.Colours[patch.Colour].Hex))
				c.Fill(rings(patch.Rings, at))
			}
			c.SetColor(color.Black)
			for _, w := range []struct {
				ends  form.Ring
				width vg.Length
			}{{shape.Fine, 0.07}, {shape.Plain, 0.13}, {shape.Heavy, 0.26}} {
				if len(w.ends) > 0 {
					c.SetLineWidth(w.width * mm)
					c.Stroke(pairs(w.ends, at))
				}
			}
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
	c.FillString(face, vg.Point{X: left, Y: foot + 3*mm}, fmt.Sprintf("%s This bar is %.0f mm long when printed at 100 %%.", words, Bar))
}

// base is the ground colour of a shape; tracks and bare gear are dark metal.
func base(s form.Shape, colours []color.Color) color.Color {
	switch {
	case isTrack(s.Zone) || len(colours) == 0:
		return color.Gray{Y: 70}
	case isRubber(s.Zone):
		return color.Gray{Y: 55}
	}
	return colours[0]
}

func isRubber(zone string) bool { return strings.HasSuffix(zone, ".rubber") }

func isTrack(zone string) bool { return strings.HasSuffix(zone, ".track") }

// printed gives the patches of a shape as they go on paper: a soft edge is drawn as the
// line in its middle, where the mask or the brush follows it, and what is wholly covered
// or too small for a soft edge as it is.
func printed(patches []form.Patch) (out []form.Patch) {
	for i, p := range patches {
		middled := false // this colour has a step in the middle of its edge
		for _, o := range patches {
			middled = middled || o.Colour == p.Colour && o.Opacity == 0.5
		}
		if p.Opacity == 0.5 || p.Opacity == 1 && !middled {
			out = append(out, patches[i])
		}
	}
	return out
}

func rings(all []form.Ring, at func([2]float64) vg.Point) (p vg.Path) {
	for _, r := range all {
		p = append(p, ring(r, at)...)
	}
	return p
}

func ring(r form.Ring, at func([2]float64) vg.Point) vg.Path {
	var p vg.Path
	for i, q := range r {
		if i == 0 {
			p.Move(at(q))
		} else {
			p.Line(at(q))
		}
	}
	p.Close()
	return p
}

// pairs draws lines from every second point to the next.
func pairs(r form.Ring, at func([2]float64) vg.Point) vg.Path {
	var p vg.Path
	for i := 0; i+1 < len(r); i += 2 {
		p.Move(at(r[i]))
		p.Line(at(r[i+1]))
	}
	return p
}

func swatch(hex string) color.Color {
	n, err := strconv.ParseUint(hex[1:], 16, 32)
	if err != nil {
		return color.Gray{Y: 128} // checked by scheme.Check; a plain grey beats no sheet
	}
	return color.RGBA{R: uint8(n >> 16), G: uint8(n >> 8), B: uint8(n), A: 255}
}
