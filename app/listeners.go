package app

import (
	"context"
	"sync"
)

// Change says that a notebook has more entries now.
type Change struct {
	Notebook string `json:"notebook"`
	Entries  int    `json:"entries" doc:"how many there are now"`
	Clock    int64  `json:"clock" doc:"logical clock of the newest"`
}

// listeners are those who want to hear of changes, by notebook or by class.
type listeners struct {
	mu sync.Mutex
	by map[string]map[chan Change]struct{}
}

func (l *listeners) add(ctx context.Context, id string) <-chan Change {
	c := make(chan Change, 1)
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.by == nil {
		l.by = map[string]map[chan Change]struct{}{}
	}
	if l.by[id] == nil {
		l.by[id] = map[chan Change]struct{}{}
	}
	l.by[id][c] = struct{}{}
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

// tell never waits: a change that was not taken yet is replaced by the newer.
func (l *listeners) tell(change Change, ids ...string) {
	l.mu.Lock()
	defer l.mu.Unlock()
	for _, id := range ids {
		for c := range l.by[id] {
			select {
			case <-c:
			default:
			}
			c <- change
		}
	}
}
