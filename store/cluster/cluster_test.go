package cluster_test

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
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

func TestAKilledServerIsStartedAgain(t *testing.T) {
	t.Parallel()
	dir := dataDir(t)
	c := start(t, dir)
	run(t, c.URL, "CREATE TABLE kept (x int)")
	require.NoError(t, syscall.Kill(serverPID(t, dir), syscall.SIGKILL))
	time.Sleep(200 * time.Millisecond)
	require.NoError(t, c.Stop(), "stopping what is dead is no error")
	c = start(t, dir)
	run(t, c.URL, "INSERT INTO kept VALUES (1)")
	require.NoError(t, c.Stop())
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
	require.NoError(t, c.Stop())

	other := dataDir(t)
	require.NoError(t, os.MkdirAll(filepath.Join(other, "postgres", "base"), 0o700))
	require.NoError(t, os.WriteFile(filepath.Join(other, "password"), []byte(strings.Repeat("x", 48)), 0o600))
	c = start(t, other)
	run(t, c.URL, "SELECT 1")
	require.NoError(t, c.Stop())
	aside, err := filepath.Glob(filepath.Join(other, "postgres.broken-*"))
	require.NoError(t, err)
	assert.Len(t, aside, 1, "what was there is moved aside, not thrown away")
}

func TestALostPasswordIsToldNotReplaced(t *testing.T) {
	t.Parallel()
	dir := dataDir(t)
	c := start(t, dir)
	require.NoError(t, c.Stop())
	require.NoError(t, os.Remove(filepath.Join(dir, "password")))
	_, err := cluster.Start(t.Context(), dir)
	assert.ErrorContains(t, err, "password file")
}
