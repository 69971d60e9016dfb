package form

import (
	"math"
	"runtime"
	"sync"
	"sync/atomic"
)

// Walls is how thin a solid gets, in the unit of its file.
type Walls struct {
	Thinnest  float64    `json:"thinnest"` // 0 where no wall was met
	ThinAt    [3]float64 `json:"thinAt"`
	Feature   float64    `json:"feature"` // diameter of the thinnest pin, rib's end or raised detail
	FeatureAt [3]float64 `json:"featureAt"`
	Samples   int        `json:"samples"`
	Spacing   float64    `json:"spacing"` // samples of a large face lie at most about this far apart
}

// parallel is the cosine of the angle up to which two faces count as the two sides
// of a wall: 25°. Beyond it they are a wedge, whose edge is sharp, not thin.
var parallel = math.Cos(25 * math.Pi / 180)

// Bounds of the search for thin walls.
const (
	mostSamples  = 1_200_000
	mostSpots    = 20_000 // thinnest samples that are looked at for features
	samplesAlong = 150    // across the box's diagonal
	directions   = 12     // in which the width across a thin spot is measured
)

// Walls measures wall thickness: from samples on every face a ray goes straight
// inward to the face it leaves by; it is a wall when both faces are parallel within
// 25°. The thinnest feature is, over the thinnest samples, the larger of that
// thickness and the least width across it: for a pin its diameter, for a long rib
// its width or height, whichever is less. progress is told the share done, from
// several goroutines in turn; stop ends the search early.
func (m *Mesh) Walls(s Solid, progress func(share float64), stop func() bool) Walls {
	var out Walls
	if len(m.Faces) == 0 {
		return out
	}
	size := s.Size()
	diagonal := math.Sqrt(size[0]*size[0] + size[1]*size[1] + size[2]*size[2])
	sign := 1.0
	if s.Volume < 0 {
		sign = -1
	}
	t := newTree(m)
	spacing := diagonal / samplesAlong
	first := make([]int32, len(m.Faces)+1) // first sample of each face
	per := func(area float64) int {
		n := int(math.Ceil(math.Sqrt(2*area) / spacing))
		return max(1, min(n, 200))
	}
	total := 0
	for range 8 { // coarser until it fits
		total = 0
		for i := range m.Faces {
			a, b, c := m.corners(i)
			n := per(b.Sub(a).Cross(c.Sub(a)).Length() / 2)
			first[i] = int32(total)
			total += n * n
		}
		first[len(m.Faces)] = int32(total)
		if total <= mostSamples || total == len(m.Faces) {
			break
		}
		spacing *= 1.5
	}
	out.Samples, out.Spacing = total, spacing
	w := walker{t: t, diagonal: diagonal, sign: sign}
	thick := make([]float32, total)
	w.share(len(m.Faces), 0.9, 0, progress, stop, func(face int) {
		n := int(math.Round(math.Sqrt(float64(first[face+1] - first[face]))))
		for k := range n * n {
			at, inward := w.sample(face, n, k)
			thick[int(first[face])+k] = float32(w.wall(at, inward, face))
		}
	})
	w.thinnest(&out, thick, first, progress, stop)
	return out
}

type walker struct {
	t              *tree
	diagonal, sign float64
}

// share runs f over 0…n-1 on all processors.
func (w walker) share(n int, weight, done float64, progress func(float64), stop func() bool, f func(int)) {
	const block = 512
	var next atomic.Int64
	var wait sync.WaitGroup
	var told sync.Mutex
	for range runtime.GOMAXPROCS(0) {
		wait.Go(func() {
			for {
				from := int(next.Add(block)) - block
				if from >= n || stop != nil && stop() {
					return
				}
				for i := from; i < min(from+block, n); i++ {
					f(i)
				}
				if progress != nil && from/block%16 == 0 {
					told.Lock()
					progress(done + weight*float64(from)/float64(n))
					told.Unlock()
				}
			}
		})
	}
	wait.Wait()
}

// sample gives the k-th of n² points spread evenly over a face (the middles of n²
// equal small triangles) and the direction inward.
func (w walker) sample(face, n, k int) (at, inward Vec) {
	a, b, c := w.t.mesh.corners(face)
	e, g := b.Sub(a), c.Sub(a)
	normal := e.Cross(g)
	// Row r of the n rows has r + 1 small triangles that stand and r that hang.
	row := int(math.Sqrt(float64(k)))
	j := float64((k - row*row) / 2)
	x, y := float64(row)-j+1.0/3, j+1.0/3
	if (k-row*row)%2 == 1 {
		x, y = float64(row)-j-1.0/3, j+2.0/3
	}
	x, y = x/float64(n), y/float64(n)
	at = a.Plus(e.Times(x)).Plus(g.Times(y))
	if l := normal.Length(); l > 0 {
		inward = normal.Times(-w.sign / l)
	}
	return at, inward
}

// wall is the thickness under a point, infinite where no opposite face is parallel.
func (w walker) wall(at, inward Vec, face int) float64 {
	if inward == (Vec{}) {
		return math.Inf(1)
	}
	h, ok := w.t.leave(at, inward, face, w.diagonal*1e-9, 2*w.diagonal, w.sign)
	if !ok || h.exit < parallel {
		return math.Inf(1)
	}
	return h.t
}

// width is the chord through a point along a direction and against it, infinite
// where its ends are not two sides of a wall: across a corner it says nothing.
func (w walker) width(at, along Vec) float64 {
	f, okF := w.t.leave(at, along, -1, 0, 2*w.diagonal, w.sign)
	b, okB := w.t.leave(at, along.Times(-1), -1, 0, 2*w.diagonal, w.sign)
	if !okF || !okB || f.exit < parallel || b.exit < parallel {
		return math.Inf(1)
	}
	return f.t + b.t
}

func (w walker) thinnest(out *Walls, thick []float32, first []int32, progress func(float64), stop func() bool) {
	order := sortedBy(len(thick), func(i int) float64 { return float64(thick[i]) })
	face := func(sample int) int {
		lo, hi := 0, len(first)-1
		for lo+1 < hi {
			if mid := (lo + hi) / 2; int(first[mid]) <= sample {
				lo = mid
			} else {
				hi = mid
			}
		}
		return lo
	}
	place := func(sample int) (at, inward Vec) {
		f := face(sample)
		n := int(math.Round(math.Sqrt(float64(first[f+1] - first[f]))))
		return w.sample(f, n, sample-int(first[f]))
	}
	best := math.Inf(1)
	for rank, sample := range order[:min(len(order), mostSpots)] {
		t := float64(thick[sample])
		if math.IsInf(t, 1) || t >= best || stop != nil && stop() {
			break
		}
		at, inward := place(sample)
		middle := at.Plus(inward.Times(t / 2))
		if rank == 0 {
			out.Thinnest, out.ThinAt = t, middle
		}
		u := inward.Cross(Vec{1, 0, 0})
		if u.Length() < 0.5 {
			u = inward.Cross(Vec{0, 1, 0})
		}
		u = u.Times(1 / u.Length())
		v := inward.Cross(u)
		least := math.Inf(1)
		for k := range directions {
			sin, cos := math.Sincos(float64(k) * math.Pi / directions)
			least = min(least, w.width(middle, u.Times(cos).Plus(v.Times(sin))))
		}
		if feature := max(t, least); feature < best {
			best = feature
			out.Feature, out.FeatureAt = feature, middle
		}
		if progress != nil && rank%1000 == 0 {
			progress(0.9 + 0.1*float64(rank)/mostSpots)
		}
	}
}
