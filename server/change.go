package server

import (
	"cinderpath/core/document"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/server/api"
	"cinderpath/store"
	"context"
	"errors"
	"strconv"
	"strings"
)

// change makes a new state of a build, derives its plan, and keeps it: a build without a
// plan is never kept, and nothing is derived while the database holds a lock. Who was
// overtaken meanwhile is told at the write. What was kept under the key already is told as
// it stands.
func (h *handlers) change(
	ctx context.Context,
	id, key string,
	next func(document.Workshop) (document.Build, error),
	keep func(document.Build) error,
) (*snapshot, error) {
	defer h.bench.hush.begin()()
	if there, err := h.store.KeptUnder(ctx, id, key); err != nil {
		return nil, err
	} else if there {
		return h.bench.look(ctx)
	}
	w, _, ok, err := h.store.Workshop(ctx)
	if err := errors.Join(err, missing(ok || err != nil)); err != nil {
		return nil, err
	}
	b, err := next(w)
	if err == nil {
		err = h.check(ctx, w, b)
	}
	if err == nil {
		err = keep(b)
	}
	var older *store.StaleError
	if errors.As(err, &older) {
		current, err := h.state(ctx, id)
		if err != nil {
			return nil, err
		}
		return nil, &stale{seen: older.Seen, current: current}
	}
	if err != nil {
		return nil, err
	}
	return h.after(ctx)
}

// check derives a build as it would be, with its log and beside the others, so that the plan
// which follows has it already.
func (h *handlers) check(ctx context.Context, w document.Workshop, b document.Build) error {
	s, err := h.bench.recent(ctx)
	if err != nil {
		return err
	}
	item := document.Item{Build: b}
	if at := itemAt(s.Items, b.ID); at >= 0 {
		item.Log = s.Items[at].Log
	}
	return h.deriver.Check(w, item, s.Items, s.AsOf)
}

// after is all there is once a write was kept: what fails then is no failure of the write.
func (h *handlers) after(ctx context.Context) (*snapshot, error) {
	s, err := h.bench.look(ctx)
	if err != nil {
		err = errors.Join(errWritten, err)
	}
	return s, err
}

// before is a build as it was told last, beside which a change is told.
func (h *handlers) before(ctx context.Context, id string) (api.BuildState, error) {
	s, err := h.bench.recent(ctx)
	if err != nil {
		return api.BuildState{}, err
	}
	if itemAt(s.Items, id) < 0 { // it was made just now
		return h.state(ctx, id)
	}
	return s.state(id)
}

// key is the key that a change was sent under, or a new one.
func (h *handlers) key(sent *string) string {
	if sent != nil {
		return strings.ToLower(*sent)
	}
	return h.newID()
}

// told is a build as it stands now, with what a change did to its plan.
func (h *handlers) told(
	ctx context.Context, before api.BuildState, s *snapshot, id string, tell func(before, after plan.Plan) []path.Change,
) (packed, error) {
	now, err := s.state(id)
	if err != nil {
		return packed{}, err
	}
	changes := tell(before.Plan, now.Plan)
	if len(changes) == 0 {
		data, err := s.of(id)
		return pack(ctx, data), err
	}
	now.Changes = &changes
	data, err := s.packed(now)
	return pack(ctx, data), err
}

// revision reads an If-Match that the validator let through.
func revision(seen string) int64 {
	n, err := strconv.ParseInt(strings.Trim(seen, `"`), 10, 64)
	if err != nil {
		return -1
	}
	return n
}
