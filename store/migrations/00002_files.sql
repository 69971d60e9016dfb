-- +goose Up
-- Photographs and meshes, by content hash. A file has its hash once all of it is there.
CREATE TABLE file (
    id      uuid PRIMARY KEY,
    hash    text UNIQUE,
    media   text NOT NULL,
    size    bigint NOT NULL DEFAULT 0,
    made_at timestamptz NOT NULL DEFAULT now(),
    -- What was measured on it: can always be measured again.
    shape   jsonb
);

CREATE TABLE file_chunk (
    file_id uuid NOT NULL REFERENCES file (id) ON DELETE CASCADE,
    seq     int NOT NULL,
    data    bytea NOT NULL,
    PRIMARY KEY (file_id, seq)
);
ALTER TABLE file_chunk ALTER COLUMN data SET STORAGE EXTERNAL; -- pictures are packed already

CREATE TABLE build_file (
    build_id uuid NOT NULL REFERENCES build (id),
    file_id  uuid NOT NULL REFERENCES file (id),
    PRIMARY KEY (build_id, file_id)
);

-- +goose Down
DROP TABLE build_file;
DROP TABLE file_chunk;
DROP TABLE file;
