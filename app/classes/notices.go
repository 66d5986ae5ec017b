package classes

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"
	"unicode/utf8"

	"exactflask/app/access"
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

func (a *Classes) NoticesOf(ctx context.Context, class string) ([]Notice, error) {
	kept, err := a.Store.Read().Notices(ctx, class)
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
func (a *Classes) AddNotice(ctx context.Context, p access.Person, class, text string) error {
	if err := access.Allowed(p, access.ManageClass, class); err != nil {
		return err
	}
	text = strings.TrimSpace(plaintext.Clean(text))
	if n := utf8.RuneCountInString(text); n == 0 || n > maxNotice {
		return noticeLength.Fault("text", finding.Count(maxNotice), finding.Count(n))
	}
	err := a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		there, err := q.Notices(ctx, class)
		if err != nil {
			return err
		}
		if len(there) >= maxNotices {
			return tooManyNotices.Fault("text", finding.Count(maxNotices))
		}
		return errors.Join(q.AddNotice(ctx, class, p.ID, store.Notice{ID: access.NewID(), Text: text, At: a.Now()}),
			a.Did(ctx, q, access.ActNotice, p, class, "", text))
	})
	if err == nil {
		a.Listeners.TellClass(class) // every bench shows it
	}
	return err
}

// DropNotice takes a notice down.
func (a *Classes) DropNotice(ctx context.Context, p access.Person, class, id string) error {
	if err := access.Allowed(p, access.ManageClass, class); err != nil {
		return err
	}
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		if err := q.DropNotice(ctx, class, id); err != nil {
			return access.NotFound(err)
		}
		return a.Did(ctx, q, access.ActNoticeDown, p, class, "", "")
	})
}
