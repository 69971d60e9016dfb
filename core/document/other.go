package document

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/measure"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// foreign is the colour of a part from another vehicle while nobody says which: bare red primer.
const foreign = "#74493a"

// otherPart gives the part at Place a history of its own, down to the single wheel and the section of a
// fender or skirt: it has a zone, and gets a colour, by itself.
func otherPart(b *Build, e Edit, m means) error {
	if e.Place == nil {
		return nothing(e.Op)
	}
	at := e.Place.point(b.Scale)
	name := e.Place.On
	switch {
	case zone.IsTrack(name):
		return measure.Refuse("place", "a track is laid as a whole", "click on a wheel, a section of a skirt or a fitting")
	case zone.OnGear(name):
		name = b.wheelApart(name, at)
	case b.Body.HasSections(name):
		name = b.sectionApart(name, at)
	}
	if b.ownPaint(name) >= 0 {
		return measure.Refuse("place", zone.Words(name)+" has a colour of its own already", "change that one")
	}
	own := strata.Colour.Fresh()
	own.ID, own.Name, own.Family, own.Hex = m.newID(), "From another vehicle: "+zone.Words(
		name,
	), "waterborne_acrylic", foreign
	own.Applied, own.Coats, own.Zones = strata.Brushed, fewestByBrush, []string{name}
	b.Layers = slices.Insert(slices.Clone(b.Layers), b.overScheme(m), own)
	return nil
}

// otherScheme paints a part that came from another vehicle in that one's scheme, in place of the one colour that it
// had.
func otherScheme(b *Build, e Edit, m means) error {
	if e.Scheme == nil {
		return nothing(e.Op)
	}
	at := b.ownPaint(e.Zone)
	if at < 0 {
		return measure.Refuse("zone", fmt.Sprintf("%q came from no other vehicle", e.Zone), "click on the part first")
	}
	if err := e.Scheme.Check(); err != nil {
		return measure.At("scheme", err)
	}
	share, err := m.now.Painted(*b, e.Zone)
	if err != nil {
		return err
	}
	if b.Scheme, err = b.Scheme.OnPart(e.Zone, zone.Words(e.Zone), *e.Scheme, share); err != nil {
		return err
	}
	b.Layers = slices.Delete(slices.Clone(b.Layers), at, at+1)
	return nil
}

// ownPaint is the place in the stack of paint that lies on one zone alone; below 0 where there is none.
func (b *Build) ownPaint(name string) int {
	return slices.IndexFunc(b.Layers, func(l strata.Layer) bool {
		return l.Kind == strata.Colour && !l.IsScheme() && slices.Equal(l.Zones, []string{name})
	})
}

// overScheme is the place in the stack over the scheme and all that was laid on it already.
func (b *Build) overScheme(m means) (at int) {
	for i, l := range b.Layers {
		if l.IsScheme() || l.Kind == strata.Prime || laid(m, l) {
			at = i + 1
		}
	}
	return at
}

// wheelApart gives the wheel nearest to a place a zone of its own, and names it.
func (b *Build) wheelApart(name string, at form.Vec) string {
	side := zone.Left
	if at[1] < 0 {
		side = zone.Right
	}
	best, near := -1, math.Inf(1)
	for i, w := range b.Wheels {
		if off := math.Hypot(w.X-at[0], w.Z-at[2]) - w.Radius; off < near {
			best, near = i, off
		}
	}
	if best < 0 {
		return name
	}
	b.Wheels = slices.Clone(b.Wheels)
	w := &b.Wheels[best]
	if w.Apart != "" && w.Apart != side {
		w.Apart = gear.BothSides
	} else if w.Apart == "" {
		w.Apart = side
	}
	return gear.ZoneOf(b.Wheels, best, side)
}

// sectionApart gives the section of a fender or skirt at a place a zone of its own, and names it.
func (b *Build) sectionApart(name string, at form.Vec) string {
	part, side, section := b.Body.SectionAt(name, at)
	if section == 0 {
		return name
	}
	known := func(d form.Damage) bool {
		return d.Part == part && d.Side == side && d.Section == section && d.Kind == form.Replaced
	}
	if !slices.ContainsFunc(b.Body.Damage, known) {
		b.Body.Damage = append(slices.Clone(b.Body.Damage), form.Damage{
			Part: part, Side: side, Section: section, Kind: form.Replaced,
		})
	}
	whole, _, _ := strings.Cut(name, "."+side)
	return zone.Numbered(zone.Sided(whole, side), section)
}
