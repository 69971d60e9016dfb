package form

import (
	"math"
	"slices"

	"cinderpath/core/gear"
	"cinderpath/core/zone"
)

// faceNames are the zone names of a hull's faces in the order front, rear, left,
// right, top, bottom. Hulls that are not listed use the plain words.
var faceNames = map[string][6]string{
	"hull":  {"glacis", "rear", "left", "right", "deck", "sponson"},
	"lower": {"nose", "tail", "left", "right", "deck", "belly"},
}

var plainFaces = [6]string{"front", "rear", "left", "right", "roof", "floor"}

// facing gives the zone of a face of a part by where it looks: nearly upward is a
// deck, whatever else looks ahead or back is front or rear.
func facing(id string) func(n Vec) string {
	names, known := faceNames[id]
	if !known {
		names = plainFaces
	}
	return func(n Vec) string {
		switch {
		case math.Abs(n[1]) > 0.7 && n[1] > 0:
			return zone.Named(id, names[2])
		case math.Abs(n[1]) > 0.7:
			return zone.Named(id, names[3])
		case n[2] > 0.975 || n[2] > 0.7 && math.Abs(n[0]) < 0.2:
			return zone.Named(id, names[4])
		case n[2] < -0.9:
			return zone.Named(id, names[5])
		case n[0] > 0:
			return zone.Named(id, names[0])
		}
		return zone.Named(id, names[1])
	}
}

// around gives the zone of a turret's side by where it looks.
func around(id string) func(n Vec) string {
	return func(n Vec) string {
		switch {
		case n[0] > 0.7*math.Hypot(n[0], n[1]):
			return zone.Named(id, "front")
		case n[0] < -0.7*math.Hypot(n[0], n[1]):
			return zone.Named(id, "rear")
		case n[1] > 0:
			return zone.Named(id, "left")
		}
		return zone.Named(id, "right")
	}
}

// mainPart is the part that fenders and skirts count to.
func (b Body) mainPart() string {
	if b.Shell != nil || len(b.Hulls) == 0 || slices.ContainsFunc(b.Hulls, func(h Hull) bool { return h.ID == "hull" }) {
		return "hull"
	}
	return b.Hulls[0].ID
}

// solids builds all closed parts of a body, in a fixed order.
func (b Body) solids() ([]*solid, error) {
	if err := b.Check(); err != nil {
		return nil, err
	}
	out := b.hosts()
	hosts := out
	for _, f := range b.Fittings {
		made, err := f.fit(hosts)
		if err != nil {
			return nil, err
		}
		out = append(out, made...)
	}
	return out, nil
}

// hosts are the parts that fittings stand on.
func (b Body) hosts() []*solid {
	var out []*solid
	if b.Shell != nil {
		out = append(out, b.Shell.solid())
	}
	for _, h := range b.Hulls {
		out = append(out, prism(h.Profile, 0, h.half, facing(h.ID)))
	}
	for _, t := range b.Turrets {
		base, _ := b.host(t.On, t.X)
		out = append(out, tower(t.levels(base), t.Round, around(t.ID), zone.Named(t.ID, "roof"), zone.Named(t.ID, "floor")))
	}
	for _, g := range b.Guns {
		out = append(out, g.solids()...)
	}
	for _, f := range b.Fenders {
		out = append(out, b.fender(f)...)
	}
	for _, s := range b.Skirts {
		out = append(out, b.skirt(s)...)
	}
	return out
}

func (g Gun) solids() []*solid {
	var out []*solid
	if m := g.Mantlet; m.Width > 0 && m.Height > 0 && m.Depth > 0 {
		name := zone.Named(g.On, "mantlet")
		// A shield with a rounded front about the pivot.
		var profile [][2]float64
		for i := range 9 {
			sin, cos := math.Sincos(math.Pi * (float64(i)/8 - 0.5))
			profile = append(profile, [2]float64{g.X + 0.35*m.Depth + 0.65*m.Depth*cos, g.Z + m.Height/2*sin})
		}
		profile = append(
			profile,
			[2]float64{g.X - 0.6*m.Depth, g.Z + m.Height/2},
			[2]float64{g.X - 0.6*m.Depth, g.Z - m.Height/2},
		)
		s := prism(profile, g.Y, func(float64, float64) float64 { return m.Width / 2 }, func(Vec) string { return name })
		for i := range s.faces {
			s.faces[i].round = math.Abs(s.faces[i].normal[1]) < 0.5 && s.faces[i].normal[0] > 0.1
		}
		out = append(out, s)
	}
	sin, cos := math.Sincos(g.Elevation * math.Pi / 180)
	stations := make([]station, len(g.Barrel))
	for i, s := range g.Barrel {
		stations[i] = station{s[0], s[1]}
	}
	return append(out, turned(Vec{g.X, g.Y, g.Z}, Vec{cos, 0, sin}, Vec{0, 1, 0}, stations, 14, g.ID))
}

func (b Body) broken(part, side string, section int) (gone bool, bent float64) {
	for _, d := range b.Damage {
		if d.Part == part && d.Side == side && d.Section == section {
			gone = gone || d.Kind == Missing
			if d.Kind == Bent {
				bent += d.By
			}
		}
	}
	return gone, bent
}

// twoSides runs f for left and right.
func twoSides(f func(name string, sign float64)) {
	f(zone.Left, 1)
	f(zone.Right, -1)
}

func (b Body) fender(f Fender) []*solid {
	n := len(f.Line)
	// The lower face lies a thickness below, mitred where the line bends.
	lower := make([][2]float64, n)
	for i, p := range f.Line {
		var m [2]float64
		for _, j := range []int{i - 1, i} {
			if j >= 0 && j+1 < n {
				a, c := f.Line[j], f.Line[j+1]
				long := math.Hypot(c[0]-a[0], c[1]-a[1])
				m[0] -= (c[1] - a[1]) / long
				m[1] += (c[0] - a[0]) / long
			}
		}
		size := math.Hypot(m[0], m[1])
		k := f.Thick / size
		if i > 0 && i+1 < n {
			k *= 2 / size // along the bisector, so that both stretches keep their thickness
		}
		if f.Line[0][0] > f.Line[n-1][0] {
			k = -k
		}
		lower[i] = [2]float64{p[0] - m[0]*k, p[1] - m[1]*k}
	}
	var out []*solid
	twoSides(func(side string, sign float64) {
		for i := range n - 1 {
			gone, bent := b.broken(f.ID, side, i+1)
			if gone {
				continue
			}
			at := func(p [2]float64, y, down float64) Vec { return Vec{p[0], sign * y, p[1] - down} }
			// The outer corner of the free end is the one that gets hit.
			out = append(out, plate(
				[4]Vec{
					at(f.Line[i], f.Outer, bent),
					at(f.Line[i], f.Inner, 0),
					at(f.Line[i+1], f.Inner, 0),
					at(f.Line[i+1], f.Outer, 0),
				},
				[4]Vec{
					at(lower[i], f.Outer, bent),
					at(lower[i], f.Inner, 0),
					at(lower[i+1], f.Inner, 0),
					at(lower[i+1], f.Outer, 0),
				},
				b.sectionZone(f.ID, side, i+1),
			))
		}
	})
	return out
}

func (b Body) skirt(s Skirt) []*solid {
	var out []*solid
	step := (s.Front - s.Rear) / float64(s.Sections)
	twoSides(func(side string, sign float64) {
		for i := range s.Sections {
			gone, bent := b.broken(s.ID, side, i+1)
			if gone {
				continue
			}
			front, rear := s.Front-float64(i)*step, s.Front-float64(i+1)*step
			at := func(x, z, in, by float64) Vec { return Vec{x, sign * (s.Out - in + by), z} }
			out = append(out, plate(
				[4]Vec{at(front, s.Base, 0, bent), at(rear, s.Base, 0, 0), at(rear, s.Top, 0, 0), at(front, s.Top, 0, 0)},
				[4]Vec{
					at(front, s.Base, s.Thick, bent),
					at(rear, s.Base, s.Thick, 0),
					at(rear, s.Top, s.Thick, 0),
					at(front, s.Top, s.Thick, 0),
				},
				b.sectionZone(s.ID, side, i+1),
			))
		}
	})
	return out
}

// Running is the running gear as the form needs it: where the wheels stand and how
// wide they and the track are. Real mm.
type Running struct {
	Wheels []gear.Wheel
	Face   float64      // y of the wheels' outer faces
	Width  float64      // of a wheel, or of the track
	Pins   [][2]float64 // pins of the track, x and z, counter-clockwise; empty for wheeled vehicles
	Link   gear.Link
}

// facets of a wheel: as many as its edge still reads round with.
func facets(w gear.Wheel) int {
	if w.Kind == gear.Return {
		return 12
	}
	return 20
}

// axle joins the wheels of both sides that run on the road, with the gear in its middle.
// Wheels under a hull that reaches down between them show little of it.
func (r Running) axle(w gear.Wheel) *solid {
	end, thin, thick := r.Face-r.Width, 0.13*w.Radius, 0.3*w.Radius
	half := math.Min(0.35*w.Radius, 0.4*end)
	return turned(Vec{w.X, -end, w.Z}, Vec{0, 1, 0}, Vec{1, 0, 0}, []station{
		{
			0,
			thin,
		},
		{end - half, thin},
		{end - 0.6*half, thick},
		{end + 0.6*half, thick},
		{end + half, thin},
		{2 * end, thin},
	}, 10, "gear.axle")
}

// solids builds the wheels with their axles, and the tracks as one closed band each.
func (r Running) solids() []*solid {
	var out []*solid
	for _, w := range r.Wheels {
		if w.Kind == gear.Tyre && r.Face > r.Width {
			out = append(out, r.axle(w))
		}
	}
	twoSides(func(side string, sign float64) {
		y := Vec{0, sign, 0}
		for i, w := range r.Wheels {
			width := r.Width
			if w.Kind != gear.Tyre && len(r.Pins) > 0 {
				width *= 0.86 // the track is a little wider than what it runs on
			}
			name := gear.ZoneOf(r.Wheels, i, side)
			// The polygon has the area of the disc.
			n := facets(w)
			swell := math.Sqrt(2 * math.Pi / (float64(n) * math.Sin(2*math.Pi/float64(n))))
			k := swell * w.Radius
			face := r.Face - (r.Width-width)/2
			hub := k * w.HubShare()
			s := turned(
				Vec{w.X, sign * (face - width), w.Z},
				y,
				Vec{1, 0, 0},
				[]station{
					{0, k},
					{width, k},
					{width, hub},
					{0.9 * width, 0.94 * hub},
					{0.9 * width, 0.34 * hub},
					{0.98 * width, 0.28 * hub},
				},
				n,
				name,
			)
			for i := range s.faces {
				f := &s.faces[i]
				// The first n faces after the inner one are the tread; the second shoulder is the rim's outer face.
				if w.Rubber() && (i >= 1 && i <= n || f.group == 2) {
					f.zone = zone.Rubber(side)
				}
			}
			s.loose = true
			out = append(out, s)
			if w.Kind == gear.Sprocket && w.Teeth >= 3 && r.Link.Pitch > 0 {
				out = append(out, r.teeth(w, sign*(face-0.05*width), sign*(face-0.16*width), name))
			}
		}
		if len(r.Pins) > 2 {
			out = append(out, r.band(side, sign))
		}
	})
	return out
}

// teeth is the toothed ring of a sprocket, between two planes.
func (r Running) teeth(w gear.Wheel, y0, y1 float64, name string) *solid {
	foot, tip := w.Apothem(r.Link)-r.Link.Surface, w.Apothem(r.Link)+0.6*r.Link.Ground
	var profile [][2]float64
	for i := range w.Teeth {
		for _, c := range []struct{ turn, radius float64 }{{-0.3, foot}, {-0.12, tip}, {0.12, tip}, {0.3, foot}} {
			sin, cos := math.Sincos(2 * math.Pi * (float64(i) + c.turn) / float64(w.Teeth))
			profile = append(profile, [2]float64{w.X + c.radius*cos, w.Z + c.radius*sin})
		}
	}
	s := prism(
		profile,
		(y0+y1)/2,
		func(float64, float64) float64 { return math.Abs(y1-y0) / 2 },
		func(Vec) string { return name },
	)
	s.loose = true
	return s
}

// band is a track: a closed ring of links.
func (r Running) band(side string, sign float64) *solid {
	n := len(r.Pins)
	y0, y1 := sign*r.Face, sign*(r.Face-r.Width)
	name := zone.Track(side)
	// Corners at each pin, along the middle of the two links' normals.
	outer, inner := make([][2]float64, n), make([][2]float64, n)
	for i, p := range r.Pins {
		a, b := r.Pins[(i+n-1)%n], r.Pins[(i+1)%n]
		dx, dz := b[0]-a[0], b[1]-a[1]
		long := math.Hypot(dx, dz)
		nx, nz := dz/long, -dx/long // the pins run counter-clockwise: outward is to the right
		outer[i] = [2]float64{p[0] + nx*r.Link.Ground, p[1] + nz*r.Link.Ground}
		inner[i] = [2]float64{p[0] - nx*r.Link.Surface, p[1] - nz*r.Link.Surface}
	}
	var faces []face
	at := func(p [2]float64, y float64) Vec { return Vec{p[0], y, p[1]} }
	for i := range n {
		j := (i + 1) % n
		for _, q := range [][]Vec{
			{at(outer[i], y0), at(outer[i], y1), at(outer[j], y1), at(outer[j], y0)},
			{at(inner[i], y1), at(inner[i], y0), at(inner[j], y0), at(inner[j], y1)},
			{at(outer[i], y0), at(outer[j], y0), at(inner[j], y0), at(inner[i], y0)},
			{at(outer[j], y1), at(outer[i], y1), at(inner[i], y1), at(inner[j], y1)},
		} {
			faces = append(faces, face{corners: q, zone: name})
		}
	}
	s := newSolid(faces)
	s.loose = true
	return s
}
