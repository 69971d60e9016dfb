package server

import (
	"context"
	"io"
	"os"
	"slices"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/plan"
	"cinderpath/server/api"
	"cinderpath/sheets"
	"cinderpath/store"
)

// LargestArchive is the largest archive that is taken in, bytes.
const LargestArchive = 4 << 30

// BackUp writes all of a workshop into one archive: what all builds share, the builds with
// their logs, photographs and meshes.
func BackUp(ctx context.Context, s *store.Store, w io.Writer, now time.Time) error {
	shop, _, _, err := s.Workshop(ctx)
	if err != nil {
		return err
	}
	items, _, err := s.Items(ctx)
	if err != nil {
		return err
	}
	kept, err := s.FilesOf(ctx)
	if err != nil {
		return err
	}
	files, byHash := make([]sheets.ArchiveFile, len(kept)), map[string]store.File{}
	for i, f := range kept {
		files[i] = sheets.ArchiveFile{Hash: f.Hash, Media: f.Media, Size: f.Size}
		byHash[f.Hash] = f
	}
	d := sheets.Document{AsOf: now.UTC().Truncate(time.Minute), Workshop: shop, Items: items}
	return sheets.WriteArchive(w, d, files, func(f sheets.ArchiveFile, w io.Writer) error {
		return s.Read(ctx, byHash[f.Hash], w)
	})
}

// Restore brings all of an archive back. Builds that are there already come in as copies.
// Hours, stock, printers and airbrushes are taken where no build stands yet; a workshop that
// is in use keeps its own.
func Restore(
	ctx context.Context,
	s *store.Store,
	deriver *plan.Deriver,
	archive io.ReaderAt,
	size int64,
	now time.Time,
	newID func() string,
) (api.Restored, error) {
	a, err := sheets.ReadArchive(archive, size)
	if err != nil {
		return api.Restored{}, err
	}
	there, err := s.Builds(ctx)
	if err != nil {
		return api.Restored{}, err
	}
	out := api.Restored{Workshop: len(there) == 0, Files: len(a.Files)}
	if out.Builds, err = Import(ctx, s, deriver, a.Document, now, newID); err != nil {
		return api.Restored{}, err
	}
	for i, b := range out.Builds {
		if err := bringFiles(ctx, s, a, a.Items[i], b.Id); err != nil {
			return out, partly(err)
		}
	}
	if out.Workshop {
		for _, f := range a.Files {
			if !a.Workshop.Paint.Shows(f.Hash) {
				continue
			}
			if err := bringFile(ctx, s, f, store.Shop); err != nil {
				return out, partly(err)
			}
		}
		_, revision, _, err := s.Workshop(ctx)
		if err == nil {
			_, err = s.KeepWorkshop(ctx, a.Workshop, revision)
		}
		if err != nil {
			return out, partly(err)
		}
	}
	return out, nil
}

// partly tells that an archive's builds are kept, though something after them went wrong.
func partly(err error) error {
	return &measure.Fault{
		Field:  "archive",
		Reason: "its builds are here, but not all that belongs to them: " + err.Error(),
		Remedy: "remove these builds and bring the archive in again",
	}
}

// bringFiles keeps those files of an archive that a build names.
func bringFiles(ctx context.Context, s *store.Store, a sheets.Archive, item document.Item, id string) error {
	named := item.Files()
	for _, f := range a.Files {
		if !slices.Contains(named, f.Hash) {
			continue
		}
		if err := bringFile(ctx, s, f, id); err != nil {
			return err
		}
	}
	return nil
}

func bringFile(ctx context.Context, s *store.Store, f sheets.ArchiveFile, id string) error {
	from, err := f.Open()
	if err != nil {
		return err
	}
	defer from.Close()
	file, err := temporary(from)
	if err != nil {
		return err
	}
	defer file.Close()
	_, err = s.KeepFile(ctx, id, f.Media, file)
	return err
}

// temporary holds what it reads in a file without a name: whatever happens to the program,
// the file goes with it.
func temporary(from io.Reader) (*os.File, error) {
	f, err := os.CreateTemp("", "cinderpath-*")
	if err != nil {
		return nil, err
	}
	err = os.Remove(f.Name())
	if err == nil {
		_, err = io.Copy(f, from)
	}
	if err == nil {
		_, err = f.Seek(0, io.SeekStart)
	}
	if err != nil {
		_ = f.Close()
		return nil, err
	}
	return f, nil
}

func (h *handlers) GetArchive(
	ctx context.Context,
	_ api.GetArchiveRequestObject,
) (api.GetArchiveResponseObject, error) {
	if err := h.store.Ping(ctx); err != nil {
		return nil, err // said before the answer begins
	}
	from, to := io.Pipe()
	go func() { to.CloseWithError(BackUp(ctx, h.store, to, h.now())) }()
	return api.GetArchive200ApplicationzipResponse{Body: from, Headers: api.GetArchive200ResponseHeaders{
		ContentDisposition: ptr(`attachment; filename="cinder-path-` + h.now().Format(time.DateOnly) + `.zip"`)}}, nil
}

func (h *handlers) RestoreArchive(
	ctx context.Context,
	r api.RestoreArchiveRequestObject,
) (api.RestoreArchiveResponseObject, error) {
	file, err := temporary(r.Body)
	if err != nil {
		return nil, err
	}
	defer file.Close()
	size, err := file.Seek(0, io.SeekEnd)
	if err != nil {
		return nil, err
	}
	out, err := Restore(ctx, h.store, h.deriver, file, size, h.now(), h.newID)
	return api.RestoreArchive200JSONResponse(out), err
}
