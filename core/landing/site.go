package landing

import (
	"sync"

	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/relief"
)

// Running is what the running gear tells of where earth is thrown.
type Running struct {
	Wheels  []gear.Wheel // of one side, the vehicle driving toward x
	Face    float64      // y of the wheels' outer faces
	Width   float64      // of a wheel, or of the track
	Tracked bool
}

// Site is a vehicle on which things land: its grid, with the panels that it was laid on, its
// fittings by the zone that they make, and its running gear. Fields that know the whole of it are
// computed when they are first asked for, and kept. It may be used from several goroutines.
type Site struct {
	Grid     *form.Grid
	Panels   []*form.Panel
	Fittings map[string]string // kind of fitting by zone
	Running  Running
	Hand     float64 // a millimetre on the model, real mm: what a hand can make goes by it
	Small    relief.Laid

	// Laid gives what lies there of a kind of layer or a technique, 0 to 1 by texel, for landings
	// that go by it; nil for nothing.
	Laid func(name string) []float32
	// Marked gives the marks of those, for landings that lie inside them.
	Marked func(name string) []Mark

	known *sync.Map // what was computed of it, by name
}

// kept is what is computed of a site once, when it is first asked for.
func kept[T any](s *Site, name string, compute func() T) T {
	once, _ := s.known.LoadOrStore(name, sync.OnceValue(func() any { return compute() }))
	return once.(func() any)().(T) //nolint:forcetypeassert // each name has one type
}

// NewSite is a site of panels with their grid; hand is a millimetre on the model, real mm.
func NewSite(panels []*form.Panel, g *form.Grid, fittings map[string]string, run Running, hand float64) *Site {
	return &Site{Grid: g, Panels: panels, Fittings: fittings, Running: run, Hand: hand, known: &sync.Map{}}
}

// pixel is how fine it is seen what hides what: as the grid is, and never finer than two of its
// texels, since that is what it is asked for.
func (s *Site) pixel() float64 { return max(s.Hand, 2*s.Grid.Step) }

// With is the site with layers on it.
func (s *Site) With(laid func(name string) []float32, marked func(name string) []Mark) *Site {
	out := *s
	out.Laid, out.Marked = laid, marked
	return &out
}

// Landing tells where something lands.
type Landing interface {
	// On fills out, from 0 to 1, for the texels of a panel; seed is of the layer and the side.
	On(s *Site, panel int, seed uint64, out []float32)
}

// caster of the site.
func (s *Site) caster() *caster {
	return kept(s, "rays", func() *caster { return newCaster(s.Panels) })
}

// own are the texels of a panel in a field of the whole grid.
func own(t *form.Texels, field []float32) []float32 { return field[t.First : t.First+len(t.Area)] }
