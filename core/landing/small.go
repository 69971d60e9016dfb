package landing

import (
	"math"
	"strconv"

	"cinderpath/core/form"
	"cinderpath/core/relief"
)

// reliefs are how far a panel's texels are from its small relief, real mm; nil where it has none.
type reliefs struct {
	foot []float32 // from where it turns up: at the foot of what is raised, in what is engraved
	top  []float32 // from the tops of what is raised
	bolt []float32 // from bolts and rivets
}

// about is how far small relief is felt at most, real mm: a bolt holds no dust a hand's breadth away.
const about = 30.0

func (r *reliefs) recess(t *form.Texels, k int, w float64) float32 {
	v := bell(t.Hollow[k], w)
	if r.foot != nil {
		v = max(v, bell(r.foot[k], min(w, about)))
	}
	return v
}

func (r *reliefs) edge(t *form.Texels, k int, w float64) float32 {
	v := bell(t.Convex[k], w)
	if r.top != nil {
		v = max(v, bell(r.top[k], min(w, about)))
	}
	return v
}

// reliefs of a panel.
func (s *Site) reliefs(panel int) *reliefs {
	t := s.Grid.Texels[panel]
	marks := s.Small.Of(panel)
	if len(marks) == 0 {
		return &reliefs{}
	}
	return kept(s, "relief "+strconv.Itoa(panel), func() *reliefs {
		far := float32(math.Inf(1))
		n := len(t.Area)
		r := &reliefs{make([]float32, n), make([]float32, n), make([]float32, n)}
		for k := range n {
			r.foot[k], r.top[k], r.bolt[k] = far, far, far
		}
		for _, m := range marks {
			r.mark(t, m)
		}
		return r
	})
}

// mark lowers the distances about a mark.
func (r *reliefs) mark(t *form.Texels, m relief.Mark) {
	reach := m.Radius + 4*about
	i0, i1 := span(min(m.A[0], m.B[0])-reach-t.X0, max(m.A[0], m.B[0])+reach-t.X0, t.Step, t.NX)
	j0, j1 := span(min(m.A[1], m.B[1])-reach-t.Y0, max(m.A[1], m.B[1])+reach-t.Y0, t.Step, t.NY)
	for j := j0; j <= j1; j++ {
		y := t.Y0 + (float64(j)+0.5)*t.Step
		for i := i0; i <= i1; i++ {
			k := j*t.NX + i
			d := m.Away(t.X0+(float64(i)+0.5)*t.Step, y) - m.Radius
			if d >= 0 || !m.Raised {
				r.foot[k] = min(r.foot[k], float32(max(d, 0)))
			}
			if m.Raised {
				r.top[k] = min(r.top[k], float32(max(d, 0)))
			}
			if m.Dot() {
				r.bolt[k] = min(r.bolt[k], float32(max(d, 0)))
			}
		}
	}
}

// span are the texels of a row, of n, between two places on it.
func span(from, to, step float64, n int) (first, last int) {
	return max(int(from/step), 0), min(int(to/step), n-1)
}
