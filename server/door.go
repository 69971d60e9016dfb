package server

import (
	"bytes"
	"fmt"
	"io"
	"log/slog"
	"mime"
	"net"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"cinderpath/core/measure"
	"cinderpath/server/api"
	"cinderpath/sheets"

	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/gin-gonic/gin"
)

// recovered turns a panic into a plain problem; its stack goes nowhere near the user.
func recovered(ctx *gin.Context) {
	defer func() {
		if r := recover(); r != nil {
			slog.Error("a request failed", "path", ctx.Request.URL.Path, "panic", fmt.Sprint(r))
			problem(
				ctx,
				api.Problem{
					Status: http.StatusInternalServerError,
					Title:  "This went wrong here",
					Detail: "The program failed while it answered.",
					Remedy: ptr("look whether what you sent is there before you send it again"),
				},
			)
		}
	}()
	ctx.Next()
}

// guard refuses requests under a foreign name (a page elsewhere that points a name
// of its own at this machine) and requests sent by pages of another origin.
func guard(extra []string, shared *pairing) gin.HandlerFunc {
	own := append([]string{"localhost", "127.0.0.1", "::1"}, extra...)
	return func(ctx *gin.Context) {
		host := ctx.Request.Host
		if name, _, err := net.SplitHostPort(host); err == nil {
			host = name
		}
		host = strings.TrimSuffix(strings.ToLower(strings.Trim(host, "[]")), ".")
		if !slices.Contains(own, host) && !shared.own(ctx.Request, host) {
			problem(
				ctx,
				api.Problem{
					Status: http.StatusMisdirectedRequest,
					Title:  "Foreign host name",
					Detail: "This server answers only under its own name.",
					Remedy: ptr("open it as localhost or 127.0.0.1"),
				},
			)
			return
		}
		if origin := ctx.GetHeader("Origin"); origin != "" {
			if u, err := url.Parse(origin); err != nil || u.Host != ctx.Request.Host || u.Scheme != schemeOf(ctx.Request) {
				problem(
					ctx,
					api.Problem{
						Status: http.StatusForbidden,
						Title:  "Foreign page",
						Detail: "A page of another origin sent this.",
						Remedy: ptr("use the program's own page"),
					},
				)
				return
			}
		}
		header := ctx.Writer.Header()
		header.Set("X-Content-Type-Options", "nosniff")
		header.Set("Referrer-Policy", "no-referrer")
		header.Set("Content-Security-Policy", policyOf(ctx.Request.URL.Path))
		ctx.Next()
	}
}

// policyOf says what an answer may load: nothing. A drawing that is opened by itself carries its
// pens as styles, and its pictures in it.
func policyOf(path string) string {
	if strings.HasSuffix(path, ".svg") {
		return "default-src 'none'; style-src 'unsafe-inline'; img-src data:"
	}
	return "default-src 'none'"
}

// schemeOf is how the request came.
func schemeOf(r *http.Request) string {
	if r.TLS != nil {
		return "https"
	}
	return "http"
}

// uploads are the routes that take files, with the largest body of each.
var uploads = map[string]int64{
	"/photos":  sheets.LargestPhoto,
	"/meshes":  LargestMesh,
	"/archive": LargestArchive,
}

// upload gives the largest body of a route that takes a file.
func upload(r *http.Request) (most int64, ok bool) {
	if r.Method != http.MethodPost {
		return 0, false
	}
	most, ok = uploads[r.URL.Path[max(strings.LastIndexByte(r.URL.Path, '/'), 0):]]
	return most, ok
}

// patience is how long a file may take to arrive; documents have the server's own limits.
const patience = 10 * time.Minute

// wait lets files take longer than documents, either way. A writer that cannot be told (in
// tests) has no limits either.
func wait(ctx *gin.Context) {
	_, up := upload(ctx.Request)
	if up || strings.Contains(ctx.Request.URL.Path, "/files/") || ctx.Request.URL.Path == "/api/archive" {
		c := http.NewResponseController(ctx.Writer)
		_ = c.SetReadDeadline(time.Now().Add(patience))
		_ = c.SetWriteDeadline(time.Now().Add(patience))
	}
	ctx.Next()
}

// withPictures are addresses that pictures are sent to, in base64.
func withPictures(path string) bool {
	return strings.HasSuffix(path, "/trace") || strings.HasSuffix(path, "/sides")
}

func limit(ctx *gin.Context) {
	most, ok := upload(ctx.Request)
	if !ok {
		most = documentLimit
		path := ctx.Request.URL.Path
		if slices.Contains(wholeDocuments, path) || path == "/api/calc/swatch" || withPictures(path) {
			most = wholeLimit
		}
	}
	if ctx.Request.ContentLength > most {
		fail(ctx, &http.MaxBytesError{Limit: most})
		return
	}
	ctx.Request.Body = http.MaxBytesReader(ctx.Writer, ctx.Request.Body, most)
	ctx.Next()
}

// wholeDocuments are the routes whose body sheets.Read checks, since it can say of
// a newer version that it is newer.
var wholeDocuments = []string{
	"/api/import",
	"/api/calc/plan",
	"/api/calc/shopping",
	"/api/calc/scheme",
	"/api/calc/mask",
	"/api/calc/tape",
}

// validate holds requests against openapi.yaml.
func validate(router routers.Router) gin.HandlerFunc {
	return func(ctx *gin.Context) {
		route, params, err := router.FindRoute(ctx.Request)
		if err != nil {
			fail(ctx, err)
			return
		}
		whole := slices.Contains(wholeDocuments, ctx.Request.URL.Path)
		_, file := upload(ctx.Request)
		if !file {
			if err := sound(ctx.Request, whole); err != nil {
				fail(ctx, err)
				return
			}
		}
		in := &openapi3filter.RequestValidationInput{
			Request:    ctx.Request,
			PathParams: params,
			Route:      route,
			Options: &openapi3filter.Options{
				ExcludeRequestBody: whole || file,
				AuthenticationFunc: openapi3filter.NoopAuthenticationFunc,
			},
		}
		if err := openapi3filter.ValidateRequest(ctx, in); err != nil {
			fail(ctx, err)
			return
		}
		ctx.Next()
	}
}

// sound refuses what no reader should follow, and a whole document that is none.
func sound(r *http.Request, whole bool) error {
	if strings.ContainsRune(r.URL.Path, 0) || strings.Contains(strings.ToLower(r.URL.RawQuery), "%00") {
		return &measure.Fault{
			Field:  "address",
			Reason: "it holds a character of code zero",
			Remedy: "leave it out",
		}
	}
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return err
	}
	r.Body = io.NopCloser(bytes.NewReader(data))
	if !whole {
		return sheets.Sound(data)
	}
	if kind, _, err := mime.ParseMediaType(r.Header.Get("Content-Type")); err != nil || kind != "application/json" {
		return &measure.Fault{
			Field:  "Content-Type",
			Reason: "a document is sent as application/json",
			Remedy: "say so in the header",
		}
	}
	_, err = sheets.Read(bytes.NewReader(data))
	return err
}

// headers answers HEAD as GET, without a body.
func headers(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method == http.MethodHead {
			r = r.Clone(r.Context())
			r.Method = http.MethodGet
			w = bodiless{w}
		}
		next.ServeHTTP(w, r)
	})
}

// bodiless leaves the body of an answer out.
type bodiless struct{ http.ResponseWriter }

func (bodiless) Write(p []byte) (int, error) { return len(p), nil }

func (w bodiless) Unwrap() http.ResponseWriter { return w.ResponseWriter }
