// Package storetest gives tests a database of their own on a private cluster.
package storetest

import (
	"context"
	"fmt"
	"net/url"
	"os"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"cinderpath/store"
	"cinderpath/store/cluster"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"
)

var (
	shared *cluster.Cluster
	made   atomic.Int64
)

// Dir makes a folder that the unprivileged server can reach, and how to remove it.
func Dir() (dir string, remove func(), err error) {
	dir, err = os.MkdirTemp("", "cinderpath-test-*")
	if err != nil {
		return "", nil, err
	}
	return dir, func() { os.RemoveAll(dir) }, os.Chmod(dir, 0o755)
}

// Main runs a package's tests beside one cluster; call it from TestMain.
func Main(m *testing.M) { os.Exit(Run(m)) }

// Run is Main for whoever has more to put away afterwards: it gives the exit code.
func Run(m *testing.M) (code int) {
	dir, remove, err := Dir()
	if err == nil {
		defer remove()
		ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
		shared, err = cluster.Start(ctx, dir)
		cancel()
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "the tests need a database:", err)
		return 1
	}
	code = m.Run()
	if err := shared.Stop(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		code = 1
	}
	return code
}

// Database makes an empty database and gives its address.
func Database(t testing.TB) string { return create(t, "") }

// Like makes a database with all that is in another one of these, to which nobody is connected.
func Like(t testing.TB, address string) string {
	u, err := url.Parse(address)
	require.NoError(t, err)
	return create(t, " TEMPLATE "+strings.TrimPrefix(u.Path, "/"))
}

func create(t testing.TB, like string) string {
	ctx := t.Context()
	conn, err := pgx.Connect(ctx, shared.URL)
	require.NoError(t, err)
	defer conn.Close(ctx)
	name := fmt.Sprintf("test%d", made.Add(1))
	_, err = conn.Exec(ctx, "CREATE DATABASE "+name+like)
	require.NoError(t, err)
	u, err := url.Parse(shared.URL)
	require.NoError(t, err)
	u.Path = "/" + name
	return u.String()
}

// Open gives a store on an empty database.
func Open(t testing.TB) *store.Store {
	s, err := store.Open(t.Context(), Database(t))
	require.NoError(t, err)
	t.Cleanup(s.Close)
	return s
}
