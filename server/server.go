// Package server speaks HTTP: it reads requests as openapi.yaml describes them,
// asks the store and the core, and writes their answers. It computes nothing.
package server

import (
	"bytes"
	"context"
	"crypto/rand"
	"embed"
	"encoding/base64"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"mime"
	"net"
	"net/http"
	"net/url"
	"path"
	"slices"
	"strings"
	"sync"
	"time"

	"cinderpath/core/measure"
	"cinderpath/core/plan"
	"cinderpath/server/api"
	"cinderpath/sheets"
	"cinderpath/store"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
)

//go:embed openapi.yaml
var contract embed.FS

// The largest body of a request, bytes, and of one that is a whole document.
const (
	documentLimit = 1 << 20
	wholeLimit    = 16 << 20
)

// Config is what a server needs.
type Config struct {
	Store *store.Store
	UI    fs.FS            // the built interface
	Hosts []string         // Host names answered besides those of loopback
	Now   func() time.Time // the clock; time.Now when nil
	NewID func() string
}

type handlers struct {
	store   *store.Store
	deriver plan.Deriver
	bench   workbench
	meshes  jobs
	now     func() time.Time
	newID   func() string
}

// New builds the HTTP handler.
func New(c Config) (http.Handler, error) {
	gin.SetMode(gin.ReleaseMode)
	h := &handlers{store: c.Store, now: c.Now, newID: c.NewID}
	if h.now == nil {
		h.now = time.Now
	}
	h.bench = workbench{store: c.Store, deriver: &h.deriver, now: h.now}
	routes, err := Contract()
	if err != nil {
		return nil, err
	}
	router, err := gorillamux.NewRouter(routes)
	if err != nil {
		return nil, fmt.Errorf("openapi.yaml: %w", err)
	}
	g := gin.New()
	g.HandleMethodNotAllowed = true
	g.ContextWithFallback = true
	g.Use(
		recovered,
		guard(c.Hosts),
		wait,
		gzip.Gzip(
			gzip.BestSpeed,
			gzip.WithExcludedPathsRegexs(
				[]string{
					`/files/`,
					`/pictures/`,
					`/archive`,
					`^/api/home$`,
					`^/api/evenings$`,
					`^/api/builds/[^/]+(/edits|/log)?$`,
				},
			),
		),
	)
	g.NoMethod(func(ctx *gin.Context) {
		problem(
			ctx,
			api.Problem{
				Status: http.StatusMethodNotAllowed,
				Title:  "Not that way",
				Detail: ctx.Request.Method + " does nothing at this address",
			},
		)
	})
	g.NoRoute(interfaceFiles(c.UI))
	strict := api.NewStrictHandlerWithOptions(
		h,
		nil,
		api.StrictGinServerOptions{RequestErrorHandlerFunc: fail, HandlerErrorFunc: fail, ResponseErrorHandlerFunc: fail},
	)
	api.RegisterHandlersWithOptions(g.Group("/", limit, validate(router), unchanged), strict, api.GinServerOptions{
		ErrorHandler: func(ctx *gin.Context, err error, _ int) { fail(ctx, err) }})
	return headers(g), nil
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

// Contract gives openapi.yaml as it was built in; nobody changes it.
var Contract = sync.OnceValues(loadContract)

func loadContract() (*openapi3.T, error) {
	data, err := contract.ReadFile("openapi.yaml")
	if err != nil {
		return nil, err
	}
	doc, err := openapi3.NewLoader().LoadFromData(data)
	if err != nil {
		return nil, fmt.Errorf("openapi.yaml: %w", err)
	}
	openapi3.DefineStringFormatValidator("uuid", openapi3.NewCallbackValidator(func(s string) error {
		if len(s) != 36 || uuid.Validate(s) != nil {
			return errors.New("it is not a UUID")
		}
		return nil
	}))
	doc.Servers = nil // any address will do; guard looks at the Host
	return doc, nil
}

// Serve answers on the listener until the context ends, then lets what runs finish.
func Serve(ctx context.Context, l net.Listener, h http.Handler) error {
	s := &http.Server{
		Handler:           h,
		ReadHeaderTimeout: 5 * time.Second,
		ReadTimeout:       30 * time.Second,
		WriteTimeout:      60 * time.Second,
		IdleTimeout:       2 * time.Minute,
		MaxHeaderBytes:    64 << 10,
	}
	done := make(chan error, 1)
	go func() {
		<-ctx.Done()
		grace, cancel := context.WithTimeout(context.WithoutCancel(ctx), 5*time.Second)
		defer cancel()
		done <- s.Shutdown(grace)
	}()
	if err := s.Serve(l); !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return <-done
}

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
func guard(extra []string) gin.HandlerFunc {
	own := append([]string{"localhost", "127.0.0.1", "::1"}, extra...)
	return func(ctx *gin.Context) {
		host := ctx.Request.Host
		if name, _, err := net.SplitHostPort(host); err == nil {
			host = name
		}
		host = strings.TrimSuffix(strings.ToLower(strings.Trim(host, "[]")), ".")
		if !slices.Contains(own, host) {
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
			if u, err := url.Parse(origin); err != nil || u.Host != ctx.Request.Host || u.Scheme != scheme(ctx.Request) {
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
		header.Set("Content-Security-Policy", "default-src 'none'")
		ctx.Next()
	}
}

// scheme is how the request came.
func scheme(r *http.Request) string {
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

func limit(ctx *gin.Context) {
	most, ok := upload(ctx.Request)
	if !ok {
		most = documentLimit
		if slices.Contains(wholeDocuments, ctx.Request.URL.Path) {
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
var wholeDocuments = []string{"/api/import", "/api/calc/plan"}

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

// interfaceFiles serves the built interface; unknown paths get its first page,
// which knows the routes.
func interfaceFiles(files fs.FS) gin.HandlerFunc {
	static := http.FileServerFS(files)
	return func(ctx *gin.Context) {
		name := strings.TrimPrefix(path.Clean(ctx.Request.URL.Path), "/")
		if strings.HasPrefix(name, "api/") ||
			(ctx.Request.Method != http.MethodGet && ctx.Request.Method != http.MethodHead) {
			problem(ctx, nowhere)
			return
		}
		if info, err := fs.Stat(files, name); err == nil && !info.IsDir() && name != "index.html" {
			if strings.HasPrefix(name, "assets/") {
				ctx.Header("Cache-Control", "public, max-age=31536000, immutable") // names carry a hash
			}
			static.ServeHTTP(ctx.Writer, ctx.Request)
			return
		}
		page, err := fs.ReadFile(files, "index.html")
		if err != nil {
			problem(
				ctx,
				api.Problem{
					Status: http.StatusNotFound,
					Title:  "No interface",
					Detail: "The interface was not built into this program.",
					Remedy: ptr("run make build"),
				},
			)
			return
		}
		raw := make([]byte, 16)
		if _, err := rand.Read(raw); err != nil {
			fail(ctx, err)
			return
		}
		nonce := base64.StdEncoding.EncodeToString(raw)
		ctx.Header("Cache-Control", "no-store")
		ctx.Header(
			"Content-Security-Policy",
			"default-src 'none'; script-src 'self'; style-src 'self' 'nonce-"+nonce+"'; img-src 'self' data: blob:; "+
				"font-src 'self'; connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'self'; "+
				"frame-ancestors 'none'",
		)
		ctx.Data(http.StatusOK, "text/html; charset=utf-8", []byte(strings.ReplaceAll(string(page), "__NONCE__", nonce)))
	}
}

func ptr[T any](x T) *T { return &x }
