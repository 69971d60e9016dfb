package order

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"cinderpath/core/kit"
	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/rule"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// seenInside is how much of an outer surface its inside has, a starting value: walls have their
// thickness, and what stands in it adds little that a brush reaches.
const seenInside = 0.7

// insideKinds are the steps of what is done to an inside, with the family whose times its coat has.
var insideKinds = map[string]struct{ kind, family string }{
	"prime":   {"insideprime", "primer_acrylic"},
	"paint":   {"insidepaint", "waterborne_acrylic"},
	"details": {"insidedetails", "waterborne_acrylic"},
	"chips":   {"insidechips", "waterborne_acrylic"},
	"wash":    {"insidewash", "enamel_effect"},
}

// insides enters what is done to an inside while it is open: built in, primed, painted, detailed, worn
// and washed, or darkened where it is only glimpsed.
func (s *shop) insides() {
	inner := map[string][]kit.Part{}
	for _, p := range s.b.Kit.Used() {
		if p.Before != "" {
			inner[p.Before] = append(inner[p.Before], p)
		}
	}
	parts := slices.Sorted(maps.Keys(inner))
	for _, in := range s.b.Kit.Insides {
		if in.State != kit.Shut && !slices.Contains(parts, in.Part) {
			parts = append(parts, in.Part)
		}
	}
	for _, part := range parts {
		last := s.builtIn(part, inner[part])
		in := s.b.Kit.InsideOf(part)
		switch in.State {
		case kit.Detailed:
			last = s.detailed(in, last)
		case kit.Glimpsed:
			id := s.add(step{kind: "insidedark", subject: part, title: part, units: seenInside * s.areaOf(part)}, last)
			f, _ := paint.FamilyOf("waterborne_acrylic")
			last = waits(stop(id, "B1", "what is glimpsed is darkened before it is closed"), rule.Touch, f.Touch)
			last.Water = true
		}
		if last.From != "" {
			s.within[part] = append(s.within[part], last)
		}
	}
}

// builtIn enters what goes in before a part is closed; what comes next waits by the arrow.
func (s *shop) builtIn(part string, list []kit.Part) path.Arrow {
	if len(list) == 0 {
		return s.washed
	}
	var names, ids []string
	n := 0
	arrows := []path.Arrow{s.washed}
	for _, p := range list {
		names, ids = append(names, p.Name), append(ids, p.ID)
		n += p.Number()
		arrows = append(arrows, s.awaited(p)...)
		arrows = append(arrows, s.ready[p.Material]...)
	}
	id := s.add(step{kind: "inside", subject: part, title: listed(names), units: float64(n)}, arrows...)
	s.glued(id, list, false)
	s.corrected(id, ids...)
	return waits(
		stop(id, "B1", listed(names)+" can only go in before the "+part+" is closed"),
		rule.Handle,
		cementTouch,
	)
}

// detailed enters the coats of an inside, each when the one before it bears it.
func (s *shop) detailed(in kit.Inside, last path.Arrow) path.Arrow {
	area := seenInside * s.areaOf(in.Part)
	for _, work := range in.Does() {
		k := insideKinds[work]
		units := area
		if work == "details" {
			units = 6 // seats, levers, ammunition: a starting value
		}
		id := s.add(step{kind: k.kind, subject: in.Part, title: in.Part, units: units}, last)
		s.why[id] = append(
			s.why[id],
			fmt.Sprintf("inside of the %s: %.0f %% of its outside, %.0f cm²", in.Part, 100*seenInside, area),
		)
		f, _ := paint.FamilyOf(k.family)
		need, wait := rule.NextCoat, f.NextCoat
		if work == in.Does()[len(in.Does())-1] {
			need, wait = rule.Handle, f.Handle
		}
		last = waits(stop(id, "B1", "the inside is painted and aged before it is closed"), need, wait)
		last.Water = f.Carrier == "water"
	}
	return last
}

func (s *shop) areaOf(part string) (sum float64) {
	for z, area := range s.l.Area {
		if zone.Part(z) == part {
			sum += area
		}
	}
	return sum
}

// filling enters the filling of openings of a sub-assembly, layer by layer; what is deep gets a plate
// from within, or its layers with a look at how far they shrank (B6).
func (s *shop) filling(part string, jobs []kit.Job) path.Arrow {
	var names, plated, ids []string
	layers, deep := 1, 0.0
	for _, j := range jobs {
		names, ids = append(names, j.Name), append(ids, j.ID)
		layers, deep = max(layers, j.FillLayers()), max(deep, j.MM)
		if j.Filled == kit.OverPlate {
			plated = append(plated, j.Name)
		}
	}
	after := []path.Arrow{s.washed}
	if len(plated) > 0 {
		plate := s.add(step{kind: "backplate", subject: part, title: listed(plated), units: float64(len(plated))}, s.washed)
		s.corrected(plate, ids...)
		s.within[part] = append(
			s.within[part],
			warn(plate, "B2", "a plate goes in from within, before the "+part+" is closed"),
		)
		after = []path.Arrow{waits(then(plate, "the plate holds what is filled"), rule.Handle, cementTouch)}
	}
	var last path.Arrow
	for k := range layers {
		title := listed(names)
		n := 0
		for _, j := range jobs {
			if j.FillLayers() > k {
				n++
			}
		}
		if layers > 1 {
			title = fmt.Sprintf("%s, layer %d of %d", title, k+1, layers)
		}
		id := s.add(step{kind: "fillhole", subject: part, n: k + 1, title: title, units: float64(n)}, after...)
		s.corrected(id, ids...)
		last = waits(
			stop(id, "B2", "what this version does not use is filled before paint"),
			rule.NextCoat, puttyCoat)
		if layers > 1 {
			last.Rule, last.Severity = "B6", rule.Warn
			last.Reason = fmt.Sprintf("%.1f mm deep: %d layers, each with its own wait", deep, layers)
		}
		after = []path.Arrow{last}
	}
	if layers > 1 {
		id := s.add(step{kind: "shrunk", subject: part, title: listed(names), units: float64(len(jobs))}, last)
		last = stop(id, "B2", "what shrank is filled once more before paint")
	}
	return last
}

// bedded enters the thin coat that ties etched parts to what they are glued on: their edges do not show as
// glued on, and the joint is closed before colour creeps under it.
func (s *shop) bedded() {
	const id = "etchbed:etched:1"
	if s.primed() && !s.under(id) {
		return
	}
	n := 0
	var names []string
	for _, p := range s.b.Kit.Used() {
		if p.Material == kit.Etched && p.Joint != kit.Removable && !s.off[p.ID] {
			n += p.Number()
			names = append(names, p.Name)
		}
	}
	if n == 0 || len(s.b.Layers) == 0 {
		return
	}
	bed := s.add(step{kind: "etchbed", subject: kit.Etched, title: listed(names), units: float64(n)}, s.built...)
	f, _ := paint.FamilyOf("primer_acrylic")
	s.built = append(s.built, waits(then(bed, "the thin coat over the joints is dry before anything is sprayed"),
		rule.NextCoat, f.NextCoat))
}

// grips enters what makes paint hold on metal, resin and soft bands (B9), where the primer does not.
func (s *shop) grips() {
	var names []string
	n := 0
	for _, p := range s.b.Kit.Used() {
		if p.Kind != "tracks" && slices.Contains([]string{kit.Metal, kit.Etched, kit.Resin, kit.Wire}, p.Material) {
			names = append(names, p.Name)
			n += p.Number()
		}
	}
	for _, l := range s.b.Layers {
		if slices.Contains([]string{"primer_lacquer", "spray_can_primer"}, l.Family) {
			return // that grips by itself
		}
	}
	if n == 0 || len(s.b.Layers) == 0 || s.primed() && !s.under("grip:metal:1") {
		return
	}
	id := s.add(step{kind: "grip", subject: "metal", title: listed(names), units: float64(n)}, s.built...)
	f, _ := paint.FamilyOf("primer_lacquer")
	s.built = append(s.built, waits(
		warn(
			id,
			"B9",
			"paint peels off bare metal and resin: a thin coat that grips comes first",
		),
		rule.NextCoat,
		f.NextCoat,
	))
}

// under tells whether one of some steps was begun: what was begun stays in the plan.
func (o *orderer) under(ids ...string) bool {
	return slices.ContainsFunc(ids, func(id string) bool { d := o.done[id]; return !d.Started.IsZero() && !d.Skipped })
}

// primed tells that what comes after building was begun: nothing new is asked before it any more.
func (o *orderer) primed() bool {
	for id, d := range o.done {
		if (strings.HasPrefix(id, "degrease:") || strings.HasPrefix(id, "prime:")) && !d.Started.IsZero() && !d.Skipped {
			return true
		}
	}
	return false
}

// bands enters one-piece bands: joined and clamped, cleaned and primed with what stays on them.
func (s *shop) bands() {
	join := s.add(step{kind: "bandjoin", subject: "tracks", units: 2}, s.washed)
	s.minutes(join, 2*unit.Minutes(4)+2*bandClamp, "two bands", "clamped 10 min each")
	grip := s.add(
		step{kind: "bandprime", subject: "tracks", units: 2},
		waits(warn(join, "B9", "bands are joined before they are cleaned and primed"), rule.Handle, bandClamp),
	)
	f, _ := paint.FamilyOf("primer_lacquer")
	s.built = append(s.built, waits(
		warn(grip, "B9", "soft bands shed paint that is not tied to them"), rule.NextCoat, f.NextCoat))
	for _, id := range []string{join, grip} {
		s.task(id).Zones = []string{"gear"}
	}
}

// bandClamp is how long the joint of a band is clamped.
const bandClamp = unit.Minutes(10)

// gluedDown enters the gluing of bands to what they would lie on, once they are on.
func (o *orderer) gluedDown() {
	id := o.add(step{kind: "gluedown", subject: "tracks", units: 2}, then(gearOn, "the bands are on"))
	o.task(id).Zones = []string{"gear"}
	o.why[id] = append(o.why[id], "a band does not hang by its weight: it is glued where a track of links would lie")
}
