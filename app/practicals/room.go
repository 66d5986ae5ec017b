// Package practicals is what is set to a class: its practicals with their revisions,
// times, unknowns and pairs, the library they come from, the rules of the school, and the
// catalogue of reactions.
package practicals

import (
	"fmt"

	lru "github.com/hashicorp/golang-lru/v2"

	"exactflask/app/access"
	"exactflask/core/record/practical"
)

// Practicals is the room of the practicals.
type Practicals struct {
	*access.Access
	// checked are those used last, ready; a revision is never changed.
	checked *lru.Cache[string, *practical.Ready]
}

// maxChecked is how many practicals are kept ready.
const maxChecked = 1000

// New is the room over what all share.
func New(a *access.Access) (*Practicals, error) {
	checked, err := lru.New[string, *practical.Ready](maxChecked)
	if err != nil {
		return nil, fmt.Errorf("making room for practicals: %w", err)
	}
	return &Practicals{a, checked}, nil
}
