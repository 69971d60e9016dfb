-- +goose Up
CREATE TABLE workshop (
    id       int PRIMARY KEY,
    revision bigint NOT NULL DEFAULT 1,
    doc      jsonb NOT NULL
);

CREATE TABLE build (
    id          uuid PRIMARY KEY,
    workshop_id int NOT NULL REFERENCES workshop (id),
    revision    bigint NOT NULL DEFAULT 1,
    doc         jsonb NOT NULL,
    made_at     timestamptz NOT NULL DEFAULT now(),
    removed_at  timestamptz
);

-- Every state a build was in: what undo goes back to.
CREATE TABLE build_history (
    build_id uuid NOT NULL REFERENCES build (id),
    revision bigint NOT NULL,
    doc      jsonb NOT NULL,
    saved_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (build_id, revision)
);

-- What happened at the bench. Only ever appended to.
CREATE TABLE log_entry (
    build_id uuid NOT NULL REFERENCES build (id),
    seq      bigint NOT NULL,
    key      uuid NOT NULL,
    doc      jsonb NOT NULL,
    PRIMARY KEY (build_id, seq),
    UNIQUE (build_id, key)
);

-- +goose StatementBegin
CREATE FUNCTION log_is_append_only() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'the log is only appended to';
END $$;
-- +goose StatementEnd

CREATE TRIGGER log_append_only BEFORE UPDATE OR DELETE ON log_entry
    FOR EACH ROW EXECUTE FUNCTION log_is_append_only();

-- +goose Down
DROP TABLE log_entry;
DROP FUNCTION log_is_append_only;
DROP TABLE build_history;
DROP TABLE build;
DROP TABLE workshop;
