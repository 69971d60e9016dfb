package server

import (
	"bytes"
	"context"
	"io"
	"strings"

	"cinderpath/core/document"
	"cinderpath/core/plan"
	"cinderpath/core/vehicle"
	"cinderpath/server/api"
	"cinderpath/sheets"
)

func (h *handlers) Sheet(ctx context.Context, r api.SheetRequestObject) (api.SheetResponseObject, error) {
	var buf bytes.Buffer
	switch r.Name {
	case "sizes.csv":
		s, err := h.state(ctx, r.Id)
		if err != nil {
			return nil, err
		}
		err = sheets.WriteSizes(&buf, s.Plan)
		return api.Sheet200TextcsvResponse{Body: io.Reader(&buf)}, err
	case "body.stl", "body.glb":
		return h.bodyFile(ctx, r)
	case "plan.csv", "plan.ics", "cards.pdf", "diary.pdf":
		return h.planFile(ctx, r)
	}
	d, err := h.drawing(ctx, r)
	if err != nil {
		return nil, err
	}
	if strings.HasSuffix(r.Name, ".svg") {
		err = d.WriteSVG(&buf)
		return api.Sheet200ImagesvgXmlResponse{Body: io.Reader(&buf)}, err
	}
	paper := ""
	if r.Params.Paper != nil {
		paper = *r.Params.Paper
	}
	err = d.WritePDF(&buf, sheets.PaperOf(paper))
	return api.Sheet200ApplicationpdfResponse{Body: io.Reader(&buf)}, err
}

// drawing makes the sheet that a name without its ending means.
func (h *handlers) drawing(ctx context.Context, r api.SheetRequestObject) (sheets.Drawing, error) {
	name, _, _ := strings.Cut(r.Name, ".")
	if name == "views" {
		return h.views(ctx, r)
	}
	b, w, err := h.placed(ctx, r.Id)
	if err != nil {
		return sheets.Drawing{}, err
	}
	switch name {
	case "guide":
		return h.guide(ctx, r, b, w)
	case "trial":
		layer := ""
		if r.Params.Layer != nil {
			layer = *r.Params.Layer
		}
		t, err := h.deriver.TrialOf(w, b, layer)
		return sheets.Trial(t), err
	case "crossings":
		m, err := h.deriver.CrossingsOf(w, b)
		return sheets.Crossings(m), err
	case "masks", "masks-inverse", "masks-cut":
		m, err := h.deriver.MasksOf(w, b)
		return sheets.Masks(m, sheets.MaskStyle{Inverse: name == "masks-inverse", CutOnly: name == "masks-cut"}), err
	case "markings":
		all, err := h.deriver.Markings(b, w)
		return sheets.Markings(b.Name, b.Scale.String(), all), err
	case "base":
		laid, err := h.deriver.Ground(b, w, nil)
		return sheets.Ground(b.Name, b.Scale.String(), laid.Laid), err
	case "track-jig":
		j, err := vehicle.JigOf(b)
		if err != nil {
			return sheets.Drawing{}, err
		}
		return sheets.Jig(j), nil
	case "arms":
		a, err := vehicle.ArmsOf(b)
		if err != nil {
			return sheets.Drawing{}, err
		}
		return sheets.Arms(a), nil
	}
	m, err := vehicle.MasksOf(b, w.Stock)
	if err != nil {
		return sheets.Drawing{}, err
	}
	return sheets.WheelMasks(m), nil
}

// guide is the painting guide: the views as they are once the scheme is on.
func (h *handlers) guide(
	ctx context.Context, r api.SheetRequestObject, b document.Build, w document.Workshop,
) (sheets.Drawing, error) {
	s, err := h.state(ctx, r.Id)
	if err != nil {
		return sheets.Drawing{}, err
	}
	g := plan.GuideOf(w, b, s.Plan)
	portraits, err := h.deriver.Portraits(g.Look)
	return sheets.Guide(g, s.Plan, portraits), err
}

// placed reads a build and the workshop that it stands in.
func (h *handlers) placed(ctx context.Context, id string) (document.Build, document.Workshop, error) {
	k, err := h.store.Build(ctx, id)
	if err != nil {
		return document.Build{}, document.Workshop{}, err
	}
	w, _, _, err := h.store.Workshop(ctx)
	return k.Build, w, err
}

func (h *handlers) bodyFile(ctx context.Context, r api.SheetRequestObject) (api.SheetResponseObject, error) {
	b, _, err := h.placed(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	var buf bytes.Buffer
	if r.Name == "body.glb" {
		s, err := h.deriver.Solid(b)
		if err != nil {
			return nil, err
		}
		worn, err := h.picture(ctx, r.Id, plan.PictureQuestion{Look: h.wanted(ctx, r), Side: plan.Worn})
		if err != nil {
			return nil, err
		}
		err = sheets.WriteGLB(&buf, s, b.Name, worn)
		return api.Sheet200ModelgltfBinaryResponse{Body: io.Reader(&buf)}, err
	}
	parts, err := vehicle.Meshes(b)
	if err != nil {
		return nil, err
	}
	err = sheets.WriteBodySTL(&buf, parts, float64(b.Scale), b.Name)
	return api.Sheet200ModelstlResponse{Body: io.Reader(&buf)}, err
}
