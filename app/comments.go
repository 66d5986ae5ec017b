package app

import (
	"context"
	"fmt"

	"exactflask/core/values/finding"
	"exactflask/store"
)

const maxComments = 300 // beside the entries of one notebook

var commentsMany = finding.Declare("app.comments-many", "count")

// AddComment says something beside an entry or a trial of a notebook, or about the
// whole; the student sees it at once.
func (a *App) AddComment(ctx context.Context, p Person, notebook, entry, text string) error {
	o, err := a.open(ctx, p, notebook)
	if err != nil {
		return err
	}
	if err := allowed(p, MarkReports, o.Class); err != nil {
		return err
	}
	text, fault := reason(text)
	if fault != nil {
		return fault
	}
	there := entry == ""
	for i := range o.Entries {
		there = there || o.Entries[i].ID == entry
	}
	if !there {
		return ErrNotFound
	}
	err = a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		kept, err := q.Comments(ctx, notebook)
		if err != nil {
			return fmt.Errorf("reading comments: %w", err)
		}
		if len(kept) >= maxComments {
			return commentsMany.Fault("text", finding.Count(maxComments))
		}
		return q.AddComment(ctx, notebook, p.ID, store.Comment{Entry: entry, Text: text, At: a.now()})
	})
	if err == nil {
		a.around(o.book)
	}
	return err
}

// WithdrawComment takes a comment out of sight.
func (a *App) WithdrawComment(ctx context.Context, p Person, notebook string, id int64) error {
	o, err := a.open(ctx, p, notebook)
	if err != nil {
		return err
	}
	if err := allowed(p, MarkReports, o.Class); err != nil {
		return err
	}
	err = a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		done, err := q.WithdrawComment(ctx, notebook, id, a.now())
		if err == nil && !done {
			return ErrNotFound
		}
		return err
	})
	if err == nil {
		a.around(o.book)
	}
	return err
}

// comments are those of a notebook, as its reader is told who wrote them.
func (a *App) comments(ctx context.Context, p Person, notebook string) ([]store.Comment, error) {
	kept, err := a.store.Read().Comments(ctx, notebook)
	if err != nil {
		return nil, fmt.Errorf("reading comments: %w", err)
	}
	for i := range kept {
		kept[i].By = nameFor(p, kept[i].By)
	}
	return kept, nil
}
