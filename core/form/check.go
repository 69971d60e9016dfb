package form

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
)

// Limits that keep one vehicle one vehicle.
const (
	mostPoints   = 60
	mostHulls    = 20
	mostFittings = 120
)

// fitted is a fault of a body: the part that it lies in, and words "reason; remedy".
func fitted(part, format string, args ...any) error {
	return fmt.Errorf("%s: %w", part, fmt.Errorf(format, args...))
}

// Check reports the first thing that makes a body impossible, in words.
func (b Body) Check() error {
	if b.Shell != nil {
		if err := b.Shell.check(); err != nil {
			return err
		}
	} else if len(b.Hulls) == 0 {
		return errors.New("the body has no hull; add one")
	}
	if len(b.Hulls) > mostHulls || len(b.Turrets) > mostHulls || len(b.Guns) > mostHulls || len(b.Fenders) > mostHulls ||
		len(b.Skirts) > mostHulls ||
		len(b.Fittings) > mostFittings ||
		len(b.Damage) > mostFittings {
		return fmt.Errorf(
			"more parts than one vehicle has; at most %d hulls, turrets, guns, fenders or skirts, and %d fittings",
			mostHulls,
			mostFittings,
		)
	}
	if err := b.names(); err != nil {
		return err
	}
	for _, h := range b.Hulls {
		if err := h.check(); err != nil {
			return err
		}
	}
	for _, t := range b.Turrets {
		if err := t.check(b); err != nil {
			return err
		}
	}
	for _, g := range b.Guns {
		if err := g.check(); err != nil {
			return err
		}
	}
	for _, f := range b.Fenders {
		switch {
		case len(f.Line) < 2 || len(f.Line) > mostPoints:
			return fitted(f.ID, "a fender needs 2 to %d points; add or take out some", mostPoints)
		case !(f.Inner >= 0 && f.Outer > f.Inner):
			return fitted(
				f.ID,
				"its outer edge (%.0f mm from the middle) must lie beyond the inner one (%.0f mm); move one",
				f.Outer,
				f.Inner,
			)
		case !(f.Thick > 2*touching):
			return fitted(f.ID, "it needs a thickness above %.1f mm; sheet of 3 mm is common", 2*touching)
		}
	}
	for _, s := range b.Skirts {
		switch {
		case s.Front <= s.Rear || s.Top <= s.Base:
			return fitted(s.ID, "its front must lie before its rear and its top above its foot; swap them")
		case !(s.Thick > 2*touching && s.Out > s.Thick):
			return fitted(s.ID, "it needs a thickness above %.1f mm, and a place beside the middle; give both", 2*touching)
		case s.Sections < 1 || s.Sections > 40:
			return fitted(s.ID, "it has %d sections; give 1 to 40", s.Sections)
		}
	}
	for i, d := range b.Damage {
		if err := d.check(b); err != nil {
			return fmt.Errorf("damage %d: %w", i+1, err)
		}
	}
	hosts := b.hosts()
	for _, f := range b.Fittings {
		if _, err := f.places(hosts); err != nil {
			return err
		}
	}
	return nil
}

// names checks that every part has a name of its own that can be part of a zone's.
func (b Body) names() error {
	seen := map[string]bool{"gear": true}
	take := func(kind, id string) error {
		switch {
		case id == "" || len(id) > 40 || strings.Trim(id, "abcdefghijklmnopqrstuvwxyz0123456789-") != "":
			return fmt.Errorf("%s %q: a name has up to 40 small letters, figures and hyphens; rename it", kind, id)
		case seen[id]:
			return fmt.Errorf("%s %q: another part has that name; rename one", kind, id)
		}
		seen[id] = true
		return nil
	}
	var errs []error
	for _, x := range b.Hulls {
		errs = append(errs, take("hull", x.ID))
	}
	for _, x := range b.Turrets {
		errs = append(errs, take("turret", x.ID))
	}
	for _, x := range b.Guns {
		errs = append(errs, take("gun", x.ID))
	}
	for _, x := range b.Fenders {
		errs = append(errs, take("fender", x.ID))
	}
	for _, x := range b.Skirts {
		errs = append(errs, take("skirt", x.ID))
	}
	for _, x := range b.Fittings {
		errs = append(errs, take("fitting", x.ID))
	}
	for _, err := range errs {
		if err != nil {
			return err
		}
	}
	return nil
}

func (h Hull) check() error {
	if len(h.Profile) < 3 || len(h.Profile) > mostPoints {
		return fitted(h.ID, "its profile has %d points; a profile needs 3 to %d", len(h.Profile), mostPoints)
	}
	if i, j, ok := crossing(h.Profile); !ok {
		n := len(h.Profile)
		return fitted(
			h.ID,
			"its profile crosses itself between points %d–%d and %d–%d; move one of them",
			i+1,
			(i+1)%n+1,
			j+1,
			(j+1)%n+1,
		)
	}
	if polygonArea(h.Profile) < 1 {
		return fitted(h.ID, "its profile has no area; pull its points apart")
	}
	if !(h.Width > 0) {
		return fitted(h.ID, "it has no width; give it one")
	}
	for i, p := range h.Profile {
		if h.half(p[0], p[1]) <= 0 {
			return fitted(h.ID, "its sides meet before point %d; make it wider or its sides steeper", i+1)
		}
	}
	return nil
}

// host finds what a turret stands on: its height there and the outline of its top.
func (b Body) host(id string, x float64) (z float64, ok bool) {
	if b.Shell != nil && id == "hull" {
		z = math.Inf(-1)
		for _, p := range b.Shell.Points {
			z = max(z, p[2])
		}
		return z, true
	}
	for _, h := range b.Hulls {
		if h.ID == id {
			return h.top(x)
		}
	}
	for i, t := range b.Turrets {
		if t.ID == id {
			z, ok := b.below(i).host(t.On, t.X)
			return z + t.Height, ok
		}
	}
	return 0, false
}

// below is the body without a turret and those that come after it: what it may stand on.
func (b Body) below(turret int) Body {
	b.Turrets = b.Turrets[:turret]
	return b
}

func (t Turret) check(b Body) error {
	if len(t.Plan) < 2 || len(t.Plan) > mostPoints {
		return fitted(t.ID, "its plan has %d points; the left half needs 2 to %d", len(t.Plan), mostPoints)
	}
	for i, p := range t.Plan {
		if p[1] < 0 {
			return fitted(
				t.ID,
				"point %d of its plan lies on the right (y %.0f mm); draw the left half only, y from 0 up",
				i+1,
				p[1],
			)
		}
	}
	plan := t.outline()
	if _, _, ok := crossing(plan); !ok || polygonArea(plan) < 1 {
		return fitted(t.ID, "its plan crosses itself or has no area; order the points from front to rear")
	}
	if !(t.Height > 0 && t.Ring > 0) {
		return fitted(t.ID, "it needs a height and a ring above zero; give both")
	}
	if !t.Round {
		roof := t.roof(plan)
		for i := range roof {
			j := (i + 1) % len(roof)
			dx, dy := plan[j][0]-plan[i][0], plan[j][1]-plan[i][1]
			if dx*(roof[j][0]-roof[i][0])+dy*(roof[j][1]-roof[i][1]) <= 0 {
				return fitted(t.ID, "its slopes cross before the roof; make them steeper or the plan larger")
			}
		}
	}
	base, ok := b.host(t.On, t.X)
	if !ok {
		return fitted(t.ID, "it stands on %q, which is not below it; name a hull or an earlier turret", t.On)
	}
	return t.fitsOn(b, base)
}

// fitsOn tells whether the ring lies wholly on the deck that it stands on.
func (t Turret) fitsOn(b Body, base float64) error {
	const ways = 24
	for i := range ways {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / ways)
		x, y := t.X+t.Ring*cos, t.Y+t.Ring*sin
		side := "side"
		if math.Abs(cos) > math.Abs(sin) {
			side = map[bool]string{true: "front", false: "rear"}[cos > 0]
		}
		for _, h := range b.Hulls {
			if h.ID != t.On {
				continue
			}
			if z, on := h.top(x); !on || math.Abs(z-base) > 0.04*t.Ring || math.Abs(y) > h.half(x, z) {
				return fitted(
					t.ID,
					"its ring reaches beyond the deck of %s at the %s; move it, make its ring (radius %.0f mm) "+
						"smaller, or the deck longer",
					t.On,
					side,
					t.Ring,
				)
			}
		}
		for k, o := range b.Turrets {
			if o.ID != t.On {
				continue
			}
			under, _ := b.below(k).host(o.On, o.X)
			levels := o.levels(under)
			roof := make([][2]float64, 0, len(levels[0]))
			for _, v := range levels[len(levels)-1] {
				roof = append(roof, [2]float64{v[0], v[1]})
			}
			if !within(roof, [2]float64{x, y}) {
				return fitted(
					t.ID,
					"its ring reaches beyond the roof of %s at the %s; move it or make its ring (radius %.0f mm) smaller",
					t.On,
					side,
					t.Ring,
				)
			}
		}
	}
	return nil
}

func (g Gun) check() error {
	if len(g.Barrel) < 2 || len(g.Barrel) > mostPoints {
		return fitted(g.ID, "a barrel needs 2 to %d stations of distance and radius; add some", mostPoints)
	}
	for i, s := range g.Barrel {
		if !(s[1] > 0) || i > 0 && s[0] < g.Barrel[i-1][0] {
			return fitted(g.ID, "station %d: distances rise and radii lie above zero; put it right", i+1)
		}
	}
	if math.Abs(g.Elevation) > 90 {
		return fitted(g.ID, "an elevation of %.0f° lies beyond upright; give -90 to 90", g.Elevation)
	}
	return nil
}

// sections is into how many a fender or skirt is divided; 0 when there is none.
func (b Body) sections(part string) int {
	for _, f := range b.Fenders {
		if f.ID == part {
			return len(f.Line) - 1
		}
	}
	for _, s := range b.Skirts {
		if s.ID == part {
			return s.Sections
		}
	}
	return 0
}

func (d Damage) check(b Body) error {
	n := b.sections(d.Part)
	switch {
	case n == 0:
		return fmt.Errorf("%q is no fender or skirt; name one", d.Part)
	case d.Section < 1 || d.Section > n:
		return fmt.Errorf("%s has no section %d; give 1 to %d", d.Part, d.Section, n)
	case !slices.Contains([]string{"left", "right"}, d.Side):
		return fmt.Errorf("%q is no side; use left or right", d.Side)
	case d.Kind != Missing && d.Kind != Bent && d.Kind != Replaced:
		return fmt.Errorf("%q is no damage; use missing, bent or replaced", d.Kind)
	case !(math.Abs(d.By) <= 2000):
		return fmt.Errorf("bent by %.0f mm; give up to 2000", d.By)
	}
	return nil
}
