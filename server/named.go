package server

import (
	"bytes"
	"context"
	"errors"
	"slices"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/scheme"
	"cinderpath/sheets"
	"cinderpath/store"
)

// here checks that the files that edits name are files of the build.
func (h *handlers) here(ctx context.Context, id string, edits []document.Edit) error {
	for _, e := range edits {
		var field, hash string
		switch {
		case e.Op == document.SetPhoto && e.Photo != nil:
			field, hash = "photo.hash", e.Photo.Hash
		case e.Op == document.SetPart && e.Part != nil:
			field, hash = "part.hash", e.Part.Hash
		case e.Op == document.SetScheme && e.Scheme != nil:
			if err := h.leaveOut(ctx, id, e.Scheme); err != nil {
				return err
			}
			continue
		default:
			continue
		}
		if err := h.hasFile(ctx, id, field, hash); err != nil {
			return err
		}
	}
	return nil
}

// leaveOut takes away the names of pictures that are not here: a document that was brought in without them keeps
// what was read from them, which is all that its scheme needs.
func (h *handlers) leaveOut(ctx context.Context, id string, p *scheme.Pattern) error {
	for i, t := range p.Traces {
		if !measure.IsHash(t.Photo) { // none, or what the check of the scheme refuses
			continue
		}
		var bad *measure.Fault
		err := h.hasFile(ctx, id, "scheme.traces.photo", t.Photo)
		if errors.As(err, &bad) {
			p.Traces[i].Photo = ""
		} else if err != nil {
			return err
		}
	}
	return nil
}

// hasFile refuses a hash that names no file of the build.
func (h *handlers) hasFile(ctx context.Context, id, field, hash string) error {
	_, err := h.store.FileOf(ctx, id, hash)
	if errors.Is(err, store.ErrNoFile) {
		return &measure.Fault{Field: field, Reason: "there is no such file here", Remedy: "upload it first"}
	}
	return err
}

// asBody turns an edit that makes an own part the body into one that carries it.
func (h *handlers) asBody(ctx context.Context, id string, edits []document.Edit) error {
	for i, e := range edits {
		if e.Op != document.SetShell {
			continue
		}
		k, err := h.store.Build(ctx, id)
		if err != nil {
			return err
		}
		at := slices.IndexFunc(k.Build.Parts, func(p measure.Part) bool { return p.ID == e.Text })
		if at < 0 {
			return &measure.Fault{
				Field:  document.SetShell,
				Reason: "the build has no such own part",
				Remedy: "upload the mesh under own parts first",
			}
		}
		part := k.Build.Parts[at]
		f, err := h.store.FileOf(ctx, id, part.Hash)
		if err != nil {
			return err
		}
		var data bytes.Buffer
		if err := h.store.Read(ctx, f, &data); err != nil {
			return err
		}
		m, err := sheets.ReadSTL(&data, nil)
		if err != nil {
			return err
		}
		shell, err := form.NewShell(m, measure.Units[part.Unit]*float64(part.DrawnAt))
		if err != nil {
			return measure.At(document.SetShell, err)
		}
		edits[i] = document.Edit{Op: document.SetBody, Body: &form.Body{Shell: shell}}
	}
	return nil
}
