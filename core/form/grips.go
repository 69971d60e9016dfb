package form

import (
	"fmt"
	"math"
	"slices"

	"cinderpath/core/length"
)

// Grip is what of a part can be dragged in a view: points in model mm of the view.
type Grip struct {
	Side   Side         `json:"side"`
	Points [][2]float64 `json:"points"`
	Real   [][2]float64 `json:"real"`             // the same in real mm along the view's axes
	Closed bool         `json:"closed"`           // the points are joined into a ring
	Loose  int          `json:"loose"`            // so many of the last points stand for themselves
	Middle *float64     `json:"middle,omitempty"` // the mirror image about this line, down the view, belongs to it
}

// Drag moves a point of a grip, or gives all its points anew.
type Drag struct {
	Part  string     `json:"part"`
	Side  Side       `json:"side"`
	Point int        `json:"point,omitempty"`
	To    [2]float64 `json:"to,omitzero"`   // model mm of the view
	Step  float64    `json:"step,omitzero"` // real mm that it catches on

	Points [][2]float64 `json:"points,omitempty"` // instead: all of them, in real mm, as typed
}

// catching is how near, as a share of the sheet's width, a point catches on its neighbours.
const catching = 1.0 / 400

// grip is a part's points in real mm along two axes, and how a body takes them back.
type grip struct {
	axes     [2]int
	points   [][2]float64
	closed   bool
	mirrored bool
	loose    int
	put      func(points [][2]float64) Body
}

// planes are the axes that run across and down the views in which bodies are shaped.
var planes = map[Side][2]int{Left: {0, 2}, Top: {0, 1}, Front: {1, 2}}

// grip of a part in a view; ok is false where nothing of it is dragged there.
func (b Body) grip(part string, side Side) (g grip, ok bool) {
	g.axes = planes[side]
	x, y := g.axes[0], g.axes[1]
	if i := slices.IndexFunc(b.Hulls, func(h Hull) bool { return h.ID == part }); i >= 0 && side == Left {
		g.points, g.closed = b.Hulls[i].Profile, true
		g.put = func(p [][2]float64) Body {
			b.Hulls = slices.Clone(b.Hulls)
			b.Hulls[i].Profile = p
			return b
		}
		return g, true
	}
	if i := slices.IndexFunc(b.Turrets, func(t Turret) bool { return t.ID == part }); i >= 0 && side == Top {
		return b.turretGrip(i, g), true
	}
	if i := slices.IndexFunc(b.Guns, func(g Gun) bool { return g.ID == part }); i >= 0 && side == Left {
		g.points, g.loose = [][2]float64{{b.Guns[i].X, b.Guns[i].Z}}, 1
		g.put = func(p [][2]float64) Body {
			b.Guns = slices.Clone(b.Guns)
			b.Guns[i].X, b.Guns[i].Z = p[0][0], p[0][1]
			return b
		}
		return g, true
	}
	if i := slices.IndexFunc(b.Fenders, func(f Fender) bool { return f.ID == part }); i >= 0 && side == Left {
		g.points = b.Fenders[i].Line
		g.put = func(p [][2]float64) Body {
			b.Fenders = slices.Clone(b.Fenders)
			b.Fenders[i].Line = p
			return b
		}
		return g, true
	}
	if i := slices.IndexFunc(b.Skirts, func(s Skirt) bool { return s.ID == part }); i >= 0 && side == Left {
		s := b.Skirts[i]
		g.points, g.loose = [][2]float64{{s.Front, s.Base}, {s.Rear, s.Top}}, 2
		g.put = func(p [][2]float64) Body {
			b.Skirts = slices.Clone(b.Skirts)
			s := &b.Skirts[i]
			s.Front, s.Base, s.Rear, s.Top = p[0][0], p[0][1], p[1][0], p[1][1]
			return b
		}
		return g, true
	}
	if i := slices.IndexFunc(b.Fittings, func(f Fitting) bool { return f.ID == part }); i >= 0 && g.axes != [2]int{} {
		g.points, g.loose = [][2]float64{{b.Fittings[i].At[x], b.Fittings[i].At[y]}}, 1
		g.put = func(p [][2]float64) Body {
			b.Fittings = slices.Clone(b.Fittings)
			b.Fittings[i].At[x], b.Fittings[i].At[y] = p[0][0], p[0][1]
			return b
		}
		return g, true
	}
	return g, false
}

// turretGrip is a turret's left half in plan, and its ring's centre, with which all moves.
func (b Body) turretGrip(i int, g grip) grip {
	t := b.Turrets[i]
	for _, p := range t.Plan {
		g.points = append(g.points, [2]float64{p[0] + t.X, p[1] + t.Y})
	}
	g.points = append(g.points, [2]float64{t.X, t.Y})
	g.mirrored, g.loose = t.Y == 0, 1
	g.put = func(p [][2]float64) Body {
		b.Turrets = slices.Clone(b.Turrets)
		t := &b.Turrets[i]
		at := p[len(p)-1]
		if at != [2]float64{t.X, t.Y} {
			t.X, t.Y = at[0], at[1]
			return b
		}
		t.Plan = nil
		for _, q := range p[:len(p)-1] {
			t.Plan = append(t.Plan, [2]float64{q[0] - t.X, max(q[1]-t.Y, 0)})
		}
		return b
	}
	return g
}

// onView maps real mm along a view's axes to its model mm; offView back.
func (v View) onView(p [2]float64, scale length.Scale) [2]float64 {
	a, b := v.ways()
	return [2]float64{v.Origin[0] + a*p[0]/float64(scale), v.Origin[1] + b*p[1]/float64(scale)}
}

func (v View) offView(p [2]float64, scale length.Scale) [2]float64 {
	a, b := v.ways()
	return [2]float64{(p[0] - v.Origin[0]) * float64(scale) * a, (p[1] - v.Origin[1]) * float64(scale) * b}
}

// ways tells which way the axes run.
func (v View) ways() (across, down float64) {
	switch v.Side {
	case Top:
		return -1, 1
	case Front:
		return 1, -1
	}
	return -1, -1
}

// Grips are what of a part can be dragged, by view.
func (b Body) Grips(part string, views []View, scale length.Scale) []Grip {
	out := []Grip{}
	for _, v := range views {
		g, ok := b.grip(part, v.Side)
		if !ok {
			continue
		}
		made := Grip{Side: v.Side, Points: [][2]float64{}, Real: slices.Clone(g.points), Closed: g.closed, Loose: g.loose}
		for _, p := range g.points {
			made.Points = append(made.Points, v.onView(p, scale))
		}
		if g.mirrored {
			middle := v.onView([2]float64{}, scale)[1]
			made.Middle = &middle
		}
		out = append(out, made)
	}
	return out
}

// Dragged moves a point of a part. It catches on whole steps, and on the places of its
// neighbours when it comes near.
func (b Body) Dragged(d Drag, views []View, scale length.Scale) (Body, error) {
	at := slices.IndexFunc(views, func(v View) bool { return v.Side == d.Side })
	if at < 0 {
		return b, fmt.Errorf("%q is no view; drag in one of the five", d.Side)
	}
	g, ok := b.grip(d.Part, d.Side)
	if ok && len(d.Points) > g.loose {
		return g.put(d.Points), nil
	}
	if !ok || d.Point < 0 || d.Point >= len(g.points) {
		return b, fmt.Errorf("%s has no point %d in that view; choose a part and drag one of its points", d.Part, d.Point+1)
	}
	if !(d.Step > 0 && d.Step <= 1000) {
		return b, fmt.Errorf("a step of %g mm; give 1 to 1000", d.Step)
	}
	width, _ := SheetSize(views)
	near := width * catching * float64(scale)
	to := views[at].offView(d.To, scale)
	points := slices.Clone(g.points)
	for axis := range 2 {
		caught := math.Round(to[axis]/d.Step) * d.Step
		for k, q := range points {
			if k != d.Point && math.Abs(q[axis]-to[axis]) < near {
				caught = q[axis]
				break
			}
		}
		points[d.Point][axis] = caught
	}
	return g.put(points), nil
}
