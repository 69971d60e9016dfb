package form

import (
	"fmt"
	"math"

	"cinderpath/core/gear"
)

// Block is a box with a level base and a level top; the top may be shifted in or
// out on each side, so that the faces between slope. Real mm.
type Block struct {
	ID    string  `json:"id"` // hull, lower, turret …: the first half of its zones' names
	Rear  float64 `json:"rear"`
	Front float64 `json:"front"`
	Base  float64 `json:"base"`
	Top   float64 `json:"top"`
	Width float64 `json:"width"`
	// How far the top edge lies inside the base edge (negative: outside).
	InFront float64 `json:"inFront"`
	InRear  float64 `json:"inRear"`
	InSide  float64 `json:"inSide"`
}

// Tube is a round bar along x, a gun barrel or a pipe. Real mm.
type Tube struct {
	ID     string  `json:"id"`
	Rear   float64 `json:"rear"`
	Front  float64 `json:"front"`
	Y      float64 `json:"y"`
	Z      float64 `json:"z"`
	Radius float64 `json:"radius"`
}

// Body is the vehicle without its running gear.
type Body struct {
	Blocks []Block `json:"blocks"`
	Tubes  []Tube  `json:"tubes,omitempty"`
}

// Running is the running gear as the form needs it: where the wheels stand and
// how wide they and the track are. Real mm.
type Running struct {
	Wheels []gear.Wheel
	Face   float64      // y of the wheels' outer faces
	Width  float64      // of a wheel, or of the track
	Pins   [][2]float64 // pin line of the track, x and z; empty for wheeled vehicles
	Link   gear.Link
}

// Vec is a point or direction in space, mm.
type Vec [3]float64

func (a Vec) sub(b Vec) Vec { return Vec{a[0] - b[0], a[1] - b[1], a[2] - b[2]} }
func (a Vec) dot(b Vec) float64 {
	return a[0]*b[0] + a[1]*b[1] + a[2]*b[2]
}
func (a Vec) cross(b Vec) Vec {
	return Vec{a[1]*b[2] - a[2]*b[1], a[2]*b[0] - a[0]*b[2], a[0]*b[1] - a[1]*b[0]}
}
func (a Vec) times(k float64) Vec { return Vec{a[0] * k, a[1] * k, a[2] * k} }
func (a Vec) plus(b Vec) Vec      { return Vec{a[0] + b[0], a[1] + b[1], a[2] + b[2]} }
func (a Vec) length() float64     { return math.Sqrt(a.dot(a)) }

// Panel is a convex planar polygon, counter-clockwise seen from outside, with the
// flat frame that maps it to 2D.
type Panel struct {
	Zone    string
	Name    string // zone/number, stable while the body keeps its blocks
	Corners []Vec
	Holes   [][]Vec // covered by another block: no paint there
	Normal  Vec
	Origin  Vec
	U, V    Vec  // unit axes of the flat frame
	Round   bool // drawn without its own edges (facets of a tube)
}

// newPanel makes a panel of corners that lie in one plane; nil when its area is nothing.
func newPanel(zone string, number int, corners []Vec) *Panel {
	normal := Vec{}
	for i := range corners {
		normal = normal.plus(corners[i].cross(corners[(i+1)%len(corners)]))
	}
	size := normal.length()
	if size < 1e-6 {
		return nil
	}
	p := &Panel{Zone: zone, Name: fmt.Sprintf("%s/%d", zone, number), Corners: corners, Normal: normal.times(1 / size), Origin: corners[0]}
	// U is level where the panel allows it, so that V runs up the slope.
	p.U = Vec{0, 0, 1}.cross(p.Normal)
	if p.U.length() < 1e-9 {
		p.U = Vec{1, 0, 0}
	}
	p.U = p.U.times(1 / p.U.length())
	p.V = p.Normal.cross(p.U)
	return p
}

// Flat maps a point in space to the panel's frame.
func (p *Panel) Flat(v Vec) [2]float64 {
	d := v.sub(p.Origin)
	return [2]float64{d.dot(p.U), d.dot(p.V)}
}

// Space maps a point of the panel's frame to space.
func (p *Panel) Space(x, y float64) Vec {
	return p.Origin.plus(p.U.times(x)).plus(p.V.times(y))
}

// FlatCorners gives the outline in the panel's frame.
func (p *Panel) FlatCorners() [][2]float64 {
	out := make([][2]float64, len(p.Corners))
	for i, c := range p.Corners {
		out[i] = p.Flat(c)
	}
	return out
}

// Area is the painted area in real mm².
func (p *Panel) Area() float64 {
	sum := polygonArea(p.FlatCorners())
	for _, hole := range p.Holes {
		flat := make([][2]float64, len(hole))
		for i, c := range hole {
			flat[i] = p.Flat(c)
		}
		sum -= polygonArea(flat)
	}
	return sum
}

// polygonArea is the area of a simple polygon, either way round.
func polygonArea(c [][2]float64) float64 {
	sum := 0.0
	for i := range c {
		j := (i + 1) % len(c)
		sum += c[i][0]*c[j][1] - c[j][0]*c[i][1]
	}
	return math.Abs(sum) / 2
}

// faceNames are the zone names of a block's faces in the order front, rear, left,
// right, top, bottom. Blocks that are not listed use the plain words.
var faceNames = map[string][6]string{
	"hull":  {"glacis", "rear", "left", "right", "deck", "sponson"},
	"lower": {"nose", "tail", "left", "right", "", "belly"},
}

var plainFaces = [6]string{"front", "rear", "left", "right", "roof", "floor"}

// Check reports the first thing that makes a body impossible, in words.
func (b Body) Check() error {
	if len(b.Blocks) == 0 {
		return fmt.Errorf("the body has no block; add a hull")
	}
	for _, k := range b.Blocks {
		switch {
		case k.Front <= k.Rear:
			return fmt.Errorf("block %s: its front (%.0f mm) lies behind its rear (%.0f mm)", k.ID, k.Front, k.Rear)
		case k.Top <= k.Base:
			return fmt.Errorf("block %s: its top (%.0f mm) lies below its base (%.0f mm)", k.ID, k.Top, k.Base)
		case k.Width <= 0:
			return fmt.Errorf("block %s has no width", k.ID)
		case k.InFront+k.InRear >= k.Front-k.Rear || 2*k.InSide >= k.Width:
			return fmt.Errorf("block %s: its slopes cross before the top; make them steeper or the block larger", k.ID)
		}
	}
	for _, t := range b.Tubes {
		if t.Front <= t.Rear || t.Radius <= 0 {
			return fmt.Errorf("tube %s has no length or no radius", t.ID)
		}
	}
	return nil
}

// Panels gives all painted faces of body and running gear, in a fixed order.
func Panels(b Body, run Running) ([]*Panel, error) {
	if err := b.Check(); err != nil {
		return nil, err
	}
	var out []*Panel
	add := func(zone string, corners ...Vec) *Panel {
		number := 0
		for _, p := range out {
			if p.Zone == zone {
				number++
			}
		}
		p := newPanel(zone, number, corners)
		if p != nil {
			out = append(out, p)
		}
		return p
	}
	for _, k := range b.Blocks {
		addBlock(add, k, b.Blocks)
	}
	for _, t := range b.Tubes {
		const facets = 12
		for i := range facets {
			a0, a1 := float64(i)*2*math.Pi/facets, float64(i+1)*2*math.Pi/facets
			ring := func(x, a float64) Vec { return Vec{x, t.Y + t.Radius*math.Cos(a), t.Z + t.Radius*math.Sin(a)} }
			if p := add(t.ID, ring(t.Rear, a0), ring(t.Rear, a1), ring(t.Front, a1), ring(t.Front, a0)); p != nil {
				p.Round = true
			}
		}
	}
	addWheels(add, run)
	return out, nil
}

func addBlock(add func(string, ...Vec) *Panel, k Block, all []Block) {
	names, known := faceNames[k.ID]
	if !known {
		names = plainFaces
	}
	h, t := k.Width/2, k.Width/2-k.InSide
	fx, rx := k.Front-k.InFront, k.Rear+k.InRear
	corner := func(x, y, z float64) Vec { return Vec{x, y, z} }
	zone := func(i int) string { return k.ID + "." + names[i] }
	add(zone(0), corner(k.Front, -h, k.Base), corner(k.Front, h, k.Base), corner(fx, t, k.Top), corner(fx, -t, k.Top))
	add(zone(1), corner(k.Rear, h, k.Base), corner(k.Rear, -h, k.Base), corner(rx, -t, k.Top), corner(rx, t, k.Top))
	add(zone(2), corner(k.Front, h, k.Base), corner(k.Rear, h, k.Base), corner(rx, t, k.Top), corner(fx, t, k.Top))
	add(zone(3), corner(k.Rear, -h, k.Base), corner(k.Front, -h, k.Base), corner(fx, -t, k.Top), corner(rx, -t, k.Top))
	if top := stackedOn(k, all); top == nil {
		add(zone(4), corner(rx, -t, k.Top), corner(fx, -t, k.Top), corner(fx, t, k.Top), corner(rx, t, k.Top))
	} else if !covers(*top, rx, fx, 2*t) {
		if p := add(zone(4), corner(rx, -t, k.Top), corner(fx, -t, k.Top), corner(fx, t, k.Top), corner(rx, t, k.Top)); p != nil {
			x0, x1, y := math.Max(rx, top.Rear), math.Min(fx, top.Front), math.Min(t, top.Width/2)
			if x1 > x0 && y > 0 {
				p.Holes = append(p.Holes, []Vec{corner(x0, -y, k.Top), corner(x1, -y, k.Top), corner(x1, y, k.Top), corner(x0, y, k.Top)})
			}
		}
	}
	below := standsOn(k, all)
	switch {
	case below == nil:
		add(zone(5), corner(k.Rear, h, k.Base), corner(k.Front, h, k.Base), corner(k.Front, -h, k.Base), corner(k.Rear, -h, k.Base))
	case below.Width/2-below.InSide < h: // overhangs at the sides
		y := below.Width/2 - below.InSide
		add(zone(5), corner(k.Rear, h, k.Base), corner(k.Front, h, k.Base), corner(k.Front, y, k.Base), corner(k.Rear, y, k.Base))
		add(zone(5), corner(k.Rear, -y, k.Base), corner(k.Front, -y, k.Base), corner(k.Front, -h, k.Base), corner(k.Rear, -h, k.Base))
	}
}

const touching = 1.0 // mm: faces closer than this rest on one another

func stackedOn(k Block, all []Block) *Block {
	for i := range all {
		o := &all[i]
		if o.ID != k.ID && math.Abs(o.Base-k.Top) < touching && o.Rear < k.Front && o.Front > k.Rear {
			return o
		}
	}
	return nil
}

func standsOn(k Block, all []Block) *Block {
	for i := range all {
		o := &all[i]
		if o.ID != k.ID && math.Abs(o.Top-k.Base) < touching && o.Rear < k.Front && o.Front > k.Rear {
			return o
		}
	}
	return nil
}

func covers(top Block, rear, front, width float64) bool {
	return top.Rear <= rear+touching && top.Front >= front-touching && top.Width >= width-touching
}

// linkSide is the side face of a stretch of track, from its running surface to its
// ground face; nil where the stretch has no length.
func linkSide(a, b [2]float64, y, sign float64, l gear.Link) []Vec {
	dx, dz := b[0]-a[0], b[1]-a[1]
	long := math.Hypot(dx, dz)
	if long < 1e-6 {
		return nil
	}
	// The run is counter-clockwise in x and z, so outward is to its right.
	nx, nz := dz/long, -dx/long
	at := func(p [2]float64, out float64) Vec { return Vec{p[0] + nx*out, y, p[1] + nz*out} }
	q := []Vec{at(a, l.Ground), at(a, -l.Surface), at(b, -l.Surface), at(b, l.Ground)}
	if sign < 0 {
		q[1], q[3] = q[3], q[1]
	}
	return q
}

// addWheels adds the outer faces of the wheels on both sides, as polygons of 24
// corners with the area of the disc, and the outer face of each track.
func addWheels(add func(string, ...Vec) *Panel, run Running) {
	const corners = 24
	swell := math.Sqrt(2 * math.Pi / (corners * math.Sin(2*math.Pi/corners)))
	for _, side := range []struct {
		name string
		sign float64
	}{{"left", 1}, {"right", -1}} {
		for _, w := range run.Wheels {
			ring := make([]Vec, corners)
			for i := range ring {
				a := -side.sign * float64(i) * 2 * math.Pi / corners
				ring[i] = Vec{w.X + swell*w.Radius*math.Cos(a), side.sign * run.Face, w.Z + swell*w.Radius*math.Sin(a)}
			}
			if p := add("gear."+side.name+".wheels", ring...); p != nil {
				p.Round = true
			}
		}
		y0, y1 := side.sign*run.Face, side.sign*(run.Face-run.Width)
		edge := y0 - side.sign // a hair behind the wheels' faces, which it runs round
		for i := range run.Pins {
			a, b := run.Pins[i], run.Pins[(i+1)%len(run.Pins)]
			if q := linkSide(a, b, edge, side.sign, run.Link); q != nil {
				if p := add("gear."+side.name+".track", q...); p != nil {
					p.Round = true
				}
			}
			// The pin line runs counter-clockwise in x, z seen from the vehicle's right.
			c := []Vec{{a[0], y0, a[1]}, {a[0], y1, a[1]}, {b[0], y1, b[1]}, {b[0], y0, b[1]}}
			if side.sign < 0 {
				c[0], c[1], c[2], c[3] = c[1], c[0], c[3], c[2]
			}
			if p := add("gear."+side.name+".track", c...); p != nil {
				p.Round = true
			}
		}
	}
}
