package scheme

import (
	"image"
	"math"

	"cinderpath/core/colour"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/zone"

	"gonum.org/v1/gonum/mat"
)

// Pick says which colour a place of a picture shows.
type Pick struct {
	Pixel  [2]float64 `json:"pixel"`
	Colour int        `json:"colour"` // from 0
}

// Reading is what a picture is read with.
type Reading struct {
	Pairs []Pair // two to four
	Picks []Pick // none: proposed by clustering
	Side  form.Side
	Far   string
}

// squaresAlong is into how many squares the longer side of a view is parted.
const squaresAlong = 420

// PictureTold is what was read from a picture.
type PictureTold struct {
	Trace  Trace
	Shares []float64 // of each colour on what is known of it
	Widths []float64 // with which fields have as much edge as is seen, real mm; nought where that is too little
	Tints  []string  // as the picture shows the colours
	Specks int       // squares that were too small to count
}

// ReadPicture reads which colour of a pattern lies where on one side of a vehicle. g is its
// surface; light on the picture may be uneven, its tints other than the pattern's.
func (p Pattern) ReadPicture(img image.Image, r Reading, g *form.Grid) (PictureTold, error) {
	m, err := align(r.Pairs)
	if err != nil {
		return PictureTold{}, err
	}
	t, at := silhouette(r.Side, g)
	t.Far = r.Far
	// The mean of each square in the picture, as lightness and hue.
	n := t.Wide * t.High
	points := make([]colour.Lab, n)
	known := make([]bool, n)
	count := 0
	for k := range n {
		if at[k] < 0 {
			continue
		}
		x := t.Origin[0] + (float64(k%t.Wide)+0.5)*t.Pixel
		y := t.Origin[1] + (float64(k/t.Wide)+0.5)*t.Pixel
		u, v := m.at(x, y)
		u1, v1 := m.at(x+t.Pixel, y)
		if c, ok := meanOf(img, u, v, math.Hypot(u1-u, v1-v)/2); ok {
			points[k], known[k] = c, true
			count++
		}
	}
	if count < n/50 || count < 100 {
		return PictureTold{}, measure.Refuse(
			"pairs",
			"hardly anything of the vehicle lies on the picture",
			"mark the common places again",
		)
	}
	tints, err := p.tints(img, r, points, known)
	if err != nil {
		return PictureTold{}, err
	}
	labels := sorted(points, known, tints, t.Wide)
	specks := 0
	if least, ok := p.Narrowest(); ok {
		side := least / 10 / t.Pixel
		specks = clean(labels, t.Wide, max(int(side*side), 3))
	}
	out := PictureTold{Shares: make([]float64, len(p.Colours)), Specks: specks}
	for _, v := range labels {
		if v != unknown {
			out.Shares[v] += 1 / float64(count)
		}
	}
	for _, c := range tints {
		rgb, _ := c.XYZ().RGB()
		out.Tints = append(out.Tints, rgb.Hex())
	}
	if out.Widths, err = p.fitted(labels, at, t.Wide, out.Shares, g); err != nil {
		return PictureTold{}, err
	}
	t.Rows = packSquares(labels, t.Wide)
	out.Trace = t
	return out, nil
}

// silhouette is the frame of a view with the texels that its squares show, -1 for none: what takes no
// scheme, tracks and rubber, and what they hide, tells nothing of it.
func silhouette(side form.Side, g *form.Grid) (t Trace, shows []int32) {
	right, down, toward := side.Axes()
	low, high := [2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}
	each := func(f func(u, v, depth float64, texel int32)) {
		for _, x := range g.Texels {
			if x.Normal.Dot(toward) <= 0 {
				continue
			}
			bare := zone.Bare(x.Zone)
			for k, a := range x.Area {
				if a > 0 {
					p := x.Point(k)
					texel := int32(x.First + k)
					if bare {
						texel = -1
					}
					f(p.Dot(right), p.Dot(down), p.Dot(toward), texel)
				}
			}
		}
	}
	each(func(u, v, _ float64, _ int32) {
		low[0], low[1] = min(low[0], u), min(low[1], v)
		high[0], high[1] = max(high[0], u), max(high[1], v)
	})
	t = Trace{Side: side, Pixel: max((high[0]-low[0])/squaresAlong, (high[1]-low[1])/squaresAlong, g.Step)}
	t.Origin = [2]float64{low[0] - t.Pixel, low[1] - t.Pixel}
	t.Wide, t.High = int((high[0]-low[0])/t.Pixel)+3, int((high[1]-low[1])/t.Pixel)+3
	shows = make([]int32, t.Wide*t.High)
	near := make([]float64, len(shows))
	for k := range near {
		near[k], shows[k] = math.Inf(-1), -1
	}
	each(func(u, v, depth float64, texel int32) {
		k := int((v-t.Origin[1])/t.Pixel)*t.Wide + int((u-t.Origin[0])/t.Pixel)
		if depth > near[k] {
			near[k], shows[k] = depth, texel
		}
	})
	return t, shows
}

// meanOf is the mean of a picture about a place.
func meanOf(img image.Image, u, v, radius float64) (colour.Lab, bool) {
	box := img.Bounds()
	var sum [3]float64
	n := 0.0
	r := max(radius, 0.5)
	for y := int(math.Floor(v - r + 0.5)); y <= int(math.Floor(v+r-0.5+1e-9)); y++ {
		for x := int(math.Floor(u - r + 0.5)); x <= int(math.Floor(u+r-0.5+1e-9)); x++ {
			if !(image.Point{x, y}.In(box)) {
				continue
			}
			c := light(img, x, y)
			for k := range sum {
				sum[k] += c[k]
			}
			n++
		}
	}
	if n == 0 {
		return colour.Lab{}, false
	}
	for k := range sum {
		sum[k] /= n
	}
	return colour.OfLight(sum).Lab(), true
}

func light(img image.Image, x, y int) [3]float64 {
	r, g, b, _ := img.At(x, y).RGBA()
	return colour.RGB{uint8(r >> 8), uint8(g >> 8), uint8(b >> 8)}.Linear()
}

// evenings are how often light is evened and colours are given anew.
const evenings = 5

// sorted gives each square the colour that it is nearest to, while uneven light is evened: what is
// lighter or darker than its colour's tint is told by a curved surface over the picture.
func sorted(points []colour.Lab, known []bool, tints []colour.Lab, wide int) []uint8 {
	labels := make([]uint8, len(points))
	high := float64(len(points) / wide)
	terms := func(k int) [6]float64 {
		x, y := 2*float64(k%wide)/float64(wide)-1, 2*float64(k/wide)/high-1
		return [6]float64{1, x, y, x * y, x * x, y * y}
	}
	var bend [6]float64 // of lightness, over the picture
	for round := range evenings {
		var ata [36]float64
		var atb [6]float64
		for k := range points {
			labels[k] = unknown
			if !known[k] {
				continue
			}
			f := terms(k)
			c := points[k]
			for q := range f {
				c[0] -= bend[q] * f[q]
			}
			m := nearestTo(c, tints)
			labels[k] = uint8(m)
			off := points[k][0] - tints[m][0]
			if math.Abs(off) > 25 {
				continue
			}
			for a := range f {
				for b := range f {
					ata[6*a+b] += f[a] * f[b]
				}
				atb[a] += f[a] * off
			}
		}
		if round == evenings-1 {
			break
		}
		for q := range 6 {
			ata[7*q] += 1e-3
		}
		var x mat.VecDense
		if err := x.SolveVec(mat.NewDense(6, 6, ata[:]), mat.NewVecDense(6, atb[:])); err != nil {
			break
		}
		for q := range bend {
			bend[q] = x.AtVec(q)
		}
	}
	return labels
}
