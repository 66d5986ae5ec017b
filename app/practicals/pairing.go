package practicals

import (
	"context"
	"errors"
	"fmt"

	"exactflask/app/access"
	"exactflask/core/practice/dealing"
	"exactflask/core/values/finding"
	"exactflask/store"
)

// Pairing says who works with whom in a practical.
type Pairing string

// The choices: the pairs of the class, everyone alone, pairs of the practical's own.
const (
	ClassPairs Pairing = ""
	Alone      Pairing = "alone"
	OwnPairs   Pairing = "own"
)

var notAPair = finding.Declare("app.not-a-pair")

// PartnersIn are who works with whom in a practical, by person.
func PartnersIn(ctx context.Context, q store.Queries, class, id string, members []store.Member) (map[string]string, error) {
	pairing, own, err := q.Pairing(ctx, class, id)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, fmt.Errorf("reading pairs: %w", err)
	}
	out := map[string]string{}
	for _, m := range members {
		switch Pairing(pairing) {
		case Alone:
		case OwnPairs:
			if other, ok := access.Member(members, own[m.ID]); ok {
				out[m.ID] = other.ID
			}
		default:
			for _, other := range members {
				if m.Pair != "" && other.Pair == m.Pair && other.ID != m.ID {
					out[m.ID] = other.ID
				}
			}
		}
	}
	return out, nil
}

// checkPairs returns the pairs of a practical, each under both; each person is in one at
// most.
// Pair is who works with whom once one of a class takes another; it keeps nothing:
// SetSettings does.
func (a *Practicals) Pair(p access.Person, class string, pairs map[string]string, person, partner string) (map[string]string, error) {
	if err := access.Allowed(p, access.AssignPractical, class); err != nil {
		return nil, err
	}
	return dealing.Paired(pairs, person, partner), nil
}

func checkPairs(wanted map[string]string, members []store.Member) (map[string]string, error) {
	out := map[string]string{}
	for person, partner := range wanted {
		if partner == "" {
			continue
		}
		one, here := access.Member(members, person)
		other, there := access.Member(members, partner)
		if !here || !there || person == partner || access.Role(one.Role) != access.Student || access.Role(other.Role) != access.Student {
			return nil, notAPair.Fault("pairs")
		}
		for _, pair := range [][2]string{{person, partner}, {partner, person}} {
			if had, taken := out[pair[0]]; taken && had != pair[1] {
				return nil, notAPair.Fault("pairs")
			}
			out[pair[0]] = pair[1]
		}
	}
	return out, nil
}
