-- +goose Up
-- The class that a practical belongs to: only its instructors revise it.
CREATE TABLE owners (
    practical_id TEXT PRIMARY KEY,
    class_id     TEXT NOT NULL REFERENCES classes (id)
) STRICT, WITHOUT ROWID;
-- Until now whoever set it first wrote it.
INSERT INTO owners (practical_id, class_id)
SELECT practical_id, class_id FROM assignments a
WHERE created = (SELECT min(b.created) FROM assignments b WHERE b.practical_id = a.practical_id)
ON CONFLICT (practical_id) DO NOTHING;

-- What a shelf or a board shows of a notebook, kept with every append.
CREATE TABLE summaries (
    notebook_id TEXT PRIMARY KEY REFERENCES notebooks (id),
    version     INTEGER NOT NULL,
    document    TEXT NOT NULL
) STRICT, WITHOUT ROWID;

-- Stored documents say which form they are in; what is there is of the first.
ALTER TABLE practicals ADD COLUMN version INTEGER NOT NULL DEFAULT 1;

-- +goose Down
ALTER TABLE practicals DROP COLUMN version;
DROP TABLE summaries;
DROP TABLE owners;
