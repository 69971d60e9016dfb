package base

import (
	"math"

	"cinderpath/core/gear"
)

// Box is a rectangle in plan: x along the vehicle, forward, and y across, to its left.
type Box struct{ X0, X1, Y0, Y1 float64 }

// Site is what stands on a base, real mm, the vehicle's middle at y = 0.
type Site struct {
	Scale  float64
	Gear   Box          // of tracks and wheels, seen from above
	Whole  Box          // of all of the vehicle
	Foot   float64      // its lowest height
	Prints []Box        // where track and wheels bear, each side, at no sink at all
	Runs   []Run        // what presses into the ground
	Ground gear.Terrain // under both tracks, the same across
	Belly  []Plate      // level faces of the hull's underside over its middle
	Centre float64      // x of the middle of its weight
}

// Run is a strip that presses into the ground: a track's lower run or a tyre.
type Run struct {
	Y0, Y1 float64
	Line   [][2]float64 // its underside, x and z, by rising x
}

// Plate is a level face of the underside: from x0 to x1 on the middle line, at a height.
type Plate struct{ X0, X1, Z float64 }

// grounded gives by x how high the ground lies once the vehicle has sunk in.
func (s Site) grounded(sink float64) func(x float64) float64 {
	return func(x float64) float64 { return s.Ground.Height(x) + sink }
}

// pressed is where a run lies in the ground, boxes by rising x.
func (s Site) pressed(r Run, sink float64) (out []Box) {
	ground := s.grounded(sink)
	const bears = 1.0 // real mm: as near as that, it bears
	in := func(p [2]float64) float64 { return p[1] - ground(p[0]) - bears }
	var from float64
	open := false
	shut := func(at float64) {
		if open && at > from {
			out = append(out, Box{from, at, r.Y0, r.Y1})
		}
		open = false
	}
	for i, p := range r.Line {
		d := in(p)
		if i > 0 {
			q := r.Line[i-1]
			if e := in(q); (e <= 0) != (d <= 0) {
				at := q[0] + (p[0]-q[0])*e/(e-d)
				if e > 0 {
					from, open = at, true
				} else {
					shut(at)
				}
			}
		} else if d <= 0 {
			from, open = p[0], true
		}
	}
	if n := len(r.Line); n > 0 {
		shut(r.Line[n-1][0])
	}
	return out
}

// turned gives the corners of a box on the board: turned about the middle of the gear, model mm.
func (s Site) turned(b Box, degrees float64) [][2]float64 {
	out := make([][2]float64, 0, 4)
	for _, c := range [][2]float64{{b.X0, b.Y0}, {b.X1, b.Y0}, {b.X1, b.Y1}, {b.X0, b.Y1}} {
		out = append(out, s.place(c[0], c[1], degrees))
	}
	return out
}

// place is where a point of the vehicle comes to lie on the board, from its middle.
func (s Site) place(x, y, degrees float64) [2]float64 {
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	x, y = (x-s.middle())/s.Scale, y/s.Scale
	return [2]float64{x*cos - y*sin, x*sin + y*cos}
}

func (s Site) middle() float64 { return (s.Gear.X0 + s.Gear.X1) / 2 }
