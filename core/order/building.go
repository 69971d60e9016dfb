package order

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/gear"
	"cinderpath/core/kit"
	"cinderpath/core/path"
	"cinderpath/core/rule"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// shop is what stands on the bench while a kit is built up.
type shop struct {
	*orderer
	off      map[string]bool         // parts that stay off for paint
	received map[string]string       // by ordered part: the step with which it is at hand
	washed   path.Arrow              // what every joint waits for
	ready    map[string][]path.Arrow // by material: what is done to it before it is built in
	within   map[string][]path.Arrow // by part of the body: what goes in before it is closed
	wheels   string                  // the step that builds them
	built    []path.Arrow            // what the primer waits for
}

// building enters everything up to the primer. It gives what the primer waits for, and
// by part the step with which an ordered one is at hand.
func (o *orderer) building() (built []path.Arrow, received map[string]string) {
	s := &shop{
		orderer:  o,
		off:      map[string]bool{},
		received: map[string]string{},
		ready:    map[string][]path.Arrow{},
		within:   map[string][]path.Arrow{},
	}
	for _, a := range Advice(o.b, o.l.Zones) {
		s.off[a.Part] = a.Off
	}
	s.receive()
	clean := o.add(step{kind: "clean", subject: "parts", units: 1})
	s.told[clean] = append(s.told[clean], s.b.Kit.Loose()...)
	s.washed = then(clean, "release agent is washed off before cement goes on")
	s.prepare()
	s.holes()
	s.insides()
	s.nut()
	s.halves()
	s.outside()
	s.damage()
	s.running()
	s.sticks()
	s.covers()
	s.dryFitted()
	s.bedded()
	s.grips()
	return s.built, s.received
}

// prepared is what a material needs before it is built in.
var prepared = []struct {
	kind, material, rule string
	severity             rule.Severity
	reason               string
}{
	{"free", kit.Resin, "B12", rule.Stop, "resin is freed from its block and washed before primer"},
	{"cureprint", kit.Printed, "B12", rule.Stop, "a fresh print is washed and cured before primer"},
	{"bend", kit.Etched, "", "", "etched metal is shaped before it is fitted: paint cracks when it is bent"},
}

// prepare enters what each material needs.
func (s *shop) prepare() {
	for _, m := range prepared {
		count := 0
		var names []string
		arrows := []path.Arrow{s.washed}
		for _, p := range s.b.Kit.Used() {
			if p.Material == m.material {
				count += p.Number()
				names = append(names, p.Name)
				arrows = append(arrows, s.awaited(p)...)
			}
		}
		if count > 0 {
			id := s.add(step{kind: m.kind, subject: m.material, title: listed(names), units: float64(count)}, arrows...)
			s.ready[m.material] = []path.Arrow{ruled(id, m.rule, m.severity, m.reason)}
			s.built = append(s.built, ruled(id, m.rule, m.severity, m.reason))
		}
	}
}

// holes enters holes and marks, by part of the body.
func (s *shop) holes() {
	jobs := map[[2]string][]kit.Job{}
	for _, j := range s.b.Kit.Jobs() {
		key := [2]string{j.Do, j.Assembly}
		jobs[key] = append(jobs[key], j)
	}
	inOrder := func(a, c [2]string) int { return strings.Compare(a[0]+a[1], c[0]+c[1]) }
	for _, key := range slices.SortedFunc(maps.Keys(jobs), inOrder) {
		list := jobs[key]
		inside := slices.ContainsFunc(list, func(j kit.Job) bool { return j.Inside })
		a := s.worked(key[0], key[1], list)
		s.built = append(s.built, a)
		if inside || key[0] == kit.Drill {
			s.within[key[1]] = append(
				s.within[key[1]],
				warn(a.From, "B2", "it is easier from within, before the "+zone.Words(key[1])+" is closed"),
			)
		}
	}
}

// worked enters one kind of work at the openings, holes and marks of a sub-assembly.
func (s *shop) worked(do, part string, list []kit.Job) path.Arrow {
	if do == kit.Fill {
		return s.filling(part, list)
	}
	var names, ids []string
	for _, j := range list {
		names, ids = append(names, j.Name), append(ids, j.ID)
	}
	kind, reason := "shave", "what this version does not use is filled or shaved before paint"
	if do == kit.Drill {
		kind, reason = "drill", "holes of this version are drilled before paint"
	}
	id := s.add(step{kind: kind, subject: part, title: listed(names), units: float64(len(list))}, s.washed)
	s.corrected(id, ids...)
	return stop(id, "B2", reason)
}

// halves closes the parts of the body, fills and sands their seams.
func (s *shop) halves() {
	faces := map[string]int{}
	area := map[string]float64{}
	for _, z := range s.l.Zones {
		faces[zone.Part(z)]++
		area[zone.Part(z)] += s.l.Area[z]
	}
	for _, part := range s.b.Body.Parts() {
		id := s.add(
			step{kind: "assemble", subject: part, title: "the " + zone.Words(part), units: float64(max(faces[part], 1))},
			append([]path.Arrow{s.washed}, s.within[part]...)...)
		s.task(id).Zones = []string{part}
		seam := 4 * math.Sqrt(math.Max(area[part], 1))
		fill := s.add(
			step{kind: "fill", subject: part, title: zone.Words(part), units: seam},
			waits(then(id, "cement holds before filler goes into the seam"), rule.Handle, cementTouch),
		)
		sand := s.add(
			step{kind: "sand", subject: part, title: zone.Words(part), units: seam},
			waits(warn(id, "B7", "a cemented seam is sanded only after 24 h"), rule.Cured, cementCured),
			waits(warn(fill, "B6", "filler shrinks until it is dry"), rule.NextCoat, puttyCoat),
		)
		for _, x := range []string{fill, sand} {
			s.task(x).Zones = []string{part}
		}
		s.why[fill] = append(s.why[fill], fmt.Sprintf("seam = 4 · √area, area %.0f cm²", area[part]))
		s.built = append(s.built, then(sand, "seams are sanded before primer"))
	}
}

// outside enters the parts that stay on, plastic before metal.
func (s *shop) outside() {
	group := map[string]map[bool][]kit.Part{}
	for _, p := range s.b.Kit.Used() {
		if s.off[p.ID] || p.Before != "" || p.Kind == "wheels" || p.Kind == "tracks" {
			continue
		}
		if group[p.Assembly] == nil {
			group[p.Assembly] = map[bool][]kit.Part{}
		}
		metal := kit.IsMetal(p.Material)
		group[p.Assembly][metal] = append(group[p.Assembly][metal], p)
	}
	for _, part := range slices.Sorted(maps.Keys(group)) {
		first := ""
		for _, metal := range []bool{false, true} {
			list := group[part][metal]
			if len(list) == 0 {
				continue
			}
			var arrows []path.Arrow
			if at, ok := s.index["sand:"+part+":1"]; ok {
				arrows = append(
					arrows,
					then(s.tasks[at].ID, "seams are sanded while nothing stands in the way"),
				)
			} else {
				arrows = append(arrows, s.washed)
			}
			n, kind, longest := 0, "parts", unit.Minutes(0)
			var names []string
			for _, p := range list {
				n += p.Number()
				names = append(names, p.Name)
				arrows = append(arrows, s.awaited(p)...)
				arrows = append(arrows, s.ready[p.Material]...)
				_, to := s.b.Kit.On(p)
				longest = max(longest, kit.GlueFor(p, to, false).Hold)
			}
			if metal {
				kind = "etchfit"
				if first != "" {
					arrows = append(arrows, then(first, "plastic first, then resin, then metal"))
				}
			}
			id := s.add(step{kind: kind, subject: part, title: zone.Words(part), units: float64(n)}, arrows...)
			if metal && !slices.ContainsFunc(list, func(p kit.Part) bool { return p.Material == kit.Etched }) {
				s.task(id).Title = "Fit metal and wire to the " + zone.Words(part)
			}
			s.task(id).Zones = []string{part}
			s.glued(id, list, false)
			s.corrected(id, idsOf(list)...)
			s.why[id] = append(s.why[id], listed(names))
			first = id
			s.built = append(s.built, waits(stop(id, "P3", "glue must hold before anything is sprayed"), rule.Handle, longest))
		}
	}
}

// running enters wheels and tracks.
func (s *shop) running() {
	after := append(s.arms(), s.washed)
	s.wheels = s.add(
		step{
			kind:    "assemble",
			subject: "wheels",
			title:   fmt.Sprintf("%d wheels", 2*len(s.b.Wheels)),
			units:   float64(2 * len(s.b.Wheels)),
		},
		after...,
	)
	s.minutes(
		s.wheels,
		unit.Minutes(5*2*len(s.b.Wheels)),
		fmt.Sprintf("%d wheels", 2*len(s.b.Wheels)),
		"5 min for each, a starting value",
	)
	s.task(s.wheels).Zones = []string{"gear"}
	s.built = append(
		s.built,
		waits(
			stop(s.wheels, "P3", "cement must hold before the wheels are stuck on their paint rows"),
			rule.Handle,
			cementTouch,
		),
	)
	switch {
	case s.b.Outline.HasTrack() && s.b.Link.Make == gear.Band:
		s.bands()
	case s.b.Outline.HasTrack():
		links := 2 * s.l.Links
		tracks := s.add(
			step{kind: "assemble", subject: "tracks", title: fmt.Sprintf("the tracks, %d links a side", s.l.Links)},
			waits(then(s.wheels, "the run is shaped on the wheels"), rule.Handle, cementTouch),
		)
		s.minutes(
			tracks,
			(s.b.Link.Work() * unit.Minutes(links)).Whole(),
			fmt.Sprintf("%d links", links),
			fmt.Sprintf("%.2g min for each, as its make asks", float64(s.b.Link.Work())),
		)
		s.supply(tracks, bench.KindOf("tracks"), float64(links))
		s.task(tracks).Zones = []string{"gear"}
		held := waits(
			stop(tracks, "P3", "cement must hold before the runs are taken off for paint"),
			rule.Handle,
			cementTouch,
		)
		if s.b.School(document.SchoolTracks) == document.PaintThenBuild && len(s.b.Layers) > 0 && !s.under(tracks) {
			s.links = tracks
			return // they are joined when they are painted
		}
		if s.b.School(document.SchoolTracks) == document.BuildThenPaint {
			id := s.add(step{kind: "takeoff", subject: "tracks"}, held)
			held = then(id, "track and wheels are painted apart")
		}
		s.built = append(s.built, held)
	}
}

// sticks puts on sticks what is painted apart.
func (s *shop) sticks() {
	apart := 2 * len(s.b.Wheels)
	for _, p := range s.b.Kit.Used() {
		if s.off[p.ID] {
			apart += p.Number()
		}
	}
	if s.b.School(document.SchoolPieces) != kit.BuiltUp && apart > 2*len(s.b.Wheels) {
		id := s.add(
			step{kind: "sticks", subject: "apart", title: fmt.Sprintf("%d pieces", apart), units: float64(apart)},
			waits(then(s.wheels, "cement must hold"), rule.Handle, cementTouch),
		)
		s.built = append(s.built, warn(id, "B14", "mating faces are covered before paint"))
	}
}
