package order

import (
	"fmt"
	"math"
	"strings"

	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/rule"
	"cinderpath/core/unit"
)

// groundwork is the family of products that ground is laid from.
const groundwork = "texture_acrylic"

// nut enters what a screw of the base asks of the hull while it is open: the part of the body that
// the vehicle stands by gets it before its halves are closed.
func (s *shop) nut() {
	ground := s.l.Ground
	if ground == nil || len(ground.Screws) == 0 {
		return
	}
	hull := s.b.Body.Parts()[0]
	if len(s.b.Body.Hulls) > 0 {
		hull = s.b.Body.Hulls[0].ID
	}
	if s.closed(hull) {
		return // too late: it is glued
	}
	var places []string
	for _, at := range ground.Screws {
		places = append(places, fmt.Sprintf("%.1f mm", at.Along))
	}
	id := s.add(step{kind: "nut", subject: hull, units: float64(len(ground.Screws))}, s.washed)
	s.task(id).Zones = []string{hull}
	s.why[id] = append(
		s.why[id],
		"from the middle of the running gear forward: "+strings.Join(places, " and "),
		"about the middle of the vehicle's weight, three diameters from the ends of its underside",
	)
	s.within[hull] = append(s.within[hull], waits(
		stop(id, "B1", "once the hull is closed no nut goes in any more"), rule.Handle, bondTouch))
}

// closed tells that a part of the body was put together already, and no nut went in before.
func (o *orderer) closed(part string) bool {
	return o.under("assemble:"+part+":1") && !o.under("nut:"+part+":1")
}

// ground enters the base and the vehicle's standing on it, once it is whole; it gives what the record
// waits for.
func (o *orderer) ground(closed []path.Arrow) []path.Arrow {
	g := o.l.Ground
	if g == nil && o.l.Beside != "" {
		return o.beside(closed)
	}
	if g == nil {
		return closed
	}
	want := o.b.StandsOn()
	board := o.add(step{kind: "board", subject: "own", units: 2 * (g.Long + g.Wide) / 10})
	o.why[board] = append(o.why[board], fmt.Sprintf("%.0f × %.0f mm, %g mm thick", g.Long, g.Wide, want.Board))
	for _, s := range g.Screws {
		o.why[board] = append(o.why[board], fmt.Sprintf(
			"drill %g mm, %.1f mm along and %.1f mm across from its middle; a screw of at least %.0f mm",
			want.Screw, s.At[0], s.At[1], math.Ceil(s.Least)))
	}
	last := waits(then(board, "the board is sealed, or it warps under wet ground"), rule.Touch, 60)
	last = o.layGround(last)
	painted := o.groundColour(last)
	edges := o.add(step{kind: "edges", subject: "own", units: 2 * (g.Long + g.Wide) / 10}, painted)
	mount := o.add(
		step{kind: "mount", subject: "own", units: float64(max(len(g.Screws), 1))},
		append(
			append([]path.Arrow{}, closed...),
			painted,
			waits(then(edges, "its edges are held while the vehicle is fixed"), rule.Handle, 720))...,
	)
	switch {
	case len(g.Screws) == 0:
		o.why[mount] = append(o.why[mount], "glued with epoxy: no screw was asked for, or none has room")
	case len(o.b.Body.Hulls) > 0 && o.closed(o.b.Body.Hulls[0].ID):
		o.why[mount] = append(
			o.why[mount],
			"the hull is closed and no nut is in it: glued with epoxy, or the screw cuts its own thread",
		)
	}
	bed := o.bed(mount, len(g.Prints))
	done := []path.Arrow{waits(then(bed, "the ground under the tracks has set"), rule.Touch, 120)}
	if want.Figures > 0 {
		figures := o.add(
			step{kind: "figures", subject: "own", title: many(want.Figures, "figure"), units: float64(want.Figures)},
		)
		set := o.add(
			step{kind: "setfigures", subject: "own", units: float64(want.Figures)},
			then(bed, "the ground is finished"),
			waits(then(figures, "they are held to set them"), rule.Handle, 720),
		)
		done = append(done, waits(then(set, "they stand fast"), rule.Touch, 20))
	}
	return done
}

// beside enters a vehicle's standing on the base of another build, whose steps lay the ground.
func (o *orderer) beside(closed []path.Arrow) []path.Arrow {
	mount := o.add(
		step{kind: "mount", subject: "beside", title: "Fix the vehicle on the base of " + o.l.Beside, units: 1},
		closed...)
	o.why[mount] = append(o.why[mount],
		"its prints are pressed in while the ground of "+o.l.Beside+" is soft",
		"glued with epoxy, or a screw of its own")
	bed := o.bed(mount, 2)
	return []path.Arrow{waits(then(bed, "the ground under the tracks has set"), rule.Touch, 120)}
}

// bed enters the filling of what gapes under tracks or wheels.
func (o *orderer) bed(mount string, prints int) string {
	return o.add(
		step{kind: "bed", subject: "own", units: float64(max(prints, 2))},
		waits(then(mount, "what gapes is seen once it stands"), rule.Handle, bondTouch),
	)
}

// layGround enters the layers of the ground, with what is pressed into and strewn on the last of them
// while it is soft.
func (o *orderer) layGround(last path.Arrow) path.Arrow {
	g, want := o.l.Ground, o.b.StandsOn()
	f, _ := paint.FamilyOf(groundwork)
	deep := 0.0
	if g.Layers > 0 {
		deep = g.Highest / float64(g.Layers)
	}
	slow := max(1, min(deep, 2)*min(deep, 2)) // beyond 1 mm it dries by the square of its depth
	id := ""
	for k := range g.Layers {
		title := ""
		if g.Layers > 1 {
			title = fmt.Sprintf(", layer %d of %d", k+1, g.Layers)
		}
		id = o.add(step{kind: "base", subject: "own", n: k + 1, title: title, units: g.AreaCM}, last)
		o.takes[id] = []Taking{{
			Family: groundwork,
			ML:     g.MixML / float64(g.Layers),
			From:   append([]string{fmt.Sprintf("%.0f ml in %d layers", g.MixML, g.Layers)}, g.Why.Inputs...),
		}}
		o.why[id] = append(o.why[id], fmt.Sprintf("%.1f mm deep, at its deepest %.1f mm in %d", deep, g.Highest, g.Layers))
		last = damp(waits(
			warn(id, "B6", fmt.Sprintf("%.1f mm of ground dry from above: the next layer waits", deep)),
			rule.NextCoat, (f.NextCoat * unit.Minutes(slow)).Whole()))
	}
	if id == "" {
		return last
	}
	soft := id
	press := func(kind, title string, units float64) {
		soft = o.add(
			step{kind: kind, subject: "own", title: title, units: units},
			atOnce(then(soft, "while the ground is soft")),
		)
	}
	if g.Imprint > 0 {
		press("imprint", fmt.Sprintf("%.1f mm", g.Imprint), float64(max(len(g.Prints), 1)))
		o.why[soft] = append(o.why[soft], fmt.Sprintf("%g mm in life on this ground", want.Sink),
			fmt.Sprintf("prints of %.1f cm² in all", g.PrintCM))
	}
	if len(want.Strewn) > 0 {
		var kinds []string
		for _, s := range want.Strewn {
			kinds = append(kinds, s.Kind)
		}
		press("strew", listed(kinds), g.AreaCM)
		o.why[soft] = append(o.why[soft], g.Grains...)
	}
	return damp(
		waits(
			then(soft, "the ground is hard through before it is painted"),
			rule.Cured,
			(f.Cured * unit.Minutes(slow)).Whole(),
		),
	)
}

// groundColour enters the earth's colour, from what the vehicle's own earth is made of.
func (o *orderer) groundColour(last path.Arrow) path.Arrow {
	want := o.b.StandsOn()
	id := o.add(step{kind: "baseearth", subject: "own", units: o.l.Ground.AreaCM}, last)
	arrow := waits(then(id, "the ground is dry"), rule.Handle, 720)
	l, ok := o.b.EarthLayer()
	if !ok && want.Jar == "" {
		return arrow
	}
	take := Taking{Family: "acrylic_wash", Name: "the ground", Jar: want.Jar}
	if ok {
		take.Family = l.Family
		if take.Jar == "" {
			take.Jar = l.Jar
		}
		o.why[id] = append(o.why[id], "from what "+l.Name+" is laid from: one earth on vehicle and ground (F3)")
		arrow = ruled(id, "F3", rule.Hint, "groundwork of the same earth as on the vehicle, dry")
		arrow = dries(arrow, rule.Handle, l)
	}
	take.ML = 0.01 * o.l.Ground.AreaCM
	take.From = []string{fmt.Sprintf("%.0f cm², 0.01 ml for each, a starting value", o.l.Ground.AreaCM)}
	o.takes[id] = []Taking{take}
	return arrow
}

func many(n int, one string) string {
	if n == 1 {
		return "one " + one
	}
	return fmt.Sprintf("%d %ss", n, one)
}
