-- +goose Up
-- Who of those who wrote in a notebook agrees that its report is handed in, as it stood with so many
-- entries. It ends with handing in.
CREATE TABLE agreements (
    notebook_id TEXT NOT NULL REFERENCES notebooks (id),
    person_id   TEXT NOT NULL REFERENCES people (id),
    entries     INTEGER NOT NULL,
    at          TEXT NOT NULL,
    PRIMARY KEY (notebook_id, person_id)
) STRICT, WITHOUT ROWID;

-- +goose Down
DROP TABLE agreements;
