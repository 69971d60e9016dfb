package vehicle

import (
	"fmt"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/length"
	"cinderpath/core/measure"
)

// TrackQuestion asks what a running gear takes.
type TrackQuestion struct {
	Scale  string         `json:"scale"`
	Wheels []gear.Wheel   `json:"wheels"`
	Link   gear.Link      `json:"link"`
	Ground gear.Terrain   `json:"ground,omitempty"`
	Shelf  *measure.Shelf `json:"shelf,omitempty"`
}

// shelfOr is the shelf asked about, or the plain table.
func shelfOr(s *measure.Shelf) measure.Shelf {
	if s == nil {
		return measure.Shelf{}
	}
	return *s
}

// AskTrack lays a track round wheels.
func AskTrack(q TrackQuestion) (GearLine, error) {
	scale, err := length.ParseScale(q.Scale)
	if err != nil {
		return GearLine{}, measure.At("scale", err)
	}
	b := document.Build{Scale: scale, Outline: form.Tracked, Wheels: q.Wheels, Link: q.Link, Ground: q.Ground}
	if len(b.Wheels) > document.MostWheels {
		return GearLine{}, measure.Refuse(
			"wheels",
			"more than one side has",
			fmt.Sprintf("give at most %d", document.MostWheels),
		)
	}
	if err := document.Sensible(b); err != nil {
		return GearLine{}, err
	}
	b.Sizes.Width.MM = 1e6 // no hull stands beside these wheels
	if err := b.CheckGear(); err != nil {
		return GearLine{}, err
	}
	_, lies, err := Stand(b)
	if err != nil {
		return GearLine{}, measure.At("wheels", err)
	}
	return *GearOf(b, lies, shelfOr(q.Shelf)), nil
}
