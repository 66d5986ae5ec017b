-- +goose Up
-- Answers to the questions before the laboratory: the last of each person, and
-- whether one of them was right.
CREATE TABLE exercise_answers (
    class_id     TEXT NOT NULL REFERENCES classes (id),
    practical_id TEXT NOT NULL,
    person_id    TEXT NOT NULL REFERENCES people (id),
    code         TEXT NOT NULL,
    answer       TEXT NOT NULL,
    correct      INTEGER NOT NULL,
    tries        INTEGER NOT NULL,
    answered     TEXT NOT NULL,
    PRIMARY KEY (class_id, practical_id, person_id, code)
) STRICT, WITHOUT ROWID;

-- +goose Down
DROP TABLE exercise_answers;
