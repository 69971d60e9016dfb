package server

import (
	"context"
	"fmt"
	"sync"
)

// relay makes one thing after another for all who ask for it together. Who came while one is made waits for the
// one after, since only that is sure to hold what was there before they came. As long as one waits it is made.
type relay[T any] struct {
	make func(context.Context) (T, error)

	mu     sync.Mutex
	coming *turn[T]   // those who wait for the next one
	making sync.Mutex // one is made at a time
}

// turn is a thing to come with those who wait for it.
type turn[T any] struct {
	done    chan struct{}
	waiting int
	stop    context.CancelFunc
	made    T
	err     error
}

// next gives one that was begun after it was asked for.
func (r *relay[T]) next(ctx context.Context) (made T, err error) {
	r.mu.Lock()
	t := r.coming
	if t == nil {
		// Whoever asked may leave.
		making, stop := context.WithCancel(context.WithoutCancel(ctx))
		t = &turn[T]{done: make(chan struct{}), stop: stop}
		r.coming = t
		go r.take(making, t)
	}
	t.waiting++
	r.mu.Unlock()
	select {
	case <-t.done:
		return t.made, t.err
	case <-ctx.Done():
		r.mu.Lock()
		defer r.mu.Unlock()
		if t.waiting--; t.waiting == 0 {
			if r.coming == t {
				r.coming = nil // nobody joins what was given up
			}
			t.stop()
		}
		return made, ctx.Err()
	}
}

func (r *relay[T]) take(ctx context.Context, t *turn[T]) {
	defer close(t.done)
	defer t.stop()
	defer func() {
		if p := recover(); p != nil {
			t.err = fmt.Errorf("making an answer: %v", p)
		}
	}()
	r.making.Lock()
	defer r.making.Unlock()
	r.mu.Lock()
	if r.coming == t {
		r.coming = nil // who comes from here on may have written something newer
	}
	r.mu.Unlock()
	t.made, t.err = r.make(ctx)
}
