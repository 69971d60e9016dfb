package strata

import (
	"math"

	"cinderpath/core/form"
	"cinderpath/core/zone"
)

// Spread is how much of a layer lies on a zone: the area that it reaches, real mm², and its
// film over it, real mm² · µm; what of that area is worked, and how long its marks are.
type Spread struct {
	Area, Film float64
	Worked     float64 // with a tenth of the thickest film or more, real mm²
	Long       float64 // of all its marks together, real mm
}

// Typically is what lies on the faces of hull and turret, for whoever wants to know how they look.
func Typically(name string) bool {
	return zone.Among(name, []string{"hull", "turret"}) && !zone.Bare(name)
}

// Spread sums a deposit over the texels of each zone.
func (d Deposit) Spread(g *form.Grid) map[string]Spread {
	out := map[string]Spread{}
	for _, i := range d.Panels {
		t := g.Texels[i]
		s := out[t.Zone]
		for k, a := range t.Area {
			if step := d.Film[t.First+k]; step > 0 {
				s.Area += float64(a)
				s.Film += float64(a) * float64(d.Full) * float64(step) / Steps
				if step >= Steps/10 {
					s.Worked += float64(a)
				}
			}
		}
		out[t.Zone] = s
	}
	for _, m := range d.Marks {
		z := g.Texels[m.Panel].Zone
		s := out[z]
		s.Long += max(m.Long, m.Wide)
		out[z] = s
	}
	return out
}

// Typical is the film on the upright faces of some zones, where half of their area has more: of
// what runs into recesses, what the face between them gets.
func (d Deposit) Typical(g *form.Grid, on func(zone string) bool) float64 {
	var by [Steps + 1]float64
	all := 0.0
	for _, t := range g.Texels {
		if !on(t.Zone) || t.Facing() != "upright" {
			continue
		}
		for k, a := range t.Area {
			step := uint8(0)
			if d.Film != nil {
				step = d.Film[t.First+k]
			}
			by[step] += float64(a)
			all += float64(a)
		}
	}
	half := 0.0
	for step, a := range by {
		if half += a; half >= all/2 && all > 0 {
			return float64(d.Full) * float64(step) / Steps
		}
	}
	return 0
}

// Even tells of a layer that goes all over its zones in one film: areas alone say how much
// of it there is.
func (l Layer) Even() bool {
	how, worked := l.Worked()
	return len(l.Touches) == 0 && len(l.Drawn) == 0 && len(l.Spares.Drawn) == 0 &&
		(!worked || how.Lands == "all" && !how.Share)
}

// EvenFilm is the dry film of all coats of a layer that goes all over its zones.
func (l Layer) EvenFilm() float64 { return float64(l.film()) }

// Largest are the widest marks of a deposit, real mm: in the middle of plates and at edges that rub.
type Largest struct {
	Plate, Edge         float64
	PlateZone, EdgeZone string
}

// Largest finds them.
func (d Deposit) Largest(g *form.Grid) (out Largest) {
	for _, m := range d.Marks {
		t := g.Texels[m.Panel]
		k, ok := t.At(m.X, m.Y)
		if !ok {
			continue // its middle lies beside the panel
		}
		wide := math.Sqrt(m.Wide * m.Long)
		switch at := float64(t.Convex[k]); {
		case at > 2*wide && wide > out.Plate:
			out.Plate, out.PlateZone = wide, t.Zone
		case at <= 2*wide && wide > out.Edge:
			out.Edge, out.EdgeZone = wide, t.Zone
		}
	}
	return out
}
