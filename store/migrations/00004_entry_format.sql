-- +goose Up
-- Which version of the document an entry was written in: older ones are brought up to date
-- when they are read, since the log itself is never changed.
ALTER TABLE log_entry ADD COLUMN format int NOT NULL DEFAULT 1;

-- +goose Down
ALTER TABLE log_entry DROP COLUMN format;
