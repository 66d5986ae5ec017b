-- +goose Up
-- Reactions that people added to the catalogue for themselves.
CREATE TABLE reactions (
    id        TEXT PRIMARY KEY,
    person_id TEXT NOT NULL REFERENCES people (id),
    name      TEXT NOT NULL,
    equation  TEXT NOT NULL, -- balanced
    created   TEXT NOT NULL
) STRICT;
CREATE INDEX reactions_person ON reactions (person_id, created);

-- +goose Down
DROP TABLE reactions;
