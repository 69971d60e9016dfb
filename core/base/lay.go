package base

import (
	"fmt"
	"math"
	"slices"

	"cinderpath/core/measure"
)

// Laid is a base as it comes to be, on the model: mm on the board from its middle, x along it.
type Laid struct {
	Long   float64        `json:"longMm"`
	Wide   float64        `json:"wideMm"`
	Spare  float64        `json:"spareMm"`  // least from the running gear to the board's edge
	Gear   [][2]float64   `json:"gear"`     // its outline in plan
	Whole  [][2]float64   `json:"whole"`    // of the vehicle
	Foot   float64        `json:"footMm"`   // height of the vehicle's lowest point above the board
	Beyond float64        `json:"beyondMm"` // by how much the vehicle reaches over the board
	Prints [][][2]float64 `json:"prints"`   // where track and wheels press in

	Imprint  float64      `json:"imprintMm"` // how deep
	PrintCM  float64      `json:"printCm2"`
	Profile  [][2]float64 `json:"profile"` // under each track: from the gear's middle forward, and height above the board
	Lowest   float64      `json:"lowestMm"`
	Highest  float64      `json:"highestMm"`
	AreaCM   float64      `json:"areaCm2"`
	VolumeML float64      `json:"volumeMl"` // of ground, imprints taken out
	MixML    float64      `json:"mixMl"`    // to mix: a fifth more
	Layers   int          `json:"layers"`   // that it is laid in
	Screws   []Screw      `json:"screws"`
	Grains   []string     `json:"grains"`
	Words    []string     `json:"words"` // what is to be heeded
	Why      measure.Why  `json:"why"`
}

// Screw is one that holds the vehicle from below.
type Screw struct {
	At    [2]float64 `json:"at"`      // on the board
	Along float64    `json:"alongMm"` // from the middle of the running gear forward
	Gap   float64    `json:"gapMm"`   // from the ground up to the hull's underside
	Least float64    `json:"leastMm"` // how long it must be
}

// The ground is laid in layers no deeper than this, mm; a screw goes through the hull's plate, a
// washer and a nut.
const (
	deepest  = 2.0
	gripping = 6.0
)

// Lay lays a base under what stands there.
func Lay(b Base, s Site) (Laid, error) {
	if err := b.Check(); err != nil {
		return Laid{}, err
	}
	n := s.Scale
	out := Laid{
		Gear: s.turned(s.Gear, b.Turn), Whole: s.turned(s.Whole, b.Turn),
		Prints: [][][2]float64{}, Screws: []Screw{}, Grains: []string{}, Words: []string{},
		Imprint: b.Sink / n,
	}
	wide, high := reach(out.Gear)
	out.Long, out.Wide = b.Long, b.Wide
	if out.Long == 0 {
		out.Long = 2 * (wide + b.Margin)
	}
	if out.Wide == 0 {
		out.Wide = 2 * (high + b.Margin)
	}
	out.Spare = min(out.Long/2-wide, out.Wide/2-high)
	if out.Spare < 0 {
		out.Words = append(out.Words, fmt.Sprintf(
			"The running gear reaches %.0f mm over the board: it must be at least %.0f × %.0f mm.", -out.Spare,
			math.Ceil(2*wide), math.Ceil(2*high)))
	}
	far, side := reach(out.Whole)
	out.Beyond = max(0, far-out.Long/2, side-out.Wide/2)
	var inputs []string
	pressed := 0.0
	for _, r := range s.Runs {
		for _, box := range s.pressed(r, b.Sink) {
			out.Prints = append(out.Prints, s.turned(box, b.Turn))
			out.PrintCM += (box.X1 - box.X0) * (box.Y1 - box.Y0) / (n * n) / 100
			pressed += s.displaced(r, box, b.Sink) / (n * n * n) / 1000
		}
	}
	low, top := s.heights(b, out.Long, out.Wide)
	out.Foot = b.Depth + (s.Foot-low-b.Sink)/n
	out.Lowest, out.Highest = b.Depth, b.Depth+(top-low)/n
	out.AreaCM = out.Long * out.Wide / 100
	ground := b.Depth*out.AreaCM/10 + s.rise(b, out.Long, out.Wide, low)
	out.VolumeML = max(0, ground-pressed)
	out.MixML = 1.2 * out.VolumeML
	out.Layers = int(max(1, math.Ceil(out.Highest/deepest-1e-9)))
	if b.Depth == 0 && out.Highest == 0 {
		out.Layers = 0
	}
	out.Profile = s.profile(b, out.Long, low)
	out.screws(b, s, low)
	for _, g := range b.Strewn {
		out.Grains = append(out.Grains, g.Words(n))
	}
	if out.Imprint > out.Lowest+1e-9 {
		out.Words = append(out.Words, fmt.Sprintf(
			"The track presses %.1f mm deep where the ground may be %.1f mm: lay it deeper, or cut the board away there.",
			out.Imprint, out.Lowest))
	}
	if out.Beyond > 0.05 {
		out.Words = append(out.Words, fmt.Sprintf(
			"The vehicle reaches %.0f mm over the edge: nothing may lean on it there.", out.Beyond))
	}
	inputs = append(inputs,
		fmt.Sprintf("running gear %.0f × %.0f mm in life, 1:%g", s.Gear.X1-s.Gear.X0, s.Gear.Y1-s.Gear.Y0, n),
		fmt.Sprintf("margin %g mm, turned by %g°", b.Margin, b.Turn),
		fmt.Sprintf("ground %.1f to %.1f mm deep on %.1f cm²: %.1f ml, less %.1f ml pressed in", out.Lowest, out.Highest,
			out.AreaCM, ground, pressed),
		fmt.Sprintf("imprint = %g mm / %g", b.Sink, n),
		"a fifth more is mixed (W21)",
	)
	out.Why = measure.Because(
		"board = running gear, turned, + margin on each side; ground = ∫ depth dA − imprints",
		inputs,
	)
	return out, nil
}

// Room is how much of a board the running gear takes, along and across.
func (l Laid) Room() (long, wide float64) {
	x, y := reach(l.Gear)
	return 2 * x, 2 * y
}

// reach is how far corners lie from the middle, along and across.
func reach(corners [][2]float64) (x, y float64) {
	for _, c := range corners {
		x, y = max(x, math.Abs(c[0])), max(y, math.Abs(c[1]))
	}
	return x, y
}

// breaks are where a profile bends, within two ends, with the ends.
func (s Site) breaks(from, to float64, more ...float64) []float64 {
	out := append([]float64{from, to}, more...)
	for _, p := range s.Ground {
		out = append(out, p[0])
	}
	out = slices.DeleteFunc(out, func(x float64) bool { return x < from || x > to })
	slices.Sort(out)
	return slices.Compact(out)
}

// displaced is what a run takes away of the ground within a box, real mm³.
func (s Site) displaced(r Run, box Box, sink float64) float64 {
	ground := s.grounded(sink)
	var at []float64
	for _, p := range r.Line {
		at = append(at, p[0])
	}
	xs := s.breaks(box.X0, box.X1, at...)
	sum := 0.0
	for i := 1; i < len(xs); i++ {
		a, c := ground(xs[i-1])-under(r.Line, xs[i-1]), ground(xs[i])-under(r.Line, xs[i])
		sum += (max(a, 0) + max(c, 0)) / 2 * (xs[i] - xs[i-1])
	}
	return sum * (box.Y1 - box.Y0)
}

// under is the height of a line at a place.
func under(line [][2]float64, x float64) float64 {
	i := slices.IndexFunc(line, func(p [2]float64) bool { return p[0] >= x })
	switch {
	case i < 0:
		return line[len(line)-1][1]
	case i == 0 || line[i][0] == line[i-1][0]:
		return line[i][1]
	}
	p, q := line[i-1], line[i]
	return p[1] + (q[1]-p[1])*(x-p[0])/(q[0]-p[0])
}

// board is the board's corners as the vehicle sees them: real mm along it and across.
func (s Site) board(b Base, long, wide float64) [][2]float64 {
	sin, cos := math.Sincos(-b.Turn * math.Pi / 180)
	var out [][2]float64
	for _, c := range [][2]float64{{-1, -1}, {1, -1}, {1, 1}, {-1, 1}} {
		x, y := c[0]*long/2*s.Scale, c[1]*wide/2*s.Scale
		out = append(out, [2]float64{s.middle() + x*cos - y*sin, x*sin + y*cos})
	}
	return out
}

// heights are the lowest and the highest of the ground on the board, real mm.
func (s Site) heights(b Base, long, wide float64) (low, high float64) {
	from, to := ends(s.board(b, long, wide))
	low, high = math.Inf(1), math.Inf(-1)
	for _, x := range s.breaks(from, to) {
		low, high = min(low, s.Ground.Height(x)), max(high, s.Ground.Height(x))
	}
	return low, high
}

func ends(corners [][2]float64) (from, to float64) {
	from, to = math.Inf(1), math.Inf(-1)
	for _, c := range corners {
		from, to = min(from, c[0]), max(to, c[0])
	}
	return from, to
}

// rise is how much ground lies above the lowest of it, ml on the model. Between the bends of the
// ground and the board's corners, height and width are both straight lines: Simpson's rule is exact.
func (s Site) rise(b Base, long, wide, low float64) float64 {
	corners := s.board(b, long, wide)
	from, to := ends(corners)
	var at []float64
	for _, c := range corners {
		at = append(at, c[0])
	}
	xs := s.breaks(from, to, at...)
	f := func(x float64) float64 { return (s.Ground.Height(x) - low) * across(corners, x) }
	sum := 0.0
	for i := 1; i < len(xs); i++ {
		a, c := xs[i-1], xs[i]
		sum += (c - a) / 6 * (f(a) + 4*f((a+c)/2) + f(c))
	}
	return sum / (s.Scale * s.Scale * s.Scale) / 1000
}

// across is how wide a convex outline is at a place.
func across(corners [][2]float64, x float64) float64 {
	low, high := math.Inf(1), math.Inf(-1)
	for i, p := range corners {
		q := corners[(i+1)%len(corners)]
		if (p[0] < x) == (q[0] < x) && p[0] != x && q[0] != x {
			continue
		}
		if p[0] == q[0] {
			low, high = min(low, p[1], q[1]), max(high, p[1], q[1])
			continue
		}
		t := (x - p[0]) / (q[0] - p[0])
		if t < 0 || t > 1 {
			continue
		}
		y := p[1] + t*(q[1]-p[1])
		low, high = min(low, y), max(high, y)
	}
	return max(0, high-low)
}

// profile is the ground under each track, from the gear's middle, with what is pressed in.
func (s Site) profile(b Base, long, low float64) [][2]float64 {
	half := long / 2 * s.Scale
	from, to := s.middle()-half, s.middle()+half
	var line [][2]float64
	var at []float64
	if len(s.Runs) > 0 {
		line = s.Runs[0].Line
		for _, box := range s.pressed(s.Runs[0], b.Sink) {
			at = append(at, box.X0, box.X1)
		}
		for _, p := range line {
			at = append(at, p[0])
		}
	}
	out := [][2]float64{}
	for _, x := range s.breaks(from, to, at...) {
		z := s.Ground.Height(x)
		if len(line) > 0 && x >= line[0][0] && x <= line[len(line)-1][0] {
			z = min(z, under(line, x)-b.Sink)
		}
		out = append(out, [2]float64{(x - s.middle()) / s.Scale, b.Depth + (z-low)/s.Scale})
	}
	return bent(out)
}

// bent leaves out of a line by rising x what lies straight between its neighbours.
func bent(line [][2]float64) [][2]float64 {
	out := [][2]float64{}
	for i, p := range line {
		if n := len(out); n > 0 && i+1 < len(line) {
			a, c := out[n-1], line[i+1]
			if math.Abs(a[1]+(c[1]-a[1])*(p[0]-a[0])/(c[0]-a[0])-p[1]) < 1e-6 {
				continue
			}
		}
		out = append(out, p)
	}
	return out
}

// screws places what holds the vehicle: on the middle line of the hull's underside, about the
// middle of its weight, three diameters from the ends of the plate.
func (l *Laid) screws(b Base, s Site, low float64) {
	if b.Screw == 0 || b.Screws == 0 {
		return
	}
	edge := 3 * b.Screw * s.Scale
	var best *Plate
	for i, p := range s.Belly {
		if p.X1-p.X0 >= 2*edge && (best == nil || p.X1-p.X0 > best.X1-best.X0) {
			best = &s.Belly[i]
		}
	}
	if best == nil {
		l.Words = append(l.Words, "No level plate of the underside is long enough for a screw: glue it, or drill by eye.")
		return
	}
	least, most := best.X0+edge, best.X1-edge
	centre := min(max(s.Centre, least), most)
	at := []float64{centre}
	if b.Screws > 1 {
		away := min((most-least)/4, 20*b.Screw*s.Scale)
		if away < b.Screw*s.Scale {
			l.Words = append(l.Words, "There is room for one screw only.")
		} else {
			centre = min(max(centre, least+away), most-away)
			at = []float64{centre - away, centre + away}
		}
	}
	for _, x := range at {
		ground := s.Ground.Height(x)
		gap := (best.Z - ground - b.Sink) / s.Scale
		l.Screws = append(l.Screws, Screw{
			At:    s.place(x, 0, b.Turn),
			Along: (x - s.middle()) / s.Scale,
			Gap:   gap,
			Least: b.Board + b.Depth + (ground-low)/s.Scale + max(gap, 0) + gripping,
		})
		if gap < 0 {
			l.Words = append(l.Words, fmt.Sprintf(
				"The hull's underside would lie %.1f mm in the ground: let the vehicle sink less.", -gap))
			return
		}
	}
}
