package sheets

import (
	"fmt"
	"image/color"
	"math"

	"cinderpath/core/marking"
	"cinderpath/core/plan"

	"gonum.org/v1/plot/vg"
)

// Room about markings on their sheet, mm.
const (
	markingWide = 186.0
	markingRoom = 7.0
)

// Markings draws the markings of a build at the model's own size: to hold against it, to cut a stencil
// from, each as often as it stands on the vehicle.
func Markings(name, scale string, all plan.MarkingsRoom) Drawing {
	type laid struct {
		line plan.MarkingLine
		x, y float64
	}
	var list []laid
	x, y, row, width := 0.0, 0.0, 0.0, 100.0
	for _, m := range all.Lines {
		if m.Figure.Wide == 0 {
			continue
		}
		for range max(m.Places, 1) {
			slot := max(m.Figure.Wide, letter*float64(len(m.Name)+8))
			if x > 0 && x+slot > markingWide {
				x, y, row = 0, y+row+markingRoom, 0
			}
			list = append(list, laid{m, x, y})
			x += slot + markingRoom
			row, width = max(row, m.Figure.High), max(width, x)
		}
	}
	d := Drawing{Title: fmt.Sprintf("%s, %s: markings.", name, scale), Width: width, Height: y + row + markingRoom + 4}
	d.Draw = func(c Pen) {
		if len(list) == 0 {
			c.Say(0, 2, "No marking is drawn yet.")
		}
		for _, l := range list {
			f := l.line.Figure
			left, foot := l.x, d.Height-l.y-f.High-2
			c.SetColor(color.Gray{Y: 120})
			c.figure(f, left+f.Wide/2, foot+f.High/2)
			c.SetColor(color.Black)
			c.Say(left, foot-3.5, fmt.Sprintf("%s, %.1f mm", l.line.Name, f.Wide))
		}
	}
	return d
}

// figure fills what is drawn of a marking, its middle at a place.
func (p Pen) figure(f marking.Figure, x, y float64) {
	moved := func(line []marking.Point) [][2]float64 {
		out := make([][2]float64, len(line))
		for i, q := range line {
			out[i] = [2]float64{x + q[0], y + q[1]}
		}
		return out
	}
	for _, r := range f.Rings {
		p.Fill(ringPath(moved(r)))
	}
	for _, s := range f.Strokes {
		points := moved(s)
		p.Line(f.Stroke, false, points...)
		for _, q := range points { // its ends and corners are round
			var path vg.Path
			path.Move(point(q[0]+f.Stroke/2, q[1]))
			path.Arc(point(q[0], q[1]), vg.Length(f.Stroke/2)*mm, 0, 2*math.Pi)
			path.Close()
			p.Fill(path)
		}
	}
}
