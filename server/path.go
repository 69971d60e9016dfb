package server

import (
	"bytes"
	"context"
	"image"
	"io"
	"slices"
	"strings"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/kit"
	"cinderpath/core/plan"
	"cinderpath/core/relief"
	"cinderpath/core/strata"
	"cinderpath/samples"
	"cinderpath/server/api"
	"cinderpath/sheets"
	"cinderpath/store"
)

func (h *handlers) Evenings(ctx context.Context, _ api.EveningsRequestObject) (api.EveningsResponseObject, error) {
	s, err := h.bench.look(ctx)
	if err != nil {
		return nil, err
	}
	data, err := s.answer(evenings, func() ([]byte, error) {
		e, err := s.Evenings()
		if err != nil {
			return nil, err
		}
		return zippedJSON(e)
	})
	return pack(ctx, data), err
}

func (h *handlers) Library(context.Context, api.LibraryRequestObject) (api.LibraryResponseObject, error) {
	weather, err := samples.Weather(h.now())
	return api.Library200JSONResponse{
		Kinds:      bench.Kinds(),
		Layers:     strata.Abouts(),
		Techniques: strata.Techniques(),
		Axes:       strata.Axes(),
		Lives:      strata.Lives(),
		Mishaps:    mishaps(),
		Schools:    document.Schools(),
		Weather:    weather,
		Arrival:    kit.Arrival,
		Materials:  kit.Materials,
		Reliefs:    relief.Abouts,
	}, err
}

func mishaps() (out []api.Mishap) {
	for _, m := range bench.Mishaps("", "") {
		told := api.Mishap{Id: m.ID, Name: m.Name, Repair: m.Words, Stages: m.Stages}
		if m.Leave != "" {
			told.Leave = &m.Leave
		}
		out = append(out, told)
	}
	return out
}

func (h *handlers) WhatIf(ctx context.Context, r api.WhatIfRequestObject) (api.WhatIfResponseObject, error) {
	d, err := h.bench.look(ctx)
	if err != nil {
		return nil, err
	}
	if itemAt(d.Items, r.Id) < 0 {
		return nil, store.ErrNotFound
	}
	a, err := h.deriver.Compare(ctx, d.Workshop, d.Items, r.Id, *r.Body, d.AsOf)
	return api.WhatIf200JSONResponse(a), err
}

func itemAt(items []document.Item, id string) int {
	return slices.IndexFunc(items, func(i document.Item) bool { return i.Build.ID == id })
}

// diary is the record of a build.
func (h *handlers) diary(ctx context.Context, id string) (plan.Diary, error) {
	d, err := h.bench.look(ctx)
	if err != nil {
		return plan.Diary{}, err
	}
	at := itemAt(d.Items, id)
	if at < 0 {
		return plan.Diary{}, store.ErrNotFound
	}
	return plan.DiaryOf(d.Items, at, d.AsOf.Location()), nil
}

func (h *handlers) Diary(ctx context.Context, r api.DiaryRequestObject) (api.DiaryResponseObject, error) {
	d, err := h.diary(ctx, r.Id)
	return api.Diary200JSONResponse(d), err
}

// planFile gives the plan in the formats of others.
func (h *handlers) planFile(ctx context.Context, r api.SheetRequestObject) (api.SheetResponseObject, error) {
	var buf bytes.Buffer
	paper := sheets.A4
	if r.Params.Paper != nil {
		paper = sheets.PaperOf(*r.Params.Paper)
	}
	if r.Name == "diary.pdf" {
		d, err := h.diary(ctx, r.Id)
		if err != nil {
			return nil, err
		}
		err = sheets.WriteDiary(&buf, d, paper, func(hash string) (image.Image, bool) {
			f, err := h.store.FileOf(ctx, r.Id, hash)
			if err != nil {
				return nil, false // an export carries only its name
			}
			var data bytes.Buffer
			if err := h.store.Read(ctx, f, &data); err != nil {
				return nil, false
			}
			img, _, err := image.Decode(&data)
			return img, err == nil
		})
		return api.Sheet200ApplicationpdfResponse{Body: io.Reader(&buf)}, err
	}
	all, err := h.bench.look(ctx)
	if err != nil {
		return nil, err
	}
	p, err := all.plan(r.Id)
	if err != nil {
		return nil, err
	}
	switch {
	case strings.HasSuffix(r.Name, ".csv"):
		err = sheets.WriteTasks(&buf, p)
		return api.Sheet200TextcsvResponse{Body: io.Reader(&buf)}, err
	case strings.HasSuffix(r.Name, ".ics"):
		evenings, err := all.Evenings()
		if err != nil {
			return nil, err
		}
		err = sheets.WriteCalendar(&buf, evenings, p)
		return api.Sheet200TextcalendarResponse{Body: io.Reader(&buf)}, err
	default:
		err = sheets.WriteCards(&buf, p, paper)
		return api.Sheet200ApplicationpdfResponse{Body: io.Reader(&buf)}, err
	}
}
