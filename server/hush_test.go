package server

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// What nobody waits for rests while somebody waits, gets on as soon as nobody does, and gets on a little even where
// somebody always does.
func TestWhatNobodyWaitsForRests(t *testing.T) {
	var h hush
	h.rest() // at once: nobody waits
	one, two := h.begin(), h.begin()
	on := make(chan struct{})
	go func() {
		defer close(on)
		for {
			h.rest()
			h.mu.Lock()
			free := h.waiting == 0
			h.mu.Unlock()
			if free {
				return
			}
		}
	}()
	one()
	select {
	case <-on:
		assert.Fail(t, "somebody waits still")
	default:
	}
	two()
	<-on
	defer h.begin()()
	rest := h.resting(2)
	assert.True(t, rest(), "it comes back though somebody waits")
	assert.True(t, rest())
	assert.False(t, rest(), "and at last it does not rest any more")
}
