// Package app is what people do and who may do it, a file for each room:
// people, classes, practicals, notebooks, the shelf. Every operation takes the
// person who asks; what that person may do and see is decided in access.go,
// before anything is computed or encoded.
package app

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"sync"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"
	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/hashicorp/golang-lru/v2/expirable"

	"exactflask/core/record/practical"
	"exactflask/store"
)

// Errors that a caller decides on. Faults of input are *finding.Fault.
var (
	// ErrNotFound: it is not there, or not for this person. The two are not
	// told apart, so that nobody can find out what others have.
	ErrNotFound = errors.New("not there, or not for this person")
	// ErrForbidden: it is there and visible, but this is not for this role.
	ErrForbidden = errors.New("not for this role")
	// ErrKept: what was sent is on the disk; what follows from it cannot be told.
	ErrKept = errors.New("it was kept")
	// ErrSignIn: wrong name or password; which of them is not said.
	ErrSignIn = errors.New("user name or password is wrong")
)

// App does what people ask for. It may be used by many goroutines.
type App struct {
	store  *store.Store
	hash   *argon2id.Params
	decoy  string        // hash compared with when no such person exists
	hashes chan struct{} // limits how many password hashes are made at once
	now    func() time.Time
	log    func(string, ...any)
	// books are the notebooks used last. Only this process writes entries, and
	// each write puts the new state here while it holds the notebook's lock, so
	// what is here is what the file holds.
	books *books
	locks locks
	// forgotten is told that a notebook is another now than what is remembered of it.
	forgotten func(notebook string)
	// shown are the sheets that readers were sent last, by their prints.
	shown *lru.Cache[string, shown]
	// practicals are those used last, ready; a revision is never changed.
	practicals *lru.Cache[string, *practical.Ready]
	// people are those who asked last. The command line may change a class
	// while the server runs, so they are asked for again after freshness.
	people *expirable.LRU[string, Person]
	// quotas are what those who wrote last may still write.
	quotas *expirable.LRU[string, quota]
	// signIns are those used last; ended ones are taken out at once.
	signIns *expirable.LRU[string, store.SignIn]
	// examined are the reports that were marked last, as they were handed in.
	examined  *lru.Cache[string, *examined]
	listeners listeners
	// probes are those that are joined to notebooks; probing guards joining and parting.
	probes  *lru.Cache[string, *liveProbe]
	probing sync.Mutex
	setup   string // what the first person shows (SetupToken)
}

// freshness is how long a person's classes are believed without looking.
const freshness = 10 * time.Second

// maxProbes is how many probes may be joined at once; the one used longest ago goes first.
const maxProbes = 500

// maxExamined is how many reports are kept evaluated: a few classes.
const maxExamined = 250

// New returns an App over an open store. cheap passwords are for tests and
// the demo, where seven people are made at every start.
func New(s *store.Store, cheap bool) (*App, error) {
	params := *argon2id.DefaultParams
	params.Parallelism = 2
	if cheap {
		params.Memory = 8 * 1024
	}
	decoy, err := argon2id.CreateHash(uuid.NewString(), &params)
	if err != nil {
		return nil, fmt.Errorf("hashing passwords: %w", err)
	}
	books, err := newBooks()
	if err != nil {
		return nil, fmt.Errorf("making room for notebooks: %w", err)
	}
	sheets, err := lru.New[string, shown](2 * maxBooks)
	if err != nil {
		return nil, fmt.Errorf("making room for sheets: %w", err)
	}
	practicals, err := lru.New[string, *practical.Ready](maxBooks)
	if err != nil {
		return nil, fmt.Errorf("making room for practicals: %w", err)
	}
	reports, err := lru.New[string, *examined](maxExamined)
	if err != nil {
		return nil, fmt.Errorf("making room for reports: %w", err)
	}
	probes, err := lru.New[string, *liveProbe](maxProbes)
	if err != nil {
		return nil, fmt.Errorf("making room for probes: %w", err)
	}
	return &App{forgotten: books.Remove, store: s, books: books, probes: probes, examined: reports, practicals: practicals, shown: sheets,
		quotas:  expirable.NewLRU[string, quota](10*maxBooks, nil, time.Hour),
		signIns: expirable.NewLRU[string, store.SignIn](10*maxBooks, nil, freshness),
		people:  expirable.NewLRU[string, Person](10*maxBooks, nil, freshness), hash: &params, decoy: decoy,
		hashes: make(chan struct{}, 2), now: func() time.Time { return time.Now().UTC() }, log: slog.Error}, nil
}

// Ready tells whether the data file can be read, and whether the last write to it
// failed for a reason that lasts.
func (a *App) Ready(ctx context.Context) error { return a.store.Ready(ctx) }

// Commits is how many transactions were committed, and how many writes they held.
func (a *App) Commits() (transactions, writes uint64) { return a.store.Commits() }

func newID() string { return uuid.Must(uuid.NewV7()).String() }

// notFound makes the store's "not found" the one that callers know.
func notFound(err error) error {
	if errors.Is(err, store.ErrNotFound) {
		return ErrNotFound
	}
	return err
}
