package store

import (
	"context"
	"errors"
	"fmt"
)

// Limit lets the file grow by so many pages and no further, as a disk does.
func (s *Store) Limit(ctx context.Context, pages int) error {
	var now int
	if err := s.write.QueryRowContext(ctx, "PRAGMA page_count").Scan(&now); err != nil {
		return err
	}
	return s.write.QueryRowContext(ctx, fmt.Sprint("PRAGMA max_page_count=", now+pages)).Scan(&now)
}

// Statement writes as the program does, sealed.
func (s *Store) Statement(ctx context.Context, statement string) error {
	tx, err := s.write.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx, statement); err != nil {
		return errors.Join(err, tx.Rollback())
	}
	return errors.Join(seal(ctx, tx), tx.Commit())
}
