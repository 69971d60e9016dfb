package form

import "math"

// Vec is a point or direction in space, real mm.
type Vec [3]float64

// Sub is the way from b to a.
func (a Vec) Sub(b Vec) Vec { return Vec{a[0] - b[0], a[1] - b[1], a[2] - b[2]} }

// Dot is the scalar product.
func (a Vec) Dot(b Vec) float64 { return a[0]*b[0] + a[1]*b[1] + a[2]*b[2] }

// Cross is the vector product.
func (a Vec) Cross(b Vec) Vec {
	return Vec{a[1]*b[2] - a[2]*b[1], a[2]*b[0] - a[0]*b[2], a[0]*b[1] - a[1]*b[0]}
}

// Times is k times as long.
func (a Vec) Times(k float64) Vec { return Vec{a[0] * k, a[1] * k, a[2] * k} }

// Plus is the sum.
func (a Vec) Plus(b Vec) Vec { return Vec{a[0] + b[0], a[1] + b[1], a[2] + b[2]} }

// Length is how long it is, real mm.
func (a Vec) Length() float64 { return math.Sqrt(a.Dot(a)) }

// Unit is the direction of a vector that is not nothing.
func (a Vec) Unit() Vec { return a.Times(1 / a.Length()) }

// normal is the area-weighted normal of a polygon: twice its area along the direction
// it is counter-clockwise from (Newell).
func normal(corners []Vec) Vec {
	n, o := Vec{}, corners[0]
	for i := range corners {
		n = n.Plus(corners[i].Sub(o).Cross(corners[(i+1)%len(corners)].Sub(o)))
	}
	return n
}

// signed is twice the area of a plane polygon, positive when counter-clockwise.
func signed(c [][2]float64) float64 {
	sum := 0.0
	for i := range c {
		j := (i + 1) % len(c)
		sum += c[i][0]*c[j][1] - c[j][0]*c[i][1]
	}
	return sum
}

// polygonArea is the area of a simple polygon, either way round.
func polygonArea(c [][2]float64) float64 { return math.Abs(signed(c)) / 2 }
