package bench

import (
	"sync"

	"github.com/hashicorp/golang-lru/v2/simplelru"
)

// How much of the notebooks that were used last is kept in memory: a large school's
// benches at once, and not more than this many bytes.
const (
	maxBooks  = 1000
	maxMemory = 64 << 20
)

// What a notebook takes in memory, about: measured with those of a thousand benches.
const (
	ofBook  = 4 << 10
	ofEntry = 350
)

// books are the notebooks used last.
type books struct {
	mu   sync.Mutex
	kept *simplelru.LRU[string, *Book]
	size int
}

func newBooks() (*books, error) {
	b := &books{}
	var err error
	b.kept, err = simplelru.NewLRU(maxBooks, func(_ string, old *Book) { b.size -= old.memory() })
	return b, err
}

func (b *books) Get(id string) (*Book, bool) {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.kept.Get(id)
}

// Peek is Get for who only looks: it is not used by that.
func (b *books) Peek(id string) (*Book, bool) {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.kept.Peek(id)
}

func (b *books) Add(id string, now *Book) {
	b.mu.Lock()
	defer b.mu.Unlock()
	b.kept.Remove(id)
	b.kept.Add(id, now)
	b.size += now.memory()
	for b.size > maxMemory && b.kept.Len() > 1 {
		b.kept.RemoveOldest()
	}
}

func (b *books) Remove(id string) {
	b.mu.Lock()
	defer b.mu.Unlock()
	b.kept.Remove(id)
}

func (b *Book) memory() int { return ofBook + ofEntry*len(b.Entries) }
