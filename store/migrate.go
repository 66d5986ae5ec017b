package store

import (
	"context"
	"database/sql"
	"embed"
	"fmt"
	"io/fs"

	"github.com/pressly/goose/v3"

	"exactflask/core/record/chain"
	"exactflask/core/values/finding"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Schema is the version of the data file that this program writes.
const Schema = 16

// NewerError is returned for a data file that a later program has written.
type NewerError struct {
	Path        string
	File, Known int64 // versions
}

// Unwrap returns what is said of it.
func (e *NewerError) Unwrap() error {
	return newerSchema.Fault("", finding.Text(e.Path), finding.Count(int(e.File)), finding.Count(int(e.Known)))
}

func (e *NewerError) Error() string { return e.Unwrap().Error() }

// migrate brings a data file to the newest schema.
func migrate(ctx context.Context, d *sql.DB, path string) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, d, files, goose.WithGoMigrations(
		goose.NewGoMigration(7, &goose.GoFunc{RunTx: chainAll}, &goose.GoFunc{RunTx: unchain}),
		goose.NewGoMigration(15, &goose.GoFunc{RunTx: sealAll}, &goose.GoFunc{})))
	if err != nil {
		return fmt.Errorf("reading the migrations: %w", err)
	}
	version, err := provider.GetDBVersion(ctx)
	if err != nil {
		return fmt.Errorf("reading the schema of %s: %w", path, err)
	}
	if version > Schema {
		return &NewerError{path, version, Schema}
	}
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("migrating %s: %w", path, err)
	}
	return nil
}

// chainAll gives every entry its hash, notebook by notebook, and forbids changes.
func chainAll(ctx context.Context, tx *sql.Tx) error {
	type row struct {
		seq                          int64
		notebook, document, received string
	}
	rows, err := tx.QueryContext(ctx, "SELECT seq, notebook_id, document, received FROM entries ORDER BY notebook_id, seq")
	if err != nil {
		return err
	}
	defer rows.Close()
	var all []row
	for rows.Next() {
		var r row
		if err := rows.Scan(&r.seq, &r.notebook, &r.document, &r.received); err != nil {
			return err
		}
		all = append(all, r)
	}
	if err := rows.Err(); err != nil {
		return err
	}
	last := map[string]string{}
	for _, r := range all {
		e, received, err := decodeEntry(r.document, r.received)
		if err != nil {
			continue // the notebook shows as unreadable, alone; verifying says so
		}
		link, _, err := chain.Follow(last[r.notebook], e, received)
		if err != nil {
			return err
		}
		last[r.notebook] = link.Hash
		if _, err := tx.ExecContext(ctx, "UPDATE entries SET hash = ? WHERE seq = ?", link.Hash, r.seq); err != nil {
			return err
		}
	}
	_, err = tx.ExecContext(ctx, `CREATE TRIGGER entries_no_update BEFORE UPDATE ON entries
		BEGIN SELECT RAISE(ABORT, 'entries are only ever added'); END`)
	return err
}

func unchain(ctx context.Context, tx *sql.Tx) error {
	_, err := tx.ExecContext(ctx, "DROP TRIGGER entries_no_update")
	return err
}
