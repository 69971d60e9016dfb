package scheme

import (
	"cinderpath/core/measure"
	"fmt"
	"math"

	"gonum.org/v1/gonum/mat"
)

// Pair says that a place of a picture is a place of a view.
type Pair struct {
	Pixel [2]float64 `json:"pixel"`
	At    [2]float64 `json:"at"` // to the right and down in the view's plane, real mm
}

// turned maps the plane of a view onto a picture.
type onto struct{ h [9]float64 }

func (m onto) at(x, y float64) (u, v float64) {
	w := m.h[6]*x + m.h[7]*y + m.h[8]
	return (m.h[0]*x + m.h[1]*y + m.h[2]) / w, (m.h[3]*x + m.h[4]*y + m.h[5]) / w
}

// align fits a picture: two pairs turn and size it, three shear it, four bring perspective.
func align(pairs []Pair) (onto, error) {
	n := len(pairs)
	if n < 2 || n > 4 {
		return onto{}, measure.Refuse("pairs", fmt.Sprintf("%d common places", n), "mark two to four that are seen on both")
	}
	// Near the origin and of size one, so that the equations are even.
	cx, cy, size := 0.0, 0.0, 0.0
	for _, p := range pairs {
		cx, cy = cx+p.At[0]/float64(n), cy+p.At[1]/float64(n)
	}
	for _, p := range pairs {
		size = max(size, math.Hypot(p.At[0]-cx, p.At[1]-cy))
	}
	if size < 1 {
		return onto{}, measure.Refuse("pairs", "the places are one and the same", "mark places that are far apart")
	}
	unknowns := map[int]int{2: 4, 3: 6, 4: 8}[n]
	a, b := mat.NewDense(2*n, unknowns, nil), mat.NewVecDense(2*n, nil)
	for i, p := range pairs {
		x, y := (p.At[0]-cx)/size, (p.At[1]-cy)/size
		u, v := p.Pixel[0], p.Pixel[1]
		switch n {
		case 2:
			a.SetRow(2*i, []float64{x, -y, 1, 0})
			a.SetRow(2*i+1, []float64{y, x, 0, 1})
		case 3:
			a.SetRow(2*i, []float64{x, y, 1, 0, 0, 0})
			a.SetRow(2*i+1, []float64{0, 0, 0, x, y, 1})
		case 4:
			a.SetRow(2*i, []float64{x, y, 1, 0, 0, 0, -u * x, -u * y})
			a.SetRow(2*i+1, []float64{0, 0, 0, x, y, 1, -v * x, -v * y})
		}
		b.SetVec(2*i, u)
		b.SetVec(2*i+1, v)
	}
	var h mat.VecDense
	if err := h.SolveVec(a, b); err != nil {
		return onto{}, measure.Refuse(
			"pairs",
			"they lie in a line, or two of them in one place",
			"mark places that span an area",
		)
	}
	var m [9]float64
	switch n {
	case 2:
		m = [9]float64{h.AtVec(0), -h.AtVec(1), h.AtVec(2), h.AtVec(1), h.AtVec(0), h.AtVec(3), 0, 0, 1}
	case 3:
		m = [9]float64{h.AtVec(0), h.AtVec(1), h.AtVec(2), h.AtVec(3), h.AtVec(4), h.AtVec(5), 0, 0, 1}
	default:
		for k := range 8 {
			m[k] = h.AtVec(k)
		}
		m[8] = 1
	}
	// Take the place and size back in: x = (X - cx) / size.
	out := onto{}
	for r := range 3 {
		out.h[3*r] = m[3*r] / size
		out.h[3*r+1] = m[3*r+1] / size
		out.h[3*r+2] = m[3*r+2] - (m[3*r]*cx+m[3*r+1]*cy)/size
	}
	return out, nil
}
