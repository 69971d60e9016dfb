package store_test

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"math/rand/v2"
	"strings"
	"sync"
	"testing"
	"time"

	"cinderpath/core/document"
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

func open(t *testing.T) (*store.Store, document.Build) {
	s := storetest.Open(t)
	return s, fill(t, s)
}

// fill keeps a workshop and a build.
func fill(t *testing.T, s *store.Store) document.Build {
	_, err := s.KeepWorkshop(
		t.Context(),
		document.Workshop{Name: "bench", Zone: "UTC", Calendar: path.Calendar{Temperature: 20, Humidity: 0.5}},
		0,
	)
	require.NoError(t, err)
	b, err := document.New(
		document.Start{
			Name:    "Varrow",
			Outline: form.Tracked,
			Scale:   "1:35",
			Length:  "6.4 m",
			Width:   "3.1 m",
			Height:  "2.5 m",
		},
		newID,
	)
	require.NoError(t, err)
	require.NoError(t, s.Add(t.Context(), document.Item{Build: b}))
	return b
}

func named(b document.Build, name string) document.Build { b.Name = name; return b }

// undone goes back by one state.
func undone(t *testing.T, s *store.Store, id string, seen int64) (store.Kept, error) {
	to, err := s.Before(t.Context(), id, seen)
	if err != nil {
		return store.Kept{}, err
	}
	return s.Undo(t.Context(), id, seen, newID(), to)
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
	_, err := s.Change(ctx, b.ID, 1, newID(), named(b, "first"))
	require.NoError(t, err)
	_, err = s.Change(ctx, b.ID, 1, newID(), named(b, "second"))
	var stale *store.StaleError
	require.ErrorAs(t, err, &stale)
	assert.Equal(t, "first", stale.Current.Build.Name)
	assert.Equal(t, int64(2), stale.Current.Revision)
	_, err = undone(t, s, b.ID, 1)
	require.ErrorAs(t, err, &stale)
	back, err := undone(t, s, b.ID, 2)
	require.NoError(t, err)
	assert.Equal(t, "Varrow", back.Build.Name)
}

// Edits and undos in any order against a plain stack of states.
func TestUndoGoesBackAlongTheLine(t *testing.T) {
	s, b := open(t)
	stack, revision := []string{b.Name}, int64(1)
	r := rand.New(rand.NewPCG(1, 2))
	for i := range 120 {
		if r.IntN(2) == 0 {
			name := fmt.Sprint("name ", i)
			k, err := s.Change(t.Context(), b.ID, revision, newID(), named(b, name))
			require.NoError(t, err)
			stack, revision = append(stack, name), k.Revision
			continue
		}
		k, err := undone(t, s, b.ID, revision)
		if len(stack) == 1 {
			require.ErrorIs(t, err, store.ErrFirst)
			continue
		}
		require.NoError(t, err)
		stack, revision = stack[:len(stack)-1], k.Revision
		require.Equal(t, stack[len(stack)-1], k.Build.Name)
	}
	now, err := s.Build(t.Context(), b.ID)
	require.NoError(t, err)
	assert.Equal(t, stack[len(stack)-1], now.Build.Name)
}

// Files of several pieces come back byte for byte, the same content is kept once, and
// one whose reading fails is not kept.
func TestFilesByContent(t *testing.T) {
	s, b := open(t)
	ctx := t.Context()
	data := make([]byte, 3<<20+17)
	for i := range data {
		data[i] = byte(i*i>>7 + i)
	}
	f, err := s.KeepFile(ctx, b.ID, "model/stl", bytes.NewReader(data))
	require.NoError(t, err)
	sum := sha256.Sum256(data)
	assert.Equal(t, hex.EncodeToString(sum[:]), f.Hash)
	assert.EqualValues(t, len(data), f.Size)
	again, err := s.KeepFile(ctx, b.ID, "model/stl", bytes.NewReader(data))
	require.NoError(t, err)
	assert.Equal(t, f, again)
	found, err := s.FileOf(ctx, b.ID, f.Hash)
	require.NoError(t, err)
	var back bytes.Buffer
	require.NoError(t, s.Read(ctx, found, &back))
	assert.True(t, bytes.Equal(data, back.Bytes()))

	broken := errors.New("the line broke")
	_, err = s.KeepFile(ctx, b.ID, "model/stl", &breaking{Reader: bytes.NewReader(data[:2<<20]), err: broken})
	require.ErrorIs(t, err, broken)
	half := sha256.Sum256(data[:2<<20])
	_, err = s.FileOf(ctx, b.ID, hex.EncodeToString(half[:]))
	require.ErrorIs(t, err, store.ErrNoFile)
	_, err = s.KeepFile(ctx, uuid.NewString(), "model/stl", bytes.NewReader(data))
	require.ErrorIs(t, err, store.ErrNotFound)

	// What was measured is remembered with the content; another build has the file
	// only when it is given it.
	var shape struct{ Wall float64 }
	ok, err := s.Shape(ctx, found, &shape)
	require.NoError(t, err)
	assert.False(t, ok)
	require.NoError(t, s.KeepShape(ctx, found, map[string]float64{"wall": 0.4}))
	ok, err = s.Shape(ctx, found, &shape)
	require.NoError(t, err)
	assert.True(t, ok)
	assert.InDelta(t, 0.4, shape.Wall, 0)
	other := b
	other.ID = uuid.NewString()
	require.NoError(t, s.Add(ctx, document.Item{Build: other}))
	_, err = s.FileOf(ctx, other.ID, f.Hash)
	require.ErrorIs(t, err, store.ErrNoFile)
	require.NoError(t, s.CopyFiles(ctx, b.ID, other.ID))
	_, err = s.FileOf(ctx, other.ID, f.Hash)
	require.NoError(t, err)
}

// breaking reads well once, and fails at the end when it is read again.
type breaking struct {
	*bytes.Reader
	err  error
	read bool
}

func (b *breaking) Seek(at int64, from int) (int64, error) {
	b.read = true
	return b.Reader.Seek(at, from)
}

func (b *breaking) Read(p []byte) (int, error) {
	n, err := b.Reader.Read(p)
	if b.read && errors.Is(err, io.EOF) {
		err = b.err
	}
	return n, err
}

func (b *breaking) WriteTo(w io.Writer) (int64, error) { return io.Copy(w, struct{ io.Reader }{b}) }

// The same content sent from many sides at once is one file.
func TestTheSameFileAtOnce(t *testing.T) {
	s, b := open(t)
	var wait sync.WaitGroup
	ids := make([]store.File, 8)
	for i := range ids {
		wait.Go(func() {
			f, err := s.KeepFile(t.Context(), b.ID, "image/png", strings.NewReader(strings.Repeat("x", 100_000)))
			assert.NoError(t, err)
			ids[i] = f
		})
	}
	wait.Wait()
	for _, f := range ids {
		assert.Equal(t, ids[0], f)
	}
}

// Who read a state, computed, and was overtaken meanwhile is told at the write, whether
// it was an edit or an undo; what the other wrote stays.
func TestWhoIsOvertakenIsToldAtTheWrite(t *testing.T) {
	s, b := open(t)
	ctx := t.Context()
	_, err := s.Change(ctx, b.ID, 1, newID(), named(b, "second"))
	require.NoError(t, err)
	seen, err := s.Seen(ctx, b.ID, 2)
	require.NoError(t, err)
	back, err := s.Before(ctx, b.ID, 2)
	require.NoError(t, err)
	_, err = s.Change(ctx, b.ID, 2, newID(), named(b, "third"))
	require.NoError(t, err)
	var stale *store.StaleError
	_, err = s.Change(ctx, b.ID, seen.Revision, newID(), named(seen.Build, "late"))
	require.ErrorAs(t, err, &stale)
	_, err = s.Undo(ctx, b.ID, seen.Revision, newID(), back)
	require.ErrorAs(t, err, &stale)
	_, err = s.Seen(ctx, b.ID, 2)
	require.ErrorAs(t, err, &stale)
	got, err := s.Build(ctx, b.ID)
	require.NoError(t, err)
	assert.Equal(t, "third", got.Build.Name)
}

// Of many writers who saw the same revision exactly one gets through.
func TestOneWriterWins(t *testing.T) {
	s, b := open(t)
	var wins, losses int
	var mu sync.Mutex
	var wg sync.WaitGroup
	for range 12 {
		wg.Go(func() {
			_, err := s.Change(t.Context(), b.ID, 1, newID(), named(b, "mine"))
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
			assert.NoError(
				t,
				s.Append(ctx, b.ID, document.Entry{Key: key, At: at, Kind: document.Started, Task: "a:b:1", Title: "A"}),
			)
		})
	}
	wg.Wait()
	for range 5 {
		require.NoError(
			t,
			s.Append(ctx, b.ID, document.Entry{Key: newID(), At: at, Kind: document.Note, Task: "a:b:1", Title: "A"}),
		)
	}
	logs, err := s.Logs(ctx)
	require.NoError(t, err)
	require.Len(t, logs[b.ID], 6)
	assert.Equal(t, document.Started, logs[b.ID][0].Kind)
	assert.True(t, at.Equal(logs[b.ID][0].At))
	got, err := s.Build(ctx, b.ID)
	require.NoError(t, err)
	assert.Equal(t, int64(1), got.Revision, "ticking at the bench makes no edit stale")
	assert.ErrorIs(t, s.Append(ctx, newID(), document.Entry{Key: newID()}), store.ErrNotFound)
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
	again, err := s.KeepWorkshop(ctx, w, revision)
	require.NoError(t, err, "who did not hear of it sends the same again")
	assert.Equal(t, next, again)
	w.Name = "cellar"
	_, err = s.KeepWorkshop(ctx, w, revision)
	var stale *store.StaleError
	assert.ErrorAs(t, err, &stale)
}
