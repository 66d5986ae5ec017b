-- +goose Up
-- Whose hand is up, and who goes there.
CREATE TABLE hands (
    notebook_id TEXT PRIMARY KEY REFERENCES notebooks (id),
    raised      TEXT NOT NULL,
    taken_by    TEXT REFERENCES people (id),
    taken       TEXT NOT NULL DEFAULT ''
) STRICT, WITHOUT ROWID;

-- When the lesson ends in which a practical is done; empty: nobody said.
ALTER TABLE assignments ADD COLUMN ends TEXT NOT NULL DEFAULT '';

-- Pictures of notebooks by the SHA-256 of what is kept; the journal names them.
CREATE TABLE pictures (
    notebook_id TEXT NOT NULL REFERENCES notebooks (id),
    hash        TEXT NOT NULL,
    kind        TEXT NOT NULL CHECK (kind IN ('image/jpeg', 'image/png')),
    width       INTEGER NOT NULL,
    height      INTEGER NOT NULL,
    content     BLOB NOT NULL,
    person_id   TEXT NOT NULL REFERENCES people (id),
    added       TEXT NOT NULL,
    PRIMARY KEY (notebook_id, hash)
) STRICT;

-- Reports as they were handed in. What was handed in is never changed; that it was
-- returned is written beside it, once.
CREATE TABLE submissions (
    notebook_id TEXT NOT NULL REFERENCES notebooks (id),
    version     INTEGER NOT NULL,
    person_id   TEXT NOT NULL REFERENCES people (id),
    handed      TEXT NOT NULL,
    late        INTEGER NOT NULL,
    entries     INTEGER NOT NULL, -- of the journal, in order of arrival
    hash        TEXT NOT NULL,    -- SHA-256 of the receipt
    receipt     TEXT NOT NULL,
    document    BLOB NOT NULL,    -- practical, journal and evaluation, as JSON, gzip
    returned    TEXT NOT NULL DEFAULT '',
    returned_by TEXT REFERENCES people (id),
    reason      TEXT NOT NULL DEFAULT '',
    PRIMARY KEY (notebook_id, version)
) STRICT;
-- +goose StatementBegin
CREATE TRIGGER submissions_frozen BEFORE UPDATE OF notebook_id, version, person_id, handed, late, entries, hash, receipt, document ON submissions
BEGIN SELECT RAISE(ABORT, 'a report that was handed in is not changed'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER submissions_returned_once BEFORE UPDATE ON submissions WHEN old.returned <> ''
BEGIN SELECT RAISE(ABORT, 'it was returned already'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER submissions_no_delete BEFORE DELETE ON submissions
BEGIN SELECT RAISE(ABORT, 'a report that was handed in stays'); END;
-- +goose StatementEnd

-- +goose Down
DROP TABLE submissions;
DROP TABLE pictures;
ALTER TABLE assignments DROP COLUMN ends;
DROP TABLE hands;
