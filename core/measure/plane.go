package measure

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/mat"
)

// Plane maps pixels to real mm in the plane of a known rectangle, whose first
// corner is (0, 0), x along its upper side, y down.
type Plane struct{ h [9]float64 }

// NewPlane finds the homography from four corners to a rectangle across × down by
// the normalised direct linear transformation (Hartley and Zisserman, Multiple View
// Geometry, 4.4). Refused: corners in the wrong order, three in a line, no area.
func NewPlane(corners [4]Pixel, across, down float64) (Plane, error) {
	if err := checkCorners(corners); err != nil {
		return Plane{}, err
	}
	return solvePlane(corners, across, down)
}

func checkCorners(c [4]Pixel) error {
	longest := 0.0
	for i := range 4 {
		longest = max(longest, dist(c[i], c[(i+1)%4]), dist(c[i], c[(i+2)%4]))
	}
	turns := 0
	for i := range 4 {
		a, b, d := c[i], c[(i+1)%4], c[(i+2)%4]
		cross := (b[0]-a[0])*(d[1]-b[1]) - (b[1]-a[1])*(d[0]-b[0])
		// Height of the triangle over its longest side: how far from a line the three lie.
		if side := max(
			dist(a, b),
			dist(b, d),
			dist(a, d),
		); side < leastReference ||
			math.Abs(cross)/side < max(3*ClickSigma, 0.01*longest) {
			return &Fault{
				"corners",
				fmt.Sprintf("corners %d, %d and %d lie in a line, or the area is near zero", i+1, (i+1)%4+1, (i+2)%4+1),
				"mark four corners of a rectangle that is seen as an area",
			}
		}
		if cross > 0 {
			turns++
		}
	}
	if turns != 0 && turns != 4 {
		return &Fault{
			"corners",
			"the sides cross each other",
			"mark the corners in turn round the rectangle: upper left, upper right, lower right, lower left",
		}
	}
	return nil
}

func solvePlane(corners [4]Pixel, across, down float64) (Plane, error) {
	// Normalised: centroid at the origin, mean distance √2.
	var mx, my, spread float64
	for _, c := range corners {
		mx, my = mx+c[0]/4, my+c[1]/4
	}
	for _, c := range corners {
		spread += math.Hypot(c[0]-mx, c[1]-my) / 4
	}
	k := math.Sqrt2 / spread
	unit := [4][2]float64{{-1, -1}, {1, -1}, {1, 1}, {-1, 1}}
	a, b := mat.NewDense(8, 8, nil), mat.NewVecDense(8, nil)
	for i, c := range corners {
		x, y := (c[0]-mx)*k, (c[1]-my)*k
		u, v := unit[i][0], unit[i][1]
		a.SetRow(2*i, []float64{x, y, 1, 0, 0, 0, -u * x, -u * y})
		a.SetRow(2*i+1, []float64{0, 0, 0, x, y, 1, -v * x, -v * y})
		b.SetVec(2*i, u)
		b.SetVec(2*i+1, v)
	}
	var h mat.VecDense
	if err := h.SolveVec(a, b); err != nil {
		return Plane{}, &Fault{
			"corners",
			"no plane goes through them",
			"mark four corners of a rectangle that is seen as an area",
		}
	}
	// Undo both normalisations: pixel → unit square → mm.
	n := [9]float64{h.AtVec(0), h.AtVec(1), h.AtVec(2), h.AtVec(3), h.AtVec(4), h.AtVec(5), h.AtVec(6), h.AtVec(7), 1}
	t := [9]float64{k, 0, -k * mx, 0, k, -k * my, 0, 0, 1}
	s := [9]float64{across / 2, 0, across / 2, 0, down / 2, down / 2, 0, 0, 1}
	return Plane{times(s, times(n, t))}, nil
}

func times(a, b [9]float64) (c [9]float64) {
	for i := range 3 {
		for j := range 3 {
			for k := range 3 {
				c[3*i+j] += a[3*i+k] * b[3*k+j]
			}
		}
	}
	return c
}

// On gives the place of a pixel in the plane, real mm. ok is false beyond the
// plane's horizon.
func (p Plane) On(x Pixel) (q [2]float64, ok bool) {
	w := p.h[6]*x[0] + p.h[7]*x[1] + p.h[8]
	if w <= 1e-12 {
		return q, false
	}
	return [2]float64{(p.h[0]*x[0] + p.h[1]*x[1] + p.h[2]) / w, (p.h[3]*x[0] + p.h[4]*x[1] + p.h[5]) / w}, true
}

// Pixel gives the pixel of a place in the plane, the inverse of On.
func (p Plane) Pixel(q [2]float64) (x Pixel, ok bool) {
	m := mat.NewDense(3, 3, p.h[:])
	var out mat.VecDense
	if err := out.SolveVec(m, mat.NewVecDense(3, []float64{q[0], q[1], 1})); err != nil {
		return x, false
	}
	if w := out.AtVec(2); w > 1e-12 {
		return Pixel{out.AtVec(0) / w, out.AtVec(1) / w}, true
	}
	return x, false
}

// between gives the length between two pixels in the plane of four corners.
func between(corners [4]Pixel, across, down float64, a, b Pixel) (mm float64, ok bool) {
	plane, err := solvePlane(corners, across, down)
	if err != nil {
		return 0, false
	}
	p, okP := plane.On(a)
	q, okQ := plane.On(b)
	return math.Hypot(p[0]-q[0], p[1]-q[1]), okP && okQ
}
