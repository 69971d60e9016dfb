package server_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/samples"
	"cinderpath/server"
	"cinderpath/store"
	"cinderpath/store/storetest"

	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestMain(m *testing.M) { storetest.Main(m) }

var now = time.Date(2026, 11, 23, 19, 0, 0, 0, time.UTC)

func newID() string { return uuid.Must(uuid.NewV7()).String() }

// deriver is shared by all benches: each of them would derive the same demo anew.
var deriver plan.Deriver

// bench is a server with the demo builds; its answers are held against openapi.yaml.
type bench struct {
	t      testing.TB
	h      http.Handler
	router routers.Router
	varrow string
	s      *store.Store

	patience time.Duration // with one answer; none is asked for when 0
}

func open(t testing.TB) bench { return openOn(t, storetest.Open(t)) }

// openOn is open on a store at hand.
func openOn(t testing.TB, s *store.Store) bench {
	w := document.Workshop{Name: "bench", Zone: "UTC", Calendar: path.Calendar{Temperature: 20, Humidity: 0.5}}
	for day := range 7 {
		w.Calendar.Weekly = append(w.Calendar.Weekly, path.Window{Day: day, From: "20:00", To: "22:30"})
	}
	_, err := s.KeepWorkshop(t.Context(), w, 0)
	require.NoError(t, err)
	documents, err := samples.Documents()
	require.NoError(t, err)
	for _, d := range documents {
		_, err := server.Import(t.Context(), s, &deriver, d, now, newID)
		require.NoError(t, err)
	}
	h, err := server.New(server.Config{Store: s, NewID: newID, Now: func() time.Time { return now }, Deriver: &deriver,
		UI: fstest.MapFS{"index.html": {Data: []byte(`<meta content="__NONCE__">`)}, "assets/a.js": {Data: []byte("1")}}})
	require.NoError(t, err)
	contract, err := server.Contract()
	require.NoError(t, err)
	router, err := gorillamux.NewRouter(contract)
	require.NoError(t, err)
	return bench{t: t, h: h, router: router, varrow: documents[0].Focus, s: s}
}

type answer struct {
	*httptest.ResponseRecorder
	problem struct {
		Title, Detail, Field, Remedy string
		Status                       int
		Current                      struct {
			Revision int64
			Build    struct{ Name string }
		}
	}
}

func (b bench) ask(method, path, body string, headers ...string) answer {
	r := httptest.NewRequest(method, "http://localhost"+path, strings.NewReader(body))
	if body != "" {
		r.Header.Set("Content-Type", "application/json")
	}
	for i := 0; i+1 < len(headers); i += 2 {
		r.Header.Set(headers[i], headers[i+1])
	}
	a := answer{ResponseRecorder: httptest.NewRecorder()}
	b.h.ServeHTTP(a.ResponseRecorder, r)
	if a.Code >= 400 {
		require.Equal(b.t, "application/problem+json", a.Header().Get("Content-Type"), "%s %s: %s", method, path, a.Body)
		require.NoError(b.t, json.Unmarshal(a.Body.Bytes(), &a.problem))
		assert.Equal(b.t, a.Code, a.problem.Status)
		assert.NotContains(b.t, a.Body.String(), "goroutine")
	}
	b.hold(r, a)
	return a
}

// hold checks an answer against the contract.
func (b bench) hold(r *http.Request, a answer) {
	route, params, err := b.router.FindRoute(r)
	if err != nil {
		return
	}
	in := &openapi3filter.ResponseValidationInput{
		Status:                 a.Code,
		Header:                 a.Header(),
		Body:                   io.NopCloser(bytes.NewReader(a.Body.Bytes())),
		RequestValidationInput: &openapi3filter.RequestValidationInput{Request: r, PathParams: params, Route: route},
		Options:                &openapi3filter.Options{IncludeResponseStatus: true},
	}
	if ct := a.Header().Get(
		"Content-Type",
	); strings.Contains(ct, "pdf") || strings.Contains(ct, "svg") || strings.Contains(ct, "image/") ||
		strings.Contains(ct, "model/") {
		return
	}
	assert.NoError(b.t, openapi3filter.ValidateResponse(r.Context(), in), "%s %s", r.Method, r.URL)
}

func (b bench) edit(revision int, edits string) answer {
	return b.ask(
		"POST",
		"/api/builds/"+b.varrow+"/edits",
		`{"edits":[`+edits+`]}`,
		"If-Match",
		fmt.Sprintf(`"%d"`, revision),
	)
}

func TestAnswersKeepTheContract(t *testing.T) {
	b := open(t)
	id := "/api/builds/" + b.varrow
	for _, c := range []struct {
		method, path, body string
		want               int
	}{
		{"GET", "/healthz", "", 200},
		{"GET", "/api/home", "", 200},
		{"GET", "/api/families", "", 200},
		{"GET", id, "", 200},
		{"GET", id + "/export", "", 200},
		{"GET", id + "/export?only=true", "", 200},
		{"GET", id + "/sheets/views.svg", "", 200},
		{"GET", id + "/sheets/views.pdf", "", 200},
		{"GET", id + "/sheets/track-jig.pdf?paper=Letter", "", 200},
		{"GET", id + "/sheets/wheel-masks.svg", "", 200},
		{"GET", id + "/sheets/trial.pdf?layer=01997a00-0000-7000-8000-0000c1de0e03", "", 200},
		{"GET", id + "/sheets/trial.svg?layer=nobody", "", 422},
		{"GET", id + "/sheets/arms.pdf", "", 422},
		{"GET", id + "/sheets/body.stl", "", 200},
		{"GET", id + "/sheets/body.glb", "", 200},
		{"GET", "/api/workshop", "", 200},
		{"GET", id + "/grips/hull", "", 200},
		{"GET", id + "/solids/00000000000000000000000000000000", "", 404},
		{"GET", id + "/pictures/nowhere/left", "", 400},
		{"GET", "/api/fittings", "", 200},
		{"POST", "/api/calc/track", `{"scale":"1:35","wheels":[{"kind":"idler","x":0,"z":500,"radius":300},{"kind":"idler","x":4000,"z":500,"radius":250}],"link":{"pitch":130,"surface":0,"ground":20,"width":400}}`, 200},
		{"POST", "/api/calc/place", `{"text":"-3 ft 2 in"}`, 200},
		{"POST", "/api/calc/place", `{"text":"far away"}`, 422},
		{"POST", "/api/calc/track", `{"scale":"1:35","wheels":[],"link":{"pitch":130,"surface":0,"ground":20,"width":400}}`, 422},
		{"POST", "/api/calc/wheels", `{"scale":"1:35","wheels":[{"kind":"tyre","x":0,"z":500,"radius":300}]}`, 200},
		{"POST", "/api/calc/form", `{"scale":"1:35","outline":"wheeled","width":2000,"body":{"hulls":[{"id":"hull","profile":[[0,0],[1000,0],[1000,500],[0,500]],"width":800,"inSide":0,"inNose":0}]}}`, 200},
		{"POST", "/api/calc/form", `{"scale":"1:35","outline":"wheeled","width":2000,"body":{"hulls":[]}}`, 422},
		{"POST", "/api/calc/clearance", `{"scale":"1:35","outline":"wheeled","width":2000,"body":{"hulls":[{"id":"hull","profile":[[0,0],[1000,0],[1000,500],[0,500]],"width":800,"inSide":0,"inNose":0}]},"wheels":[{"kind":"tyre","x":500,"z":200,"radius":200}],"link":{"pitch":0,"surface":0,"ground":0,"width":300}}`, 200},
		{"POST", id + "/duplicate", "", 201},
		{"POST", "/api/calc/length", `{"text":"3/8in","scale":"1:35"}`, 200},
		{"POST", "/api/builds", `{"name":"X","outline":"wheeled","scale":"1:48","length":"4 m","width":"2 m","height":"2 m"}`, 201},
		{"DELETE", id, "", 204},
		{"POST", id + "/restore", "", 204},
	} {
		a := b.ask(c.method, c.path, c.body)
		assert.Equal(t, c.want, a.Code, "%s %s: %s", c.method, c.path, a.Body)
	}
}

func TestBadInputIsRefusedWithFieldReasonAndRemedy(t *testing.T) {
	b := open(t)
	start := func(length string) string {
		return `{"name":"X","outline":"tracked","scale":"1:35","length":` + length + `,"width":"2 m","height":"2 m"}`
	}
	cases := []struct {
		name, path, body string
		status           int
		field, detail    string
	}{
		{"empty", "/api/builds", start(`""`), 422, "length", "nothing is written"},
		{"letters", "/api/builds", start(`"long"`), 422, "length", "not a number"},
		{"negative", "/api/builds", start(`"-3 m"`), 422, "length", "negative"},
		{"ten kilometres", "/api/builds", start(`"10 km"`), 422, "length", "one kilometre"},
		{"huge exponent as text", "/api/builds", start(`"1e400"`), 422, "length", "exponent"},
		{"huge exponent as number", "/api/builds", start(`1e400`), 400, "length", "too large"},
		{"wrong unit", "/api/builds", start(`"3 stone"`), 422, "length", "not a unit"},
		{"malformed JSON", "/api/builds", `{"name":`, 400, "body", "JSON"},
		{"unknown field", "/api/builds", strings.Replace(start(`"3 m"`), `"name"`, `"shoe":1,"name"`, 1), 400, "", "shoe"},
		{"missing field", "/api/builds", `{"name":"X"}`, 400, "", "missing"},
		{"twenty megabytes", "/api/builds", start(`"` + strings.Repeat("9", 20<<20) + `"`), 413, "body", "larger than"},
		{"newer document", "/api/import", `{"format":"cinderpath","version":99}`, 422, "version", "version 99"},
		{"foreign document", "/api/import", `{"format":"else","version":1}`, 422, "format", "not a document"},
		{
			"document with an unknown field",
			"/api/import",
			`{"format":"cinderpath","version":1,"shoe":2}`,
			422,
			"document",
			"shoe",
		},
		{"document cut short", "/api/calc/plan", `{"format":"cinderpath"`, 422, "document", "unexpected end"},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			a := b.ask("POST", c.path, c.body)
			assert.Equal(t, c.status, a.Code, a.Body)
			if c.field != "" {
				assert.Equal(t, c.field, a.problem.Field)
			}
			assert.Contains(t, a.problem.Detail, c.detail)
			assert.NotEmpty(t, a.problem.Remedy)
		})
	}
	var home struct{ Builds []any }
	require.NoError(t, json.Unmarshal(b.ask("GET", "/api/home", "").Body.Bytes(), &home))
	assert.Len(t, home.Builds, 3, "nothing came of any of them")
}

func TestStaleEditIsToldWithTheNewerState(t *testing.T) {
	b := open(t)
	require.Equal(t, 200, b.edit(1, `{"op":"rename","text":"First"}`).Code)
	a := b.edit(1, `{"op":"rename","text":"Second"}`)
	assert.Equal(t, http.StatusPreconditionFailed, a.Code)
	assert.Equal(t, int64(2), a.problem.Current.Revision)
	assert.Equal(t, "First", a.problem.Current.Build.Name)
	assert.Equal(
		t,
		400,
		b.ask("POST", "/api/builds/"+b.varrow+"/edits", `{"edits":[{"op":"rename","text":"x"}]}`).Code,
		"without a revision",
	)
	assert.Equal(t, 422, b.edit(2, `{"op":"length","text":"-1 m"}`).Code)
	assert.Equal(t, 200, b.ask("POST", "/api/builds/"+b.varrow+"/undo", "", "If-Match", `"2"`).Code)
	assert.Contains(t, b.ask("GET", "/api/builds/"+b.varrow, "").Body.String(), "Varrow II")
}

func TestLogTakesEachKeyOnce(t *testing.T) {
	b := open(t)
	body := fmt.Sprintf(`{"key":"%s","kind":"started","task":"fit:gear:1","title":"Put wheels back on"}`, newID())
	for range 3 {
		require.Equal(t, 200, b.ask("POST", "/api/builds/"+b.varrow+"/log", body).Code)
	}
	assert.Equal(
		t,
		1,
		strings.Count(
			b.ask("GET", "/api/builds/"+b.varrow, "").Body.String(),
			`"task":"fit:gear:1","title":"Put wheels back on"`,
		),
	)
	assert.Equal(
		t,
		400,
		b.ask("POST", "/api/builds/"+b.varrow+"/log", `{"key":"no","kind":"started","task":"a","title":"b"}`).Code,
	)
}

func TestForeignHostsAndOriginsAreRefused(t *testing.T) {
	b := open(t)
	r := httptest.NewRequest(http.MethodGet, "http://elsewhere.test/api/home", nil)
	w := httptest.NewRecorder()
	b.h.ServeHTTP(w, r)
	assert.Equal(t, http.StatusMisdirectedRequest, w.Code)
	a := b.ask("POST", "/api/calc/length", `{"text":"1 m","scale":"1:35"}`, "Origin", "http://elsewhere.test")
	assert.Equal(t, http.StatusForbidden, a.Code)
	assert.Equal(
		t,
		200,
		b.ask("POST", "/api/calc/length", `{"text":"1 m","scale":"1:35"}`, "Origin", "http://localhost").Code,
	)
}

func TestThePageCarriesAStrictPolicy(t *testing.T) {
	b := open(t)
	first, second := b.ask("GET", "/builds/anything", ""), b.ask("GET", "/", "")
	policy := first.Header().Get("Content-Security-Policy")
	assert.Contains(t, policy, "script-src 'self';")
	assert.NotContains(t, policy, "unsafe")
	assert.NotEqual(t, first.Body.String(), second.Body.String(), "each page has its own nonce")
	assert.NotContains(t, first.Body.String(), "__NONCE__")
	assert.Contains(t, b.ask("GET", "/assets/a.js", "").Header().Get("Cache-Control"), "immutable")
	drawn := b.ask("GET", "/api/builds/"+b.varrow+"/sheets/track-jig.svg", "").Header().Get("Content-Security-Policy")
	assert.Equal(t, "default-src 'none'; style-src 'unsafe-inline'; img-src data:", drawn, "its pens are styles")
	assert.Equal(t, "default-src 'none'", b.ask("GET", "/api/home", "").Header().Get("Content-Security-Policy"))
	assert.Equal(t, 404, b.ask("GET", "/api/nothing", "").Code)
	assert.Equal(t, 404, b.ask("GET", "/api/builds/"+newID(), "").Code)
	assert.Equal(t, 405, b.ask("PATCH", "/api/home", "").Code)
}

func TestABuildOfAnyAlphabetLeavesAsAFile(t *testing.T) {
	b := open(t)
	a := b.edit(1, `{"op":"rename","text":"戦車"}`)
	require.Equal(t, http.StatusOK, a.Code, a.Body)
	a = b.ask("GET", "/api/builds/"+b.varrow+"/export", "")
	require.Equal(t, http.StatusOK, a.Code, a.Body)
	assert.Equal(t, `attachment; filename="`+b.varrow+`.json"`, a.Header().Get("Content-Disposition"))
}

func TestImportTwiceMakesCopies(t *testing.T) {
	b := open(t)
	data, err := os.ReadFile("../samples/pellick.json")
	require.NoError(t, err)
	a := b.ask("POST", "/api/import", string(data))
	require.Equal(t, 200, a.Code, a.Body)
	assert.Contains(t, a.Body.String(), `"copied":true`)
	assert.Contains(t, a.Body.String(), "Pellick scout car, imported")
}

func TestWorkshopHoursMoveThePlans(t *testing.T) {
	b := open(t)
	before := b.ask("GET", "/api/builds/"+b.varrow, "").Body.String()
	a := b.ask(
		"PUT",
		"/api/workshop",
		`{"name":"bench","zone":"UTC","calendar":{"weekly":[{"day":0,"from":"09:00","to":"12:00"}],"temperatureC":20,"humidity":0.5}}`,
		"If-Match",
		`"1"`,
	)
	require.Equal(t, 200, a.Code, a.Body)
	assert.NotEqual(t, before, b.ask("GET", "/api/builds/"+b.varrow, "").Body.String())
	assert.Equal(
		t,
		412,
		b.ask(
			"PUT",
			"/api/workshop",
			`{"name":"x","zone":"UTC","calendar":{"weekly":[],"temperatureC":20,"humidity":0.5}}`,
			"If-Match",
			`"1"`,
		).Code,
	)
	assert.Equal(
		t,
		422,
		b.ask(
			"PUT",
			"/api/workshop",
			`{"name":"x","zone":"Nowhere/Land","calendar":{"weekly":[],"temperatureC":20,"humidity":0.5}}`,
			"If-Match",
			`"2"`,
		).Code,
	)
}

// Many edits at once: one gets through, the others are told, and nobody waits for
// a connection that another of them holds.
func TestManyEditsAtOnce(t *testing.T) {
	b := open(t)
	codes := make(chan int, 40)
	for i := range 40 {
		go func() {
			r := httptest.NewRequest(
				http.MethodPost,
				"http://localhost/api/builds/"+b.varrow+"/edits",
				strings.NewReader(fmt.Sprintf(`{"edits":[{"op":"story","text":"%d"}]}`, i)),
			)
			r.Header.Set("Content-Type", "application/json")
			r.Header.Set("If-Match", `"1"`)
			w := httptest.NewRecorder()
			b.h.ServeHTTP(w, r)
			codes <- w.Code
		}()
	}
	got := map[int]int{}
	for range 40 {
		select {
		case code := <-codes:
			got[code]++
		case <-time.After(30 * time.Second):
			require.Fail(t, "edits wait for each other", "%v", got)
		}
	}
	assert.Equal(t, map[int]int{200: 1, 412: 39}, got)
}
