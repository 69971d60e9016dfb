package server_test

import (
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// What no reader should follow is refused at the door, by field; what means the same as
// something allowed is allowed.
func TestTheDoor(t *testing.T) {
	b := open(t)
	edits := "/api/builds/" + b.varrow + "/edits"
	a := b.ask("POST", edits, `{"edits":[{"op":"story","text":"a\u0000b"}]}`, "If-Match", `"1"`)
	assert.Equal(t, http.StatusUnprocessableEntity, a.Code)
	assert.Equal(t, "edits.0.text", a.problem.Field)
	assert.Contains(t, a.problem.Detail, "code zero")

	for _, path := range []string{edits, "/api/calc/length", "/api/import", "/api/calc/schedule"} {
		a = b.ask("POST", path, strings.Repeat("[", 10_000), "If-Match", `"1"`)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Code, path)
		assert.Contains(t, a.problem.Detail, "brackets", path)
		assert.Less(t, a.Body.Len(), 1000, "what was sent is not printed back")
	}

	for name, c := range map[string]struct {
		method, path string
		headers      []string
		code         int
	}{
		"a zero in the address":    {"GET", "/api/builds/%00", nil, http.StatusUnprocessableEntity},
		"an escaped slash":         {"GET", "/api%2fhome", nil, http.StatusNotFound},
		"another scheme's page":    {"GET", "/api/home", []string{"Origin", "https://localhost"}, http.StatusForbidden},
		"its own page":             {"GET", "/api/home", []string{"Origin", "http://localhost"}, http.StatusOK},
		"only the headers":         {"HEAD", "/api/home", nil, http.StatusOK},
		"headers of nothing":       {"HEAD", "/api/nothing", nil, http.StatusNotFound},
		"a document as plain text": {"POST", "/api/import", []string{"Content-Type", "text/plain"}, http.StatusUnprocessableEntity},
	} {
		t.Run(name, func(t *testing.T) {
			body := ""
			if c.method == "POST" {
				body = `{"format":"cinder-path"}`
			}
			r := httptest.NewRequest(c.method, "http://localhost"+c.path, strings.NewReader(body))
			for i := 0; i+1 < len(c.headers); i += 2 {
				r.Header.Set(c.headers[i], c.headers[i+1])
			}
			w := httptest.NewRecorder()
			b.h.ServeHTTP(w, r)
			assert.Equal(t, c.code, w.Code, w.Body.String())
			if c.method == "HEAD" {
				assert.Zero(t, w.Body.Len())
			}
		})
	}
	for _, host := range []string{"LOCALHOST", "localhost.", "LocalHost:8417", "127.0.0.1"} {
		r := httptest.NewRequest(http.MethodGet, "http://localhost/healthz", http.NoBody)
		r.Host = host
		w := httptest.NewRecorder()
		b.h.ServeHTTP(w, r)
		assert.Equal(t, http.StatusOK, w.Code, host)
	}
}
