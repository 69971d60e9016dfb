package store

import (
	"context"
	"errors"
	"io"
	"net"
	"strings"
	"time"

	"github.com/jackc/pgerrcode"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

// What can be wrong with the database itself. Whoever asks again later may be answered.
var (
	// ErrAway says that the database does not answer, and that nothing was written.
	ErrAway = errors.New("the database does not answer")
	// ErrUnsure says that the database went while it was writing: what was to be kept is
	// there or not. Asking again under the same key or revision tells which.
	ErrUnsure = errors.New("the database went while it was writing")
	// ErrFull says that the database's disk is full, and that nothing was written.
	ErrFull = errors.New("the disk of the database is full")
)

const (
	patience = 1500 * time.Millisecond // with a database that is away
	pause    = 100 * time.Millisecond  // between two tries
	longest  = 10 * time.Second        // for one try; ordinary ones take milliseconds
	soon     = 600 * time.Millisecond  // after which a try is watched, and within which a probe is answered
)

// patiently does what only reads until the database answered, for as long as patience
// lasts.
func patiently[T any](ctx context.Context, s *Store, ask func(ctx context.Context) (T, error)) (T, error) {
	for until := time.Now().Add(patience); ; {
		one, cancel := s.watched(ctx, longest)
		answer, err := ask(one)
		cancel()
		if !away(ctx, err) || !waited(ctx, until) {
			return answer, told(ctx, err)
		}
	}
}

// watched limits a try. One that takes long is let go on while a probe beside it is answered; where two in
// a row are not, the database hangs, and whoever asked is told so at once.
func (s *Store) watched(ctx context.Context, limit time.Duration) (context.Context, context.CancelFunc) {
	one, cancel := context.WithTimeout(ctx, limit)
	watch := time.AfterFunc(soon, func() {
		for missed := 0; one.Err() == nil; {
			if s.answers(one) {
				missed = 0
				_ = paused(one, soon)
				continue
			}
			if missed++; missed == 2 {
				cancel()
			}
		}
	})
	return one, func() { watch.Stop(); cancel() }
}

// answers asks the server whether it is there, on a way of its own, once for all that want to know.
func (s *Store) answers(ctx context.Context) bool {
	_, err, _ := s.asking.Do("probe", func() (any, error) {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), soon)
		defer cancel()
		return nil, s.probe.Ping(ctx)
	})
	return err == nil
}

// keep runs a transaction until it is known to be kept or refused, for as long as patience
// lasts. again tells what is written that an earlier try may have been kept unseen.
func (s *Store) keep(ctx context.Context, write func(ctx context.Context, tx pgx.Tx, again bool) error) error {
	return s.keepWithin(ctx, longest, write)
}

// keepWithin is keep with another limit for one try.
func (s *Store) keepWithin(
	ctx context.Context,
	limit time.Duration,
	write func(ctx context.Context, tx pgx.Tx, again bool) error,
) error {
	unsure := false
	for until := time.Now().Add(patience); ; {
		one, cancel := s.watched(ctx, limit)
		lost, err := s.once(one, func(tx pgx.Tx) error { return write(one, tx, unsure) })
		cancel()
		unsure = unsure || lost
		if !away(ctx, err) || !waited(ctx, until) {
			if err != nil && unsure && (lost || away(ctx, err)) {
				return errors.Join(ErrUnsure, err)
			}
			return told(ctx, err)
		}
	}
}

// once runs one transaction. lost says that its end was not heard of.
func (s *Store) once(ctx context.Context, write func(pgx.Tx) error) (lost bool, err error) {
	tx, err := s.pool.Begin(ctx)
	if err != nil {
		return false, err
	}
	if err := write(tx); err != nil {
		// What fails before its end was never kept; the server rolls it back by itself
		// when this no longer reaches it.
		_ = tx.Rollback(context.WithoutCancel(ctx))
		return false, err
	}
	err = tx.Commit(ctx)
	var said *pgconn.PgError
	return err != nil && (!errors.As(err, &said) || away(ctx, err)), err
}

// waited pauses before the next try; false when there is none.
func waited(ctx context.Context, until time.Time) bool {
	if time.Now().Add(pause).After(until) {
		return false
	}
	return paused(ctx, pause)
}

// paused tells whether somebody still waits after a while.
func paused(ctx context.Context, d time.Duration) bool {
	select {
	case <-ctx.Done():
		return false
	case <-time.After(d):
		return true
	}
}

// away tells whether an error means that the server is not there, or was not for a moment.
// Whoever asked may have left: that is no fault of the database.
func away(ctx context.Context, err error) bool {
	if err == nil || ctx.Err() != nil {
		return false
	}
	var said *pgconn.PgError
	if errors.As(err, &said) {
		return pgerrcode.IsOperatorIntervention(said.Code) || pgerrcode.IsConnectionException(said.Code) ||
			said.Code == pgerrcode.TooManyConnections
	}
	var connect *pgconn.ConnectError
	var network net.Error
	return errors.As(err, &connect) || errors.As(err, &network) || errors.Is(err, io.EOF) ||
		errors.Is(err, io.ErrUnexpectedEOF) ||
		errors.Is(err, context.DeadlineExceeded) || errors.Is(err, context.Canceled) || pgconn.SafeToRetry(err) ||
		strings.Contains(err.Error(), "conn closed")
}

// told gives an error of the database its meaning.
func told(ctx context.Context, err error) error {
	var said *pgconn.PgError
	switch {
	case away(ctx, err):
		return errors.Join(ErrAway, err)
	case errors.As(err, &said) && (said.Code == pgerrcode.DiskFull || strings.Contains(said.Message, "No space left")):
		return errors.Join(ErrFull, err)
	}
	return err
}
