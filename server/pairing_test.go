package server_test

import (
	"context"
	"encoding/json"
	"net"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"testing/fstest"

	"cinderpath/server"
	"cinderpath/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// network asks a shared workshop from somewhere: at which of its addresses, from which, with which
// cookie.
func network(t *testing.T) func(from, method, path, body, cookie string, headers ...string) *httptest.ResponseRecorder {
	h, err := server.New(server.Config{
		Store: storetest.Open(t), NewID: newID, Shared: []string{"http://192.0.2.7:8417"},
		UI: fstest.MapFS{"index.html": {Data: []byte("page")}},
	})
	require.NoError(t, err)
	return func(from, method, path, body, cookie string, headers ...string) *httptest.ResponseRecorder {
		r := httptest.NewRequest(method, "http://192.0.2.7:8417"+path, strings.NewReader(body))
		at := "192.0.2.7:8417"
		if strings.HasPrefix(from, "127.") {
			r.Host, at = "127.0.0.1:8417", "127.0.0.1:8417"
		}
		addr, err := net.ResolveTCPAddr("tcp", at)
		require.NoError(t, err)
		r = r.WithContext(context.WithValue(r.Context(), http.LocalAddrContextKey, net.Addr(addr)))
		r.RemoteAddr = from
		if body != "" {
			r.Header.Set("Content-Type", "application/json")
		}
		if cookie != "" {
			r.Header.Set("Cookie", cookie)
		}
		for i := 0; i+1 < len(headers); i += 2 {
			if headers[i] == "Host" {
				r.Host = headers[i+1]
			}
			r.Header.Set(headers[i], headers[i+1])
		}
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		return w
	}
}

type sharing struct {
	On      bool
	Code    string
	Devices int
}

func read(t *testing.T, w *httptest.ResponseRecorder) (s sharing) {
	t.Helper()
	require.Equal(t, http.StatusOK, w.Code, w.Body)
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &s))
	return s
}

const (
	desk  = "127.0.0.1:50000"
	phone = "192.0.2.40:50000"
)

func TestADeviceIsLetInByTheCodeThatIsShown(t *testing.T) {
	ask := network(t)
	code := read(t, ask(desk, "GET", "/api/sharing", "", "")).Code
	require.Len(t, code, 8)
	for _, path := range []string{"/api/home", "/api/sharing", "/api/archive", "/api/shelf"} {
		assert.Equal(t, http.StatusUnauthorized, ask(phone, "GET", path, "", "").Code, path)
	}
	assert.Equal(t, http.StatusOK, ask(phone, "GET", "/", "", "").Code, "the page that asks for the code is for all")
	assert.Equal(t, http.StatusOK, ask(desk, "GET", "/api/families", "", "").Code)
	paired := ask(phone, "POST", "/api/pair", `{"code":"`+strings.ToLower(code[:4])+" "+code[4:]+`"}`, "")
	require.Equal(t, http.StatusNoContent, paired.Code, paired.Body)
	set := paired.Header().Get("Set-Cookie")
	for _, want := range []string{"HttpOnly", "SameSite=Strict", "Path=/"} {
		assert.Contains(t, set, want)
	}
	cookie, _, _ := strings.Cut(set, ";")
	assert.Equal(t, http.StatusOK, ask(phone, "GET", "/api/families", "", cookie).Code)
	seen := read(t, ask(phone, "GET", "/api/sharing", "", cookie))
	assert.Empty(t, seen.Code, "the code is shown on the machine itself only")
	assert.Equal(t, 1, seen.Devices)
	// The code was good once; what is made up is not let in.
	assert.Equal(t, http.StatusForbidden, ask(phone, "POST", "/api/pair", `{"code":"`+code+`"}`, "").Code)
	assert.Equal(t, http.StatusUnauthorized, ask(phone, "GET", "/api/home", "", cookie+"x").Code)
	// The same checks of host and origin.
	assert.Equal(
		t,
		http.StatusMisdirectedRequest,
		ask(phone, "GET", "/api/home", "", cookie, "Host", "elsewhere.test").Code,
	)
	assert.Equal(
		t,
		http.StatusMisdirectedRequest,
		ask(phone, "GET", "/api/home", "", cookie, "Host", "192.0.2.8:8417").Code,
	)
	assert.Equal(
		t,
		http.StatusForbidden,
		ask(phone, "GET", "/api/home", "", cookie, "Origin", "http://elsewhere.test").Code,
	)
	// All are forgotten.
	require.Equal(t, http.StatusNoContent, ask(desk, "DELETE", "/api/sharing", "", "").Code)
	assert.Equal(t, http.StatusUnauthorized, ask(phone, "GET", "/api/home", "", cookie).Code)
}

func TestGuessingACodeGoesNowhere(t *testing.T) {
	ask := network(t)
	code := read(t, ask(desk, "GET", "/api/sharing", "", "")).Code
	for range 5 {
		require.Equal(t, http.StatusForbidden, ask(phone, "POST", "/api/pair", `{"code":"AAAAAAAA"}`, "").Code)
	}
	assert.NotEqual(t, code, read(t, ask(desk, "GET", "/api/sharing", "", "")).Code, "there is a new one")
	assert.Equal(t, http.StatusForbidden, ask(phone, "POST", "/api/pair", `{"code":"`+code+`"}`, "").Code)
}

// Unasked, nobody elsewhere is answered, and there is no code.
func TestNothingIsSharedUnlessAsked(t *testing.T) {
	b := open(t)
	s := read(t, b.ask("GET", "/api/sharing", "").ResponseRecorder)
	assert.False(t, s.On)
	assert.Empty(t, s.Code)
}
