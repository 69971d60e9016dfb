package cluster_test

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"cinderpath/store/cluster"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func dataDir(t *testing.T) string {
	dir, err := os.MkdirTemp("", "cinderpath-cluster-*")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755))
	t.Cleanup(func() { os.RemoveAll(dir) })
	return dir
}

func start(t *testing.T, dir string) *cluster.Cluster {
	ctx, cancel := context.WithTimeout(t.Context(), time.Minute)
	defer cancel()
	c, err := cluster.Start(ctx, dir)
	require.NoError(t, err)
	return c
}

func run(t *testing.T, url, sql string) {
	conn, err := pgx.Connect(t.Context(), url)
	require.NoError(t, err)
	defer conn.Close(t.Context())
	_, err = conn.Exec(t.Context(), sql)
	require.NoError(t, err)
}

func serverPID(t *testing.T, dir string) int {
	data, err := os.ReadFile(filepath.Join(dir, "postgres", "postmaster.pid"))
	require.NoError(t, err)
	pid, err := strconv.Atoi(strings.SplitN(string(data), "\n", 2)[0])
	require.NoError(t, err)
	return pid
}

func TestStartStopStartKeepsDataAndPassword(t *testing.T) {
	t.Parallel()
	dir := dataDir(t)
	c := start(t, dir)
	run(t, c.URL, "CREATE TABLE kept (x int)")
	require.NoError(t, c.Stop())
	info, err := os.Stat(filepath.Join(dir, "password"))
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())
	c = start(t, dir)
	run(t, c.URL, "INSERT INTO kept VALUES (1)")
	require.NoError(t, c.Stop())
}

func TestASecondProgramIsToldSo(t *testing.T) {
	t.Parallel()
	dir := dataDir(t)
	c := start(t, dir)
	_, err := cluster.Start(t.Context(), dir)
	assert.ErrorContains(t, err, "another Cinder Path")
	require.NoError(t, c.Stop())
}

// A folder is free as soon as its program has stopped, even while other goroutines start
// programs, which hold a copy of every open file until their exec.
func TestAStoppedFolderIsFreeWhileOthersStartPrograms(t *testing.T) {
	t.Parallel()
	dir := dataDir(t)
	done := make(chan struct{})
	var starting sync.WaitGroup
	for range 4 {
		starting.Go(func() {
			for {
				select {
				case <-done:
					return
				default:
					_ = exec.Command("true").Run()
				}
			}
		})
	}
	defer starting.Wait()
	defer close(done)
	for range 8 {
		require.NoError(t, start(t, dir).Stop())
	}
}

// A server that is killed while the program runs comes back by itself, at the same
// address, with what was written; and again.
func TestAKilledServerComesBack(t *testing.T) {
	t.Parallel()
	dir := dataDir(t)
	c := start(t, dir)
	url := c.URL
	run(t, url, "CREATE TABLE kept (x int)")
	for range 3 {
		pid := serverPID(t, dir)
		require.NoError(t, syscall.Kill(pid, syscall.SIGKILL))
		require.Eventually(t, func() bool {
			conn, err := pgx.Connect(t.Context(), url)
			if err != nil {
				return false
			}
			defer conn.Close(t.Context())
			_, err = conn.Exec(t.Context(), "INSERT INTO kept VALUES (1)")
			return err == nil
		}, time.Minute, 50*time.Millisecond)
		assert.NotEqual(t, pid, serverPID(t, dir))
	}
	require.NoError(t, c.Stop())
	_, err := pgx.Connect(t.Context(), url)
	assert.Error(t, err, "what was stopped stays so")
}

// A server that was killed just before its program ends is no error of the program's.
func TestStoppingWhatIsDeadIsNoError(t *testing.T) {
	t.Parallel()
	dir := dataDir(t)
	c := start(t, dir)
	require.NoError(t, syscall.Kill(serverPID(t, dir), syscall.SIGKILL))
	require.NoError(t, c.Stop())
	c = start(t, dir)
	run(t, c.URL, "SELECT 1")
	require.NoError(t, c.Stop())
}

// A server that a killed program left is taken over, and is watched like one's own.
func TestALeftServerIsTakenOverAndWatched(t *testing.T) {
	t.Parallel()
	dir := dataDir(t)
	left := exec.Command(os.Args[0], "-test.run", "^TestHelperLeavesAServer$")
	left.Env = append(os.Environ(), "CINDERPATH_LEAVE="+dir)
	out, err := left.CombinedOutput()
	require.NoError(t, err, string(out))
	pid := serverPID(t, dir)
	c := start(t, dir)
	assert.Equal(t, pid, serverPID(t, dir), "no second one is started")
	require.NoError(t, syscall.Kill(pid, syscall.SIGKILL))
	require.Eventually(t, func() bool {
		conn, err := pgx.Connect(t.Context(), c.URL)
		return err == nil && conn.Close(t.Context()) == nil
	}, time.Minute, 50*time.Millisecond)
	require.NoError(t, c.Stop())
}

// TestHelperLeavesAServer is the killed program of the test above.
func TestHelperLeavesAServer(t *testing.T) {
	dir := os.Getenv("CINDERPATH_LEAVE")
	if dir == "" {
		t.Skip("only as another test's helper")
	}
	start(t, dir)
	os.Exit(0)
}

// The pid in a stale file may belong to quite another program by now.
func TestAStalePidFileIsRepaired(t *testing.T) {
	t.Parallel()
	dir := dataDir(t)
	c := start(t, dir)
	require.NoError(t, c.Stop())
	other := exec.Command("sleep", "60")
	require.NoError(t, other.Start())
	defer func() { _ = other.Process.Kill(); _ = other.Wait() }()
	stale := strconv.Itoa(other.Process.Pid) + "\n" + filepath.Join(dir, "postgres") + "\n0\n5432\n\n127.0.0.1\n\nready\n"
	require.NoError(t, os.WriteFile(filepath.Join(dir, "postgres", "postmaster.pid"), []byte(stale), 0o644))
	c = start(t, dir)
	run(t, c.URL, "SELECT 1")
	require.NoError(t, c.Stop())
}

func TestAHalfMadeClusterIsMadeAnew(t *testing.T) {
	t.Parallel()
	dir := dataDir(t)
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "postgres.new", "base"), 0o700))
	c := start(t, dir)
	run(t, c.URL, "SELECT 1")
	require.NoError(t, c.Stop())
}

// Without its version file a folder may still be all that somebody has: no empty home
// is started over it.
func TestALostVersionFileIsToldNotReplaced(t *testing.T) {
	t.Parallel()
	dir := dataDir(t)
	c := start(t, dir)
	require.NoError(t, c.Stop())
	version := filepath.Join(dir, "postgres", "PG_VERSION")
	kept, err := os.ReadFile(version)
	require.NoError(t, err)
	require.NoError(t, os.Remove(version))
	_, err = cluster.Start(t.Context(), dir)
	require.ErrorContains(t, err, "PG_VERSION")
	require.NoError(t, os.WriteFile(version, kept, 0o644))
	c = start(t, dir)
	run(t, c.URL, "SELECT 1")
	require.NoError(t, c.Stop())
}

func TestALostPasswordIsToldNotReplaced(t *testing.T) {
	t.Parallel()
	dir := dataDir(t)
	c := start(t, dir)
	require.NoError(t, c.Stop())
	file := filepath.Join(dir, "password")
	require.NoError(t, os.Remove(file))
	_, err := cluster.Start(t.Context(), dir)
	require.ErrorContains(t, err, "password file")
	require.NoError(t, os.WriteFile(file, []byte(strings.Repeat("0", 48)+"\n"), 0o600))
	_, err = cluster.Start(t.Context(), dir)
	require.ErrorContains(t, err, "is not the one of the database")
	assert.NotContains(t, err.Error(), "SQLSTATE", "in words, not in the driver's")
}
