package server

import (
	"context"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/core/plan"
	"cinderpath/server/api"
	"cinderpath/store"
)

// state is one build with its plan and log.
func (h *handlers) state(ctx context.Context, id string) (api.BuildState, error) {
	s, err := h.bench.look(ctx)
	if err != nil {
		return api.BuildState{}, err
	}
	return s.state(id)
}

func (h *handlers) Home(ctx context.Context, _ api.HomeRequestObject) (api.HomeResponseObject, error) {
	s, err := h.bench.look(ctx)
	if err != nil {
		return nil, err
	}
	data, err := s.answer("home", func() ([]byte, error) {
		plans, err := s.Plans()
		if err != nil {
			return nil, err
		}
		evenings, err := s.Evenings()
		if err != nil {
			return nil, err
		}
		out := api.Home{Name: s.Workshop.Name, Builds: []api.HomeLine{}, Tonight: evenings.Tonight}
		if s.Provisional {
			out.Provisional = &s.Provisional
		}
		for i, p := range plans {
			line := api.HomeLine{Revision: s.revisions[p.Build], Glance: p.Glance(s.Items[i].Build)}
			out.Builds = append(out.Builds, line)
		}
		return zippedJSON(out)
	})
	return pack(ctx, data), err
}

func (h *handlers) GetWorkshop(
	ctx context.Context,
	_ api.GetWorkshopRequestObject,
) (api.GetWorkshopResponseObject, error) {
	w, revision, ok, err := h.store.Workshop(ctx)
	return api.GetWorkshop200JSONResponse{Workshop: w, Revision: revision}, errors.Join(err, missing(ok || err != nil))
}

func (h *handlers) Health(ctx context.Context, _ api.HealthRequestObject) (api.HealthResponseObject, error) {
	if err := h.store.Ping(ctx); err != nil {
		return nil, err
	}
	return api.Health200JSONResponse{Status: "ok"}, nil
}

func (h *handlers) Families(context.Context, api.FamiliesRequestObject) (api.FamiliesResponseObject, error) {
	return api.Families200JSONResponse(paint.Families()), nil
}

func (h *handlers) KeepWorkshop(
	ctx context.Context,
	r api.KeepWorkshopRequestObject,
) (api.KeepWorkshopResponseObject, error) {
	if err := r.Body.Check(); err != nil {
		return nil, err
	}
	if _, err := time.LoadLocation(r.Body.Zone); err != nil {
		return nil, &measure.Fault{
			Field:  "zone",
			Reason: fmt.Sprintf("%q is not a time zone", r.Body.Zone),
			Remedy: `write it like "Europe/Lisbon"`,
		}
	}
	kept, err := h.store.KeepWorkshop(ctx, *r.Body, revision(r.Params.IfMatch))
	return api.KeepWorkshop200JSONResponse{Workshop: *r.Body, Revision: kept}, err
}

func (h *handlers) StartBuild(
	ctx context.Context,
	r api.StartBuildRequestObject,
) (api.StartBuildResponseObject, error) {
	b, err := plan.Begin(*r.Body, h.newID)
	if err != nil {
		return nil, err
	}
	if err := h.store.Add(ctx, document.Item{Build: b}); err != nil {
		return nil, err
	}
	s, err := h.after(ctx)
	if err != nil {
		return nil, err
	}
	now, err := s.state(b.ID)
	return api.StartBuild201JSONResponse(now), err
}

func (h *handlers) GetBuild(ctx context.Context, r api.GetBuildRequestObject) (api.GetBuildResponseObject, error) {
	s, err := h.bench.look(ctx)
	if err != nil {
		return nil, err
	}
	data, err := s.of(r.Id)
	return pack(ctx, data), err
}

func (h *handlers) RemoveBuild(
	ctx context.Context,
	r api.RemoveBuildRequestObject,
) (api.RemoveBuildResponseObject, error) {
	return api.RemoveBuild204Response{}, h.store.Remove(ctx, r.Id)
}

func (h *handlers) RestoreBuild(
	ctx context.Context,
	r api.RestoreBuildRequestObject,
) (api.RestoreBuildResponseObject, error) {
	return api.RestoreBuild204Response{}, h.store.Restore(ctx, r.Id)
}

func (h *handlers) DuplicateBuild(
	ctx context.Context,
	r api.DuplicateBuildRequestObject,
) (api.DuplicateBuildResponseObject, error) {
	k, err := h.store.Build(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	copied := k.Build
	copied.ID, copied.Name = h.newID(), copied.Name+", copy"
	if err := copied.Check(); err != nil {
		return nil, err
	}
	if err := h.store.Add(ctx, document.Item{Build: copied}); err != nil {
		return nil, err
	}
	if err := h.store.CopyFiles(ctx, r.Id, copied.ID); err != nil {
		return nil, err
	}
	s, err := h.after(ctx)
	if err != nil {
		return nil, err
	}
	now, err := s.state(copied.ID)
	return api.DuplicateBuild201JSONResponse(now), err
}

func (h *handlers) EditBuild(ctx context.Context, r api.EditBuildRequestObject) (api.EditBuildResponseObject, error) {
	if err := errors.Join(h.here(ctx, r.Id, r.Body.Edits), h.asBody(ctx, r.Id, r.Body.Edits)); err != nil {
		return nil, err
	}
	before, err := h.before(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	seen, key := revision(r.Params.IfMatch), h.key(r.Params.IdempotencyKey)
	s, err := h.change(ctx, r.Id, key, func(w document.Workshop) (document.Build, error) {
		now, err := h.store.Seen(ctx, r.Id, seen)
		if err != nil {
			return document.Build{}, err
		}
		log, err := h.bench.log(ctx, r.Id)
		if err != nil {
			return document.Build{}, err
		}
		host, err := h.host(ctx, now.Build)
		if err != nil {
			return document.Build{}, err
		}
		item := document.Item{Build: now.Build, Log: log, Host: host}
		return h.deriver.Apply(w, item, r.Body.Edits, h.newID, h.now())
	}, func(b document.Build) error {
		_, err := h.store.Change(ctx, r.Id, seen, key, b)
		return err
	})
	if err != nil {
		return nil, err
	}
	tell := plan.Changes
	if slices.ContainsFunc(r.Body.Edits, func(e document.Edit) bool { return e.Op == document.SetSchool }) {
		tell = plan.Differences // whoever answers how they work wants to know all that follows
	}
	return h.told(ctx, before, s, r.Id, tell)
}

func (h *handlers) UndoEdit(ctx context.Context, r api.UndoEditRequestObject) (api.UndoEditResponseObject, error) {
	seen, key := revision(r.Params.IfMatch), h.key(r.Params.IdempotencyKey)
	var back store.Earlier
	s, err := h.change(ctx, r.Id, key, func(document.Workshop) (b document.Build, err error) {
		back, err = h.store.Before(ctx, r.Id, seen)
		return back.Build, err
	}, func(document.Build) error {
		_, err := h.store.Undo(ctx, r.Id, seen, key, back)
		return err
	})
	if errors.Is(err, store.ErrFirst) {
		return nil, &measure.Fault{
			Field:  "revision",
			Reason: "this is the first state of the build",
			Remedy: "there is nothing to take back",
		}
	}
	if err != nil {
		return nil, err
	}
	now, err := s.state(r.Id)
	return api.UndoEdit200JSONResponse(now), err
}

// Rank puts a build before all others, or behind them.
func (h *handlers) Rank(ctx context.Context, r api.RankRequestObject) (api.RankResponseObject, error) {
	seen, key := revision(r.Params.IfMatch), h.key(r.Params.IdempotencyKey)
	s, err := h.change(ctx, r.Id, key, func(document.Workshop) (document.Build, error) {
		k, err := h.store.Seen(ctx, r.Id, seen)
		if err != nil {
			return document.Build{}, err
		}
		items, _, err := h.store.Items(ctx)
		k.Build.Priority = plan.Ranked(items, r.Body.First)
		return k.Build, err
	}, func(b document.Build) error {
		_, err := h.store.Change(ctx, r.Id, seen, key, b)
		return err
	})
	if err != nil {
		return nil, err
	}
	now, err := s.state(r.Id)
	return api.Rank200JSONResponse(now), err
}

func (h *handlers) AppendLog(ctx context.Context, r api.AppendLogRequestObject) (api.AppendLogResponseObject, error) {
	defer h.bench.hush.begin()()
	e := *r.Body
	e.At, e.MinutesBefore = h.now(), nil
	if err := e.Check(); err != nil {
		return nil, err
	}
	before, err := h.before(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	if e.Photo != "" {
		if err := h.hasFile(ctx, r.Id, "photo", e.Photo); err != nil {
			return nil, err
		}
	}
	if err := before.Plan.LeftAlone(before.Build, e); err != nil {
		return nil, err
	}
	// What the step is about is the plan's to say: the entry keeps it when the plan changes.
	if i := slices.IndexFunc(before.Plan.Steps, func(s plan.Step) bool { return s.ID == e.Task }); i >= 0 {
		e.Subject, e.StepKind = before.Plan.Steps[i].Subject, before.Plan.Steps[i].Kind
	}
	if err := h.store.Append(ctx, r.Id, e); err != nil {
		return nil, err
	}
	s, err := h.after(ctx)
	if err != nil {
		return nil, err
	}
	return h.told(ctx, before, s, r.Id, plan.Changes)
}

var notInFileNames = regexp.MustCompile(`[^a-z0-9]+`)

func (h *handlers) CalcPlan(_ context.Context, r api.CalcPlanRequestObject) (api.CalcPlanResponseObject, error) {
	p, err := r.Body.Plan(h.deriver)
	return api.CalcPlan200JSONResponse(p), err
}

func (h *handlers) FittingKinds(
	context.Context,
	api.FittingKindsRequestObject,
) (api.FittingKindsResponseObject, error) {
	return api.FittingKinds200JSONResponse{Kinds: form.FittingKinds()}, nil
}
