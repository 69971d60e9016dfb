package form

import (
	"math"
	"slices"
)

// face is one planar face of a solid, counter-clockwise seen from outside.
type face struct {
	corners []Vec
	zone    string
	round   bool // one of the strips that a round shape is made of
	group   int  // faces of one group above 0 lie in one plane and make one panel
	flow    int  // faces of one number above 0 flow into one another
	normal  Vec  // unit
	parts   [][]Vec
}

// solid is a closed part of the vehicle.
type solid struct {
	faces     []face
	loose     bool // neither cuts other solids nor is cut: wheels and tracks, which turn
	low, high Vec
}

// newSolid completes faces to a solid: those without area are dropped, those that are
// not flat are cut into triangles, and all look outward.
func newSolid(faces []face) *solid {
	s := &solid{low: Vec{math.Inf(1), math.Inf(1), math.Inf(1)}, high: Vec{math.Inf(-1), math.Inf(-1), math.Inf(-1)}}
	for _, f := range faces {
		for _, flat := range flatten(f) {
			if size := normal(flat.corners); size.Length() > 1e-6 {
				s.faces = append(s.faces, flat)
			}
		}
	}
	volume := 0.0
	for _, f := range s.faces {
		for k := 1; k+1 < len(f.corners); k++ {
			volume += f.corners[0].Dot(f.corners[k].Cross(f.corners[k+1]))
		}
	}
	for i := range s.faces {
		f := &s.faces[i]
		if volume < 0 {
			f.corners = slices.Clone(f.corners)
			slices.Reverse(f.corners)
		}
		f.normal = normal(f.corners).Unit()
		f.parts = f.convex()
		for _, c := range f.corners {
			for k := range 3 {
				s.low[k], s.high[k] = min(s.low[k], c[k]), max(s.high[k], c[k])
			}
		}
	}
	return s
}

// flatten cuts a face that is not flat into triangles.
func flatten(f face) []face {
	n := normal(f.corners)
	if size := n.Length(); size > 1e-6 && len(f.corners) > 3 {
		n = n.Times(1 / size)
		for _, c := range f.corners {
			if math.Abs(c.Sub(f.corners[0]).Dot(n)) > 1e-6*math.Sqrt(size) {
				var out []face
				for k := 1; k+1 < len(f.corners); k++ {
					t := f
					t.corners = []Vec{f.corners[0], f.corners[k], f.corners[k+1]}
					out = append(out, t)
				}
				return out
			}
		}
	}
	return []face{f}
}

// convex gives the face as convex polygons.
func (f face) convex() [][]Vec {
	frame := newPanel(f.zone, 0, f.normal, f.corners[0])
	flat := make([][2]float64, len(f.corners))
	for i, c := range f.corners {
		flat[i] = frame.Flat(c)
	}
	var out [][]Vec
	for _, part := range convexParts(flat) {
		p := make([]Vec, len(part))
		for i, k := range part {
			p[i] = f.corners[k]
		}
		out = append(out, p)
	}
	return out
}

// near tells whether boxes come within touching distance.
func near(lowA, highA, lowB, highB Vec) bool {
	for k := range 3 {
		if lowA[k] > highB[k]+touching || highA[k] < lowB[k]-touching {
			return false
		}
	}
	return true
}

// prism is a side profile (x, z) between two sides that lie half(x, z) from a middle
// y; half must be linear, so that all faces are flat. names gives the zones of the
// profile's edges by outward normal, and of the sides.
func prism(profile [][2]float64, y float64, half func(x, z float64) float64, zone func(n Vec) string) *solid {
	if signed(profile) < 0 {
		profile = slices.Clone(profile)
		slices.Reverse(profile)
	}
	at := func(i int, side float64) Vec {
		p := profile[i%len(profile)]
		return Vec{p[0], y + side*half(p[0], p[1]), p[1]}
	}
	var faces []face
	add := func(corners ...Vec) {
		if n := normal(corners); n.Length() > 1e-6 {
			faces = append(faces, face{corners: corners, zone: zone(n.Unit())})
		}
	}
	left, right := make([]Vec, len(profile)), make([]Vec, len(profile))
	for i := range profile {
		// The profile turns from x to z: seen from the right side it is counter-clockwise.
		add(at(i, -1), at(i, 1), at(i+1, 1), at(i+1, -1))
		right[i], left[len(profile)-1-i] = at(i, -1), at(i, 1)
	}
	add(left...)
	add(right...)
	return newSolid(faces)
}

// tower is a stack of outlines with equally many corners, each level and above the
// last; sides gives the zone of a side face by its outward normal.
func tower(levels [][]Vec, round bool, sides func(n Vec) string, roof, floor string) *solid {
	n := len(levels[0])
	var faces []face
	bottom := slices.Clone(levels[0])
	slices.Reverse(bottom)
	faces = append(faces, face{corners: bottom, zone: floor})
	for k := range len(levels) - 1 {
		for i := range n {
			a, b := levels[k][i], levels[k][(i+1)%n]
			q := []Vec{a, b, levels[k+1][(i+1)%n], levels[k+1][i]}
			if m := normal(q); m.Length() > 1e-6 {
				faces = append(faces, face{corners: q, zone: sides(m.Unit()), round: round})
			}
		}
	}
	faces = append(faces, face{corners: levels[len(levels)-1], zone: roof})
	return newSolid(faces)
}

// station is a place along an axis with the radius there.
type station struct{ at, radius float64 }

// turned is a solid of revolution of n facets about an axis through from; across is
// where the first corner lies. Consecutive stations may lie at one place: a shoulder.
func turned(from, along, across Vec, stations []station, n int, zone string) *solid {
	along, across = along.Unit(), across.Unit()
	other := along.Cross(across)
	ring := func(s station) []Vec {
		out := make([]Vec, n)
		for i := range out {
			sin, cos := math.Sincos(2 * math.Pi * float64(i) / float64(n))
			out[i] = from.Plus(along.Times(s.at)).Plus(across.Times(s.radius * cos)).Plus(other.Times(s.radius * sin))
		}
		return out
	}
	var faces []face
	first := ring(stations[0])
	slices.Reverse(first)
	faces = append(faces, face{corners: first, zone: zone})
	for k := range len(stations) - 1 {
		a, b := ring(stations[k]), ring(stations[k+1])
		shoulder := math.Abs(stations[k+1].at-stations[k].at) < 1e-6
		for i := range n {
			f := face{corners: []Vec{a[i], a[(i+1)%n], b[(i+1)%n], b[i]}, zone: zone, round: !shoulder}
			if shoulder {
				f.group = k + 1
			}
			faces = append(faces, f)
		}
	}
	faces = append(faces, face{corners: ring(stations[len(stations)-1]), zone: zone})
	return newSolid(faces)
}

// place is a frame on a face: where things are fitted.
type place struct{ at, along, across, out Vec }

func (p place) point(a, b, c float64) Vec {
	return p.at.Plus(p.along.Times(a)).Plus(p.across.Times(b)).Plus(p.out.Times(c))
}

// moved is the place shifted in its own directions.
func (p place) moved(a, b, c float64) place { p.at = p.point(a, b, c); return p }

// box is a cuboid that stands on a place, its sides drawn in by a share at the top.
func (p place) box(long, wide, high, draw float64, zone string) *solid {
	l, w := long/2, wide/2
	ring := func(k, c float64) []Vec {
		return []Vec{p.point(-l*k, -w*k, c), p.point(l*k, -w*k, c), p.point(l*k, w*k, c), p.point(-l*k, w*k, c)}
	}
	name := func(Vec) string { return zone }
	return tower([][]Vec{ring(1, 0), ring(1-draw, high)}, false, name, zone, zone)
}

// plate is a strip between two lines of four corners each: a, b are opposite faces.
func plate(a, b [4]Vec, zone string) *solid {
	// Bent plates are cut into triangles from the first corner on: along the same
	// diagonal on both sides.
	faces := []face{{corners: a[:], zone: zone}, {corners: []Vec{b[0], b[3], b[2], b[1]}, zone: zone}}
	for i := range 4 {
		j := (i + 1) % 4
		faces = append(faces, face{corners: []Vec{a[j], a[i], b[i], b[j]}, zone: zone})
	}
	return newSolid(faces)
}
