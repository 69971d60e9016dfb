package form

import "math"

// Vec is a point or direction in space, real mm.
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

// unit is the direction of a vector that is not nothing.
func (a Vec) unit() Vec { return a.times(1 / a.length()) }

// normal is the area-weighted normal of a polygon: twice its area along the direction
// it is counter-clockwise from (Newell).
func normal(corners []Vec) Vec {
	n, o := Vec{}, corners[0]
	for i := range corners {
		n = n.plus(corners[i].sub(o).cross(corners[(i+1)%len(corners)].sub(o)))
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
