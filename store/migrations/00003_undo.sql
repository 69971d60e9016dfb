-- +goose Up
-- An edit leads from one state to the next; undo goes back along that line, however
-- often. position names the state a revision holds: its own number for an edit, the
-- number of the restored state for an undo. parent is the state before that one.
ALTER TABLE build_history ADD COLUMN position bigint, ADD COLUMN parent bigint;
UPDATE build_history SET position = revision, parent = revision - 1;
ALTER TABLE build_history ALTER COLUMN position SET NOT NULL, ALTER COLUMN parent SET NOT NULL;

-- +goose Down
ALTER TABLE build_history DROP COLUMN position, DROP COLUMN parent;
