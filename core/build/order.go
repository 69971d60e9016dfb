package build

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"time"

	"cinderpath/core/bench"
	"cinderpath/core/form"
	"cinderpath/core/kit"
	"cinderpath/core/path"
	"cinderpath/core/strata"
)

// stageFinish is the last stage; the others are the step library's.
const stageFinish = bench.Finish

var stageOf = map[strata.Kind]string{
	strata.Prime: bench.Paint, strata.ChippingCoat: bench.Paint, strata.Colour: bench.Paint, strata.ChippingWork: bench.Wear,
	strata.Decals: bench.Marks, strata.Filter: bench.Wear, strata.Wash: bench.Wear, strata.Chips: bench.Wear,
	strata.Streaks: bench.Wear, strata.Dots: bench.Wear, strata.Rust: bench.Wear, strata.Dust: bench.Earth, strata.Mud: bench.Earth, strata.Splash: bench.Earth,
	strata.Wet: bench.Earth, strata.Grease: bench.Earth, strata.Soot: bench.Earth, strata.Pigment: bench.Earth, strata.Fix: bench.Earth, strata.Metal: stageFinish,
}

// Waits of the joints while building, minutes at 20 °C and 50 % humidity, families.csv.
const (
	cementTouch = 30.0
	cementCured = 1440.0
	puttyCoat   = 240.0  // each layer of 1 mm
	bondCured   = 1440.0 // groundwork, epoxy
)

// deepest is how deep a layer of filler may be, mm on the model (B6).
const deepest = 1.0

// Surface is what an order needs to know of the vehicle.
type Surface struct {
	Zones  []string
	Area   map[string]float64 // on the model by zone, cm²
	Links  int                // of the track, a side
	Shares []float64          // of the scheme's colours
}

// orderer turns a build into tasks, every arrow pointing back.
type orderer struct {
	b       Build
	l       Surface
	w       Workshop
	waits   []strata.Wait
	learned map[string]bench.Learned
	zone    *time.Location

	tasks []path.Task
	index map[string]int
	why   map[string][]string // by task: what its minutes follow from
	last  map[string]string   // by layer: its last task
}

// before makes an arrow from an earlier task.
func before(from string, wait float64, kind, rule, severity, reason string) path.Arrow {
	return path.Arrow{From: from, Wait: wait, Kind: kind, Rule: rule, Severity: severity, Reason: reason}
}

// stop, warn and plain are arrows by how badly they are needed.
func stop(from, rule, reason string) path.Arrow {
	return before(from, 0, "order", rule, "stop", reason)
}
func warn(from, rule, reason string) path.Arrow {
	return before(from, 0, "order", rule, "warn", reason)
}

// add enters a step of the library. title replaces the %s of its name; where it begins
// with a capital it is the whole name.
func (o *orderer) add(kind, subject string, n int, title string, units float64, coats int, after ...path.Arrow) string {
	k := bench.KindOf(kind)
	name := k.Name
	switch {
	case strings.Contains(name, "%s"):
		name = fmt.Sprintf(name, title)
	case title != "":
		name = title
	}
	minutes, inputs := k.Minutes(units, coats)
	minutes, more := o.learned[kind].Apply(minutes)
	id := fmt.Sprintf("%s:%s:%d", kind, subject, n)
	t := path.Task{ID: id, Title: name, Stage: k.Stage, Kind: kind, Minutes: minutes, Split: k.Split, Place: k.Place, After: after, Subject: path.Subject{Part: subject}}
	o.why[id] = append(inputs, more...)
	o.index[id] = len(o.tasks)
	o.tasks = append(o.tasks, t)
	return id
}

func (o *orderer) task(id string) *path.Task { return &o.tasks[o.index[id]] }

// order gives the tasks of a build and, by task, what its minutes follow from.
func order(b Build, l Surface, waits []strata.Wait, w Workshop, learned map[string]bench.Learned, zone *time.Location) ([]path.Task, map[string][]string) {
	o := &orderer{b: b, l: l, w: w, waits: waits, learned: learned, zone: zone, index: map[string]int{}, why: map[string][]string{}, last: map[string]string{}}
	built, received := o.building()
	o.painting(built)
	o.finishing(built, received)
	o.airbrushes()
	return yielding(o.tasks), o.why
}

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
			within[key[1]] = append(within[key[1]], warn(id, "B2", "it is easier from within, before the "+partName(key[1])+" is closed"))
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
		within[part] = append(within[part], before(id, cementTouch, "handle", "B1", "stop", listed(names)+" can only go in before the "+partName(part)+" is closed"))
	}

	faces := map[string]int{}
	area := map[string]float64{}
	for _, z := range o.l.Zones {
		faces[form.PartOf(z)]++
		area[form.PartOf(z)] += o.l.Area[z]
	}
	closed := map[string]string{}
	for _, part := range b.Body.Parts() {
		id := o.add("assemble", part, 1, "the "+partName(part), float64(max(faces[part], 1)), 1, append([]path.Arrow{washed}, within[part]...)...)
		o.task(id).Zones = []string{part}
		closed[part] = id
		seam := 4 * math.Sqrt(math.Max(area[part], 1))
		fill := o.add("fill", part, 1, partName(part), seam, 1, before(id, cementTouch, "handle", "", "", "cement holds before filler goes into the seam"))
		sand := o.add("sand", part, 1, partName(part), seam, 1, before(id, cementCured, "cured", "B7", "warn", "a cemented seam is sanded only after 24 h"),
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
			id := o.add(kind, part, 1, partName(part), float64(n), 1, arrows...)
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
		if b.school(schoolTracks) == buildThenPaint {
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
	if b.school(schoolPieces) != kit.BuiltUp && apart > 2*len(b.Wheels) {
		id := o.add("sticks", "apart", 1, fmt.Sprintf("%d pieces", apart), float64(apart), 1, before(wheels, cementTouch, "handle", "", "", "cement must hold"))
		built = append(built, before(id, 0, "order", "B14", "warn", "mating faces are covered before paint"))
	}
	return built, received
}

// minutes sets the hands-on time of a step that has a count of its own.
func (o *orderer) minutes(id string, m float64, inputs ...string) {
	t := o.task(id)
	m, more := o.learned[t.Kind].Apply(m)
	t.Minutes = m
	o.why[id] = append(inputs, more...)
}

// listed names some things, and how many more there are.
func listed(names []string) string {
	if len(names) > 3 {
		return fmt.Sprintf("%s and %d more", strings.Join(names[:2], ", "), len(names)-2)
	}
	return strings.Join(names, ", ")
}

// painting enters the layers and what goes with them.
func (o *orderer) painting(built []path.Arrow) {
	b := o.b
	if len(b.Layers) == 0 {
		return
	}
	degrease := o.add("degrease", "all", 1, "", 0, 1, built...)
	ground := []path.Arrow{before(degrease, 0, "order", "", "", "grease from fingers is cleaned off before anything is sprayed")}
	stage := bench.Paint
	primed, coloured, marked := "", "", ""
	for i, layer := range b.Layers {
		// A clear coat belongs to what it seals: the stage of the layer before it.
		switch {
		case layer.Kind != strata.Clear:
			stage = stageOf[layer.Kind]
		case stage == bench.Paint:
			stage = bench.Marks
		}
		var extra []path.Arrow
		if layer.Kind == strata.Colour && coloured == "" {
			extra = o.beforeColour(primed, layer)
		}
		if isWear(layer.Kind) && marked == "" {
			marked = o.details(coloured)
			if marked != "" {
				extra = append(extra, before(marked, 40, "next coat", "", "", "details are aged with the rest"))
			}
		}
		ids := o.addLayer(layer, stage)
		at := o.task(ids[0])
		for _, w := range o.waits {
			if w.To == layer.ID {
				at.After = append(at.After, path.Arrow{From: o.last[w.From], Wait: w.Minutes, Most: w.Most, Water: w.Water, Kind: w.Kind, Rule: w.Rule, Severity: "stop", Reason: w.Reason})
			}
		}
		if len(at.After) == 0 {
			at.After = slices.Clone(ground)
		}
		at.After = append(at.After, extra...)
		o.last[layer.ID] = ids[len(ids)-1]
		switch {
		case layer.Kind == strata.Prime:
			primed = o.last[layer.ID]
		case layer.Kind == strata.Colour && (i+1 >= len(b.Layers) || b.Layers[i+1].Kind != strata.Colour):
			coloured = o.afterColour(layer)
		}
	}
}

func isWear(k strata.Kind) bool {
	return slices.Contains([]strata.Kind{strata.Filter, strata.Wash, strata.Chips, strata.Streaks, strata.Dots, strata.Rust, strata.Dust, strata.Mud, strata.Splash, strata.Wet, strata.Grease, strata.Soot, strata.Pigment}, k)
}

// beforeColour enters shading and test piece.
func (o *orderer) beforeColour(primed string, layer strata.Layer) []path.Arrow {
	var out []path.Arrow
	sprayed := layer.Applied == strata.Misted
	if primed != "" && sprayed && o.b.school(schoolUndertone) != noUndertone {
		l := o.layer(primed)
		_, next, _, _ := l.Times()
		id := o.add("shade", "under", 1, "", layerArea(o.l, layer), 1, path.Arrow{From: primed, Wait: next, Water: l.Water(), Kind: "next coat", Rule: "P1", Severity: "stop", Reason: "the primer must take the next coat"})
		o.task(id).Spray, o.task(id).Subject = true, path.Subject{Layer: layer.ID}
		out = append(out, path.Arrow{From: id, Wait: 40, Water: true, Kind: "next coat", Rule: "P2", Severity: "warn", Reason: "shading lies beneath the colour, which stays thin enough to let it show"})
	}
	if isScheme(layer) && o.b.school(schoolTest) != noTest {
		// Primed along with the model: a test piece of another ground shows another colour.
		var after []path.Arrow
		if primed != "" {
			l := o.layer(primed)
			_, next, _, _ := l.Times()
			after = append(after, path.Arrow{From: primed, Wait: next, Water: l.Water(), Kind: "next coat", Rule: "P1", Severity: "stop", Reason: "the test piece is primed with the model, and its primer must take the next coat"})
		}
		id := o.add("test", layer.ID, 1, "", 0, 1, after...)
		o.task(id).Spray, o.task(id).Subject = sprayed, path.Subject{Layer: layer.ID}
		out = append(out, before(id, 0, "order", "P9", "hint", "the mix is right before it goes on the model"))
	}
	return out
}

// layer finds the layer of a task.
func (o *orderer) layer(task string) strata.Layer {
	id := o.task(task).Layer
	return o.b.Layers[slices.IndexFunc(o.b.Layers, func(l strata.Layer) bool { return l.ID == id })]
}

// afterColour enters what is done on the dry scheme; it gives the last step of it.
func (o *orderer) afterColour(layer strata.Layer) string {
	from := o.last[layer.ID]
	_, next, handle, _ := layer.Times()
	if s := o.b.school(schoolLighten); (s == lightSlight || s == lightFull) && layer.Applied == strata.Misted {
		id := o.add("lighten", layer.ID, 1, "", layerArea(o.l, layer), 1, path.Arrow{From: from, Wait: next, Water: layer.Water(), Kind: "next coat", Rule: "P1", Severity: "stop", Reason: "the colour must take the next coat"})
		t := o.task(id)
		t.Spray, t.Subject, t.Zones, t.AreaCM = true, path.Subject{Layer: layer.ID}, layer.Zones, layerArea(o.l, layer)
		o.last[layer.ID], from = id, id
	}
	rubber := 0
	for _, w := range o.b.Wheels {
		if w.Hub > 0 && w.Hub < w.Radius {
			rubber += 2
		}
	}
	if rubber > 0 && layer.Covers("gear.left.road") {
		o.add("wheelmask", "tyres", 1, fmt.Sprintf("%d wheels", rubber), float64(rubber), 1, path.Arrow{From: from, Wait: handle, Water: layer.Water(), Kind: "handle", Rule: "P3", Severity: "stop", Reason: "tape goes only on a coat that can be handled"})
	}
	return from
}

// details enters the painting of tools, stowage, lamps and crew, if there are any.
func (o *orderer) details(coloured string) string {
	var names []string
	n := 0
	for _, p := range o.b.Kit.Used() {
		if slices.Contains([]string{"tool", "stowage", "lamp", "crew", "cable"}, p.Kind) {
			names = append(names, p.Name)
			n += p.Number()
		}
	}
	if n == 0 || coloured == "" {
		return ""
	}
	l := o.layer(coloured)
	_, next, _, _ := l.Times()
	return o.add("details", "all", 1, listed(names), float64(n), 1, path.Arrow{From: coloured, Wait: next, Water: l.Water(), Kind: "next coat", Severity: "warn", Reason: "details are painted over the dry colour"})
}

// Longest single goes at a wash, so that it is taken back in time.
const sectionMinutes = 40.0

// addLayer adds the tasks of a layer: one; one for each colour of the scheme; for
// decals, their rounds of softener; for a wash, its sections each with its take-back.
func (o *orderer) addLayer(layer strata.Layer, stage string) []string {
	area := layerArea(o.l, layer)
	b := o.b
	enter := func(kind string, n int, title string, area, units float64, coats int, after ...path.Arrow) string {
		id := o.add(kind, layer.ID, n, title, units, coats, after...)
		t := o.task(id)
		t.Title, t.Stage, t.Subject, t.Zones, t.AreaCM = title, stage, path.Subject{Layer: layer.ID}, layer.Zones, area
		return id
	}
	kind := string(layer.Kind)
	_, next, handle, _ := layer.Times()
	switch {
	case isScheme(layer) && len(b.Scheme.Colours) > 1:
		var ids []string
		for i, c := range b.Scheme.Colours {
			part := area
			if i > 0 {
				part = area * o.l.Shares[i]
			}
			var after []path.Arrow
			if i > 0 {
				a := path.Arrow{From: ids[len(ids)-1], Wait: next, Water: layer.Water(), Kind: "next coat", Rule: "P1", Severity: "stop", Reason: "the colour below must take the next one of its range"}
				if b.Scheme.Feather == 0 {
					mask := enter("mask", i+1, layer.Name+": mask for "+c.Name, part, part, 1, path.Arrow{From: ids[len(ids)-1], Wait: handle, Water: layer.Water(), Kind: "handle", Rule: "P3", Severity: "stop", Reason: "a hard edge is masked, and tape goes only on a coat that can be handled"})
					o.task(mask).Colour = i + 1
					a = stop(mask, "P3", "the masks are on before the colour")
				}
				after = append(after, a)
			}
			id := enter(kind, i+1, layer.Name+": "+c.Name, part, part, layer.Coats, after...)
			o.task(id).Colour = i + 1
			o.spray(id, layer)
			ids = append(ids, id)
		}
		if b.Scheme.Feather == 0 {
			ids = append(ids, enter("unmask", 1, layer.Name+": take the masks off", area, area, 1, path.Arrow{From: ids[len(ids)-1], Wait: 15, Water: layer.Water(), Kind: "touch", Severity: "warn", Reason: "dry to the touch, not yet brittle"}))
		}
		return ids
	case layer.Kind == strata.Decals:
		n := float64(len(b.Kit.Worn()))
		id := enter(kind, 1, layer.Name, area, n, 1)
		if n == 0 {
			o.minutes(id, math.Ceil(20+0.12*area), "set-up 20 min", fmt.Sprintf("%.0f cm² on the model, 0.12 min for each, a starting value", area))
		}
		ids := []string{id}
		rounds := 0
		if layer.Softener && n > 0 {
			rounds = 1
			if slices.ContainsFunc(b.Kit.Worn(), func(d kit.Decal) bool { return d.Thick }) {
				rounds = 3
			}
		}
		for r := 1; r <= rounds; r++ {
			ids = append(ids, enter("softener", r, fmt.Sprintf("Softener on the decals, round %d of %d", r, rounds), area, n, 1,
				path.Arrow{From: ids[len(ids)-1], Wait: next, Water: true, Kind: "next coat", Rule: "M2", Severity: "warn", Reason: "each round of softener dries before the next"}))
			o.task(ids[len(ids)-1]).Round = r
		}
		return ids
	case layer.Kind == strata.Wash:
		f, _ := strata.FamilyOf(layer.Family)
		if !(f.TakeBackTo > 30 && f.TakeBackTo <= 300) {
			break
		}
		minutes, _ := bench.KindOf(kind).Minutes(area, layer.Coats)
		n := int(math.Ceil(minutes / sectionMinutes))
		var ids []string
		for i := range n {
			title, back := layer.Name, "Take back the "+strings.ToLower(layer.Name)
			if n > 1 {
				title, back = fmt.Sprintf("%s, section %d of %d", title, i+1, n), fmt.Sprintf("%s, section %d of %d", back, i+1, n)
			}
			part := area / float64(n)
			var after []path.Arrow
			if i > 0 {
				after = append(after, before(ids[len(ids)-1], 0, "order", "", "", "one section after the other, each finished inside its time"))
			}
			id := enter(kind, i+1, title, part, part, layer.Coats, after...)
			o.task(id).Split, o.task(id).Section = false, i+1
			ids = append(ids, id)
			take := enter("takeback", i+1, back, part, part, 1, path.Arrow{From: id, Wait: f.TakeBackFrom, Most: f.TakeBackTo, Same: true, Water: layer.Water(), Kind: "take-back", Rule: "W3", Severity: "stop",
				Reason: fmt.Sprintf("sooner than %s it smears, later than %s it stays", strata.Spell(f.TakeBackFrom), strata.Spell(f.TakeBackTo))})
			o.task(take).Section = i + 1
			ids = append(ids, take)
		}
		return ids
	}
	units := area
	switch layer.Kind {
	case strata.Grease:
		units = float64(2 * len(b.Wheels)) // hubs
	case strata.Soot:
		units = float64(o.fittings("exhaust"))
	}
	id := enter(kind, 1, layer.Name, area, units, layer.Coats)
	t := o.task(id)
	// Work by brush may be laid down and taken up; a sprayed coat goes on in one go, and
	// so does what is worked before a window closes.
	t.Split = layer.Applied == strata.Brushed && layer.Kind != strata.ChippingWork
	t.Place = path.Bench
	if isScheme(layer) {
		t.Colour = 1
	}
	o.spray(id, layer)
	return []string{id}
}

// fittings counts the fittings of a kind, both sides, at least one.
func (o *orderer) fittings(kind string) int {
	n := 0
	for _, f := range o.b.Body.Fittings {
		if f.Kind == kind {
			n++
			if f.Mirror {
				n++
			}
		}
	}
	return max(n, 1)
}

// spray says what an airbrush needs to know of a task.
func (o *orderer) spray(id string, layer strata.Layer) {
	if layer.Applied != strata.Misted {
		return
	}
	t := o.task(id)
	t.Spray, t.Split, t.Place = true, false, path.Booth
	if strings.HasPrefix(layer.Family, "spray_can") {
		t.Place = path.Outdoors
		return
	}
	f, _ := strata.FamilyOf(layer.Family)
	switch t.Paint = f.Name; {
	case t.Colour > 0:
		t.Paint = o.b.Scheme.Colours[t.Colour-1].Name + ", " + f.Name
	case layer.Hex != "" && !strings.HasPrefix(f.Name, strings.ToLower(layer.Name)):
		t.Paint = layer.Name + ", " + f.Name
	}
	t.Fine = isScheme(layer) && o.b.Scheme.Feather > 0 && o.b.Scheme.Feather/float64(o.b.Scale) < 1
}

// airbrushes gives each sprayed task one of the workshop's: fine lines the finest,
// primers and clears the widest, colours the one between.
func (o *orderer) airbrushes() {
	list := slices.Clone(o.w.Airbrushes)
	if len(list) == 0 {
		return
	}
	slices.SortStableFunc(list, func(a, b path.Airbrush) int { return int(math.Copysign(1, a.Nozzle-b.Nozzle)) })
	for i := range o.tasks {
		t := &o.tasks[i]
		if t.Paint == "" {
			continue
		}
		at := list[len(list)-1]
		switch {
		case t.Fine:
			at = list[0]
		case t.Kind == "colour":
			at = list[(len(list)-1)/2]
		}
		t.Airbrush = at.ID
	}
}

// finishing enters what is fitted at the end.
func (o *orderer) finishing(built []path.Arrow, received map[string]string) {
	b := o.b
	var painted []path.Arrow
	early := b.school(schoolRunning) == gluedEarly
	weathered := "" // the first wear, which the running gear is on for
	for _, l := range b.Layers {
		if early && isWear(l.Kind) {
			weathered = o.firstOf(l.ID)
			break
		}
		_, _, handle, _ := l.Times()
		painted = append(painted, path.Arrow{From: o.last[l.ID], Wait: handle, Water: l.Water(), Kind: "handle", Rule: "F2", Severity: "stop",
			Reason: "nothing is held by a surface that cannot be handled: " + l.Name})
	}
	if len(painted) == 0 {
		painted = built
	}
	handed := o.add("handed", "gear", 1, "", float64(2*len(b.Wheels)), 1)
	title := "Put wheels back on"
	if b.Outline.HasTrack() {
		title = "Put wheels and tracks back on"
	}
	gear := o.add("fitgear", "gear", 1, title, float64(2*len(b.Wheels)), 1, append(painted, path.Arrow{From: handed, Same: true, Kind: "order", Rule: "B8", Severity: "stop",
		Reason: "arms and links are checked against the drawing at the moment of fitting"})...)
	// The name it has in records of earlier versions.
	o.rename(gear, "fit:gear:1")
	o.task("fit:gear:1").Zones = []string{"gear"}
	if weathered != "" {
		o.task(weathered).After = append(o.task(weathered).After, before("fit:gear:1", cementTouch, "handle", "B13", "warn", "the running gear is glued before upper weathering, as your school has it"))
	}
	last := append([]path.Arrow{before("fit:gear:1", 0, "order", "", "", "the vehicle is whole")}, o.polish()...)
	var clears []string
	for _, a := range Advice(b, o.l.Zones) {
		if !a.Off || a.Part == "" {
			continue
		}
		p := b.Kit.Parts[slices.IndexFunc(b.Kit.Parts, func(p kit.Part) bool { return p.ID == a.Part })]
		if p.Kind == "wheels" || p.Kind == "tracks" {
			continue
		}
		id := o.fitLater(p, a, received)
		if a.Rule == "B11" {
			clears = append(clears, id)
		}
		last = append(last, before(id, 0, "order", "F4", "warn", p.Name+" is fitted or struck off"))
	}
	for _, p := range b.Kit.Used() { // what holds another goes on before it
		for _, held := range p.Holds {
			_, first := o.index["fit:"+p.ID+":1"]
			if _, ok := o.index["fit:"+held+":1"]; ok && first {
				t := o.task("fit:" + held + ":1")
				t.After = append(t.After, before("fit:"+p.ID+":1", 0, "order", "", "", p.Name+" holds it"))
			}
		}
	}
	touch := o.add("touchup", "all", 1, "", 0, 1, last...)
	for _, id := range clears {
		for _, a := range last {
			if !slices.Contains(clears, a.From) {
				o.task(id).After = append(o.task(id).After, before(a.From, 0, "order", "B11", "warn", "clear parts go on last"))
			}
		}
	}
	closed := []path.Arrow{before(touch, 60, "touch", "", "", "what was touched up is dry")}
	if len(b.Layers) > 0 {
		sheen := o.add("sheen", "all", 1, "", layerArea(o.l, strata.Layer{}), 1, before(touch, 60, "touch", "", "", "the sheen is decided last, over what was touched up"))
		closed = []path.Arrow{before(sheen, 60, "touch", "", "", "the last clear coat is dry")}
	}
	if b.school(schoolDisplay) == onABase {
		base := o.add("base", "own", 1, "", footprint(b), 1)
		mount := o.add("mount", "own", 1, "", 1, 1, append(closed, before(base, bondCured, "cured", "F3", "hint", "groundwork of the same earth as on the vehicle, cured through"))...)
		closed = []path.Arrow{before(mount, bondCured, "cured", "", "", "it stands fast on its base")}
	}
	o.add("record", "build", 1, "", 0, 1, closed...)
}

// footprint is the area of a base about the vehicle on the model, cm².
func footprint(b Build) float64 {
	const margin = 30.0 // model mm at each side
	n := float64(b.Scale)
	return (b.Sizes.Length.MM/n + 2*margin) * (b.Sizes.Width.MM/n + 2*margin) / 100
}

// polish enters the bright metal of the tracks, where the school wants it and no layer
// of the stack is it: graphite when nothing comes after that would dull it (W5), paint
// before the first wear, which tones it down.
func (o *orderer) polish() (last []path.Arrow) {
	b := o.b
	answer := b.school(schoolBright)
	isMetal := func(l strata.Layer) bool { return l.Kind == strata.Metal && l.Covers("gear.left.track") }
	if !b.Outline.HasTrack() || len(b.Layers) == 0 || slices.ContainsFunc(b.Layers, isMetal) || (answer != graphiteLast && answer != metalEarly) {
		return nil
	}
	area := layerArea(o.l, strata.Layer{Zones: []string{"gear.left.track", "gear.right.track"}})
	if answer == metalEarly {
		first := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return isWear(l.Kind) && l.Covers("gear.left.track") })
		if first < 1 {
			return nil
		}
		below := b.Layers[first-1]
		_, next, _, _ := below.Times()
		id := o.add("metal", "tracks", 1, "Metal paint on guide horns, teeth and cleats", area, 1, path.Arrow{From: o.last[below.ID], Wait: next, Water: below.Water(), Kind: "next coat", Rule: "P1", Severity: "stop", Reason: "what lies below must take the next coat"})
		o.task(id).Stage, o.task(id).Zones = bench.Wear, []string{"gear"}
		wear := o.task(o.firstOf(b.Layers[first].ID))
		wear.After = append(wear.After, before(id, 40, "next coat", "", "", "metal paint is toned down by what comes over it"))
		return nil
	}
	var after []path.Arrow
	for _, l := range b.Layers {
		if _, _, handle, _ := l.Times(); l.Covers("gear.left.track") {
			after = append(after, path.Arrow{From: o.last[l.ID], Wait: handle, Water: l.Water(), Kind: "handle", Rule: "W5", Severity: "warn", Reason: "bright metal comes last of all: " + strings.ToLower(l.Name) + " would dull it"})
		}
	}
	id := o.add("metal", "tracks", 1, "Graphite on guide horns, teeth and cleats", area, 1, after...)
	o.task(id).Zones = []string{"gear"}
	return []path.Arrow{before(id, 0, "order", "", "", "fingers and cloth leave marks: touched up afterwards")}
}

func (o *orderer) rename(from, to string) {
	at := o.index[from]
	o.tasks[at].ID = to
	o.index[to], o.why[to] = at, o.why[from]
	delete(o.index, from)
	delete(o.why, from)
}

// fitLater enters the fitting of a part that stayed off.
func (o *orderer) fitLater(p kit.Part, a kit.Advice, received map[string]string) string {
	var after []path.Arrow
	if r, ok := received[p.ID]; ok {
		after = append(after, before(r, 0, "order", "", "", p.Name+" has to come first"))
	}
	on := func(zone string) bool {
		if len(p.Shadows) == 0 {
			return form.PartOf(zone) == p.Assembly
		}
		return slices.ContainsFunc(p.Shadows, func(s string) bool { return zone == s || strings.HasPrefix(zone, s+".") })
	}
	covers := func(l strata.Layer) bool {
		return slices.ContainsFunc(o.l.Zones, func(z string) bool { return on(z) && l.Covers(z) })
	}
	earth := ""
	for _, l := range o.b.Layers {
		last, ok := o.last[l.ID]
		if !ok || !covers(l) || earth != "" { // what lies above comes when it is on
			continue
		}
		_, _, handle, _ := l.Times()
		loose := slices.Contains([]strata.Kind{strata.Dust, strata.Mud, strata.Splash, strata.Soot, strata.Pigment}, l.Kind)
		fitFirst := loose && p.Forced // what comes after it is on
		if p.Kind == "skirt" {
			switch o.b.school(schoolSkirts) {
			case fitThenWeather:
				fitFirst = isWear(l.Kind)
			case weatherThenFit:
				fitFirst = false
			default:
				fitFirst = loose
			}
		}
		switch {
		case l.Kind == strata.Decals && a.Rule == "B4":
			after = append(after, path.Arrow{From: last, Wait: handle, Water: true, Kind: "handle", Rule: "B4", Severity: "stop", Reason: p.Name + " after decals: " + a.Reason})
			if first := o.firstOf(l.ID); first != last {
				after = append(after, stop(first, "B4", p.Name+" after decals: "+a.Reason))
			}
		case (l.Kind == strata.Rust || l.Kind == strata.Colour) && a.Rule == "B5":
			after = append(after, path.Arrow{From: last, Wait: handle, Water: l.Water(), Kind: "handle", Rule: "B5", Severity: "stop", Reason: p.Name + ": " + a.Reason})
		case fitFirst:
			if earth == "" {
				earth = o.firstOf(l.ID)
			}
			continue
		}
		after = append(after, path.Arrow{From: last, Wait: handle, Water: l.Water(), Kind: "handle", Rule: cmpOr(a.Rule, "B3"), Severity: "warn", Reason: p.Name + " stays off until " + strings.ToLower(l.Name) + " is done: " + a.Reason})
	}
	if len(after) == 0 {
		for _, id := range o.last {
			after = append(after, before(id, 0, "order", "B3", "warn", a.Reason))
		}
		slices.SortFunc(after, func(x, y path.Arrow) int { return strings.Compare(x.From, y.From) })
	}
	if p.Side != "" && p.Joint != kit.Removable {
		// A check of its own: the running gear's may be in another session.
		check := o.add("handed", p.ID, 1, "Check the side of "+p.Name, 1, 1)
		after = append(after, path.Arrow{From: check, Same: true, Kind: "order", Rule: "B8", Severity: "stop", Reason: "left and right are checked at the moment of gluing"})
	}
	id := o.add("fit", p.ID, 1, p.Name, float64(p.Number()), 1, after...)
	o.task(id).Zones = []string{p.Assembly}
	if glue := kit.GlueFor(p, kit.Plastic, true); glue.Note != "" {
		o.why[id] = append(o.why[id], glue.Name+": "+glue.Note)
	}
	if earth != "" && o.index[earth] < len(o.tasks) {
		o.task(earth).After = append(o.task(earth).After, warn(id, "F1", p.Name+" is forced on: its loose layers come after"))
	}
	return id
}

// firstOf is a layer's first task.
func (o *orderer) firstOf(layer string) string {
	i := slices.IndexFunc(o.tasks, func(t path.Task) bool { return t.Layer == layer && bench.KindOf(t.Kind).Lays })
	return o.tasks[i].ID
}

func cmpOr(a, b string) string {
	if a != "" {
		return a
	}
	return b
}

// Advice says which parts of the chosen version stay off, and why.
func Advice(b Build, zones []string) []kit.Advice {
	var painted []string
	for _, z := range zones {
		if slices.ContainsFunc(b.Layers, func(l strata.Layer) bool { return l.Covers(z) }) {
			painted = append(painted, z)
		}
	}
	return b.Kit.Suggest(b.school(schoolPieces), painted)
}

// isScheme tells a camouflage layer from a layer of one colour of its own.
func isScheme(l strata.Layer) bool { return l.Kind == strata.Colour && l.Hex == "" }

// layerArea is the area that a layer covers on the model, cm².
func layerArea(l Surface, layer strata.Layer) float64 {
	sum := 0.0
	for _, z := range l.Zones {
		if layer.Covers(z) {
			sum += l.Area[z]
		}
	}
	return sum
}

func partName(block string) string {
	switch block {
	case "lower":
		return "lower hull"
	case "hull":
		return "upper hull"
	default:
		return block
	}
}
