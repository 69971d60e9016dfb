package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// ErrNoFile says that a build has no file of that hash.
var ErrNoFile = errors.New("no such file of this build")

// File is a photograph or mesh of a build.
type File struct {
	Hash  string // SHA-256 of its content, hex
	Media string
	Size  int64
	id    uuid.UUID
}

// chunkSize is how much of a file is in memory at a time.
const chunkSize = 1 << 20

// KeepFile stores what it reads as a file of a build, in pieces, so that a large
// mesh never lies in memory whole. The same content is stored once. When reading
// fails nothing is kept, and the reader's error comes back.
func (s *Store) KeepFile(ctx context.Context, build, media string, r io.Reader) (File, error) {
	id, err := uuid.NewV7()
	if err != nil {
		return File{}, err
	}
	f := File{Media: media, id: id}
	err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		if _, err := buildIn(ctx, tx, build, ""); err != nil {
			return err
		}
		if _, err := tx.Exec(ctx, `INSERT INTO file (id, media) VALUES ($1, $2)`, f.id, media); err != nil {
			return err
		}
		sum, buf := sha256.New(), make([]byte, chunkSize)
		for seq := 0; ; seq++ {
			n, err := io.ReadFull(r, buf)
			if n > 0 {
				sum.Write(buf[:n])
				f.Size += int64(n)
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
				break
			}
			if err != nil {
				return err
			}
		}
		f.Hash = hex.EncodeToString(sum.Sum(nil))
		// Two who send the same content at once wait here for each other.
		if _, err := tx.Exec(ctx, `SELECT pg_advisory_xact_lock(hashtextextended($1, 0))`, f.Hash); err != nil {
			return err
		}
		var same uuid.UUID
		switch err := tx.QueryRow(ctx, `SELECT id FROM file WHERE hash = $1`, f.Hash).Scan(&same); {
		case err == nil:
			if _, err := tx.Exec(ctx, `DELETE FROM file WHERE id = $1`, f.id); err != nil {
				return err
			}
			f.id = same
		case errors.Is(err, pgx.ErrNoRows):
			if _, err := tx.Exec(ctx, `UPDATE file SET hash = $2, size = $3 WHERE id = $1`, f.id, f.Hash, f.Size); err != nil {
				return err
			}
		default:
			return err
		}
		_, err := tx.Exec(
			ctx,
			`INSERT INTO build_file (build_id, file_id) VALUES ($1, $2) ON CONFLICT DO NOTHING`,
			build,
			f.id,
		)
		return err
	})
	return f, err
}

// FileOf finds a file of a build.
func (s *Store) FileOf(ctx context.Context, build, hash string) (File, error) {
	var f File
	err := s.pool.QueryRow(
		ctx,
		`SELECT f.id, f.hash, f.media, f.size FROM file f JOIN build_file b ON b.file_id = f.id
		WHERE b.build_id = $1 AND f.hash = $2`,
		build,
		hash,
	).
		Scan(
			&f.id,
			&f.Hash,
			&f.Media,
			&f.Size,
		)
	if errors.Is(err, pgx.ErrNoRows) {
		return f, ErrNoFile
	}
	return f, err
}

// Read writes a file's content, piece by piece.
func (s *Store) Read(ctx context.Context, f File, w io.Writer) error {
	for seq := 0; ; seq++ {
		var data []byte
		err := s.pool.QueryRow(ctx, `SELECT data FROM file_chunk WHERE file_id = $1 AND seq = $2`, f.id, seq).Scan(&data)
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
	_, err := s.pool.Exec(
		ctx,
		`INSERT INTO build_file (build_id, file_id) SELECT $2, file_id FROM build_file WHERE build_id = $1
		ON CONFLICT DO NOTHING`,
		from,
		to,
	)
	return err
}

// Shape reads what was measured on a file into a value; ok is false when nothing was.
func (s *Store) Shape(ctx context.Context, f File, into any) (ok bool, err error) {
	var data []byte
	if err := s.pool.QueryRow(ctx, `SELECT shape FROM file WHERE id = $1`, f.id).Scan(&data); err != nil || data == nil {
		return false, err
	}
	return true, json.Unmarshal(data, into)
}

// KeepShape remembers what was measured on a file.
func (s *Store) KeepShape(ctx context.Context, f File, shape any) error {
	_, err := s.pool.Exec(ctx, `UPDATE file SET shape = $2 WHERE id = $1`, f.id, shape)
	return err
}
