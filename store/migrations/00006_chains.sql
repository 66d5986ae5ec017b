-- +goose Up
-- Each entry is bound to those before it (journal.Link). Entries that are there
-- already get their hash by migration 7, which forbids changes again.
ALTER TABLE entries ADD COLUMN hash TEXT NOT NULL DEFAULT '';
DROP TRIGGER entries_no_update;

-- +goose Down
ALTER TABLE entries DROP COLUMN hash;
-- +goose StatementBegin
CREATE TRIGGER entries_no_update BEFORE UPDATE ON entries
BEGIN SELECT RAISE(ABORT, 'entries are only ever added'); END;
-- +goose StatementEnd
