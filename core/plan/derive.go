package plan

import (
	"context"
	"encoding/json"
	"errors"
	"reflect"
	"slices"
	"time"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/order"
	"cinderpath/core/path"
	"cinderpath/core/strata"
	"cinderpath/core/vehicle"
)

// Plans derives the plans of all builds of a workshop as of an instant, given in
// whole minutes and in the workshop's zone. The plans come in the order of items.
func (d *Deriver) Plans(w document.Workshop, items []document.Item, asOf time.Time) ([]Plan, error) {
	all, err := d.All(w, items, asOf)
	return all.Plans, err
}

// All is what follows from a workshop with all its builds.
type All struct {
	Plans    []Plan
	Evenings Evenings
}

// All derives the plans and the evenings that they share.
func (d *Deriver) All(w document.Workshop, items []document.Item, asOf time.Time) (All, error) {
	return d.For(context.Background(), w, items, asOf)
}

// For derives the plans and the evenings that they share, as long as somebody waits for
// them.
func (d *Deriver) For(ctx context.Context, w document.Workshop, items []document.Item, asOf time.Time) (All, error) {
	for {
		all, err := d.all(ctx, w, items, asOf)
		// Who computed it may have left while this one waited for it.
		if !errors.Is(err, path.ErrStopped) || ctx.Err() != nil {
			return all, err
		}
	}
}

func (d *Deriver) all(ctx context.Context, w document.Workshop, items []document.Item, asOf time.Time) (All, error) {
	asOf = asOf.Truncate(time.Minute)
	if err := w.Check(); err != nil {
		return All{}, err
	}
	out := All{Plans: make([]Plan, len(items))}
	orders := make([]path.Order, len(items))
	all := make([]derived, len(items))
	log, asked := path.Log{}, make([]any, len(items))
	own, told := learned(items), lessons(items)
	shop, err := keyOf("workshop", []any{w, own})
	if err != nil {
		return All{}, err
	}
	for i, item := range items {
		b, err := d.sound(w, shop, item, own, asOf)
		if err != nil {
			// It takes no other build down: it is shown with what is wrong, and has no steps.
			b = derived{plan: troubled(item.Build, asOf, err)}
		}
		all[i] = b
		orders[i] = path.Order{Build: item.Build.ID, Priority: item.Build.Priority, Tasks: b.tasks}
		log[item.Build.ID] = b.happened
		asked[i] = []any{item.Build.ID, item.Build.Priority, b.tasksKey, b.happened}
	}
	request := path.Request{
		Orders:   orders,
		Calendar: w.Calendar,
		Airbrush: path.Loaded(w.Airbrushes, orders, log),
		Log:      log,
		AsOf:     asOf,
		Nodes:    path.QuickNodes,
		Stop:     func() bool { return ctx.Err() != nil },
	}
	schedule, key, err := d.schedule(request, asked)
	if errors.Is(err, path.ErrStopped) {
		return All{}, err
	}
	if err != nil {
		return All{}, measure.At("order", err)
	}
	for i := range out.Plans {
		inputs := []any{shop, told, all[i].key, key, asOf}
		out.Plans[i], err = d.stepped(w, items[i], all[i], schedule, told, asOf, inputs)
		if err != nil {
			return All{}, err
		}
	}
	out.Evenings = evenings(request.Airbrush, out.Plans, schedule, asOf)
	return out, nil
}

// schedule lays all tasks on the calendar, as asked by what decides it; key names the plan that
// was found, which is the same for all instants from one session to the next.
func (d *Deriver) schedule(r path.Request, asked []any) (s path.Schedule, key string, err error) {
	inputs := []any{asked, r.Calendar, r.Airbrush, r.Since(), r.AsOf.Location().String(), r.Nodes}
	key, err = keyOf("schedule", inputs)
	if err != nil {
		return s, "", err
	}
	solved, err := stage(d, "schedule", inputs, func() (*path.Solution, error) { return path.Solve(r) })
	if err != nil {
		return s, "", err
	}
	return solved.At(r.AsOf), key, nil
}

// stepped gives a build's plan its steps with their times.
func (d *Deriver) stepped(
	w document.Workshop,
	item document.Item,
	b derived,
	schedule path.Schedule,
	told []Reminder,
	asOf time.Time,
	inputs []any,
) (Plan, error) {
	if b.plan.Trouble != nil {
		return b.plan, nil
	}
	out, err := stage(d, "steps", inputs, func() (dressed, error) {
		p := b.plan
		p.AsOf = asOf
		p.Steps = steps(item, w, b.tasks, schedule.Placed[p.Build], b.why, told)
		p.Ends, p.Bound = schedule.Ends[p.Build], schedule.Bound[p.Build]
		p.Conflicts = []string{}
		for _, c := range schedule.Conflicts {
			if c.Concerns(p.Build) {
				p.Conflicts = append(p.Conflicts, c.Words())
			}
		}
		p.stand(asOf)
		p.Timers = timers(p, asOf)
		dress, err := d.dress(item.Build, w, &p)
		return dressed{p, dress}, err
	})
	if err != nil {
		return Plan{}, err
	}
	// What pictures are made from may have been forgotten since.
	for _, k := range out.dress.keys {
		if err := d.put("dressing", nameOf(k), out.dress); err != nil {
			return Plan{}, err
		}
	}
	return out.plan, d.put("drawn", out.plan.Drawing, &item.Build)
}

// dressed is a plan with what its pictures are made from.
type dressed struct {
	plan  Plan
	dress *dressing
}

// derived is all of a build that does not need the other builds.
type derived struct {
	plan     Plan
	tasks    []path.Task
	why      map[string][]string
	happened map[string]path.Done
	key      string // of all of it
	tasksKey string // of the tasks alone
}

// Check derives what can be wrong about one build among others, without laying it on the
// calendar.
func (d *Deriver) Check(
	w document.Workshop,
	item document.Item,
	others []document.Item,
	asOf time.Time,
) error {
	others = slices.Clone(others)
	at := slices.IndexFunc(others, func(o document.Item) bool { return o.Build.ID == item.Build.ID })
	if at < 0 {
		others = append(others, item)
	} else {
		others[at] = item
	}
	own := learned(others)
	shop, err := keyOf("workshop", []any{w, own})
	if err == nil {
		_, err = d.sound(w, shop, item, own, asOf)
	}
	return err
}

// Tasks gives a build's steps in working order, without their times.
func (d *Deriver) Tasks(w document.Workshop, item document.Item, asOf time.Time) ([]path.Task, error) {
	b, err := d.sound(w, w, item, nil, asOf)
	return b.tasks, err
}

// Begin begins a build whose stack has no finding: no deeper mud than there is room for.
func Begin(s document.Start, newID func() string) (document.Build, error) {
	b, err := document.New(s, newID)
	if err != nil {
		return b, err
	}
	if _, lies, err := vehicle.Stand(b); err == nil {
		for _, f := range vehicle.RoomForMud(b, vehicle.GearOf(b, lies, measure.Shelf{})) {
			if b.Layers, err = strata.Apply(b.Layers, f.Mends[0].Edits, newID); err != nil {
				return document.Build{}, err
			}
		}
	}
	return b, b.Check()
}

// Apply makes edits on a build of the workshop, against what follows from it as it stands.
func (d *Deriver) Apply(
	w document.Workshop,
	item document.Item,
	edits []document.Edit,
	newID func() string,
	asOf time.Time,
) (document.Build, error) {
	return document.Apply(item.Build, edits, newID, document.Standing{
		Findings: func(b document.Build) ([]strata.Finding, error) {
			p, _, _, err := d.one(w, document.Item{Build: b, Log: item.Log}, nil, asOf)
			return p.Findings, err
		},
		Reordered: func(b document.Build, e document.OrderEdit) (document.Rework, error) {
			tasks, err := d.Tasks(w, document.Item{Build: b, Log: item.Log}, asOf)
			if err != nil {
				return b.Order, err
			}
			return order.Change(b.Order, e, tasks, newID)
		},
		Views: func(b document.Build) ([]form.View, error) {
			s, err := d.surface(b)
			if err != nil {
				return nil, err
			}
			return d.views(b, s)
		}})
}

// build derives a build once for what decides it: its document, what its log says was done,
// and the workshop with what all builds taught, which is named by shop.
func (d *Deriver) build(
	w document.Workshop,
	shop any,
	item document.Item,
	own map[string]bench.Learned,
	asOf time.Time,
) (derived, error) {
	item.Build.Story, item.Build.Subject = "", "" // words that decide nothing
	itemKey, err := d.itemKey(item)
	if err != nil {
		return derived{}, err
	}
	item.Log = telling(item.Log)
	inputs := []any{shop, itemKey, asOf.Location().String()}
	key, err := keyOf("build", inputs)
	if err != nil {
		return derived{}, err
	}
	return stage(d, "build", inputs, func() (derived, error) {
		p, tasks, why, err := d.one(w, item, own, asOf)
		if err != nil {
			return derived{}, err
		}
		tasksKey, err := keyOf("tasks", tasks)
		return derived{p, tasks, why, document.Happened(item.Log), key, tasksKey}, err
	})
}

// itemKey names what of a build and its log can decide a plan. An item that is the one seen
// last under its id, value for value, is not written out again to be named.
func (d *Deriver) itemKey(item document.Item) (string, error) {
	d.mu.Lock()
	last, ok := d.items[item.Build.ID]
	d.mu.Unlock()
	if ok && reflect.DeepEqual(last.item, item) {
		return last.key, nil
	}
	data, err := json.Marshal(item)
	if err != nil {
		return "", err
	}
	// A copy of its own: whoever holds the item may go on with it.
	var copied document.Item
	if err := json.Unmarshal(data, &copied); err != nil {
		return "", err
	}
	key, err := keyOf("item", document.Item{Build: item.Build, Log: telling(item.Log)})
	if err != nil {
		return "", err
	}
	d.mu.Lock()
	defer d.mu.Unlock()
	if d.items == nil || len(d.items) >= mostItems {
		d.items = map[string]itemSeen{}
	}
	d.items[item.Build.ID] = itemSeen{copied, key}
	return key, nil
}

// itemSeen is an item with its key.
type itemSeen struct {
	item document.Item
	key  string
}

// mostItems bounds how many items are known by sight.
const mostItems = 500

// telling leaves out of a log what is only read: notes, lessons and pictures decide no plan.
func telling(log []document.Entry) []document.Entry {
	return slices.DeleteFunc(slices.Clone(log), func(e document.Entry) bool {
		return e.Kind == document.Note || e.Kind == document.Lesson || e.Kind == document.Picture
	})
}

// one derives all of a build that does not need the other builds.
func (d *Deriver) one(
	w document.Workshop,
	item document.Item,
	own map[string]bench.Learned,
	asOf time.Time,
) (Plan, []path.Task, map[string][]string, error) {
	b := item.Build
	shape, err := d.shaped(b, w)
	if err != nil {
		return Plan{}, nil, nil, err
	}
	p := shape.plan
	p.Build, p.Name, p.Scale = b.ID, b.Name, b.Scale.String()
	p.Sheets, p.Poses, p.Jobs = vehicle.SheetNames(b), b.Kit.Poses(), b.Kit.Jobs()
	p.Conflicts, p.Timers = []string{}, []Timer{}
	asked := shape.asked
	findings, waits := strata.Check(b.Layers, asked.Zones, order.Gap(b, w, item.Log))
	p.Findings = append(append([]strata.Finding{}, findings...), vehicle.RoomForMud(b, p.Gear)...)
	p.Advice = order.Advice(b, asked.Zones)
	tasks, why := order.Generate(b, asked, waits, w, own, asOf.Location())
	if b.School(document.SchoolStrict) == document.LooseOrder {
		tasks = order.Softened(tasks)
	}
	generated := tasks
	tasks = order.Reworked(b.Order, tasks, why, order.Paced(asked, own))
	p.Reworked = reworkLines(b.Order, append(generated, tasks...))
	return p, order.Sorted(order.Mended(b, tasks, item.Log, why)), why, nil
}

// shaped is what follows from sizes, shapes, camouflage and stack: small beside the surface
// that it was read from, and kept when that is forgotten.
type shaped struct {
	plan  Plan // the part of it that is known by then
	asked order.Surface
	laid  string // names the camouflage as it lies
	shown map[form.Side]map[string]int
}

func (d *Deriver) shaped(whole document.Build, w document.Workshop) (shaped, error) {
	// Nothing else of a build can decide it.
	b := document.Build{
		Scale: whole.Scale, Outline: whole.Outline, Sizes: whole.Sizes, Body: whole.Body, Wheels: whole.Wheels,
		Link: whole.Link, Ground: whole.Ground, Scheme: whole.Scheme, Layers: whole.Layers,
		Dimensions: whole.Dimensions, Fit: whole.Fit, Cables: whole.Cables,
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
		}
		if err := d.measured(&p, b, w, s); err != nil {
			return shaped{}, err
		}
		asked := order.Surface{Zones: s.zones, Area: s.area, Links: s.stance.Loop.Links, Shares: laid.Shares}
		shown, err := d.shown(b, s)
		return shaped{p, asked, laid.key, shown}, err
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
