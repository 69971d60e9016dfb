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

// Soon derives as For does, but does not let anyone wait: among many tasks the last schedule is mended, among
// few that are worth a long search the plan at a glance is given, and All says that it is provisional. For
// finds the better one, which Soon gives from then on.
func (d *Deriver) Soon(
	ctx context.Context,
	w document.Workshop,
	items []document.Item,
	asOf time.Time,
) (All, error) {
	return patiently(ctx, func() (All, error) { return d.all(ctx, w, items, asOf, true) })
}

// left counts the tasks that are still to be planned.
func left(r path.Request) (n int) {
	for _, o := range r.Orders {
		for _, t := range o.Tasks {
			if e, ok := r.Log[o.Build][t.ID]; !ok || e.Ended.IsZero() {
				n++
			}
		}
	}
	return n
}

// soon gives the schedule that nobody waits for, named by a key; provisional where a better one may be found.
// Where none may be it is remembered as what was sought.
func (d *Deriver) soon(r path.Request, inputs []any) (s *path.Solution, key string, provisional bool, err error) {
	if left(r) > noticed {
		s, key, err = d.mended(r, inputs)
		return s, key, true, err
	}
	s, err = stage(d, "glance", inputs, func() (*path.Solution, error) { return path.Glance(r) })
	if err != nil {
		return nil, "", false, err
	}
	if s.Further() {
		key, err = keyOf("glance", inputs)
		return s, key, true, err
	}
	return s, "", false, d.put("schedule", inputs, s)
}

// mended is the schedule of a request that is like the last one there was.
func (d *Deriver) mended(r path.Request, inputs []any) (*path.Solution, string, error) {
	d.mu.Lock()
	like := d.starts
	d.mu.Unlock()
	if like == nil {
		like = path.Starts{}
	}
	asked := []any{inputs, like}
	key, err := keyOf("mended", asked)
	if err != nil {
		return nil, "", err
	}
	solved, err := stage(d, "mended", asked, func() (*path.Solution, error) { return path.Mend(r, like) })
	return solved, key, err
}

// like keeps how a schedule lies, for the next one to be like it.
func (d *Deriver) like(s path.Schedule, orders []path.Order) {
	starts := s.Starts(orders)
	d.mu.Lock()
	defer d.mu.Unlock()
	d.starts = starts
}
