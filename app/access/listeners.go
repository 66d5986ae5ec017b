package access

import (
	"context"
	"sync"
)

// Change says that a notebook has more entries now.
type Change struct {
	Notebook string `json:"notebook"`
	Entries  int    `json:"entries" doc:"how many there are now"`
	Clock    int64  `json:"clock" doc:"logical clock of the newest"`
	Around   bool   `json:"around,omitempty" doc:"something beside the entries changed: the hand, the end of the lesson, handing in"`
}

// Listeners are those who want to hear of changes, of a notebook or of a class.
type Listeners struct {
	mu sync.Mutex
	by map[string]map[chan Change]string // by notebook, each with its class
	// watchers see a whole class at one practical.
	watchers map[string]map[*watcher]struct{}
}

// watcher gathers what changed in a class at a practical until it is taken: what the class
// does at its other practicals is no news to a board.
type watcher struct {
	practical string
	mu        sync.Mutex
	changed   map[string]bool // notebooks; true: something beside the entries
	Wake      chan struct{}
}

// Watch gathers the changes of a class at a practical until the context is done.
func (l *Listeners) Watch(ctx context.Context, class, practical string) *watcher {
	w := &watcher{practical: practical, changed: map[string]bool{}, Wake: make(chan struct{}, 1)}
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.watchers == nil {
		l.watchers = map[string]map[*watcher]struct{}{}
	}
	if l.watchers[class] == nil {
		l.watchers[class] = map[*watcher]struct{}{}
	}
	l.watchers[class][w] = struct{}{}
	context.AfterFunc(ctx, func() {
		l.mu.Lock()
		defer l.mu.Unlock()
		delete(l.watchers[class], w)
		if len(l.watchers[class]) == 0 {
			delete(l.watchers, class)
		}
	})
	return w
}

// Take is what changed since it was taken last.
func (w *watcher) Take() map[string]bool {
	w.mu.Lock()
	defer w.mu.Unlock()
	out := w.changed
	w.changed = map[string]bool{}
	return out
}

func (w *watcher) note(change Change) {
	w.mu.Lock()
	w.changed[change.Notebook] = w.changed[change.Notebook] || change.Around
	w.mu.Unlock()
	select {
	case w.Wake <- struct{}{}:
	default:
	}
}

func (l *Listeners) Add(ctx context.Context, id, class string) <-chan Change {
	c := make(chan Change, 1)
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.by == nil {
		l.by = map[string]map[chan Change]string{}
	}
	if l.by[id] == nil {
		l.by[id] = map[chan Change]string{}
	}
	l.by[id][c] = class
	context.AfterFunc(ctx, func() {
		l.mu.Lock()
		defer l.mu.Unlock()
		delete(l.by[id], c)
		if len(l.by[id]) == 0 {
			delete(l.by, id)
		}
	})
	return c
}

// Tell never waits: a change that was not taken yet is replaced by the newer.
func (l *Listeners) Tell(change Change, class, practical string) {
	l.mu.Lock()
	defer l.mu.Unlock()
	for c := range l.by[change.Notebook] {
		replace(c, change)
	}
	for w := range l.watchers[class] {
		if w.practical == practical {
			w.note(change)
		}
	}
}

// TellClass tells everyone in a class that something around their entries changed.
func (l *Listeners) TellClass(class string) {
	l.mu.Lock()
	defer l.mu.Unlock()
	for id, all := range l.by {
		for c, of := range all {
			if of == class {
				replace(c, Change{Notebook: id, Around: true})
			}
		}
	}
	for w := range l.watchers[class] {
		w.note(Change{Around: true})
	}
}

// replace puts a change in the place of one that was not taken yet; that something
// around changed is not lost with it.
func replace(c chan Change, change Change) {
	select {
	case before := <-c:
		change.Around = change.Around || before.Around
		change.Entries, change.Clock = max(change.Entries, before.Entries), max(change.Clock, before.Clock)
	default:
	}
	c <- change
}
