package plan

import (
	"context"
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
}

// All derives the plans and the evenings that they share.
func (d *Deriver) All(w document.Workshop, items []document.Item, asOf time.Time) (All, error) {
	return d.For(context.Background(), w, items, asOf)
}

// For derives the plans and the evenings that they share, as long as somebody waits for
// them.
func (d *Deriver) For(ctx context.Context, w document.Workshop, items []document.Item, asOf time.Time) (All, error) {
	o, err := d.outlook(ctx, w, items, asOf, way{stop: left(ctx)})
	if err != nil {
		return All{}, err
	}
	return o.All()
}

// schedule lays all tasks on the calendar, as asked by what decides it. Who wants one soon gets a provisional one
// where finding it takes long.
func (d *Deriver) schedule(r path.Request, asked []any, soon bool) (l laid, err error) {
	// Instants from one session to the next have the same plan.
	l.wanted, err = keyOf("wanted", []any{asked, r.Calendar, r.Airbrush, r.Since(), r.AsOf.Location().String(), r.Nodes})
	if err != nil {
		return laid{}, err
	}
	l.key = l.wanted
	var known bool
	switch l.Solution, known = got[*path.Solution](d, "schedule", l.wanted); {
	case known:
	case soon:
		l, err = d.soon(r, l)
	default:
		l.Solution, err = stage(d, "schedule", l.wanted, func() (*path.Solution, error) { return path.Solve(r) })
	}
	if err != nil {
		return laid{}, err
	}
	d.mu.Lock()
	defer d.mu.Unlock()
	d.last = l
	return l, nil
}

// laid is a schedule that was found for what was wanted; the next one may be like it.
type laid struct {
	wanted, key string // key names what was found
	*path.Solution
	provisional bool
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
