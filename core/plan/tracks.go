package plan

import (
	"math"
	"slices"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// trackLayers are what tracks get of their own, in working order: a base colour, rust over it, a wash, mud
// in the hollows of the links, ends and cleats wiped, and bright steel where they run.
var trackLayers = []struct {
	kind      strata.Kind
	technique string
	name, hex string
}{
	{strata.Colour, "", "Track base", "#4d463f"},
	{strata.Rust, "rust_base", "Track rust", "#6e4a33"},
	{strata.Wash, "wash_all", "Track wash", "#2f2721"},
	{strata.Mud, "mud_track", "Mud in the tracks", "#6d5b43"},
	{strata.RubClean, "rub_clean", "Tracks wiped", ""},
	{strata.Metal, "metal_steel", "Bright cleats", ""},
}

// dressTracks gives a build the layers of its tracks that are not in its stack yet, each from the nearest jar.
func (d *Deriver) dressTracks(
	b document.Build, w document.Workshop, newID func() string, asOf time.Time,
) ([]strata.Layer, error) {
	s, err := d.surface(b)
	if err != nil {
		return nil, err
	}
	on := []string{zone.Track(zone.Left), zone.Track(zone.Right)}
	if !slices.Contains(s.zones, on[0]) {
		return nil, measure.Refuse("outline", "it runs on tyres", "paint its wheels with the scheme")
	}
	layers := slices.Clone(b.Layers)
	for _, t := range trackLayers {
		if slices.ContainsFunc(layers, func(l strata.Layer) bool {
			return l.Kind == t.kind && !l.IsScheme() && l.Covers(on[0]) && (t.kind != strata.Mud || l.Technique == t.technique)
		}) {
			continue
		}
		l := t.kind.Fresh()
		l.ID, l.Name, l.Technique, l.Zones = newID(), t.name, t.technique, on
		if t.hex != "" {
			l.Hex = t.hex
		}
		switch t.kind {
		case strata.Colour:
			l.Family = "waterborne_acrylic"
		case strata.Wash:
			l.Meant = []string{"W2"} // that it stains a matt track is wanted
		}
		l = fromShelf(l, w, asOf, math.Inf(1))
		at := placeOf(layers, l.Kind)
		for t.kind == strata.Colour && at > 0 && layers[at-1].Kind == strata.Clear {
			at-- // under the clear coats, as the scheme is
		}
		layers = slices.Insert(layers, at, l)
	}
	if len(layers) == len(b.Layers) {
		return nil, measure.Refuse("layers", "the tracks have all of it already", "change their layers one by one")
	}
	return soundly(layers, s.zones, newID), nil
}
