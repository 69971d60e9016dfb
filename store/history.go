package store

import (
	"context"
	"errors"

	"cinderpath/core/document"

	"github.com/jackc/pgx/v5"
)

// steps is how many states of a build undo can go back one by one; of older ones the last
// of each day is kept.
const steps = 500

// place is where a state of a build stands in its history.
type place struct{ revision, position, parent int64 }

// prune leaves the newest states of a build, and of older ones the last of each day.
func prune(ctx context.Context, tx pgx.Tx, id string, position int64) error {
	if position <= steps {
		return nil
	}
	_, err := tx.Exec(ctx, `DELETE FROM build_history old WHERE build_id = $1 AND revision < $2 AND EXISTS (
		SELECT FROM build_history later WHERE later.build_id = old.build_id AND later.revision > old.revision
		AND later.saved_at::date = old.saved_at::date)`, id, position-steps)
	return err
}

// Seen reads the build as it was seen at a revision. One that was changed meanwhile is
// refused with a StaleError, which carries it.
func (s *Store) Seen(ctx context.Context, id string, seen int64) (Kept, error) {
	k, err := s.Build(ctx, id)
	if err == nil && k.Revision != seen {
		return Kept{}, &StaleError{Seen: seen, Current: k}
	}
	return k, err
}

// Change keeps a new state of the build that was seen at a revision. A build that was
// changed meanwhile is refused with a StaleError, which carries it. Under a key that was
// kept before nothing is written again, and no error is given.
func (s *Store) Change(ctx context.Context, id string, seen int64, key string, b document.Build) (Kept, error) {
	return s.write(ctx, id, seen, key, b, func(ctx context.Context, tx pgx.Tx) (place, error) {
		at := place{revision: seen + 1, position: seen + 1}
		err := tx.QueryRow(
			ctx,
			`SELECT position FROM build_history WHERE build_id = $1 AND revision = $2`,
			id,
			seen,
		).Scan(
			&at.parent,
		)
		return at, err
	})
}

// ErrFirst says that there is no state before the one a build is in.
var ErrFirst = errors.New("this is the first state of the build")

// Earlier is a state of a build that was, with its place in the history.
type Earlier struct {
	Build            document.Build
	position, parent int64
}

// Before reads the state before the one that the build was seen in, however often one
// went back already. Where the state before was not kept, it is the last kept before that.
func (s *Store) Before(ctx context.Context, id string, seen int64) (Earlier, error) {
	if _, err := s.Seen(ctx, id, seen); err != nil {
		return Earlier{}, err
	}
	return patiently(ctx, s, func(ctx context.Context) (Earlier, error) {
		var e Earlier
		err := s.pool.QueryRow(ctx, `SELECT before.doc, before.position, before.parent FROM build_history now
			JOIN build_history before ON before.build_id = now.build_id AND before.revision <= now.parent
			WHERE now.build_id = $1 AND now.revision = $2 ORDER BY before.revision DESC LIMIT 1`, id, seen).
			Scan(&e.Build, &e.position, &e.parent)
		if errors.Is(err, pgx.ErrNoRows) {
			err = ErrFirst
		}
		return e, err
	})
}

// Undo goes back to an earlier state of the build that was seen at a revision; the key is
// as in Change.
func (s *Store) Undo(ctx context.Context, id string, seen int64, key string, to Earlier) (Kept, error) {
	return s.write(ctx, id, seen, key, to.Build, func(context.Context, pgx.Tx) (place, error) {
		return place{revision: seen + 1, position: to.position, parent: to.parent}, nil
	})
}

// KeptUnder tells whether a change of a build was kept under a key.
func (s *Store) KeptUnder(ctx context.Context, id, key string) (bool, error) {
	return patiently(ctx, s, func(ctx context.Context) (bool, error) { return keptUnder(ctx, s.pool, id, key) })
}

func keptUnder(ctx context.Context, q querier, id, key string) (there bool, err error) {
	err = q.QueryRow(
		ctx,
		`SELECT EXISTS (SELECT FROM build_history WHERE build_id = $1 AND key = $2)`,
		id,
		key,
	).Scan(
		&there,
	)
	return there, err
}

// write keeps a new state of the build that was seen at a revision; where tells its place
// in the history. Nothing is computed while the build's row is locked.
func (s *Store) write(
	ctx context.Context,
	id string,
	seen int64,
	key string,
	b document.Build,
	where func(context.Context, pgx.Tx) (place, error),
) (Kept, error) {
	out := Kept{Build: b, Revision: seen + 1}
	return out, s.keep(ctx, func(ctx context.Context, tx pgx.Tx, _ bool) error {
		now, err := lock(ctx, tx, id)
		if err != nil {
			return err
		}
		there, err := keptUnder(ctx, tx, id, key)
		if err != nil {
			return err
		}
		if there || now != seen {
			current, err := buildIn(ctx, tx, id)
			if err == nil && !there {
				err = &StaleError{Seen: seen, Current: current}
			}
			out = current
			return err
		}
		at, err := where(ctx, tx)
		if err != nil {
			return err
		}
		// In one: documents are long.
		if _, err := tx.Exec(ctx, `WITH now AS (UPDATE build SET doc = $2, revision = $3 WHERE id = $1 RETURNING id, doc)
			INSERT INTO build_history (build_id, revision, doc, position, parent, key)
			SELECT id, $3, doc, $4, $5, $6 FROM now`, id, b, at.revision, at.position, at.parent, key); err != nil {
			return err
		}
		return prune(ctx, tx, id, at.position)
	})
}
