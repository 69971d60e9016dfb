package plan

import (
	"context"
	"errors"
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
	whys := make([]map[string][]string, len(items))
	log := path.Log{}
	own := learned(items)
	for i, item := range items {
		plan, tasks, why, err := d.sound(w, item, own, asOf)
		if err != nil {
			// It takes no other build down: it is shown with what is wrong, and has no steps.
			plan, tasks = troubled(item.Build, asOf, err), nil
		}
		out.Plans[i], whys[i] = plan, why
		orders[i] = path.Order{Build: item.Build.ID, Priority: item.Build.Priority, Tasks: tasks}
		log[item.Build.ID] = document.Happened(item.Log)
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
	schedule, err := stage(
		d,
		"schedule",
		[]any{request, asOf.Location().String()},
		func() (path.Schedule, error) { return path.Lay(request) },
	)
	if errors.Is(err, path.ErrStopped) {
		return All{}, err
	}
	if err != nil {
		return All{}, measure.At("order", err)
	}
	told := lessons(items)
	for i := range out.Plans {
		p := &out.Plans[i]
		if p.Trouble != nil {
			continue
		}
		p.Steps = steps(items[i], w, orders[i].Tasks, schedule.Placed[p.Build], whys[i], told)
		p.Ends, p.Bound = schedule.Ends[p.Build], schedule.Bound[p.Build]
		for _, c := range schedule.Conflicts {
			if c.Concerns(p.Build) {
				p.Conflicts = append(p.Conflicts, c.Words())
			}
		}
		p.stand(asOf)
		p.Timers = timers(*p, asOf)
		if err := d.dress(items[i].Build, p); err != nil {
			return All{}, err
		}
	}
	out.Evenings = evenings(request.Airbrush, out.Plans, schedule, asOf)
	return out, nil
}

// Check derives what can be wrong about one build, without laying it on the calendar.
func (d *Deriver) Check(w document.Workshop, b document.Build, asOf time.Time) error {
	_, _, _, err := d.sound(w, document.Item{Build: b}, nil, asOf)
	return err
}

// Tasks gives a build's steps in working order, without their times.
func (d *Deriver) Tasks(w document.Workshop, item document.Item, asOf time.Time) ([]path.Task, error) {
	_, tasks, _, err := d.sound(w, item, nil, asOf)
	return tasks, err
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

// one derives all of a build that does not need the other builds.
func (d *Deriver) one(
	w document.Workshop,
	item document.Item,
	own map[string]bench.Learned,
	asOf time.Time,
) (Plan, []path.Task, map[string][]string, error) {
	b := item.Build
	none := func(err error) (Plan, []path.Task, map[string][]string, error) { return Plan{}, nil, nil, err }
	s, err := d.surface(b)
	if err != nil {
		return none(err)
	}
	laid, err := d.scheme(b, s)
	if err != nil {
		return none(err)
	}
	p := Plan{
		Build:   b.ID,
		Name:    b.Name,
		Scale:   b.Scale.String(),
		AsOf:    asOf,
		Colours: colourLines(b, laid.Shares, laid.painted),
		Zones:   zoneLines(b, s, laid),
		Sheets: vehicle.SheetNames(
			b,
		),
		Poses:     b.Kit.Poses(),
		Jobs:      b.Kit.Jobs(),
		Conflicts: []string{},
		Timers:    []Timer{},
		Drawing:   nameOf(s.drawing),
		Places:    placesOf(s.zones),
		Pieces:    piecesOf(b.Body),
	}
	if err := d.put("drawn", p.Drawing, &b); err != nil {
		return none(err)
	}
	if err := d.measured(&p, b, w, s); err != nil {
		return none(err)
	}
	asked := order.Surface{Zones: s.zones, Area: s.area, Links: s.stance.Loop.Links, Shares: laid.Shares}
	findings, waits := strata.Check(b.Layers, s.zones, order.Gap(b, w, item.Log))
	p.Findings = append(append([]strata.Finding{}, findings...), vehicle.RoomForMud(b, p.Gear)...)
	p.Advice = order.Advice(b, s.zones)
	tasks, why := order.Generate(b, asked, waits, w, own, asOf.Location())
	if b.School(document.SchoolStrict) == document.LooseOrder {
		tasks = order.Softened(tasks)
	}
	generated := tasks
	tasks = order.Reworked(b.Order, tasks, why, order.Paced(asked, own))
	p.Reworked = reworkLines(b.Order, append(generated, tasks...))
	return p, order.Sorted(order.Mended(b, tasks, item.Log, why)), why, nil
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
