package plan

import (
	"cinderpath/core/document"
)

// LandingAnswer is what each layer of a build leaves on each zone.
type LandingAnswer struct {
	Layers []LandedLayer `json:"layers"`
}

// LandedLayer is one of them, by zone.
type LandedLayer struct {
	ID    string                `json:"id"`
	Name  string                `json:"name"`
	Words string                `json:"words,omitempty"` // how its amount came about
	Zones map[string]LandedZone `json:"zones"`
}

// LandedZone is what lies there: on what part of its area, and how thick, over all of it.
type LandedZone struct {
	Share float64 `json:"share"`
	Film  float64 `json:"filmUm"`
}

// LandingOf answers for a build of a workshop.
func (d *Deriver) LandingOf(w document.Workshop, b document.Build) (LandingAnswer, error) {
	out := LandingAnswer{Layers: []LandedLayer{}}
	b = w.Filled(b)
	s, err := d.surface(b)
	if err != nil {
		return out, err
	}
	g, err := d.grid(b, s)
	if err != nil {
		return out, err
	}
	for _, l := range b.Layers {
		deposit, err := d.lands(b, s, l)
		if err != nil {
			return out, err
		}
		one := LandedLayer{ID: l.ID, Name: l.Name, Zones: map[string]LandedZone{}}
		if a, ok := l.Argue(); ok {
			one.Words = a.Words
		}
		for z, lies := range deposit.Spread(g) {
			if lies.Area > 0 {
				one.Zones[z] = LandedZone{lies.Area / g.Area[z], lies.Film / g.Area[z]}
			}
		}
		out.Layers = append(out.Layers, one)
	}
	return out, nil
}
