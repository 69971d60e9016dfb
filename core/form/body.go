package form

import (
	"bytes"
	"encoding/json"
	"math"
	"slices"
)

// Hull is a solid drawn as a side profile: the tub between the tracks, the upper hull,
// a casemate, a cab. Real mm.
type Hull struct {
	ID      string       `json:"id"`      // hull, lower, cab …: the first half of its zones' names
	Profile [][2]float64 `json:"profile"` // x and z, either way round; notches are wheel arches
	Width   float64      `json:"width"`   // at its lowest and rearmost
	InSide  float64      `json:"inSide"`  // how far each side leans in up to its highest point
	InNose  float64      `json:"inNose"`  // how far each side comes in up to its foremost point
}

// Turret is a solid drawn in plan, which stands on a hull or another turret.
type Turret struct {
	ID   string  `json:"id"`
	On   string  `json:"on"`   // the id of what it stands on
	X    float64 `json:"x"`    // of its ring's centre
	Y    float64 `json:"y"`    //
	Ring float64 `json:"ring"` // radius
	// Plan: its left half from front to rear, about the ring's centre; the right is its mirror image
	Plan    [][2]float64 `json:"plan"`
	Height  float64      `json:"height"`
	InFront float64      `json:"inFront"` // how far the front leans back up to the roof
	InRear  float64      `json:"inRear"`
	InSide  float64      `json:"inSide"`
	Round   bool         `json:"round,omitempty"` // cast: the plan is smoothed and the top rounded
}

// Gun is a barrel that turns up and down about a pivot, with its mantlet.
type Gun struct {
	ID        string       `json:"id"`
	On        string       `json:"on"` // the turret or hull that its mantlet belongs to
	X         float64      `json:"x"`  // of the pivot
	Y         float64      `json:"y"`
	Z         float64      `json:"z"`
	Barrel    [][2]float64 `json:"barrel"`    // distance from the pivot, and radius
	Elevation float64      `json:"elevation"` // degrees
	Mantlet   Mantlet      `json:"mantlet,omitzero"`
}

// Mantlet is the shield about a gun's pivot; none when it has no width.
type Mantlet struct {
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
	Depth  float64 `json:"depth"` // before the pivot
}

// Fender is a plate over the track or wheels at both sides, bent along a line.
type Fender struct {
	ID    string       `json:"id"`
	Line  [][2]float64 `json:"line"`  // x and z of its upper face from front to rear; each stretch is a section
	Inner float64      `json:"inner"` // distance of its edges from the middle
	Outer float64      `json:"outer"`
	Thick float64      `json:"thick"`
}

// Skirt is an upright plate beside the running gear at both sides.
type Skirt struct {
	ID       string  `json:"id"`
	Rear     float64 `json:"rear"`
	Front    float64 `json:"front"`
	Base     float64 `json:"base"`
	Top      float64 `json:"top"`
	Out      float64 `json:"out"` // distance of its outer face from the middle
	Thick    float64 `json:"thick"`
	Sections int     `json:"sections"`
}

// Damage is what happened to one section of a fender or a skirt.
type Damage struct {
	Part    string  `json:"part"`         // the fender's or skirt's id
	Side    string  `json:"side"`         // left or right
	Section int     `json:"section"`      // from the front, the first is 1
	Kind    string  `json:"kind"`         // missing, bent or replaced
	By      float64 `json:"by,omitempty"` // how far its free corner is bent out or down
}

// The kinds of damage.
const (
	Missing = "missing"
	Bent    = "bent"

	// Replaced came from another vehicle: no damage, but a history of its own.
	Replaced = "replaced"
)

// Body is the vehicle without its running gear, as a modeller edits it.
type Body struct {
	Hulls    []Hull    `json:"hulls,omitempty"`
	Turrets  []Turret  `json:"turrets,omitempty"`
	Guns     []Gun     `json:"guns,omitempty"`
	Fenders  []Fender  `json:"fenders,omitempty"`
	Skirts   []Skirt   `json:"skirts,omitempty"`
	Fittings []Fitting `json:"fittings,omitempty"`
	Damage   []Damage  `json:"damage,omitempty"`
	Shell    *Shell    `json:"shell,omitempty"` // an imported mesh in place of the hulls
}

// UnmarshalJSON reads a body; one made of blocks and tubes, as the first documents
// had them, becomes one of hulls and guns of the same shape.
func (b *Body) UnmarshalJSON(data []byte) error {
	type plain Body
	var in struct {
		plain
		Blocks []struct {
			ID                      string
			Rear, Front, Base, Top  float64
			Width                   float64
			InFront, InRear, InSide float64
		} `json:"blocks"`
		Tubes []struct {
			ID                 string
			Rear, Front        float64
			Y, Z, Radius       float64
			InFront, InnerSide float64
		} `json:"tubes"`
	}
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&in); err != nil {
		return err
	}
	*b = Body(in.plain)
	for _, k := range in.Blocks {
		b.Hulls = append(b.Hulls, Hull{ID: k.ID, Width: k.Width, InSide: k.InSide, Profile: [][2]float64{
			{k.Rear, k.Base}, {k.Front, k.Base}, {k.Front - k.InFront, k.Top}, {k.Rear + k.InRear, k.Top}}})
	}
	for _, t := range in.Tubes {
		b.Guns = append(
			b.Guns,
			Gun{ID: t.ID, X: t.Rear, Y: t.Y, Z: t.Z, Barrel: [][2]float64{{0, t.Radius}, {t.Front - t.Rear, t.Radius}}},
		)
	}
	return nil
}

// Stretch scales a body about the origin along each axis; radii follow the height,
// since they are seen from the side, and thicknesses stay: plate is plate.
func (b Body) Stretch(kx, ky, kz float64) Body {
	line := func(in [][2]float64, k0, k1 float64) [][2]float64 {
		out := make([][2]float64, len(in))
		for i, p := range in {
			out[i] = [2]float64{p[0] * k0, p[1] * k1}
		}
		return out
	}
	out := Body{Damage: b.Damage}
	if b.Shell != nil {
		shell := Shell{Faces: b.Shell.Faces}
		for _, p := range b.Shell.Points {
			shell.Points = append(shell.Points, [3]float64{p[0] * kx, p[1] * ky, p[2] * kz})
		}
		for _, d := range b.Shell.Seeds {
			shell.Seeds = append(shell.Seeds, Seed{Vec{d.At[0] * kx, d.At[1] * ky, d.At[2] * kz}, d.Zone})
		}
		out.Shell = &shell
	}
	for _, h := range b.Hulls {
		h.Profile = line(h.Profile, kx, kz)
		h.Width, h.InSide, h.InNose = h.Width*ky, h.InSide*ky, h.InNose*ky
		out.Hulls = append(out.Hulls, h)
	}
	for _, t := range b.Turrets {
		t.X, t.Y, t.Ring, t.Plan, t.Height = t.X*kx, t.Y*ky, t.Ring*math.Min(kx, ky), line(t.Plan, kx, ky), t.Height*kz
		t.InFront, t.InRear, t.InSide = t.InFront*kx, t.InRear*kx, t.InSide*ky
		out.Turrets = append(out.Turrets, t)
	}
	for _, g := range b.Guns {
		g.X, g.Y, g.Z, g.Barrel = g.X*kx, g.Y*ky, g.Z*kz, line(g.Barrel, kx, kz)
		g.Mantlet = Mantlet{g.Mantlet.Width * ky, g.Mantlet.Height * kz, g.Mantlet.Depth * kx}
		out.Guns = append(out.Guns, g)
	}
	for _, f := range b.Fenders {
		f.Line, f.Inner, f.Outer = line(f.Line, kx, kz), f.Inner*ky, f.Outer*ky
		out.Fenders = append(out.Fenders, f)
	}
	for _, s := range b.Skirts {
		s.Rear, s.Front, s.Base, s.Top, s.Out = s.Rear*kx, s.Front*kx, s.Base*kz, s.Top*kz, s.Out*ky
		out.Skirts = append(out.Skirts, s)
	}
	// Fittings are brought onto their faces first: a point of a face stays on it.
	hosts := b.hosts()
	for _, f := range b.Fittings {
		if p, err := landing(hosts, f.On, f.At, 0); err == nil {
			f.At = p.at
		}
		f.At = Vec{f.At[0] * kx, f.At[1] * ky, f.At[2] * kz}
		out.Fittings = append(out.Fittings, f)
	}
	return out
}

// half is the hull's half width at a place of its side profile.
func (h Hull) half(x, z float64) float64 {
	lowX, highX, lowZ, highZ := h.bounds()
	out := h.Width / 2
	if highZ > lowZ {
		out -= h.InSide * (z - lowZ) / (highZ - lowZ)
	}
	if highX > lowX {
		out -= h.InNose * (x - lowX) / (highX - lowX)
	}
	return out
}

func (h Hull) bounds() (lowX, highX, lowZ, highZ float64) {
	lowX, lowZ, highX, highZ = bounds(h.Profile)
	return lowX, highX, lowZ, highZ
}

func bounds(points [][2]float64) (x0, y0, x1, y1 float64) {
	x0, y0, x1, y1 = math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, p := range points {
		x0, x1 = math.Min(x0, p[0]), math.Max(x1, p[0])
		y0, y1 = math.Min(y0, p[1]), math.Max(y1, p[1])
	}
	return x0, y0, x1, y1
}

// top is the height of the hull's upper side over x; ok is false beside the hull.
func (h Hull) top(x float64) (z float64, ok bool) {
	z = math.Inf(-1)
	for i, p := range h.Profile {
		q := h.Profile[(i+1)%len(h.Profile)]
		if x < min(p[0], q[0]) || x > max(p[0], q[0]) {
			continue
		}
		at := max(p[1], q[1])
		if p[0] != q[0] {
			at = p[1] + (q[1]-p[1])*(x-p[0])/(q[0]-p[0])
		}
		z, ok = max(z, at), true
	}
	return z, ok
}

// outline is the turret's full plan in space about its ring, counter-clockwise from
// above, without height; smoothed when it is round.
func (t Turret) outline() [][2]float64 {
	left := slices.Clone(t.Plan)
	all := slices.Clone(left)
	for i := len(left) - 1; i >= 0; i-- {
		if left[i][1] > 1e-6 {
			all = append(all, [2]float64{left[i][0], -left[i][1]})
		}
	}
	if t.Round {
		all = smooth(all)
	}
	if signed(all) < 0 {
		slices.Reverse(all)
	}
	return all
}

// strips is how many points lie on a smoothed edge.
const strips = 4

// smooth runs a closed curve through points (Catmull and Rom, 1974).
func smooth(c [][2]float64) [][2]float64 {
	n := len(c)
	var out [][2]float64
	for i := range c {
		p0, p1, p2, p3 := c[(i+n-1)%n], c[i], c[(i+1)%n], c[(i+2)%n]
		for k := range strips {
			t := float64(k) / strips
			var q [2]float64
			for a := range 2 {
				q[a] = 0.5 * (2*p1[a] + t*(p2[a]-p0[a]) + t*t*(2*p0[a]-5*p1[a]+4*p2[a]-p3[a]) + t*t*t*(3*p1[a]-p0[a]-3*p2[a]+p3[a]))
			}
			out = append(out, q)
		}
	}
	return out
}

// levels are the turret's outlines from its base up.
func (t Turret) levels(base float64) [][]Vec {
	plan := t.outline()
	at := func(outline [][2]float64, k, z float64) []Vec {
		out := make([]Vec, len(outline))
		for i, p := range outline {
			out[i] = Vec{t.X + k*p[0], t.Y + k*p[1], base + z}
		}
		return out
	}
	if !t.Round {
		return [][]Vec{at(plan, 1, 0), at(t.roof(plan), 1, t.Height)}
	}
	_, y0, _, y1 := bounds(plan)
	in := min(t.InSide/((y1-y0)/2), 0.9)
	var out [][]Vec
	for _, u := range []float64{0, 0.35, 0.65, 0.85, 0.96, 1} {
		out = append(out, at(plan, 1-in*(1-math.Sqrt(1-0.97*u*u)), u*t.Height))
	}
	return out
}

// roof is the plan with every edge moved in by the lean of its side.
func (t Turret) roof(plan [][2]float64) [][2]float64 {
	n := len(plan)
	type line struct{ p, d [2]float64 }
	edges := make([]line, n)
	for i := range plan {
		a, b := plan[i], plan[(i+1)%n]
		dx, dy := b[0]-a[0], b[1]-a[1]
		long := math.Hypot(dx, dy)
		nx, ny := dy/long, -dx/long // outward
		// Between front, side and rear the lean goes over from one to the other.
		ahead := t.InFront
		if nx < 0 {
			ahead = t.InRear
		}
		in := ny*ny*t.InSide + nx*nx*ahead
		edges[i] = line{[2]float64{a[0] - nx*in, a[1] - ny*in}, [2]float64{dx, dy}}
	}
	out := make([][2]float64, n)
	for i := range plan {
		a, b := edges[(i+n-1)%n], edges[i]
		det := a.d[0]*b.d[1] - a.d[1]*b.d[0]
		if math.Abs(det) < 1e-9*math.Hypot(a.d[0], a.d[1])*math.Hypot(b.d[0], b.d[1]) {
			out[i] = b.p
			continue
		}
		s := ((b.p[0]-a.p[0])*b.d[1] - (b.p[1]-a.p[1])*b.d[0]) / det
		out[i] = [2]float64{a.p[0] + s*a.d[0], a.p[1] + s*a.d[1]}
	}
	return out
}

// Parts lists the parts that are built for themselves: hulls and turrets.
func (b Body) Parts() []string {
	var out []string
	if b.Shell != nil {
		out = append(out, "hull")
	}
	for _, h := range b.Hulls {
		out = append(out, h.ID)
	}
	for _, t := range b.Turrets {
		out = append(out, t.ID)
	}
	return out
}

// Pieces lists all that a body is put together from, by id.
func (b Body) Pieces() []string {
	out := b.Parts()
	for _, g := range b.Guns {
		out = append(out, g.ID)
	}
	for _, f := range b.Fenders {
		out = append(out, f.ID)
	}
	for _, s := range b.Skirts {
		out = append(out, s.ID)
	}
	for _, f := range b.Fittings {
		out = append(out, f.ID)
	}
	return out
}
