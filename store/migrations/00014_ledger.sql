-- +goose Up
-- The ledger: every row of record that was added, changed or taken away, in order, with the SHA-256 of
-- the row as it stood then, bound to the line before of the same class (of none: of the installation).
CREATE TABLE ledger (
    seq      INTEGER PRIMARY KEY,
    class_id TEXT NOT NULL,
    what     TEXT NOT NULL, -- table
    row      TEXT NOT NULL, -- what identifies the row, as a JSON array
    digest   TEXT NOT NULL DEFAULT '', -- -: it is not there any more
    hash     TEXT NOT NULL DEFAULT ''  -- empty until it is sealed, before the transaction ends
) STRICT;
CREATE INDEX ledger_class ON ledger (class_id, seq);
CREATE INDEX ledger_open ON ledger (seq) WHERE hash = '';
-- +goose StatementBegin
CREATE TRIGGER ledger_no_update BEFORE UPDATE ON ledger WHEN old.hash <> ''
BEGIN SELECT RAISE(ABORT, 'what is sealed is only ever added to'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER ledger_no_delete BEFORE DELETE ON ledger
BEGIN SELECT RAISE(ABORT, 'what is sealed is only ever added to'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER people_added AFTER INSERT ON people BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ('', 'people', json_array(new.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER people_changed AFTER UPDATE OF id, username, name, standing, created, left_on ON people BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT '', 'people', json_array(old.id) WHERE json_array(old.id) <> json_array(new.id);
    INSERT INTO ledger (class_id, what, row) VALUES ('', 'people', json_array(new.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER people_gone AFTER DELETE ON people BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ('', 'people', json_array(old.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER practicals_added AFTER INSERT ON practicals BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ('', 'practicals', json_array(new.id, new.revision));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER practicals_changed AFTER UPDATE OF id, revision, document, created, version ON practicals BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT '', 'practicals', json_array(old.id, old.revision) WHERE json_array(old.id, old.revision) <> json_array(new.id, new.revision);
    INSERT INTO ledger (class_id, what, row) VALUES ('', 'practicals', json_array(new.id, new.revision));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER practicals_gone AFTER DELETE ON practicals BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ('', 'practicals', json_array(old.id, old.revision));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER classes_added AFTER INSERT ON classes BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (new.id, 'classes', json_array(new.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER classes_changed AFTER UPDATE OF id, name, created, term, archived ON classes BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT old.id, 'classes', json_array(old.id) WHERE json_array(old.id) <> json_array(new.id);
    INSERT INTO ledger (class_id, what, row) VALUES (new.id, 'classes', json_array(new.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER classes_gone AFTER DELETE ON classes BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (old.id, 'classes', json_array(old.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER memberships_added AFTER INSERT ON memberships BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'memberships', json_array(new.class_id, new.person_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER memberships_changed AFTER UPDATE OF class_id, person_id, role, bench, burette, sample, pair, joined ON memberships BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT old.class_id, 'memberships', json_array(old.class_id, old.person_id) WHERE json_array(old.class_id, old.person_id) <> json_array(new.class_id, new.person_id);
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'memberships', json_array(new.class_id, new.person_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER memberships_gone AFTER DELETE ON memberships BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (old.class_id, 'memberships', json_array(old.class_id, old.person_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER owners_added AFTER INSERT ON owners BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'owners', json_array(new.practical_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER owners_changed AFTER UPDATE OF practical_id, class_id ON owners BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT old.class_id, 'owners', json_array(old.practical_id) WHERE json_array(old.practical_id) <> json_array(new.practical_id);
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'owners', json_array(new.practical_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER owners_gone AFTER DELETE ON owners BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (old.class_id, 'owners', json_array(old.practical_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER assignments_added AFTER INSERT ON assignments BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'assignments', json_array(new.class_id, new.practical_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER assignments_changed AFTER UPDATE OF class_id, practical_id, revision, created, opens, due, late, ends, pairing ON assignments BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT old.class_id, 'assignments', json_array(old.class_id, old.practical_id) WHERE json_array(old.class_id, old.practical_id) <> json_array(new.class_id, new.practical_id);
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'assignments', json_array(new.class_id, new.practical_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER assignments_gone AFTER DELETE ON assignments BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (old.class_id, 'assignments', json_array(old.class_id, old.practical_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER notebooks_added AFTER INSERT ON notebooks BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'notebooks', json_array(new.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER notebooks_changed AFTER UPDATE OF id, class_id, practical_id, revision, student_id, started ON notebooks BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT old.class_id, 'notebooks', json_array(old.id) WHERE json_array(old.id) <> json_array(new.id);
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'notebooks', json_array(new.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER notebooks_gone AFTER DELETE ON notebooks BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (old.class_id, 'notebooks', json_array(old.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER partners_added AFTER INSERT ON partners BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = new.notebook_id), 'partners', json_array(new.notebook_id, new.person_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER partners_changed AFTER UPDATE OF notebook_id, person_id, since ON partners BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT (SELECT class_id FROM notebooks WHERE id = old.notebook_id), 'partners', json_array(old.notebook_id, old.person_id) WHERE json_array(old.notebook_id, old.person_id) <> json_array(new.notebook_id, new.person_id);
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = new.notebook_id), 'partners', json_array(new.notebook_id, new.person_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER partners_gone AFTER DELETE ON partners BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = old.notebook_id), 'partners', json_array(old.notebook_id, old.person_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER pictures_added AFTER INSERT ON pictures BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = new.notebook_id), 'pictures', json_array(new.notebook_id, new.hash));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER pictures_changed AFTER UPDATE OF notebook_id, hash, kind, width, height, person_id, added ON pictures BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT (SELECT class_id FROM notebooks WHERE id = old.notebook_id), 'pictures', json_array(old.notebook_id, old.hash) WHERE json_array(old.notebook_id, old.hash) <> json_array(new.notebook_id, new.hash);
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = new.notebook_id), 'pictures', json_array(new.notebook_id, new.hash));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER pictures_gone AFTER DELETE ON pictures BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = old.notebook_id), 'pictures', json_array(old.notebook_id, old.hash));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER submissions_added AFTER INSERT ON submissions BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = new.notebook_id), 'submissions', json_array(new.notebook_id, new.version));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER submissions_changed AFTER UPDATE OF notebook_id, version, person_id, handed, late, entries, hash, receipt, document, returned, returned_by, reason ON submissions BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT (SELECT class_id FROM notebooks WHERE id = old.notebook_id), 'submissions', json_array(old.notebook_id, old.version) WHERE json_array(old.notebook_id, old.version) <> json_array(new.notebook_id, new.version);
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = new.notebook_id), 'submissions', json_array(new.notebook_id, new.version));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER submissions_gone AFTER DELETE ON submissions BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = old.notebook_id), 'submissions', json_array(old.notebook_id, old.version));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER awards_added AFTER INSERT ON awards BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = new.notebook_id), 'awards', json_array(new.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER awards_changed AFTER UPDATE OF id, notebook_id, version, criterion, reading, marks, comment, how, person_id, made, follows ON awards BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT (SELECT class_id FROM notebooks WHERE id = old.notebook_id), 'awards', json_array(old.id) WHERE json_array(old.id) <> json_array(new.id);
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = new.notebook_id), 'awards', json_array(new.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER awards_gone AFTER DELETE ON awards BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = old.notebook_id), 'awards', json_array(old.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER releases_added AFTER INSERT ON releases BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = new.notebook_id), 'releases', json_array(new.notebook_id, new.version));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER releases_changed AFTER UPDATE OF notebook_id, version, person_id, made ON releases BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT (SELECT class_id FROM notebooks WHERE id = old.notebook_id), 'releases', json_array(old.notebook_id, old.version) WHERE json_array(old.notebook_id, old.version) <> json_array(new.notebook_id, new.version);
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = new.notebook_id), 'releases', json_array(new.notebook_id, new.version));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER releases_gone AFTER DELETE ON releases BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = old.notebook_id), 'releases', json_array(old.notebook_id, old.version));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER requests_added AFTER INSERT ON requests BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = new.notebook_id), 'requests', json_array(new.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER requests_changed AFTER UPDATE OF id, notebook_id, version, criterion, reason, person_id, made, answer, answered_by, answered ON requests BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT (SELECT class_id FROM notebooks WHERE id = old.notebook_id), 'requests', json_array(old.id) WHERE json_array(old.id) <> json_array(new.id);
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = new.notebook_id), 'requests', json_array(new.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER requests_gone AFTER DELETE ON requests BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = old.notebook_id), 'requests', json_array(old.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER comments_added AFTER INSERT ON comments BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = new.notebook_id), 'comments', json_array(new.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER comments_changed AFTER UPDATE OF id, notebook_id, entry, text, person_id, made, withdrawn ON comments BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT (SELECT class_id FROM notebooks WHERE id = old.notebook_id), 'comments', json_array(old.id) WHERE json_array(old.id) <> json_array(new.id);
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = new.notebook_id), 'comments', json_array(new.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER comments_gone AFTER DELETE ON comments BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES ((SELECT class_id FROM notebooks WHERE id = old.notebook_id), 'comments', json_array(old.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER schemes_added AFTER INSERT ON schemes BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'schemes', json_array(new.class_id, new.practical_id, new.revision));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER schemes_changed AFTER UPDATE OF class_id, practical_id, revision, document, person_id, made ON schemes BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT old.class_id, 'schemes', json_array(old.class_id, old.practical_id, old.revision) WHERE json_array(old.class_id, old.practical_id, old.revision) <> json_array(new.class_id, new.practical_id, new.revision);
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'schemes', json_array(new.class_id, new.practical_id, new.revision));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER schemes_gone AFTER DELETE ON schemes BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (old.class_id, 'schemes', json_array(old.class_id, old.practical_id, old.revision));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER unknowns_added AFTER INSERT ON unknowns BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'unknowns', json_array(new.class_id, new.practical_id, new.code));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER unknowns_changed AFTER UPDATE OF class_id, practical_id, code, value ON unknowns BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT old.class_id, 'unknowns', json_array(old.class_id, old.practical_id, old.code) WHERE json_array(old.class_id, old.practical_id, old.code) <> json_array(new.class_id, new.practical_id, new.code);
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'unknowns', json_array(new.class_id, new.practical_id, new.code));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER unknowns_gone AFTER DELETE ON unknowns BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (old.class_id, 'unknowns', json_array(old.class_id, old.practical_id, old.code));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER deals_added AFTER INSERT ON deals BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'deals', json_array(new.class_id, new.practical_id, new.person_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER deals_changed AFTER UPDATE OF class_id, practical_id, person_id, code ON deals BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT old.class_id, 'deals', json_array(old.class_id, old.practical_id, old.person_id) WHERE json_array(old.class_id, old.practical_id, old.person_id) <> json_array(new.class_id, new.practical_id, new.person_id);
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'deals', json_array(new.class_id, new.practical_id, new.person_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER deals_gone AFTER DELETE ON deals BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (old.class_id, 'deals', json_array(old.class_id, old.practical_id, old.person_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER practical_pairs_added AFTER INSERT ON practical_pairs BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'practical_pairs', json_array(new.class_id, new.practical_id, new.person_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER practical_pairs_changed AFTER UPDATE OF class_id, practical_id, person_id, partner_id ON practical_pairs BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT old.class_id, 'practical_pairs', json_array(old.class_id, old.practical_id, old.person_id) WHERE json_array(old.class_id, old.practical_id, old.person_id) <> json_array(new.class_id, new.practical_id, new.person_id);
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'practical_pairs', json_array(new.class_id, new.practical_id, new.person_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER practical_pairs_gone AFTER DELETE ON practical_pairs BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (old.class_id, 'practical_pairs', json_array(old.class_id, old.practical_id, old.person_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER exercise_answers_added AFTER INSERT ON exercise_answers BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'exercise_answers', json_array(new.class_id, new.practical_id, new.person_id, new.code));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER exercise_answers_changed AFTER UPDATE OF class_id, practical_id, person_id, code, answer, correct, tries, answered ON exercise_answers BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT old.class_id, 'exercise_answers', json_array(old.class_id, old.practical_id, old.person_id, old.code) WHERE json_array(old.class_id, old.practical_id, old.person_id, old.code) <> json_array(new.class_id, new.practical_id, new.person_id, new.code);
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'exercise_answers', json_array(new.class_id, new.practical_id, new.person_id, new.code));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER exercise_answers_gone AFTER DELETE ON exercise_answers BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (old.class_id, 'exercise_answers', json_array(old.class_id, old.practical_id, old.person_id, old.code));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER notices_added AFTER INSERT ON notices BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'notices', json_array(new.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER notices_changed AFTER UPDATE OF id, class_id, person_id, text, created ON notices BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT old.class_id, 'notices', json_array(old.id) WHERE json_array(old.id) <> json_array(new.id);
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'notices', json_array(new.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER notices_gone AFTER DELETE ON notices BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (old.class_id, 'notices', json_array(old.id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER acts_added AFTER INSERT ON acts BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (coalesce(new.class_id, ''), 'acts', json_array(new.seq));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER acts_changed AFTER UPDATE OF seq, what, class_id, person_id, whom, detail, at ON acts BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT coalesce(old.class_id, ''), 'acts', json_array(old.seq) WHERE json_array(old.seq) <> json_array(new.seq);
    INSERT INTO ledger (class_id, what, row) VALUES (coalesce(new.class_id, ''), 'acts', json_array(new.seq));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER acts_gone AFTER DELETE ON acts BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (coalesce(old.class_id, ''), 'acts', json_array(old.seq));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER norms_added AFTER INSERT ON norms BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'norms', json_array(new.class_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER norms_changed AFTER UPDATE OF class_id, norms ON norms BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT old.class_id, 'norms', json_array(old.class_id) WHERE json_array(old.class_id) <> json_array(new.class_id);
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'norms', json_array(new.class_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER norms_gone AFTER DELETE ON norms BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (old.class_id, 'norms', json_array(old.class_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER glass_added AFTER INSERT ON glass BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'glass', json_array(new.class_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER glass_changed AFTER UPDATE OF class_id, pieces ON glass BEGIN
    INSERT INTO ledger (class_id, what, row) SELECT old.class_id, 'glass', json_array(old.class_id) WHERE json_array(old.class_id) <> json_array(new.class_id);
    INSERT INTO ledger (class_id, what, row) VALUES (new.class_id, 'glass', json_array(new.class_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER glass_gone AFTER DELETE ON glass BEGIN
    INSERT INTO ledger (class_id, what, row) VALUES (old.class_id, 'glass', json_array(old.class_id));
END;
-- +goose StatementEnd

-- +goose Down
DROP TRIGGER people_added;
DROP TRIGGER people_changed;
DROP TRIGGER people_gone;
DROP TRIGGER practicals_added;
DROP TRIGGER practicals_changed;
DROP TRIGGER practicals_gone;
DROP TRIGGER classes_added;
DROP TRIGGER classes_changed;
DROP TRIGGER classes_gone;
DROP TRIGGER memberships_added;
DROP TRIGGER memberships_changed;
DROP TRIGGER memberships_gone;
DROP TRIGGER owners_added;
DROP TRIGGER owners_changed;
DROP TRIGGER owners_gone;
DROP TRIGGER assignments_added;
DROP TRIGGER assignments_changed;
DROP TRIGGER assignments_gone;
DROP TRIGGER notebooks_added;
DROP TRIGGER notebooks_changed;
DROP TRIGGER notebooks_gone;
DROP TRIGGER partners_added;
DROP TRIGGER partners_changed;
DROP TRIGGER partners_gone;
DROP TRIGGER pictures_added;
DROP TRIGGER pictures_changed;
DROP TRIGGER pictures_gone;
DROP TRIGGER submissions_added;
DROP TRIGGER submissions_changed;
DROP TRIGGER submissions_gone;
DROP TRIGGER awards_added;
DROP TRIGGER awards_changed;
DROP TRIGGER awards_gone;
DROP TRIGGER releases_added;
DROP TRIGGER releases_changed;
DROP TRIGGER releases_gone;
DROP TRIGGER requests_added;
DROP TRIGGER requests_changed;
DROP TRIGGER requests_gone;
DROP TRIGGER comments_added;
DROP TRIGGER comments_changed;
DROP TRIGGER comments_gone;
DROP TRIGGER schemes_added;
DROP TRIGGER schemes_changed;
DROP TRIGGER schemes_gone;
DROP TRIGGER unknowns_added;
DROP TRIGGER unknowns_changed;
DROP TRIGGER unknowns_gone;
DROP TRIGGER deals_added;
DROP TRIGGER deals_changed;
DROP TRIGGER deals_gone;
DROP TRIGGER practical_pairs_added;
DROP TRIGGER practical_pairs_changed;
DROP TRIGGER practical_pairs_gone;
DROP TRIGGER exercise_answers_added;
DROP TRIGGER exercise_answers_changed;
DROP TRIGGER exercise_answers_gone;
DROP TRIGGER notices_added;
DROP TRIGGER notices_changed;
DROP TRIGGER notices_gone;
DROP TRIGGER acts_added;
DROP TRIGGER acts_changed;
DROP TRIGGER acts_gone;
DROP TRIGGER norms_added;
DROP TRIGGER norms_changed;
DROP TRIGGER norms_gone;
DROP TRIGGER glass_added;
DROP TRIGGER glass_changed;
DROP TRIGGER glass_gone;
DROP TABLE ledger;
