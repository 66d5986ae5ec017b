package bench

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"exactflask/app/access"
	"exactflask/core/judgement/handin"
	"exactflask/core/values/finding"
	"exactflask/store"
	"exactflask/view"
	"exactflask/wording"
)

// belong are those whose notebook it is, its student first, as far as they are in its class: who has
// left cannot be asked, and nobody waits for them.
func (a *Bench) belong(ctx context.Context, b *Book) ([]string, error) {
	members, err := a.Store.Read().Members(ctx, b.Class)
	if err != nil {
		return nil, fmt.Errorf("reading the members: %w", err)
	}
	all := []string{b.Student}
	for _, p := range b.Partners {
		all = append(all, p.ID)
	}
	return slices.DeleteFunc(all, func(id string) bool {
		_, here := access.Member(members, id)
		return !here
	}), nil
}

// agreed are those who agree that the report is handed in as it stands, in the order in which they did.
func (a *Bench) agreed(ctx context.Context, b *Book) ([]string, error) {
	agreements, err := a.Store.Read().AgreedTo(ctx, b.ID)
	if err != nil {
		return nil, fmt.Errorf("reading who agreed: %w", err)
	}
	var out []string
	for _, g := range agreements {
		if g.Entries == len(b.Entries) { // to what stands there now
			out = append(out, g.Person)
		}
	}
	return out, nil
}

// agree keeps that somebody agrees to hand a report in as it stands, and says for whom it waits.
func (a *Bench) agree(ctx context.Context, p access.Person, b *Book, awaits []string) (view.Submission, error) {
	now := a.Now()
	err := a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return q.Agree(ctx, b.ID, store.Agreement{Person: p.ID, Entries: len(b.Entries)}, now)
	})
	if err != nil {
		return view.Submission{}, err
	}
	a.Around(b)
	return view.Submission{Awaits: a.named(p, b, awaits), At: now, By: p.Name, Entries: len(b.Entries)}, nil
}

// awaited are those who have to agree before somebody hands the report in as it stands.
func (a *Bench) awaited(ctx context.Context, b *Book, asks string) ([]string, error) {
	if len(b.Partners) == 0 {
		return nil, nil
	}
	agreed, err := a.agreed(ctx, b)
	if err != nil {
		return nil, err
	}
	belong, err := a.belong(ctx, b)
	if err != nil {
		return nil, err
	}
	var wrote []string
	for _, e := range b.Entries {
		if !slices.Contains(wrote, e.Author) {
			wrote = append(wrote, e.Author)
		}
	}
	return handin.Together(b.Practical.Report.Either, belong, wrote, agreed, asks), nil
}

// named are the names of some whose notebook it is, for a reader.
func (a *Bench) named(p access.Person, b *Book, who []string) []string {
	out := make([]string, len(who))
	for i, id := range who {
		if id == b.Student {
			out[i] = access.NameFor(p, b.StudentName)
		}
		for _, partner := range b.Partners {
			if id == partner.ID {
				out[i] = access.NameFor(p, partner.Name)
			}
		}
	}
	return out
}

// HandingIn says who agrees to hand a report in, and for whom it waits.
type HandingIn struct {
	Agreed []string `json:"agreed" doc:"names of those who agree to what stands there now"`
	Awaits []string `json:"awaits" doc:"names of those who have to agree"`
	Mine   bool     `json:"mine,omitempty" doc:"the reader agreed"`
}

// handingIn is that of a notebook; nil where nobody asked, or something was written since.
func (a *Bench) handingIn(ctx context.Context, p access.Person, b *Book) (*HandingIn, error) {
	if _, in := b.HandedIn(); in || len(b.Partners) == 0 || b.Practical.Report.Either {
		return nil, nil
	}
	agreed, err := a.agreed(ctx, b)
	if err != nil {
		return nil, err
	}
	if len(agreed) == 0 {
		return nil, nil
	}
	awaits, err := a.awaited(ctx, b, agreed[0])
	return &HandingIn{a.named(p, b, agreed), a.named(p, b, awaits), slices.Contains(agreed, p.ID)}, err
}

// mayTakeBack tells whether those who handed a report in may take it back: it is not due yet, and
// nobody has begun to mark it.
func (a *Bench) mayTakeBack(ctx context.Context, o Opened) (bool, error) {
	last, in := o.HandedIn()
	if !in || !o.write || o.Role.Teaches() {
		return false, nil
	}
	times, err := a.timesFor(ctx, o)
	if err != nil || !times.Due.IsZero() && !a.Now().Before(times.Due) {
		return false, err
	}
	begun, err := a.Store.Read().Awarded(ctx, o.ID, last.Version)
	return !begun, err
}

// TakeBack takes the report that was handed in back, for another version; the version stays.
func (a *Bench) TakeBack(ctx context.Context, p access.Person, id string, version int) error {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return err
	}
	if !o.write {
		return fmt.Errorf("taking a report back: %w", o.refused)
	}
	if o.Role.Teaches() {
		return fmt.Errorf("taking another's report back: %w", access.ErrForbidden)
	}
	unlock := a.Locks.Lock(id)
	defer unlock()
	if o.Book, err = a.readLocked(ctx, id); err != nil {
		return err
	}
	if last, in := o.HandedIn(); !in || last.Version != version {
		return NotHandedIn.Fault("version")
	}
	may, err := a.mayTakeBack(ctx, o)
	if err != nil {
		return err
	}
	if !may {
		return noTakingBack.Fault("version")
	}
	return a.returned(ctx, p, o.Book, version, a.tookBack(p))
}

var (
	noTakingBack = finding.Declare("app.no-taking-back")
	takenBack    = finding.Declare("app.taken-back")
)

// tookBack is the reason that stands with a version that was taken back.
func (a *Bench) tookBack(p access.Person) string {
	return wording.For(p.Style()).Say(takenBack.Message())
}

// Part takes a partner out of one's own notebook; what they wrote stays.
func (a *Bench) Part(ctx context.Context, p access.Person, id, username string) (Notebook, error) {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return Notebook{}, err
	}
	if !access.May(p, access.ShareNotebook, o.thing()) {
		return Notebook{}, fmt.Errorf("parting in another's notebook: %w", access.ErrForbidden)
	}
	if err := a.part(ctx, o, username); err != nil {
		return Notebook{}, err
	}
	return a.Notebook(ctx, p, id)
}

func (a *Bench) part(ctx context.Context, o Opened, name string) error {
	unlock := a.Locks.Lock(o.ID)
	defer unlock()
	defer a.books.Remove(o.ID)
	i := slices.IndexFunc(o.Partners, func(r store.Partner) bool { return r.Name == name })
	if i < 0 {
		return noPartner.Fault("name", finding.Text(name))
	}
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		_, err := q.DropPartner(ctx, o.ID, o.Partners[i].ID)
		return errors.Join(err, q.EndAgreements(ctx, o.ID))
	})
}

var noPartner = finding.Declare("app.no-partner", "name")
