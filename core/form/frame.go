package form

import (
	"math"
	"slices"

	"cinderpath/core/length"
)

// Frame is a view's own coordinates: x to the right and y down from its upper left
// corner, model mm.
type Frame struct {
	right, down, toward Vec
	x0, y0              float64
	scale               length.Scale
}

// Extent is the box around the panels of the zones that are wanted; ok is false
// when there are none.
func Extent(panels []*Panel, wanted func(zone string) bool) (low, high Vec, ok bool) {
	low, high = Vec{math.Inf(1), math.Inf(1), math.Inf(1)}, Vec{math.Inf(-1), math.Inf(-1), math.Inf(-1)}
	for _, p := range panels {
		if !wanted(p.Zone) {
			continue
		}
		ok = true
		for _, piece := range p.Pieces {
			l, h := box(piece)
			for k := range 3 {
				low[k], high[k] = math.Min(low[k], l[k]), math.Max(high[k], h[k])
			}
		}
	}
	return low, high, ok
}

func everything(string) bool { return true }

// NewFrame is the frame of a view of the panels.
func NewFrame(side Side, panels []*Panel, scale length.Scale) Frame {
	low, high, _ := Extent(panels, everything)
	return newFrame(side, low, high, scale)
}

func newFrame(side Side, low, high Vec, scale length.Scale) Frame {
	f := Frame{scale: scale}
	f.right, f.down, f.toward = side.axes()
	least := func(axis Vec) float64 { return math.Min(low.Dot(axis), high.Dot(axis)) }
	f.x0, f.y0 = least(f.right), least(f.down)
	return f
}

// Flat gives the place of a point (real mm) in the view.
func (f Frame) Flat(v Vec) [2]float64 {
	return [2]float64{
		float64(f.scale.ToModel(length.Real(v.Dot(f.right) - f.x0))),
		float64(f.scale.ToModel(length.Real(v.Dot(f.down) - f.y0))),
	}
}

// Nearer is how much nearer to the viewer a point lies than another, real mm.
func (f Frame) Nearer(a, b Vec) float64 { return a.Sub(b).Dot(f.toward) }

// Pick finds the point of the vehicle that is seen at a place of a view: on the
// nearest of the faces that look at the viewer there. ok is false beside the vehicle.
func Pick(side Side, panels []*Panel, scale length.Scale, at [2]float64) (point Vec, zone string, ok bool) {
	f := NewFrame(side, panels, scale)
	x, y := float64(scale.ToReal(length.Model(at[0])))+f.x0, float64(scale.ToReal(length.Model(at[1])))+f.y0
	nearest := math.Inf(-1)
	for _, p := range panels {
		facing := p.Normal.Dot(f.toward)
		if facing <= 1e-6 {
			continue
		}
		on := f.right.Times(x).Plus(f.down.Times(y))
		// Along the line of sight to the panel's plane.
		t := p.Origin.Sub(on).Dot(p.Normal) / facing
		q := on.Plus(f.toward.Times(t))
		if t > nearest && p.Holds(p.Flat(q)) {
			nearest, point, zone, ok = t, q, p.Zone, true
		}
	}
	return point, zone, ok
}

// Holds tells whether a place of its flat frame lies on the panel.
func (p *Panel) Holds(q [2]float64) bool {
	return slices.ContainsFunc(p.FlatPieces(), func(piece [][2]float64) bool { return within(piece, q) })
}

// within tells whether a point lies in a polygon, by crossings.
func within(ring [][2]float64, q [2]float64) bool {
	in := false
	for i, j := 0, len(ring)-1; i < len(ring); j, i = i, i+1 {
		a, b := ring[i], ring[j]
		if (a[1] > q[1]) != (b[1] > q[1]) && q[0] < (b[0]-a[0])*(q[1]-a[1])/(b[1]-a[1])+a[0] {
			in = !in
		}
	}
	return in
}
