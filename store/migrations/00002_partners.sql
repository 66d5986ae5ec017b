-- +goose Up
-- Partners write in a notebook beside its student.
CREATE TABLE partners (
    notebook_id TEXT NOT NULL REFERENCES notebooks (id),
    person_id   TEXT NOT NULL REFERENCES people (id),
    since       TEXT NOT NULL,
    PRIMARY KEY (notebook_id, person_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX partners_person ON partners (person_id);

-- +goose Down
DROP TABLE partners;
