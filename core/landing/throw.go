package landing

import (
	"math"

	"cinderpath/core/form"
	"cinderpath/core/gear"
)

// How earth is thrown: how fast it thins out, and how far from up and against the travel.
const (
	thrown = 800.0 // real mm
	cone   = 35.0  // degrees
	farOff = 3.0   // of thrown, beyond which next to nothing comes
)

// sources are the points from which a vehicle that drives toward x throws earth up: where a track
// rises behind its last wheel, and behind each wheel that runs on the ground. Each is a row of
// five over the width of the track or the tyre.
func (r Running) sources() (out [][5]form.Vec) {
	lowest := math.Inf(1)
	for _, w := range r.Wheels {
		lowest = min(lowest, w.Z-w.Radius)
	}
	rearmost := 0
	for i, w := range r.Wheels {
		if w.X-w.Radius < r.Wheels[rearmost].X-r.Wheels[rearmost].Radius {
			rearmost = i
		}
	}
	for i, w := range r.Wheels {
		if i == rearmost && r.Tracked { // there the track turns up
			out = append(out, r.rows(w.X-1.1*w.Radius, w.Z)...)
		}
		// Those that run on the ground; the last of a track's throws where it rises.
		if w.Z-w.Radius > lowest+0.3*w.Radius || w.Kind == gear.Return {
			continue
		}
		// Behind and below its axle, a tenth off its rim, where what was picked up comes off.
		x, z := w.X-0.78*w.Radius, w.Z-0.78*w.Radius
		out = append(out, r.rows(x, max(z, lowest+0.1*w.Radius))...)
	}
	return out
}

// rows are five points on each side over the width of the track or the tyre.
func (r Running) rows(x, z float64) (out [][5]form.Vec) {
	for _, side := range []float64{1, -1} {
		var row [5]form.Vec
		for i := range row {
			row[i] = form.Vec{x, side * (r.Face - r.Width*(float64(i)+0.5)/5), z}
		}
		out = append(out, row)
	}
	return out
}

// flung computes throw on every third texel each way, and between them as lies between.
func (s *Site) flung() []float32 {
	return kept(s, "throw", func() []float32 {
		out := make([]float32, s.Grid.Count)
		sources, rays := s.Running.sources(), s.caster()
		up := form.Vec{-1, 0, 1}.Unit()
		form.Each(len(s.Grid.Texels), func(i int) {
			t := s.Grid.Texels[i]
			fill(t, own(t, out), sampled(t, 3, func(at form.Vec) float64 {
				sum := 0.0
				for _, row := range sources {
					sum += brought(row, at, t.Normal, up, rays, t.Step)
				}
				return min(sum, 1)
			}))
		})
		return out
	})
}

// brought is what one source brings to a place that looks along n.
func brought(row [5]form.Vec, at, n, up form.Vec, rays *caster, step float64) float64 {
	v := at.Sub(row[2])
	d := v.Length()
	if d > farOff*thrown || d < 1e-6 {
		return 0
	}
	off := math.Acos(min(max(v.Dot(up)/d, -1), 1)) * 180 / math.Pi
	if off > cone {
		return 0
	}
	comes := math.Exp(-(d/thrown)*(d/thrown)) * smooth((cone-off)/10)
	if comes < 0.01 {
		return 0
	}
	seen := 0.0
	lifted := at.Plus(n.Times(0.5 * step))
	for _, from := range row {
		if n.Dot(from.Sub(at)) > 0 && rays.clear(lifted, from) {
			seen++
		}
	}
	return comes * seen / 5
}

// sampled asks for every so many texels each way, and gives what lies between them.
func sampled(t *form.Texels, every int, at func(form.Vec) float64) func(k int) float32 {
	nx, ny := (t.NX+every-2)/every+1, (t.NY+every-2)/every+1
	known := make([]float64, nx*ny)
	for j := range ny {
		for i := range nx {
			x, y := min(i*every, t.NX-1), min(j*every, t.NY-1)
			known[j*nx+i] = at(t.Space(t.X0+(float64(x)+0.5)*t.Step, t.Y0+(float64(y)+0.5)*t.Step))
		}
	}
	return func(k int) float32 {
		x, y := float64(k%t.NX)/float64(every), float64(k/t.NX)/float64(every)
		i, j := min(int(x), max(nx-2, 0)), min(int(y), max(ny-2, 0))
		fx, fy := x-float64(i), y-float64(j)
		a, b := known[j*nx+i], known[j*nx+min(i+1, nx-1)]
		c, d := known[min(j+1, ny-1)*nx+i], known[min(j+1, ny-1)*nx+min(i+1, nx-1)]
		return float32((a*(1-fx)+b*fx)*(1-fy) + (c*(1-fx)+d*fx)*fy)
	}
}

type throw struct{}

// Throw is how much earth wheels and tracks throw there: falling with the distance from where they
// throw it, within a cone about up and against the travel, times the share of the source that is
// seen from there.
func Throw() Landing { return throw{} }

func (throw) On(s *Site, panel int, _ uint64, out []float32) {
	copy(out, own(s.Grid.Texels[panel], s.flung()))
}
