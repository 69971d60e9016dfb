package server

import (
	"cinderpath/core/form"
	"cinderpath/server/api"
	"cinderpath/sheets"
	"context"
)

func (h *handlers) Camouflage(
	ctx context.Context,
	r api.CamouflageRequestObject,
) (api.CamouflageResponseObject, error) {
	b, w, err := h.placed(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	c, err := h.deriver.CamouflageOf(w, b)
	return api.Camouflage200JSONResponse(c), err
}

func (h *handlers) Sketches(ctx context.Context, r api.SketchesRequestObject) (api.SketchesResponseObject, error) {
	b, _, err := h.placed(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	out, err := h.deriver.Sketches(b, *r.Body)
	return api.Sketches200JSONResponse(out), err
}

func (h *handlers) Fields(ctx context.Context, r api.FieldsRequestObject) (api.FieldsResponseObject, error) {
	b, w, err := h.placed(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	out, err := h.deriver.FieldsOf(w, b, form.Side(r.Side))
	return api.Fields200JSONResponse(out), err
}

func (h *handlers) Trace(ctx context.Context, r api.TraceRequestObject) (api.TraceResponseObject, error) {
	b, w, err := h.placed(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	a, err := sheets.AskTrace(h.deriver, w, b, *r.Body)
	return api.Trace200JSONResponse(a), err
}

func (h *handlers) CalcScheme(_ context.Context, r api.CalcSchemeRequestObject) (api.CalcSchemeResponseObject, error) {
	a, err := r.Body.Scheme(h.deriver)
	return api.CalcScheme200JSONResponse(a), err
}

func (h *handlers) CalcMask(_ context.Context, r api.CalcMaskRequestObject) (api.CalcMaskResponseObject, error) {
	a, err := r.Body.Masks(h.deriver)
	return api.CalcMask200JSONResponse(a), err
}

func (h *handlers) CalcTape(_ context.Context, r api.CalcTapeRequestObject) (api.CalcTapeResponseObject, error) {
	a, err := r.Body.Tape(h.deriver)
	return api.CalcTape200JSONResponse(a), err
}
