package server_test

import (
	"encoding/json"
	"net/http"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/gear"
	"cinderpath/core/plan"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A stored build from which nothing follows takes no other down; it can be opened, told,
// exported, mended and removed.
func TestABuildThatCannotBeDerivedStandsAlone(t *testing.T) {
	b := open(t)
	var whole struct {
		Build document.Build
	}
	require.NoError(t, json.Unmarshal(b.ask("GET", "/api/builds/"+b.varrow, "").Body.Bytes(), &whole))
	broken := whole.Build
	good := broken.Wheels
	broken.ID, broken.Name = "01997a00-0000-7000-8000-00000000dead", "Wreck"
	broken.Wheels = []gear.Wheel{good[0], good[0]} // in one place: no track closes round them
	require.NoError(t, b.s.Add(t.Context(), document.Item{Build: broken}))

	var home struct {
		Builds []struct {
			Glance struct {
				Name    string
				Path    []string
				Trouble *plan.Trouble
			}
		}
	}
	a := b.ask("GET", "/api/home", "")
	require.Equal(t, http.StatusOK, a.Code)
	require.NoError(t, json.Unmarshal(a.Body.Bytes(), &home))
	require.Len(t, home.Builds, 4)
	for _, line := range home.Builds {
		assert.Equal(t, line.Glance.Name == "Wreck", line.Glance.Trouble != nil, line.Glance.Name)
		assert.Equal(t, line.Glance.Name != "Wreck", len(line.Glance.Path) > 0, line.Glance.Name)
	}
	id := "/api/builds/" + broken.ID
	var state struct {
		Revision int
		Plan     struct{ Trouble *plan.Trouble }
	}
	a = b.ask("GET", id, "")
	require.Equal(t, http.StatusOK, a.Code, a.Body)
	require.NoError(t, json.Unmarshal(a.Body.Bytes(), &state))
	require.NotNil(t, state.Plan.Trouble)
	assert.NotEmpty(t, state.Plan.Trouble.Reason)
	assert.Equal(t, http.StatusOK, b.ask("GET", id+"/export", "").Code)
	assert.Equal(t, http.StatusOK, b.ask("GET", "/api/evenings", "").Code)
	assert.Equal(t, http.StatusOK, b.ask("GET", "/api/builds/"+b.varrow, "").Code)

	// What leaves it broken is refused; what mends it is kept.
	wheels, err := json.Marshal(map[string]any{"edits": []any{map[string]any{"op": "wheels", "wheels": good}}})
	require.NoError(t, err)
	assert.Equal(
		t,
		http.StatusUnprocessableEntity,
		b.ask("POST", id+"/edits", `{"edits":[{"op":"rename","text":"Hulk"}]}`, "If-Match", `"1"`).Code,
	)
	a = b.ask("POST", id+"/edits", string(wheels), "If-Match", `"1"`)
	require.Equal(t, http.StatusOK, a.Code, a.Body)
	state.Plan.Trouble = nil
	require.NoError(t, json.Unmarshal(a.Body.Bytes(), &state))
	assert.Nil(t, state.Plan.Trouble)
	assert.Equal(t, http.StatusNoContent, b.ask("DELETE", id, "").Code)
}

// Import derives before it stores: all or none.
func TestImportStoresNothingThatNothingFollowsFrom(t *testing.T) {
	b := open(t)
	a := b.ask("GET", "/api/builds/"+b.varrow+"/export", "")
	var d map[string]any
	require.NoError(t, json.Unmarshal(a.Body.Bytes(), &d))
	last := d["items"].([]any)[2].(map[string]any)["build"].(map[string]any)
	wheels := last["wheels"].([]any)
	last["wheels"] = []any{wheels[0], wheels[0]}
	data, err := json.Marshal(d)
	require.NoError(t, err)
	a = b.ask("POST", "/api/import", string(data))
	assert.Equal(t, http.StatusUnprocessableEntity, a.Code)
	assert.Contains(t, a.problem.Field, "items[2]")
	var home struct{ Builds []any }
	require.NoError(t, json.Unmarshal(b.ask("GET", "/api/home", "").Body.Bytes(), &home))
	assert.Len(t, home.Builds, 3, "none of it was stored")
}
