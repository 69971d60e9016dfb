package storetest

import (
	"bytes"
	"io"
	"net"
	"net/url"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"
)

// Line is a way to a database that can be cut.
type Line struct {
	URL  string
	to   string
	mu   sync.Mutex
	down bool
	lose int // ends of transactions still to be lost
	open map[net.Conn]bool
	gate sync.RWMutex // held while nothing goes through
}

// NewLine leads to the database of an address.
func NewLine(t testing.TB, to string) *Line {
	u, err := url.Parse(to)
	require.NoError(t, err)
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { listener.Close() })
	l := &Line{to: u.Host, open: map[net.Conn]bool{}}
	u.Host = listener.Addr().String()
	l.URL = u.String()
	go func() {
		for {
			c, err := listener.Accept()
			if err != nil {
				return
			}
			go l.carry(c)
		}
	}()
	return l
}

// Cut ends all connections and takes no new ones until it is mended.
func (l *Line) Cut() {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.down = true
	for c := range l.open {
		_ = c.Close()
	}
}

// Mend takes connections again.
func (l *Line) Mend() {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.down = false
}

// Stall lets nothing through, either way, until it is let go: the connections stay.
func (l *Line) Stall() (letGo func()) {
	l.gate.Lock()
	return l.gate.Unlock
}

// passes waits while the line is stalled.
func (l *Line) passes() {
	l.gate.RLock()
	defer l.gate.RUnlock()
}

// LoseEnds lets the server hear the next n ends of transactions, and nobody its answer.
func (l *Line) LoseEnds(n int) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.lose = n
}

func (l *Line) loses() bool {
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.lose == 0 {
		return false
	}
	l.lose--
	return true
}

func (l *Line) keep(c net.Conn) bool {
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.down {
		_ = c.Close()
		return false
	}
	l.open[c] = true
	return true
}

func (l *Line) carry(c net.Conn) {
	defer func() { _ = c.Close() }()
	if !l.keep(c) {
		return
	}
	server, err := net.Dial("tcp", l.to)
	if err != nil {
		return
	}
	defer func() { _ = server.Close() }()
	var mu sync.Mutex
	lost := false
	go func() {
		defer func() { _ = c.Close() }()
		buf := make([]byte, 64<<10)
		for {
			n, err := server.Read(buf)
			l.passes()
			mu.Lock()
			gone := lost
			mu.Unlock()
			if err != nil || gone {
				return // after the server's answer: what it ended is ended
			}
			if _, err := c.Write(buf[:n]); err != nil {
				return
			}
		}
	}()
	buf := make([]byte, 64<<10)
	for {
		n, err := c.Read(buf)
		l.passes()
		if err != nil {
			return
		}
		if bytes.Contains(buf[:n], []byte("commit\x00")) && l.loses() {
			mu.Lock()
			lost = true
			mu.Unlock()
		}
		if _, err := io.Copy(server, bytes.NewReader(buf[:n])); err != nil {
			return
		}
	}
}
