// Package server speaks HTTP: it reads requests as openapi.yaml describes them,
// asks the store and the core, and writes their answers. It computes nothing.
package server

import (
	"context"
	"crypto/rand"
	"embed"
	"encoding/base64"
	"errors"
	"fmt"
	"io/fs"
	"net"
	"net/http"
	"path"
	"strings"
	"sync"
	"time"

	"cinderpath/core/plan"
	"cinderpath/server/api"
	"cinderpath/store"

	"github.com/getkin/kin-openapi/openapi3"
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
	UI    fs.FS    // the built interface
	Hosts []string // Host names answered besides those of loopback
	// Shared are the addresses at which other devices on the network find it; they are let in by a
	// code. Without any it answers its own machine only.
	Shared []string
	Now    func() time.Time // the clock; time.Now when nil
	NewID  func() string
	// Deriver is what builds are derived by; one of its own when nil. What it remembers goes by what was
	// asked, so that several servers may share one.
	Deriver *plan.Deriver
}

type handlers struct {
	store   *store.Store
	deriver *plan.Deriver
	bench   *workbench
	meshes  jobs
	pairing *pairing
	now     func() time.Time
	newID   func() string
}

// New builds the HTTP handler.
func New(c Config) (http.Handler, error) {
	gin.SetMode(gin.ReleaseMode)
	h := &handlers{store: c.Store, deriver: c.Deriver, now: c.Now, newID: c.NewID, pairing: newPairing(c.Shared)}
	if h.deriver == nil {
		h.deriver = new(plan.Deriver)
	}
	if h.now == nil {
		h.now = time.Now
	}
	h.bench = newWorkbench(c.Store, h.deriver, h.now)
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
		guard(c.Hosts, h.pairing),
		h.pairing.admit,
		whence,
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
	api.RegisterHandlersWithOptions(
		g.Group("/", limit, validate(router), unchanged),
		strict,
		api.GinServerOptions{
			ErrorHandler: func(ctx *gin.Context, err error, _ int) { fail(ctx, err) }},
	)
	return headers(g), nil
}

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
		WriteTimeout:      3 * time.Minute, // many builds after a start are planned one by one
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
