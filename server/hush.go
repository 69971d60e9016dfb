package server

import (
	"net/http"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
)

// hush lets work that nobody waits for rest while somebody waits for an answer. The zero value is ready.
type hush struct {
	mu      sync.Mutex
	waiting int
	over    chan struct{} // closed when nobody waits any more
}

// rested is how long a rest may last: who is never alone gets on all the same.
const rested = 50 * time.Millisecond

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

// rest waits while somebody waits.
func (h *hush) rest() {
	h.mu.Lock()
	over, busy := h.over, h.waiting > 0
	h.mu.Unlock()
	if !busy {
		return
	}
	most := time.NewTimer(rested)
	defer most.Stop()
	select {
	case <-over:
	case <-most.C:
	}
}

// whoWrites waits for what follows from it; who sends a file is slow by itself.
func (h *hush) whoWrites(ctx *gin.Context) {
	_, up := upload(ctx.Request)
	if !up && ctx.Request.Method != http.MethodGet && ctx.Request.Method != http.MethodHead {
		defer h.begin()()
	}
	ctx.Next()
}
