package plan

import (
	"context"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/path"
)

// noticed is how many tasks are left to plan where somebody notices that their plan is sought: below it the
// first look is done within a tenth of a second.
const noticed = 250

// Soon lays all builds on the calendar and does not let anyone wait: among many tasks the last schedule is mended,
// among few that are worth a long search the plan at a glance is given, and the outlook says that it is provisional.
// Better finds the better one, which Soon gives from then on.
func (d *Deriver) Soon(
	ctx context.Context,
	w document.Workshop,
	items []document.Item,
	asOf time.Time,
) (*Outlook, error) {
	return d.outlook(ctx, w, items, asOf, way{soon: true, stop: left(ctx)})
}

// Better derives as For does; now and then it calls rest, which may take its time while others want the processors.
func (d *Deriver) Better(
	ctx context.Context,
	w document.Workshop,
	items []document.Item,
	asOf time.Time,
	rest func(),
) error {
	gone := left(ctx)
	o, err := d.outlook(ctx, w, items, asOf, way{stop: func() bool { rest(); return gone() }})
	if err == nil {
		_, err = o.All()
	}
	return err
}

// remaining counts the tasks that are still to be planned.
func remaining(r path.Request) (n int) {
	for _, o := range r.Orders {
		for _, t := range o.Tasks {
			if e, ok := r.Log[o.Build][t.ID]; !ok || e.Ended.IsZero() {
				n++
			}
		}
	}
	return n
}

// soon finds the schedule that nobody waits for; provisional where a better one may be found. Where none may be it
// is remembered as what was sought.
func (d *Deriver) soon(r path.Request, l laid) (laid, error) {
	if remaining(r) > noticed {
		return d.mended(r, l)
	}
	var err error
	l.Solution, err = stage(d, "glance", l.wanted, func() (*path.Solution, error) { return path.Glance(r) })
	if err != nil {
		return laid{}, err
	}
	if l.Further() {
		l.key, l.provisional = "glance "+l.wanted, true
		return l, nil
	}
	return l, d.put("schedule", l.wanted, l.Solution)
}

// mended finds a schedule like the last one there was, which may be for the same.
func (d *Deriver) mended(r path.Request, l laid) (_ laid, err error) {
	d.mu.Lock()
	last := d.last
	d.mu.Unlock()
	if last.wanted == l.wanted {
		return last, nil
	}
	inputs := []string{l.wanted, last.key}
	if l.key, err = keyOf("mended", inputs); err != nil {
		return laid{}, err
	}
	l.provisional = true
	l.Solution, err = stage(d, "mended", inputs, func() (*path.Solution, error) {
		return path.Mend(r, last.Starts())
	})
	return l, err
}
