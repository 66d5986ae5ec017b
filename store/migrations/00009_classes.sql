-- +goose Up
-- What a person may do in the installation, beside what they are in classes.
ALTER TABLE people ADD COLUMN standing TEXT NOT NULL DEFAULT '' CHECK (standing IN ('', 'instructor', 'administrator'));
ALTER TABLE people ADD COLUMN seen TEXT NOT NULL DEFAULT ''; -- when they were here last
ALTER TABLE people ADD COLUMN left_on TEXT NOT NULL DEFAULT ''; -- when they were taken out
UPDATE people SET standing = 'instructor' WHERE id IN (SELECT person_id FROM memberships WHERE role = 'instructor');

ALTER TABLE classes ADD COLUMN term TEXT NOT NULL DEFAULT '';
ALTER TABLE classes ADD COLUMN archived TEXT NOT NULL DEFAULT ''; -- when

CREATE TABLE members (
    class_id  TEXT NOT NULL REFERENCES classes (id),
    person_id TEXT NOT NULL REFERENCES people (id),
    role      TEXT NOT NULL CHECK (role IN ('student', 'assistant', 'instructor')),
    bench     TEXT NOT NULL DEFAULT '',
    burette   TEXT NOT NULL DEFAULT '', -- the number on it
    sample    TEXT NOT NULL DEFAULT '', -- the code of the unknown
    pair      TEXT NOT NULL DEFAULT '', -- the same for the two who work together
    joined    TEXT NOT NULL DEFAULT '',
    PRIMARY KEY (class_id, person_id)
) STRICT, WITHOUT ROWID;
INSERT INTO members (class_id, person_id, role) SELECT class_id, person_id, role FROM memberships;
DROP TABLE memberships;
ALTER TABLE members RENAME TO memberships;
CREATE INDEX memberships_person ON memberships (person_id);

-- The code with which students come into a class by themselves.
CREATE TABLE join_codes (
    class_id TEXT PRIMARY KEY REFERENCES classes (id),
    code     TEXT NOT NULL UNIQUE,
    closes   TEXT NOT NULL
) STRICT, WITHOUT ROWID;

CREATE TABLE notices (
    id        TEXT PRIMARY KEY,
    class_id  TEXT NOT NULL REFERENCES classes (id),
    person_id TEXT NOT NULL REFERENCES people (id),
    text      TEXT NOT NULL,
    created   TEXT NOT NULL
) STRICT, WITHOUT ROWID;
CREATE INDEX notices_class ON notices (class_id, created);

-- Who changed what of people, classes and practicals.
CREATE TABLE acts (
    seq       INTEGER PRIMARY KEY,
    what      TEXT NOT NULL,
    class_id  TEXT REFERENCES classes (id),
    person_id TEXT NOT NULL REFERENCES people (id), -- who did it
    whom      TEXT REFERENCES people (id), -- to whom
    detail    TEXT NOT NULL DEFAULT '',
    at        TEXT NOT NULL
) STRICT;
CREATE INDEX acts_class ON acts (class_id, seq);
-- +goose StatementBegin
CREATE TRIGGER acts_no_update BEFORE UPDATE ON acts
BEGIN SELECT RAISE(ABORT, 'acts are only ever added'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER acts_no_delete BEFORE DELETE ON acts
BEGIN SELECT RAISE(ABORT, 'acts are only ever added'); END;
-- +goose StatementEnd

-- When a practical is seen and handed in; empty: always.
ALTER TABLE assignments ADD COLUMN opens TEXT NOT NULL DEFAULT '';
ALTER TABLE assignments ADD COLUMN due TEXT NOT NULL DEFAULT '';
ALTER TABLE assignments ADD COLUMN late TEXT NOT NULL DEFAULT '';

-- The unknowns of a practical in a class, each with its true value in the unit of
-- the answer, and who was given which.
CREATE TABLE unknowns (
    class_id     TEXT NOT NULL REFERENCES classes (id),
    practical_id TEXT NOT NULL,
    code         TEXT NOT NULL,
    value        TEXT NOT NULL DEFAULT '',
    PRIMARY KEY (class_id, practical_id, code)
) STRICT, WITHOUT ROWID;
CREATE TABLE deals (
    class_id     TEXT NOT NULL REFERENCES classes (id),
    practical_id TEXT NOT NULL,
    person_id    TEXT NOT NULL REFERENCES people (id),
    code         TEXT NOT NULL,
    PRIMARY KEY (class_id, practical_id, person_id)
) STRICT, WITHOUT ROWID;

-- Practicals that are being written, as they are typed: half done, and one's own.
CREATE TABLE practical_drafts (
    person_id TEXT NOT NULL REFERENCES people (id),
    class_id  TEXT NOT NULL REFERENCES classes (id),
    name      TEXT NOT NULL,
    document  TEXT NOT NULL,
    saved     TEXT NOT NULL,
    PRIMARY KEY (person_id, class_id, name)
) STRICT, WITHOUT ROWID;

-- What is known of the file itself: that it is the demo's, since when.
CREATE TABLE facts (
    name  TEXT PRIMARY KEY,
    value TEXT NOT NULL
) STRICT, WITHOUT ROWID;

-- +goose Down
DROP TABLE facts;
DROP TABLE practical_drafts;
DROP TABLE deals;
DROP TABLE unknowns;
ALTER TABLE assignments DROP COLUMN late;
ALTER TABLE assignments DROP COLUMN due;
ALTER TABLE assignments DROP COLUMN opens;
DROP TABLE acts;
DROP TABLE notices;
DROP TABLE join_codes;
CREATE TABLE members (
    class_id  TEXT NOT NULL REFERENCES classes (id),
    person_id TEXT NOT NULL REFERENCES people (id),
    role      TEXT NOT NULL CHECK (role IN ('student', 'instructor')),
    PRIMARY KEY (class_id, person_id)
) STRICT, WITHOUT ROWID;
INSERT INTO members (class_id, person_id, role) SELECT class_id, person_id, role FROM memberships WHERE role <> 'assistant';
DROP TABLE memberships;
ALTER TABLE members RENAME TO memberships;
CREATE INDEX memberships_person ON memberships (person_id);
ALTER TABLE classes DROP COLUMN archived;
ALTER TABLE classes DROP COLUMN term;
ALTER TABLE people DROP COLUMN left_on;
ALTER TABLE people DROP COLUMN seen;
ALTER TABLE people DROP COLUMN standing;
