package app

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"
	"unicode/utf8"

	"exactflask/core/values/finding"
	"exactflask/core/values/plaintext"
	"exactflask/store"
)

const (
	maxNotice  = 500 // characters
	maxNotices = 20  // in a class
)

var (
	noticeLength   = finding.Declare("app.notice-length", "most", "length")
	tooManyNotices = finding.Declare("app.too-many-notices", "most")
)

// Notice is what everyone in a class is told.
type Notice struct {
	ID   string    `json:"id"`
	Text string    `json:"text"`
	By   string    `json:"by"`
	At   time.Time `json:"at"`
}

func (a *App) notices(ctx context.Context, class string) ([]Notice, error) {
	kept, err := a.store.Read().Notices(ctx, class)
	if err != nil {
		return nil, fmt.Errorf("reading notices: %w", err)
	}
	out := make([]Notice, len(kept))
	for i, n := range kept {
		out[i] = Notice(n)
	}
	return out, nil
}

// AddNotice tells everyone in a class something.
func (a *App) AddNotice(ctx context.Context, p Person, class, text string) error {
	if err := allowed(p, ManageClass, class); err != nil {
		return err
	}
	text = strings.TrimSpace(plaintext.Clean(text))
	if n := utf8.RuneCountInString(text); n == 0 || n > maxNotice {
		return noticeLength.Fault("text", finding.Count(maxNotice), finding.Count(n))
	}
	err := a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		there, err := q.Notices(ctx, class)
		if err != nil {
			return err
		}
		if len(there) >= maxNotices {
			return tooManyNotices.Fault("text", finding.Count(maxNotices))
		}
		return errors.Join(q.AddNotice(ctx, class, p.ID, store.Notice{ID: newID(), Text: text, At: a.now()}),
			a.did(ctx, q, actNotice, p, class, "", text))
	})
	if err == nil {
		a.listeners.tellClass(class) // every bench shows it
	}
	return err
}

// DropNotice takes a notice down.
func (a *App) DropNotice(ctx context.Context, p Person, class, id string) error {
	if err := allowed(p, ManageClass, class); err != nil {
		return err
	}
	return a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		if err := q.DropNotice(ctx, class, id); err != nil {
			return notFound(err)
		}
		return a.did(ctx, q, actNoticeDown, p, class, "", "")
	})
}
