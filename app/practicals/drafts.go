package practicals

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"exactflask/app/access"
	"exactflask/core/values/finding"
	"exactflask/store"
)

// Drafts are kept as they are typed, half done: their form is not looked at until they
// are set.
const (
	maxDraft  = 64 << 10 // bytes
	maxDrafts = 100      // of a person
)

var (
	draftLarge = finding.Declare("app.draft-large", "most")
	manyDrafts = finding.Declare("app.too-many-drafts", "most")
)

// Draft is a practical that is being written, on whichever device.
type Draft struct {
	Practical json.RawMessage `json:"practical,omitempty" doc:"as it was typed; left out: there is none"`
	Saved     *time.Time      `json:"saved,omitempty"`
}

// KeepDraft keeps the person's own draft.
func (a *Practicals) KeepDraft(ctx context.Context, p access.Person, class, name string, written json.RawMessage) error {
	if err := access.Allowed(p, access.AssignPractical, class); err != nil {
		return err
	}
	if len(written) > maxDraft {
		return draftLarge.Fault("practical", finding.Count(maxDraft>>10))
	}
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		if n, err := q.CountDrafts(ctx, p.ID); err != nil {
			return err
		} else if n >= maxDrafts {
			if _, err := q.Draft(ctx, p.ID, class, name); err != nil {
				return manyDrafts.Fault("practical", finding.Count(maxDrafts))
			}
		}
		return q.KeepDraft(ctx, p.ID, class, name, string(written), a.Now())
	})
}

// Draft is the person's own.
func (a *Practicals) Draft(ctx context.Context, p access.Person, class, name string) (Draft, error) {
	if err := access.Allowed(p, access.AssignPractical, class); err != nil {
		return Draft{}, err
	}
	kept, err := a.Store.Read().Draft(ctx, p.ID, class, name)
	if errors.Is(err, store.ErrNotFound) {
		return Draft{}, nil
	}
	if err != nil {
		return Draft{}, fmt.Errorf("reading a draft: %w", err)
	}
	return Draft{json.RawMessage(kept.Document), &kept.Saved}, nil
}

// DropDraft forgets it: it was set, or given up.
func (a *Practicals) DropDraft(ctx context.Context, p access.Person, class, name string) error {
	if err := access.Allowed(p, access.AssignPractical, class); err != nil {
		return err
	}
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error { return q.DropDraft(ctx, p.ID, class, name) })
}
