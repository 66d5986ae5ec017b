package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"

	"exactflask/core/record/practical"
	"exactflask/store/db"
)

// Norms are those that a class said, or the installation (class is empty); none where
// nothing was said.
func (q Queries) Norms(ctx context.Context, class string) (practical.Norms, error) {
	text, err := q.q.Norms(ctx, class)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	} else if err != nil {
		return nil, fmt.Errorf("reading norms: %w", err)
	}
	var out practical.Norms
	if err := json.Unmarshal([]byte(text), &out); err != nil {
		return nil, fmt.Errorf("norms of %q: %w: %w", class, ErrUnreadable, err)
	}
	return out, nil
}

// KeepNorms takes the place of those that were said before.
func (q Queries) KeepNorms(ctx context.Context, class string, norms practical.Norms) error {
	text, err := json.Marshal(norms)
	if err != nil {
		return fmt.Errorf("writing norms: %w", err)
	}
	return q.q.KeepNorms(ctx, db.KeepNormsParams{ClassID: class, Norms: string(text)})
}
