// Package access is who asks and what they may do and see, with what every room of the
// application stands on: the store, the clock, what is remembered of people, the locks of
// notebooks, who listens, and the log of acts.
package access

import (
	"context"
	"log/slog"
	"time"

	"github.com/hashicorp/golang-lru/v2/expirable"

	"exactflask/store"
)

// Access is what every room stands on.
type Access struct {
	Store *store.Store
	// Now is the time.
	Now func() time.Time
	// Log notes what went wrong, for whoever runs the program.
	Log func(string, ...any)
	// Persons are those who asked last. The command line may change a class
	// while the server runs, so they are asked for again after Freshness.
	Persons *expirable.LRU[string, Person]
	// Locks are those of the notebooks.
	Locks Locks
	// Forgotten is told that a notebook is another now than what is remembered of it.
	Forgotten func(notebook string)
	// Listeners hear of changes.
	Listeners Listeners
}

// Freshness is how long a person's classes are believed without looking.
const Freshness = 10 * time.Second

// maxPersons is how many people are remembered.
const maxPersons = 10_000

// New is what every room stands on, over an open store.
func New(s *store.Store) *Access {
	return &Access{Store: s, Now: func() time.Time { return time.Now().UTC() }, Log: slog.Error,
		Persons:   expirable.NewLRU[string, Person](maxPersons, nil, Freshness),
		Forgotten: func(string) {}}
}

// Ready tells whether the data file can be read, and whether the last write to it
// failed for a reason that lasts.
func (a *Access) Ready(ctx context.Context) error { return a.Store.Ready(ctx) }

// Behind is how far the clock lies behind the record, where that is more than a minute: it was set
// back, or it was wrong before.
func (a *Access) Behind(ctx context.Context) (time.Duration, error) {
	newest, err := a.Store.Read().Newest(ctx)
	if by := newest.Sub(a.Now()); err == nil && by > time.Minute {
		return by, nil
	}
	return 0, err
}

// Commits is how many transactions were committed, and how many writes they held.
func (a *Access) Commits() (transactions, writes uint64) { return a.Store.Commits() }
