package server

import (
	"sync"
	"time"
)

// hush lets work that nobody waits for rest while somebody waits for an answer that does not hang on it. The zero
// value is ready.
type hush struct {
	mu      sync.Mutex
	waiting int
	over    chan struct{} // closed when nobody waits any more
}

// A rest may last so long, and one work may rest so often: who is never alone gets on all the same, and somebody may
// have come to wait for just that work.
const (
	rested    = 50 * time.Millisecond
	mostRests = 100
)

// begin tells that somebody waits, until the function that it gives is called.
func (h *hush) begin() (end func()) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.waiting++; h.waiting == 1 {
		h.over = make(chan struct{})
	}
	return func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		if h.waiting--; h.waiting == 0 {
			close(h.over)
		}
	}
}

// resting gives what one work calls now and then: it rests while somebody waits, so often at most.
func (h *hush) resting(most int) func() bool {
	return func() bool {
		if most == 0 || !h.rest() {
			return false
		}
		most--
		return true
	}
}

// rest waits while somebody waits, and tells whether somebody did.
func (h *hush) rest() bool {
	h.mu.Lock()
	over, busy := h.over, h.waiting > 0
	h.mu.Unlock()
	if !busy {
		return false
	}
	most := time.NewTimer(rested)
	defer most.Stop()
	select {
	case <-over:
	case <-most.C:
	}
	return true
}
