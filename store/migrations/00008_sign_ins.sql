-- +goose Up
-- A sign-in lasts until it is ended, by its person or a new password, or was not
-- used for long.
CREATE TABLE sign_ins (
    id        TEXT PRIMARY KEY,
    person_id TEXT NOT NULL REFERENCES people (id),
    agent     TEXT NOT NULL, -- the browser, as it calls itself
    began     TEXT NOT NULL,
    seen      TEXT NOT NULL
) STRICT, WITHOUT ROWID;
CREATE INDEX sign_ins_person ON sign_ins (person_id);
-- A password that somebody else made has to be changed at the first sign-in.
ALTER TABLE people ADD COLUMN once INTEGER NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE people DROP COLUMN once;
DROP TABLE sign_ins;
