package landing

import (
	"math"
	"slices"
	"strings"

	"cinderpath/core/form"
	"cinderpath/core/zone"
)

// near lands about what is of some kinds.
type near struct {
	kinds []string
	reach float64
}

// Near falls with the distance to the outline of fittings of some kinds, or of hubs, real mm.
func Near(kinds []string, reach float64) Landing { return near{kinds, reach} }

// Hub is the kind under which hubs of wheels are near.
const Hub = "hub"

// block is a box in space about all that is of one zone.
type block struct{ low, high form.Vec }

func (b block) distance(p form.Vec) float64 {
	sum := 0.0
	for k := range 3 {
		d := max(b.low[k]-p[k], p[k]-b.high[k], 0)
		sum += d * d
	}
	return math.Sqrt(sum)
}

// blocks are the boxes about the fittings of some kinds, in the order of their zones.
func (s *Site) blocks(kinds []string) []block {
	return kept(s, "near "+strings.Join(kinds, "|"), func() []block { return s.boxed(kinds) })
}

func (s *Site) boxed(kinds []string) (out []block) {
	by := map[string]*block{}
	var names []string
	for _, p := range s.Panels {
		if !slices.Contains(kinds, s.Fittings[p.Zone]) || s.Fittings[p.Zone] == "" {
			continue
		}
		b, ok := by[p.Zone]
		if !ok {
			inf := math.Inf(1)
			b = &block{form.Vec{inf, inf, inf}, form.Vec{-inf, -inf, -inf}}
			by[p.Zone] = b
			names = append(names, p.Zone)
		}
		for _, piece := range p.Pieces {
			for _, c := range piece {
				for k := range 3 {
					b.low[k], b.high[k] = min(b.low[k], c[k]), max(b.high[k], c[k])
				}
			}
		}
	}
	slices.Sort(names)
	for _, n := range names {
		out = append(out, *by[n])
	}
	if slices.Contains(kinds, Mouth) {
		out = append(out, s.mouths()...)
	}
	if slices.Contains(kinds, Hub) {
		for _, w := range s.Running.Wheels {
			for _, side := range []float64{1, -1} {
				at := form.Vec{w.X, side * s.Running.Face, w.Z}
				out = append(out, block{at, at})
			}
		}
	}
	return out
}

func (n near) On(s *Site, panel int, _ uint64, out []float32) {
	blocks := s.blocks(n.kinds)
	fill(s.Grid.Texels[panel], out, func(k int) float32 {
		p := s.Grid.Texels[panel].Point(k)
		d := math.Inf(1)
		for _, b := range blocks {
			d = min(d, b.distance(p))
		}
		return bell(float32(d), n.reach)
	})
}

// engineKinds are the fittings that belong to the engine.
var engineKinds = []string{"grille", "exhaust"}

// Engine is the engine's part of the body: grilles, and the deck about them.
func Engine() Landing { return near{engineKinds, 350} }

// raised lands on what stands out.
type raised struct{}

// Raised lands on fittings, and on what of the small relief is raised.
func Raised() Landing { return raised{} }

func (raised) On(s *Site, panel int, _ uint64, out []float32) {
	t := s.Grid.Texels[panel]
	if s.Fittings[t.Zone] != "" {
		even(t, out, 1)
		return
	}
	r := s.reliefs(panel)
	if r.top == nil {
		even(t, out, 0)
		return
	}
	fill(t, out, func(k int) float32 { return bell(r.top[k], brushed) })
}

// brushed is how far about the top of a bolt a brush still meets it, real mm.
const brushed = 12.0

// Of the running gear.
var (
	// Rubber is what is of rubber.
	Rubber = zones(zone.IsRubber)
	// Rim is what of wheels is no rubber.
	Rim = zones(func(z string) bool { return zone.Part(z) == "gear" && !zone.IsRubber(z) && !zone.IsTrack(z) })
	// Hollows are the middles of links.
	Hollows = Times(zones(zone.IsTrack), Middle(25))
	// Ends are the outer edges of links.
	Ends = Times(zones(zone.IsTrack), Edge(25))
	// Contact is where a track's links touch the ground: their faces that look outward.
	Contact = Landing(contact{})
)

type contact struct{}

func (contact) On(s *Site, panel int, _ uint64, out []float32) {
	t := s.Grid.Texels[panel]
	if !zone.IsTrack(t.Zone) || !s.outward(panel) {
		even(t, out, 0)
		return
	}
	Edge(30).On(s, panel, 0, out) // cleats, along the links' edges
	fill(t, out, func(k int) float32 { return min(0.35+out[k], 1) })
}

// outward tells of a face of a track that looks away from its wheels.
func (s *Site) outward(panel int) bool {
	t := s.Grid.Texels[panel]
	x, z, n := 0.0, 0.0, 0.0
	for _, w := range s.Running.Wheels {
		x, z, n = x+w.X, z+w.Z, n+1
	}
	if n == 0 || math.Abs(t.Normal[1]) > 0.7 {
		return false
	}
	p := t.Space(t.X0+float64(t.NX)*t.Step/2, t.Y0+float64(t.NY)*t.Step/2)
	return t.Normal[0]*(p[0]-x/n)*0.3+t.Normal[2]*(p[2]-z/n) > 0
}

// Mouth is the kind under which mouths of exhausts are near.
const Mouth = "exhaust mouth"

// mouths are the rear ends of exhausts.
func (s *Site) mouths() (out []block) {
	for _, b := range s.blocks([]string{"exhaust"}) {
		at := form.Vec{b.low[0], (b.low[1] + b.high[1]) / 2, (b.low[2] + b.high[2]) / 2}
		if b.high[1]-b.low[1] > b.high[0]-b.low[0] { // it lies across
			at[0], at[1] = (b.low[0]+b.high[0])/2, b.low[1]
		}
		out = append(out, block{at, at})
	}
	return out
}

// cool lands away from the mouths of exhausts.
type cool struct{}

func (cool) On(s *Site, panel int, _ uint64, out []float32) {
	blocks := s.mouths()
	fill(s.Grid.Texels[panel], out, func(k int) float32 {
		v := float32(1)
		for _, b := range blocks {
			v = min(v, 1-bell(float32(b.distance(s.Grid.Texels[panel].Point(k))), 400))
		}
		return v
	})
}
