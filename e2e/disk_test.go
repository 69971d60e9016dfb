package e2e

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The disk runs full while the program runs: what cannot be written is refused with the word
// disk, nothing that was acknowledged is lost, and with room again all goes on.
func TestAFullDisk(t *testing.T) {
	disk := dataDir(t)
	if err := syscall.Mount("tmpfs", disk, "tmpfs", 0, "size=160m,mode=755"); err != nil {
		t.Skipf("a small disk cannot be made here: %v", err)
	}
	t.Cleanup(func() { assert.NoError(t, syscall.Unmount(disk, syscall.MNT_DETACH)) })
	a := startApp(t, filepath.Join(disk, "data"))
	t.Cleanup(func() { a.stop(t) }) // before the disk goes

	filler := filepath.Join(disk, "filler")
	fill(t, filler)
	kept := map[string]bool{}
	note := func() (int, string) {
		key := uuid.NewString()
		r, err := http.Post(a.url+"/api/builds/"+varrow+"/log", "application/json", bytes.NewReader([]byte(
			fmt.Sprintf(`{"key":%q,"kind":"note","task":"fit:gear:1","title":"Note","note":%q}`, key,
				string(bytes.Repeat([]byte("word "), 700))))))
		require.NoError(t, err)
		defer r.Body.Close()
		said, err := io.ReadAll(r.Body)
		require.NoError(t, err)
		if r.StatusCode == http.StatusOK {
			kept[key] = true
		}
		return r.StatusCode, string(said)
	}
	refused := ""
	for range 4000 {
		status, said := note()
		if status == http.StatusOK {
			continue
		}
		require.Contains(t, []int{http.StatusInsufficientStorage, http.StatusServiceUnavailable}, status, "%.300s", said)
		if refused = said; status == http.StatusInsufficientStorage {
			break
		}
	}
	assert.Contains(t, refused, "disk")

	require.NoError(t, os.Remove(filler))
	require.Eventually(t, func() bool {
		status, _ := note()
		return status == http.StatusOK
	}, time.Minute, 200*time.Millisecond)
	var s stored
	a.get(t, "/api/builds/"+varrow, &s)
	there := map[string]bool{}
	for _, e := range s.Log {
		there[e.Key] = true
	}
	for key := range kept {
		assert.True(t, there[key], "what was acknowledged is there")
	}
}

// fill takes all the room there is.
func fill(t *testing.T, file string) {
	f, err := os.Create(file)
	require.NoError(t, err)
	defer f.Close()
	for block := make([]byte, 1<<16); ; {
		if _, err := f.Write(block); err != nil {
			if len(block) > 1 {
				block = block[:len(block)/2]
				continue
			}
			require.True(t, errors.Is(err, syscall.ENOSPC), "%v", err)
			return
		}
	}
}
