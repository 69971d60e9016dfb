-- +goose Up
-- Photographs that belong to the workshop: of sprayed chips, on jars.
CREATE TABLE workshop_file (
    workshop_id int NOT NULL REFERENCES workshop (id),
    file_id     uuid NOT NULL REFERENCES file (id),
    PRIMARY KEY (workshop_id, file_id)
);

-- +goose Down
DROP TABLE workshop_file;
