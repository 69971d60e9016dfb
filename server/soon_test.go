package server_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"testing"
	"time"

	"cinderpath/core/plan"
	"cinderpath/server"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// With twelve builds an edit that moves the plan is answered with the last schedule mended; the better one
// follows for whoever asks again, and is the one that is found without the other.
func TestABetterPlanFollowsTheMendedOne(t *testing.T) {
	t.Parallel()
	b := open(t)
	h, err := server.New(server.Config{ // one that knows nothing yet
		Store: b.s, NewID: newID, Now: func() time.Time { return now }, Deriver: new(plan.Deriver),
	})
	require.NoError(t, err)
	b.h = h
	for range 9 {
		require.Equal(t, http.StatusCreated, b.ask("POST", "/api/builds/"+b.varrow+"/duplicate", "").Code)
	}
	type step struct {
		ID, Status string
		Spans      []struct{ From, To time.Time }
	}
	type state struct {
		Revision int
		Plan     struct {
			Provisional bool
			Steps       []step
		}
	}
	read := func(a answer) (s state) {
		require.Equal(t, http.StatusOK, a.Code, "%s", a.Body)
		require.NoError(t, json.Unmarshal(a.Body.Bytes(), &s))
		return s
	}
	settled := func() (s state, home, evenings bool) {
		require.Eventually(t, func() bool {
			s = read(b.ask("GET", "/api/builds/"+b.varrow, ""))
			return !s.Plan.Provisional
		}, time.Minute, 20*time.Millisecond)
		var told struct{ Provisional bool }
		require.NoError(t, json.Unmarshal(b.ask("GET", "/api/home", "").Body.Bytes(), &told))
		home = told.Provisional
		told.Provisional = false
		require.NoError(t, json.Unmarshal(b.ask("GET", "/api/evenings", "").Body.Bytes(), &told))
		return s, home, told.Provisional
	}
	before, _, _ := settled()
	a := b.ask("POST", "/api/builds/"+b.varrow+"/edits", `{"edits":[{"op":"school","school":"pieces","text":"built up"}]}`,
		"If-Match", fmt.Sprintf(`"%d"`, before.Revision))
	require.Equal(t, http.StatusOK, a.Code, "%s", a.Body)
	assert.Contains(t, a.Body.String(), `"provisional":true`)
	mended := read(b.ask("GET", "/api/builds/"+b.varrow, ""))
	require.NotEmpty(t, mended.Plan.Steps)
	// Notes ask for no other plan: the search goes on under them.
	for provisional := true; provisional; {
		a = b.ask("POST", "/api/builds/"+b.varrow+"/log",
			fmt.Sprintf(`{"key":%q,"kind":"note","task":"fit:gear:1","title":"Note","note":"seen"}`, newID()))
		provisional = read(a).Plan.Provisional
	}
	best, home, evenings := settled()
	assert.False(t, home)
	assert.False(t, evenings)
	require.Len(t, best.Plan.Steps, len(mended.Plan.Steps))
	for _, s := range mended.Plan.Steps {
		assert.NotEmpty(t, s.Spans)
	}
	b.h, err = server.New(server.Config{
		Store: b.s, NewID: newID, Now: func() time.Time { return now }, Deriver: new(plan.Deriver),
	})
	require.NoError(t, err)
	fresh, _, _ := settled()
	assert.Equal(t, best, fresh)

	// The evenings stand as long as nothing that decides them has happened.
	sat := b.ask("GET", "/api/evenings", "").Body.String()
	b.ask("POST", "/api/builds/"+b.varrow+"/log",
		fmt.Sprintf(`{"key":%q,"kind":"note","task":"fit:gear:1","title":"Note","note":"seen again"}`, newID()))
	assert.Equal(t, sat, b.ask("GET", "/api/evenings", "").Body.String())
	next := fresh.Plan.Steps[slices.IndexFunc(fresh.Plan.Steps, func(s step) bool { return s.Status == "ready" })]
	require.Equal(t, http.StatusOK, b.ask("POST", "/api/builds/"+b.varrow+"/log",
		fmt.Sprintf(`{"key":%q,"kind":"started","task":%q,"title":"Begun"}`, newID(), next.ID)).Code)
	assert.NotEqual(t, sat, b.ask("GET", "/api/evenings", "").Body.String())

	// Who waits for the search itself does not wait for it to rest.
	a = b.ask("POST", "/api/builds/"+b.varrow+"/edits", `{"edits":[{"op":"school","school":"pieces","text":"mixed"}]}`,
		"If-Match", fmt.Sprintf(`"%d"`, fresh.Revision))
	require.True(t, read(a).Plan.Provisional)
	what := b.ask("POST", "/api/builds/"+b.varrow+"/whatif", `{"kind":"warmer","degrees":5}`)
	require.Equal(t, http.StatusOK, what.Code, "%s", what.Body)
}
