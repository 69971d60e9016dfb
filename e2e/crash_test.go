package e2e

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"cinderpath/proof"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// post sends JSON and tells whether it was acknowledged.
func (a *app) post(path, body string, headers ...string) (status int) {
	status, _, _ = a.posted(path, body, headers...)
	return status
}

// posted gives what the program answers, and why it does not where it was to be killed.
func (a *app) posted(path, body string, headers ...string) (status int, said string, err error) {
	r, err := http.NewRequest(http.MethodPost, a.url+path, bytes.NewReader([]byte(body)))
	if err != nil {
		return 0, "", err
	}
	r.Header.Set("Content-Type", "application/json")
	for i := 0; i+1 < len(headers); i += 2 {
		r.Header.Set(headers[i], headers[i+1])
	}
	answer, err := http.DefaultClient.Do(r)
	if err != nil {
		return 0, "", err
	}
	defer answer.Body.Close()
	data, err := io.ReadAll(answer.Body)
	return answer.StatusCode, string(data), err
}

// mustPost fails with what the program said, and how long it took to say it.
func (a *app) mustPost(t *testing.T, path, body string, headers ...string) {
	began := time.Now()
	status, said, err := a.posted(path, body, headers...)
	require.NoError(t, err, "%s after %v", path, time.Since(began))
	require.Equal(t, http.StatusOK, status, "%s: %.300s", path, said)
}

type stored struct {
	Revision int                    `json:"revision"`
	Build    struct{ Story string } `json:"build"`
	Log      []struct{ Key string } `json:"log"`
}

// The program and its database are killed in the middle of writes, again and again;
// what was acknowledged is always there afterwards.
func TestKilledInTheMiddleOfWrites(t *testing.T) {
	data := dataDir(t)
	random := rand.New(rand.NewPCG(20, 11))
	kept := map[string]bool{}
	edits := 0
	for round := range proof.Rounds(5, 10) {
		a := startApp(t, data)
		var s stored
		a.get(t, "/api/builds/"+varrow, &s)
		there := map[string]bool{}
		for _, e := range s.Log {
			there[e.Key] = true
		}
		for key := range kept {
			require.True(t, there[key], "round %d: an acknowledged log entry is gone", round)
		}
		if s.Build.Story != "" && strings.HasPrefix(s.Build.Story, "edit ") {
			n, err := strconv.Atoi(strings.TrimPrefix(s.Build.Story, "edit "))
			require.NoError(t, err)
			require.GreaterOrEqual(t, n, edits, "round %d: an acknowledged edit is gone", round)
			edits = n
		} else {
			require.Zero(t, edits, "round %d", round)
		}
		killed := make(chan struct{})
		kill := func(after time.Duration) {
			time.Sleep(after)
			first, second := a.cmd.Process.Pid, databasePID(data)
			if round%2 == 1 {
				first, second = second, first
			}
			_ = syscall.Kill(first, syscall.SIGKILL)
			_ = syscall.Kill(second, syscall.SIGKILL)
			close(killed)
		}
		// Some writes are let through; the kill falls anywhere into those that follow.
		through := 4 + random.IntN(20)
		revision := s.Revision
		for writing := true; writing; through-- {
			if through == 0 {
				go kill(time.Duration(random.IntN(150)) * time.Millisecond)
			}
			key := uuid.NewString()
			if a.post(
				"/api/builds/"+varrow+"/log",
				fmt.Sprintf(`{"key":%q,"kind":"note","task":"fit:gear:1","title":"Note","note":"seen"}`, key),
			) == http.StatusOK {
				kept[key] = true
			} else {
				writing = false
			}
			body, err := json.Marshal(
				map[string]any{"edits": []map[string]string{{"op": "story", "text": fmt.Sprintf("edit %d", edits+1)}}},
			)
			require.NoError(t, err)
			if a.post("/api/builds/"+varrow+"/edits", string(body), "If-Match", fmt.Sprintf(`"%d"`, revision)) == http.StatusOK {
				edits++
				revision++
			} else {
				writing = false
			}
		}
		<-killed
		_ = a.cmd.Wait()
	}
	assert.GreaterOrEqual(t, len(kept), 4*proof.Rounds(5, 10), "it wrote, else this tests nothing")
	assert.GreaterOrEqual(t, edits, 4*proof.Rounds(5, 10))
}

func databasePID(data string) int {
	file, err := os.ReadFile(filepath.Join(data, "postgres", "postmaster.pid"))
	if err != nil {
		return -1 << 30 // no process
	}
	pid, err := strconv.Atoi(strings.SplitN(string(file), "\n", 2)[0])
	if err != nil {
		return -1 << 30
	}
	return pid
}

// The database is killed while the program runs, again and again. Whoever writes meanwhile
// sends the same again until it is told that it was kept; everything is there once.
func TestTheDatabaseIsKilledWhileTheProgramRuns(t *testing.T) {
	t.Parallel()
	data := dataDir(t)
	a := startApp(t, data)
	build := "/api/builds/" + varrow
	var s stored
	a.get(t, build, &s)
	before, revision := len(s.Log), s.Revision
	insist := func(path, body string, headers ...string) {
		require.Eventually(t, func() bool {
			status := a.post(path, body, headers...)
			require.Contains(t, []int{http.StatusOK, http.StatusServiceUnavailable}, status)
			return status == http.StatusOK
		}, time.Minute, 10*time.Millisecond)
	}
	keys := map[string]bool{}
	for round := range proof.Rounds(4, 8) {
		for write := range 6 {
			if write == 2 {
				require.NoError(t, syscall.Kill(databasePID(data), syscall.SIGKILL))
			}
			key := uuid.NewString()
			keys[key] = true
			insist(build+"/log", fmt.Sprintf(`{"key":%q,"kind":"note","task":"fit:gear:1","title":"Note","note":"seen"}`, key))
			body := fmt.Sprintf(`{"edits":[{"op":"story","text":"round %d, %d"}]}`, round, write)
			insist(build+"/edits", body, "If-Match", fmt.Sprintf(`"%d"`, revision), "Idempotency-Key", uuid.NewString())
			revision++
		}
	}
	a.get(t, build, &s)
	assert.Equal(t, revision, s.Revision)
	require.Len(t, s.Log, before+len(keys))
	for _, e := range s.Log[before:] {
		assert.True(t, keys[e.Key])
	}
}

// A workshop is written into one archive while the program runs, and brought back into an
// empty folder by another user: the same document comes out of both.
func TestAWorkshopIsRestoredByAnotherUser(t *testing.T) {
	t.Parallel()
	a := startApp(t, dataDir(t))
	cinderpath := func(as *syscall.Credential, args ...string) string {
		cmd := exec.Command(binary, args...)
		cmd.SysProcAttr = &syscall.SysProcAttr{Credential: as}
		var said bytes.Buffer
		cmd.Stderr = &said
		out, err := cmd.Output()
		require.NoError(t, err, said.String())
		return string(out)
	}
	archive := filepath.Join(dataDir(t), "all.zip")
	cinderpath(nil, "backup", "--data", a.data, archive)
	require.NoError(t, os.Chmod(archive, 0o644))

	var other *syscall.Credential
	there := dataDir(t)
	if os.Geteuid() == 0 {
		const nobody = 65534
		other = &syscall.Credential{Uid: nobody, Gid: nobody}
		require.NoError(t, os.Chown(there, nobody, nobody))
		require.NoError(t, os.Chmod(filepath.Dir(binary), 0o755))
	}
	restored := cinderpath(other, "restore", "--data", there, archive)
	assert.Contains(t, restored, varrow)
	document := func(data string, as *syscall.Credential) (d map[string]any) {
		require.NoError(t, json.Unmarshal([]byte(cinderpath(as, "export", "--data", data)), &d))
		delete(d, "asOf")
		return d
	}
	assert.Equal(t, document(a.data, nil), document(there, other))
}
