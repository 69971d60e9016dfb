package plan

import (
	"cinderpath/core/base"
	"cinderpath/core/document"
	"cinderpath/core/vehicle"
)

// GroundRoom is the base of a build: what is wanted of it, and how it comes to be.
type GroundRoom struct {
	Used  bool        `json:"used"` // the vehicle is shown on a base
	Own   bool        `json:"own"`  // something was said of it; else it is a usual one
	Wants base.Base   `json:"wants"`
	Laid  base.Laid   `json:"laid"`
	Earth string      `json:"earth,omitempty"` // the layer that its colour is taken from
	Hex   string      `json:"hex,omitempty"`   // of that earth
	Kinds []GrainLine `json:"kinds"`
	Scale float64     `json:"scale"`

	Beside *BesideLine `json:"beside,omitempty"` // on whose base it stands
	Hosts  []NamedLine `json:"hosts"`            // builds on whose base it could
	Guests []NamedLine `json:"guests"`           // those that stand on its own
}

// NamedLine is a build by its id and name.
type NamedLine struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// BesideLine tells on whose base a build stands, and whether its earth is the same (F3).
type BesideLine struct {
	NamedLine

	Gone  bool    `json:"gone"`   // there is no such base any more
	Long  float64 `json:"longMm"` // of the room that its running gear takes, on the model
	Wide  float64 `json:"wideMm"`
	Words string  `json:"words"`
}

// GrainLine is a kind of what is strewn, with the size on the model above which it is another.
type GrainLine struct {
	Kind  string  `json:"kind"`
	Words string  `json:"words"`
	Most  float64 `json:"mostMm"`
}

// Ground answers what a build's base is, among the builds of its workshop.
func (d *Deriver) Ground(b document.Build, w document.Workshop, items []document.Item) (GroundRoom, error) {
	laid, err := d.ground(b)
	if err != nil {
		return GroundRoom{}, err
	}
	out := GroundRoom{
		Used: b.OnBase(), Own: b.Base != nil, Wants: b.StandsOn(), Laid: laid, Kinds: []GrainLine{}, Scale: float64(b.Scale),
		Hosts: []NamedLine{}, Guests: []NamedLine{},
	}
	for _, o := range items {
		switch {
		case o.Build.Hosts(b):
			out.Hosts = append(out.Hosts, NamedLine{o.Build.ID, o.Build.Name})
		case b.Hosts(o.Build) && o.Build.Beside() == b.ID:
			out.Guests = append(out.Guests, NamedLine{o.Build.ID, o.Build.Name})
		}
	}
	if b.Beside() != "" {
		out.Beside = besideLine(w.Filled(b), document.HostOf(items, b))
		out.Beside.Long, out.Beside.Wide = laid.Room()
	}
	if l, ok := w.Filled(b).EarthLayer(); ok {
		out.Earth, out.Hex = l.Name, l.Hex
	}
	for _, k := range base.Grains {
		out.Kinds = append(out.Kinds, GrainLine{k.ID, k.Words, k.Most / float64(b.Scale)})
	}
	return out, nil
}

func (d *Deriver) ground(b document.Build) (base.Laid, error) {
	s, err := d.surface(b)
	if err != nil {
		return base.Laid{}, err
	}
	return stage(d, "base", []any{s.key, b.Scale, b.StandsOn()}, func() (base.Laid, error) {
		return vehicle.BaseOf(b, s.stance, s.panels)
	})
}
