package server

import (
	"context"
	"fmt"
	"strings"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/plan"
	"cinderpath/server/api"
	"cinderpath/sheets"
	"cinderpath/store"

	"github.com/google/uuid"
)

func (h *handlers) ExportBuild(
	ctx context.Context,
	r api.ExportBuildRequestObject,
) (api.ExportBuildResponseObject, error) {
	s, err := h.bench.look(ctx)
	if err != nil {
		return nil, err
	}
	d := s.Document
	d.Format, d.Version, d.Focus = sheets.Format, sheets.Version, r.Id
	name := ""
	for _, item := range d.Items {
		if item.Build.ID == r.Id {
			name = fileName(item.Build)
			if r.Params.Only != nil && *r.Params.Only {
				d.Items = []document.Item{item}
			}
			break
		}
	}
	if name == "" {
		return nil, store.ErrNotFound
	}
	return api.ExportBuild200JSONResponse{
		Body:    d,
		Headers: api.ExportBuild200ResponseHeaders{ContentDisposition: ptr(`attachment; filename="` + name + `.json"`)},
	}, nil
}

// fileName is what a build is called as a file: its name in plain letters, or its id where
// the name has none.
func fileName(b document.Build) string {
	name := strings.Trim(notInFileNames.ReplaceAllString(strings.ToLower(b.Name), "-"), "-")
	if name == "" {
		return b.ID
	}
	return name
}

func (h *handlers) ImportBuilds(
	ctx context.Context,
	r api.ImportBuildsRequestObject,
) (api.ImportBuildsResponseObject, error) {
	imported, err := Import(ctx, h.store, h.deriver, *r.Body, h.now(), h.newID)
	return api.ImportBuilds200JSONResponse(imported), err
}

// Import adds a document's builds to the store. A build whose id is there already
// comes in as a copy under a new id; nothing is ever overwritten.
func Import(
	ctx context.Context,
	s *store.Store,
	deriver *plan.Deriver,
	d sheets.Document,
	now time.Time,
	newID func() string,
) ([]api.Imported, error) {
	out := []api.Imported{}
	resolved := d.Resolve(now)
	for i := range resolved.Items {
		item := &resolved.Items[i]
		if uuid.Validate(item.Build.ID) != nil {
			return nil, &measure.Fault{
				Field:  "id",
				Reason: fmt.Sprintf("%q is not a UUID", item.Build.ID),
				Remedy: "give the build one",
			}
		}
		there, err := s.Has(ctx, item.Build.ID)
		if err != nil {
			return nil, err
		}
		if there {
			item.Build.ID = newID()
			item.Build.Name += ", imported"
		}
		err = item.Build.Check()
		if err == nil { // nothing is stored that nothing follows from
			err = deriver.Check(d.Workshop, *item, nil, now)
		}
		if err != nil {
			return nil, measure.At(fmt.Sprintf("items[%d]", i), err)
		}
		for k := range item.Log {
			if uuid.Validate(item.Log[k].Key) != nil {
				return nil, &measure.Fault{Field: "log.key", Reason: "a log entry's key is not a UUID", Remedy: "give it one"}
			}
		}
		out = append(out, api.Imported{Id: item.Build.ID, Name: item.Build.Name, Copied: there})
	}
	return out, s.Add(ctx, resolved.Items...)
}
