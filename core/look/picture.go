package look

import (
	"image"
	"image/color"
	"math"

	"cinderpath/core/form"
	"cinderpath/core/relief"
)

// Picture is asked of a view.
type Picture struct {
	Box   form.Box // of the view, model mm
	Pixel float64  // model mm
	Lines bool     // the drawing's lines on top
	Only  []bool   // by panel: those in colour, the rest grey; nil for all
	Small relief.Laid
}

// grey is what stands back.
var grey = [3]float64{158, 158, 158}

// fine is how many points each way a pixel is seen by.
const fine = 2

// Paint takes the picture of a view from a frame of its grid. What is beside the vehicle is
// clear.
func Paint(s *form.Sight, g *form.Grid, f Frame, p Picture) *image.NRGBA {
	r := s.Raster(p.Box, p.Pixel/fine)
	width, height := (r.NX+fine-1)/fine, (r.NY+fine-1)/fine
	out := image.NewNRGBA(image.Rect(0, 0, width, height))
	light := make([]float64, len(g.Texels))
	for i, t := range g.Texels {
		light[i] = lit(t.Normal, s.Side)
	}
	const band = 16
	form.Each((height+band-1)/band, func(n int) {
		for y := n * band; y < min((n+1)*band, height); y++ {
			for x := range width {
				set(out, x, y, mean(s, g, f, &r, light, p.Only, x, y))
			}
		}
	})
	small(out, s, &r, p.Small, p)
	if p.Lines {
		rule(out, s.Edges, p)
	}
	return out
}

func set(img *image.NRGBA, x, y int, c color.NRGBA) {
	i := img.PixOffset(x, y)
	img.Pix[i], img.Pix[i+1], img.Pix[i+2], img.Pix[i+3] = c.R, c.G, c.B, c.A
}

// mean is the colour of a pixel: of the points it is seen by.
func mean(s *form.Sight, g *form.Grid, f Frame, r *form.Raster, light []float64, only []bool, x, y int) color.NRGBA {
	var sum [3]float64
	hit := 0.0
	for j := y * fine; j < min((y+1)*fine, r.NY); j++ {
		for i := x * fine; i < min((x+1)*fine, r.NX); i++ {
			p := r.Panel[j*r.NX+i]
			if p < 0 {
				continue
			}
			c := grey
			if only == nil || only[p] {
				u, v := s.Flats[p].At(r.X+float64(i)*r.Step, r.Y+float64(j)*r.Step)
				c = f.at(g.Texels[p], u, v)
			}
			hit++
			for k := range 3 {
				sum[k] += c[k] * light[p]
			}
		}
	}
	if hit == 0 {
		return color.NRGBA{}
	}
	step := func(k int) uint8 { return uint8(min(sum[k]/hit, 255) + 0.5) }
	return color.NRGBA{step(0), step(1), step(2), uint8(255*hit/(fine*fine) + 0.5)}
}

// at is the colour at a place of a panel's flat frame, between the texels about it.
func (f Frame) at(t *form.Texels, u, v float64) (c [3]float64) {
	x, y := (u-t.X0)/t.Step-0.5, (v-t.Y0)/t.Step-0.5
	i, j := int(math.Floor(x)), int(math.Floor(y))
	dx, dy := x-float64(i), y-float64(j)
	all := 0.0
	for b := range 2 {
		for a := range 2 {
			ii, jj := min(max(i+a, 0), t.NX-1), min(max(j+b, 0), t.NY-1)
			px := f[4*(t.First+jj*t.NX+ii):]
			if px[3] == 0 {
				continue
			}
			w := (dx*float64(a) + (1-dx)*float64(1-a)) * (dy*float64(b) + (1-dy)*float64(1-b))
			all += w
			for k := range 3 {
				c[k] += w * float64(px[k])
			}
		}
	}
	if all > 1e-9 {
		for k := range c {
			c[k] /= all
		}
		return c
	}
	return f.near(t, i, j)
}

// near is the colour of the nearest texel that has area, of a few about a place.
func (f Frame) near(t *form.Texels, i, j int) (c [3]float64) {
	best := math.Inf(1)
	for b := j - 2; b <= j+3; b++ {
		for a := i - 2; a <= i+3; a++ {
			if a < 0 || b < 0 || a >= t.NX || b >= t.NY {
				continue
			}
			px := f[4*(t.First+b*t.NX+a):]
			if d := math.Hypot(float64(a-i), float64(b-j)); px[3] > 0 && d < best {
				best = d
				c = [3]float64{float64(px[0]), float64(px[1]), float64(px[2])}
			}
		}
	}
	if math.IsInf(best, 1) {
		return grey
	}
	return c
}

// lamp is where light comes from when the vehicle turns: the left, above the front.
var lamp = form.Vec{0.345, 0.493, 0.789}

// Lit is how bright a face of the turning vehicle is, 0 to 1.
func Lit(n form.Vec) float64 {
	return 0.42 + 0.38*(n[0]*lamp[0]+n[1]*lamp[1]+n[2]*lamp[2]+0.55)
}

// lit is how bright a face is: from above, and a little from the viewer's left, in every
// view alike.
func lit(n form.Vec, side form.Side) float64 {
	right := side.Right()
	across := n[0]*right[0] + n[1]*right[1] + n[2]*right[2]
	return 0.9 + 0.12*n[2] - 0.07*across
}
