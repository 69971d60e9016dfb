// Package scene draws the photograph and the printed part that the demo builds
// carry: a pinhole camera looks at the Varrow's left side, where a gauge board of
// known size hangs, and a winch drum for the Drumble. What the picture shows is
// therefore known to the millimetre.
package scene

import (
	"image"
	"image/color"
	"image/draw"
	"math"
	"slices"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/vehicle"
	"cinderpath/core/zone"

	xdraw "golang.org/x/image/draw"
	"golang.org/x/image/vector"
)

// Size of the picture, pixels.
const (
	Width  = 1600
	Height = 1000
)

// The gauge board hangs on the hull's left side, upright in the plane of the edge
// above the track. Real mm.
const (
	BoardLong = 2400.0
	BoardHigh = 400.0
	boardRear = -1500.0
)

// eye is where the camera stands, and what it looks at, real mm.
var eye, aim = form.Vec{2900, 10500, 1900}, form.Vec{420, 1550, 1150}

const focal = 1900.0

// See gives the pixel of a point (real mm).
func See(p form.Vec) (x, y float64) {
	forward := unit(minus(aim, eye))
	right := unit(cross(forward, form.Vec{0, 0, 1}))
	down := cross(forward, right)
	v := minus(p, eye)
	z := dot(v, forward)
	return Width/2 + focal*dot(v, right)/z, Height/2 + focal*dot(v, down)/z
}

// Board gives the corners of the gauge board, from the upper left as it is seen, real mm.
func Board(b document.Build) [4]form.Vec {
	y, z := b.Sizes.Width.MM/2, edge(b)
	left, right := boardRear+BoardLong, boardRear // the vehicle looks to the left
	return [4]form.Vec{{left, y, z + BoardHigh}, {right, y, z + BoardHigh}, {right, y, z}, {left, y, z}}
}

// Edge gives both ends of the hull's edge above the track, in the plane of the board.
func Edge(b document.Build) [2]form.Vec {
	y, z, half := b.Sizes.Width.MM/2, edge(b), b.Sizes.Length.MM/2
	return [2]form.Vec{{half, y, z}, {-half, y, z}}
}

func edge(b document.Build) float64 { return b.Body.Fenders[0].Line[0][1] }

// Draw takes the picture of a build.
func Draw(b document.Build) (*image.Paletted, error) {
	panels, err := vehicle.Panels(b)
	if err != nil {
		return nil, err
	}
	img := image.NewNRGBA(image.Rect(0, 0, Width, Height))
	_, horizon := See(form.Vec{eye[0] + 1e7*(aim[0]-eye[0]), eye[1] + 1e7*(aim[1]-eye[1]), eye[2]})
	fill(img, [][2]float64{{0, 0}, {Width, 0}, {Width, horizon}, {0, horizon}}, color.NRGBA{214, 218, 221, 255})
	fill(img, [][2]float64{{0, horizon}, {Width, horizon}, {Width, Height}, {0, Height}}, color.NRGBA{150, 146, 139, 255})
	ground(img, b, panels)
	tank(img, panels)
	board(img, Board(b))
	return paletted(img), nil
}

func paletted(img *image.NRGBA) *image.Paletted {
	out := image.NewPaletted(img.Bounds(), colours(img))
	draw.Draw(out, out.Bounds(), img, image.Point{}, draw.Src)
	return out
}

// colours are the 256 most used; the rest go to the nearest of them.
func colours(img *image.NRGBA) color.Palette {
	count := map[color.NRGBA]int{}
	for i := 0; i < len(img.Pix); i += 4 {
		count[color.NRGBA{img.Pix[i] &^ 3, img.Pix[i+1] &^ 3, img.Pix[i+2] &^ 3, 255}]++
	}
	all := make([]color.NRGBA, 0, len(count))
	for c := range count {
		all = append(all, c)
	}
	slices.SortFunc(all, func(a, b color.NRGBA) int {
		if count[a] != count[b] {
			return count[b] - count[a]
		}
		return (int(a.R)<<16 + int(a.G)<<8 + int(a.B)) - (int(b.R)<<16 + int(b.G)<<8 + int(b.B))
	})
	var out color.Palette
	for _, c := range all[:min(len(all), 256)] {
		out = append(out, c)
	}
	return out
}

// fine is how many times finer than the picture the vehicle is drawn, each way.
const fine = 2

// tank draws the panels by their depth, point for point, then their edges where they
// are seen, and lays that over the picture.
func tank(img *image.NRGBA, panels []*form.Panel) {
	const w, h = fine * Width, fine * Height
	large := image.NewNRGBA(image.Rect(0, 0, w, h))
	near := make([]float64, w*h) // one over the distance
	light := unit(form.Vec{0.4, 0.5, 0.9})
	look := unit(minus(aim, eye))
	at := func(v form.Vec) (p [3]float64) {
		x, y := See(v)
		return [3]float64{fine * x, fine * y, 1 / dot(minus(v, eye), look)}
	}
	for _, p := range panels {
		if dot(p.Normal, minus(eye, p.Origin)) <= 0 {
			continue
		}
		shade := 0.45 + 0.55*math.Max(0, dot(p.Normal, light))
		base := [3]float64{122, 128, 104}
		switch {
		case zone.IsTrack(p.Zone):
			base = [3]float64{86, 82, 78}
		case zone.IsRubber(p.Zone):
			base = [3]float64{66, 66, 66}
		}
		c := color.NRGBA{uint8(base[0] * shade), uint8(base[1] * shade), uint8(base[2] * shade), 255}
		for _, piece := range p.Pieces {
			for k := 1; k+1 < len(piece); k++ {
				triangle(at(piece[0]), at(piece[k]), at(piece[k+1]), w, h, func(x, y int, d float64) {
					if d > near[y*w+x] {
						near[y*w+x] = d
						large.SetNRGBA(x, y, c)
					}
				})
			}
		}
	}
	ink := color.NRGBA{38, 38, 36, 255}
	for _, p := range panels {
		if dot(p.Normal, minus(eye, p.Origin)) <= 0 {
			continue
		}
		for _, l := range p.Lines {
			if l.Smooth && dot(l.Beyond, minus(eye, l.A)) > 0 {
				continue
			}
			a, b := at(l.A), at(l.B)
			steps := int(math.Hypot(b[0]-a[0], b[1]-a[1])) + 1
			for i := range steps + 1 {
				t := float64(i) / float64(steps)
				x, y, d := a[0]+t*(b[0]-a[0]), a[1]+t*(b[1]-a[1]), a[2]+t*(b[2]-a[2])
				for _, o := range [][2]int{{0, 0}, {1, 0}, {0, 1}} {
					if x, y := int(x)+o[0], int(y)+o[1]; x >= 0 && y >= 0 && x < w && y < h && d > near[y*w+x]*0.998 {
						large.SetNRGBA(x, y, ink)
					}
				}
			}
		}
	}
	xdraw.BiLinear.Scale(img, img.Bounds(), large, large.Bounds(), xdraw.Over, nil)
}

// triangle visits the points of a triangle with their depth, which is straight on the
// picture since it is one over the distance.
func triangle(a, b, c [3]float64, w, h int, visit func(x, y int, depth float64)) {
	area := (b[0]-a[0])*(c[1]-a[1]) - (b[1]-a[1])*(c[0]-a[0])
	if math.Abs(area) < 1e-9 {
		return
	}
	y0, y1 := max(0, int(math.Floor(min(a[1], b[1], c[1])))), min(h-1, int(math.Ceil(max(a[1], b[1], c[1]))))
	x0, x1 := max(0, int(math.Floor(min(a[0], b[0], c[0])))), min(w-1, int(math.Ceil(max(a[0], b[0], c[0]))))
	for y := y0; y <= y1; y++ {
		for x := x0; x <= x1; x++ {
			px, py := float64(x)+0.5, float64(y)+0.5
			u := ((b[0]-px)*(c[1]-py) - (b[1]-py)*(c[0]-px)) / area
			v := ((c[0]-px)*(a[1]-py) - (c[1]-py)*(a[0]-px)) / area
			if u >= 0 && v >= 0 && u+v <= 1 {
				visit(x, y, u*a[2]+v*b[2]+(1-u-v)*c[2])
			}
		}
	}
}

func seen(corners []form.Vec) [][2]float64 {
	out := make([][2]float64, len(corners))
	for i, c := range corners {
		out[i][0], out[i][1] = See(c)
	}
	return out
}

// ground draws the shadow that the vehicle stands in.
func ground(img *image.NRGBA, b document.Build, panels []*form.Panel) {
	low, high, _ := form.Extent(panels, func(string) bool { return true })
	half := b.Sizes.Width.MM / 2
	fill(
		img,
		seen(
			[]form.Vec{
				{low[0] * 0.95, half + 260, 0},
				{high[0] * 0.8, half + 260, 0},
				{high[0] * 0.8, -half - 900, 0},
				{low[0] * 0.95, -half - 900, 0},
			},
		),
		color.NRGBA{112, 108, 103, 255},
	)
}

// board draws the gauge board: white, with a black field every 400 mm.
func board(img *image.NRGBA, c [4]form.Vec) {
	fill(img, seen(c[:]), color.NRGBA{238, 236, 230, 255})
	at := func(u, v float64) form.Vec {
		return form.Vec{c[0][0] + u*(c[1][0]-c[0][0]), c[0][1], c[0][2] + v*(c[3][2]-c[0][2])}
	}
	for i := range 6 {
		u, v := float64(i)/6, float64(i%2)/2
		fill(img, seen([]form.Vec{at(u, v), at(u+1.0/6, v), at(u+1.0/6, v+0.5), at(u, v+0.5)}), color.NRGBA{46, 46, 46, 255})
	}
	line(img, seen(c[:]), 2, color.NRGBA{181, 64, 15, 255})
}

func fill(img *image.NRGBA, ring [][2]float64, c color.NRGBA) {
	x0, y0, x1, y1 := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, p := range ring {
		x0, y0, x1, y1 = min(x0, p[0]), min(y0, p[1]), max(x1, p[0]), max(y1, p[1])
	}
	box := image.Rect(
		int(math.Floor(max(x0, 0))),
		int(math.Floor(max(y0, 0))),
		int(math.Ceil(min(x1, Width))),
		int(math.Ceil(min(y1, Height))),
	)
	if box.Empty() {
		return
	}
	r := vector.NewRasterizer(box.Dx(), box.Dy())
	for i, p := range ring {
		x, y := float32(p[0]-float64(box.Min.X)), float32(p[1]-float64(box.Min.Y))
		if i == 0 {
			r.MoveTo(x, y)
			continue
		}
		r.LineTo(x, y)
	}
	r.ClosePath()
	r.Draw(img, box, image.NewUniform(c), image.Point{})
}

func line(img *image.NRGBA, ring [][2]float64, wide float64, c color.NRGBA) {
	for i, p := range ring {
		q := ring[(i+1)%len(ring)]
		dx, dy := q[0]-p[0], q[1]-p[1]
		l := math.Hypot(dx, dy)
		if l < 1e-9 {
			continue
		}
		nx, ny := -dy/l*wide/2, dx/l*wide/2
		fill(
			img,
			[][2]float64{{p[0] + nx, p[1] + ny}, {q[0] + nx, q[1] + ny}, {q[0] - nx, q[1] - ny}, {p[0] - nx, p[1] - ny}},
			c,
		)
	}
}

func minus(a, b form.Vec) form.Vec { return form.Vec{a[0] - b[0], a[1] - b[1], a[2] - b[2]} }
func dot(a, b form.Vec) float64    { return a[0]*b[0] + a[1]*b[1] + a[2]*b[2] }
func cross(a, b form.Vec) form.Vec {
	return form.Vec{a[1]*b[2] - a[2]*b[1], a[2]*b[0] - a[0]*b[2], a[0]*b[1] - a[1]*b[0]}
}

func unit(a form.Vec) form.Vec {
	l := math.Sqrt(dot(a, a))
	return form.Vec{a[0] / l, a[1] / l, a[2] / l}
}

// Winch is a winch drum drawn at real size, mm: two flanges of 14 mm on a hollow
// drum with walls of 16 mm, turned from its profile.
func Winch() *form.Mesh {
	const around = 48
	profile := [][2]float64{ // along the axis, radius; outside first, then back through the bore
		{0, 210}, {14, 210}, {14, 120}, {566, 120}, {566, 210}, {580, 210}, {580, 104}, {0, 104},
	}
	var w form.Welder
	at := func(i, k int) [3]float32 {
		sin, cos := math.Sincos(2 * math.Pi * float64(k%around) / around)
		p := profile[i%len(profile)]
		return [3]float32{float32(p[0]), float32(p[1] * cos), float32(p[1] * sin)}
	}
	for i := range profile {
		for k := range around {
			a, b, c, d := at(i, k), at(i+1, k), at(i+1, k+1), at(i, k+1)
			w.Add([3][3]float32{a, c, b})
			w.Add([3][3]float32{a, d, c})
		}
	}
	return &w.Mesh
}
