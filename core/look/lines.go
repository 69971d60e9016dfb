package look

import (
	"image"
	"math"

	"cinderpath/core/form"
)

// pens are how wide and how dark edges are drawn, by weight: pixels and share of black.
var pens = [...]struct{ width, dark float64 }{
	form.Heavy: {1.5, 0.9},
	form.Plain: {1, 0.72},
	form.Fine:  {0.8, 0.38},
}

// rule draws edges over a picture.
func rule(img *image.NRGBA, edges []form.Edge, p Picture) {
	k := 1 / p.Pixel
	for _, e := range edges {
		pen := pens[e.Weight]
		ax, ay := (e.A[0]-p.Box.X)*k, (e.A[1]-p.Box.Y)*k
		bx, by := (e.B[0]-p.Box.X)*k, (e.B[1]-p.Box.Y)*k
		stroke(img, ax, ay, bx, by, pen.width, pen.dark)
	}
}

// stroke darkens the pixels along a line by how much of each it covers.
func stroke(img *image.NRGBA, ax, ay, bx, by, width, dark float64) {
	half := width/2 + 0.5
	size := img.Bounds().Size()
	x0, x1 := max(int(math.Min(ax, bx)-half), 0), min(int(math.Max(ax, bx)+half)+1, size.X)
	y0, y1 := max(int(math.Min(ay, by)-half), 0), min(int(math.Max(ay, by)+half)+1, size.Y)
	dx, dy := bx-ax, by-ay
	square := dx*dx + dy*dy
	if square == 0 {
		return
	}
	long := math.Sqrt(square)
	for y := y0; y < y1; y++ {
		py := float64(y) + 0.5 - ay
		from, to := x0, x1
		if math.Abs(dy) > 1e-9 { // only where the line passes this row
			reach := half * long / math.Abs(dy)
			middle := ax + dx*py/dy
			spread := reach + math.Abs(dx/dy)*half
			from, to = max(x0, int(middle-spread)), min(x1, int(middle+spread)+1)
		}
		for x := from; x < to; x++ {
			px := float64(x) + 0.5 - ax
			t := min(max((px*dx+py*dy)/square, 0), 1)
			cover := min(max(half-math.Hypot(px-t*dx, py-t*dy), 0), 1) * min(width, 1)
			if cover > 0 {
				darken(img, x, y, cover*dark)
			}
		}
	}
}

// darken lays black over a pixel; beside the vehicle that is all there is.
func darken(img *image.NRGBA, x, y int, share float64) {
	i := img.PixOffset(x, y)
	below := float64(img.Pix[i+3]) / 255
	all := share + below*(1-share)
	k := below * (1 - share) / all
	for c := range 3 {
		img.Pix[i+c] = uint8(float64(img.Pix[i+c])*k + 0.5)
	}
	img.Pix[i+3] = uint8(255*all + 0.5)
}
