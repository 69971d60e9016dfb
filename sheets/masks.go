package sheets

import (
	"cmp"
	"fmt"
	"image/color"
	"slices"
	"strings"

	"cinderpath/core/colour"
	"cinderpath/core/plan"
	"cinderpath/core/scheme"
	"cinderpath/core/zone"

	"gonum.org/v1/plot/vg"
)

// Room on a sheet of masks, mm: its width where panels are no wider, and about each panel.
const (
	maskWide = 186.0
	maskRoom = 9.0
)

// MaskStyle is how masks are drawn.
type MaskStyle struct {
	Inverse bool // what is sprayed is cut out of the panel, instead of what stays
	CutOnly bool // closed lines alone, for a cutting plotter

	crossings bool
}

// placedMask is a panel on the sheet: its lower left corner there, and the panel's own.
type placedMask struct {
	scheme.PanelMask
	x, y, x0, y0, wide, high float64
	slot                     float64 // its width, or that of its title
}

// namedRun is how short a run may be whose number has room, mm.
const namedRun = 2.5

// namedTicks is how small a panel may be whose ticks still have room for their names, mm: smaller ones
// are held against the model itself.
const namedTicks = 14.0

// letter is how wide a letter of small words is, mm.
const letter = 1.35

func (p placedMask) title() string {
	if p.Rolled {
		return fmt.Sprintf("%d  %s, laid round it, %d pieces", p.Number, p.Name, len(p.Pieces))
	}
	return fmt.Sprintf("%d  %s, %d pieces", p.Number, p.Name, len(p.Pieces))
}

// Masks draws the fields of a scheme on its panels, unrolled, at the model's size.
func Masks(m plan.MaskSheet, style MaskStyle) Drawing {
	var all []placedMask
	width := maskWide
	for _, p := range m.Panels {
		q := placedMask{PanelMask: p}
		x0, y0, x1, y1 := scheme.Box(p.Outline)
		q.x0, q.y0 = x0, y0
		q.wide, q.high = (x1-q.x0)/m.K, (y1-q.y0)/m.K
		q.slot = max(q.wide, letter*float64(len(q.title())))
		width = max(width, q.wide+2*plan.MaskAllowance)
		all = append(all, q)
	}
	// Rows of panels, the tallest first.
	slices.SortStableFunc(all, func(a, b placedMask) int { return cmp.Compare(b.high, a.high) })
	x, y, row := 0.0, 0.0, 0.0
	for i := range all {
		if x > 0 && x+all[i].slot > width {
			x, y, row = 0, y+row+maskRoom, 0
		}
		all[i].x, all[i].y = x+plan.MaskAllowance, y
		x += all[i].slot + maskRoom
		row = max(row, all[i].high)
	}
	words := 4.0*float64(len(m.Words)) + 6
	if style.CutOnly {
		words = 0
	}
	high := y + row + maskRoom
	d := Drawing{
		Title: fmt.Sprintf("%s, %s: masks.", m.Name, m.Scale), Width: width, Height: high + words,
	}
	d.Draw = func(c Pen) {
		line := d.Height - 4
		if !style.CutOnly {
			for _, w := range m.Words {
				c.Say(0, line, w)
				line -= 4
			}
		}
		for _, p := range all {
			p.y = high - p.y - p.high - 4
			p.draw(c, m, style)
		}
	}
	return d
}

func (p placedMask) at(q [2]float64, k float64) [2]float64 {
	return [2]float64{p.x + (q[0]-p.x0)/k, p.y + (q[1]-p.y0)/k}
}

func (p placedMask) ring(r scheme.Ring, k float64) [][2]float64 {
	out := make([][2]float64, len(r))
	for i, q := range r {
		out[i] = p.at(q, k)
	}
	return out
}

func (p placedMask) draw(c Pen, m plan.MaskSheet, style MaskStyle) {
	if style.crossings {
		p.cross(c, m)
		return
	}
	cut := func(piece scheme.Piece) bool { return m.Masked[piece.Colour] != style.Inverse }
	if !style.CutOnly {
		for _, piece := range p.Pieces {
			if cut(piece) {
				c.SetColor(tint(m.Colours[piece.Colour].Hex))
				var path vg.Path
				for _, r := range piece.Rings {
					path = append(path, ringPath(p.ring(r, m.K))...)
				}
				c.Fill(path)
			}
		}
		c.SetColor(color.Gray{Y: 140})
		for _, r := range p.Outline {
			c.Line(0.1, true, p.ring(r, m.K)...)
		}
		c.SetLineDash([]vg.Length{1 * mm, 0.7 * mm}, 0)
		for _, r := range scheme.Allowed(p.Outline, plan.MaskAllowance*m.K) {
			c.Line(0.1, true, p.ring(r, m.K)...)
		}
		c.SetLineDash(nil, 0)
	}
	c.SetColor(color.Black)
	for _, piece := range p.Pieces {
		if cut(piece) {
			for _, r := range piece.Rings {
				c.Line(0.15, true, p.ring(r, m.K)...)
			}
		}
	}
	if style.CutOnly {
		return
	}
	beside := map[string]bool{} // what lies there without a mask is named once
	for _, tick := range p.Ticks {
		if min(p.wide, p.high) < namedTicks {
			break // a mark without a name meets nothing
		}
		name := tick.Name
		if name == "" {
			if beside[tick.Zone] {
				continue
			}
			words := zone.Words(tick.Zone)
			beside[tick.Zone], name = true, strings.TrimSpace(words[strings.LastIndex(words, ", ")+1:])
		}
		a := p.at(tick.At, m.K)
		c.Line(0.2, false, a, [2]float64{a[0] + 2*tick.Along[0], a[1] + 2*tick.Along[1]})
		c.SetColor(color.Gray{Y: 110})
		x := a[0] + 2.4*tick.Along[0] - 1
		if tick.Along[0] < -0.3 { // it ends where the tick does
			x = a[0] + 2.4*tick.Along[0] - 0.75*letter*float64(len(name))
		}
		c.Say(x, a[1]+2.4*tick.Along[1]-0.8, name)
		c.SetColor(color.Black)
	}
	for _, piece := range p.Pieces {
		if !cut(piece) {
			continue
		}
		at := p.at(piece.Middle, m.K)
		x0, y0, x1, y1 := scheme.Box(piece.Rings[:1])
		// The whole name where there is room for it, the number where there is room for that.
		long := fmt.Sprintf("%s, %d of %d", m.Colours[piece.Colour].Name, piece.Number, piece.Of)
		short := fmt.Sprintf("%d/%d", piece.Number, piece.Of)
		for _, said := range []string{long, short} {
			if wide := letter * float64(len(said)); (x1-x0)/m.K > 1.4*wide && (y1-y0)/m.K > 3 {
				c.Say(at[0]-wide/2, at[1]-1, said)
				break
			}
		}
	}
	c.SetColor(color.RGBA{R: 150, G: 40, B: 30, A: 255})
	for _, r := range m.Runs(p.PanelMask) {
		if r.LongMM < namedRun {
			continue // the next to it says where it lies
		}
		at := p.at(r.Middle, m.K)
		c.Say(at[0], at[1], fmt.Sprintf("t%d", r.Number))
	}
	c.SetColor(color.Black)
	c.Say(p.x, p.y+p.high+1.5, p.title())
}

func ringPath(ring [][2]float64) (path vg.Path) {
	for i, q := range ring {
		if i == 0 {
			path.Move(point(q[0], q[1]))
		} else {
			path.Line(point(q[0], q[1]))
		}
	}
	path.Close()
	return path
}

// tint is a colour as pale as ink is spared.
func tint(hex string) color.Color {
	c := colour.Of(hex)
	pale := func(v uint8) uint8 { return 255 - (255-v)/4 }
	return color.RGBA{R: pale(c[0]), G: pale(c[1]), B: pale(c[2]), A: 255}
}

// Crossings draws the panels with marks where edges of colours run over theirs.
func Crossings(m plan.MaskSheet) Drawing {
	d := Masks(m, MaskStyle{crossings: true})
	d.Title = fmt.Sprintf("%s, %s: crossings.", m.Name, m.Scale)
	return d
}

// cross draws them on a panel.
func (p placedMask) cross(c Pen, m plan.MaskSheet) {
	c.SetColor(color.Gray{Y: 140})
	for _, r := range p.Outline {
		c.Line(0.1, true, p.ring(r, m.K)...)
	}
	corners := map[[2]float64]string{}
	for k, x := range p.Crossed {
		at := p.at(x.At, m.K)
		c.SetColor(color.Black)
		c.Circle(0.2, at[0], at[1], 0.8)
		if corners[x.From] == "" {
			corners[x.From] = cornerName(len(corners))
			from := p.at(x.From, m.K)
			c.SetColor(color.RGBA{R: 150, G: 40, B: 30, A: 255})
			c.Say(from[0]-letter/2, from[1]-0.8, corners[x.From])
			c.SetColor(color.Black)
		}
		// The words stand on the inner side.
		mid := [2]float64{p.x + p.wide/2, p.y + p.high/2}
		dx, dy := 1.4, 0.9
		if at[0] > mid[0] {
			dx = -14
		}
		if at[1] > mid[1] {
			dy = -3.2
		}
		c.Say(
			at[0]+dx,
			at[1]+dy,
			fmt.Sprintf("%d: %s %.1f %c/%c", k+1, corners[x.From], x.Along/m.K, 'a'+x.Below, 'a'+x.Above),
		)
	}
	c.SetColor(color.Black)
	c.Say(p.x, p.y+p.high+1.5, p.Name)
}

// cornerName is the name of a corner by its number: A to Z, then A2 and so on.
func cornerName(n int) string {
	name := string(rune('A' + n%26))
	if n >= 26 {
		name += fmt.Sprint(n/26 + 1)
	}
	return name
}

// Guide draws the five views with their colours beneath.
func Guide(g plan.Guide, p plan.Plan, seen []plan.Portrait) Drawing {
	d := Views(p, seen)
	d.Title = fmt.Sprintf("%s, %s: painting guide.", g.Name, g.Scale)
	const row = 7.0
	foot := row*float64(len(g.Lines)) + 6
	views := d.Draw
	d.Height += foot
	d.Draw = func(c Pen) {
		c.Push()
		c.Translate(point(0, foot))
		views(c)
		c.Pop()
		for i, l := range g.Lines {
			y := foot - 6 - row*float64(i+1) + 2
			rgb := colour.Of(l.Hex)
			c.SetColor(color.RGBA{R: rgb[0], G: rgb[1], B: rgb[2], A: 255})
			c.Fill(lines(true, point(0, y), point(9, y), point(9, y+5), point(0, y+5)))
			c.SetColor(color.Black)
			c.Line(0.1, true, [2]float64{0, y}, [2]float64{9, y}, [2]float64{9, y + 5}, [2]float64{0, y + 5})
			c.Say(11, y+1.4, l.Words)
		}
	}
	return d
}
