package app

import (
	"context"
	"errors"
	"fmt"
	"time"

	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/app/marking"
	"exactflask/app/people"
	"exactflask/formats"
	"exactflask/store"
	"exactflask/view"
)

// PersonData is all that is held about a person, but for their password's hash.
type PersonData struct {
	Made      time.Time           `json:"made"`
	Person    access.Person       `json:"person"`
	SignIns   []people.SignedIn   `json:"signIns"`
	Answers   []GivenAnswer       `json:"answers" doc:"to questions before the laboratory"`
	Reactions []store.OwnReaction `json:"reactions" doc:"added to the catalogue for themselves"`
	Acts      []access.ActLine    `json:"acts" doc:"what they changed, and what was changed of them"`
	Notebooks []HeldNotebook      `json:"notebooks" doc:"those they wrote in"`
}

// GivenAnswer is an answer to a question before the laboratory.
type GivenAnswer struct {
	Practical string `json:"practical"`
	Code      string `json:"code"`
	Answer    string `json:"answer"`
	Right     bool   `json:"right"`
	Tries     int    `json:"tries"`
}

// HeldNotebook is a notebook with who wrote in it: each entry names its author.
type HeldNotebook struct {
	ID       string            `json:"id"`
	Class    string            `json:"class"`
	Own      bool              `json:"own" doc:"false: a classmate's, in which they wrote"`
	Document formats.Document  `json:"document" doc:"of a classmate's notebook only the entries of this person"`
	HandedIn []view.Submission `json:"handedIn" doc:"every version of its report, with its receipt"`
	Marks    *marking.OwnMarks `json:"marks,omitempty" doc:"of its report, once they are released, with what was asked and answered"`
	Pictures []HeldPicture     `json:"pictures" doc:"that this person put into the report"`
}

// HeldPicture is a picture with its content.
type HeldPicture struct {
	Hash    string `json:"hash"`
	Kind    string `json:"kind"`
	Content []byte `json:"content"`
}

// OwnData is all that is held about the person who asks.
func (a *App) OwnData(ctx context.Context, p access.Person) (PersonData, error) {
	return a.dataOf(ctx, p, p)
}

// DataOf is all that is held about anybody, for an administrator, who gives it to
// that person. It is noted in the log.
func (a *App) DataOf(ctx context.Context, p access.Person, person string) (PersonData, error) {
	if !access.May(p, access.Administrate, access.Thing{}) {
		return PersonData{}, access.ErrForbidden
	}
	of, err := a.Person(ctx, person)
	if err != nil {
		return PersonData{}, err
	}
	err = a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return a.Did(ctx, q, access.ActDataGiven, p, "", person, "")
	})
	if err != nil {
		return PersonData{}, fmt.Errorf("noting an act: %w", err)
	}
	return a.dataOf(ctx, p, of)
}

func (a *App) dataOf(ctx context.Context, reader, of access.Person) (PersonData, error) {
	q := a.Store.Read()
	out := PersonData{Made: a.Now(), Person: of, Answers: []GivenAnswer{}, Notebooks: []HeldNotebook{}}
	var err error
	if out.SignIns, err = a.People.SignIns(ctx, of, ""); err != nil {
		return out, err
	}
	answers, err := q.ExerciseAnswersOf(ctx, of.ID)
	if err != nil {
		return out, fmt.Errorf("reading answers: %w", err)
	}
	for _, g := range answers {
		out.Answers = append(out.Answers, GivenAnswer{g.Practical, g.Code, g.Answer, g.Right, g.Tries})
	}
	if out.Reactions, err = q.OwnReactions(ctx, of.ID); err != nil {
		return out, fmt.Errorf("reading reactions: %w", err)
	}
	kept, err := q.ActsAbout(ctx, of.ID)
	if err != nil {
		return out, fmt.Errorf("reading the log: %w", err)
	}
	out.Acts = access.ActLines(kept, reader)
	ids, err := q.NotebooksOf(ctx, of.ID)
	if err != nil {
		return out, fmt.Errorf("looking for notebooks: %w", err)
	}
	pictures, err := q.PicturesOf(ctx, of.ID)
	if err != nil {
		return out, fmt.Errorf("reading pictures: %w", err)
	}
	for _, id := range ids {
		b, err := a.Bench.Read(ctx, id)
		if err != nil {
			a.Log("a notebook is left out of a person's data: it cannot be read", "notebook", id, "err", err)
			continue
		}
		held, err := a.held(ctx, of, b)
		if err != nil {
			return out, err
		}
		for _, picture := range pictures[id] {
			held.Pictures = append(held.Pictures, HeldPicture{picture.Hash, picture.Kind, picture.Content})
		}
		out.Notebooks = append(out.Notebooks, held)
	}
	return out, nil
}

// held is a notebook as data of a person who wrote in it: the practical as they may
// see it, and of a classmate's notebook only what they wrote themselves.
func (a *App) held(ctx context.Context, of access.Person, b *bench.Book) (HeldNotebook, error) {
	o := bench.Opened{Book: b, Role: of.RoleIn(b.Class)}
	if o.Role == "" {
		o.Role = access.Student // has left the class
	}
	granted, err := o.GrantedSafely(a.Log)
	if err != nil {
		return HeldNotebook{}, err
	}
	shown, err := a.Practicals.Seen(o.Ready, o.Role, granted)
	if err != nil {
		return HeldNotebook{}, err
	}
	out := HeldNotebook{ID: b.ID, Class: b.ClassName, Own: b.Student == of.ID, HandedIn: []view.Submission{}, Pictures: []HeldPicture{}}
	for _, s := range b.Handed {
		if out.Own || s.Person == of.ID {
			out.HandedIn = append(out.HandedIn, bench.SubmissionOf(of, s))
		}
	}
	if out.Own && b.IsReleased() {
		switch marks, err := a.Marking.Marks(ctx, of, b.ID); {
		case err == nil:
			out.Marks = &marks
		case !errors.Is(err, access.ErrNotFound): // who has left the class asks its instructor
			return out, err
		}
	}
	entries := b.Entries
	if !out.Own {
		entries = nil
		for _, e := range b.Entries {
			if e.Author == of.ID {
				entries = append(entries, e)
			}
		}
	}
	out.Document = formats.New(shown.Practical, entries, nil)
	return out, nil
}
