-- +goose Up
-- What a school sees differently from common practice, as JSON by name: for the whole
-- installation (class_id is empty), or for a class.
CREATE TABLE norms (
    class_id TEXT PRIMARY KEY,
    norms    TEXT NOT NULL
) STRICT, WITHOUT ROWID;

-- +goose Down
DROP TABLE norms;
