package store

import (
	"context"
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
