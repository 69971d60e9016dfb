package sheets

import (
	"image"
	"io"
	"strings"

	"gonum.org/v1/plot/font"
	"gonum.org/v1/plot/font/liberation"
	"gonum.org/v1/plot/vg"
)

// book is running text on pages: headings, paragraphs, pictures, from top to bottom.
type book struct {
	canvas *pages
	paper  Paper
	y      float64 // what is left of the page, mm from its lower edge
	cache  *font.Cache
	foot   string
	pages  int
}

const (
	bookEdge = 18.0 // margins, mm
	points   = 25.4 / 72
)

func newBook(p Paper, foot string) *book {
	b := &book{
		canvas: newPages(vg.Length(p.Width)*mm, vg.Length(p.Height)*mm),
		paper:  p,
		cache:  font.NewCache(liberation.Collection()),
		foot:   foot,
	}
	b.open()
	return b
}

func (b *book) face(size float64, bold bool) font.Face {
	f := font.Font{Typeface: "Liberation", Variant: "Sans"}
	if bold {
		f.Weight = 2 // golang.org/x/image/font: bold
	}
	return b.cache.Lookup(f, vg.Length(size))
}

// open begins a page.
func (b *book) open() {
	b.pages++
	b.y = b.paper.Height - bookEdge
	b.canvas.FillString(b.face(8, false), point(bookEdge, 10), b.foot)
}

func (b *book) turn() {
	b.canvas.NextPage()
	b.open()
}

// need turns the page where so much does not fit.
func (b *book) need(height float64) {
	if b.y-height < bookEdge {
		b.turn()
	}
}

// say sets a paragraph, wrapped, indented by mm.
func (b *book) say(size float64, bold bool, indent float64, words string) {
	face := b.face(size, bold)
	room := vg.Length(b.paper.Width-2*bookEdge-indent) * mm
	line := ""
	flush := func() {
		if line == "" {
			return
		}
		high := size * points * 1.35
		b.need(high)
		b.y -= high
		b.canvas.FillString(face, point(bookEdge+indent, b.y), line)
		line = ""
	}
	for _, word := range strings.Fields(words) {
		next := strings.TrimSpace(line + " " + word)
		if line != "" && face.Width(next) > room {
			flush()
			next = word
		}
		line = next
	}
	flush()
}

// gap leaves some space, and a hairline in it when ruled.
func (b *book) gap(height float64, ruled bool) {
	b.need(height)
	if ruled {
		b.canvas.SetLineWidth(0.2 * mm)
		b.canvas.Stroke(lines(false, point(bookEdge, b.y-height/2), point(b.paper.Width-bookEdge, b.y-height/2)))
	}
	b.y -= height
}

// box draws an empty square to be ticked, at the next line.
func (b *book) tick(size, indent float64, words string) {
	high := size * points * 1.35
	b.need(high)
	at := b.y - high
	b.canvas.SetLineWidth(0.25 * mm)
	b.canvas.Stroke(
		lines(
			true,
			point(bookEdge+indent, at),
			point(bookEdge+indent+3, at),
			point(bookEdge+indent+3, at+3),
			point(bookEdge+indent, at+3),
		),
	)
	b.say(size, false, indent+5, words)
}

// picture sets an image, at most so wide and high.
func (b *book) picture(img image.Image, width, height float64) {
	size := img.Bounds().Size()
	if size.X == 0 || size.Y == 0 {
		return
	}
	k := min(width/float64(size.X), height/float64(size.Y))
	w, h := k*float64(size.X), k*float64(size.Y)
	b.need(h + 3)
	b.y -= h
	b.canvas.DrawImage(vg.Rectangle{Min: point(bookEdge+28, b.y), Max: point(bookEdge+28+w, b.y+h)}, img)
	b.y -= 3
}

func (b *book) write(w io.Writer) error {
	_, err := b.canvas.WriteTo(w)
	return err
}
