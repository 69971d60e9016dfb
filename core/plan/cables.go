package plan

import (
	"math"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/length"
	"cinderpath/core/measure"
)

// CableLine is a cable with how it lies on the views.
type CableLine struct {
	measure.CableLine
	Drawn []CableDrawn `json:"drawn"`
}

// CableDrawn is a cable's path on a view, model mm in the view's frame.
type CableDrawn struct {
	Side   form.Side `json:"side"`
	Points form.Ring `json:"points"`
	Hidden bool      `json:"hidden"` // most of it runs behind the vehicle there
}

// hidden is how far behind a face a point must lie not to be seen: a rope lies on
// the face, and calipers err.
const hidden length.Model = 2

func cableLines(b document.Build, shelf measure.Shelf, panels []*form.Panel) []CableLine {
	out := []CableLine{}
	for _, c := range b.Cables {
		l := CableLine{CableLine: c.Lay(b.Scale, shelf), Drawn: []CableDrawn{}}
		for _, side := range form.Sides {
			f := form.NewFrame(side, panels, b.Scale)
			ring, behind := form.Ring{}, 0
			for _, p := range c.Points {
				var v form.Vec
				for k := range 3 {
					v[k] = float64(b.Scale.ToReal(length.Model(p[k])))
				}
				at := f.Flat(v)
				ring = append(ring, at)
				if front, _, ok := form.Pick(
					side,
					panels,
					b.Scale,
					at,
				); ok &&
					f.Nearer(front, v) > float64(b.Scale.ToReal(hidden)) {
					behind++
				}
			}
			l.Drawn = append(l.Drawn, CableDrawn{side, ring, 2*behind > len(c.Points)})
		}
		out = append(out, l)
	}
	return out
}

// PickQuestion asks which point of the model lies at a place of a view.
type PickQuestion struct {
	Side form.Side `json:"side"`
	X    float64   `json:"x"` // model mm in the view's frame
	Y    float64   `json:"y"`
}

// PickAnswer is a point of the model, model mm, and its zone.
type PickAnswer struct {
	Point [3]float64 `json:"point"`
	Zone  string     `json:"zone"`
}

// Pick finds the point of the model seen at a place of a view.
func (d *Deriver) Pick(b document.Build, q PickQuestion) (PickAnswer, error) {
	s, err := d.surface(b)
	if err != nil {
		return PickAnswer{}, err
	}
	p, zone, ok := form.Pick(q.Side, s.panels, b.Scale, [2]float64{q.X, q.Y})
	if !ok {
		return PickAnswer{}, measure.Refuse("x", "there is nothing of the vehicle at that place", "click on the vehicle")
	}
	out := PickAnswer{Zone: zone}
	for k := range 3 {
		out.Point[k] = math.Round(float64(b.Scale.ToModel(length.Real(p[k])))*100) / 100
	}
	return out, nil
}
