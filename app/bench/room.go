// Package bench is what goes on in the laboratory: notebooks and what is written in
// them, the probe, hands and the clock of a lesson, the board, the shelf, comments beside
// entries, and handing in.
package bench

import (
	"fmt"
	"sync"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/hashicorp/golang-lru/v2/expirable"

	"exactflask/app/access"
	"exactflask/app/classes"
	"exactflask/app/practicals"
)

// Bench is the room of the notebooks.
type Bench struct {
	*access.Access
	classes    *classes.Classes
	practicals *practicals.Practicals
	// books are the notebooks used last. Only this process writes entries, and
	// each write puts the new state here while it holds the notebook's lock, so
	// what is here is what the file holds.
	books *books
	// shown are the sheets that readers were sent last, by their prints.
	shown *lru.Cache[string, shown]
	// quotas are what those who wrote last may still write.
	quotas *expirable.LRU[string, quota]
	// probes are those that are joined to notebooks; probing guards joining and parting.
	probes  *lru.Cache[string, *liveProbe]
	probing sync.Mutex
}

// New is the room over the classes and their practicals.
func New(a *access.Access, c *classes.Classes, p *practicals.Practicals) (*Bench, error) {
	books, err := newBooks()
	if err != nil {
		return nil, fmt.Errorf("making room for notebooks: %w", err)
	}
	sheets, err := lru.New[string, shown](2 * maxBooks)
	if err != nil {
		return nil, fmt.Errorf("making room for sheets: %w", err)
	}
	probes, err := lru.New[string, *liveProbe](maxProbes)
	if err != nil {
		return nil, fmt.Errorf("making room for probes: %w", err)
	}
	a.Forgotten = books.Remove
	return &Bench{Access: a, classes: c, practicals: p, books: books, shown: sheets, probes: probes,
		quotas: expirable.NewLRU[string, quota](10*maxBooks, nil, time.Hour)}, nil
}
