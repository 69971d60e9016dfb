package plan

import (
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/zone"
)

// Drawing is what is drawn of a vehicle besides its picture: what shows of each zone, and the small
// relief.
type Drawing struct {
	Views []DrawnView `json:"views"`
	Small []SmallLine `json:"small"`
}

// DrawnView is a view's part of it.
type DrawnView struct {
	Side  form.Side   `json:"side"`
	Zones []DrawnZone `json:"zones"`
}

// DrawnZone is a zone as it shows in a view.
type DrawnZone struct {
	form.Outline
	Words string `json:"words"`
}

// Drawn gives a build of which a plan that was derived lately names this drawing: it may
// have been edited since, and the drawing is asked for all the same.
func (d *Deriver) Drawn(name string) (document.Build, error) {
	b, ok := got[*document.Build](d, "drawn", name)
	if !ok {
		return document.Build{}, ErrForgotten
	}
	return *b, nil
}

// Drawing derives the drawing that a plan names.
func (d *Deriver) Drawing(b document.Build) (Drawing, error) {
	s, err := d.surface(b)
	if err != nil {
		return Drawing{}, err
	}
	return stage(d, "outlines", s.drawing, func() (Drawing, error) {
		sights, err := d.sights(b, s)
		if err != nil {
			return Drawing{}, err
		}
		all := Drawing{Views: make([]DrawnView, len(sights))}
		all.Small, _ = smallLines(b, s)
		form.Each(len(sights), func(i int) {
			v := DrawnView{Side: sights[i].Side, Zones: []DrawnZone{}}
			for _, o := range sights[i].Outlines(s.panels) {
				v.Zones = append(v.Zones, DrawnZone{o, zone.Words(o.Zone)})
			}
			all.Views[i] = v
		})
		return all, nil
	})
}
