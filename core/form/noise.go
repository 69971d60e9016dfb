package form

import "math"

// Noise is smooth value noise in [-1, 1] on the unit lattice: the same for the same seed and
// place on every machine. The surface's patterns and dirt are made of it.
func Noise(seed uint64, x, y, z float64) float64 {
	var c corners
	return c.noise(seed, x, y, z)
}

// Lattice is noise of several seeds that remembers the cell of the lattice each was asked in last: who goes
// along a surface mostly stays in it, and its corners are most of the work. For one goroutine; the zero
// value is ready, and none remembers nothing.
type Lattice [8]corners

// Noise is that of the seed and place.
func (n *Lattice) Noise(seed uint64, x, y, z float64) float64 {
	if n == nil {
		return Noise(seed, x, y, z)
	}
	return n[seed%uint64(len(n))].noise(seed, x, y, z)
}

// corners is a cell of the lattice with the values at its corners.
type corners struct {
	seed   uint64
	at     [3]int64
	values [8]float64
	known  bool
}

func (c *corners) noise(seed uint64, x, y, z float64) float64 {
	fx, fy, fz := math.Floor(x), math.Floor(y), math.Floor(z)
	if at := [3]int64{int64(fx), int64(fy), int64(fz)}; !c.known || c.seed != seed || c.at != at {
		c.move(seed, at)
	}
	tx, ty, tz := fade(x-fx), fade(y-fy), fade(z-fz)
	v := &c.values
	a0, a1 := v[0]+tx*(v[1]-v[0]), v[2]+tx*(v[3]-v[2])
	b0, b1 := v[4]+tx*(v[5]-v[4]), v[6]+tx*(v[7]-v[6])
	a, b := a0+ty*(a1-a0), b0+ty*(b1-b0)
	return a + tz*(b-a)
}

// move goes to another cell. The hash of a corner is built up axis by axis, so that corners share the work.
func (c *corners) move(seed uint64, at [3]int64) {
	c.seed, c.at, c.known = seed, at, true
	for k := range 2 {
		hz := Hash(seed ^ uint64(at[2]+int64(k)))
		for j := range 2 {
			hy := Hash(hz ^ uint64(at[1]+int64(j)))
			for i := range 2 {
				c.values[4*k+2*j+i] = 2*Unit(Hash(hy^uint64(at[0]+int64(i)))) - 1
			}
		}
	}
}

func fade(t float64) float64 { return t * t * t * (t*(t*6-15) + 10) }

// Hash is the finaliser of splitmix64: cheap, without visible pattern.
func Hash(x uint64) uint64 {
	x += 0x9e3779b97f4a7c15
	x = (x ^ x>>30) * 0xbf58476d1ce4e5b9
	x = (x ^ x>>27) * 0x94d049bb133111eb
	return x ^ x>>31
}

// Unit maps a hash to [0, 1).
func Unit(h uint64) float64 { return float64(h>>11) / (1 << 53) }
