// Package people is accounts: who may sign in, with which password, and what they may
// do in the whole installation.
package people

import (
	"fmt"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"
	"github.com/hashicorp/golang-lru/v2/expirable"

	"exactflask/app/access"
	"exactflask/store"
)

// People is the room of the accounts.
type People struct {
	*access.Access
	hash   *argon2id.Params
	decoy  string        // hash compared with when no such person exists
	hashes chan struct{} // limits how many password hashes are made at once
	// signIns are those used last; ended ones are taken out at once.
	signIns *expirable.LRU[string, store.SignIn]
	// unwritten are those that the disk had no room for.
	unwritten *expirable.LRU[string, store.SignIn]
	setup     string // what the first person shows (SetupToken)
}

// maxSignIns is how many sign-ins are remembered.
const maxSignIns = 10_000

// New is the room over what all share. cheap passwords are for tests and the demo.
func New(a *access.Access, cheap bool) (*People, error) {
	params := *argon2id.DefaultParams
	params.Parallelism = 2
	if cheap {
		params.Memory = 8 * 1024
	}
	decoy, err := argon2id.CreateHash(uuid.NewString(), &params)
	if err != nil {
		return nil, fmt.Errorf("hashing passwords: %w", err)
	}
	return &People{Access: a, hash: &params, decoy: decoy, hashes: make(chan struct{}, 2),
		signIns:   expirable.NewLRU[string, store.SignIn](maxSignIns, nil, access.Freshness),
		unwritten: expirable.NewLRU[string, store.SignIn](maxSignIns, nil, Idle)}, nil
}
