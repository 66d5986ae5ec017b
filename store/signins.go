package store

import (
	"context"
	"fmt"
	"time"

	"exactflask/store/db"
)

// SignIn is one sign-in of a person that has not ended.
type SignIn struct {
	ID, Person, Agent string
	Began, Seen       time.Time
}

func signInOf(r db.SignIn) (SignIn, error) {
	began, err := time.Parse(time.RFC3339Nano, r.Began)
	if err != nil {
		return SignIn{}, fmt.Errorf("sign-in %s: %w", r.ID, err)
	}
	seen, err := time.Parse(time.RFC3339Nano, r.Seen)
	return SignIn{r.ID, r.PersonID, r.Agent, began, seen}, err
}

// AddSignIn keeps a sign-in.
func (q Queries) AddSignIn(ctx context.Context, s SignIn) error {
	return q.q.AddSignIn(ctx, db.AddSignInParams{ID: s.ID, PersonID: s.Person, Agent: s.Agent, Began: stamp(s.Began), Seen: stamp(s.Seen)})
}

// SignIn reads a sign-in.
func (q Queries) SignIn(ctx context.Context, id string) (SignIn, error) {
	r, err := q.q.SignIn(ctx, id)
	if err != nil {
		return SignIn{}, found(err)
	}
	return signInOf(r)
}

// SignInsOf are those of a person, the one used last first.
func (q Queries) SignInsOf(ctx context.Context, person string) ([]SignIn, error) {
	rows, err := q.q.SignInsOf(ctx, person)
	if err != nil {
		return nil, err
	}
	out := make([]SignIn, len(rows))
	for i, r := range rows {
		if out[i], err = signInOf(r); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// SeeSignIn notes that a sign-in was used.
func (q Queries) SeeSignIn(ctx context.Context, id string, at time.Time) error {
	return q.q.SeeSignIn(ctx, db.SeeSignInParams{Seen: stamp(at), ID: id})
}

// EndSignIn ends one of a person's sign-ins.
func (q Queries) EndSignIn(ctx context.Context, id, person string) error {
	n, err := q.q.EndSignIn(ctx, db.EndSignInParams{ID: id, PersonID: person})
	if err == nil && n == 0 {
		return ErrNotFound
	}
	return err
}

// EndOtherSignIns ends all of a person's sign-ins but one; all where that is "".
func (q Queries) EndOtherSignIns(ctx context.Context, person, but string) error {
	return q.q.EndOtherSignIns(ctx, db.EndOtherSignInsParams{PersonID: person, ID: but})
}

// EndOldSignIns ends those that were used last before a time.
func (q Queries) EndOldSignIns(ctx context.Context, before time.Time) error {
	return q.q.EndOldSignIns(ctx, stamp(before))
}
