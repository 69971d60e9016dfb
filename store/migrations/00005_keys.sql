-- +goose Up
-- Who does not hear whether an edit was kept sends it again under the same key.
ALTER TABLE build_history ADD COLUMN key uuid;
CREATE UNIQUE INDEX build_history_key ON build_history (build_id, key);

-- +goose Down
DROP INDEX build_history_key;
ALTER TABLE build_history DROP COLUMN key;
