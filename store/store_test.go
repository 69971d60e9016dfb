package store_test

import (
	"errors"
	"sync"
	"testing"
	"time"

	"cinderpath/core/build"
	"cinderpath/core/form"
	"cinderpath/core/path"
	"cinderpath/store"
	"cinderpath/store/storetest"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestMain(m *testing.M) { storetest.Main(m) }

func newID() string { return uuid.Must(uuid.NewV7()).String() }

func open(t *testing.T) (*store.Store, build.Build) {
	s := storetest.Open(t)
	_, err := s.KeepWorkshop(t.Context(), build.Workshop{Name: "bench", Zone: "UTC", Calendar: path.Calendar{Temperature: 20, Humidity: 0.5}}, 0)
	require.NoError(t, err)
	b, err := build.New(build.Start{Name: "Varrow", Outline: form.Tracked, Scale: "1:35", Length: "6.4 m", Width: "3.1 m", Height: "2.5 m"}, newID)
	require.NoError(t, err)
	require.NoError(t, s.Add(t.Context(), build.Item{Build: b}))
	return s, b
}

func rename(to string) func(build.Build) (build.Build, error) {
	return func(b build.Build) (build.Build, error) { b.Name = to; return b, nil }
}

func TestWhatIsKeptIsReadBackWhole(t *testing.T) {
	s, b := open(t)
	got, err := s.Build(t.Context(), b.ID)
	require.NoError(t, err)
	assert.Equal(t, b, got.Build)
	assert.Equal(t, int64(1), got.Revision)
}

func TestStaleWritesAreRefusedWithTheNewerState(t *testing.T) {
	s, b := open(t)
	ctx := t.Context()
	_, err := s.Change(ctx, b.ID, 1, rename("first"))
	require.NoError(t, err)
	_, err = s.Change(ctx, b.ID, 1, rename("second"))
	var stale *store.StaleError
	require.ErrorAs(t, err, &stale)
	assert.Equal(t, "first", stale.Current.Build.Name)
	assert.Equal(t, int64(2), stale.Current.Revision)
	before, err := s.Before(ctx, b.ID, 1)
	require.NoError(t, err)
	assert.Equal(t, "Varrow", before.Name)
}

func TestARefusedChangeLeavesNothing(t *testing.T) {
	s, b := open(t)
	broken := errors.New("no")
	_, err := s.Change(t.Context(), b.ID, 1, func(b build.Build) (build.Build, error) { return b, broken })
	require.ErrorIs(t, err, broken)
	got, err := s.Build(t.Context(), b.ID)
	require.NoError(t, err)
	assert.Equal(t, int64(1), got.Revision)
}

// Of many writers who saw the same revision exactly one gets through.
func TestOneWriterWins(t *testing.T) {
	s, b := open(t)
	var wins, losses int
	var mu sync.Mutex
	var wg sync.WaitGroup
	for range 12 {
		wg.Go(func() {
			_, err := s.Change(t.Context(), b.ID, 1, rename("mine"))
			var stale *store.StaleError
			mu.Lock()
			defer mu.Unlock()
			switch {
			case err == nil:
				wins++
			case errors.As(err, &stale):
				losses++
			}
		})
	}
	wg.Wait()
	assert.Equal(t, 1, wins)
	assert.Equal(t, 11, losses)
}

func TestTheLogKeepsOrderAndEachKeyOnce(t *testing.T) {
	s, b := open(t)
	ctx := t.Context()
	at := time.Date(2026, 11, 23, 20, 0, 0, 0, time.UTC)
	var wg sync.WaitGroup
	key := newID()
	for range 8 {
		wg.Go(func() {
			assert.NoError(t, s.Append(ctx, b.ID, build.Entry{Key: key, At: at, Kind: build.Started, Task: "a:b:1", Title: "A"}))
		})
	}
	wg.Wait()
	for range 5 {
		require.NoError(t, s.Append(ctx, b.ID, build.Entry{Key: newID(), At: at, Kind: build.Note, Task: "a:b:1", Title: "A"}))
	}
	logs, err := s.Logs(ctx)
	require.NoError(t, err)
	require.Len(t, logs[b.ID], 6)
	assert.Equal(t, build.Started, logs[b.ID][0].Kind)
	assert.True(t, at.Equal(logs[b.ID][0].At))
	got, err := s.Build(ctx, b.ID)
	require.NoError(t, err)
	assert.Equal(t, int64(1), got.Revision, "ticking at the bench makes no edit stale")
	assert.ErrorIs(t, s.Append(ctx, newID(), build.Entry{Key: newID()}), store.ErrNotFound)
}

func TestRemoveAndRestore(t *testing.T) {
	s, b := open(t)
	ctx := t.Context()
	require.NoError(t, s.Remove(ctx, b.ID))
	_, err := s.Build(ctx, b.ID)
	require.ErrorIs(t, err, store.ErrNotFound)
	require.ErrorIs(t, s.Remove(ctx, b.ID), store.ErrNotFound)
	require.NoError(t, s.Restore(ctx, b.ID))
	_, err = s.Build(ctx, b.ID)
	assert.NoError(t, err)
}

func TestWorkshopIsKeptByRevision(t *testing.T) {
	s, _ := open(t)
	ctx := t.Context()
	w, revision, ok, err := s.Workshop(ctx)
	require.NoError(t, err)
	require.True(t, ok)
	w.Name = "attic"
	next, err := s.KeepWorkshop(ctx, w, revision)
	require.NoError(t, err)
	assert.Equal(t, revision+1, next)
	_, err = s.KeepWorkshop(ctx, w, revision)
	var stale *store.StaleError
	assert.ErrorAs(t, err, &stale)
}
