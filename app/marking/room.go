// Package marking is what becomes of a report once it is handed in: marks, their
// release, results of a class, and the files that are taken away.
package marking

import (
	"fmt"

	lru "github.com/hashicorp/golang-lru/v2"

	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/app/practicals"
)

// Marking is the room of the markers.
type Marking struct {
	*access.Access
	practicals *practicals.Practicals
	bench      *bench.Bench
	// examined are the reports that were marked last, as they were handed in.
	examined *lru.Cache[string, *examined]
}

// maxExamined is how many reports are kept evaluated: a few classes.
const maxExamined = 250

// New is the room over the bench.
func New(p *practicals.Practicals, b *bench.Bench) (*Marking, error) {
	reports, err := lru.New[string, *examined](maxExamined)
	if err != nil {
		return nil, fmt.Errorf("making room for reports: %w", err)
	}
	return &Marking{b.Access, p, b, reports}, nil
}
