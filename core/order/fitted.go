package order

import (
	"cinderpath/core/bench"
	"cinderpath/core/form"
	"cinderpath/core/kit"
	"cinderpath/core/path"
	"cinderpath/core/rule"
	"cinderpath/core/zone"
	"fmt"
	"slices"
)

// damage enters what was planned to be missing or bent: made in plastic before primer, so that what it
// bares gets paint and dirt with the rest.
func (s *shop) damage() {
	list := slices.DeleteFunc(slices.Clone(s.b.Body.Damage), func(d form.Damage) bool { return d.Kind == form.Replaced })
	if len(list) == 0 || s.primed() && !s.under("damage:body:1") {
		return
	}
	var words []string
	bent := false
	for _, d := range list {
		words = append(words, fmt.Sprintf("%s %s, section %d %s", d.Side, zone.Words(d.Part), d.Section, d.Kind))
		bent = bent || d.Kind == form.Bent
	}
	after := []path.Arrow{s.washed}
	for _, part := range s.b.Body.Parts() {
		if _, ok := s.index["sand:"+part+":1"]; ok {
			after = append(after, then("sand:"+part+":1", "it is cut and bent once nothing is sanded beside it any more"))
		}
	}
	id := s.add(step{kind: "damage", subject: "body", title: listed(words), units: float64(len(list))}, after...)
	s.why[id] = append(s.why[id], words...)
	if bent {
		s.hazards[id] = append(s.hazards[id], "heat")
	}
	s.built = append(s.built, then(id, "damage is made before paint: what it bares is painted and worn with the rest"))
}

// arms enters the suspension arms, each looked at against the drawing as it is glued (B8).
func (s *shop) arms() (after []path.Arrow) {
	n := 0
	for _, w := range s.b.Wheels {
		if w.Arm != nil {
			n += 2
		}
	}
	if n == 0 || s.under("assemble:wheels:1") && !s.under("arms:gear:1", "handed:arms:1") {
		return nil
	}
	check := s.add(step{kind: "handed", subject: "arms", title: "Check the arms against the drawing", units: float64(n)})
	on := s.washed
	if len(s.b.Body.Hulls) > 0 {
		on = waits(then("assemble:"+s.b.Body.Hulls[0].ID+":1", "arms go on a hull that is square"), rule.Handle, cementTouch)
	}
	glue := s.add(
		step{kind: "arms", subject: "gear", title: fmt.Sprintf("%d arms", n), units: float64(n)},
		on,
		atOnce(stop(check, "B8", "left and right arms are looked at as they are glued, not after")),
	)
	for _, id := range []string{check, glue} {
		s.task(id).Stage, s.task(id).Zones = bench.Build, []string{"gear"}
	}
	if len(s.b.Ground) > 0 {
		s.why[glue] = append(s.why[glue], "along the arm template: the ground under the track is uneven")
	}
	held := waits(then(glue, "arms hold before wheels go on them"), rule.Handle, cementTouch)
	s.built = append(s.built, held)
	return []path.Arrow{held}
}

// covers enters the masking of faces that are pressed together later: paint would make them tight (B14).
func (s *shop) covers() {
	for _, p := range s.b.Kit.Used() {
		if p.Joint != kit.Press || !s.off[p.ID] || s.primed() && !s.under("cover:"+p.ID+":1") {
			continue
		}
		id := s.add(
			step{kind: "cover", subject: p.ID, title: p.Name, units: float64(p.Number())},
			append(s.awaited(p), s.washed)...)
		s.built = append(s.built, warn(id, "B14", p.Name+" is pressed on later: paint on its faces makes it tight"))
	}
}
