package sheets

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"io"
	"math"
	"strings"

	"codeberg.org/go-pdf/fpdf"
	"golang.org/x/image/font/sfnt"
	"gonum.org/v1/plot/font"
	"gonum.org/v1/plot/vg"
)

// pages is a PDF that is drawn on as on any other canvas, origin in the lower left corner. The
// library embeds the fonts with every letter they have, so that text stays text.
type pages struct {
	doc    *fpdf.Fpdf
	height float64 // points
	at     affine
	kept   []affine
	fonts  map[string]bool
	images map[image.Image]string // kept once, however many pages show them
	size   [2]float64             // of a page, points
	width  vg.Length
	failed error
}

// affine maps drawing to page: x' = a x + c y + e, y' = b x + d y + f, points, y upward.
type affine struct{ a, b, c, d, e, f float64 }

func (m affine) of(p vg.Point) (x, y float64) {
	u, v := p.X.Points(), p.Y.Points()
	return m.a*u + m.c*v + m.e, m.b*u + m.d*v + m.f
}

// times does n first, then m.
func (m affine) times(n affine) affine {
	return affine{
		m.a*n.a + m.c*n.b,
		m.b*n.a + m.d*n.b,
		m.a*n.c + m.c*n.d,
		m.b*n.c + m.d*n.d,
		m.a*n.e + m.c*n.f + m.e,
		m.b*n.e + m.d*n.f + m.f,
	}
}

func newPages(width, height vg.Length) *pages {
	p := &pages{
		height: height.Points(), at: affine{a: 1, d: 1},
		fonts: map[string]bool{}, images: map[image.Image]string{},
		size: [2]float64{width.Points(), height.Points()},
	}
	p.doc = fpdf.NewCustom(&fpdf.InitType{UnitStr: "pt", Size: fpdf.SizeType{Wd: width.Points(), Ht: height.Points()}})
	p.doc.SetMargins(0, 0, 0)
	p.doc.SetAutoPageBreak(false, 0)
	p.NextPage()
	vg.Initialize(p)
	return p
}

// NextPage begins a page.
func (p *pages) NextPage() { p.doc.AddPage() }

// page is a place on the page as the library counts it, y downward.
func (p *pages) page(q vg.Point) (x, y float64) {
	x, y = p.at.of(q)
	return x, p.height - y
}

func (p *pages) SetLineWidth(w vg.Length) {
	p.width = w
	p.doc.SetLineWidth(w.Points() * math.Sqrt(math.Abs(p.at.a*p.at.d-p.at.b*p.at.c)))
}

func (p *pages) SetLineDash(pattern []vg.Length, offset vg.Length) {
	dashes := make([]float64, len(pattern))
	for i, d := range pattern {
		dashes[i] = d.Points()
	}
	p.doc.SetDashPattern(dashes, offset.Points())
}

func (p *pages) SetColor(c color.Color) {
	if c == nil {
		c = color.Black
	}
	n := color.NRGBAModel.Convert(c).(color.NRGBA)
	r, g, b := int(n.R), int(n.G), int(n.B)
	p.doc.SetFillColor(r, g, b)
	p.doc.SetDrawColor(r, g, b)
	p.doc.SetTextColor(r, g, b)
	p.doc.SetAlpha(float64(n.A)/255, "Normal")
}

func (p *pages) Rotate(angle float64) {
	sin, cos := math.Sincos(angle)
	p.at = p.at.times(affine{cos, sin, -sin, cos, 0, 0})
}

func (p *pages) Translate(q vg.Point) {
	p.at = p.at.times(affine{1, 0, 0, 1, q.X.Points(), q.Y.Points()})
}

func (p *pages) Scale(x, y float64) { p.at = p.at.times(affine{x, 0, 0, y, 0, 0}) }

func (p *pages) Push() { p.kept = append(p.kept, p.at) }

func (p *pages) Pop() {
	p.at = p.kept[len(p.kept)-1]
	p.kept = p.kept[:len(p.kept)-1]
}

func (p *pages) Stroke(path vg.Path) {
	if p.width > 0 && p.trace(path) {
		p.doc.DrawPath("D")
	}
}

func (p *pages) Fill(path vg.Path) {
	if p.trace(path) {
		p.doc.DrawPath("F*")
	}
}

// beside tells whether a box of page points lies wholly beside the page.
func (p *pages) beside(x0, y0, x1, y1 float64) bool {
	const pen = 10 // wider than any line
	return max(x0, x1) < -pen || min(x0, x1) > p.size[0]+pen || max(y0, y1) < -pen || min(y0, y1) > p.size[1]+pen
}

// shown gives those strokes of a path, from one move to the next, that may touch the page.
func (p *pages) shown(path vg.Path) (out vg.Path) {
	for len(path) > 0 {
		n := 1
		for n < len(path) && path[n].Type != vg.MoveComp {
			n++
		}
		x0, y0, x1, y1 := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
		for _, c := range path[:n] {
			reach := math.Abs(c.Radius.Points())
			for _, q := range append([]vg.Point{c.Pos}, c.Control...) {
				if c.Type == vg.CloseComp {
					continue
				}
				x, y := p.page(q)
				x0, y0, x1, y1 = min(x0, x-reach), min(y0, y-reach), max(x1, x+reach), max(y1, y+reach)
			}
		}
		if !p.beside(x0, y0, x1, y1) {
			out = append(out, path[:n]...)
		}
		path = path[n:]
	}
	return out
}

// trace lays a path down, as far as it may touch the page; false when nothing does. Arcs are
// walked in short chords' worth of curve.
func (p *pages) trace(path vg.Path) bool {
	path = p.shown(path)
	for _, c := range path {
		x, y := p.page(c.Pos)
		switch c.Type {
		case vg.MoveComp:
			p.doc.MoveTo(x, y)
		case vg.LineComp:
			p.doc.LineTo(x, y)
		case vg.ArcComp:
			p.arc(c)
		case vg.CurveComp:
			ax, ay := p.page(c.Control[0])
			bx, by := p.page(c.Control[len(c.Control)-1])
			p.doc.CurveBezierCubicTo(ax, ay, bx, by, x, y)
		case vg.CloseComp:
			p.doc.ClosePath()
		}
	}
	return len(path) > 0
}

// arc is a row of cubic curves, each at most an eighth of a turn: true to a ten-thousandth
// of the radius.
func (p *pages) arc(c vg.PathComp) {
	n := max(int(math.Ceil(math.Abs(c.Angle)/(math.Pi/4))), 1)
	step := c.Angle / float64(n)
	k := vg.Length(4.0 / 3 * math.Tan(step/4))
	at := func(angle float64) (on, along vg.Point) {
		sin, cos := math.Sincos(angle)
		s, o := vg.Length(sin)*c.Radius, vg.Length(cos)*c.Radius
		return vg.Point{X: c.Pos.X + o, Y: c.Pos.Y + s}, vg.Point{X: -s, Y: o}
	}
	from, out := at(c.Start)
	p.doc.LineTo(p.page(from))
	for i := range n {
		to, in := at(c.Start + float64(i+1)*step)
		ax, ay := p.page(vg.Point{X: from.X + k*out.X, Y: from.Y + k*out.Y})
		bx, by := p.page(vg.Point{X: to.X - k*in.X, Y: to.Y - k*in.Y})
		x, y := p.page(to)
		p.doc.CurveBezierCubicTo(ax, ay, bx, by, x, y)
		from, out = to, in
	}
}

func (p *pages) FillString(f font.Face, at vg.Point, words string) {
	if words == "" || f.Font.Size == 0 {
		return
	}
	name := strings.ToLower(f.Name())
	if !p.fonts[name] {
		p.fonts[name] = true
		var raw bytes.Buffer
		if _, err := f.Face.WriteSourceTo(nil, &raw); err != nil {
			p.failed = fmt.Errorf("font %s: %w", name, err)
			return
		}
		p.doc.AddUTF8FontFromBytes(name, "", raw.Bytes())
	}
	p.doc.SetFont(name, "", f.Font.Size.Points())
	x, y := p.page(at)
	turn := math.Atan2(p.at.b, p.at.a) * 180 / math.Pi
	if turn != 0 {
		p.doc.TransformBegin()
		p.doc.TransformRotate(turn, x, y)
		defer p.doc.TransformEnd()
	}
	p.doc.Text(x, y, spelled(f.Face, words))
}

// spelled gives words with a question mark for each letter that the font does not have.
func spelled(f *sfnt.Font, words string) string {
	var buffer sfnt.Buffer
	return strings.Map(func(r rune) rune {
		if i, err := f.GlyphIndex(&buffer, r); err != nil || i == 0 || r > 0xffff {
			return '?'
		}
		return r
	}, words)
}

// DrawImage draws a picture on the white of the paper.
func (p *pages) DrawImage(rect vg.Rectangle, img image.Image) {
	x0, y0 := p.page(rect.Min)
	x1, y1 := p.page(rect.Max)
	if p.beside(x0, y0, x1, y1) {
		return
	}
	options := fpdf.ImageOptions{ImageType: "jpeg"}
	name, ok := p.images[img]
	if !ok {
		paper := image.NewRGBA(img.Bounds())
		draw.Draw(paper, paper.Rect, image.White, image.Point{}, draw.Src)
		draw.Draw(paper, paper.Rect, img, img.Bounds().Min, draw.Over)
		var packed bytes.Buffer
		if err := jpeg.Encode(&packed, paper, &jpeg.Options{Quality: 85}); err != nil {
			p.failed = err
			return
		}
		name = fmt.Sprint("picture ", len(p.images))
		p.images[img] = name
		p.doc.RegisterImageOptionsReader(name, options, &packed)
	}
	p.doc.ImageOptions(name, x0, y1, x1-x0, y0-y1, false, options, 0, "")
}

func (p *pages) WriteTo(w io.Writer) (int64, error) {
	if p.failed != nil {
		return 0, p.failed
	}
	var out bytes.Buffer
	if err := p.doc.Output(&out); err != nil {
		return 0, err
	}
	return out.WriteTo(w)
}
