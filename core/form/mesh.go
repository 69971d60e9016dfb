package form

import (
	"math"
)

// MostTriangles is the largest mesh that is taken in.
const MostTriangles = 500_000

// Mesh is a triangulated surface with shared vertices, in the unit of its file.
// Faces turn counter-clockwise seen from outside.
type Mesh struct {
	Points  [][3]float32
	Faces   [][3]uint32
	Dropped int // triangles without area that were left out
}

// Welder joins triangles at equal corners while they come in, so that a mesh is
// held once, not three times.
type Welder struct {
	Mesh
	slots []uint32 // open addressing: index of a point + 1, 0 for empty
}

func corner(p [3]float32) uint64 {
	h := uint64(14695981039346656037)
	for _, v := range p {
		h = (h ^ uint64(math.Float32bits(v))) * 1099511628211
		h ^= h >> 29
	}
	return h
}

// Add takes in a triangle. A corner is joined with one that has the same
// coordinates bit for bit (minus zero counts as zero), as files of one program have.
func (w *Welder) Add(t [3][3]float32) {
	for i := range t {
		for k := range 3 {
			t[i][k] += 0 // minus zero becomes zero
		}
	}
	if t[0] == t[1] || t[1] == t[2] || t[2] == t[0] {
		w.Dropped++
		return
	}
	w.Faces = append(w.Faces, [3]uint32{w.point(t[0]), w.point(t[1]), w.point(t[2])})
}

func (w *Welder) point(p [3]float32) uint32 {
	if 2*len(w.Points) >= len(w.slots) {
		w.grow()
	}
	mask := uint64(len(w.slots) - 1)
	for i := corner(p) & mask; ; i = (i + 1) & mask {
		switch at := w.slots[i]; {
		case at == 0:
			w.Points = append(w.Points, p)
			w.slots[i] = uint32(len(w.Points))
			return uint32(len(w.Points) - 1)
		case w.Points[at-1] == p:
			return at - 1
		}
	}
}

func (w *Welder) grow() {
	w.slots = make([]uint32, max(64, 2*len(w.slots)))
	mask := uint64(len(w.slots) - 1)
	for n, p := range w.Points {
		i := corner(p) & mask
		for w.slots[i] != 0 {
			i = (i + 1) & mask
		}
		w.slots[i] = uint32(n + 1)
	}
}

// Solid is what a mesh measures, in the unit of its file.
type Solid struct {
	Triangles int        `json:"triangles"`
	Vertices  int        `json:"vertices"`
	Dropped   int        `json:"dropped"` // triangles without area
	Low       [3]float64 `json:"low"`
	High      [3]float64 `json:"high"`
	Area      float64    `json:"area"`
	Volume    float64    `json:"volume"` // signed; meaningful when closed
	Closed    bool       `json:"closed"` // every edge is walked once each way
	Open      int        `json:"open"`   // edges with one face only
	Crowded   int        `json:"crowded"`
	Shells    int        `json:"shells"` // pieces that hang together
}

// Size is the bounding box's extents.
func (s Solid) Size() [3]float64 {
	return [3]float64{s.High[0] - s.Low[0], s.High[1] - s.Low[1], s.High[2] - s.Low[2]}
}

// Measure gives box, area, signed volume (divergence theorem about the middle of the
// box, so that a part far from the origin loses nothing) and closedness.
func (m *Mesh) Measure() Solid {
	s := Solid{Triangles: len(m.Faces), Vertices: len(m.Points), Dropped: m.Dropped}
	if len(m.Faces) == 0 {
		return s
	}
	s.Low, s.High = [3]float64{math.Inf(1), math.Inf(1), math.Inf(1)}, [3]float64{math.Inf(-1), math.Inf(-1), math.Inf(-1)}
	for _, p := range m.Points {
		for k := range 3 {
			s.Low[k], s.High[k] = min(s.Low[k], float64(p[k])), max(s.High[k], float64(p[k]))
		}
	}
	var middle Vec
	for k := range 3 {
		middle[k] = (s.Low[k] + s.High[k]) / 2
	}
	for i := range m.Faces {
		a, b, c := m.corners(i)
		a, b, c = a.Sub(middle), b.Sub(middle), c.Sub(middle)
		s.Area += b.Sub(a).Cross(c.Sub(a)).Length() / 2
		s.Volume += a.Dot(b.Cross(c)) / 6
	}
	m.edges(&s)
	return s
}

func (m *Mesh) corners(face int) (a, b, c Vec) {
	f := m.Faces[face]
	return vec(m.Points[f[0]]), vec(m.Points[f[1]]), vec(m.Points[f[2]])
}

func vec(p [3]float32) Vec { return Vec{float64(p[0]), float64(p[1]), float64(p[2])} }

// edges counts how often each edge is walked, and the pieces that hang together.
// The edges are sorted into buckets by their smaller vertex, so that the work is
// linear in their number.
func (m *Mesh) edges(s *Solid) {
	start := make([]uint32, len(m.Points)+1)
	each := func(f func(a, b uint32)) {
		for _, t := range m.Faces {
			f(t[0], t[1])
			f(t[1], t[2])
			f(t[2], t[0])
		}
	}
	each(func(a, b uint32) { start[min(a, b)+1]++ })
	for i := 1; i < len(start); i++ {
		start[i] += start[i-1]
	}
	other := make([]uint32, 3*len(m.Faces)) // larger vertex; the top bit tells the direction
	const back = 1 << 31
	fill := append([]uint32(nil), start...)
	parent := make([]uint32, len(m.Points))
	for i := range parent {
		parent[i] = uint32(i)
	}
	root := func(i uint32) uint32 {
		for parent[i] != i {
			parent[i] = parent[parent[i]]
			i = parent[i]
		}
		return i
	}
	each(func(a, b uint32) {
		if x, y := root(a), root(b); x != y {
			parent[x] = y
		}
		if a < b {
			other[fill[a]] = b
			fill[a]++
			return
		}
		other[fill[b]] = a | back
		fill[b]++
	})
	flipped := 0
	for v := range m.Points {
		bucket := other[start[v]:start[v+1]]
		for i, x := range bucket {
			if x == math.MaxUint32 {
				continue
			}
			forth, backward := 0, 0
			for k := i; k < len(bucket); k++ {
				if bucket[k] != math.MaxUint32 && bucket[k]&^back == x&^back {
					if bucket[k]&back == 0 {
						forth++
					} else {
						backward++
					}
					if k > i {
						bucket[k] = math.MaxUint32
					}
				}
			}
			switch {
			case forth == 1 && backward == 1:
			case forth+backward == 1:
				s.Open++
			case forth+backward == 2:
				flipped++
			default:
				s.Crowded++
			}
		}
	}
	s.Crowded += flipped
	s.Closed = s.Open == 0 && s.Crowded == 0
	seen := map[uint32]bool{}
	for _, t := range m.Faces {
		seen[root(t[0])] = true
	}
	s.Shells = len(seen)
}

// Normal is a face's outward unit normal; nothing for a face without area.
func (m *Mesh) Normal(face int) Vec {
	a, b, c := m.corners(face)
	n := b.Sub(a).Cross(c.Sub(a))
	if l := n.Length(); l > 0 {
		return n.Times(1 / l)
	}
	return Vec{}
}

// Cells builds a closed mesh of boxes on a grid: filled tells which cells between
// neighbouring cuts of xs, ys and zs (rising, in file units) are solid. All corners
// lie on the grid, so that faces meet corner to corner.
func Cells(xs, ys, zs []float64, filled func(i, j, k int) bool) *Mesh {
	var w Welder
	in := func(c [3]int) bool {
		return c[0] >= 0 && c[1] >= 0 && c[2] >= 0 && c[0] < len(xs)-1 && c[1] < len(ys)-1 && c[2] < len(zs)-1 &&
			filled(c[0], c[1], c[2])
	}
	at := func(c [3]int) [3]float32 { return [3]float32{float32(xs[c[0]]), float32(ys[c[1]]), float32(zs[c[2]])} }
	for i := range len(xs) - 1 {
		for j := range len(ys) - 1 {
			for k := range len(zs) - 1 {
				cell := [3]int{i, j, k}
				if !in(cell) {
					continue
				}
				for axis := range 3 {
					for _, up := range []int{0, 1} {
						beside := cell
						beside[axis] += 2*up - 1
						if in(beside) {
							continue
						}
						a, b := (axis+1)%3, (axis+2)%3
						c := cell
						c[axis] += up
						corners := [4][3]int{c, c, c, c}
						corners[1][a]++
						corners[2][a]++
						corners[2][b]++
						corners[3][b]++
						if up == 0 {
							corners[1], corners[3] = corners[3], corners[1]
						}
						w.Add([3][3]float32{at(corners[0]), at(corners[1]), at(corners[2])})
						w.Add([3][3]float32{at(corners[0]), at(corners[2]), at(corners[3])})
					}
				}
			}
		}
	}
	return &w.Mesh
}
