package server_test

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"net"
	"net/http"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"testing/fstest"
	"time"

	"cinderpath/proof"
	"cinderpath/server"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// served is the server on a socket of its own.
func served(t *testing.T, b bench) string {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, stop := context.WithCancel(context.Background())
	done := make(chan error, 1)
	go func() { done <- server.Serve(ctx, l, b.h) }()
	t.Cleanup(func() { stop(); assert.NoError(t, <-done) })
	return l.Addr().String()
}

// raw sends bytes as they are and reads all that comes back.
func raw(t *testing.T, address, sent string) string {
	c, err := net.Dial("tcp", address)
	require.NoError(t, err)
	defer func() { _ = c.Close() }()
	_, err = io.WriteString(c, sent)
	require.NoError(t, err)
	said, err := io.ReadAll(c)
	if err != nil {
		t.Log(err) // cut off in the middle is an answer too
	}
	return string(said)
}

// What no browser sends: each gets a plain refusal, nothing is written, nothing of the
// machine is shown, and the server goes on.
func TestWhatNoBrowserSends(t *testing.T) {
	t.Parallel()
	b := open(t)
	address := served(t, b)
	remove := "DELETE /api/builds/" + b.varrow + " HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n"
	for name, sent := range map[string]string{
		"two lengths":       "POST /api/calc/length HTTP/1.1\r\nHost: localhost\r\nContent-Length: 4\r\nContent-Length: 60\r\n\r\n{}\r\n" + remove,
		"length and lumps":  "POST /api/calc/length HTTP/1.1\r\nHost: localhost\r\nContent-Length: 4\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\nxx" + remove[:0] + "\r\n",
		"odd lumps":         "POST /api/calc/length HTTP/1.1\r\nHost: localhost\r\nTransfer-Encoding: xchunked\r\n\r\n0\r\n\r\n" + remove,
		"a space in a name": "GET / HTTP/1.1\r\nHost : localhost\r\n\r\n",
		"no host":           "GET / HTTP/1.1\r\n\r\n",
		"two hosts":         "GET / HTTP/1.1\r\nHost: localhost\r\nHost: elsewhere\r\n\r\n",
		"another program":   "\x16\x03\x01\x02\x00\x01\x00\x01\xfc\x03\x03 hello\r\n\r\n",
		"an endless name":   "GET / HTTP/1.1\r\nHost: localhost\r\nX: " + strings.Repeat("a", 200_000) + "\r\n\r\n",
	} {
		said := raw(t, address, sent)
		first, _, _ := strings.Cut(said, "\r\n")
		assert.Regexp(t, `^HTTP/1\.[01] (4|501)|^$`, first, name)
		assert.NotContains(t, said, "204 No Content", name)
	}
	for _, method := range []string{"TRACE", "CONNECT", "PATCH", "BREW", "PUT"} {
		said := raw(t, address, method+" /api/home HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n")
		assert.Regexp(t, `^HTTP/1\.1 (400|404|405|421)`, said, method)
	}
	for _, path := range []string{
		"/../../../../etc/passwd", "/assets/../../../../etc/passwd", "/assets/..%2f..%2f..%2fetc%2fpasswd",
		"/%2e%2e/%2e%2e/etc/passwd", "//etc/passwd", "/assets/%00", "/api/builds/../../etc/passwd", "/\\..\\..\\etc",
		"/api/builds/" + b.varrow + "/files/..%2f..%2fetc%2fpasswd",
	} {
		said := raw(t, address, "GET "+path+" HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n")
		assert.NotContains(t, said, "root:", path)
		assert.NotContains(t, said, "HTTP/1.1 5", path)
	}
	assert.Equal(t, http.StatusOK, b.ask("GET", "/api/builds/"+b.varrow, "").Code, "the build is still there")
}

// Who never comes to the end of a head is let go.
func TestAHeadWithoutEnd(t *testing.T) {
	t.Parallel()
	b := open(t)
	c, err := net.Dial("tcp", served(t, b))
	require.NoError(t, err)
	defer func() { _ = c.Close() }()
	_, err = io.WriteString(c, "GET / HTTP/1.1\r\nHost: localhost\r\nX-Slow: ")
	require.NoError(t, err)
	require.NoError(t, c.SetReadDeadline(time.Now().Add(time.Minute)))
	_, err = bufio.NewReader(c).ReadString(0)
	require.ErrorIs(t, err, io.EOF, "the server ends it")
}

// Edits of many hands, each on the state that it saw last: as many are kept as the revision
// went up, the others are told; an undo in between is one of them.
func TestInterleavedEdits(t *testing.T) {
	t.Parallel()
	b := open(t)
	var kept, told, next atomic.Int64
	next.Store(1)
	all := int64(proof.Rounds(80, 1000))
	var sent atomic.Int64
	var hands sync.WaitGroup
	for hand := range 8 {
		hands.Go(func() {
			for sent.Add(1) <= all {
				seen := next.Load()
				path, body := "/edits", fmt.Sprintf(`{"edits":[{"op":"story","text":"hand %d saw %d"}]}`, hand, seen)
				if hand == 7 {
					path, body = "/undo", ""
				}
				a := b.ask("POST", "/api/builds/"+b.varrow+path, body, "If-Match", fmt.Sprintf(`"%d"`, seen))
				switch a.Code {
				case http.StatusOK:
					kept.Add(1)
					next.Store(seen + 1)
				case http.StatusPreconditionFailed:
					told.Add(1)
					next.Store(a.problem.Current.Revision)
				default:
					assert.Equal(b.t, http.StatusUnprocessableEntity, a.Code, "nothing is left to take back: %s", a.Body)
					told.Add(1)
				}
			}
		})
	}
	hands.Wait()
	k, err := b.s.Build(t.Context(), b.varrow)
	require.NoError(t, err)
	assert.Equal(t, kept.Load()+1, k.Revision)
	assert.Equal(t, all, kept.Load()+told.Load())
	assert.Positive(t, kept.Load())
	assert.Positive(t, told.Load())
}

// The clock of the machine jumps, back and forth: what is written at the bench stays in the
// order in which it was, and there is a plan at every hour.
func TestTheClockJumps(t *testing.T) {
	t.Parallel()
	b := open(t)
	var clock atomic.Int64
	h, err := server.New(server.Config{
		Store: b.s, NewID: newID, UI: fstest.MapFS{}, Deriver: &deriver,
		Now: func() time.Time { return now.Add(time.Duration(clock.Load())) },
	})
	require.NoError(t, err)
	b.h = h
	build := "/api/builds/" + b.varrow
	var want []string
	for i, jump := range []time.Duration{0, time.Hour, -26 * time.Hour, 400 * 24 * time.Hour, -3000 * 24 * time.Hour, time.Minute} {
		clock.Store(int64(jump))
		key := newID()
		want = append(want, key)
		kind := []string{"started", "done"}[i%2]
		a := b.ask("POST", build+"/log",
			fmt.Sprintf(`{"key":%q,"kind":%q,"task":"fit:gear:1","title":"Fit the gear"}`, key, kind))
		require.Equal(t, http.StatusOK, a.Code, "%v: %s", jump, a.Body)
		require.Equal(t, http.StatusOK, b.ask("GET", "/api/evenings", "").Code, "%v", jump)
	}
	logs, err := b.s.Logs(t.Context())
	require.NoError(t, err)
	log := logs[b.varrow]
	var got []string
	for _, e := range log[len(log)-len(want):] {
		got = append(got, e.Key)
	}
	assert.Equal(t, want, got)
}
