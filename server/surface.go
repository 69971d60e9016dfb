package server

import (
	"bytes"
	"context"
	"errors"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/plan"
	"cinderpath/core/strata"
	"cinderpath/server/api"
	"cinderpath/sheets"
	"cinderpath/store"
)

// Markings answers what a build's markings come to.
func (h *handlers) Markings(ctx context.Context, r api.MarkingsRequestObject) (api.MarkingsResponseObject, error) {
	b, w, err := h.placed(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	a, err := h.deriver.Markings(b, w)
	return api.Markings200JSONResponse(a), err
}

// InsidePicture paints the inside of a part.
func (h *handlers) InsidePicture(
	ctx context.Context, r api.InsidePictureRequestObject,
) (api.InsidePictureResponseObject, error) {
	b, _, err := h.placed(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	q := plan.InsideQuestion{Part: r.Part, Side: form.Side(r.Side), Pixel: 0.25}
	if r.Params.Px != nil {
		q.Pixel = 1 / float64(*r.Params.Px)
	}
	data, err := h.deriver.InsidePicture(b, q)
	if err != nil {
		return nil, err
	}
	return api.InsidePicture200ImagepngResponse{Body: bytes.NewReader(data), ContentLength: int64(len(data))}, nil
}

// Ground answers what a build's base is.
func (h *handlers) Ground(ctx context.Context, r api.GroundRequestObject) (api.GroundResponseObject, error) {
	now, err := h.bench.look(ctx)
	if err != nil {
		return nil, err
	}
	at := itemAt(now.Items, r.Id)
	if at < 0 {
		return nil, store.ErrNotFound
	}
	a, err := h.deriver.Ground(now.Items[at].Build, now.Workshop, now.Items)
	return api.Ground200JSONResponse(a), err
}

// host is the build on whose base another stands.
func (h *handlers) host(ctx context.Context, b document.Build) (*document.Host, error) {
	id := b.Beside()
	if id == "" {
		return nil, nil
	}
	k, err := h.store.Build(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil
	}
	return document.HostOf([]document.Item{{Build: k.Build}}, b), err
}

// planned is the plan of a build.
func (h *handlers) planned(ctx context.Context, id string) (plan.Plan, error) {
	all, err := h.bench.look(ctx)
	if err != nil {
		return plan.Plan{}, err
	}
	return all.plan(id)
}

// Survival answers what of each layer of a build will be seen at the end.
func (h *handlers) Survival(ctx context.Context, r api.SurvivalRequestObject) (api.SurvivalResponseObject, error) {
	p, err := h.planned(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	a, err := h.deriver.SurvivalOf(p)
	return api.Survival200JSONResponse(a), err
}

// Core answers what lies at a place of a build.
func (h *handlers) Core(_ context.Context, r api.CoreRequestObject) (api.CoreResponseObject, error) {
	a, err := h.deriver.Core(*r.Body)
	return api.Core200JSONResponse(a), err
}

// Sides answers how a layer compares on both sides.
func (h *handlers) Sides(ctx context.Context, r api.SidesRequestObject) (api.SidesResponseObject, error) {
	p, err := h.planned(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	a, err := sheets.AskSides(h.deriver, p, *r.Body)
	return api.Sides200JSONResponse(a), err
}

// CalcStory answers what a vehicle's life does to the amounts of techniques.
func (h *handlers) CalcStory(_ context.Context, r api.CalcStoryRequestObject) (api.CalcStoryResponseObject, error) {
	a, err := strata.AskStory(*r.Body)
	return api.CalcStory200JSONResponse(a), err
}

// CalcLanding answers what each layer leaves on each zone.
func (h *handlers) CalcLanding(
	_ context.Context,
	r api.CalcLandingRequestObject,
) (api.CalcLandingResponseObject, error) {
	a, err := r.Body.Landing(h.deriver)
	return api.CalcLanding200JSONResponse(a), err
}

// CalcLook answers what a build looks like on its way.
func (h *handlers) CalcLook(_ context.Context, r api.CalcLookRequestObject) (api.CalcLookResponseObject, error) {
	a, err := r.Body.Look(h.deriver)
	return api.CalcLook200JSONResponse(a), err
}

// CalcSurvival answers what of each layer will be seen at the end.
func (h *handlers) CalcSurvival(
	_ context.Context,
	r api.CalcSurvivalRequestObject,
) (api.CalcSurvivalResponseObject, error) {
	a, err := r.Body.Survival(h.deriver)
	return api.CalcSurvival200JSONResponse(a), err
}

// CalcWorth answers what each layer adds for the time it takes.
func (h *handlers) CalcWorth(_ context.Context, r api.CalcWorthRequestObject) (api.CalcWorthResponseObject, error) {
	a, err := r.Body.Worth(h.deriver)
	return api.CalcWorth200JSONResponse(a), err
}

// Told answers what a build would be had it lived otherwise.
func (h *handlers) Told(ctx context.Context, r api.ToldRequestObject) (api.ToldResponseObject, error) {
	all, err := h.bench.look(ctx)
	if err != nil {
		return nil, err
	}
	a, err := h.deriver.TellOtherwise(ctx, all.Workshop, all.Items, r.Id, r.Body.Life, all.AsOf)
	return api.Told200JSONResponse(a), err
}
