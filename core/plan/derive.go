package plan

import (
	"context"
	"errors"
	"slices"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/order"
	"cinderpath/core/path"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
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
	Shopping Shopping

	Provisional bool // mended from the last schedule, or found at once: a better one may be found
}

// All derives the plans and the evenings that they share.
func (d *Deriver) All(w document.Workshop, items []document.Item, asOf time.Time) (All, error) {
	return d.For(context.Background(), w, items, asOf)
}

// For derives the plans and the evenings that they share, as long as somebody waits for
// them.
func (d *Deriver) For(ctx context.Context, w document.Workshop, items []document.Item, asOf time.Time) (All, error) {
	return patiently(ctx, func() (All, error) { return d.all(ctx, w, items, asOf, false) })
}

func patiently(ctx context.Context, derive func() (All, error)) (All, error) {
	for {
		all, err := derive()
		// Who computed it may have left while this one waited for it.
		if !errors.Is(err, path.ErrStopped) || ctx.Err() != nil {
			return all, err
		}
	}
}

func (d *Deriver) all(
	ctx context.Context,
	w document.Workshop,
	items []document.Item,
	asOf time.Time,
	soon bool,
) (All, error) {
	asOf = asOf.Truncate(time.Minute)
	if err := w.Check(); err != nil {
		return All{}, err
	}
	items = document.WithHosts(items)
	out := All{Plans: make([]Plan, len(items))}
	orders := make([]path.Order, len(items))
	all := make([]derived, len(items))
	log, asked := path.Log{}, make([]any, len(items))
	told := reminders(items)
	s, err := taught(w, items)
	if err != nil {
		return All{}, err
	}
	for i, item := range items {
		b, err := d.sound(s, item, asOf)
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
	schedule, key, provisional, err := d.schedule(request, asked, soon)
	if errors.Is(err, path.ErrStopped) {
		return All{}, err
	}
	if err != nil {
		return All{}, measure.At("order", err)
	}
	out.Provisional = provisional
	faults := make([]error, len(items))
	form.Each(len(items), func(i int) {
		inputs := []any{s.key, told, all[i].key, key, asOf}
		out.Plans[i], faults[i] = d.stepped(s.Workshop, items[i], all[i], schedule, told, asOf, inputs)
		out.Plans[i].Provisional = provisional
	})
	if err := errors.Join(faults...); err != nil {
		return All{}, err
	}
	out.Shopping = shopping(s.Workshop, out.Plans, asOf)
	out.Evenings = evenings(request.Airbrush, out.Plans, schedule, asOf)
	out.Evenings.Provisional = provisional
	return out, nil
}

// schedule lays all tasks on the calendar, as asked by what decides it; key names the plan that
// was found, which is the same for all instants from one session to the next. Who wants one soon gets a
// provisional one where finding it takes long.
func (d *Deriver) schedule(
	r path.Request,
	asked []any,
	soon bool,
) (s path.Schedule, key string, provisional bool, err error) {
	inputs := []any{asked, r.Calendar, r.Airbrush, r.Since(), r.AsOf.Location().String(), r.Nodes}
	key, err = keyOf("schedule", inputs)
	if err != nil {
		return s, "", false, err
	}
	var solved *path.Solution
	if _, known := got[*path.Solution](d, "schedule", inputs); soon && !known {
		var other string
		if solved, other, provisional, err = d.soon(r, inputs); provisional {
			key = other
		}
	} else {
		solved, err = stage(d, "schedule", inputs, func() (*path.Solution, error) { return path.Solve(r) })
	}
	if err != nil {
		return s, "", false, err
	}
	s = solved.At(r.AsOf)
	d.like(s, r.Orders)
	return s, key, provisional, nil
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
	item.Build = w.Filled(item.Build)
	out, err := stage(d, "steps", inputs, func() (dressed, error) {
		p := b.plan
		p.AsOf = asOf
		p.Steps = steps(item, w, b.tasks, schedule.Placed[p.Build], b.why, told, b.from, b.made)
		settled(p.Steps, asOf)
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
	whole := out.dress.keys[len(out.dress.keys)-1]
	for _, k := range out.dress.keys {
		if err := d.hold("part of", nameOf(k), whole); err != nil {
			return Plan{}, err
		}
	}
	if err := d.hold("dressing", whole, out.dress); err != nil {
		return Plan{}, err
	}
	return out.plan, d.hold("drawn", out.plan.Drawing, &item.Build)
}

// dressed is a plan with what its pictures are made from.
type dressed struct {
	plan  Plan
	dress *dressing
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
	item.Host = document.HostOf(others, item.Build)
	s, err := taught(w, others)
	if err == nil {
		_, err = d.sound(s, item, asOf)
	}
	return err
}

// Tasks gives a build's steps in working order, without their times.
func (d *Deriver) Tasks(w document.Workshop, item document.Item, asOf time.Time) ([]path.Task, error) {
	b, err := d.by(w, item, asOf)
	return b.tasks, err
}

// by derives a build as the workshop's tables have it, whatever its logs taught.
func (d *Deriver) by(w document.Workshop, item document.Item, asOf time.Time) (derived, error) {
	s, err := taught(w, nil)
	if err != nil {
		return derived{}, err
	}
	return d.sound(s, item, asOf)
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

// Apply makes edits on a build of the workshop, against what follows from it as it stands; its
// item tells as well on whose base it stands (document.WithHosts).
func (d *Deriver) Apply(
	w document.Workshop,
	item document.Item,
	edits []document.Edit,
	newID func() string,
	asOf time.Time,
) (document.Build, error) {
	return document.Apply(item.Build, edits, newID, document.Standing{
		Findings: func(b document.Build) ([]strata.Finding, error) {
			found, err := d.by(w, document.Item{Build: b, Log: item.Log, Host: item.Host}, asOf)
			return found.plan.Findings, err
		},
		Reordered: func(b document.Build, e document.OrderEdit) (document.Rework, error) {
			tasks, err := d.Tasks(w, document.Item{Build: b, Log: item.Log, Host: item.Host}, asOf)
			if err != nil {
				return b.Order, err
			}
			return order.Change(b.Order, e, tasks, newID)
		},
		Proposed:  func(b document.Build) ([]strata.Layer, error) { return d.proposed(w.Filled(b), w, newID, asOf) },
		Temporary: func(b document.Build) ([]strata.Layer, error) { return d.temporary(w.Filled(b), w, newID, asOf) },
		Tracks:    func(b document.Build) ([]strata.Layer, error) { return d.dressTracks(w.Filled(b), w, newID, asOf) },
		Views: func(b document.Build) ([]form.View, error) {
			s, err := d.surface(b)
			if err != nil {
				return nil, err
			}
			return d.views(b, s)
		},
		Laid:   func(l strata.Layer) bool { return !open(l, item.Log) },
		Colour: func(b document.Build, a scheme.Anchor) (int, error) { return d.colourAt(w.Filled(b), a) },
		Painted: func(b document.Build, name string) (unit.Share, error) {
			s, laid, err := d.wearing(w.Filled(b))
			if err != nil || laid.painted <= 0 {
				return 0, err
			}
			return unit.ShareOf(s.area[name], laid.painted), nil
		},
	})
}
