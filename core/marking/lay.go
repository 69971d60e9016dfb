package marking

import (
	"math"
	"slices"

	"cinderpath/core/form"
)

// Drawn is a marking with where it stands, as it lies on a surface.
type Drawn struct {
	ID      string
	Drawing Drawing
	Wide    float64 // real mm
	Painted bool    // through a stencil, in place of a decal
	Jar     string  // that it is painted from
	Places  []Place
}

// Colours are those of some markings, each once, in the order in which they come.
func Colours(all []Drawn) (out []string) {
	for _, d := range all {
		for _, hex := range []string{d.Drawing.Hex, d.Drawing.Edge} {
			if hex != "" && !slices.Contains(out, hex) {
				out = append(out, hex)
			}
		}
	}
	return out
}

// InColour is what of some markings is of one colour.
func InColour(all []Drawn, hex string) (out []Drawn) {
	for _, d := range all {
		if d.Drawing.Hex != hex && d.Drawing.Edge != hex {
			continue
		}
		if d.Drawing.Hex != hex {
			d.Drawing.Hex = "" // what is drawn of another colour is left out, and still parts the line from it
		}
		if d.Drawing.Edge != hex {
			d.Drawing.Edge = ""
		}
		out = append(out, d)
	}
	return out
}

// frame is how a marking lies in space: its middle, to the right, up and away from the surface.
type frame struct{ at, right, up, out form.Vec }

// flat is from when on a face counts as one that is read from above.
const flat = 0.97

// newFrame is that of a place on a face.
func newFrame(p Place, normal form.Vec) frame {
	up := form.Vec{0, 0, 1}
	if math.Abs(normal[2]) > flat {
		up = form.Vec{1, 0, 0}
	}
	right := up.Cross(normal).Unit()
	up = normal.Cross(right)
	a := p.Turn * math.Pi / 180
	return frame{
		p.At, right.Times(math.Cos(a)).Plus(up.Times(math.Sin(a))),
		up.Times(math.Cos(a)).Plus(right.Times(-math.Sin(a))), normal,
	}
}

// sees is where a point in space lies in the frame, and how far it is from its plane.
func (f frame) sees(p form.Vec) (q Point, off float64) {
	d := p.Sub(f.at)
	return Point{d.Dot(f.right), d.Dot(f.up)}, d.Dot(f.out)
}

// faceOf is the outward direction of the face of its zone that a place lies on; ok is false beside it.
func faceOf(p Place, g *form.Grid) (normal form.Vec, ok bool) {
	least := math.Inf(1)
	for _, t := range g.Texels {
		if t.Zone != p.Zone {
			continue
		}
		off := math.Abs(t.Normal.Dot(p.At.Sub(t.Origin)))
		if q := t.Flat(p.At); off < least {
			if k, on := t.At(q[0], q[1]); on && t.Area[k] > 0 {
				least, normal, ok = off, t.Normal, true
			}
		}
	}
	return normal, ok && least <= astray
}

// How far a place may lie off the surface that it was set on, since a body is shaped again; how far a
// surface may bend away under a marking, and how much it may turn: real mm and the cosine.
const (
	astray = 60.0
	bends  = 0.35 // of the marking's width
	turns  = 0.5
)

// Lost are the places of a marking that lie on no face of their zone any more.
func (d Drawn) Lost(g *form.Grid) (out []Place) {
	for _, p := range d.Places {
		if _, ok := faceOf(p, g); !ok {
			out = append(out, p)
		}
	}
	return out
}

// Cover is how much of each texel of a grid is covered by what is drawn in any colour, and which panels
// that is on; nothing where nothing is drawn. A marking bends with its zone, as far as that turns by sixty
// degrees and falls away by a third of its width.
func Cover(all []Drawn, g *form.Grid) (cover []float32, panels []int) { return CoverPart(all, g, g) }

// CoverPart is Cover of a grid of a part of the surface; the other one is of all of it.
func CoverPart(all []Drawn, whole, g *form.Grid) (cover []float32, panels []int) {
	on := map[int]bool{}
	for _, d := range all {
		edge := d.Drawing.EdgeMM
		cover = d.onto(whole, g, cover, on, edge, func(f Figure, q Point, step float64) float32 {
			return d.Drawing.on(f.Beyond(q), edge, step)
		})
	}
	for i := range g.Texels {
		if on[i] {
			panels = append(panels, i)
		}
	}
	return cover, panels
}

// About is how much of each texel lies on markings or so near to them, real mm; boxed takes the whole field
// that each stands in. Nothing where there are none.
func About(all []Drawn, g *form.Grid, margin float64, boxed bool) (cover []float32) {
	on := map[int]bool{}
	for _, d := range all {
		margin := margin + d.Drawing.EdgeMM
		cover = d.onto(g, g, cover, on, 2*margin, func(f Figure, q Point, step float64) float32 {
			off := f.Beyond(q)
			if boxed {
				off = max(math.Abs(q[0])-f.Wide/2, math.Abs(q[1])-f.High/2)
			}
			return part(off-margin, step)
		})
	}
	return cover
}

// part is how much of a texel so wide lies within a rim that its middle is so far beyond.
func part(beyond, step float64) float32 { return float32(min(max(0.5-beyond/step, 0), 1)) }

// onto lays a marking on the texels that it reaches, the most of what is there and what of says.
func (d Drawn) onto(
	whole, g *form.Grid, cover []float32, on map[int]bool, more float64, of func(f Figure, q Point, step float64) float32,
) []float32 {
	figure := d.Drawing.Figure(d.Wide)
	if !(figure.Wide > 0) {
		return cover
	}
	reach := math.Hypot(figure.Wide, figure.High)/2 + more
	for _, p := range d.Places {
		normal, ok := faceOf(p, whole)
		if !ok {
			continue
		}
		f := newFrame(p, normal)
		for i, t := range g.Texels {
			if t.Zone != p.Zone || t.Normal.Dot(normal) < turns {
				continue
			}
			i0, i1, j0, j1 := t.Near(p.At, reach)
			for j := j0; j < j1; j++ {
				for x := i0; x < i1; x++ {
					k := j*t.NX + x
					q, off := f.sees(t.Point(k))
					if t.Area[k] <= 0 || math.Abs(off) > max(bends*d.Wide, 2*t.Step) {
						continue
					}
					if v := of(figure, q, t.Step); v > 0 {
						if cover == nil {
							cover = make([]float32, g.Count)
						}
						cover[t.First+k] = max(cover[t.First+k], v)
						on[i] = true
					}
				}
			}
		}
	}
	return cover
}

// on is how much of a texel so wide is of the colours that the drawing has, so far beyond its rim.
func (d Drawing) on(beyond, edge, step float64) (v float32) {
	inner := part(beyond, step)
	if d.Hex != "" {
		v = inner
	}
	if d.Edge != "" && edge > 0 {
		v += part(beyond-edge, step) - inner
	}
	return v
}
