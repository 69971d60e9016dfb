package scheme

import (
	"math"

	"cinderpath/core/form"
)

// blotches are islands: balls about jittered points of a lattice in space, their rims moved by
// noise. Mottle is many small ones.
type blotches struct {
	side   float64 // of a cell of the lattice, real mm
	rough  float64 // real mm by which noise moves a rim
	grain  float64 // of that noise, per real mm
	seed   uint64
	middle float64
}

func newBlotches(m making) field {
	part := math.Min(math.Max(float64(m.part), 0.03), 0.7)
	// A plane cuts balls in discs of all sizes, and neighbours run together where much is wanted:
	// how wide the islands are, measured along their middle lines over many seeds.
	rough := 0.4 * (1 - m.bend)
	radius := m.width / (1.75 * (0.91 - 1.1*rough))
	side := radius * math.Cbrt(4*math.Pi/3/part)
	return blotches{side: side, rough: rough * m.width, grain: 1.3 / m.width, seed: m.seed, middle: radius}
}

func (f blotches) at(p place) float64 {
	x, y, z := p.at[0]/f.side, p.at[1]/f.side, p.at[2]/f.side
	near := f.nearest(x, y, z)
	v := f.middle - near*f.side
	if f.rough > 0 {
		v += f.rough * p.near.Noise(f.seed+3, p.at[0]*f.grain, p.at[1]*f.grain, p.at[2]*f.grain)
	}
	return v
}

// nearest is the distance to the nearest point of the lattice, in its own units.
func (f blotches) nearest(x, y, z float64) float64 {
	bx, by, bz := math.Floor(x-0.5), math.Floor(y-0.5), math.Floor(z-0.5)
	best := math.Inf(1)
	for k := range 2 {
		hz := form.Hash(f.seed ^ uint64(int64(bz)+int64(k)))
		for j := range 2 {
			hy := form.Hash(hz ^ uint64(int64(by)+int64(j)))
			for i := range 2 {
				h := form.Hash(hy ^ uint64(int64(bx)+int64(i)))
				// Points keep to the inner half of their cell, so that the nearest one lies in one
				// of eight cells.
				dx := x - bx - float64(i) - 0.25 - 0.5*float64(h&0xffff)/65536
				dy := y - by - float64(j) - 0.25 - 0.5*float64(h>>16&0xffff)/65536
				dz := z - bz - float64(k) - 0.25 - 0.5*float64(h>>32&0xffff)/65536
				best = min(best, dx*dx+dy*dy+dz*dz)
			}
		}
	}
	return math.Sqrt(best)
}
