package plan

import (
	"slices"
	"time"

	"cinderpath/core/colour"
	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// chalk is the colour of a winter wash while no jar says better.
const chalk = "#d9d8cf"

// thinly is the film of a paint that is sprayed thin, so that what is below shows, µm.
const thinly = 5.0

// chalky is how far a jar may be from that to be taken for it, ΔE00.
const chalky = 8.0

// leftOut are the parts that whoever brushed a winter wash on did not reach or did not care for.
var leftOut = []string{"lower", "gear"}

// temporary gives a build a temporary paint over its scheme and markings, as one's school has it: over a
// chipping coat that is worked, sprayed thin, or rubbed back; with what must lie between.
func (d *Deriver) temporary(
	b document.Build, w document.Workshop, newID func() string, asOf time.Time,
) ([]strata.Layer, error) {
	s, err := d.surface(b)
	if err != nil {
		return nil, err
	}
	if slices.ContainsFunc(b.Layers, strata.Layer.Temporary) {
		return nil, measure.Refuse("layers", "there is a temporary paint on it already", "change that one, or drop it first")
	}
	return soundly(d.whitened(b, w, b.Layers, s.zones, newID, asOf), s.zones, newID), nil
}

// whitened puts the layers of a winter wash into a stack.
func (d *Deriver) whitened(
	b document.Build, w document.Workshop, layers []strata.Layer, zones []string, newID func() string, asOf time.Time,
) []strata.Layer {
	var on []string
	for _, z := range zones {
		if part := zone.Part(z); !slices.Contains(leftOut, part) && !slices.Contains(on, part) {
			on = append(on, part)
		}
	}
	wash := strata.Colour.Fresh()
	wash.Name, wash.Hex, wash.Family, wash.Technique = "Winter wash", chalk, "waterborne_acrylic", strata.Whitewash
	wash.Coats = 1
	wash = fromShelf(wash, w, asOf, chalky)
	list := []strata.Layer{wash}
	switch b.School(document.SchoolWornColour) {
	case document.RubbedBack:
		list = append(list, strata.Rubbed.Fresh())
	case document.SprayedThin:
		thin := thinly
		list[0].Amount = &thin
	default:
		list = []strata.Layer{strata.ChippingCoat.Fresh(), wash, strata.ChippingWork.Fresh()}
	}
	at := overMarkings(layers)
	if at == 0 || layers[at-1].Kind != strata.Clear { // the scheme below is kept from water and brush
		seal := strata.Clear.Fresh()
		seal.Name, seal.Sheen = "Seal below the winter wash", colour.Satin
		list = append([]strata.Layer{seal}, list...)
	}
	out := slices.Clone(layers)
	for i, l := range list {
		l.ID = newID()
		if l.Kind != strata.Clear {
			l.Zones = on
		}
		out = slices.Insert(out, at+i, l)
	}
	return out
}

// overMarkings is the place in a stack over the last colour and the markings, with what seals them.
func overMarkings(layers []strata.Layer) (at int) {
	for i, l := range layers {
		if l.Kind == strata.Colour || l.Kind == strata.Decals {
			at = i + 1
		}
	}
	for at < len(layers) && layers[at].Kind == strata.Clear {
		at++
	}
	return at
}

// temporaryOf names the layer of a temporary paint; nothing where there is none.
func temporaryOf(b document.Build) string {
	if i := slices.IndexFunc(b.Layers, strata.Layer.Temporary); i >= 0 {
		return b.Layers[i].ID
	}
	return ""
}
