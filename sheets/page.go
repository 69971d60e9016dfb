package sheets

import (
	"fmt"
	"image/color"
	"io"
	"math"

	"cinderpath/core/measure"

	"gonum.org/v1/plot/font"
	"gonum.org/v1/plot/font/liberation"
	"gonum.org/v1/plot/vg"
)

// Paper is a size of paper, mm.
type Paper struct {
	Name          string
	Width, Height float64
}

// The papers that sheets are split for.
var (
	A4     = Paper{"A4", 210, 297}
	Letter = Paper{"Letter", 215.9, 279.4}
)

// PaperOf finds a paper by its name; A4 when there is none of that name.
func PaperOf(name string) Paper {
	if name == Letter.Name {
		return Letter
	}
	return A4
}

// Room on a page, mm.
const (
	printerEdge = 10.0 // what printers leave white
	overlap     = 8.0  // of neighbouring pages
)

// mostPages is how many pages a sheet is split into at most.
const mostPages = 120

// Drawing is a sheet at the model's own size: mm, x to the right and y up from its lower
// left corner, the check bar not counted.
type Drawing struct {
	Title         string // the build's name and scale, and what it is
	Width, Height float64
	Draw          func(c Pen)
}

// Pen draws on a sheet in mm.
type Pen struct {
	vg.Canvas
	face  font.Face
	small font.Face
}

func newPen(c vg.Canvas) Pen {
	cache := font.NewCache(liberation.Collection())
	f := font.Font{Typeface: "Liberation", Variant: "Sans"}
	return Pen{c, cache.Lookup(f, 9), cache.Lookup(f, 7)}
}

func point(x, y float64) vg.Point { return vg.Point{X: vg.Length(x) * mm, Y: vg.Length(y) * mm} }

// Line joins points with a pen of a width, mm.
func (p Pen) Line(width float64, closed bool, points ...[2]float64) {
	at := make([]vg.Point, len(points))
	for i, q := range points {
		at[i] = point(q[0], q[1])
	}
	p.SetLineWidth(vg.Length(width) * mm)
	p.Stroke(lines(closed, at...))
}

// Circle draws a circle.
func (p Pen) Circle(width, x, y, radius float64) {
	var path vg.Path
	path.Move(point(x+radius, y))
	path.Arc(point(x, y), vg.Length(radius)*mm, 0, 2*math.Pi)
	path.Close()
	p.SetLineWidth(vg.Length(width) * mm)
	p.Stroke(path)
}

// Say writes small words.
func (p Pen) Say(x, y float64, words string) { p.FillString(p.small, point(x, y), words) }

// WriteSVG writes the drawing on one sheet of its own size.
func (d Drawing) WriteSVG(w io.Writer) error {
	width, height := d.Width+2*margin, d.Height+2*margin+footer
	return asSVG(w, vg.Length(width)*mm, vg.Length(height)*mm, func(c vg.Canvas) {
		pen := newPen(c)
		c.Push()
		c.Translate(point(margin, margin+footer))
		d.Draw(pen)
		c.Pop()
		checkBar(c, pen.face, d.Title)
	})
}

// Pages tells into how many columns and rows of pages a drawing is split on a paper, and
// whether the paper lies on its side.
func (d Drawing) Pages(p Paper) (columns, rows int, turned bool) {
	count := func(width, height float64) (int, int) {
		fit := func(size, room float64) int {
			if size <= room {
				return 1
			}
			return int(math.Ceil((size - overlap) / (room - overlap)))
		}
		return fit(d.Width, width-2*printerEdge), fit(d.Height, height-2*printerEdge-footer)
	}
	columns, rows = count(p.Width, p.Height)
	if c, r := count(p.Height, p.Width); c*r < columns*rows {
		return c, r, true
	}
	return columns, rows, false
}

// WritePDF writes the drawing on pages of a paper. Where it is larger than one page,
// neighbours overlap, and crosses at the same places of both tell how they are laid over
// each other. Every page has the check bar.
func (d Drawing) WritePDF(w io.Writer, p Paper) error {
	columns, rows, turned := d.Pages(p)
	if columns*rows > mostPages {
		return &measure.Fault{
			Field:  "paper",
			Reason: fmt.Sprintf("%.1f × %.1f m take %d pages of %s", d.Width/1000, d.Height/1000, columns*rows, p.Name),
			Remedy: fmt.Sprintf("a sheet has at most %d; look at the sizes and the scale, or take the SVG", mostPages),
		}
	}
	width, height := p.Width, p.Height
	if turned {
		width, height = height, width
	}
	roomX, roomY := width-2*printerEdge, height-2*printerEdge-footer
	c := newPages(vg.Length(width)*mm, vg.Length(height)*mm)
	pen := newPen(c)
	for row := range rows {
		for column := range columns {
			if row+column > 0 {
				c.NextPage()
			}
			// Where the page's lower left corner lies on the drawing; the first row is the top.
			x0 := float64(column) * (roomX - overlap)
			y0 := d.Height - roomY - float64(row)*(roomY-overlap)
			if rows == 1 {
				y0 = d.Height - roomY
			}
			c.Push()
			c.Translate(point(printerEdge-x0, printerEdge+footer-y0))
			c.SetColor(color.Black)
			d.Draw(pen)
			c.Pop()
			d.frame(pen, width, height, column, row, columns, rows)
		}
	}
	_, err := c.WriteTo(w)
	return err
}

// frame clears what lies beyond the printed room and draws crosses and the check bar.
func (d Drawing) frame(pen Pen, width, height float64, column, row, columns, rows int) {
	const beyond = 2 // mm: a renderer's rounding leaves no rim
	pen.SetColor(color.White)
	low, high, left, right := printerEdge+footer, height-printerEdge, printerEdge, width-printerEdge
	for _, r := range [][4]float64{
		{-beyond, -beyond, width + beyond, low},
		{-beyond, high, width + beyond, height + beyond},
		{-beyond, -beyond, left, height + beyond},
		{right, -beyond, width + beyond, height + beyond},
	} {
		pen.Fill(lines(true, point(r[0], r[1]), point(r[2], r[1]), point(r[2], r[3]), point(r[0], r[3])))
	}
	pen.SetColor(color.Black)
	title := d.Title
	if columns*rows > 1 {
		title = fmt.Sprintf(
			"%s Page %c%d of %c%d: lay the crosses over each other.",
			title,
			'A'+column,
			row+1,
			'A'+columns-1,
			rows,
		)
		cross := func(x, y float64) {
			pen.Line(0.1, false, [2]float64{x - 3, y}, [2]float64{x + 3, y})
			pen.Line(0.1, false, [2]float64{x, y - 3}, [2]float64{x, y + 3})
			pen.Circle(0.1, x, y, 1.5)
		}
		middle := overlap / 2
		for _, y := range []float64{low + 0.2*(high-low), high - 0.2*(high-low)} {
			if column > 0 {
				cross(left+middle, y)
			}
			if column < columns-1 {
				cross(right-middle, y)
			}
		}
		for _, x := range []float64{left + 0.2*(right-left), right - 0.2*(right-left)} {
			if row > 0 {
				cross(x, high-middle)
			}
			if row < rows-1 {
				cross(x, low+middle)
			}
		}
	}
	checkBar(pen, pen.face, title)
}
