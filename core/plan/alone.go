package plan

import (
	"slices"
	"time"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/order"
	"cinderpath/core/path"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
	"cinderpath/core/vehicle"
	"cinderpath/core/zone"
)

// derived is all of a build that does not need the other builds.
type derived struct {
	plan     Plan
	tasks    []path.Task
	why      map[string][]string
	made     order.Made // what it takes, how it is joined, what is told of it
	from     materials
	happened map[string]path.Done
	key      string // of all of it
	tasksKey string // of the tasks alone
}

// shop is the workshop with what the logs of all its builds taught.
type shop struct {
	document.Workshop
	own map[string]bench.Learned
	key string // of all of it
}

func taught(w document.Workshop, items []document.Item) (shop, error) {
	own := learned(items)
	w = w.Levels(items)
	key, err := keyOf("workshop", []any{w, own})
	return shop{w, own, key}, err
}

// build derives a build once for what decides it: its document, what its log says was done,
// and the workshop with what all builds taught.
func (d *Deriver) build(s shop, item document.Item, asOf time.Time) (derived, error) {
	name := item.Key
	if name == "" {
		var err error
		if name, err = ItemKey(item); err != nil {
			return derived{}, err
		}
	}
	item.Build.Story, item.Build.Subject = "", "" // words that decide nothing
	item.Log = telling(item.Log)
	// Of the instant, the day decides: what a jar is on it.
	inputs := []any{s.key, name, item.Host, asOf.Location().String(), asOf.Format(time.DateOnly)}
	key, err := keyOf("build", inputs)
	if err != nil {
		return derived{}, err
	}
	return stage(d, "build", inputs, func() (derived, error) {
		out, err := d.one(s, item, asOf)
		if err != nil {
			return derived{}, err
		}
		out.happened, out.key = document.Happened(item.Log), key
		out.tasksKey, err = keyOf("tasks", out.tasks)
		return out, err
	})
}

// ItemKey names what of a build and its log can decide a plan. Who holds items that stay as they are
// gives it along with them, so that they are not written out again to be named.
func ItemKey(item document.Item) (string, error) {
	item.Build.Story, item.Build.Subject = "", ""
	return keyOf("item", document.Item{Build: item.Build, Log: telling(item.Log)})
}

// telling leaves out of a log what is only read: notes, lessons and pictures decide no plan.
func telling(log []document.Entry) []document.Entry {
	return slices.DeleteFunc(slices.Clone(log), func(e document.Entry) bool { return !Tells(e) })
}

// Tells tells of an entry that may decide a plan, and so the build's key.
func Tells(e document.Entry) bool {
	return e.Kind != document.Note && e.Kind != document.Lesson && e.Kind != document.Picture
}

// open tells whether a layer may still be laid: a jar that was poured is not looked at again.
func open(l strata.Layer, log []document.Entry) bool {
	done := document.Happened(log)
	for _, e := range log {
		if e.Layer == l.ID && !done[e.Task].Ended.IsZero() && bench.KindOf(e.StepKind).Lays {
			return false
		}
	}
	return true
}

// one derives all of a build that does not need the other builds.
func (d *Deriver) one(
	by shop,
	item document.Item,
	asOf time.Time,
) (derived, error) {
	w, own := by.Workshop, by.own
	b := w.Filled(item.Build)
	shape, err := d.shaped(b, w)
	if err != nil {
		return derived{}, err
	}
	p := shape.plan
	p.Build, p.Name, p.Scale = b.ID, b.Name, b.Scale.String()
	p.Sheets, p.Poses, p.Jobs = vehicle.SheetNames(b), b.Kit.Hints(), b.Kit.Jobs()
	p.Conflicts, p.Timers = []string{}, []Timer{}
	p.Argued, p.Doubts = []strata.Argued{}, append([]string{}, b.Life.Contradictions(b.Layers)...)
	for _, l := range b.Layers {
		if a, ok := l.Argue(); ok {
			p.Argued = append(p.Argued, a)
		}
	}
	asked := shape.asked
	asked.Holds = holds(b, w, shape.told)
	findings, waits := strata.Check(b.Layers, asked.Zones, order.Gap(b, w, item.Log))
	p.Findings = append(append([]strata.Finding{}, findings...), vehicle.RoomForMud(b, p.Gear)...)
	day := asOf.Format(time.DateOnly)
	rules := paintRuling{
		build: b, shop: w, day: day,
		holds:  asked.Holds,
		open:   func(l strata.Layer) bool { return open(l, item.Log) },
		wanted: func(l strata.Layer, colour int) float64 { return shape.wants(b, w, l, colour) },
	}
	p.Findings = append(p.Findings, rules.findings()...)
	p.Advice = order.Advice(b, asked.Zones)
	if b.OnBase() {
		laid, err := d.ground(b)
		if err != nil {
			return derived{}, err
		}
		asked.Ground = &laid
		p.Findings = append(p.Findings, groundFindings(b, laid)...)
	}
	if item.Host != nil {
		asked.Beside = item.Host.Name
		p.Findings = append(p.Findings, besideFindings(b, *item.Host, w, rules.open)...)
	}
	made := order.Generate(b, asked, waits, w, own, document.Happened(item.Log), asOf.Location())
	tasks, why := made.Tasks, made.Why
	if b.School(document.SchoolStrict) == document.LooseOrder {
		tasks = order.Softened(tasks)
	}
	generated := tasks
	tasks = order.Reworked(b.Order, tasks, why, order.Paced(asked, own))
	p.Reworked = reworkLines(b.Order, append(generated, tasks...))
	from := shape.from
	from.forecasts, from.surface = forecasts(b), asked
	tasks = order.Sorted(order.Mended(b, asked, tasks, item.Log, why))
	p.Sheets = append(p.Sheets, schemeSheets(b)...)
	p.Pots = potLines(b, w, made.Takes, asOf)
	p.Findings = append(p.Findings, rules.trials(tasks, item.Log)...)
	worn, err := d.wearFindings(b, w, shape, tasks, rules.open)
	if err != nil {
		return derived{}, err
	}
	p.Findings = append(p.Findings, worn...)
	for i, f := range p.Findings {
		if len(f.Zones) == 0 {
			continue
		}
		p.Findings[i].Where = zone.Said(zone.Gathered(f.Zones, asked.Zones))
	}
	return derived{plan: p, tasks: tasks, why: why, made: made, from: from}, nil
}

// shaped is what follows from sizes, shapes, camouflage and stack: small beside the surface
// that it was read from, and kept when that is forgotten.
type shaped struct {
	plan  Plan // the part of it that is known by then
	asked order.Surface
	from  materials
	laid  string // names the camouflage as it lies
	told  []scheme.Told
	notes []string      // what of the camouflage could not be as it was wanted
	lost  []scheme.Lost // pins that do not hold
	seen  []SeenLine    // where pictures tell of the scheme
	shown map[form.Side]map[string]int
}

// wants is what all steps of a layer, or of a colour of it, take, ml of unthinned paint.
func (s shaped) wants(b document.Build, w document.Workshop, l strata.Layer, colour int) float64 {
	step := Step{Task: path.Task{Kind: string(l.Kind), Subject: path.Subject{Colour: colour}, AreaCM: s.from.areas[l.ID]}}
	if colour > 0 {
		step.AreaCM = order.ColourArea(s.asked, l, colour-1)
	}
	lays, ok := layingOf(&step, b, l, s.from.spreads, s.from.areas[l.ID])
	if !ok {
		return 0
	}
	return lays.need(w, false).ML
}

func (d *Deriver) shaped(whole document.Build, w document.Workshop) (shaped, error) {
	// Nothing else of a build can decide it.
	b := document.Build{
		Scale: whole.Scale, Outline: whole.Outline, Sizes: whole.Sizes, Body: whole.Body, Wheels: whole.Wheels,
		Link: whole.Link, Ground: whole.Ground, Scheme: whole.Scheme, Layers: whole.Layers,
		Dimensions: whole.Dimensions, Fit: whole.Fit, Cables: whole.Cables, Small: whole.Small,
	}
	if answer := whole.Schools[document.SchoolAccuracy]; answer != "" {
		b.Schools = map[string]string{document.SchoolAccuracy: answer} // how large small relief is made
	}
	return stage(d, "shape", []any{b, w.Stock}, func() (shaped, error) {
		s, err := d.surface(b)
		if err != nil {
			return shaped{}, err
		}
		laid, err := d.scheme(b, s)
		if err != nil {
			return shaped{}, err
		}
		p := Plan{
			Colours: colourLines(b, laid.Shares, laid.painted),
			Zones:   zoneLines(b, s, laid),
			Drawing: nameOf(s.drawing),
			Places:  placesOf(s.zones),
			Pieces:  piecesOf(b.Body),
			Touched: touchLines(b, s),

			Temporary: temporaryOf(b),
		}
		_, dots := smallLines(b, s)
		if err := d.measured(&p, b, w, s); err != nil {
			return shaped{}, err
		}
		asked := order.Surface{
			Zones:  s.zones,
			Area:   s.area,
			Touch:  s.touch,
			Links:  s.stance.Loop.Links,
			Shares: laid.Zones,
			Dots:   dots,
		}
		from := materials{areas: map[string]float64{}}
		if from.spreads, err = d.spreads(b, s); err != nil {
			return shaped{}, err
		}
		asked.Work = map[string]map[string]float64{}
		for _, l := range b.Layers {
			from.areas[l.ID] = order.LayerArea(asked, l)
			if by := from.spreads[l.ID].by; by != nil {
				asked.Work[l.ID] = by
			}
		}
		shown, err := d.shown(b, s)
		if err != nil {
			return shaped{}, err
		}
		told, err := stage(d, "told", laid.key, func() ([]scheme.Told, error) { return laid.Tell(), nil })
		return shaped{p, asked, from, laid.key, told, laid.Notes, laid.Lost, seenLines(laid, s), shown}, err
	})
}

// measured fills in what follows from sizes and shapes alone.
func (d *Deriver) measured(p *Plan, b document.Build, w document.Workshop, s surface) (err error) {
	if p.Views, err = d.views(b, s); err != nil {
		return err
	}
	p.Sheet.Width, p.Sheet.Height = form.SheetSize(p.Views)
	if p.Gear, err = stage(
		d,
		"gear",
		[]any{s.key, b.Scale, b.Link, b.Body.Fenders, b.Body.Skirts, w.Stock, vehicle.MudDepth(b)},
		func() (*vehicle.GearLine, error) {
			return vehicle.GearOf(b, s.stance, w.Stock), nil
		},
	); err != nil {
		return err
	}
	if p.Sizes, err = d.sizes(b, s); err != nil {
		return err
	}
	if p.Kit, err = stage(d, "kit", []any{b.Sizes, b.Dimensions, b.Fit, b.Scale}, func() (*measure.KitReport, error) {
		return document.KitCheck(b), nil
	}); err != nil {
		return err
	}
	p.Cables, err = stage(d, "cables", []any{s.key, b.Scale, b.Cables, w.Stock}, func() ([]CableLine, error) {
		return cableLines(b, w.Stock, s.panels), nil
	})
	return err
}
