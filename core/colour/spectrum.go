package colour

import (
	"math"

	"gonum.org/v1/gonum/mat"
)

// What a real surface reflects at least and at most.
const (
	Least = 0.002
	Most  = 0.99
)

func (r Bands) clamped() (out Bands, acted int) {
	for i, v := range r {
		out[i] = min(max(v, Least), Most)
		if out[i] != v {
			acted++
		}
	}
	return out, acted
}

// Even is the same in all bands.
func Even(v float64) (out Bands) {
	for i := range out {
		out[i] = v
	}
	return out
}

// smoothest is the reflectance of a swatch whose bands, as z = atanh(2R − 1), differ
// least from their neighbours: Newton's method on the stationary points under the three
// equations of its colour. Black and white have none and become the two bounds.
func smoothest(c RGB) Bands {
	switch c {
	case RGB{}:
		return Even(Least)
	case RGB{255, 255, 255}:
		return Even(Most)
	}
	const n = Count + 3
	want, w := c.XYZ(), observer()
	var z [n]float64 // the bands, then a multiplier for each equation
	system, right := mat.NewDense(n, n, nil), mat.NewVecDense(n, nil)
	for range 400 {
		system.Zero()
		rest := [3]float64{-want[0], -want[1], -want[2]}
		for i := range Count {
			t := math.Tanh(z[i])
			slope, curve := (1-t*t)/2, -t*(1-t*t)
			pull := z[Count]*w[0][i] + z[Count+1]*w[1][i] + z[Count+2]*w[2][i]
			stiff, along := 0.0, 0.0
			for _, k := range []int{i - 1, i + 1} {
				if k >= 0 && k < Count {
					stiff += 2
					along += 2 * (z[i] - z[k])
					system.Set(i, k, -2)
				}
			}
			system.Set(i, i, stiff+pull*curve)
			for k := range 3 {
				system.Set(i, Count+k, slope*w[k][i])
				system.Set(Count+k, i, slope*w[k][i])
				rest[k] += w[k][i] * (1 + t) / 2
			}
			right.SetVec(i, -(along + pull*slope))
		}
		off := 0.0
		for k := range 3 {
			right.SetVec(Count+k, -rest[k])
		}
		for i := range n {
			off = max(off, math.Abs(right.AtVec(i)))
		}
		if off < 1e-13 {
			break
		}
		var step mat.VecDense
		if err := step.SolveVec(system, right); err != nil {
			if _, poor := err.(mat.Condition); !poor { //nolint:errorlint // gonum gives it bare
				break
			}
		}
		longest := 1.0
		for i := range Count {
			longest = max(longest, math.Abs(step.AtVec(i)))
		}
		for i := range n {
			z[i] += step.AtVec(i) / longest
		}
	}
	var r Bands
	for i := range r {
		r[i] = (1 + math.Tanh(z[i])) / 2
	}
	return r
}

// Reflectance is what a swatch tells of a surface.
type Reflectance struct {
	Solved   Bands // as seen, before any bound acts
	Internal Bands // below the skin
	Clamped  int   // bands in which a bound acted
}

// Spectrum gives the smoothest reflectance of a swatch that is seen with a sheen.
func Spectrum(c RGB, sheen Sheen) Reflectance {
	r := Reflectance{Solved: smoothest(c)}
	seen, _ := r.Solved.clamped()
	inner := sheen.within(seen)
	acted := [Count]bool{}
	r.Internal, _ = inner.clamped()
	for i := range inner {
		acted[i] = seen[i] != r.Solved[i] || r.Internal[i] != inner[i]
		if acted[i] {
			r.Clamped++
		}
	}
	return r
}
