package server

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"sync"

	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/server/api"
	"cinderpath/sheets"
	"cinderpath/store"
)

// LargestMesh is the largest STL that is taken in, bytes.
const LargestMesh = 150 << 20

// decoding lets one photograph be unpacked at a time: each takes up to two hundred
// megabytes while it is.
var decoding sync.Mutex

// spooled keeps a body in a temporary file until all of it is there: a sender may be slow,
// and nothing else waits for it.
func (h *handlers) spooled(ctx context.Context, build string, body io.Reader) (*os.File, error) {
	if build != store.Shop {
		if _, err := h.store.Build(ctx, build); err != nil {
			return nil, err
		}
	}
	return temporary(body)
}

// UploadShopPhoto keeps a photograph of the workshop: of a sprayed chip.
func (h *handlers) UploadShopPhoto(
	ctx context.Context,
	r api.UploadShopPhotoRequestObject,
) (api.UploadShopPhotoResponseObject, error) {
	kept, err := h.photo(ctx, store.Shop, r.Body)
	return api.UploadShopPhoto200JSONResponse(kept), err
}

func (h *handlers) UploadPhoto(
	ctx context.Context,
	r api.UploadPhotoRequestObject,
) (api.UploadPhotoResponseObject, error) {
	kept, err := h.photo(ctx, r.Id, r.Body)
	return api.UploadPhoto200JSONResponse(kept), err
}

// photo keeps a photograph of a build, or of the workshop, upright.
func (h *handlers) photo(ctx context.Context, build string, body io.Reader) (out api.Uploaded, err error) {
	file, err := h.spooled(ctx, build, body)
	if err != nil {
		return out, err
	}
	defer file.Close()
	picture, err := unpacked(file)
	if err != nil {
		return out, err
	}
	f, err := h.store.KeepFile(ctx, build, picture.Media, bytes.NewReader(picture.Data))
	return api.Uploaded{Hash: f.Hash, Size: int(f.Size), Width: &picture.Width, Height: &picture.Height}, err
}

func unpacked(file io.Reader) (sheets.Picture, error) {
	decoding.Lock()
	defer decoding.Unlock()
	data, err := io.ReadAll(file)
	if err != nil {
		return sheets.Picture{}, err
	}
	return sheets.ReadPhoto(data)
}

const meshMedia = "model/stl"

// UploadMesh reads the mesh before it is kept: a file that is no STL is not.
func (h *handlers) UploadMesh(
	ctx context.Context,
	r api.UploadMeshRequestObject,
) (api.UploadMeshResponseObject, error) {
	file, err := h.spooled(ctx, r.Id, r.Body)
	if err != nil {
		return nil, err
	}
	defer file.Close()
	mesh, err := sheets.ReadSTL(file, nil)
	if err != nil {
		return nil, err
	}
	if _, err := file.Seek(0, io.SeekStart); err != nil {
		return nil, err
	}
	f, err := h.store.KeepFile(ctx, r.Id, meshMedia, file)
	if err != nil {
		return nil, err
	}
	solid := mesh.Measure()
	h.meshes.begin(f.Hash, h.measureWalls(ctx, f, mesh, solid))
	return api.UploadMesh200JSONResponse{Hash: f.Hash, Size: int(f.Size), Solid: &solid}, nil
}

// job is a mesh being measured.
type job struct {
	stage string
	share float64
	err   error
	shape *sheets.Shape
}

// Stages of a job.
const (
	jobWaiting = "waiting"
	jobReading = "reading"
	jobWalls   = "walls"
	jobDone    = "done"
	jobFailed  = "failed"
)

// jobs are the meshes that are measured or were lately, by content hash. One is
// measured at a time; it uses all processors.
type jobs struct {
	mu   sync.Mutex
	all  map[string]*job
	turn sync.Mutex
}

func (j *jobs) look(hash string) (job, bool) {
	j.mu.Lock()
	defer j.mu.Unlock()
	k, ok := j.all[hash]
	if !ok {
		return job{}, false
	}
	return *k, true
}

// begin runs a job unless it runs already.
func (j *jobs) begin(hash string, run func(tell func(stage string, share float64, shape *sheets.Shape)) error) {
	j.mu.Lock()
	defer j.mu.Unlock()
	if k, ok := j.all[hash]; ok && k.stage != jobFailed {
		return
	}
	if j.all == nil {
		j.all = map[string]*job{}
	}
	k := &job{stage: jobWaiting}
	j.all[hash] = k
	go func() {
		j.turn.Lock()
		defer j.turn.Unlock()
		err := run(func(stage string, share float64, shape *sheets.Shape) {
			j.mu.Lock()
			defer j.mu.Unlock()
			k.stage, k.share = stage, max(share, 0)
			if shape != nil {
				k.shape = shape
			}
		})
		if err != nil {
			j.mu.Lock()
			defer j.mu.Unlock()
			k.stage, k.err = jobFailed, err
		}
	}()
}

// measureWalls finds the thinnest wall of a mesh and remembers it with the file.
// Without a mesh it reads the file first.
func (h *handlers) measureWalls(
	ctx context.Context,
	f store.File,
	m *form.Mesh,
	solid form.Solid,
) func(func(string, float64, *sheets.Shape)) error {
	return func(tell func(string, float64, *sheets.Shape)) error {
		ctx := context.WithoutCancel(ctx) // the request that asked may be long gone
		if m == nil {
			from, to := io.Pipe()
			go func() { to.CloseWithError(h.store.Read(ctx, f, to)) }()
			tell(jobReading, 0, nil)
			var err error
			m, err = sheets.ReadSTL(from, func(n int64) { tell(jobReading, float64(n)/float64(max(f.Size, 1)), nil) })
			if err := errors.Join(err, from.Close()); err != nil {
				return err
			}
			solid = m.Measure()
		}
		tell(jobWalls, 0, &sheets.Shape{Solid: solid})
		walls := m.Walls(solid, func(share float64) { tell(jobWalls, share, nil) }, nil)
		m = nil
		shape := sheets.Shape{Solid: solid, Walls: &walls}
		if err := h.store.KeepShape(ctx, f, shape); err != nil {
			return err
		}
		tell(jobDone, 1, &shape)
		return nil
	}
}

func (h *handlers) PartState(ctx context.Context, r api.PartStateRequestObject) (api.PartStateResponseObject, error) {
	k, err := h.store.Build(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	w, _, _, err := h.store.Workshop(ctx)
	if err != nil {
		return nil, err
	}
	for _, part := range k.Build.Parts {
		if part.ID != r.Part {
			continue
		}
		printer, err := w.Printer(part.Printer)
		if err != nil {
			return nil, err
		}
		out := api.PartState{Printer: printer, Calibration: form.CalibrationWords(printer)}
		f, err := h.store.FileOf(ctx, r.Id, part.Hash)
		if err != nil {
			return nil, err
		}
		var shape sheets.Shape
		kept, err := h.store.Shape(ctx, f, &shape)
		if err != nil {
			return nil, err
		}
		out.Stage, out.Share = jobDone, 1
		if !kept {
			h.meshes.begin(f.Hash, h.measureWalls(ctx, f, nil, form.Solid{}))
			j, _ := h.meshes.look(f.Hash)
			out.Stage, out.Share = api.PartStateStage(j.stage), j.share
			if j.err != nil {
				out.Failed = ptr(j.err.Error())
			}
			if j.shape == nil {
				return api.PartState200JSONResponse(out), nil
			}
			shape = *j.shape
		}
		out.Answer = &sheets.MeshAnswer{Shape: shape, Report: part.Judge(shape.Facts(), k.Build.Scale, printer)}
		return api.PartState200JSONResponse(out), nil
	}
	return nil, &measure.Fault{
		Field:  "part",
		Reason: "there is no such part in this build",
		Remedy: "look at the newer state",
	}
}

func (h *handlers) File(ctx context.Context, r api.FileRequestObject) (api.FileResponseObject, error) {
	f, err := h.store.FileOf(ctx, r.Id, r.Hash)
	if err != nil {
		return nil, err
	}
	from, to := io.Pipe()
	go func() { to.CloseWithError(h.store.Read(ctx, f, to)) }()
	headers := api.File200ResponseHeaders{CacheControl: ptr("private, max-age=31536000, immutable")}
	switch f.Media {
	case meshMedia:
		headers.ContentDisposition = ptr(fmt.Sprintf(`attachment; filename="%s.stl"`, f.Hash[:12]))
		return api.File200ModelstlResponse{Body: from, Headers: headers, ContentLength: f.Size}, nil
	case "image/jpeg":
		return api.File200ImagejpegResponse{Body: from, Headers: headers, ContentLength: f.Size}, nil
	}
	return api.File200ImagepngResponse{Body: from, Headers: headers, ContentLength: f.Size}, nil
}

// ShopFile gives a photograph of the workshop.
func (h *handlers) ShopFile(ctx context.Context, r api.ShopFileRequestObject) (api.ShopFileResponseObject, error) {
	f, err := h.store.FileOf(ctx, store.Shop, r.Hash)
	if err != nil {
		return nil, err
	}
	from, to := io.Pipe()
	go func() { to.CloseWithError(h.store.Read(ctx, f, to)) }()
	headers := api.ShopFile200ResponseHeaders{CacheControl: ptr("private, max-age=31536000, immutable")}
	if f.Media == "image/jpeg" {
		return api.ShopFile200ImagejpegResponse{Body: from, Headers: headers, ContentLength: f.Size}, nil
	}
	return api.ShopFile200ImagepngResponse{Body: from, Headers: headers, ContentLength: f.Size}, nil
}

func (h *handlers) Calibration(
	ctx context.Context,
	r api.CalibrationRequestObject,
) (api.CalibrationResponseObject, error) {
	w, _, _, err := h.store.Workshop(ctx)
	if err != nil {
		return nil, err
	}
	printer, err := w.Printer(r.Printer)
	if err != nil {
		return nil, err
	}
	m, _, _ := form.Calibration(printer)
	var out bytes.Buffer
	if err := sheets.WriteSTL(&out, m, "calibration piece, mm"); err != nil {
		return nil, err
	}
	return api.Calibration200ApplicationoctetStreamResponse{Body: &out, ContentLength: int64(out.Len()),
		Headers: api.Calibration200ResponseHeaders{ContentDisposition: ptr(`attachment; filename="calibration.stl"`)}}, nil
}

// shelf is the workshop's own table of stock, unless the question brings one.
func (h *handlers) shelf(ctx context.Context, asked **measure.Shelf) error {
	if *asked != nil {
		return nil
	}
	w, _, _, err := h.store.Workshop(ctx)
	*asked = &w.Stock
	return err
}
