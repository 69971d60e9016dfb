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
	"slices"

	"cinderpath/core/document"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"golang.org/x/sync/singleflight"
)

//go:embed migrations/*.sql
var migrations embed.FS

// workshopID is the one workshop of an installation; the schema has room for more.
const workshopID = 1

// connections is how many the pool holds at most: a good deal fewer than the private
// server gives, so that the commands beside it find one.
const connections = 12

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
	pool   *pgxpool.Pool
	probe  *pgxpool.Pool // one connection, to see whether the server answers at all
	asking singleflight.Group
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
	beside := config.Copy()
	beside.MaxConns = 1
	probe, err := pgxpool.NewWithConfig(ctx, beside)
	if err != nil {
		pool.Close()
		return nil, fmt.Errorf("database address: %w", err)
	}
	s := &Store{pool: pool, probe: probe}
	if err := s.migrate(ctx); err != nil {
		s.Close()
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
func (s *Store) Close() {
	s.pool.Close()
	s.probe.Close()
}

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
	got, err := patiently(ctx, s, func(ctx context.Context) (workshop, error) { return workshopIn(ctx, s.pool, "") })
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

// KeepWorkshop stores the workshop; the revision seen is 0 for the first one. What stands there
// already as the next revision is told as kept: somebody who did not hear of it sends it again.
func (s *Store) KeepWorkshop(ctx context.Context, w document.Workshop, seen int64) (revision int64, err error) {
	err = s.keep(ctx, func(ctx context.Context, tx pgx.Tx, _ bool) error {
		now, err := workshopIn(ctx, tx, "FOR UPDATE")
		if err != nil {
			return err
		}
		revision = seen + 1
		if now.revision == revision && reflect.DeepEqual(now.doc, w) {
			return nil
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
	return patiently(ctx, s, func(ctx context.Context) ([]Kept, error) {
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
	return patiently(ctx, s, func(ctx context.Context) (Kept, error) { return buildIn(ctx, s.pool, id) })
}

type querier interface {
	Query(ctx context.Context, sql string, args ...any) (pgx.Rows, error)
	QueryRow(ctx context.Context, sql string, args ...any) pgx.Row
}

// lock makes whoever else writes about a build wait, and gives its revision.
func lock(ctx context.Context, tx pgx.Tx, id string) (revision int64, err error) {
	err = tx.QueryRow(ctx, `SELECT revision FROM build
		WHERE workshop_id = $1 AND removed_at IS NULL AND id = $2 FOR UPDATE`, workshopID, id).Scan(&revision)
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNotFound
	}
	return revision, err
}

func buildIn(ctx context.Context, q querier, id string) (Kept, error) {
	rows, err := q.Query(ctx, kept+` AND id = $2`, workshopID, id)
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
			if _, err := tx.Exec(ctx, `INSERT INTO build_history (build_id, revision, doc, position, parent)
				VALUES ($1, 1, $2, 1, 0)`, item.Build.ID, item.Build); err != nil {
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
	return patiently(ctx, s, func(ctx context.Context) (there bool, err error) {
		err = s.pool.QueryRow(ctx, `SELECT EXISTS (SELECT FROM build WHERE id = $1)`, id).Scan(&there)
		return there, err
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

// Standing is how far the workshop and its builds have come in the store: as long as that is the same, everything
// that can be read is.
type Standing struct {
	Workshop int64             // its revision
	Builds   []StandingOfBuild // oldest first
}

// StandingOfBuild is how far a build has come.
type StandingOfBuild struct {
	ID       string
	Revision int64
	Entries  int64 // of its log
}

// Equal tells whether nothing was written in between.
func (s Standing) Equal(o Standing) bool {
	return s.Workshop == o.Workshop && slices.Equal(s.Builds, o.Builds)
}

// Standing tells how far all has come.
func (s *Store) Standing(ctx context.Context) (Standing, error) {
	return patiently(ctx, s, func(ctx context.Context) (out Standing, err error) {
		rows, err := s.pool.Query(ctx, `SELECT w.revision, b.id::text, b.revision, coalesce(l.seq, 0) FROM workshop w
			LEFT JOIN build b ON b.workshop_id = w.id AND b.removed_at IS NULL
			LEFT JOIN LATERAL (SELECT max(seq) seq FROM log_entry WHERE build_id = b.id) l ON true
			WHERE w.id = $1 ORDER BY b.made_at, b.id`, workshopID)
		if err != nil {
			return out, err
		}
		var id *string
		var revision *int64
		var entries int64
		_, err = pgx.ForEachRow(rows, []any{&out.Workshop, &id, &revision, &entries}, func() error {
			if id != nil && revision != nil {
				out.Builds = append(out.Builds, StandingOfBuild{*id, *revision, entries})
			}
			return nil
		})
		return out, err
	})
}
