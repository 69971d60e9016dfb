package store_test

import (
	"testing"
	"time"

	"cinderpath/core/document"
	"cinderpath/store"
	"cinderpath/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// lined is a store whose way to the database can be cut, with one build.
func lined(t *testing.T) (*store.Store, *storetest.Line, document.Build) {
	line := storetest.NewLine(t, storetest.Database(t))
	s, err := store.Open(t.Context(), line.URL)
	require.NoError(t, err)
	t.Cleanup(s.Close)
	return s, line, fill(t, s)
}

func note() document.Entry {
	return document.Entry{Key: newID(), At: time.Now(), Kind: document.Note, Task: "a:b:1", Title: "A"}
}

// Forty times the end of a write is not heard of: each is kept once, and none is told to
// have failed.
func TestWritesWhoseEndIsLostAreKeptOnce(t *testing.T) {
	s, line, b := lined(t)
	ctx := t.Context()
	w, _, _, err := s.Workshop(ctx)
	require.NoError(t, err)
	entries := map[string]bool{}
	revision, shelf := int64(1), int64(1)
	for i := range 10 {
		line.LoseEnds(1)
		e := note()
		require.NoError(t, s.Append(ctx, b.ID, e))
		entries[e.Key] = true

		line.LoseEnds(1)
		k, err := s.Change(ctx, b.ID, revision, newID(), named(b, string(rune('a'+i))))
		require.NoError(t, err)
		require.Equal(t, revision+1, k.Revision)
		revision = k.Revision

		line.LoseEnds(1)
		w.Name += "."
		shelf, err = s.KeepWorkshop(ctx, w, shelf)
		require.NoError(t, err)

		line.LoseEnds(1)
		other := b
		other.ID = newID()
		require.NoError(t, s.Add(ctx, document.Item{Build: other, Log: []document.Entry{note()}}))
		line.LoseEnds(1)
		require.NoError(t, s.Remove(ctx, other.ID))
	}
	items, revisions, err := s.Items(ctx)
	require.NoError(t, err)
	require.Len(t, items, 1)
	require.Len(t, items[0].Log, len(entries))
	for _, e := range items[0].Log {
		assert.True(t, entries[e.Key])
	}
	assert.Equal(t, int64(11), revisions[b.ID])
	assert.Equal(t, "j", items[0].Build.Name)
	_, at, _, err := s.Workshop(ctx)
	require.NoError(t, err)
	assert.Equal(t, int64(11), at)
}

// While the database is away it is said so, and that nothing was written; where it went
// in the middle it is said that nobody knows, and the same sent again tells.
func TestADatabaseThatIsAway(t *testing.T) {
	s, line, b := lined(t)
	ctx := t.Context()
	line.Cut()
	_, err := s.Build(ctx, b.ID)
	require.ErrorIs(t, err, store.ErrAway)
	require.ErrorIs(t, s.Ping(ctx), store.ErrAway)
	e := note()
	err = s.Append(ctx, b.ID, e)
	require.ErrorIs(t, err, store.ErrAway)
	require.NotErrorIs(t, err, store.ErrUnsure)
	line.Mend()
	logs, err := s.Logs(ctx)
	require.NoError(t, err)
	require.Empty(t, logs[b.ID])

	line.LoseEnds(1000) // and every try after it is lost as well
	key := newID()
	_, err = s.Change(ctx, b.ID, 1, key, named(b, "kept"))
	require.ErrorIs(t, err, store.ErrUnsure)
	require.ErrorIs(t, s.Append(ctx, b.ID, e), store.ErrUnsure)
	line.LoseEnds(0)
	there, err := s.KeptUnder(ctx, b.ID, key)
	require.NoError(t, err)
	assert.True(t, there)
	for range 2 {
		k, err := s.Change(ctx, b.ID, 1, key, named(b, "kept"))
		require.NoError(t, err)
		assert.Equal(t, "kept", k.Build.Name)
		assert.Equal(t, int64(2), k.Revision)
		require.NoError(t, s.Append(ctx, b.ID, e))
	}
	logs, err = s.Logs(ctx)
	require.NoError(t, err)
	assert.Len(t, logs[b.ID], 1)
}

// The newest five hundred states are kept one by one; of older ones the last of each day.
func TestHistoryIsKeptToFiveHundredSteps(t *testing.T) {
	s, b := open(t)
	for revision := range int64(560) {
		_, err := s.Change(t.Context(), b.ID, revision+1, newID(), named(b, "state "+time.Duration(revision+2).String()))
		require.NoError(t, err)
	}
	revision := int64(561)
	for range 500 {
		k, err := undone(t, s, b.ID, revision)
		require.NoError(t, err)
		revision = k.Revision
	}
	now, err := s.Build(t.Context(), b.ID)
	require.NoError(t, err)
	assert.Equal(t, "state 61ns", now.Build.Name, "five hundred steps back")
	_, err = undone(t, s, b.ID, revision)
	assert.ErrorIs(t, err, store.ErrFirst, "what is older was of the same day")
}

// A database that hangs is not waited for: whoever asks is told, whether something was written or not, while
// one that is slow is left to answer.
func TestADatabaseThatHangs(t *testing.T) {
	s, line, b := lined(t)
	ctx := t.Context()
	letGo := line.Stall()
	done := make(chan [2]error, 1)
	go func() {
		_, read := s.Build(ctx, b.ID)
		_, write := s.Change(ctx, b.ID, 1, newID(), named(b, "kept"))
		done <- [2]error{read, write}
	}()
	limit := time.NewTimer(9 * time.Second) // less than one try would take by itself
	defer limit.Stop()
	select {
	case errs := <-done:
		require.ErrorIs(t, errs[0], store.ErrAway)
		require.ErrorIs(t, errs[1], store.ErrAway)
	case <-limit.C:
		letGo()
		t.Fatal("nobody was told that the database hangs")
	}
	letGo()
	k, err := s.Change(ctx, b.ID, 1, newID(), named(b, "later"))
	require.NoError(t, err)
	assert.Equal(t, "later", k.Build.Name)
}
