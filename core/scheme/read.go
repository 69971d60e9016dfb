package scheme

import (
	"cmp"
	"fmt"
	"image"
	"math"
	"slices"

	"cinderpath/core/colour"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/zone"

	"gonum.org/v1/gonum/mat"
)

// Pair says that a place of a picture is a place of a view.
type Pair struct {
	Pixel [2]float64 `json:"pixel"`
	At    [2]float64 `json:"at"` // to the right and down in the view's plane, real mm
}

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

// turned maps the plane of a view onto a picture.
type onto struct{ h [9]float64 }

func (m onto) at(x, y float64) (u, v float64) {
	w := m.h[6]*x + m.h[7]*y + m.h[8]
	return (m.h[0]*x + m.h[1]*y + m.h[2]) / w, (m.h[3]*x + m.h[4]*y + m.h[5]) / w
}

// align fits a picture: two pairs turn and size it, three shear it, four bring perspective.
func align(pairs []Pair) (onto, error) {
	n := len(pairs)
	if n < 2 || n > 4 {
		return onto{}, measure.Refuse("pairs", fmt.Sprintf("%d common places", n), "mark two to four that are seen on both")
	}
	// Near the origin and of size one, so that the equations are even.
	cx, cy, size := 0.0, 0.0, 0.0
	for _, p := range pairs {
		cx, cy = cx+p.At[0]/float64(n), cy+p.At[1]/float64(n)
	}
	for _, p := range pairs {
		size = max(size, math.Hypot(p.At[0]-cx, p.At[1]-cy))
	}
	if size < 1 {
		return onto{}, measure.Refuse("pairs", "the places are one and the same", "mark places that are far apart")
	}
	unknowns := map[int]int{2: 4, 3: 6, 4: 8}[n]
	a, b := mat.NewDense(2*n, unknowns, nil), mat.NewVecDense(2*n, nil)
	for i, p := range pairs {
		x, y := (p.At[0]-cx)/size, (p.At[1]-cy)/size
		u, v := p.Pixel[0], p.Pixel[1]
		switch n {
		case 2:
			a.SetRow(2*i, []float64{x, -y, 1, 0})
			a.SetRow(2*i+1, []float64{y, x, 0, 1})
		case 3:
			a.SetRow(2*i, []float64{x, y, 1, 0, 0, 0})
			a.SetRow(2*i+1, []float64{0, 0, 0, x, y, 1})
		case 4:
			a.SetRow(2*i, []float64{x, y, 1, 0, 0, 0, -u * x, -u * y})
			a.SetRow(2*i+1, []float64{0, 0, 0, x, y, 1, -v * x, -v * y})
		}
		b.SetVec(2*i, u)
		b.SetVec(2*i+1, v)
	}
	var h mat.VecDense
	if err := h.SolveVec(a, b); err != nil {
		return onto{}, measure.Refuse(
			"pairs",
			"they lie in a line, or two of them in one place",
			"mark places that span an area",
		)
	}
	var m [9]float64
	switch n {
	case 2:
		m = [9]float64{h.AtVec(0), -h.AtVec(1), h.AtVec(2), h.AtVec(1), h.AtVec(0), h.AtVec(3), 0, 0, 1}
	case 3:
		m = [9]float64{h.AtVec(0), h.AtVec(1), h.AtVec(2), h.AtVec(3), h.AtVec(4), h.AtVec(5), 0, 0, 1}
	default:
		for k := range 8 {
			m[k] = h.AtVec(k)
		}
		m[8] = 1
	}
	// Take the place and size back in: x = (X - cx) / size.
	out := onto{}
	for r := range 3 {
		out.h[3*r] = m[3*r] / size
		out.h[3*r+1] = m[3*r+1] / size
		out.h[3*r+2] = m[3*r+2] - (m[3*r]*cx+m[3*r+1]*cy)/size
	}
	return out, nil
}

// squaresAlong is into how many squares the longer side of a view is parted.
const squaresAlong = 420

// PictureTold is what was read from a picture.
type PictureTold struct {
	Trace  Trace
	Shares []float64 // of each colour on what is known of it
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
	t, seen := silhouette(r.Side, g)
	t.Far = r.Far
	// The mean of each square in the picture, as lightness and hue.
	n := t.Wide * t.High
	points := make([]colour.Lab, n)
	known := make([]bool, n)
	count := 0
	for k := range n {
		if !seen[k] {
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
	least := math.Inf(1)
	for c := 1; c < len(p.Colours); c++ {
		if w := p.Set(c).Width; w > 0 {
			least = min(least, w)
		}
	}
	specks := 0
	if !math.IsInf(least, 1) {
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
	t.Rows = packSquares(labels, t.Wide)
	out.Trace = t
	return out, nil
}

// silhouette is the frame of a view with the squares that painted surface fills: what takes no
// scheme, tracks and rubber, and what they hide, tells nothing of it.
func silhouette(side form.Side, g *form.Grid) (t Trace, seen []bool) {
	right, down, toward := side.Axes()
	low, high := [2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}
	each := func(f func(u, v, depth float64, bare bool)) {
		for _, x := range g.Texels {
			if dot(x.Normal, toward) <= 0 {
				continue
			}
			bare := zone.Bare(x.Zone)
			for k, a := range x.Area {
				if a > 0 {
					p := x.Point(k)
					f(dot(p, right), dot(p, down), dot(p, toward), bare)
				}
			}
		}
	}
	each(func(u, v, _ float64, _ bool) {
		low[0], low[1] = min(low[0], u), min(low[1], v)
		high[0], high[1] = max(high[0], u), max(high[1], v)
	})
	t = Trace{Side: side, Pixel: max((high[0]-low[0])/squaresAlong, (high[1]-low[1])/squaresAlong, g.Step)}
	t.Origin = [2]float64{low[0] - t.Pixel, low[1] - t.Pixel}
	t.Wide, t.High = int((high[0]-low[0])/t.Pixel)+3, int((high[1]-low[1])/t.Pixel)+3
	seen = make([]bool, t.Wide*t.High)
	near := make([]float64, len(seen))
	for k := range near {
		near[k] = math.Inf(-1)
	}
	each(func(u, v, depth float64, bare bool) {
		k := int((v-t.Origin[1])/t.Pixel)*t.Wide + int((u-t.Origin[0])/t.Pixel)
		if depth > near[k] {
			near[k], seen[k] = depth, !bare
		}
	})
	return t, seen
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

// tints are the colours as the picture shows them: where they were picked, or the middles of as many
// clusters as the pattern has colours, given to those they look most like.
func (p Pattern) tints(img image.Image, r Reading, points []colour.Lab, known []bool) ([]colour.Lab, error) {
	n := len(p.Colours)
	out := make([]colour.Lab, n)
	picked := make([]bool, n)
	for i, k := range r.Picks {
		if k.Colour < 0 || k.Colour >= n {
			return nil, measure.Refuse(
				fmt.Sprintf("picks[%d].colour", i),
				"the scheme has no such colour",
				"pick for one of its colours",
			)
		}
		c, ok := meanOf(img, k.Pixel[0], k.Pixel[1], 2.5)
		if !ok {
			return nil, measure.Refuse(fmt.Sprintf("picks[%d].pixel", i), "it lies beside the picture", "pick on the picture")
		}
		out[k.Colour], picked[k.Colour] = c, true
	}
	if !slices.Contains(picked, false) {
		return out, nil
	}
	if len(r.Picks) > 0 {
		c := slices.Index(picked, false)
		return nil, measure.Refuse(
			"picks",
			p.Colours[c].Name+" was not picked",
			"pick each colour of the scheme once, or none",
		)
	}
	middles := clusters(points, known, n)
	// Each colour takes the cluster that looks most like it, the surest first.
	for range n {
		best, from, to := math.Inf(1), 0, 0
		for c := range n {
			for m := range middles {
				if picked[c] || math.IsNaN(middles[m][0]) {
					continue
				}
				if d := colour.Difference(colour.Of(p.Colours[c].Hex).Lab(), middles[m]); d < best {
					best, from, to = d, m, c
				}
			}
		}
		out[to], picked[to] = middles[from], true
		middles[from][0] = math.NaN()
	}
	return out, nil
}

// Of colours on a picture: within how much they are taken together for seeds, and beyond which one
// belongs to no cluster: drawn lines, shadows, rivets.
const (
	bin     = 4.0
	outside = 11.0
)

// clusters are the middles of n groups of colours (Lloyd's), begun with colours of which there is
// much, far apart from each other.
func clusters(points []colour.Lab, known []bool, n int) []colour.Lab {
	type group struct {
		sum   colour.Lab
		count float64
	}
	bins := map[[3]int]*group{}
	var order [][3]int
	for k, ok := range known {
		if !ok {
			continue
		}
		var at [3]int
		for q := range 3 {
			at[q] = int(math.Floor(points[k][q] / bin))
		}
		if bins[at] == nil {
			bins[at] = &group{}
			order = append(order, at)
		}
		g := bins[at]
		g.count++
		for q := range 3 {
			g.sum[q] += points[k][q]
		}
	}
	middle := func(g *group) (c colour.Lab) {
		for q := range 3 {
			c[q] = g.sum[q] / g.count
		}
		return c
	}
	var middles []colour.Lab
	for len(middles) < n {
		best, most := colour.Lab{}, -1.0
		for _, at := range order {
			g := bins[at]
			c := middle(g)
			apart := outside * outside
			for _, m := range middles {
				apart = min(apart, apartLab(c, m))
			}
			if v := g.count * apart * apart; v > most {
				best, most = c, v
			}
		}
		middles = append(middles, best)
	}
	for range 20 {
		sums := make([]group, n)
		for _, at := range order {
			c := middle(bins[at])
			m := nearestTo(c, middles)
			if apartLab(c, middles[m]) > outside*outside {
				continue
			}
			sums[m].count += bins[at].count
			for q := range 3 {
				sums[m].sum[q] += bins[at].sum[q]
			}
		}
		for m := range middles {
			if sums[m].count > 0 {
				middles[m] = middle(&sums[m])
			}
		}
	}
	return middles
}

// apartLab is the distance of two colours, lightness counted less: light on a picture is uneven.
func apartLab(a, b colour.Lab) float64 {
	l, x, y := (a[0]-b[0])*0.8, a[1]-b[1], a[2]-b[2]
	return l*l + x*x + y*y
}

func nearestTo(c colour.Lab, all []colour.Lab) int {
	best, d := 0, math.Inf(1)
	for i, m := range all {
		if e := apartLab(c, m); e < d {
			best, d = i, e
		}
	}
	return best
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

// clean gives fields of fewer squares than that to what lies most beside them.
func clean(labels []uint8, wide, least int) (changed int) {
	seen := make([]bool, len(labels))
	high := len(labels) / wide
	for start, v := range labels {
		if v == unknown || seen[start] {
			continue
		}
		field := []int{start}
		seen[start] = true
		beside := map[uint8]int{}
		for i := 0; i < len(field); i++ {
			k := field[i]
			for _, d := range [4][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
				x, y := k%wide+d[0], k/wide+d[1]
				if x < 0 || y < 0 || x >= wide || y >= high {
					continue
				}
				o := y*wide + x
				switch {
				case labels[o] == v && !seen[o]:
					seen[o] = true
					field = append(field, o)
				case labels[o] != v && labels[o] != unknown:
					beside[labels[o]]++
				}
			}
		}
		if len(field) >= least || len(beside) == 0 {
			continue
		}
		var to []uint8
		for c := range beside {
			to = append(to, c)
		}
		slices.SortFunc(to, func(a, b uint8) int { return cmp.Or(cmp.Compare(beside[b], beside[a]), cmp.Compare(a, b)) })
		for _, k := range field {
			labels[k] = to[0]
			changed++
		}
	}
	return changed
}
