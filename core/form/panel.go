package form

import (
	"fmt"
	"math"
)

// Panel is a flat face of the vehicle as far as it shows: convex pieces in one plane,
// counter-clockwise seen from outside, with the flat frame that maps them to 2D.
type Panel struct {
	Plane
	Zone   string
	Name   string // zone/number, stable while the body keeps its parts
	Pieces [][]Vec
	Round  bool // a strip of a round shape, drawn without the edges it shares with its like
	Lines  []Line
}

// Plane is where a panel lies in space, with the flat frame that maps it to 2D.
type Plane struct {
	Normal Vec
	Origin Vec
	U, V   Vec // unit axes of the flat frame
}

// Line is an edge of a panel.
type Line struct {
	A, B   Vec
	Beyond Vec  // normal of the face beyond it; nothing where another part runs into the panel
	Hollow bool // the surface turns up here: a corner that dirt gathers in
	Smooth bool // only an edge of strips of one round shape
	Joint  bool // the face beyond is hidden, or another part begins here
}

// newPanel makes a panel without pieces in the plane through a point.
func newPanel(zone string, number int, n, origin Vec) *Panel {
	p := &Panel{Zone: zone, Name: fmt.Sprintf("%s/%d", zone, number), Plane: Plane{Normal: n, Origin: origin}}
	// U is level where the panel allows it, so that V runs up the slope.
	p.U = Vec{0, 0, 1}.Cross(n)
	if p.U.Length() < 1e-9 {
		p.U = Vec{1, 0, 0}
	}
	p.U = p.U.Unit()
	p.V = n.Cross(p.U)
	return p
}

// Flat maps a point in space to the panel's frame.
func (p *Plane) Flat(v Vec) [2]float64 {
	d := v.Sub(p.Origin)
	return [2]float64{d.Dot(p.U), d.Dot(p.V)}
}

// Space maps a point of the panel's frame to space.
func (p *Plane) Space(x, y float64) Vec {
	return p.Origin.Plus(p.U.Times(x)).Plus(p.V.Times(y))
}

// FlatPieces gives the pieces in the panel's frame.
func (p *Panel) FlatPieces() [][][2]float64 {
	out := make([][][2]float64, len(p.Pieces))
	for i, piece := range p.Pieces {
		out[i] = make([][2]float64, len(piece))
		for k, c := range piece {
			out[i][k] = p.Flat(c)
		}
	}
	return out
}

// FlatBox is the box about the pieces in the panel's frame.
func (p *Panel) FlatBox() (x0, y0, x1, y1 float64) { return span(p.FlatPieces()) }

// Area is the painted area in real mm².
func (p *Panel) Area() float64 {
	sum := 0.0
	for _, piece := range p.Pieces {
		sum += normal(piece).Length() / 2
	}
	return sum
}

// Fall is the direction in which water runs down the panel; nothing where it is level.
func (p *Plane) Fall() Vec {
	f := Vec{0, 0, -1}.Plus(p.Normal.Times(p.Normal[2]))
	if f.Length() < 1e-6 {
		return Vec{}
	}
	return f.Unit()
}

// Facing is how a panel lies: upright, flat or sloped, within 20° of upright or level.
func (p *Plane) Facing() string {
	switch lean := math.Abs(p.Normal[2]); {
	case lean < math.Sin(20*math.Pi/180):
		return "upright"
	case lean > math.Cos(20*math.Pi/180):
		return "flat"
	}
	return "sloped"
}

// Panels gives all painted faces of body and running gear, in a fixed order. What lies
// inside another part, or against it, is cut away.
func Panels(b Body, run Running) ([]*Panel, error) {
	parts, err := b.solids()
	if err != nil {
		return nil, err
	}
	return panelsOf(append(parts, run.solids()...)), nil
}

// panelsOf are the panels of solids that show, named.
func panelsOf(parts []*solid) (made []*Panel) {
	counts := map[string]int{}
	for _, s := range show(parts) {
		for _, p := range s {
			p.Name = fmt.Sprintf("%s/%d", p.Zone, counts[p.Zone])
			counts[p.Zone]++
			if len(p.Pieces) > 0 {
				made = append(made, p)
			}
		}
	}
	return made
}

// show turns solids into panels, cut by one another; panels wholly hidden have no pieces.
func show(parts []*solid) [][]*Panel {
	trees := make([]*cell, len(parts))
	for i, s := range parts {
		if !s.loose {
			trees[i] = s.partition()
		}
	}
	out := make([][]*Panel, len(parts))
	for i, s := range parts {
		at := make([]*Panel, len(s.faces)) // the panel of each face
		groups := map[int]*Panel{}
		hidden := make([]bool, len(s.faces))
		for k, f := range s.faces {
			p := groups[f.group]
			if f.group == 0 || p == nil || p.Zone != f.zone {
				p = newPanel(f.zone, 0, f.normal, f.corners[0])
				p.Round = f.round
				out[i] = append(out[i], p)
				if f.group > 0 {
					groups[f.group] = p
				}
			}
			at[k] = p
			before := len(p.Pieces)
			for _, part := range f.parts {
				p.Pieces = append(p.Pieces, cut(p, polygon{part, f.normal}, parts, trees, i)...)
			}
			hidden[k] = len(p.Pieces) == before
		}
		s.edges(at, hidden)
	}
	return out
}

// cut gives what shows of a convex polygon of part i beside all other parts, and adds
// the lines where they run into it.
func cut(p *Panel, whole polygon, parts []*solid, trees []*cell, i int) [][]Vec {
	left := []polygon{whole}
	if !parts[i].loose {
		low, high := box(whole.corners)
		for j, s := range parts {
			if j == i || s.loose || len(left) == 0 || !near(low, high, s.low, s.high) {
				continue
			}
			var next []polygon
			touched := false
			for _, q := range left {
				kept, hit := trees[j].outside(q, j < i)
				next = append(next, kept...)
				touched = touched || hit
			}
			left = next
			if touched {
				for _, f := range s.faces {
					for _, part := range f.parts {
						if a, b, ok := meets(whole, polygon{part, f.normal}); ok {
							p.Lines = append(p.Lines, Line{A: a, B: b, Hollow: true, Joint: true})
						}
					}
				}
			}
		}
	}
	out := make([][]Vec, 0, len(left))
	for _, q := range left {
		if normal(q.corners).Length() > 2 { // slivers below a square millimetre are rounding
			out = append(out, q.corners)
		}
	}
	return out
}

func box(corners []Vec) (low, high Vec) {
	low, high = corners[0], corners[0]
	for _, c := range corners {
		for k := range 3 {
			low[k], high[k] = min(low[k], c[k]), max(high[k], c[k])
		}
	}
	return low, high
}

// Slight tells of an edge where a panel and the face beyond it meet nearly flat.
func (l Line) Slight(p *Panel) bool { return !l.Joint && p.Normal.Dot(l.Beyond) > 0.9 }

type edgeKey [2]spotKey

// spotKey is a place to a hundredth of a millimetre.
type spotKey [3]int64

func spot(v Vec) (out spotKey) {
	for k := range 3 {
		out[k] = int64(math.Round(v[k] * 100))
	}
	return out
}

func keyOf(a, b Vec) edgeKey { return edgeKey{spot(a), spot(b)} }

// edges adds the solid's edges to its panels.
func (s *solid) edges(at []*Panel, hidden []bool) {
	type owner struct{ face, corner int }
	owners := make(map[edgeKey]owner, 4*len(s.faces))
	for k, f := range s.faces {
		for i, a := range f.corners {
			owners[keyOf(a, f.corners[(i+1)%len(f.corners)])] = owner{k, i}
		}
	}
	for k, f := range s.faces {
		for i, a := range f.corners {
			b := f.corners[(i+1)%len(f.corners)]
			o, ok := owners[keyOf(b, a)]
			if !ok || at[o.face] == at[k] {
				continue
			}
			g := s.faces[o.face]
			turn := f.normal.Dot(g.normal)
			l := Line{A: a, B: b, Beyond: g.normal, Joint: hidden[o.face]}
			l.Smooth = turn > 0.7 && f.round && g.round || turn > 0.9999 && f.zone == g.zone && !s.loose ||
				f.flow > 0 && f.flow == g.flow
			if hidden[o.face] {
				l.Hollow = true
			} else if turn < 0.9 {
				// The face beyond rises over this one: a hollow.
				for _, c := range g.corners {
					if c.Sub(a).Dot(f.normal) > touching {
						l.Hollow = true
					}
				}
			}
			at[k].Lines = append(at[k].Lines, l)
		}
	}
}
