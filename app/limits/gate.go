package limits

import (
	"context"
	"sync"

	"golang.org/x/sync/semaphore"
)

// AtOnce is how many costly answers (files, archives, simulations) are worked on at the same time:
// of the whole program, so that benches always have a processor to write on.
const AtOnce = 2

// Gate lets work in one at a time for each person, and what is costly AtOnce in all, in the order in
// which it came. Who waits holds nothing, and goes with their request.
type Gate struct {
	all     *semaphore.Weighted
	mutex   sync.Mutex
	persons map[string]*waiting
}

// waiting is one person's place, and how many requests stand for it.
type waiting struct {
	place *semaphore.Weighted
	count int
}

// NewGate is a gate that nobody stands at.
func NewGate() *Gate {
	return &Gate{all: semaphore.NewWeighted(AtOnce), persons: map[string]*waiting{}}
}

// Enter waits until a person's work may begin; leave is called when it is done. The error is that of
// the context.
func (g *Gate) Enter(ctx context.Context, person string, costly bool) (leave func(), err error) {
	g.mutex.Lock()
	w := g.persons[person]
	if w == nil {
		w = &waiting{place: semaphore.NewWeighted(1)}
		g.persons[person] = w
	}
	w.count++
	g.mutex.Unlock()
	gone := func() {
		g.mutex.Lock()
		defer g.mutex.Unlock()
		if w.count--; w.count == 0 {
			delete(g.persons, person)
		}
	}
	if err := w.place.Acquire(ctx, 1); err != nil {
		gone()
		return nil, err
	}
	part := int64(0)
	if costly {
		part = 1
	}
	if err := g.all.Acquire(ctx, part); err != nil {
		w.place.Release(1)
		gone()
		return nil, err
	}
	return func() {
		g.all.Release(part)
		w.place.Release(1)
		gone()
	}, nil
}
