package bench

import (
	"context"
	"fmt"
	"strings"
	"unicode/utf8"

	"exactflask/app/access"
	"exactflask/core/values/finding"
	"exactflask/core/values/plaintext"
	"exactflask/store"
)

const maxComments = 300 // beside the entries of one notebook

var commentsMany = finding.Declare("app.comments-many", "count")

// AddComment says something beside an entry or a trial of a notebook, or about the
// whole; the student sees it at once.
func (a *Bench) AddComment(ctx context.Context, p access.Person, notebook, entry, text string) error {
	o, err := a.Open(ctx, p, notebook)
	if err != nil {
		return err
	}
	if err := access.Allowed(p, access.MarkReports, o.Class); err != nil {
		return err
	}
	text, fault := Reason(text)
	if fault != nil {
		return fault
	}
	there := entry == ""
	for i := range o.Entries {
		there = there || o.Entries[i].ID == entry
	}
	if !there {
		return access.ErrNotFound
	}
	err = a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		kept, err := q.Comments(ctx, notebook)
		if err != nil {
			return fmt.Errorf("reading comments: %w", err)
		}
		if len(kept) >= maxComments {
			return commentsMany.Fault("text", finding.Count(maxComments))
		}
		return q.AddComment(ctx, notebook, p.ID, store.Comment{Entry: entry, Text: text, At: a.Now()})
	})
	if err == nil {
		a.Around(o.Book)
	}
	return err
}

// WithdrawComment takes a comment out of sight.
func (a *Bench) WithdrawComment(ctx context.Context, p access.Person, notebook string, id int64) error {
	o, err := a.Open(ctx, p, notebook)
	if err != nil {
		return err
	}
	if err := access.Allowed(p, access.MarkReports, o.Class); err != nil {
		return err
	}
	err = a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		done, err := q.WithdrawComment(ctx, notebook, id, a.Now())
		if err == nil && !done {
			return access.ErrNotFound
		}
		return err
	})
	if err == nil {
		a.Around(o.Book)
	}
	return err
}

// comments are those of a notebook, as its reader is told who wrote them.
func (a *Bench) CommentsOf(ctx context.Context, p access.Person, notebook string) ([]store.Comment, error) {
	kept, err := a.Store.Read().Comments(ctx, notebook)
	if err != nil {
		return nil, fmt.Errorf("reading comments: %w", err)
	}
	for i := range kept {
		kept[i].By = access.NameFor(p, kept[i].By)
	}
	return kept, nil
}

var (
	requestLength = finding.Declare("app.request-reason", "count")
)

func Reason(text string) (string, *finding.Fault) {
	text = strings.TrimSpace(plaintext.Clean(text))
	if n := utf8.RuneCountInString(text); n == 0 || n > maxReason {
		return "", requestLength.Fault("text", finding.Count(maxReason))
	}
	return text, nil
}

const maxReason = 500 // characters
