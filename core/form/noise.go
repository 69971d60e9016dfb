package form

import "math"

// Noise is smooth value noise in [-1, 1] on the unit lattice: the same for the same seed and
// place on every machine. The surface's patterns and dirt are made of it.
func Noise(seed uint64, x, y, z float64) float64 {
	fx, fy, fz := math.Floor(x), math.Floor(y), math.Floor(z)
	ix, iy, iz := int64(fx), int64(fy), int64(fz)
	tx, ty, tz := fade(x-fx), fade(y-fy), fade(z-fz)
	// The hash of a corner is built up axis by axis, so that corners share the work.
	var c [8]float64
	for k := range 2 {
		hz := Hash(seed ^ uint64(iz+int64(k)))
		for j := range 2 {
			hy := Hash(hz ^ uint64(iy+int64(j)))
			for i := range 2 {
				c[4*k+2*j+i] = 2*Unit(Hash(hy^uint64(ix+int64(i)))) - 1
			}
		}
	}
	for i := 0; i < 8; i += 2 {
		c[i/2] = c[i] + tx*(c[i+1]-c[i])
	}
	a, b := c[0]+ty*(c[1]-c[0]), c[2]+ty*(c[3]-c[2])
	return a + tz*(b-a)
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
