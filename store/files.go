package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// ErrNoFile says that a build has no file of that hash.
var ErrNoFile = errors.New("no such file of this build")

// Shop stands for the workshop where a file belongs to no build.
const Shop = ""

// File is a photograph or mesh of a build, or a photograph of the workshop.
type File struct {
	Hash  string // SHA-256 of its content, hex
	Media string
	Size  int64
	id    uuid.UUID
}

// chunkSize is how much of a file is in memory at a time.
const chunkSize = 1 << 20

// KeepFile stores a file of a build, or of the Shop, in pieces, so that a large mesh never lies in memory
// whole. The same content is stored once. The content must be at hand: no connection to the
// database waits for somebody who sends it.
func (s *Store) KeepFile(ctx context.Context, build, media string, content io.ReadSeeker) (File, error) {
	f := File{Media: media}
	sum := sha256.New()
	size, err := io.Copy(sum, content)
	if err != nil {
		return f, err
	}
	f.Hash, f.Size = hex.EncodeToString(sum.Sum(nil)), size
	// A slow disk writes some megabytes a second.
	limit := longest + time.Duration(size>>20)*time.Second
	return f, s.keepWithin(ctx, limit, func(ctx context.Context, tx pgx.Tx, _ bool) error {
		if build != Shop {
			if _, err := buildIn(ctx, tx, build); err != nil {
				return err
			}
		}
		// Two who send the same content at once wait here for each other.
		if _, err := tx.Exec(ctx, `SELECT pg_advisory_xact_lock(hashtextextended($1, 0))`, f.Hash); err != nil {
			return err
		}
		err := tx.QueryRow(ctx, `SELECT id FROM file WHERE hash = $1`, f.Hash).Scan(&f.id)
		if errors.Is(err, pgx.ErrNoRows) {
			if f.id, err = uuid.NewV7(); err != nil {
				return err
			}
			err = keepPieces(ctx, tx, f, content)
		}
		if err != nil {
			return err
		}
		sql, owner := `INSERT INTO build_file (build_id, file_id) VALUES ($1, $2) ON CONFLICT DO NOTHING`, any(build)
		if build == Shop {
			sql, owner = `INSERT INTO workshop_file (workshop_id, file_id) VALUES ($1, $2) ON CONFLICT DO NOTHING`, workshopID
		}
		_, err = tx.Exec(ctx, sql, owner, f.id)
		return err
	})
}

func keepPieces(ctx context.Context, tx pgx.Tx, f File, content io.ReadSeeker) error {
	if _, err := content.Seek(0, io.SeekStart); err != nil {
		return err
	}
	if _, err := tx.Exec(
		ctx,
		`INSERT INTO file (id, hash, media, size) VALUES ($1, $2, $3, $4)`,
		f.id,
		f.Hash,
		f.Media,
		f.Size,
	); err != nil {
		return err
	}
	buf := make([]byte, chunkSize)
	for seq := 0; ; seq++ {
		n, err := io.ReadFull(content, buf)
		if n > 0 {
			if _, err := tx.Exec(
				ctx,
				`INSERT INTO file_chunk (file_id, seq, data) VALUES ($1, $2, $3)`,
				f.id,
				seq,
				buf[:n],
			); err != nil {
				return err
			}
		}
		if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
			return nil
		}
		if err != nil {
			return err
		}
	}
}

// FileOf finds a file of a build that was not removed, or of the Shop.
func (s *Store) FileOf(ctx context.Context, build, hash string) (File, error) {
	return patiently(ctx, s, func(ctx context.Context) (File, error) {
		var f File
		sql, owner := `SELECT f.id, f.hash, f.media, f.size FROM file f JOIN build_file bf ON bf.file_id = f.id
			JOIN build b ON b.id = bf.build_id AND b.removed_at IS NULL
			WHERE bf.build_id = $1 AND f.hash = $2`, any(build)
		if build == Shop {
			sql, owner = `SELECT f.id, f.hash, f.media, f.size FROM file f JOIN workshop_file wf ON wf.file_id = f.id
			WHERE wf.workshop_id = $1 AND f.hash = $2`, workshopID
		}
		err := s.pool.QueryRow(ctx, sql, owner, hash).Scan(&f.id, &f.Hash, &f.Media, &f.Size)
		if errors.Is(err, pgx.ErrNoRows) {
			return f, ErrNoFile
		}
		return f, err
	})
}

// FilesOf lists the files of the builds that were not removed, and of the workshop, each once.
func (s *Store) FilesOf(ctx context.Context) ([]File, error) {
	return patiently(ctx, s, func(ctx context.Context) ([]File, error) {
		rows, err := s.pool.Query(ctx, `SELECT f.id, f.hash, f.media, f.size FROM file f
			WHERE EXISTS (SELECT FROM build_file bf JOIN build b ON b.id = bf.build_id
			WHERE bf.file_id = f.id AND b.removed_at IS NULL)
			OR EXISTS (SELECT FROM workshop_file wf WHERE wf.file_id = f.id) ORDER BY f.hash`)
		if err != nil {
			return nil, err
		}
		return pgx.CollectRows(rows, func(row pgx.CollectableRow) (File, error) {
			var f File
			err := row.Scan(&f.id, &f.Hash, &f.Media, &f.Size)
			return f, err
		})
	})
}

// Read writes a file's content, piece by piece. No connection waits for who reads slowly.
func (s *Store) Read(ctx context.Context, f File, w io.Writer) error {
	for seq := 0; ; seq++ {
		data, err := patiently(ctx, s, func(ctx context.Context) (data []byte, err error) {
			err = s.pool.QueryRow(
				ctx,
				`SELECT data FROM file_chunk WHERE file_id = $1 AND seq = $2`,
				f.id,
				seq,
			).Scan(
				&data,
			)
			return data, err
		})
		if errors.Is(err, pgx.ErrNoRows) {
			return nil
		}
		if err != nil {
			return fmt.Errorf("file %s: %w", f.Hash, err)
		}
		if _, err := w.Write(data); err != nil {
			return err
		}
	}
}

// CopyFiles gives a build the files of another.
func (s *Store) CopyFiles(ctx context.Context, from, to string) error {
	return s.exec(
		ctx,
		`INSERT INTO build_file (build_id, file_id) SELECT $2, file_id FROM build_file WHERE build_id = $1
		ON CONFLICT DO NOTHING`,
		from,
		to,
	)
}

// exec keeps what a single statement writes that may be repeated.
func (s *Store) exec(ctx context.Context, sql string, args ...any) error {
	return s.keep(ctx, func(ctx context.Context, tx pgx.Tx, _ bool) error {
		_, err := tx.Exec(ctx, sql, args...)
		return err
	})
}

// Shape reads what was measured on a file into a value; ok is false when nothing was.
func (s *Store) Shape(ctx context.Context, f File, into any) (ok bool, err error) {
	data, err := patiently(ctx, s, func(ctx context.Context) (data []byte, err error) {
		err = s.pool.QueryRow(ctx, `SELECT shape FROM file WHERE id = $1`, f.id).Scan(&data)
		return data, err
	})
	if err != nil || data == nil {
		return false, err
	}
	return true, json.Unmarshal(data, into)
}

// KeepShape remembers what was measured on a file.
func (s *Store) KeepShape(ctx context.Context, f File, shape any) error {
	return s.exec(ctx, `UPDATE file SET shape = $2 WHERE id = $1`, f.id, shape)
}
