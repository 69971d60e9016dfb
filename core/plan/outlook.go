package plan

import (
	"context"
	"encoding/json"
	"errors"
	"sync"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/path"
)

// Outlook is what follows from a workshop with all its builds as of an instant. All builds are laid on the calendar;
// the rest is derived when it is asked for first. It may be used from several goroutines.
type Outlook struct {
	Provisional bool   // mended from the last schedule, or found at once: a better one may be found
	Wanted      string // names what a better one may be found for
	Key         string // names what decides all of it

	deriver  *Deriver
	shop     shop
	asOf     time.Time
	items    []document.Item
	builds   []derived
	told     []Reminder
	schedule laid
	brushes  []path.Airbrush

	plans  []func() (Plan, error)
	shared func() (shared, error)
	keys   []string // of the plans
}

// shared is what all builds have in common.
type shared struct {
	evenings Evenings
	shopping Shopping
}

// way is how an outlook is come by.
type way struct {
	soon bool        // nobody waits for the best
	stop func() bool // asked now and then: nobody waits at all
}

func left(ctx context.Context) func() bool { return func() bool { return ctx.Err() != nil } }

// outlook lays all builds on the calendar, as long as somebody waits for it.
func (d *Deriver) outlook(
	ctx context.Context,
	w document.Workshop,
	items []document.Item,
	asOf time.Time,
	by way,
) (*Outlook, error) {
	for {
		out, err := d.onCalendar(w, items, asOf, by)
		// Who computed it may have left while this one waited for it.
		if !errors.Is(err, path.ErrStopped) || ctx.Err() != nil {
			return out, err
		}
	}
}

func (d *Deriver) onCalendar(w document.Workshop, items []document.Item, asOf time.Time, by way) (*Outlook, error) {
	asOf = asOf.Truncate(time.Minute)
	if err := w.Check(); err != nil {
		return nil, err
	}
	items = document.WithHosts(items)
	s, err := taught(w, items)
	if err != nil {
		return nil, err
	}
	out := &Outlook{
		deriver: d, shop: s, asOf: asOf, items: items, told: reminders(items), builds: make([]derived, len(items)),
	}
	orders := make([]path.Order, len(items))
	log, asked := path.Log{}, make([]any, len(items))
	for i, item := range items {
		b, err := d.sound(s, item, asOf)
		if err != nil {
			// It takes no other build down: it is shown with what is wrong, and has no steps.
			b = derived{plan: troubled(item.Build, asOf, err)}
			if b.key, err = keyOf("trouble", b.plan); err != nil {
				return nil, err
			}
		}
		out.builds[i] = b
		orders[i] = path.Order{Build: item.Build.ID, Priority: item.Build.Priority, Tasks: b.tasks}
		log[item.Build.ID] = b.happened
		asked[i] = []any{item.Build.ID, item.Build.Priority, b.tasksKey, b.happened}
	}
	out.brushes = path.Loaded(w.Airbrushes, orders, log)
	l, err := d.schedule(path.Request{
		Orders:   orders,
		Calendar: w.Calendar,
		Airbrush: out.brushes,
		Log:      log,
		AsOf:     asOf,
		Nodes:    path.QuickNodes,
		Stop:     by.stop,
	}, asked, by.soon)
	if errors.Is(err, path.ErrStopped) {
		return nil, err
	}
	if err != nil {
		return nil, measure.At("order", err)
	}
	out.schedule = l
	if l.provisional {
		out.Provisional, out.Wanted = true, l.wanted
	}
	for i, b := range out.builds {
		out.plans = append(out.plans, sync.OnceValues(func() (Plan, error) { return out.stepped(i) }))
		key, err := keyOf("plan", []any{s.key, out.told, b.key, l.key, asOf})
		if err != nil {
			return nil, err
		}
		out.keys = append(out.keys, key)
	}
	if out.Key, err = keyOf("all", out.keys); err != nil {
		return nil, err
	}
	out.shared = sync.OnceValues(func() (shared, error) {
		return stage(d, "shared", out.Key, out.share)
	})
	return out, nil
}

// Plan is the plan of the build at a place of the items.
func (o *Outlook) Plan(i int) (Plan, error) { return o.plans[i]() }

// Written is the plan of the build at a place of the items as JSON, written once.
func (o *Outlook) Written(i int) (json.RawMessage, error) {
	return stage(o.deriver, "written", o.keys[i], func() (json.RawMessage, error) {
		p, err := o.Plan(i)
		if err != nil {
			return nil, err
		}
		return json.Marshal(p)
	})
}

// Plans are those of all builds, in the order of items.
func (o *Outlook) Plans() ([]Plan, error) {
	out, faults := make([]Plan, len(o.plans)), make([]error, len(o.plans))
	form.Each(len(out), func(i int) { out[i], faults[i] = o.plans[i]() })
	return out, errors.Join(faults...)
}

// Evenings are those that all builds share.
func (o *Outlook) Evenings() (Evenings, error) {
	s, err := o.shared()
	return s.evenings, err
}

// Shopping is what is wanted over all builds that is not on the shelf.
func (o *Outlook) Shopping() (Shopping, error) {
	s, err := o.shared()
	return s.shopping, err
}

func (o *Outlook) share() (shared, error) {
	plans, err := o.Plans()
	if err != nil {
		return shared{}, err
	}
	e := evenings(o.brushes, plans, o.schedule.Whole(), o.asOf)
	e.Provisional = o.Provisional
	return shared{e, shopping(o.shop.Workshop, plans, o.asOf)}, nil
}

// All is all of it.
func (o *Outlook) All() (All, error) {
	plans, err := o.Plans()
	if err != nil {
		return All{}, err
	}
	s, err := o.shared()
	return All{plans, s.evenings, s.shopping}, err
}

// stepped gives a build's plan its steps with their times.
func (o *Outlook) stepped(i int) (_ Plan, err error) {
	defer failed(&err)
	d, w, item, b := o.deriver, o.shop.Workshop, o.items[i], o.builds[i]
	if b.plan.Trouble != nil {
		b.plan.Provisional = o.Provisional
		return b.plan, nil
	}
	item.Build = w.Filled(item.Build)
	out, err := stage(d, "steps", o.keys[i], func() (dressed, error) {
		p := b.plan
		p.AsOf, p.Provisional = o.asOf, o.Provisional
		p.Steps = steps(item, w, b.tasks, o.schedule.Placed(p.Build, o.asOf), b.why, o.told, b.from, b.made)
		settled(p.Steps, o.asOf)
		whole := o.schedule.Whole()
		p.Ends, p.Bound = whole.Ends[p.Build], whole.Bound[p.Build]
		p.Conflicts = []string{}
		for _, c := range whole.Conflicts {
			if c.Concerns(p.Build) {
				p.Conflicts = append(p.Conflicts, c.Words())
			}
		}
		p.stand(o.asOf)
		p.Timers = timers(p, o.asOf)
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
