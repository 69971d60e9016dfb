package server

import (
	"bytes"
	"context"
	"errors"
	"time"

	"cinderpath/core/paint"
	"cinderpath/server/api"
	"cinderpath/sheets"
	"cinderpath/store"
)

// shelved is the shelf as it is shown: with what was taken from it.
func (h *handlers) shelved(ctx context.Context) (api.ShelfState, error) {
	s, err := h.bench.look(ctx)
	if err != nil {
		return api.ShelfState{}, err
	}
	levels := s.Workshop.Levels(s.Items).Paint
	out := api.ShelfState{
		Revision: s.stands.Workshop,
		Shelf:    levels,
		Notes:    map[string]string{},
		Hiding:   map[string]string{},
		Tried:    map[string]string{},
		Example:  levels.Example(),
		Families: paint.Families(),
		Fluids:   paint.Fluids(),
		Columns:  paint.Columns(),
	}
	day := s.AsOf.Format(time.DateOnly)
	for _, j := range levels.Jars {
		if tried := j.Tried(); tried != "" {
			out.Tried[j.ID] = tried
		}
		if note := j.Note(day); note != "" {
			out.Notes[j.ID] = note
		}
		if j.Hex != "" {
			out.Hiding[j.ID] = paint.HidingWord(j.Hides())
		}
	}
	for _, m := range levels.Mixes {
		if again, ok := levels.Again(m); ok {
			out.Notes[m.ID] = again
		}
	}
	return out, nil
}

func (h *handlers) GetShelf(ctx context.Context, _ api.GetShelfRequestObject) (api.GetShelfResponseObject, error) {
	s, err := h.shelved(ctx)
	return api.GetShelf200JSONResponse(s), err
}

// atOnce is how often a change to the shelf is made again when another was kept meanwhile.
const atOnce = 8

func (h *handlers) EditShelf(ctx context.Context, r api.EditShelfRequestObject) (api.EditShelfResponseObject, error) {
	for _, e := range r.Body.Edits {
		if e.Jar == nil {
			continue
		}
		for _, chip := range e.Jar.Chips {
			if err := h.hasFile(ctx, store.Shop, "jar.chips", chip); err != nil {
				return nil, err
			}
		}
	}
	for n := 0; ; n++ {
		w, revision, ok, err := h.store.Workshop(ctx)
		if err := errors.Join(err, missing(ok || err != nil)); err != nil {
			return nil, err
		}
		s, err := h.bench.look(ctx) // for what the logs took
		if err != nil {
			return nil, err
		}
		next, err := w.EditShelf(r.Body.Edits, s.Items, h.newID, h.now())
		if err != nil {
			return nil, err
		}
		_, err = h.store.KeepWorkshop(ctx, next, revision)
		var older *store.StaleError
		if errors.As(err, &older) && n < atOnce {
			continue
		}
		if err != nil {
			return nil, err
		}
		shelf, err := h.shelved(ctx)
		if err != nil {
			err = errors.Join(errWritten, err)
		}
		return api.EditShelf200JSONResponse(shelf), err
	}
}

// Above tells what is planned over a build's scheme.
func (h *handlers) Above(ctx context.Context, r api.AboveRequestObject) (api.AboveResponseObject, error) {
	b, w, err := h.placed(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	a, err := h.deriver.Above(w, b)
	return api.Above200JSONResponse(a), err
}

func (h *handlers) Shopping(ctx context.Context, _ api.ShoppingRequestObject) (api.ShoppingResponseObject, error) {
	s, err := h.bench.look(ctx)
	if err != nil {
		return nil, err
	}
	list, err := s.Outlook.Shopping()
	return api.Shopping200JSONResponse(list), err
}

func (h *handlers) ShelfSheet(
	ctx context.Context,
	r api.ShelfSheetRequestObject,
) (api.ShelfSheetResponseObject, error) {
	s, err := h.bench.look(ctx)
	if err != nil {
		return nil, err
	}
	list, err := s.Outlook.Shopping()
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	name := `attachment; filename="` + r.Sheet + `"`
	switch r.Sheet {
	case "jars.csv":
		err = sheets.WriteJars(&out, s.Workshop.Levels(s.Items).Paint)
	case "shopping.csv":
		err = sheets.WriteShopping(&out, list)
	default:
		paper := sheets.A4
		if r.Params.Paper != nil {
			paper = sheets.PaperOf(*r.Params.Paper)
		}
		if r.Sheet == "card.pdf" {
			err = sheets.NeutralCard().WritePDF(&out, paper)
		} else {
			err = sheets.PrintShopping(&out, list, paper)
		}
		return api.ShelfSheet200ApplicationpdfResponse{
			Body:    &out,
			Headers: api.ShelfSheet200ResponseHeaders{ContentDisposition: &name},
		}, err
	}
	return api.ShelfSheet200TextcsvResponse{
		Body:    &out,
		Headers: api.ShelfSheet200ResponseHeaders{ContentDisposition: &name},
	}, err
}

// owned gives the workshop's jars and mixes to a question that brings none.
func (h *handlers) owned(ctx context.Context, jars *[]paint.Jar, mixes *[]paint.Mixture) error {
	if len(*jars) > 0 {
		return nil
	}
	s, err := h.rack(ctx)
	if err != nil {
		return err
	}
	*jars = s.Jars
	if mixes != nil {
		*mixes = s.Mixes
	}
	return nil
}

// rack is the shelf with what was taken from it.
func (h *handlers) rack(ctx context.Context) (paint.Shelf, error) {
	s, err := h.bench.look(ctx)
	if err != nil {
		return paint.Shelf{}, err
	}
	return s.Workshop.Levels(s.Items).Paint, nil
}

// left stops a search whose asker has gone.
func left(ctx context.Context) func() bool { return func() bool { return ctx.Err() != nil } }

func (h *handlers) CalcMix(ctx context.Context, r api.CalcMixRequestObject) (api.CalcMixResponseObject, error) {
	if err := h.owned(ctx, &r.Body.Jars, nil); err != nil {
		return nil, err
	}
	a, err := paint.AskMix(*r.Body)
	return api.CalcMix200JSONResponse(a), err
}

func (h *handlers) CalcRecipe(
	ctx context.Context,
	r api.CalcRecipeRequestObject,
) (api.CalcRecipeResponseObject, error) {
	if err := h.owned(ctx, &r.Body.Jars, &r.Body.Mixes); err != nil {
		return nil, err
	}
	a, err := paint.AskRecipe(*r.Body, left(ctx))
	return api.CalcRecipe200JSONResponse(a), err
}

func (h *handlers) CalcRelatives(
	ctx context.Context,
	r api.CalcRelativesRequestObject,
) (api.CalcRelativesResponseObject, error) {
	if err := h.owned(ctx, &r.Body.Jars, &r.Body.Mixes); err != nil {
		return nil, err
	}
	a, err := paint.AskRelatives(*r.Body, left(ctx))
	return api.CalcRelatives200JSONResponse(a), err
}

func (h *handlers) CalcCup(ctx context.Context, r api.CalcCupRequestObject) (api.CalcCupResponseObject, error) {
	if err := h.owned(ctx, &r.Body.Jars, &r.Body.Mixes); err != nil {
		return nil, err
	}
	a, err := paint.AskCup(*r.Body)
	return api.CalcCup200JSONResponse(a), err
}

func (h *handlers) CalcLike(ctx context.Context, r api.CalcLikeRequestObject) (api.CalcLikeResponseObject, error) {
	if err := h.owned(ctx, &r.Body.Jars, &r.Body.Mixes); err != nil {
		return nil, err
	}
	a, err := paint.AskLike(*r.Body)
	return api.CalcLike200JSONResponse(a), err
}

func (h *handlers) CalcSwatch(_ context.Context, r api.CalcSwatchRequestObject) (api.CalcSwatchResponseObject, error) {
	a, err := sheets.AskSwatch(*r.Body)
	return api.CalcSwatch200JSONResponse(a), err
}

func (h *handlers) CalcSpectrum(
	_ context.Context,
	r api.CalcSpectrumRequestObject,
) (api.CalcSpectrumResponseObject, error) {
	a, err := paint.AskSpectrum(*r.Body)
	return api.CalcSpectrum200JSONResponse(a), err
}

func (h *handlers) CalcDifference(
	_ context.Context,
	r api.CalcDifferenceRequestObject,
) (api.CalcDifferenceResponseObject, error) {
	a, err := paint.AskDifference(*r.Body)
	return api.CalcDifference200JSONResponse(a), err
}

func (h *handlers) CalcCoats(_ context.Context, r api.CalcCoatsRequestObject) (api.CalcCoatsResponseObject, error) {
	a, err := paint.AskCoats(*r.Body)
	return api.CalcCoats200JSONResponse(a), err
}

func (h *handlers) CalcAmount(_ context.Context, r api.CalcAmountRequestObject) (api.CalcAmountResponseObject, error) {
	a, err := paint.AskAmount(*r.Body)
	return api.CalcAmount200JSONResponse(a), err
}

func (h *handlers) CalcShopping(
	_ context.Context,
	r api.CalcShoppingRequestObject,
) (api.CalcShoppingResponseObject, error) {
	a, err := r.Body.Shopping(h.deriver)
	return api.CalcShopping200JSONResponse(a), err
}
