package server_test

import (
	"bytes"
	"cinderpath/core/plan"
	"cinderpath/server"
	"encoding/json"
	"image/png"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

type lookedAt struct {
	Plan struct {
		Drawing, Bare string
		Steps         []struct{ Title, Look string }
		Views         []struct {
			Side   string
			Width  float64
			Height float64
		}
	}
}

// Pictures and drawings come by what they show, are kept by the browser for ever, and a name
// that the build has no more is told.
func TestPicturesComeByWhatTheyShow(t *testing.T) {
	b := open(t)
	id := "/api/builds/" + b.varrow
	var s lookedAt
	b.read("GET", id, "", &s)
	last := s.Plan.Steps[len(s.Plan.Steps)-1].Look
	a := b.ask("GET", id+"/pictures/"+last+"/left?px=2", "")
	require.Equal(t, http.StatusOK, a.Code)
	assert.Equal(t, "image/png", a.Header().Get("Content-Type"))
	assert.Contains(t, a.Header().Get("Cache-Control"), "immutable")
	img, err := png.Decode(bytes.NewReader(a.Body.Bytes()))
	require.NoError(t, err)
	assert.InDelta(t, 2*s.Plan.Views[0].Width, img.Bounds().Dx(), 1)
	assert.InDelta(t, 2*s.Plan.Views[0].Height, img.Bounds().Dy(), 1)

	part := b.ask("GET", id+"/pictures/"+last+"/left?px=8&box=40,10,30,20&only=turret,hull.glacis", "")
	require.Equal(t, http.StatusOK, part.Code, part.Body.String())
	img, err = png.Decode(bytes.NewReader(part.Body.Bytes()))
	require.NoError(t, err)
	assert.Equal(t, 240, img.Bounds().Dx())
	assert.Equal(t, 160, img.Bounds().Dy())

	drawing := b.ask("GET", id+"/drawings/"+s.Plan.Drawing, "")
	require.Equal(t, http.StatusOK, drawing.Code)
	tag := drawing.Header().Get("ETag")
	require.NotEmpty(t, tag)
	again := b.ask("GET", id+"/drawings/"+s.Plan.Drawing, "", "If-None-Match", tag)
	assert.Equal(t, http.StatusNotModified, again.Code)
	assert.Zero(t, again.Body.Len())

	require.Equal(t, 200, b.edit(1, `{"op":"length","text":"6.6 m"}`).Code)
	assert.Equal(
		t,
		drawing.Body.String(),
		b.ask("GET", id+"/drawings/"+s.Plan.Drawing, "").Body.String(),
		"who asked before the edit still finds it",
	)
	assert.Equal(t, http.StatusNotFound, b.ask("GET", id+"/drawings/00000000000000000000000000000000", "").Code)
	gone := b.ask("GET", id+"/pictures/00000000000000000000000000000000/left", "")
	assert.Equal(t, http.StatusNotFound, gone.Code)
	assert.NotEmpty(t, gone.problem.Remedy)
	large := b.ask("GET", id+"/pictures/"+last+"/left?px=60", "")
	assert.Equal(t, http.StatusUnprocessableEntity, large.Code)
	assert.Equal(t, "pixel", large.problem.Field)
}

// The plan travels in portions: what a screen asks for at once is small, also for the largest
// sample.
func TestPortionsAreSmall(t *testing.T) {
	b := open(t)
	home := b.ask("GET", "/api/home", "")
	t.Logf("home of three builds: %d bytes", home.Body.Len())
	assert.Less(t, home.Body.Len(), 60_000)
	var s map[string]json.RawMessage
	b.read("GET", "/api/builds/"+b.varrow, "", &s)
	t.Logf("plan of the Varrow: %d bytes, build %d, log %d", len(s["plan"]), len(s["build"]), len(s["log"]))
	assert.Less(t, len(s["plan"]), 150_000)
	var p lookedAt
	b.read("GET", "/api/builds/"+b.varrow, "", &p)
	drawing := b.ask("GET", "/api/builds/"+b.varrow+"/drawings/"+p.Plan.Drawing, "")
	t.Logf("drawing: %d bytes", drawing.Body.Len())
	assert.Less(t, drawing.Body.Len(), 150_000)
}

// A page that still stands when the program was started anew gets its pictures and drawings, though nobody asked
// for the plan that names them.
func TestPicturesOfAPageFromBeforeAStart(t *testing.T) {
	t.Parallel()
	b := open(t)
	id := "/api/builds/" + b.varrow
	var s lookedAt
	b.read("GET", id, "", &s)
	for _, what := range []string{"/pictures/" + s.Plan.Bare + "/left?px=1", "/drawings/" + s.Plan.Drawing} {
		before := b.ask("GET", id+what, "")
		require.Equal(t, http.StatusOK, before.Code, what)
		h, err := server.New(server.Config{
			Store: b.s, NewID: newID, Now: func() time.Time { return now }, Deriver: new(plan.Deriver),
		})
		require.NoError(t, err)
		anew := b
		anew.h = h
		after := anew.ask("GET", id+what, "")
		require.Equal(t, http.StatusOK, after.Code, what)
		assert.Equal(t, before.Body.Bytes(), after.Body.Bytes(), what)
	}
}
