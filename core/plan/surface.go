package plan

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/landing"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/relief"
	"cinderpath/core/scheme"
	"cinderpath/core/unit"
	"cinderpath/core/vehicle"
	"cinderpath/core/zone"
)

// texel is the side of the surface grid's squares on the model, mm.
const texel length.Model = 0.5

// mostTexels bounds the grid, so that a large vehicle at a large scale is sampled more
// coarsely instead of taking minutes.
const mostTexels = 600_000

// surface is the bare vehicle. What builds on it takes its keys for inputs, and its panels
// by their place in the list: the same key always gives the same list.
type surface struct {
	key     string // of body and running gear
	drawing string // of what is drawn of them at this scale
	panels  []*form.Panel
	stance  vehicle.Stance
	zones   []string           // sorted
	area    map[string]float64 // model cm² by zone
	facing  map[string]map[string]float64
	faces   map[string]int // panels by zone
	touch   map[string][]string
}

func (d *Deriver) surface(b document.Build) (surface, error) {
	inputs := []any{b.Body, b.Wheels, b.Link, b.Ground, b.Outline, b.Sizes.Width.MM}
	key, err := keyOf("body", inputs)
	if err != nil {
		return surface{}, err
	}
	s, err := stage(d, "body", inputs, func() (surface, error) {
		run, stance, err := vehicle.Stand(b)
		if err != nil {
			return surface{}, measure.At("gear", err)
		}
		panels, err := form.Panels(b.Body, run)
		return surface{key: key, panels: panels, stance: stance, touch: form.Touching(panels)}, measure.At("body", err)
	})
	if err != nil {
		return s, err
	}
	if s.drawing, err = keyOf("drawing", []any{s.key, b.Scale, b.Raised(), b.Small == nil}); err != nil {
		return s, err
	}
	g, err := d.grid(b, s)
	if err != nil {
		return s, err
	}
	s.zones, s.area, s.facing, s.faces = slices.Sorted(
		maps.Keys(g.Area),
	), map[string]float64{}, g.Facings, map[string]int{}
	for z, area := range g.Area {
		s.area[z] = area / float64(b.Scale*b.Scale) / 100
	}
	for _, p := range s.panels {
		s.faces[p.Zone]++
	}
	return s, nil
}

func (d *Deriver) grid(b document.Build, s surface) (*form.Grid, error) {
	return stage(d, "grid", []any{s.key, b.Scale}, func() (*form.Grid, error) {
		return form.NewGrid(s.panels, step(s.panels, b.Scale)), nil
	})
}

// site is the vehicle on which layers land. Only the last one is kept, beside the other stages: its
// fields are large, and are wanted again while one build is worked on.
func (d *Deriver) site(b document.Build, s surface) (*landing.Site, error) {
	key, err := keyOf("site", []any{s.key, b.Scale, b.Raised()})
	if err != nil {
		return nil, err
	}
	d.siting.Lock()
	defer d.siting.Unlock()
	if d.stood != nil && d.stoodKey == key {
		return d.stood, nil
	}
	g, err := d.grid(b, s)
	if err != nil {
		return nil, err
	}
	fittings := map[string]string{}
	for _, f := range b.Body.Fittings {
		for _, z := range f.Zones() {
			fittings[z] = f.Kind
		}
	}
	run := landing.Running{
		Wheels: b.Wheels, Face: b.Face(), Width: b.Link.Width, Tracked: b.Outline.HasTrack(),
	}
	d.stood, d.stoodKey = landing.NewSite(s.panels, g, fittings, run, float64(b.Scale.ToReal(1))), key
	d.stood.Small = relief.Lay(b.Raised(), s.panels)
	return d.stood, nil
}

// step is the side of a texel in real mm, wider where there would be too many.
func step(panels []*form.Panel, scale length.Scale) float64 {
	area := 0.0
	for _, p := range panels {
		area += p.Area()
	}
	return math.Max(float64(scale.ToReal(texel)), math.Sqrt(area/mostTexels))
}

// scheme is the camouflage as it lies.
type camouflage struct {
	*scheme.Layout
	key     string
	painted float64 // area that takes a scheme, model cm²
}

// wearing is the surface of a build with its scheme on.
func (d *Deriver) wearing(b document.Build) (s surface, laid camouflage, err error) {
	if s, err = d.surface(b); err != nil {
		return s, laid, err
	}
	laid, err = d.scheme(b, s)
	return s, laid, err
}

func (d *Deriver) scheme(b document.Build, s surface) (camouflage, error) {
	inputs := []any{s.key, b.Scale, b.Scheme.Laid()}
	key, err := keyOf("scheme", inputs)
	if err != nil {
		return camouflage{}, err
	}
	laid, err := stage(d, "scheme", inputs, func() (*scheme.Layout, error) {
		g, err := d.grid(b, s)
		if err != nil {
			return nil, err
		}
		laid, err := scheme.Lay(b.Scheme, g)
		return laid, measure.At("scheme", err)
	})
	if err != nil {
		return camouflage{}, err
	}
	out := camouflage{Layout: laid, key: key}
	for _, z := range s.zones { // in order: a sum must not hang on that of a map
		if _, takes := laid.Zones[z]; takes {
			out.painted += s.area[z]
		}
	}
	return out, nil
}

func zoneLines(b document.Build, s surface, laid camouflage) []ZoneLine {
	out := []ZoneLine{}
	model := float64(b.Scale*b.Scale) * 100
	seen := map[string]bool{}
	for _, p := range s.panels {
		z := p.Zone
		if seen[z] {
			continue
		}
		seen[z] = true
		f := s.facing[z]
		out = append(
			out,
			ZoneLine{Zone: z, Part: zone.Part(z), AreaCM: cents(s.area[z]), Shares: rounded(laid.Zones[z]),
				Upright: cents(f["upright"] / model), Sloped: cents(f["sloped"] / model), Flat: cents(f["flat"] / model),
				Why: measure.Because("real area / N²", []string{
					fmt.Sprintf(
						"%.2f m² that show, %d panels",
						s.area[z]*model/1e6,
						s.faces[z],
					),
					"N = " + strings.TrimPrefix(b.Scale.String(), "1:"),
				})},
		)
	}
	return out
}

// cents are areas finer than anyone paints, model cm².
func cents(x float64) float64 { return math.Round(x*1e4) / 1e4 }

func rounded(shares []unit.Share) []unit.Share {
	out := make([]unit.Share, len(shares))
	for i, s := range shares {
		out[i] = unit.Share(math.Round(s.Of(1e4)) / 1e4)
	}
	return out
}

// placesOf says zones, and the parts they belong to, as people do.
func placesOf(zones []string) map[string]string {
	out := map[string]string{}
	for _, z := range zones {
		out[z], out[zone.Part(z)] = zone.Words(z), zone.Words(zone.Part(z))
	}
	return out
}

// piecesOf says what a body is put together from as people do, where its id does not.
func piecesOf(b form.Body) map[string]string {
	out := map[string]string{}
	for _, id := range b.Pieces() {
		if words := zone.Words(id); words != id {
			out[id] = words
		}
	}
	return out
}

// colourLines tells what each colour takes of a painted area, model cm².
func colourLines(b document.Build, shares []unit.Share, painted float64) []ColourLine {
	out := make([]ColourLine, len(b.Scheme.Colours))
	rest := unit.Share(1)
	for i, c := range b.Scheme.Colours {
		if i > 0 {
			rest -= c.Share
		}
		out[i] = ColourLine{
			Name:   c.Name,
			Hex:    c.Hex,
			Wanted: c.Share,
			Share:  rounded(shares[i : i+1])[0],
			AreaCM: shares[i].Of(painted),
		}
	}
	out[0].Wanted = rest
	return out
}

// views are the frames of the five views, with the overall sizes beside them.
func (d *Deriver) views(b document.Build, s surface) ([]form.View, error) {
	return stage(d, "views", []any{s.drawing, b.Sizes.Typed()}, func() ([]form.View, error) {
		views := form.Views(s.panels, b.Scale)
		addDimensions(views, b, s.panels)
		return views, nil
	})
}

// sights are what shows of the vehicle from each side.
func (d *Deriver) sights(b document.Build, s surface) ([]form.Sight, error) {
	return stage(d, "sights", s.drawing, func() ([]form.Sight, error) {
		return form.Sights(s.panels, b.Scale), nil
	})
}

// sizes hang on no shape; where they are drawn does.
func (d *Deriver) sizes(b document.Build, s surface) ([]SizeLine, error) {
	lines, err := stage(d, "sizes", []any{b.Sizes, b.Scale, b.Dimensions}, func() ([]SizeLine, error) {
		return sizeLines(b), nil
	})
	if err != nil {
		return nil, err
	}
	at, err := stage(d, "drawn sizes", []any{s.drawing, b.Sizes, b.Dimensions}, func() ([]*DrawnSize, error) {
		var out []*DrawnSize
		for _, dim := range b.AllDimensions() {
			out = append(out, drawn(dim, b.Scale, s.panels))
		}
		return out, nil
	})
	if err != nil {
		return nil, err
	}
	lines = slices.Clone(lines)
	for i := range lines {
		lines[i].Drawn = at[i]
	}
	return lines, nil
}
