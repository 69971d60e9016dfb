package sheets

import (
	"fmt"
	"image/color"
	"io"
	"math"

	"cinderpath/core/build"

	"gonum.org/v1/plot/font"
	"gonum.org/v1/plot/font/liberation"
	"gonum.org/v1/plot/vg"
)

// JigSVG draws a track jig at the model's own size.
func JigSVG(w io.Writer, j build.Jig) error {
	width, height := jigSize(j)
	return asSVG(w, width, height, func(c vg.Canvas) { drawJig(c, j) })
}

// JigPDF is JigSVG as a PDF page of that size.
func JigPDF(w io.Writer, j build.Jig) error {
	width, height := jigSize(j)
	return asPDF(w, width, height, func(c vg.Canvas) { drawJig(c, j) })
}

// Room on a jig sheet, mm: the card below the curve, and between its parts.
const (
	cardDeep = 18.0
	between  = 16.0
)

func jigExtent(j build.Jig) (wide, high float64) {
	for _, p := range j.Profile {
		wide, high = math.Max(wide, p[0]), math.Max(high, p[1])
	}
	return math.Max(wide, float64(j.Links)*j.Pitch), high
}

func jigSize(j build.Jig) (width, height vg.Length) {
	wide, high := jigExtent(j)
	return vg.Length(math.Max(wide, 150)+2*margin) * mm, vg.Length(high+cardDeep+3*between+2*margin+footer) * mm
}

func drawJig(c vg.Canvas, j build.Jig) {
	face := font.NewCache(liberation.Collection()).Lookup(font.Font{Typeface: "Liberation", Variant: "Sans"}, 9)
	small := font.NewCache(liberation.Collection()).Lookup(font.Font{Typeface: "Liberation", Variant: "Sans"}, 7)
	// The straight gauge: a strip with a tick at every pin.
	gauge := margin + footer + 8.0
	long := float64(j.Links) * j.Pitch
	at := func(x, y float64) vg.Point { return vg.Point{X: vg.Length(margin+x) * mm, Y: vg.Length(y) * mm} }
	c.SetColor(color.Black)
	c.SetLineWidth(0.2 * mm)
	c.Stroke(lines(false, at(0, gauge), at(long, gauge)))
	for i := range j.Links + 1 {
		x := float64(i) * j.Pitch
		c.Stroke(lines(false, at(x, gauge), at(x, gauge+5)))
	}
	c.FillString(small, at(0, gauge+7), fmt.Sprintf("Straight gauge: %d links of %.3f mm, pin to pin %.2f mm", j.Links, j.Pitch, long))
	// The card: cut along the curve; its foot is straight.
	foot := gauge + between
	top := foot + cardDeep
	card := []vg.Point{at(0, foot)}
	for _, p := range j.Profile {
		card = append(card, at(p[0], top+p[1]))
	}
	last := j.Profile[len(j.Profile)-1]
	c.Stroke(lines(true, append(card, at(last[0], foot))...))
	c.SetColor(color.Gray{Y: 120})
	c.SetLineWidth(0.1 * mm)
	for _, w := range j.Wheels {
		if x := w.X; x >= 0 && x <= last[0] {
			c.Stroke(lines(false, at(x, foot), at(x, foot+4)))
			c.FillString(small, at(x+0.8, foot+1), w.Name)
		}
	}
	c.SetColor(color.Black)
	c.FillString(small, at(2, foot+cardDeep/2), "Cut along the curve; the rear is at the left.")
	_, high := jigExtent(j)
	for i, words := range j.Words {
		c.FillString(small, at(0, top+high+5+3.5*float64(len(j.Words)-1-i)), words)
	}
	checkBar(c, face, fmt.Sprintf("%s, %s: track jig.", j.Name, j.Scale))
}

// lines joins points.
func lines(closed bool, points ...vg.Point) vg.Path {
	var p vg.Path
	for i, q := range points {
		if i == 0 {
			p.Move(q)
			continue
		}
		p.Line(q)
	}
	if closed {
		p.Close()
	}
	return p
}
