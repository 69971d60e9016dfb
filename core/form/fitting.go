package form

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"cinderpath/core/zone"
)

// Fitting is something that is fixed on a face: a box, a tool, a hatch.
type Fitting struct {
	ID     string     `json:"id"`
	Kind   string     `json:"kind"`
	On     string     `json:"on"`   // zone of the face, such as hull.deck
	At     Vec        `json:"at"`   // a point on or near that face, real mm
	Size   [3]float64 `json:"size"` // along, across, out, real mm
	Turn   float64    `json:"turn,omitempty"`
	Count  int        `json:"count,omitempty"`  // links in a row, slats of a grille
	Mirror bool       `json:"mirror,omitempty"` // the same on the other side
}

// fitters build the solids of each kind of fitting about its place.
var fitters = map[string]func(f Fitting, p place, zone string) []*solid{
	"box": func(f Fitting, p place, zone string) []*solid {
		l, w, h := f.Size[0], f.Size[1], f.Size[2]
		return []*solid{p.box(l, w, 0.78*h, 0, zone), p.moved(0, 0, 0.78*h).box(1.03*l, 1.05*w, 0.22*h, 0.02, zone)}
	},
	"plate": func(f Fitting, p place, zone string) []*solid {
		return []*solid{p.box(f.Size[0], f.Size[1], f.Size[2], 0.01, zone)}
	},
	"hatch": func(f Fitting, p place, zone string) []*solid {
		l, w, h := f.Size[0], f.Size[1], f.Size[2]
		lid := p.box(l, w, h, 0.08, zone)
		if math.Abs(l-w) < 1 {
			lid = turned(p.at, p.out, p.along, []station{{0, l / 2}, {0.7 * h, l / 2}, {h, 0.46 * l}}, 20, zone)
		}
		grip := p.moved(0, 0, h).box(0.06*l, 0.3*w, 0.6*h, 0, zone)
		hinge := p.moved(-0.46*l, 0, 0).bar(0.5*w, 0.6*h, true, zone)
		return []*solid{lid, grip, hinge}
	},
	"cap": func(f Fitting, p place, zone string) []*solid { // of a filler: fuel runs from it
		l, h := min(f.Size[0], f.Size[1]), f.Size[2]
		lid := turned(p.at, p.out, p.along, []station{{0, l / 2}, {0.6 * h, l / 2}, {h, 0.42 * l}}, 14, zone)
		return []*solid{lid, p.moved(0, 0, h).box(0.5*l, 0.14*l, 0.5*h, 0, zone)}
	},
	"grille": func(f Fitting, p place, zone string) []*solid {
		l, w, h := f.Size[0], f.Size[1], f.Size[2]
		n := max(f.Count, 3)
		out := []*solid{p.moved(0, 0.47*w, 0).box(l, 0.06*w, h, 0, zone), p.moved(0, -0.47*w, 0).box(l, 0.06*w, h, 0, zone)}
		for i := range n {
			x := l * ((float64(i)+0.5)/float64(n) - 0.5)
			out = append(out, p.moved(x, 0, 0).box(0.45*l/float64(n), 0.88*w, 0.8*h, 0, zone))
		}
		return out
	},
	"drum": func(f Fitting, p place, zone string) []*solid {
		r := min(f.Size[1], f.Size[2]) / 2
		l := f.Size[0]
		at := p.point(-l/2, 0, r)
		return []*solid{
			turned(
				at,
				p.along,
				p.out,
				[]station{{0, 0.93 * r}, {0.03 * l, r}, {0.3 * l, r}, {0.3 * l, 1.04 * r}, {0.36 * l, 1.04 * r}, {0.36 * l, r},
					{0.64 * l, r}, {0.64 * l, 1.04 * r}, {0.7 * l, 1.04 * r}, {0.7 * l, r}, {0.97 * l, r}, {l, 0.93 * r}},
				14,
				zone,
			),
		}
	},
	"roll": func(f Fitting, p place, zone string) []*solid {
		r, l := min(f.Size[1], f.Size[2])/2, f.Size[0]
		return []*solid{
			turned(
				p.point(-l/2, 0, 0.9*r),
				p.along,
				p.out,
				[]station{{0, 0.7 * r}, {0.04 * l, 0.97 * r}, {0.24 * l, r}, {0.26 * l, 0.9 * r}, {0.28 * l, r},
					{0.72 * l, r}, {0.74 * l, 0.9 * r}, {0.76 * l, r}, {0.96 * l, 0.97 * r}, {l, 0.7 * r}},
				10,
				zone,
			),
		}
	},
	"exhaust": func(f Fitting, p place, zone string) []*solid {
		r, l := min(f.Size[1], f.Size[2])/2, f.Size[0]
		return []*solid{
			turned(
				p.point(-l/2, 0, 1.1*r),
				p.along,
				p.out,
				[]station{
					{-0.3 * l, 0.28 * r},
					{-0.3 * l, 0.4 * r},
					{0, 0.4 * r},
					{0, 0.85 * r},
					{0.04 * l, r},
					{0.96 * l, r},
					{l, 0.85 * r},
					{l, 0.4 * r},
					{1.1 * l, 0.4 * r},
				},
				12,
				zone,
			),
			p.moved(-0.25*l, 0, 0).box(0.05*l, 1.2*r, 0.6*r, 0, zone),
			p.moved(0.25*l, 0, 0).box(0.05*l, 1.2*r, 0.6*r, 0, zone),
		}
	},
	"can": func(f Fitting, p place, zone string) []*solid {
		l, w, h := f.Size[0], f.Size[1], f.Size[2]
		return []*solid{
			p.box(l, w, 0.9*h, 0, zone),
			p.moved(0.1*l, 0, 0.9*h).box(0.5*l, 0.2*w, 0.1*h, 0, zone),
			p.moved(-0.35*l, 0, 0.9*h).box(0.16*l, 0.5*w, 0.07*h, 0, zone),
		}
	},
	"tool": func(f Fitting, p place, zone string) []*solid {
		l, w, h := f.Size[0], f.Size[1], f.Size[2]
		r := min(h, w) * 0.28
		up := p.moved(0, 0, r)
		return []*solid{
			up.moved(-0.12*l, 0, 0).bar(0.76*l, r, false, zone),
			p.moved(0.38*l, 0, 0).box(0.24*l, w, 0.6*h, 0.1, zone),
			p.moved(-0.25*l, 0, 0).box(0.03*l, 0.5*w, 0.8*h, 0, zone),
			p.moved(0.12*l, 0, 0).box(0.03*l, 0.5*w, 0.8*h, 0, zone),
		}
	},
	"links": func(f Fitting, p place, zone string) []*solid {
		l, w, h := f.Size[0], f.Size[1], f.Size[2]
		n := max(f.Count, 1)
		var out []*solid
		for i := range n {
			at := p.moved(l*((float64(i)+0.5)/float64(n)-0.5), 0, 0)
			out = append(
				out,
				at.box(0.82*l/float64(n), w, 0.7*h, 0.06, zone),
				at.moved(0, 0, 0.7*h).box(0.3*l/float64(n), 0.16*w, 0.3*h, 0.3, zone),
			)
		}
		return append(
			out,
			p.moved(0, 0.3*w, 0).box(0.99*l, 0.06*w, 0.35*h, 0, zone),
			p.moved(0, -0.3*w, 0).box(0.99*l, 0.06*w, 0.35*h, 0, zone),
		)
	},
	"hook": func(f Fitting, p place, zone string) []*solid {
		l, w, h := f.Size[0], f.Size[1], f.Size[2]
		return []*solid{
			p.box(l, w, 0.14*h, 0, zone),
			p.moved(0, 0.3*w, 0.14*h).box(0.7*l, 0.16*w, 0.86*h, 0.2, zone),
			p.moved(0, -0.3*w, 0.14*h).box(0.7*l, 0.16*w, 0.86*h, 0.2, zone),
			p.moved(0, 0, 0.7*h).bar(w, 0.1*h, true, zone),
		}
	},
	"lamp": func(f Fitting, p place, zone string) []*solid {
		r, l := min(f.Size[1], f.Size[2])/2, f.Size[0]
		return []*solid{
			p.moved(-0.1*l, 0, 0).box(0.3*l, 0.5*r, 0.8*r, 0, zone),
			turned(
				p.point(-l/2, 0, 1.5*r),
				p.along,
				p.out,
				[]station{{0, 0.45 * r}, {0.5 * l, 0.95 * r}, {0.82 * l, 0.95 * r}, {0.82 * l, 1.06 * r}, {l, 1.06 * r}},
				14,
				zone,
			),
		}
	},
	"post": func(f Fitting, p place, zone string) []*solid {
		r, h := min(f.Size[0], f.Size[1])/2, f.Size[2]
		return []*solid{
			turned(
				p.at,
				p.out,
				p.along,
				[]station{{0, r}, {0.72 * h, r}, {0.72 * h, 1.15 * r}, {0.9 * h, 1.15 * r}, {h, 0.6 * r}},
				12,
				zone,
			),
		}
	},
	"aerial": func(f Fitting, p place, zone string) []*solid {
		r, h := min(f.Size[0], f.Size[1])/2, f.Size[2]
		return []*solid{
			turned(p.at, p.out, p.along, []station{{0, r}, {0.05 * h, 0.8 * r}, {0.05 * h, 0.3 * r}, {h, 0.12 * r}}, 6, zone),
		}
	},
	"rail": func(f Fitting, p place, zone string) []*solid {
		l, r, h := f.Size[0], f.Size[1]/2, f.Size[2]
		out := []*solid{p.moved(0, 0, h-r).bar(l, r, false, zone)}
		for _, x := range []float64{-0.46, 0, 0.46} {
			out = append(out, p.moved(x*l, 0, 0).box(2*r, 2*r, h-r, 0, zone))
		}
		return out
	},
	"spool": func(f Fitting, p place, zone string) []*solid {
		r, w := f.Size[2]/2, f.Size[1]
		return []*solid{
			turned(
				p.point(0, -w/2, r),
				p.across,
				p.out,
				[]station{{0, r}, {0.08 * w, r}, {0.08 * w, 0.62 * r}, {0.92 * w, 0.62 * r}, {0.92 * w, r}, {w, r}},
				18,
				zone,
			),
			p.moved(
				0,
				0.56*w,
				0,
			).box(
				0.9*r,
				0.08*w,
				1.3*r,
				0.25,
				zone,
			),
			p.moved(0, -0.56*w, 0).box(0.9*r, 0.08*w, 1.3*r, 0.25, zone),
		}
	},
	"jib": func(f Fitting, p place, zone string) []*solid {
		l, w, h := f.Size[0], f.Size[1], f.Size[2]
		arm := func(y float64) *solid {
			at := func(x, b, c float64) Vec { return p.point(x, y+b, c) }
			t := 0.05 * w
			return plate([4]Vec{at(0, -t, 0.1*h), at(0, t, 0.1*h), at(l, t, h), at(l, -t, h)},
				[4]Vec{at(0.08*l, -t, 0), at(0.08*l, t, 0), at(l, t, 0.93*h), at(l, -t, 0.93*h)}, zone)
		}
		return []*solid{
			arm(0.36 * w),
			arm(-0.36 * w),
			p.moved(0.97*l, 0, 0.95*h).bar(0.9*w, 0.06*h, true, zone),
			p.moved(0.5*l, 0, 0.5*h).bar(0.72*w, 0.03*h, true, zone),
		}
	},
}

// FittingKinds lists the kinds of fittings.
func FittingKinds() []string {
	var out []string
	for k := range fitters {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}

// bar is a round bar along the place, or across it, about its middle.
func (p place) bar(long, radius float64, across bool, zone string) *solid {
	along, from := p.along, p.point(-long/2, 0, 0)
	if across {
		along, from = p.across, p.point(0, -long/2, 0)
	}
	return turned(from, along, p.out, []station{{0, radius}, {long, radius}}, 8, zone)
}

// places finds where a fitting stands, and its mirror image.
func (f Fitting) places(hosts []*solid) ([]place, error) {
	if fitters[f.Kind] == nil {
		return nil, fitted(f.ID, "%q is no fitting; use one of %s", f.Kind, strings.Join(FittingKinds(), ", "))
	}
	for _, v := range f.Size {
		if !(v > 0 && v <= 20_000) {
			return nil, fitted(f.ID, "its sizes lie above zero and below 20 m; give length, width and height in mm")
		}
	}
	if f.Count < 0 || f.Count > 60 {
		return nil, fitted(f.ID, "a count of %d; give up to 60", f.Count)
	}
	p, err := landing(hosts, f.On, f.At, f.Turn)
	if err != nil {
		return nil, fitted(f.ID, "%w", err)
	}
	if !f.Mirror {
		return []place{p}, nil
	}
	other, err := landing(hosts, zone.Mirrored(f.On), Vec{f.At[0], -f.At[1], f.At[2]}, -f.Turn)
	if err != nil {
		return nil, fitted(f.ID, "on the other side %w", err)
	}
	return []place{p, other}, nil
}

// Zones are what the fitting makes: one, or one on each side.
func (f Fitting) Zones() []string {
	name := zone.Named(zone.Part(f.On), f.ID)
	if f.Mirror {
		return []string{zone.Sided(name, zone.Left), zone.Sided(name, zone.Right)}
	}
	return []string{name}
}

// fit builds a fitting on the faces that are there, and its mirror image.
func (f Fitting) fit(hosts []*solid) ([]*solid, error) {
	places, err := f.places(hosts)
	if err != nil {
		return nil, err
	}
	var out []*solid
	for _, p := range places {
		name := zone.Named(zone.Part(f.On), f.ID)
		if f.Mirror {
			name = zone.Sided(name, map[bool]string{true: zone.Left, false: zone.Right}[p.at[1] > 0])
		}
		out = append(out, fitters[f.Kind](f, p, name)...)
	}
	return out, nil
}

// landing finds the place on a face: the point is brought onto it along the axis that
// the face looks along most. Where the zone has no face there, as when an edit has tilted
// it, another face of the same part takes the fitting.
func landing(hosts []*solid, on string, at Vec, turn float64) (place, error) {
	part := zone.Part(on)
	known := false
	best, found := place{}, math.Inf(1)
	try := func(wanted func(string) bool) {
		for _, s := range hosts {
			for _, f := range s.faces {
				if !wanted(f.zone) {
					continue
				}
				known = true
				axis := 0
				for k := range 3 {
					if math.Abs(f.normal[k]) > math.Abs(f.normal[axis]) {
						axis = k
					}
				}
				q := at
				q[axis] += f.normal.Dot(f.corners[0].Sub(at)) / f.normal[axis]
				if far := math.Abs(q[axis] - at[axis]); far < found && f.holds(q) {
					found, best = far, standing(q, f.normal, turn)
				}
			}
		}
	}
	try(func(z string) bool { return z == on })
	if math.IsInf(found, 1) {
		exact := known
		try(func(z string) bool { return zone.Under(z, part) })
		if known = exact || found < elsewhere; found >= elsewhere {
			found = math.Inf(1)
		}
	}
	switch {
	case !known:
		return place{}, fmt.Errorf("there is no face %q; pick one on the plate", on)
	case math.IsInf(found, 1):
		return place{}, fmt.Errorf("its place lies beside %s; move it onto the face", zone.Words(on))
	}
	return best, nil
}

// elsewhere is how near a face of another zone must lie to take a fitting, real mm.
const elsewhere = 5.0

// holds tells whether a point of the face's plane lies on it.
func (f face) holds(v Vec) bool {
	frame := newPanel(f.zone, 0, f.normal, f.corners[0])
	flat := make([][2]float64, len(f.corners))
	for i, c := range f.corners {
		flat[i] = frame.Flat(c)
	}
	return within(flat, frame.Flat(v))
}

// standing is the frame of a place: along the vehicle where the face allows it, else
// across it, then turned by degrees about the way out.
func standing(at, out Vec, turn float64) place {
	ahead := Vec{1, 0, 0}
	if math.Abs(out[0]) > 0.8 {
		ahead = Vec{0, 1, 0}
	}
	along := ahead.Sub(out.Times(ahead.Dot(out))).Unit()
	across := out.Cross(along)
	sin, cos := math.Sincos(turn * math.Pi / 180)
	return place{at, along.Times(cos).Plus(across.Times(sin)), across.Times(cos).Sub(along.Times(sin)), out}
}
