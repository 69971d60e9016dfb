package server

import (
	"context"

	"cinderpath/core/kit"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/core/plan"
	"cinderpath/core/vehicle"
	"cinderpath/server/api"
	"cinderpath/sheets"
)

func (h *handlers) CalcLength(
	ctx context.Context,
	r api.CalcLengthRequestObject,
) (api.CalcLengthResponseObject, error) {
	if err := h.shelf(ctx, &r.Body.Shelf); err != nil {
		return nil, err
	}
	a, err := paint.AskRule(*r.Body, func() (paint.Shelf, error) { return h.rack(ctx) })
	return api.CalcLength200JSONResponse(a), err
}

func (h *handlers) CalcPlace(_ context.Context, r api.CalcPlaceRequestObject) (api.CalcPlaceResponseObject, error) {
	mm, err := length.ParsePlace(r.Body.Text, length.Millimetre)
	if err != nil {
		return nil, measure.At("text", err)
	}
	return api.CalcPlace200JSONResponse{Mm: float64(mm)}, nil
}

func (h *handlers) CalcKitcheck(
	_ context.Context,
	r api.CalcKitcheckRequestObject,
) (api.CalcKitcheckResponseObject, error) {
	a, err := measure.AskKit(*r.Body)
	return api.CalcKitcheck200JSONResponse(a), err
}

func (h *handlers) CalcStock(ctx context.Context, r api.CalcStockRequestObject) (api.CalcStockResponseObject, error) {
	if err := h.shelf(ctx, &r.Body.Shelf); err != nil {
		return nil, err
	}
	a, err := measure.AskStock(*r.Body)
	return api.CalcStock200JSONResponse(a), err
}

func (h *handlers) CalcRope(ctx context.Context, r api.CalcRopeRequestObject) (api.CalcRopeResponseObject, error) {
	if err := h.shelf(ctx, &r.Body.Shelf); err != nil {
		return nil, err
	}
	a, err := measure.AskRope(*r.Body)
	return api.CalcRope200JSONResponse(a), err
}

func (h *handlers) CalcDrill(ctx context.Context, r api.CalcDrillRequestObject) (api.CalcDrillResponseObject, error) {
	if err := h.shelf(ctx, &r.Body.Shelf); err != nil {
		return nil, err
	}
	a, err := measure.AskDrill(*r.Body)
	return api.CalcDrill200JSONResponse(a), err
}

func (h *handlers) CalcPhoto(_ context.Context, r api.CalcPhotoRequestObject) (api.CalcPhotoResponseObject, error) {
	a, err := measure.AskPhoto(*r.Body)
	return api.CalcPhoto200JSONResponse(a), err
}

func (h *handlers) CalcMesh(_ context.Context, r api.CalcMeshRequestObject) (api.CalcMeshResponseObject, error) {
	a, err := sheets.AskMesh(*r.Body)
	return api.CalcMesh200JSONResponse(a), err
}

func (h *handlers) CalcSizes(_ context.Context, r api.CalcSizesRequestObject) (api.CalcSizesResponseObject, error) {
	t, err := sheets.ReadSizes(r.Body.Text)
	return api.CalcSizes200JSONResponse(t), err
}

func (h *handlers) Stock(ctx context.Context, _ api.StockRequestObject) (api.StockResponseObject, error) {
	w, _, _, err := h.store.Workshop(ctx)
	if err != nil {
		return nil, err
	}
	return api.Stock200JSONResponse{Kinds: measure.Kinds, Items: w.Stock.Table(), Bend: w.Stock.Bends()}, nil
}

func (h *handlers) Pick(ctx context.Context, r api.PickRequestObject) (api.PickResponseObject, error) {
	k, err := h.store.Build(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	a, err := h.deriver.Pick(k.Build, *r.Body)
	return api.Pick200JSONResponse(a), err
}

func (h *handlers) CalcTrack(ctx context.Context, r api.CalcTrackRequestObject) (api.CalcTrackResponseObject, error) {
	if err := h.shelf(ctx, &r.Body.Shelf); err != nil {
		return nil, err
	}
	a, err := vehicle.AskTrack(*r.Body)
	return api.CalcTrack200JSONResponse(a), err
}

func (h *handlers) CalcForm(_ context.Context, r api.CalcFormRequestObject) (api.CalcFormResponseObject, error) {
	a, err := vehicle.AskForm(*r.Body)
	return api.CalcForm200JSONResponse(a), err
}

func (h *handlers) CalcBase(_ context.Context, r api.CalcBaseRequestObject) (api.CalcBaseResponseObject, error) {
	a, err := vehicle.AskBase(*r.Body)
	return api.CalcBase200JSONResponse(a), err
}

func (h *handlers) CalcJoint(_ context.Context, r api.CalcJointRequestObject) (api.CalcJointResponseObject, error) {
	a, err := kit.AskJoint(*r.Body)
	return api.CalcJoint200JSONResponse(a), err
}

func (h *handlers) CalcClearance(
	_ context.Context,
	r api.CalcClearanceRequestObject,
) (api.CalcClearanceResponseObject, error) {
	a, err := vehicle.AskClearance(*r.Body)
	return api.CalcClearance200JSONResponse(a), err
}

func (h *handlers) CalcWheels(
	ctx context.Context,
	r api.CalcWheelsRequestObject,
) (api.CalcWheelsResponseObject, error) {
	if err := h.shelf(ctx, &r.Body.Shelf); err != nil {
		return nil, err
	}
	a, err := vehicle.AskWheels(*r.Body)
	return api.CalcWheels200JSONResponse(a), err
}

func (h *handlers) CalcOrder(_ context.Context, r api.CalcOrderRequestObject) (api.CalcOrderResponseObject, error) {
	a, err := plan.AskOrder(*r.Body)
	return api.CalcOrder200JSONResponse(a), err
}

func (h *handlers) CalcSchedule(
	_ context.Context,
	r api.CalcScheduleRequestObject,
) (api.CalcScheduleResponseObject, error) {
	a, err := sheets.AskSchedule(*r.Body)
	return api.CalcSchedule200JSONResponse(a), err
}
