package server

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"strings"
	"syscall"

	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/plan"
	"cinderpath/server/api"
	"cinderpath/store"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/gin-gonic/gin"
)

// problem writes problem details (RFC 9457) and ends the request.
func problem(ctx *gin.Context, p api.Problem) {
	p.Type = "about:blank"
	write(ctx, p.Status, p)
}

func write(ctx *gin.Context, status int, body any) {
	data, err := json.Marshal(body)
	if err != nil {
		slog.Error("a problem could not be written", "error", err)
		status, data = http.StatusInternalServerError, []byte(
			`{"type":"about:blank","title":"This went wrong here","status":500,"detail":""}`,
		)
	}
	ctx.Data(status, "application/problem+json", data)
	ctx.Abort()
}

// stale is the error of a write that saw an older state, with the newer one.
type stale struct {
	seen    int64
	current api.BuildState
}

func (s *stale) Error() string { return "changed meanwhile" }

// fail says what an error means to the one who asked.
func fail(ctx *gin.Context, err error) {
	var (
		fault   *measure.Fault
		refusal *document.Refusal
		older   *stale
		oldWork *store.StaleError
		large   *http.MaxBytesError
		request *openapi3filter.RequestError
		syntax  *json.SyntaxError
	)
	switch {
	case errors.Is(err, errWritten), errors.Is(err, store.ErrUnsure), errors.Is(err, store.ErrAway):
		slog.Error("the database was away", "path", ctx.Request.URL.Path, "error", err.Error())
		ctx.Header("Retry-After", "2")
		problem(ctx, absent(err))
	case errors.Is(err, store.ErrFull), errors.Is(err, syscall.ENOSPC):
		slog.Error("a disk is full", "path", ctx.Request.URL.Path, "error", err.Error())
		problem(
			ctx,
			api.Problem{
				Status: http.StatusInsufficientStorage,
				Title:  "The disk is full",
				Detail: "There is no room left on the disk; nothing was written.",
				Remedy: ptr("make room on the disk of the data folder and of the temporary files, then try again"),
			},
		)
	case errors.As(err, &older):
		write(
			ctx,
			http.StatusPreconditionFailed,
			api.StaleProblem{
				Type:   "about:blank",
				Title:  "Changed in another window",
				Status: http.StatusPreconditionFailed,
				Detail: fmt.Sprintf(
					"You saw revision %d; it is now %d. Nothing of yours was written.",
					older.seen,
					older.current.Revision,
				),
				Remedy:  ptr("look at the newer state and save again"),
				Current: older.current,
			},
		)
	case errors.As(err, &oldWork):
		problem(
			ctx,
			api.Problem{
				Status: http.StatusPreconditionFailed,
				Title:  "Changed in another window",
				Detail: "The workshop was changed meanwhile. Nothing of yours was written.",
				Remedy: ptr("look at the newer state and save again"),
			},
		)
	case errors.As(err, &refusal):
		problem(
			ctx,
			api.Problem{
				Status: http.StatusUnprocessableEntity,
				Title:  "This order cannot be taken",
				Detail: refusal.Reason,
				Field:  &refusal.Field,
				Remedy: &refusal.Remedy,
				Rule:   &refusal.Rule,
				Mends:  &refusal.Mends,
			},
		)
	case errors.Is(err, plan.ErrForgotten):
		problem(
			ctx,
			api.Problem{
				Status: http.StatusNotFound,
				Title:  "No longer so",
				Detail: "The build does not look so any more: it was changed since.",
				Remedy: ptr("ask for the build again, and for what it names then"),
			},
		)
	case errors.As(err, &fault):
		problem(
			ctx,
			api.Problem{
				Status: http.StatusUnprocessableEntity,
				Title:  "This cannot be taken",
				Detail: fault.Reason,
				Field:  &fault.Field,
				Remedy: &fault.Remedy,
			},
		)
	case errors.As(err, &large):
		problem(
			ctx,
			api.Problem{
				Status: http.StatusRequestEntityTooLarge,
				Title:  "Too large",
				Detail: fmt.Sprintf("It is larger than %s.", amount(large.Limit)),
				Field:  ptr("body"),
				Remedy: ptr("send less at a time; photographs and meshes have addresses of their own"),
			},
		)
	case errors.As(err, &request):
		problem(ctx, badRequest(request))
	case errors.Is(err, store.ErrNoFile):
		problem(
			ctx,
			api.Problem{
				Status: http.StatusNotFound,
				Title:  "No such file",
				Detail: "The picture or mesh itself is not in this workshop: an export carries only its name.",
				Field:  ptr("hash"),
				Remedy: ptr("upload the same file again; its marks are kept"),
			},
		)
	case errors.Is(err, store.ErrNotFound):
		problem(
			ctx,
			api.Problem{
				Status: http.StatusNotFound,
				Title:  "No such build",
				Detail: "It is not in this workshop, or was removed.",
				Remedy: ptr("go home and choose one that is there"),
			},
		)
	case errors.Is(err, routers.ErrPathNotFound), errors.Is(err, routers.ErrMethodNotAllowed):
		problem(ctx, nowhere)
	case errors.As(err, &syntax), errors.Is(err, io.ErrUnexpectedEOF), errors.Is(err, io.EOF):
		problem(
			ctx,
			api.Problem{
				Status: http.StatusBadRequest,
				Title:  "Not readable",
				Detail: err.Error(),
				Field:  ptr("body"),
				Remedy: ptr("send JSON as openapi.yaml describes it"),
			},
		)
	default:
		slog.Error("a request failed", "path", ctx.Request.URL.Path, "error", err.Error())
		problem(
			ctx,
			api.Problem{
				Status: http.StatusInternalServerError,
				Title:  "This went wrong here",
				Detail: "The program could not finish this",
				Remedy: ptr("look whether what you sent is there, else try again; if it stays, see cinderpath doctor"),
			},
		)
	}
}

// errWritten says that what was sent is kept, though the answer to it could not be made.
var errWritten = errors.New("it was kept")

// absent says what it means to the one who asked that the database was away.
func absent(err error) api.Problem {
	p := api.Problem{
		Status: http.StatusServiceUnavailable,
		Title:  "The database does not answer",
		Detail: "The database is being started again; nothing was written.",
		Remedy: ptr("try again in a moment; what you typed stays here"),
	}
	switch {
	case errors.Is(err, errWritten):
		p.Detail = "It was kept, but the database went before the answer was made."
		p.Remedy = ptr("load the page again in a moment")
	case errors.Is(err, store.ErrUnsure):
		p.Title = "Not known whether it was kept"
		p.Detail = "The database went while it was writing: it was kept or not."
		p.Remedy = ptr("send it again under the same key or revision: it is kept once; the page does so by itself")
	}
	return p
}

// nowhere is what an address that names nothing answers.
var nowhere = api.Problem{
	Status: http.StatusNotFound,
	Title:  "Not here",
	Detail: "There is nothing at this address.",
	Remedy: ptr("see openapi.yaml for what there is"),
}

func amount(n int64) string {
	if n >= 1<<20 {
		return fmt.Sprintf("%d MB", n>>20)
	}
	return fmt.Sprintf("%d kB", n>>10)
}

// written is a field as the core writes it: places in lists in brackets.
func written(at []string) string {
	var out strings.Builder
	for i, name := range at {
		switch {
		case strings.Trim(name, "0123456789") == "":
			out.WriteString("[" + name + "]")
		case i > 0:
			out.WriteString("." + name)
		default:
			out.WriteString(name)
		}
	}
	return out.String()
}

// beyond words a number that lies outside its range.
func beyond(err *openapi3.SchemaError) (reason, remedy string, out bool) {
	s := err.Schema
	if s == nil || s.Min == nil || s.Max == nil || err.SchemaField != "minimum" && err.SchemaField != "maximum" {
		return "", "", false
	}
	return fmt.Sprintf("%v is beyond what it can be", err.Value), fmt.Sprintf("give %g to %g", *s.Min, *s.Max), true
}

// badRequest words what the validator found.
func badRequest(err *openapi3filter.RequestError) api.Problem {
	p := api.Problem{
		Status: http.StatusBadRequest,
		Title:  "Not as described",
		Detail: err.Reason,
		Remedy: ptr("see openapi.yaml for what belongs there"),
	}
	if err.Parameter != nil {
		p.Field = &err.Parameter.Name
		p.Detail = "it is missing or not readable"
		if err.Parameter.Name == "If-Match" {
			p.Remedy = ptr(`send the revision you saw, like If-Match: "3"`)
		}
	} else {
		p.Field = ptr("body")
	}
	var schema *openapi3.SchemaError
	var parse *openapi3filter.ParseError
	switch {
	case errors.As(err, &schema):
		if at := schema.JSONPointer(); len(at) > 0 {
			p.Field = ptr(written(at))
		}
		p.Detail = schema.Reason
		if strings.Contains(p.Detail, "json.Number") {
			p.Detail = "the number is too large to be read"
		}
		if reason, remedy, out := beyond(schema); out {
			p.Status, p.Title = http.StatusUnprocessableEntity, "This cannot be taken"
			p.Detail, p.Remedy = reason, &remedy
		}
	case errors.As(err, &parse):
		p.Detail = "it is not readable JSON: " + parse.Error()
	}
	if err.Err != nil && strings.Contains(err.Err.Error(), "request body too large") {
		p.Status, p.Title, p.Detail = http.StatusRequestEntityTooLarge, "Too large", fmt.Sprintf(
			"It is larger than %s.",
			amount(documentLimit),
		)
	}
	return p
}
