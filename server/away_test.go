package server_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"testing"
	"time"

	"cinderpath/server"
	"cinderpath/store"
	"cinderpath/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// While the database is away every request is told so, and what is true of a write: that
// nothing was written, or that nobody knows. The same sent again is kept once.
func TestWhatIsSaidWhileTheDatabaseIsAway(t *testing.T) {
	line := storetest.NewLine(t, storetest.Database(t))
	s, err := store.Open(t.Context(), line.URL)
	require.NoError(t, err)
	t.Cleanup(s.Close)
	b := openOn(t, s)
	build := "/api/builds/" + b.varrow
	edit := `{"edits":[{"op":"story","text":"told once"}]}`
	key := newID()
	send := func() answer {
		return b.ask("POST", build+"/edits", edit, "If-Match", `"1"`, "Idempotency-Key", key)
	}

	line.Cut()
	for _, a := range []answer{
		b.ask("GET", "/healthz", ""), b.ask("GET", "/api/home", ""), b.ask("GET", build, ""), send(),
		b.ask("GET", "/api/archive", ""),
	} {
		assert.Equal(t, http.StatusServiceUnavailable, a.Code)
		assert.Contains(t, a.problem.Detail, "nothing was written")
		assert.Equal(t, "2", a.Header().Get("Retry-After"))
	}
	line.Mend()
	assert.Equal(t, http.StatusOK, b.ask("GET", "/healthz", "").Code)

	line.LoseEnds(1000)
	a := send()
	require.Equal(t, http.StatusServiceUnavailable, a.Code)
	assert.Equal(t, "Not known whether it was kept", a.problem.Title)
	line.LoseEnds(0)
	for range 2 {
		a = send()
		require.Equal(t, http.StatusOK, a.Code, a.Body)
		assert.Contains(t, a.Body.String(), `"revision":2`)
		assert.Contains(t, a.Body.String(), "told once")
	}
	a = b.ask("POST", build+"/edits", edit, "If-Match", `"1"`, "Idempotency-Key", newID())
	assert.Equal(t, http.StatusPreconditionFailed, a.Code, "another's change is not mistaken for this one")

	// A workshop is sent again under the revision that was seen.
	var shop struct {
		Revision int64
		Workshop json.RawMessage
	}
	require.NoError(t, json.Unmarshal(b.ask("GET", "/api/workshop", "").Body.Bytes(), &shop))
	renamed := bytes.Replace(shop.Workshop, []byte(`"name":"bench"`), []byte(`"name":"attic"`), 1)
	require.NotEqual(t, string(shop.Workshop), string(renamed))
	seen := fmt.Sprintf(`"%d"`, shop.Revision)
	for range 2 {
		a := b.ask("PUT", "/api/workshop", string(renamed), "If-Match", seen)
		require.Equal(t, http.StatusOK, a.Code, a.Body)
	}
	a = b.ask("PUT", "/api/workshop", string(shop.Workshop), "If-Match", seen)
	assert.Equal(t, http.StatusPreconditionFailed, a.Code)
}

// Unfinished uploads and readers who stall hold nothing that others need: as many of them as
// one likes stand, and the program answers.
func TestWhoIsSlowCostsOthersNothing(t *testing.T) {
	b := open(t)
	srv := httptest.NewServer(b.h)
	t.Cleanup(srv.Close) // after those who are slow have left
	for range 40 {
		c, err := net.Dial("tcp", srv.Listener.Addr().String())
		require.NoError(t, err)
		t.Cleanup(func() { _ = c.Close() })
		_, err = fmt.Fprintf(c, "POST /api/builds/%s/meshes HTTP/1.1\r\nHost: localhost\r\n"+
			"Content-Type: application/octet-stream\r\nContent-Length: 1000000\r\n\r\nsolid begun", b.varrow)
		require.NoError(t, err)
		stalled, err := net.Dial("tcp", srv.Listener.Addr().String())
		require.NoError(t, err)
		t.Cleanup(func() { _ = stalled.Close() })
		_, err = io.WriteString(stalled, "GET /api/archive HTTP/1.1\r\nHost: localhost\r\n\r\n")
		require.NoError(t, err)
	}
	for range 3 {
		r, err := http.Get(srv.URL + "/api/home")
		require.NoError(t, err)
		require.NoError(t, r.Body.Close())
		require.Equal(t, http.StatusOK, r.StatusCode)
	}
}

// An archive brings a workshop back whole into an empty one: hours, stock, builds, logs,
// files byte for byte. Into one that is in use the builds come as copies, and what it has
// stays. One that is cut short or was meddled with brings nothing.
func TestAnArchiveBringsAllBack(t *testing.T) {
	b := open(t)
	photo := onePixel(t)
	up := b.ask("POST", "/api/builds/"+b.varrow+"/photos", photo, "Content-Type", "application/octet-stream")
	require.Equal(t, http.StatusOK, up.Code, up.Body)
	var file struct{ Hash string }
	require.NoError(t, json.Unmarshal(up.Body.Bytes(), &file))
	entry := `{"key":%q,"kind":"photo","task":"fit:gear:1","title":"Fit the gear","photo":%q}`
	logs := "/api/builds/" + b.varrow + "/log"
	a := b.ask("POST", logs, fmt.Sprintf(entry, newID(), file.Hash))
	require.Equal(t, http.StatusOK, a.Code, a.Body)
	a = b.ask("POST", logs, fmt.Sprintf(entry, newID(), "../../etc/passwd"))
	require.Equal(t, http.StatusBadRequest, a.Code)
	a = b.ask("POST", logs, fmt.Sprintf(entry, newID(), fmt.Sprintf("%064d", 7)))
	require.Equal(t, http.StatusUnprocessableEntity, a.Code, "it must be a file of this build")

	chip := chipOnAJar(t, b)

	archive := b.ask("GET", "/api/archive", "").Body.String()
	empty := storetest.Open(t)
	h, err := server.New(server.Config{Store: empty, NewID: newID, Now: func() time.Time { return now }})
	require.NoError(t, err)
	fresh := bench{t: t, h: h, router: b.router, varrow: b.varrow, s: empty}
	w, _, _, err := b.s.Workshop(t.Context())
	require.NoError(t, err)
	other := w
	other.Name, other.Calendar.Weekly = "somebody else", other.Calendar.Weekly[:1]
	_, err = empty.KeepWorkshop(t.Context(), other, 0)
	require.NoError(t, err)

	send := func(to bench, archive string) answer {
		return to.ask("POST", "/api/archive", archive, "Content-Type", "application/octet-stream")
	}
	for at := range 8 {
		broken := archive[:len(archive)*at/8]
		if at%2 == 1 {
			broken += "\x00" + archive[len(broken)+1:]
		}
		a := send(fresh, broken)
		require.Equal(t, http.StatusUnprocessableEntity, a.Code, "%d: %s", at, a.Body)
		require.NotEmpty(t, a.problem.Remedy)
	}
	items, _, err := empty.Items(t.Context())
	require.NoError(t, err)
	require.Empty(t, items, "of a broken archive nothing is kept")

	a = send(fresh, archive)
	require.Equal(t, http.StatusOK, a.Code, a.Body)
	assert.Contains(t, a.Body.String(), `"workshop":true`)
	back, _, _, err := empty.Workshop(t.Context())
	require.NoError(t, err)
	assert.Equal(t, w, back)
	was, _, err := b.s.Items(t.Context())
	require.NoError(t, err)
	is, _, err := empty.Items(t.Context())
	require.NoError(t, err)
	assert.Equal(t, was, is)
	got := fresh.ask("GET", "/api/builds/"+b.varrow+"/files/"+file.Hash, "")
	assert.Equal(t, photo, got.Body.String())
	got = fresh.ask("GET", "/api/shelf/files/"+chip, "")
	assert.Equal(t, http.StatusOK, got.Code)
	assert.Equal(t, b.ask("GET", "/api/shelf/files/"+chip, "").Body.String(), got.Body.String())

	a = send(fresh, archive)
	require.Equal(t, http.StatusOK, a.Code, a.Body)
	assert.Contains(t, a.Body.String(), `"workshop":false`)
	assert.Contains(t, a.Body.String(), ", imported")
	is, _, err = empty.Items(t.Context())
	require.NoError(t, err)
	assert.Len(t, is, 2*len(was))
}

// chipOnAJar hangs a photograph of a sprayed chip on a new jar, and gives its hash.
func chipOnAJar(t *testing.T, b bench) string {
	var picture bytes.Buffer
	require.NoError(t, png.Encode(&picture, image.NewGray(image.Rect(0, 0, 2, 3))))
	up := b.ask("POST", "/api/shelf/photos", picture.String(), "Content-Type", "application/octet-stream")
	require.Equal(t, http.StatusOK, up.Code, up.Body)
	var file struct{ Hash string }
	require.NoError(t, json.Unmarshal(up.Body.Bytes(), &file))
	jar := `{"edits":[{"op":"jar","jar":{"id":%q,"name":"lichen green","family":"waterborne_acrylic","hex":"#66704f",` +
		`"volumeMl":17,"leftMl":9,"state":"fine","chips":[%q]}}]}`
	a := b.ask("POST", "/api/shelf", fmt.Sprintf(jar, newID(), fmt.Sprintf("%064d", 7)))
	require.Equal(t, http.StatusUnprocessableEntity, a.Code, "it must be a file of the workshop")
	a = b.ask("POST", "/api/shelf", fmt.Sprintf(jar, newID(), file.Hash))
	require.Equal(t, http.StatusOK, a.Code, a.Body)
	assert.Contains(t, a.Body.String(), file.Hash)
	assert.Equal(t, http.StatusNotFound, b.ask("GET", "/api/builds/"+b.varrow+"/files/"+file.Hash, "").Code)
	return file.Hash
}

// onePixel is a PNG.
func onePixel(t *testing.T) string {
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, image.NewGray(image.Rect(0, 0, 1, 1))))
	return out.String()
}
