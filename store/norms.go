package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"

	"exactflask/core/chemistry/glass"
	"exactflask/core/record/practical"
	"exactflask/store/db"
)

// said reads what a class said of itself, or the installation; nothing where nothing was said.
func said[T any](what, class, text string, err error) (out T, _ error) {
	if errors.Is(err, sql.ErrNoRows) {
		return out, nil
	} else if err != nil {
		return out, fmt.Errorf("reading %s: %w", what, err)
	}
	if err := json.Unmarshal([]byte(text), &out); err != nil {
		return out, fmt.Errorf("%s of %q: %w: %w", what, class, ErrUnreadable, err)
	}
	return out, nil
}

// Norms are those that a class said, or the installation (class is empty); none where
// nothing was said.
func (q Queries) Norms(ctx context.Context, class string) (practical.Norms, error) {
	text, err := q.q.Norms(ctx, class)
	return said[practical.Norms]("norms", class, text, err)
}

// KeepNorms takes the place of those that were said before.
func (q Queries) KeepNorms(ctx context.Context, class string, norms practical.Norms) error {
	text, err := json.Marshal(norms)
	if err != nil {
		return fmt.Errorf("writing norms: %w", err)
	}
	return q.q.KeepNorms(ctx, db.KeepNormsParams{ClassID: class, Norms: string(text)})
}

// Glass are the pieces that a class has of its own, or the installation (class is empty).
func (q Queries) Glass(ctx context.Context, class string) ([]glass.Piece, error) {
	text, err := q.q.Glass(ctx, class)
	return said[[]glass.Piece]("glassware", class, text, err)
}

// KeepGlass takes the place of the list that was kept before.
func (q Queries) KeepGlass(ctx context.Context, class string, pieces []glass.Piece) error {
	text, err := json.Marshal(pieces)
	if err != nil {
		return fmt.Errorf("writing glassware: %w", err)
	}
	return q.q.KeepGlass(ctx, db.KeepGlassParams{ClassID: class, Pieces: string(text)})
}
