package server

import (
	"bytes"
	"context"
	"errors"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/plan"
	"cinderpath/server/api"
	"cinderpath/sheets"

	"github.com/gin-gonic/gin"
)

// forever is said of what is named by what it shows: it never changes.
const forever = "private, max-age=31536000, immutable"

// A name that the build has no more is told, not answered with what it shows now.
func (h *handlers) Solid(ctx context.Context, r api.SolidRequestObject) (api.SolidResponseObject, error) {
	b, err := h.drawn(ctx, r.Id, r.Drawing)
	if err != nil {
		return nil, err
	}
	s, err := h.deriver.Solid(b)
	return api.Solid200JSONResponse{
		Body:    s,
		Headers: api.Solid200ResponseHeaders{CacheControl: ptr(forever), ETag: ptr(tag(r.Drawing))},
	}, err
}

func (h *handlers) Drawing(ctx context.Context, r api.DrawingRequestObject) (api.DrawingResponseObject, error) {
	b, err := h.drawn(ctx, r.Id, r.Drawing)
	if err != nil {
		return nil, err
	}
	d, err := h.deriver.Drawing(b)
	return api.Drawing200JSONResponse{
		Body:    d,
		Headers: api.Drawing200ResponseHeaders{CacheControl: ptr(forever), ETag: ptr(tag(r.Drawing))},
	}, err
}

// drawn is the build that a drawing is of. Where no plan named it lately, the build is
// derived once more.
func (h *handlers) drawn(ctx context.Context, id, name string) (document.Build, error) {
	b, err := h.deriver.Drawn(name)
	if errors.Is(err, plan.ErrForgotten) {
		if err := h.again(ctx, id); err != nil {
			return document.Build{}, err
		}
		b, err = h.deriver.Drawn(name)
	}
	return b, err
}

// again derives what was forgotten, of a build that is still there.
func (h *handlers) again(ctx context.Context, id string) error {
	s, err := h.bench.afresh(ctx)
	if err == nil {
		_, err = s.plan(id)
	}
	return err
}

func tag(name string) string { return `"` + name + `"` }

func (h *handlers) Picture(ctx context.Context, r api.PictureRequestObject) (api.PictureResponseObject, error) {
	q := plan.PictureQuestion{
		Look:  r.Look,
		Side:  form.Side(r.Side),
		Pixel: 0.5,
		Lines: r.Params.Bare == nil || !*r.Params.Bare,
	}
	if r.Params.Px != nil {
		q.Pixel = 1 / float64(*r.Params.Px)
	}
	if b := r.Params.Box; b != nil {
		v := *b
		q.Box = form.Box{X: float64(v[0]), Y: float64(v[1]), Width: float64(v[2]), Height: float64(v[3])}
	}
	if r.Params.Only != nil {
		q.Only = *r.Params.Only
	}
	data, err := h.picture(ctx, r.Id, q)
	if err != nil {
		return nil, err
	}
	return api.Picture200ImagepngResponse{Body: bytes.NewReader(data), ContentLength: int64(len(data)),
		Headers: api.Picture200ResponseHeaders{CacheControl: ptr(forever), ETag: ptr(tag(r.Look))}}, nil
}

// picture paints what a look names. Where it was not derived lately, the build is derived
// once more.
func (h *handlers) picture(ctx context.Context, id string, q plan.PictureQuestion) ([]byte, error) {
	data, err := h.deriver.Picture(q)
	if errors.Is(err, plan.ErrForgotten) {
		if err := h.again(ctx, id); err != nil {
			return nil, err
		}
		data, err = h.deriver.Picture(q)
	}
	return data, err
}

// views is the sheet of the five views.
func (h *handlers) views(ctx context.Context, r api.SheetRequestObject) (sheets.Drawing, error) {
	s, err := h.state(ctx, r.Id)
	if err != nil {
		return sheets.Drawing{}, err
	}
	look := s.Plan.Last()
	if r.Params.Look != nil {
		look = *r.Params.Look
	}
	portraits, err := h.deriver.Portraits(look)
	return sheets.Views(s.Plan, portraits), err
}

// wanted is the look that a sheet shows.
func (h *handlers) wanted(ctx context.Context, r api.SheetRequestObject) string {
	if r.Params.Look != nil {
		return *r.Params.Look
	}
	s, err := h.state(ctx, r.Id)
	if err != nil {
		return "" // the picture says so
	}
	return s.Plan.Last()
}

// unchanged answers for what is named by what it shows, where the browser has it already.
func unchanged(ctx *gin.Context) {
	if ctx.GetHeader("If-None-Match") != "" {
		for _, key := range []string{"drawing", "look"} {
			if name := ctx.Param(key); name != "" && ctx.GetHeader("If-None-Match") == tag(name) {
				ctx.Header("ETag", tag(name))
				ctx.Header("Cache-Control", forever)
				ctx.AbortWithStatus(304)
				return
			}
		}
	}
	ctx.Next()
}

func (h *handlers) Grips(ctx context.Context, r api.GripsRequestObject) (api.GripsResponseObject, error) {
	k, err := h.store.Build(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	g, err := h.deriver.Grips(k.Build, r.Part)
	return api.Grips200JSONResponse(g), err
}
