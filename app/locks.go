package app

import "sync"

// locks has a lock for each notebook that is in use, and none for the others.
type locks struct {
	mu sync.Mutex // of the map only, held for a moment
	by map[string]*counted
}

type counted struct {
	sync.Mutex
	users int
}

// lock waits for a notebook's lock and returns what gives it back.
func (l *locks) lock(id string) (unlock func()) {
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
