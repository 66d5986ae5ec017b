-- +goose Up
CREATE TABLE people (
    id       TEXT PRIMARY KEY,
    username TEXT NOT NULL COLLATE NOCASE UNIQUE,
    name     TEXT NOT NULL,
    password TEXT NOT NULL, -- argon2id
    words    TEXT NOT NULL DEFAULT '', -- empty: as the practical says
    units    TEXT NOT NULL DEFAULT '',
    theme    TEXT NOT NULL DEFAULT 'system',
    created  TEXT NOT NULL
) STRICT;

CREATE TABLE classes (
    id      TEXT PRIMARY KEY,
    name    TEXT NOT NULL,
    created TEXT NOT NULL
) STRICT;

CREATE TABLE memberships (
    class_id  TEXT NOT NULL REFERENCES classes (id),
    person_id TEXT NOT NULL REFERENCES people (id),
    role      TEXT NOT NULL CHECK (role IN ('student', 'instructor')),
    PRIMARY KEY (class_id, person_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX memberships_person ON memberships (person_id);

-- Every revision of a practical is kept: notebooks are pinned to theirs.
CREATE TABLE practicals (
    id       TEXT NOT NULL,
    revision INTEGER NOT NULL,
    document TEXT NOT NULL,
    created  TEXT NOT NULL,
    PRIMARY KEY (id, revision)
) STRICT, WITHOUT ROWID;

-- A practical set to a class; new notebooks are started under this revision.
CREATE TABLE assignments (
    class_id     TEXT NOT NULL REFERENCES classes (id),
    practical_id TEXT NOT NULL,
    revision     INTEGER NOT NULL,
    created      TEXT NOT NULL,
    PRIMARY KEY (class_id, practical_id),
    FOREIGN KEY (practical_id, revision) REFERENCES practicals (id, revision)
) STRICT, WITHOUT ROWID;

CREATE TABLE notebooks (
    id           TEXT PRIMARY KEY,
    class_id     TEXT NOT NULL REFERENCES classes (id),
    practical_id TEXT NOT NULL,
    revision     INTEGER NOT NULL,
    student_id   TEXT NOT NULL REFERENCES people (id),
    started      TEXT NOT NULL,
    UNIQUE (class_id, practical_id, student_id),
    FOREIGN KEY (practical_id, revision) REFERENCES practicals (id, revision)
) STRICT;
CREATE INDEX notebooks_student ON notebooks (student_id);

CREATE TABLE entries (
    seq         INTEGER PRIMARY KEY,
    id          TEXT NOT NULL UNIQUE,
    notebook_id TEXT NOT NULL REFERENCES notebooks (id),
    document    TEXT NOT NULL,
    received    TEXT NOT NULL
) STRICT;
CREATE INDEX entries_notebook ON entries (notebook_id, seq);

-- The notebook is in ink.
-- +goose StatementBegin
CREATE TRIGGER entries_no_update BEFORE UPDATE ON entries
BEGIN SELECT RAISE(ABORT, 'entries are only ever added'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER entries_no_delete BEFORE DELETE ON entries
BEGIN SELECT RAISE(ABORT, 'entries are only ever added'); END;
-- +goose StatementEnd

CREATE TABLE sessions (
    token  TEXT PRIMARY KEY,
    data   BLOB NOT NULL,
    expiry REAL NOT NULL
) STRICT, WITHOUT ROWID;
CREATE INDEX sessions_expiry ON sessions (expiry);

-- +goose Down
DROP TABLE sessions;
DROP TABLE entries;
DROP TABLE notebooks;
DROP TABLE assignments;
DROP TABLE practicals;
DROP TABLE memberships;
DROP TABLE classes;
DROP TABLE people;
