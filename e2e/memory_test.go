package e2e

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"regexp"
	"strconv"
	"testing"

	"cinderpath/proof"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Twenty builds that differ, wheels dragged many times, and pictures of all of them: the
// program stays below 400 MB.
func TestTwentyBuildsInFourHundredMegabytes(t *testing.T) {
	t.Parallel()
	a := startApp(t, dataDir(t))
	out, err := exec.Command(binary, "export", "--data", a.data, "--build", varrow, "--only").Output()
	require.NoError(t, err)
	var d struct {
		Format, Version, Workshop any
		AsOf                      any `json:"asOf"`
		Items                     []map[string]any
	}
	require.NoError(t, json.Unmarshal(out, &d))
	build := d.Items[0]["build"].(map[string]any)
	wheels := build["wheels"].([]any)
	for i := range 20 {
		id := uuid.NewString()
		build["id"], build["name"] = id, fmt.Sprintf("Varrow %d", i)
		wheels[2].(map[string]any)["x"] = wheels[2].(map[string]any)["x"].(float64) + 1
		build["scheme"].(map[string]any)["seed"] = i + 100
		body, err := json.Marshal(map[string]any{
			"format": d.Format, "version": d.Version, "workshop": d.Workshop, "items": d.Items,
		})
		require.NoError(t, err)
		a.mustPost(t, "/api/import", string(body))
		a.pictures(t, id)
	}
	var s stored
	a.get(t, "/api/builds/"+varrow, &s)
	revision := s.Revision
	for i := range proof.Rounds(15, 400) {
		wheels[2].(map[string]any)["x"] = wheels[2].(map[string]any)["x"].(float64) + float64(i%7) - 3
		body, err := json.Marshal(map[string]any{"edits": []any{map[string]any{"op": "wheels", "wheels": wheels}}})
		require.NoError(t, err)
		a.mustPost(t, "/api/builds/"+varrow+"/edits", string(body), "If-Match", fmt.Sprintf(`"%d"`, revision))
		revision++
		if i%10 == 0 {
			a.pictures(t, varrow)
		}
	}
	peak := peakOf(t, a.cmd.Process.Pid)
	t.Logf("at most %d MB", peak>>20)
	assert.Less(t, peak>>20, 400)
}

// pictures asks for what a build shows.
func (a *app) pictures(t *testing.T, id string) {
	var home struct {
		Builds []struct {
			Glance struct{ Build, Look string }
		}
	}
	a.get(t, "/api/home", &home)
	for _, b := range home.Builds {
		if b.Glance.Build == id {
			r, err := http.Get(a.url + "/api/builds/" + id + "/pictures/" + b.Glance.Look + "/left?px=6")
			require.NoError(t, err)
			said, err := io.ReadAll(r.Body)
			require.NoError(t, err)
			require.NoError(t, r.Body.Close())
			require.Equal(t, http.StatusOK, r.StatusCode, "%.300s", said)
		}
	}
}

// peakOf is the most memory that a process held so far, bytes.
func peakOf(t *testing.T, pid int) int {
	data, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
	require.NoError(t, err)
	found := regexp.MustCompile(`VmHWM:\s+(\d+) kB`).FindSubmatch(data)
	require.NotNil(t, found)
	kb, err := strconv.Atoi(string(found[1]))
	require.NoError(t, err)
	return kb << 10
}
