package scheme

import (
	"math"

	"cinderpath/core/form"
)

// field is a band pattern for one colour: waves across the vehicle, bent by noise.
// Its values are roughly the distance in real mm from the middle between bands.
type field struct {
	direction [3]float64 // unit normal of the bands
	period    float64    // real mm from band to band
	bend      float64    // real mm by which noise moves a band
	seed      uint64
	shift     float64
}

// newField lays bands of the given width (real mm) for a colour that takes the
// given part of the surface still free.
func newField(seed uint64, index int, width, part float64) field {
	s := mix(seed + uint64(index)*0x9e3779b97f4a7c15)
	lean := 0.45 * (unit(s) - 0.5) * math.Pi
	skew := 0.5 * (unit(mix(s+1)) - 0.5) * math.Pi
	d := [3]float64{math.Cos(lean) * math.Cos(skew), math.Sin(skew), math.Sin(lean) * math.Cos(skew)}
	period := width / math.Min(math.Max(part, 0.15), 0.85)
	return field{direction: d, period: period, bend: 0.32 * period, seed: s, shift: unit(mix(s + 2))}
}

func (f field) at(p form.Vec) float64 {
	along := p[0]*f.direction[0] + p[1]*f.direction[1] + p[2]*f.direction[2]
	k := 1 / (0.9 * f.period)
	along += f.bend * (noise(f.seed, p[0]*k, p[1]*k, p[2]*k) + 0.4*noise(f.seed+7, 2.7*p[0]*k, 2.7*p[1]*k, 2.7*p[2]*k))
	return f.period / (2 * math.Pi) * math.Cos(2*math.Pi*(along/f.period+f.shift))
}

// noise is smooth value noise in [-1, 1] on the unit lattice.
func noise(seed uint64, x, y, z float64) float64 {
	fx, fy, fz := math.Floor(x), math.Floor(y), math.Floor(z)
	ix, iy, iz := int64(fx), int64(fy), int64(fz)
	tx, ty, tz := fade(x-fx), fade(y-fy), fade(z-fz)
	// The hash of a corner is built up axis by axis, so that corners share the work.
	var c [8]float64
	for k := range 2 {
		hz := mix(seed ^ uint64(iz+int64(k)))
		for j := range 2 {
			hy := mix(hz ^ uint64(iy+int64(j)))
			for i := range 2 {
				c[4*k+2*j+i] = 2*unit(mix(hy^uint64(ix+int64(i)))) - 1
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

// mix is the finaliser of splitmix64: a cheap hash without visible pattern.
func mix(x uint64) uint64 {
	x += 0x9e3779b97f4a7c15
	x = (x ^ x>>30) * 0xbf58476d1ce4e5b9
	x = (x ^ x>>27) * 0x94d049bb133111eb
	return x ^ x>>31
}

// unit maps a hash to [0, 1).
func unit(h uint64) float64 { return float64(h>>11) / (1 << 53) }
