// Package store keeps builds, the workshop and the log in PostgreSQL. It takes and
// gives core types; it computes nothing of the job.
package store

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"reflect"
	"time"

	"cinderpath/core/document"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
)

//go:embed migrations/*.sql
var migrations embed.FS

// workshopID is the one workshop of an installation; the schema has room for more.
const workshopID = 1

// connections is how many the pool holds at most: a good deal fewer than the private
// server gives, so that the commands beside it find one.
const connections = 12

// steps is how many states of a build undo can go back one by one; of older ones the last
// of each day is kept.
const steps = 500

// ErrNotFound says that a build is not there, or was removed.
var ErrNotFound = errors.New("no such build")

// StaleError refuses a write that saw an older state, and carries the newer one.
type StaleError struct {
	Seen    int64
	Current Kept
}

func (e *StaleError) Error() string {
	return fmt.Sprintf("revision %d was changed meanwhile, it is now %d", e.Seen, e.Current.Revision)
}

// Kept is a build as it is stored.
type Kept struct {
	Build    document.Build
	Revision int64
}

// Store is a pool of connections.
type Store struct {
	pool *pgxpool.Pool
}

// Open connects and brings the schema up to date.
func Open(ctx context.Context, url string) (*Store, error) {
	config, err := pgxpool.ParseConfig(url)
	if err != nil {
		return nil, fmt.Errorf("database address: %w", err)
	}
	config.ConnConfig.ConnectTimeout = patience
	config.MaxConns = connections
	pool, err := pgxpool.NewWithConfig(ctx, config)
	if err != nil {
		return nil, fmt.Errorf("database address: %w", err)
	}
	s := &Store{pool}
	if err := s.migrate(ctx); err != nil {
		pool.Close()
		return nil, err
	}
	return s, nil
}

func (s *Store) migrate(ctx context.Context) error {
	db := stdlib.OpenDBFromPool(s.pool)
	defer db.Close()
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(goose.DialectPostgres, db, files)
	if err != nil {
		return fmt.Errorf("migrations: %w", err)
	}
	if _, err := p.Up(ctx); err != nil {
		return fmt.Errorf("migrations: %w", err)
	}
	return nil
}

// Close gives the connections back.
func (s *Store) Close() { s.pool.Close() }

// Ping asks the server whether it is there, once.
func (s *Store) Ping(ctx context.Context) error {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	if err := s.pool.Ping(ctx); err != nil {
		return errors.Join(ErrAway, err)
	}
	return nil
}

type workshop struct {
	doc      document.Workshop
	revision int64
	there    bool
}

// Workshop reads the workshop; ok is false before the first one is kept.
func (s *Store) Workshop(ctx context.Context) (w document.Workshop, revision int64, ok bool, err error) {
	got, err := patiently(ctx, func(ctx context.Context) (workshop, error) { return workshopIn(ctx, s.pool, "") })
	return got.doc, got.revision, got.there, err
}

func workshopIn(ctx context.Context, q querier, lock string) (workshop, error) {
	var w workshop
	err := q.QueryRow(ctx, `SELECT doc, revision FROM workshop WHERE id = $1 `+lock, workshopID).Scan(&w.doc, &w.revision)
	if errors.Is(err, pgx.ErrNoRows) {
		return w, nil
	}
	w.there = err == nil
	return w, err
}

// KeepWorkshop stores the workshop; the revision seen is 0 for the first one.
func (s *Store) KeepWorkshop(ctx context.Context, w document.Workshop, seen int64) (revision int64, err error) {
	err = s.keep(ctx, func(ctx context.Context, tx pgx.Tx, again bool) error {
		now, err := workshopIn(ctx, tx, "FOR UPDATE")
		if err != nil {
			return err
		}
		revision = seen + 1
		if again && now.revision == revision && reflect.DeepEqual(now.doc, w) {
			return nil // the earlier try was kept
		}
		if now.revision != seen {
			return &StaleError{Seen: seen}
		}
		tag, err := tx.Exec(ctx, `INSERT INTO workshop (id, doc, revision) VALUES ($1, $2, $3)
			ON CONFLICT (id) DO UPDATE SET doc = excluded.doc, revision = excluded.revision
			WHERE workshop.revision = $4`, workshopID, w, revision, seen)
		if err == nil && tag.RowsAffected() == 0 {
			return &StaleError{Seen: seen} // another kept the first one meanwhile
		}
		return err
	})
	return revision, err
}

const kept = `SELECT doc, revision FROM build WHERE workshop_id = $1 AND removed_at IS NULL`

// Builds lists the builds that were not removed, by priority, then by age; of those named,
// where some are.
func (s *Store) Builds(ctx context.Context, ids ...string) ([]Kept, error) {
	return patiently(ctx, func(ctx context.Context) ([]Kept, error) {
		rows, err := s.pool.Query(ctx, kept+` AND ($2::uuid[] IS NULL OR id = ANY($2))
			ORDER BY (doc->>'priority')::int, made_at, id`, workshopID, ids)
		if err != nil {
			return nil, err
		}
		return pgx.CollectRows(rows, pgx.RowToStructByPos[Kept])
	})
}

// Build reads one build.
func (s *Store) Build(ctx context.Context, id string) (Kept, error) {
	return patiently(ctx, func(ctx context.Context) (Kept, error) { return buildIn(ctx, s.pool, id, "") })
}

type querier interface {
	Query(ctx context.Context, sql string, args ...any) (pgx.Rows, error)
	QueryRow(ctx context.Context, sql string, args ...any) pgx.Row
}

func buildIn(ctx context.Context, q querier, id, lock string) (Kept, error) {
	rows, err := q.Query(ctx, kept+` AND id = $2 `+lock, workshopID, id)
	if err != nil {
		return Kept{}, err
	}
	k, err := pgx.CollectExactlyOneRow(rows, pgx.RowToStructByPos[Kept])
	if errors.Is(err, pgx.ErrNoRows) {
		return Kept{}, ErrNotFound
	}
	return k, err
}

// Add stores new builds with their logs, all or none.
func (s *Store) Add(ctx context.Context, items ...document.Item) error {
	return s.keep(ctx, func(ctx context.Context, tx pgx.Tx, again bool) error {
		for _, item := range items {
			tag, err := tx.Exec(
				ctx,
				`INSERT INTO build (id, workshop_id, doc) VALUES ($1, $2, $3)`+onlyOnce(again),
				item.Build.ID,
				workshopID,
				item.Build,
			)
			if err != nil {
				return err
			}
			if tag.RowsAffected() == 0 {
				return nil // the earlier try was kept, with all that follows
			}
			if err := remember(ctx, tx, item.Build, place{revision: 1, position: 1}, nil); err != nil {
				return err
			}
			for _, e := range item.Log {
				if err := appendIn(ctx, tx, item.Build.ID, e); err != nil {
					return err
				}
			}
		}
		return nil
	})
}

// onlyOnce lets an insert find what an earlier try of the same has kept.
func onlyOnce(again bool) string {
	if again {
		return ` ON CONFLICT DO NOTHING`
	}
	return ``
}

// place is where a state of a build stands in its history.
type place struct{ revision, position, parent int64 }

// remember keeps a revision with the state it holds and the state before that one, and
// the key it was sent under.
func remember(ctx context.Context, tx pgx.Tx, b document.Build, at place, key *string) error {
	_, err := tx.Exec(
		ctx,
		`INSERT INTO build_history (build_id, revision, doc, position, parent, key) VALUES ($1, $2, $3, $4, $5, $6)`,
		b.ID,
		at.revision,
		b,
		at.position,
		at.parent,
		key,
	)
	return err
}

// prune leaves the newest states of a build, and of older ones the last of each day.
func prune(ctx context.Context, tx pgx.Tx, id string, position int64) error {
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
	return patiently(ctx, func(ctx context.Context) (Earlier, error) {
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
	return patiently(ctx, func(ctx context.Context) (bool, error) { return keptUnder(ctx, s.pool, id, key) })
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
		now, err := buildIn(ctx, tx, id, "FOR UPDATE")
		if err != nil {
			return err
		}
		switch there, err := keptUnder(ctx, tx, id, key); {
		case err != nil:
			return err
		case there:
			out = now
			return nil
		case now.Revision != seen:
			return &StaleError{Seen: seen, Current: now}
		}
		at, err := where(ctx, tx)
		if err != nil {
			return err
		}
		if _, err := tx.Exec(ctx, `UPDATE build SET doc = $2, revision = $3 WHERE id = $1`, id, b, out.Revision); err != nil {
			return err
		}
		if err := remember(ctx, tx, b, at, &key); err != nil {
			return err
		}
		return prune(ctx, tx, id, at.position)
	})
}

// Remove hides a build; Restore brings it back.
func (s *Store) Remove(ctx context.Context, id string) error {
	return s.mark(ctx, `UPDATE build SET removed_at = now() WHERE id = $1 AND removed_at IS NULL`, id)
}

// Restore brings a removed build back.
func (s *Store) Restore(ctx context.Context, id string) error {
	return s.mark(ctx, `UPDATE build SET removed_at = NULL WHERE id = $1 AND removed_at IS NOT NULL`, id)
}

func (s *Store) mark(ctx context.Context, sql, id string) error {
	return s.keep(ctx, func(ctx context.Context, tx pgx.Tx, again bool) error {
		tag, err := tx.Exec(ctx, sql, id)
		if err == nil && tag.RowsAffected() == 0 && !again {
			return ErrNotFound
		}
		return err
	})
}

// Has tells whether a build of that id is stored, removed or not.
func (s *Store) Has(ctx context.Context, id string) (bool, error) {
	return patiently(ctx, func(ctx context.Context) (there bool, err error) {
		err = s.pool.QueryRow(ctx, `SELECT EXISTS (SELECT FROM build WHERE id = $1)`, id).Scan(&there)
		return there, err
	})
}

// Append adds an entry to a build's log. An entry whose key is there already is
// kept once. The build's revision is not touched.
func (s *Store) Append(ctx context.Context, id string, e document.Entry) error {
	return s.keep(ctx, func(ctx context.Context, tx pgx.Tx, _ bool) error {
		// The build's row orders those who append at the same time.
		if _, err := buildIn(ctx, tx, id, "FOR UPDATE"); err != nil {
			return err
		}
		return appendIn(ctx, tx, id, e)
	})
}

func appendIn(ctx context.Context, tx pgx.Tx, id string, e document.Entry) error {
	e.At = e.At.UTC().Truncate(time.Second)
	_, err := tx.Exec(ctx, `INSERT INTO log_entry (build_id, seq, key, doc, format)
		SELECT $1, coalesce(max(seq), 0) + 1, $2, $3, $4 FROM log_entry WHERE build_id = $1
		ON CONFLICT (build_id, key) DO NOTHING`, id, e.Key, e, document.Version)
	return err
}

// Logs reads the logs of builds, oldest entry first; of all where none is named.
func (s *Store) Logs(ctx context.Context, ids ...string) (map[string][]document.Entry, error) {
	return patiently(ctx, func(ctx context.Context) (map[string][]document.Entry, error) {
		rows, err := s.pool.Query(ctx, `SELECT build_id::text, doc, format FROM log_entry
			WHERE $1::uuid[] IS NULL OR build_id = ANY($1) ORDER BY build_id, seq`, ids)
		if err != nil {
			return nil, err
		}
		out := map[string][]document.Entry{}
		var id string
		var e document.Entry
		var format int
		_, err = pgx.ForEachRow(rows, []any{&id, &e, &format}, func() error {
			out[id] = append(out[id], e.Upgraded(format))
			e = document.Entry{}
			return nil
		})
		return out, err
	})
}

// Items reads builds with their logs, in the order of Builds; all where none is named.
func (s *Store) Items(ctx context.Context, ids ...string) ([]document.Item, map[string]int64, error) {
	builds, err := s.Builds(ctx, ids...)
	if err != nil {
		return nil, nil, err
	}
	logs, err := s.Logs(ctx, ids...)
	if err != nil {
		return nil, nil, err
	}
	items, revisions := make([]document.Item, len(builds)), map[string]int64{}
	for i, k := range builds {
		log := logs[k.Build.ID]
		if log == nil {
			log = []document.Entry{}
		}
		items[i] = document.Item{Build: k.Build, Log: log}
		revisions[k.Build.ID] = k.Revision
	}
	return items, revisions, nil
}

// Standing is how far a build has come in the store.
type Standing struct {
	ID       string
	Revision int64
	Entries  int64 // of its log
}

// Standing tells how far the workshop and its builds have come, oldest build first: as long as
// that is the same, everything that can be read is.
func (s *Store) Standing(ctx context.Context) (workshop int64, builds []Standing, err error) {
	type standing struct {
		workshop int64
		builds   []Standing
	}
	got, err := patiently(ctx, func(ctx context.Context) (out standing, err error) {
		rows, err := s.pool.Query(ctx, `SELECT w.revision, b.id::text, b.revision, coalesce(l.seq, 0) FROM workshop w
			LEFT JOIN build b ON b.workshop_id = w.id AND b.removed_at IS NULL
			LEFT JOIN (SELECT build_id, max(seq) seq FROM log_entry GROUP BY build_id) l ON l.build_id = b.id
			WHERE w.id = $1 ORDER BY b.made_at, b.id`, workshopID)
		if err != nil {
			return out, err
		}
		var id *string
		var revision *int64
		var entries int64
		_, err = pgx.ForEachRow(rows, []any{&out.workshop, &id, &revision, &entries}, func() error {
			if id != nil && revision != nil {
				out.builds = append(out.builds, Standing{*id, *revision, entries})
			}
			return nil
		})
		return out, err
	})
	return got.workshop, got.builds, err
}
