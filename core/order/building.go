package order

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/kit"
	"cinderpath/core/path"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// building enters everything up to the primer. It gives what the primer waits for, and
// by part the step with which an ordered one is at hand.
func (o *orderer) building() (built []path.Arrow, received map[string]string) {
	b := o.b
	advice := Advice(b, o.l.Zones)
	off := map[string]bool{}
	for _, a := range advice {
		off[a.Part] = a.Off
	}
	received = map[string]string{}
	for _, p := range b.Kit.Used() {
		if p.Ordered == nil || p.Ordered.Passed() {
			continue
		}
		id := o.add("receive", p.ID, 1, p.Name, 1, 1)
		if p.Ordered.Arrived == "" {
			if day, err := time.ParseInLocation(time.DateOnly, p.Ordered.Expected, o.zone); err == nil {
				o.task(id).NotFrom = day
			}
		}
		received[p.ID] = id
	}
	clean := o.add("clean", "parts", 1, "", 1, 1)
	washed := before(clean, 0, "order", "", "", "release agent is washed off before cement goes on")

	// What each material needs before it is built in.
	ready := map[string][]path.Arrow{}
	for _, m := range []struct{ kind, material, rule, severity, reason string }{
		{"free", kit.Resin, "B12", "stop", "resin is freed from its block and washed before primer"},
		{"cureprint", kit.Printed, "B12", "stop", "a fresh print is washed and cured before primer"},
		{"bend", kit.Etched, "", "", "etched metal is shaped before it is fitted: paint cracks when it is bent"},
	} {
		count := 0
		var names []string
		arrows := []path.Arrow{washed}
		for _, p := range b.Kit.Used() {
			if p.Material == m.material {
				count += p.Number()
				names = append(names, p.Name)
				if r, ok := received[p.ID]; ok {
					arrows = append(arrows, before(r, 0, "order", "", "", p.Name+" has to come first"))
				}
			}
		}
		if count > 0 {
			id := o.add(m.kind, m.material, 1, listed(names), float64(count), 1, arrows...)
			ready[m.material] = []path.Arrow{before(id, 0, "order", m.rule, m.severity, m.reason)}
			built = append(built, before(id, 0, "order", m.rule, m.severity, m.reason))
		}
	}

	// Holes and marks, by sub-assembly.
	within := map[string][]path.Arrow{} // before it is closed
	jobs := map[[2]string][]kit.Job{}
	for _, j := range b.Kit.Jobs() {
		key := [2]string{j.Do, j.Assembly}
		jobs[key] = append(jobs[key], j)
	}
	for _, key := range slices.SortedFunc(maps.Keys(jobs), func(a, c [2]string) int { return strings.Compare(a[0]+a[1], c[0]+c[1]) }) {
		list := jobs[key]
		kind := map[string]string{kit.Drill: "drill", kit.Fill: "fillhole", kit.Shave: "shave"}[key[0]]
		var names []string
		deep, inside := 0.0, false
		for _, j := range list {
			names = append(names, j.Name)
			if key[0] == kit.Fill {
				deep = math.Max(deep, j.MM)
			}
			inside = inside || j.Inside
		}
		id := o.add(kind, key[1], 1, listed(names), float64(len(list)), 1, washed)
		reason := "what this version does not use is filled or shaved before paint"
		if key[0] == kit.Drill {
			reason = "holes of this version are drilled before paint"
		}
		a := stop(id, "B2", reason)
		if layers := math.Ceil(deep / deepest); key[0] == kit.Fill {
			a = before(id, puttyCoat*math.Max(layers, 1), "next coat", "B2", "stop", reason)
			if layers > 1 {
				a.Rule, a.Reason = "B6", fmt.Sprintf("%.1f mm deep: %.0f layers, each with its own wait", deep, layers)
			}
		}
		built = append(built, a)
		if inside || key[0] == kit.Drill {
			within[key[1]] = append(within[key[1]], warn(id, "B2", "it is easier from within, before the "+zone.Words(key[1])+" is closed"))
		}
	}

	// What can only go in before the halves are joined.
	inner := map[string][]kit.Part{}
	for _, p := range b.Kit.Used() {
		if p.Before != "" {
			inner[p.Before] = append(inner[p.Before], p)
		}
	}
	for _, part := range slices.Sorted(maps.Keys(inner)) {
		var names []string
		n := 0
		arrows := []path.Arrow{washed}
		for _, p := range inner[part] {
			names = append(names, p.Name)
			n += p.Number()
			if r, ok := received[p.ID]; ok {
				arrows = append(arrows, before(r, 0, "order", "", "", p.Name+" has to come first"))
			}
			arrows = append(arrows, ready[p.Material]...)
		}
		id := o.add("inside", part, 1, listed(names), float64(n), 1, arrows...)
		within[part] = append(within[part], before(id, cementTouch, "handle", "B1", "stop", listed(names)+" can only go in before the "+zone.Words(part)+" is closed"))
	}

	faces := map[string]int{}
	area := map[string]float64{}
	for _, z := range o.l.Zones {
		faces[zone.Part(z)]++
		area[zone.Part(z)] += o.l.Area[z]
	}
	closed := map[string]string{}
	for _, part := range b.Body.Parts() {
		id := o.add("assemble", part, 1, "the "+zone.Words(part), float64(max(faces[part], 1)), 1, append([]path.Arrow{washed}, within[part]...)...)
		o.task(id).Zones = []string{part}
		closed[part] = id
		seam := 4 * math.Sqrt(math.Max(area[part], 1))
		fill := o.add("fill", part, 1, zone.Words(part), seam, 1, before(id, cementTouch, "handle", "", "", "cement holds before filler goes into the seam"))
		sand := o.add("sand", part, 1, zone.Words(part), seam, 1, before(id, cementCured, "cured", "B7", "warn", "a cemented seam is sanded only after 24 h"),
			before(fill, puttyCoat, "next coat", "B6", "warn", "filler shrinks until it is dry"))
		for _, x := range []string{fill, sand} {
			o.task(x).Zones = []string{part}
		}
		o.why[fill] = append(o.why[fill], fmt.Sprintf("seam = 4 · √area, area %.0f cm²", area[part]))
		built = append(built, before(sand, 0, "order", "", "", "seams are sanded before primer"))
	}

	// Parts that stay on, plastic before metal.
	group := map[string]map[bool][]kit.Part{}
	for _, p := range b.Kit.Used() {
		if off[p.ID] || p.Before != "" || p.Kind == "wheels" || p.Kind == "tracks" {
			continue
		}
		if group[p.Assembly] == nil {
			group[p.Assembly] = map[bool][]kit.Part{}
		}
		metal := p.Material == kit.Etched || p.Material == kit.Metal || p.Material == kit.Wire
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
			if at, ok := o.index["sand:"+part+":1"]; ok {
				arrows = append(arrows, before(o.tasks[at].ID, 0, "order", "", "", "seams are sanded while nothing stands in the way"))
			} else {
				arrows = append(arrows, washed)
			}
			n, kind, longest := 0, "parts", 0.0
			var names []string
			for _, p := range list {
				n += p.Number()
				names = append(names, p.Name)
				if r, ok := received[p.ID]; ok {
					arrows = append(arrows, before(r, 0, "order", "", "", p.Name+" has to come first"))
				}
				arrows = append(arrows, ready[p.Material]...)
				if f, ok := strata.FamilyOf(kit.GlueFor(p, kit.Plastic, false).Family); ok {
					longest = math.Max(longest, f.Handle)
				}
			}
			if metal {
				kind = "etchfit"
				if first != "" {
					arrows = append(arrows, before(first, 0, "order", "", "", "plastic first, then resin, then metal"))
				}
			}
			id := o.add(kind, part, 1, zone.Words(part), float64(n), 1, arrows...)
			o.task(id).Zones = []string{part}
			o.why[id] = append(o.why[id], listed(names))
			first = id
			built = append(built, before(id, longest, "handle", "P3", "stop", "glue must hold before anything is sprayed"))
		}
	}

	wheels := o.add("assemble", "wheels", 1, fmt.Sprintf("%d wheels", 2*len(b.Wheels)), 0, 1, washed)
	o.minutes(wheels, 5*2*float64(len(b.Wheels)), fmt.Sprintf("%d wheels", 2*len(b.Wheels)), "5 min for each, a starting value")
	o.task(wheels).Zones = []string{"gear"}
	built = append(built, before(wheels, cementTouch, "handle", "P3", "stop", "cement must hold before the wheels are stuck on their paint rows"))
	if b.Outline.HasTrack() {
		links := 2 * o.l.Links
		tracks := o.add("assemble", "tracks", 1, fmt.Sprintf("the tracks, %d links a side", o.l.Links), 0, 1,
			before(wheels, cementTouch, "handle", "", "", "the run is shaped on the wheels"))
		o.minutes(tracks, math.Ceil(b.Link.Work()*float64(links)), fmt.Sprintf("%d links", links), fmt.Sprintf("%.2g min for each, as its make asks", b.Link.Work()))
		o.task(tracks).Zones = []string{"gear"}
		held := before(tracks, cementTouch, "handle", "P3", "stop", "cement must hold before the runs are taken off for paint")
		if b.School(document.SchoolTracks) == document.BuildThenPaint {
			id := o.add("takeoff", "tracks", 1, "", 0, 1, held)
			held = before(id, 0, "order", "", "", "track and wheels are painted apart")
		}
		built = append(built, held)
	}
	apart := 2 * len(b.Wheels)
	for _, p := range b.Kit.Used() {
		if off[p.ID] {
			apart += p.Number()
		}
	}
	if b.School(document.SchoolPieces) != kit.BuiltUp && apart > 2*len(b.Wheels) {
		id := o.add("sticks", "apart", 1, fmt.Sprintf("%d pieces", apart), float64(apart), 1, before(wheels, cementTouch, "handle", "", "", "cement must hold"))
		built = append(built, before(id, 0, "order", "B14", "warn", "mating faces are covered before paint"))
	}
	return built, received
}
