package vehicle

import (
	"cmp"
	"math"
	"slices"

	"cinderpath/core/base"
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/measure"
	"cinderpath/core/zone"
)

// BaseQuestion asks for the ground a vehicle stands on.
type BaseQuestion struct {
	FormQuestion

	Base *base.Base `json:"base,omitempty"` // a usual one where nothing is said
}

// AskBase lays a base.
func AskBase(q BaseQuestion) (base.Laid, error) {
	b, err := q.build()
	if err != nil {
		return base.Laid{}, err
	}
	if len(b.Wheels) == 0 {
		return base.Laid{}, measure.Refuse("wheels", "nothing stands on the ground", "give the wheels")
	}
	run, lies, err := Stand(b)
	if err != nil {
		return base.Laid{}, measure.At("wheels", err)
	}
	panels, err := form.Panels(b.Body, run)
	if err != nil {
		return base.Laid{}, measure.At("body", err)
	}
	b.Base = q.Base
	return BaseOf(b, lies, panels)
}

// BaseOf lays the base of a build.
func BaseOf(b document.Build, lies Stance, panels []*form.Panel) (base.Laid, error) {
	laid, err := base.Lay(b.StandsOn(), siteOf(b, lies, panels))
	return laid, measure.At("base", err)
}

// siteOf is what stands on the base of a build.
func siteOf(b document.Build, lies Stance, panels []*form.Panel) base.Site {
	s := base.Site{Scale: float64(b.Scale), Ground: b.Ground}
	face, width := b.Face(), b.Link.Width
	s.Gear = base.Box{X0: math.Inf(1), X1: math.Inf(-1), Y0: -face, Y1: face}
	reach := func(x, away float64) { s.Gear.X0, s.Gear.X1 = min(s.Gear.X0, x-away), max(s.Gear.X1, x+away) }
	for _, w := range lies.wheels {
		reach(w.X, w.Radius)
	}
	for _, p := range lies.line {
		reach(p[0], b.Link.Ground)
	}
	low, high, _ := form.Extent(panels, func(string) bool { return true })
	s.Whole = base.Box{X0: low[0], X1: high[0], Y0: low[1], Y1: high[1]}
	s.Foot = low[2]
	s.Centre = middle(panels)
	s.Belly = belly(panels)
	press := func(line [][2]float64) {
		for _, sign := range []float64{1, -1} {
			y0, y1 := sign*(face-width), sign*face
			s.Runs = append(s.Runs, base.Run{Y0: min(y0, y1), Y1: max(y0, y1), Line: line})
		}
	}
	if len(lies.line) > 2 {
		press(underside(lies.line, b.Link.Ground))
	}
	for _, w := range lies.wheels {
		if w.Kind == gear.Tyre || len(lies.line) == 0 && w.Kind == gear.Road {
			press(underside([][2]float64{{w.X, w.Z}}, w.Radius))
		}
	}
	return s
}

// finely is how finely an underside is told, real mm.
const finely = 10.0

// underside is the lower side of what lies within a distance of a closed line, by rising x.
func underside(line [][2]float64, away float64) (out [][2]float64) {
	from, to := math.Inf(1), math.Inf(-1)
	for _, p := range line {
		from, to = min(from, p[0]-away), max(to, p[0]+away)
	}
	n := int(math.Ceil((to - from) / finely))
	n = min(max(n, 8), 4000)
	low := make([]float64, n+1)
	at := make([]float64, n+1)
	for i := range at {
		at[i], low[i] = from+(to-from)*float64(i)/float64(n), math.Inf(1)
	}
	between := func(a, c float64) (int, int) {
		step := (to - from) / float64(n)
		return max(0, int(math.Ceil((a-from)/step-1e-9))), min(n, int(math.Floor((c-from)/step+1e-9)))
	}
	for k, p := range line {
		first, last := between(p[0]-away, p[0]+away)
		for i := first; i <= last; i++ {
			d := at[i] - p[0]
			low[i] = min(low[i], p[1]-math.Sqrt(max(away*away-d*d, 0)))
		}
		q := line[(k+1)%len(line)]
		dx, dz := q[0]-p[0], q[1]-p[1]
		long := math.Hypot(dx, dz)
		if long == 0 || dx == 0 {
			continue
		}
		nx, nz := dz/long, -dx/long // whichever way the line goes, its lower side
		if nz > 0 {
			nx, nz = -nx, -nz
		}
		a, c := [2]float64{p[0] + nx*away, p[1] + nz*away}, [2]float64{q[0] + nx*away, q[1] + nz*away}
		first, last = between(min(a[0], c[0]), max(a[0], c[0]))
		for i := first; i <= last; i++ {
			low[i] = min(low[i], a[1]+(c[1]-a[1])*(at[i]-a[0])/(c[0]-a[0]))
		}
	}
	for i := range at {
		if !math.IsInf(low[i], 1) {
			out = append(out, [2]float64{at[i], low[i]})
		}
	}
	return out
}

// middle is the x of the middle of the surface: a kit is a shell, and weighs by its area.
func middle(panels []*form.Panel) float64 {
	sum, all := 0.0, 0.0
	for _, p := range panels {
		for _, piece := range p.Pieces {
			for k := 2; k < len(piece); k++ {
				a, b, c := piece[0], piece[k-1], piece[k]
				area := b.Sub(a).Cross(c.Sub(a)).Length() / 2
				sum += area * (a[0] + b[0] + c[0]) / 3
				all += area
			}
		}
	}
	if all == 0 {
		return 0
	}
	return sum / all
}

// belly is where the underside of the body is level and lowest, on the middle line.
func belly(panels []*form.Panel) []base.Plate {
	var all []base.Plate
	for _, p := range panels {
		if zone.OnGear(p.Zone) || p.Normal[2] > -0.995 {
			continue
		}
		for _, piece := range p.Pieces {
			from, to := math.Inf(1), math.Inf(-1)
			for i, a := range piece {
				c := piece[(i+1)%len(piece)]
				if (a[1] < 0) == (c[1] < 0) && a[1] != 0 && c[1] != 0 {
					continue
				}
				x := a[0]
				if a[1] != c[1] {
					x = a[0] + (c[0]-a[0])*a[1]/(a[1]-c[1])
				}
				from, to = min(from, x), max(to, x)
			}
			if to > from {
				all = append(all, base.Plate{X0: from, X1: to, Z: piece[0][2]})
			}
		}
	}
	slices.SortFunc(all, func(a, b base.Plate) int { return cmp.Or(cmp.Compare(a.Z, b.Z), cmp.Compare(a.X0, b.X0)) })
	var out []base.Plate
	for _, p := range all {
		if n := len(out); n > 0 && math.Abs(out[n-1].Z-p.Z) < 1 && p.X0 <= out[n-1].X1+1 {
			out[n-1].X1 = max(out[n-1].X1, p.X1)
			continue
		}
		if len(out) > 0 && p.Z > out[0].Z+100 {
			break // a step higher: a sponson, a fender
		}
		out = append(out, p)
	}
	return out
}
