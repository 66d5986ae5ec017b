package access

import (
	"context"
	"slices"
	"sync"

	"exactflask/store"
)

// Locks has a lock for each notebook that is in use, and none for the others.
type Locks struct {
	mu sync.Mutex // of the map only, held for a moment
	by map[string]*counted
}

type counted struct {
	sync.Mutex
	users int
}

// Lock waits for a notebook's lock and returns what gives it back.
func (l *Locks) Lock(id string) (unlock func()) {
	l.mu.Lock()
	if l.by == nil {
		l.by = map[string]*counted{}
	}
	c := l.by[id]
	if c == nil {
		c = &counted{}
		l.by[id] = c
	}
	c.users++
	l.mu.Unlock()
	c.Lock()
	return func() {
		c.Unlock()
		l.mu.Lock()
		defer l.mu.Unlock()
		if c.users--; c.users == 0 {
			delete(l.by, id)
		}
	}
}

// Changing writes what is true of notebooks as a whole: while it does, nobody adds to
// them, and afterwards they are read again.
func (a *Access) Changing(ctx context.Context, notebooks []string, do func(context.Context, store.Queries) error) error {
	ids := slices.Compact(slices.Sorted(slices.Values(notebooks))) // in one order, so that two do not wait for each other
	for _, id := range ids {
		defer a.Locks.Lock(id)()
	}
	defer func() {
		for _, id := range ids {
			a.Forgotten(id)
		}
	}()
	return a.Store.Write(ctx, do)
}
