-- +goose Up
-- Marking schemes as they were changed while a class is marked; the practical's own
-- scheme, or the one that follows from it, stands before the first.
CREATE TABLE schemes (
    class_id     TEXT NOT NULL REFERENCES classes (id),
    practical_id TEXT NOT NULL,
    revision     INTEGER NOT NULL,
    document     TEXT NOT NULL,
    person_id    TEXT NOT NULL REFERENCES people (id),
    made         TEXT NOT NULL,
    PRIMARY KEY (class_id, practical_id, revision)
) STRICT;

-- Marks as they were awarded. The newest of a criterion counts; each names the one that
-- its marker saw before, so that nobody overwrites what they did not see.
CREATE TABLE awards (
    id          INTEGER PRIMARY KEY,
    notebook_id TEXT NOT NULL,
    version     INTEGER NOT NULL,
    criterion   TEXT NOT NULL,
    reading     INTEGER NOT NULL CHECK (reading IN (1, 2)), -- 2: a second marking, blind
    marks       TEXT NOT NULL, -- empty: taken back
    comment     TEXT NOT NULL DEFAULT '',
    how         TEXT NOT NULL CHECK (how IN ('awarded', 'accepted', 'together', 'undone')),
    person_id   TEXT NOT NULL REFERENCES people (id),
    made        TEXT NOT NULL,
    follows     INTEGER NOT NULL, -- id of the award before; 0: the first
    UNIQUE (notebook_id, version, criterion, reading, follows),
    FOREIGN KEY (notebook_id, version) REFERENCES submissions (notebook_id, version)
) STRICT;

-- Marks that the student sees.
CREATE TABLE releases (
    notebook_id TEXT NOT NULL,
    version     INTEGER NOT NULL,
    person_id   TEXT NOT NULL REFERENCES people (id),
    made        TEXT NOT NULL,
    PRIMARY KEY (notebook_id, version),
    FOREIGN KEY (notebook_id, version) REFERENCES submissions (notebook_id, version)
) STRICT, WITHOUT ROWID;

-- Students ask for another look at a criterion; the answer is written once.
CREATE TABLE requests (
    id          INTEGER PRIMARY KEY,
    notebook_id TEXT NOT NULL,
    version     INTEGER NOT NULL,
    criterion   TEXT NOT NULL,
    reason      TEXT NOT NULL,
    person_id   TEXT NOT NULL REFERENCES people (id),
    made        TEXT NOT NULL,
    answer      TEXT NOT NULL DEFAULT '',
    answered_by TEXT REFERENCES people (id),
    answered    TEXT NOT NULL DEFAULT '',
    FOREIGN KEY (notebook_id, version) REFERENCES submissions (notebook_id, version)
) STRICT;
CREATE UNIQUE INDEX requests_open ON requests (notebook_id, version, criterion) WHERE answered = '';

-- What those who teach say beside an entry of a notebook.
CREATE TABLE comments (
    id          INTEGER PRIMARY KEY,
    notebook_id TEXT NOT NULL REFERENCES notebooks (id),
    entry       TEXT NOT NULL DEFAULT '', -- of the journal, or a trial; empty: the whole
    text        TEXT NOT NULL,
    person_id   TEXT NOT NULL REFERENCES people (id),
    made        TEXT NOT NULL,
    withdrawn   TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX comments_notebook ON comments (notebook_id);

-- Who works with whom in a practical: the pairs of the class (empty), everyone alone, or
-- pairs of its own.
ALTER TABLE assignments ADD COLUMN pairing TEXT NOT NULL DEFAULT '' CHECK (pairing IN ('', 'alone', 'own'));
CREATE TABLE practical_pairs (
    class_id     TEXT NOT NULL REFERENCES classes (id),
    practical_id TEXT NOT NULL,
    person_id    TEXT NOT NULL REFERENCES people (id),
    partner_id   TEXT NOT NULL REFERENCES people (id),
    PRIMARY KEY (class_id, practical_id, person_id)
) STRICT, WITHOUT ROWID;

-- +goose StatementBegin
CREATE TRIGGER schemes_no_update BEFORE UPDATE ON schemes BEGIN SELECT RAISE(ABORT, 'a scheme is kept as it was'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER schemes_no_delete BEFORE DELETE ON schemes BEGIN SELECT RAISE(ABORT, 'a scheme is kept as it was'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER awards_no_update BEFORE UPDATE ON awards BEGIN SELECT RAISE(ABORT, 'an award is kept as it was'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER awards_no_delete BEFORE DELETE ON awards BEGIN SELECT RAISE(ABORT, 'an award is kept as it was'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER releases_no_update BEFORE UPDATE ON releases BEGIN SELECT RAISE(ABORT, 'what was released stays so'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER releases_no_delete BEFORE DELETE ON releases BEGIN SELECT RAISE(ABORT, 'what was released stays so'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER requests_answered_once BEFORE UPDATE ON requests
WHEN old.answered <> '' OR new.reason <> old.reason OR new.notebook_id <> old.notebook_id OR new.version <> old.version
  OR new.criterion <> old.criterion OR new.person_id <> old.person_id OR new.made <> old.made
BEGIN SELECT RAISE(ABORT, 'a request is answered once, and kept as it was'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER requests_no_delete BEFORE DELETE ON requests BEGIN SELECT RAISE(ABORT, 'a request is kept as it was'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER comments_kept BEFORE UPDATE ON comments
WHEN old.withdrawn <> '' OR new.text <> old.text OR new.entry <> old.entry OR new.person_id <> old.person_id OR new.made <> old.made
BEGIN SELECT RAISE(ABORT, 'a comment is kept as it was'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER comments_no_delete BEFORE DELETE ON comments BEGIN SELECT RAISE(ABORT, 'a comment is kept as it was'); END;
-- +goose StatementEnd

-- +goose Down
DROP TABLE practical_pairs;
ALTER TABLE assignments DROP COLUMN pairing;
DROP TABLE comments;
DROP TABLE requests;
DROP TABLE releases;
DROP TABLE awards;
DROP TABLE schemes;
