-- +goose Up
-- The glassware that a school has, as JSON: of the whole installation (class_id is empty), or of a
-- class.
CREATE TABLE glass (
    class_id TEXT PRIMARY KEY,
    pieces   TEXT NOT NULL
) STRICT, WITHOUT ROWID;

-- +goose Down
DROP TABLE glass;
