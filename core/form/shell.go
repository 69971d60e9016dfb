package form

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"slices"

	"cinderpath/core/zone"
)

// Shell is an imported mesh that serves as the body in place of hulls, real mm.
type Shell struct {
	Points [][3]float64 `json:"points"`
	Faces  [][3]int     `json:"faces"`
	Seeds  []Seed       `json:"seeds,omitempty"`
}

// Seed gives the panel that lies nearest to a place a zone of its own.
type Seed struct {
	At   Vec    `json:"at"` // real mm
	Zone string `json:"zone"`
}

// MostFacets is the largest mesh that can serve as a body.
const MostFacets = 5000

// steady is how far a facet may lean from the mean of its panel.
var steady = math.Cos(8 * math.Pi / 180)

// NewShell makes a body of a mesh. factor turns the file's unit to real mm. The vehicle
// is set with its lowest point on the ground and its box about the origin.
func NewShell(m *Mesh, factor float64) (*Shell, error) {
	if len(m.Faces) > MostFacets {
		return nil, fmt.Errorf("the mesh has %d triangles; reduce it to %d for a body", len(m.Faces), MostFacets)
	}
	if len(m.Faces) < 4 {
		return nil, errors.New("the mesh has too few triangles for a body; export the whole hull")
	}
	solid := m.Measure()
	s := &Shell{}
	for _, p := range m.Points {
		q := [3]float64{}
		for k := range 3 {
			origin := (solid.Low[k] + solid.High[k]) / 2
			if k == 2 {
				origin = solid.Low[2]
			}
			q[k] = math.Round((float64(p[k])-origin)*factor*10) / 10
		}
		s.Points = append(s.Points, q)
	}
	for _, f := range m.Faces {
		s.Faces = append(s.Faces, [3]int{int(f[0]), int(f[1]), int(f[2])})
	}
	return s, s.check()
}

func (s *Shell) check() error {
	if len(s.Faces) < 4 || len(s.Faces) > MostFacets {
		return fmt.Errorf("the imported body has %d triangles; it needs 4 to %d", len(s.Faces), MostFacets)
	}
	for i, f := range s.Faces {
		for _, k := range f {
			if k < 0 || k >= len(s.Points) {
				return fmt.Errorf("triangle %d of the imported body names a point that is not there; import it again", i+1)
			}
		}
	}
	for _, p := range s.Points {
		for _, v := range p {
			if !(math.Abs(v) <= 100_000) {
				return errors.New("the imported body reaches farther than 100 m; check its unit and scale")
			}
		}
	}
	if len(s.Seeds) > 500 {
		return errors.New("more than 500 corrected faces; take some out")
	}
	for _, d := range s.Seeds {
		if !zone.Valid(d.Zone) {
			return fmt.Errorf("%q is no zone; write a part and a face of it, such as hull.left", d.Zone)
		}
	}
	return nil
}

// facet is a triangle of a shell.
type facet struct {
	corners [3]Vec
	normal  Vec
	area    float64
}

// solid turns the shell into a part: facets are joined to panels while each stays within
// 8° of its panel's area-weighted mean, and zones are named by height and facing.
func (s *Shell) solid() *solid {
	all := make([]facet, 0, len(s.Faces))
	for _, f := range s.Faces {
		t := facet{}
		for k, i := range f {
			t.corners[k] = Vec(s.Points[i])
		}
		n := normal(t.corners[:])
		if t.area = n.Length() / 2; t.area > 1e-6 {
			t.normal = n.Unit()
			all = append(all, t)
		}
	}
	if volume(all) < 0 {
		for i := range all {
			c := &all[i].corners
			c[1], c[2] = c[2], c[1]
			all[i].normal = all[i].normal.Times(-1)
		}
	}
	panel := grown(all)
	zones := s.zones(all, panel)
	faces := make([]face, len(all))
	flat := map[int][]int{} // first facets of the flat pieces of each panel
	for i, t := range all {
		faces[i] = face{corners: t.corners[:], zone: zones[panel[i]], flow: panel[i] + 1}
		// Facets of one plane make one piece of surface.
		group := -1
		for _, j := range flat[panel[i]] {
			if t.normal.Dot(all[j].normal) > 1-1e-9 && math.Abs(t.normal.Dot(t.corners[0].Sub(all[j].corners[0]))) < 0.05 {
				group = j
				break
			}
		}
		if group < 0 {
			group = i
			flat[panel[i]] = append(flat[panel[i]], i)
		}
		faces[i].group = group + 1
	}
	out := newSolid(faces)
	out.loose = true // it may have holes, and far more faces than a part of one's own
	return out
}

func volume(all []facet) (sum float64) {
	for _, t := range all {
		sum += t.corners[0].Dot(t.corners[1].Cross(t.corners[2])) / 6
	}
	return sum
}

// grown gives each facet the number of its panel. Panels grow from the largest facet
// that is left, over shared edges.
func grown(all []facet) []int {
	beside := make([][]int, len(all))
	owners := map[edgeKey]int{}
	for i, t := range all {
		for k := range 3 {
			owners[keyOf(t.corners[k], t.corners[(k+1)%3])] = i
		}
	}
	for i, t := range all {
		for k := range 3 {
			if j, ok := owners[keyOf(t.corners[(k+1)%3], t.corners[k])]; ok {
				beside[i] = append(beside[i], j)
			}
		}
	}
	order := make([]int, len(all))
	panel := make([]int, len(all))
	for i := range all {
		order[i], panel[i] = i, -1
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(all[b].area, all[a].area) })
	n := 0
	for _, first := range order {
		if panel[first] >= 0 {
			continue
		}
		members, sum := []int{first}, all[first].normal.Times(all[first].area)
		panel[first] = n
		for at := 0; at < len(members); at++ {
			for _, j := range beside[members[at]] {
				if panel[j] >= 0 {
					continue
				}
				next := sum.Plus(all[j].normal.Times(all[j].area))
				mean := next.Unit()
				fits := all[j].normal.Dot(mean) >= steady
				for _, m := range members {
					fits = fits && all[m].normal.Dot(mean) >= steady
				}
				if fits {
					sum, panel[j] = next, n
					members = append(members, j)
				}
			}
		}
		n++
	}
	return panel
}

// zones names the panels: by thirds of the height and by facing, or by their seeds.
func (s *Shell) zones(all []facet, panel []int) []string {
	n := 0
	low, high := math.Inf(1), math.Inf(-1)
	for i, t := range all {
		n = max(n, panel[i]+1)
		for _, c := range t.corners {
			low, high = min(low, c[2]), max(high, c[2])
		}
	}
	out := make([]string, n)
	mean, middle, area := make([]Vec, n), make([]float64, n), make([]float64, n)
	for i, t := range all {
		p := panel[i]
		mean[p] = mean[p].Plus(t.normal.Times(t.area))
		middle[p] += t.area * (t.corners[0][2] + t.corners[1][2] + t.corners[2][2]) / 3
		area[p] += t.area
	}
	for p := range out {
		part := "upper"
		switch at := (middle[p]/area[p] - low) / (high - low); {
		case at < 1.0/3:
			part = "lower"
		case at < 2.0/3:
			part = "hull"
		}
		out[p] = facing(part)(mean[p].Unit())
	}
	for _, d := range s.Seeds {
		nearest, found := math.Inf(1), -1
		for i, t := range all {
			if far := t.from(d.At); far < nearest {
				nearest, found = far, panel[i]
			}
		}
		if found >= 0 {
			out[found] = d.Zone
		}
	}
	return out
}

// from is the distance of a place from the facet.
func (t facet) from(v Vec) float64 {
	frame := newPanel("", 0, t.normal, t.corners[0])
	flat := [][2]float64{frame.Flat(t.corners[0]), frame.Flat(t.corners[1]), frame.Flat(t.corners[2])}
	q := frame.Flat(v)
	off := math.Abs(t.normal.Dot(v.Sub(t.corners[0])))
	if within(flat, q) {
		return off
	}
	side := math.Inf(1)
	for i, a := range flat {
		b := flat[(i+1)%3]
		dx, dy := b[0]-a[0], b[1]-a[1]
		u := 0.0
		if long := dx*dx + dy*dy; long > 0 {
			u = max(0, min(1, ((q[0]-a[0])*dx+(q[1]-a[1])*dy)/long))
		}
		side = min(side, math.Hypot(q[0]-a[0]-u*dx, q[1]-a[1]-u*dy))
	}
	return math.Hypot(off, side)
}
