package store

import (
	"context"
	"time"

	"exactflask/store/db"
)

// Times are when a practical is seen, due, and taken late until; zero: always.
type Times struct{ Opens, Due, Late time.Time }

func stampOrNone(t time.Time) string {
	if t.IsZero() {
		return ""
	}
	return stamp(t)
}

// SetTimes changes the times of a practical that is set to a class.
func (q Queries) SetTimes(ctx context.Context, class, practical string, t Times) error {
	n, err := q.q.SetTimes(ctx, db.SetTimesParams{Opens: stampOrNone(t.Opens), Due: stampOrNone(t.Due), Late: stampOrNone(t.Late),
		ClassID: class, PracticalID: practical})
	if err == nil && n == 0 {
		return ErrNotFound
	}
	return err
}

// Unassign takes a practical from a class. Notebooks of it stay.
func (q Queries) Unassign(ctx context.Context, class, practical string) error {
	n, err := q.q.Unassign(ctx, db.UnassignParams{ClassID: class, PracticalID: practical})
	if err == nil && n == 0 {
		return ErrNotFound
	}
	return err
}

// Unknown is a sample whose true value is known to the instructor.
type Unknown struct{ Code, Value string } // Value in the unit of the answer; empty where it is not known

// Unknowns are those of a practical in a class.
func (q Queries) Unknowns(ctx context.Context, class, practical string) ([]Unknown, error) {
	rows, err := q.q.Unknowns(ctx, db.UnknownsParams{ClassID: class, PracticalID: practical})
	out := make([]Unknown, len(rows))
	for i, r := range rows {
		out[i] = Unknown{r.Code, r.Value}
	}
	return out, err
}

// SetUnknowns keeps the unknowns of a practical in a class, and who has which, by
// the ids of people, in the place of those before.
func (q Queries) SetUnknowns(ctx context.Context, class, practical string, unknowns []Unknown, deals map[string]string) error {
	if err := q.q.DropUnknowns(ctx, db.DropUnknownsParams{ClassID: class, PracticalID: practical}); err != nil {
		return err
	}
	if err := q.q.DropDeals(ctx, db.DropDealsParams{ClassID: class, PracticalID: practical}); err != nil {
		return err
	}
	for _, u := range unknowns {
		if err := q.q.AddUnknown(ctx, db.AddUnknownParams{ClassID: class, PracticalID: practical, Code: u.Code, Value: u.Value}); err != nil {
			return err
		}
	}
	for person, code := range deals {
		if err := q.q.AddDeal(ctx, db.AddDealParams{ClassID: class, PracticalID: practical, PersonID: person, Code: code}); err != nil {
			return err
		}
	}
	return nil
}

// Deals are the codes that people were given, by their ids.
func (q Queries) Deals(ctx context.Context, class, practical string) (map[string]string, error) {
	rows, err := q.q.Deals(ctx, db.DealsParams{ClassID: class, PracticalID: practical})
	out := make(map[string]string, len(rows))
	for _, r := range rows {
		out[r.PersonID] = r.Code
	}
	return out, err
}

// UnknownOf is the unknown that a person was given.
func (q Queries) UnknownOf(ctx context.Context, class, practical, person string) (Unknown, error) {
	r, err := q.q.UnknownOf(ctx, db.UnknownOfParams{ClassID: class, PracticalID: practical, PersonID: person})
	return Unknown{r.Code, r.Value}, found(err)
}

// Begun is a notebook that was begun, and under which revision.
type Begun struct {
	Notebook, Student, Name string
	Revision                int
}

// Begun are the notebooks of a practical in a class.
func (q Queries) Begun(ctx context.Context, class, practical string) ([]Begun, error) {
	rows, err := q.q.Begun(ctx, db.BegunParams{ClassID: class, PracticalID: practical})
	out := make([]Begun, len(rows))
	for i, r := range rows {
		out[i] = Begun{r.ID, r.StudentID, r.Name, int(r.Revision)}
	}
	return out, err
}

// MoveToRevision puts a notebook under another revision of its practical.
func (q Queries) MoveToRevision(ctx context.Context, class, practical, notebook string, revision int) error {
	n, err := q.q.MoveToRevision(ctx, db.MoveToRevisionParams{Revision: int64(revision), ID: notebook, ClassID: class, PracticalID: practical})
	if err == nil && n == 0 {
		return ErrNotFound
	}
	if err != nil {
		return err
	}
	return q.q.DropSummary(ctx, notebook)
}

// Draft is a practical that is being written, half done.
type Draft struct {
	Document string
	Saved    time.Time
}

// KeepDraft keeps a person's draft, in the place of the one before.
func (q Queries) KeepDraft(ctx context.Context, person, class, name, document string, at time.Time) error {
	return q.q.KeepDraft(ctx, db.KeepDraftParams{PersonID: person, ClassID: class, Name: name, Document: document, Saved: stamp(at)})
}

// Draft reads a person's draft.
func (q Queries) Draft(ctx context.Context, person, class, name string) (Draft, error) {
	r, err := q.q.Draft(ctx, db.DraftParams{PersonID: person, ClassID: class, Name: name})
	return Draft{r.Document, moment(r.Saved)}, found(err)
}

// CountDrafts counts those of a person.
func (q Queries) CountDrafts(ctx context.Context, person string) (int, error) {
	n, err := q.q.CountDrafts(ctx, person)
	return int(n), err
}

// DropDraft forgets a person's draft.
func (q Queries) DropDraft(ctx context.Context, person, class, name string) error {
	return q.q.DropDraft(ctx, db.DropDraftParams{PersonID: person, ClassID: class, Name: name})
}

// Pairing is who works with whom in a practical: the pairs of the class (empty), everyone
// alone, or pairs of its own, each under both.
func (q Queries) Pairing(ctx context.Context, class, practical string) (pairing string, pairs map[string]string, err error) {
	pairs = map[string]string{}
	if pairing, err = q.q.Pairing(ctx, db.PairingParams{ClassID: class, PracticalID: practical}); err != nil {
		return "", pairs, found(err)
	}
	rows, err := q.q.Pairs(ctx, db.PairsParams{ClassID: class, PracticalID: practical})
	for _, r := range rows {
		pairs[r.PersonID] = r.PartnerID
	}
	return pairing, pairs, err
}

// SetPairing keeps who works with whom in a practical.
func (q Queries) SetPairing(ctx context.Context, class, practical, pairing string, pairs map[string]string) error {
	if err := q.q.SetPairing(ctx, db.SetPairingParams{Pairing: pairing, ClassID: class, PracticalID: practical}); err != nil {
		return err
	}
	if err := q.q.DropPairs(ctx, db.DropPairsParams{ClassID: class, PracticalID: practical}); err != nil {
		return err
	}
	for person, partner := range pairs {
		if err := q.q.AddPair(ctx, db.AddPairParams{ClassID: class, PracticalID: practical, PersonID: person, PartnerID: partner}); err != nil {
			return err
		}
	}
	return nil
}
