package store

import (
	"context"
	"time"

	"cinderpath/core/document"

	"github.com/jackc/pgx/v5"
)

// Append adds an entry to a build's log. An entry whose key is there already is
// kept once. The build's revision is not touched.
func (s *Store) Append(ctx context.Context, id string, e document.Entry) error {
	return s.keep(ctx, func(ctx context.Context, tx pgx.Tx, _ bool) error {
		// The build's row orders those who append at the same time.
		if _, err := lock(ctx, tx, id); err != nil {
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
	return s.entries(ctx, `SELECT build_id::text, doc, format FROM log_entry
		WHERE $1::uuid[] IS NULL OR build_id = ANY($1) ORDER BY build_id, seq`, ids)
}

// LogsAfter reads what was added to the logs of builds after so many entries, oldest first. Nothing that is
// in a log ever changes.
func (s *Store) LogsAfter(ctx context.Context, known map[string]int) (map[string][]document.Entry, error) {
	ids, counts := make([]string, 0, len(known)), make([]int64, 0, len(known))
	for id, n := range known {
		ids, counts = append(ids, id), append(counts, int64(n))
	}
	return s.entries(ctx, `SELECT build_id::text, doc, format FROM unnest($1::uuid[], $2::bigint[]) k (id, n)
		JOIN log_entry ON build_id = k.id AND seq > k.n ORDER BY build_id, seq`, ids, counts)
}

func (s *Store) entries(ctx context.Context, query string, args ...any) (map[string][]document.Entry, error) {
	return patiently(ctx, s, func(ctx context.Context) (map[string][]document.Entry, error) {
		rows, err := s.pool.Query(ctx, query, args...)
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
