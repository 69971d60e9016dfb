package marking

import "math"

// Point of a figure, its middle the origin, x to the right as one reads it, y up.
type Point [2]float64

// Figure is what a marking looks like at a size of its own: filled rings and strokes of one width.
type Figure struct {
	Wide    float64   `json:"wideMm"`
	High    float64   `json:"highMm"`
	Rings   [][]Point `json:"rings"`   // filled
	Strokes [][]Point `json:"strokes"` // each so wide
	Stroke  float64   `json:"strokeMm"`
}

// corners of the signs that are filled, in a square of one.
var corners = map[Shape][]Point{
	Square:   {{-0.5, -0.5}, {0.5, -0.5}, {0.5, 0.5}, {-0.5, 0.5}},
	Triangle: {{-0.5, -0.433}, {0.5, -0.433}, {0, 0.433}},
	Diamond:  {{0, -0.5}, {0.5, 0}, {0, 0.5}, {-0.5, 0}},
	Bar:      {{-0.5, -0.1}, {0.5, -0.1}, {0.5, 0.1}, {-0.5, 0.1}},
}

// drawn are the signs that are of strokes, in a square of one, with the stroke's width.
var drawn = map[Shape]struct {
	strokes [][]Point
	stroke  float64
}{
	Chevron: {[][]Point{{{-0.42, -0.2}, {0, 0.2}, {0.42, -0.2}}}, 0.16},
	Anchor: {[][]Point{
		{{0, 0.3}, {0, -0.42}},
		{{-0.22, 0.16}, {0.22, 0.16}},
		{{-0.42, -0.08}, {-0.36, -0.28}, {-0.2, -0.4}, {0, -0.44}, {0.2, -0.4}, {0.36, -0.28}, {0.42, -0.08}},
		{{0, 0.3}, {0.1, 0.37}, {0, 0.45}, {-0.1, 0.37}, {0, 0.3}},
	}, 0.09},
	Pennant: {[][]Point{
		{{-0.44, -0.5}, {-0.44, 0.44}},
		{{-0.44, 0.44}, {0.44, 0.2}, {-0.44, -0.04}},
	}, 0.1},
}

// circle of one across.
func circle(radius float64) []Point {
	const n = 64
	out := make([]Point, n+1)
	for i := range out {
		a := 2 * math.Pi * float64(i%n) / n
		out[i] = Point{radius * math.Cos(a), radius * math.Sin(a)}
	}
	return out
}

// ringStroke is the width of a ring's line beside its own.
const ringStroke = 0.14

// Figure is the drawing so wide; nothing of one that draws nothing.
func (d Drawing) Figure(wide float64) Figure {
	f := Figure{Rings: [][]Point{}, Strokes: [][]Point{}}
	switch d.Shape {
	case Text:
		strokes, w, h := letters(d.Text)
		if w == 0 {
			return f
		}
		for _, s := range strokes {
			line := make([]Point, len(s))
			for i, p := range s {
				line[i] = Point{p[0] - w/2, p[1] - h/2}
			}
			f.Strokes = append(f.Strokes, line)
		}
		f.Wide, f.High, f.Stroke = w, h, glyphStroke
	case Disc:
		f.Rings, f.Wide, f.High = append(f.Rings, circle(0.5)), 1, 1
	case Ring:
		f.Strokes, f.Wide, f.High, f.Stroke = append(f.Strokes, circle(0.5-ringStroke/2)), 1, 1, ringStroke
	default:
		if ring := corners[d.Shape]; ring != nil {
			f.Rings = append(f.Rings, ring)
		}
		f.Strokes, f.Stroke = append(f.Strokes, drawn[d.Shape].strokes...), drawn[d.Shape].stroke
		f.box()
	}
	return f.times(wide / f.Wide)
}

// box measures what is drawn.
func (f *Figure) box() {
	low, high := Point{math.Inf(1), math.Inf(1)}, Point{math.Inf(-1), math.Inf(-1)}
	grow := func(lines [][]Point, by float64) {
		for _, line := range lines {
			for _, p := range line {
				for k := range 2 {
					low[k], high[k] = min(low[k], p[k]-by), max(high[k], p[k]+by)
				}
			}
		}
	}
	grow(f.Rings, 0)
	grow(f.Strokes, f.Stroke/2)
	f.Wide, f.High = high[0]-low[0], high[1]-low[1]
}

func (f Figure) times(k float64) Figure {
	scaled := func(lines [][]Point) [][]Point {
		out := make([][]Point, len(lines))
		for i, line := range lines {
			out[i] = make([]Point, len(line))
			for n, p := range line {
				out[i][n] = Point{p[0] * k, p[1] * k}
			}
		}
		return out
	}
	return Figure{f.Wide * k, f.High * k, scaled(f.Rings), scaled(f.Strokes), f.Stroke * k}
}

// Beyond is how far a place lies beyond the rim of what is drawn; less than nothing on it.
func (f Figure) Beyond(p Point) float64 {
	off := math.Inf(1)
	for _, s := range f.Strokes {
		off = min(off, along(s, p)-f.Stroke/2)
	}
	for _, ring := range f.Rings {
		d := along(append(ring[:len(ring):len(ring)], ring[0]), p)
		if holds(ring, p) {
			d = -d
		}
		off = min(off, d)
	}
	return off
}

// along is how far a place is from a line.
func along(line []Point, p Point) float64 {
	least := math.Inf(1)
	for i := range max(len(line)-1, 1) {
		a, b := line[i], line[min(i+1, len(line)-1)]
		dx, dy := b[0]-a[0], b[1]-a[1]
		u := 0.0
		if square := dx*dx + dy*dy; square > 0 {
			u = min(max(((p[0]-a[0])*dx+(p[1]-a[1])*dy)/square, 0), 1)
		}
		least = min(least, math.Hypot(p[0]-a[0]-u*dx, p[1]-a[1]-u*dy))
	}
	return least
}

// holds tells whether a place lies in a ring.
func holds(ring []Point, p Point) (in bool) {
	for i, a := range ring {
		b := ring[(i+1)%len(ring)]
		if (a[1] > p[1]) != (b[1] > p[1]) && p[0] < (b[0]-a[0])*(p[1]-a[1])/(b[1]-a[1])+a[0] {
			in = !in
		}
	}
	return in
}
