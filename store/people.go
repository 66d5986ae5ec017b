package store

import (
	"context"
	"errors"
	"time"

	"exactflask/store/db"
)

// Queries read and, inside Write, change what is kept. Where something that is
// asked for by its id is not there they return ErrNotFound.
type Queries struct{ q *db.Queries }

// Person is someone who can sign in.
type Person struct {
	ID, Username, Name, Password string // Password is its hash
	Words, Units, Theme          string
	Memberships                  []Membership
	Once                         bool // the password has to be changed
	Standing                     string
	Seen, Created                time.Time // read by Everyone only
}

// Membership is a class that a person belongs to.
type Membership struct {
	Class, Name, Term, Role, Pair string
	Archived                      bool
}

// stamp writes a time as it is kept.
func stamp(t time.Time) string { return t.UTC().Format(time.RFC3339Nano) }

// Person reads a person with the classes they belong to.
func (q Queries) Person(ctx context.Context, id string) (Person, error) {
	rows, err := q.q.PersonWithClasses(ctx, id)
	if err != nil {
		return Person{}, err
	}
	if len(rows) == 0 {
		return Person{}, ErrNotFound
	}
	p := personOf(rows[0].Person)
	for _, m := range rows {
		if m.ClassID != "" {
			p.Memberships = append(p.Memberships, Membership{m.ClassID, m.ClassName, m.Term, m.Role, m.Pair, m.Archived > 0})
		}
	}
	return p, nil
}

func personOf(r db.Person) Person {
	return Person{ID: r.ID, Username: r.Username, Name: r.Name, Password: r.Password, Words: r.Words, Units: r.Units,
		Theme: r.Theme, Once: r.Once > 0, Standing: r.Standing}
}

// PersonByUsername reads a person, without their classes.
func (q Queries) PersonByUsername(ctx context.Context, username string) (Person, error) {
	r, err := q.q.PersonByUsername(ctx, username)
	return personOf(r), found(err)
}

// Usernames are those of everyone.
func (q Queries) Usernames(ctx context.Context) ([]string, error) { return q.q.Usernames(ctx) }

// AddPerson adds a person.
func (q Queries) AddPerson(ctx context.Context, p Person, at time.Time) error {
	return q.q.AddPerson(ctx, db.AddPersonParams{ID: p.ID, Username: p.Username, Name: p.Name, Password: p.Password,
		Once: bit(p.Once), Standing: p.Standing, Created: stamp(at)})
}

func bit(b bool) int64 {
	if b {
		return 1
	}
	return 0
}

// CountPeople counts everyone who ever was here.
func (q Queries) CountPeople(ctx context.Context) (int, error) {
	n, err := q.q.CountPeople(ctx)
	return int(n), err
}

// CountAdministrators counts them.
func (q Queries) CountAdministrators(ctx context.Context) (int, error) {
	n, err := q.q.CountAdministrators(ctx)
	return int(n), err
}

// Everyone lists all people with their classes, without their passwords.
func (q Queries) Everyone(ctx context.Context) ([]Person, error) {
	rows, err := q.q.EveryPerson(ctx)
	if err != nil {
		return nil, err
	}
	roles, err := q.q.RolesOf(ctx)
	if err != nil {
		return nil, err
	}
	of := map[string][]Membership{}
	for _, r := range roles {
		of[r.PersonID] = append(of[r.PersonID], Membership{Class: r.ClassID, Name: r.ClassName, Role: r.Role})
	}
	out := make([]Person, len(rows))
	for i, r := range rows {
		out[i] = Person{ID: r.ID, Username: r.Username, Name: r.Name, Standing: r.Standing, Once: r.Once > 0,
			Seen: moment(r.Seen), Created: moment(r.Created), Memberships: of[r.ID]}
	}
	return out, nil
}

// SeePerson notes that a person was here.
func (q Queries) SeePerson(ctx context.Context, id string, at time.Time) error {
	return q.q.SeePerson(ctx, db.SeePersonParams{Seen: stamp(at), ID: id})
}

// SetName changes what a person is called.
func (q Queries) SetName(ctx context.Context, id, name string) error {
	return q.q.SetName(ctx, db.SetNameParams{Name: name, ID: id})
}

// SetStanding changes what a person may do in the installation.
func (q Queries) SetStanding(ctx context.Context, id, standing string) error {
	return q.q.SetStanding(ctx, db.SetStandingParams{Standing: standing, ID: id})
}

// TakeOut takes out what is known of a person: name, user name, password, sign-ins,
// classes, answers, reactions and drafts of their own. Their notebooks stay, without a name.
func (q Queries) TakeOut(ctx context.Context, id string, at time.Time) error {
	for _, do := range []func(context.Context, string) error{q.q.TakeOutAnswers, q.q.TakeOutReactions, q.q.TakeOutDrafts, q.q.TakeOutPictures,
		q.q.TakeOutMemberships} {
		if err := do(ctx, id); err != nil {
			return err
		}
	}
	if err := q.EndOtherSignIns(ctx, id, ""); err != nil {
		return err
	}
	return q.q.TakeOut(ctx, db.TakeOutParams{LeftOn: stamp(at), ID: id})
}

// NotebooksOf are the ids of those that a person wrote in.
func (q Queries) NotebooksOf(ctx context.Context, id string) ([]string, error) {
	return q.q.NotebooksOf(ctx, id)
}

// SetPreferences keeps a person's words, units and theme.
func (q Queries) SetPreferences(ctx context.Context, id, words, units, theme string) error {
	return q.q.SetPreferences(ctx, db.SetPreferencesParams{Words: words, Units: units, Theme: theme, ID: id})
}

// SetPassword keeps the hash of a new password; once: it has to be changed.
func (q Queries) SetPassword(ctx context.Context, id, hash string, once bool) error {
	_, err := q.q.SetPassword(ctx, db.SetPasswordParams{Password: hash, Once: bit(once), ID: id})
	return err
}

// Listed is a person as the demo's sign-in page lists them.
type Listed struct{ ID, Username, Name, Role, Class string }

// DemoPeople lists everyone with their class.
func (q Queries) DemoPeople(ctx context.Context) ([]Listed, error) {
	rows, err := q.q.DemoPeople(ctx)
	out := make([]Listed, len(rows))
	for i, r := range rows {
		out[i] = Listed{r.ID, r.Username, r.Name, r.Role, r.ClassName}
	}
	return out, err
}

// ClassByName finds a class.
func (q Queries) ClassByName(ctx context.Context, name string) (id string, err error) {
	r, err := q.q.ClassByName(ctx, name)
	return r.ID, found(err)
}

// AddClass adds a class.
func (q Queries) AddClass(ctx context.Context, id, name, term string, at time.Time) error {
	return q.q.AddClass(ctx, db.AddClassParams{ID: id, Name: name, Term: term, Created: stamp(at)})
}

// Join puts a person into a class, or changes their role there.
func (q Queries) Join(ctx context.Context, class, person, role string, at time.Time) error {
	return q.q.Join(ctx, db.JoinParams{ClassID: class, PersonID: person, Role: role, Joined: stamp(at)})
}

// NamesInClass are the names of everyone in a class, by id.
func (q Queries) NamesInClass(ctx context.Context, class string) (map[string]string, error) {
	rows, err := q.q.NamesInClass(ctx, class)
	out := make(map[string]string, len(rows))
	for _, r := range rows {
		out[r.ID] = r.Name
	}
	return out, err
}

// Classmate finds a student of a class by their user name.
func (q Queries) Classmate(ctx context.Context, class, username string) (id, name string, err error) {
	r, err := q.q.ClassmateByUsername(ctx, db.ClassmateByUsernameParams{Username: username, ClassID: class})
	return r.ID, r.Name, found(err)
}

// OwnReaction is a reaction that a person added for themselves.
type OwnReaction struct{ ID, Name, Equation string }

// OwnReactions are those of a person, the oldest first.
func (q Queries) OwnReactions(ctx context.Context, person string) ([]OwnReaction, error) {
	rows, err := q.q.OwnReactions(ctx, person)
	out := make([]OwnReaction, len(rows))
	for i, r := range rows {
		out[i] = OwnReaction(r)
	}
	return out, err
}

// CountOwnReactions counts them.
func (q Queries) CountOwnReactions(ctx context.Context, person string) (int, error) {
	n, err := q.q.CountOwnReactions(ctx, person)
	return int(n), err
}

// AddReaction keeps a person's own reaction.
func (q Queries) AddReaction(ctx context.Context, person string, r OwnReaction, at time.Time) error {
	return q.q.AddReaction(ctx, db.AddReactionParams{ID: r.ID, PersonID: person, Name: r.Name, Equation: r.Equation,
		Created: stamp(at)})
}

// DropReaction takes a person's own reaction out.
func (q Queries) DropReaction(ctx context.Context, person, id string) error {
	n, err := q.q.DropReaction(ctx, db.DropReactionParams{ID: id, PersonID: person})
	if err == nil && n == 0 {
		return ErrNotFound
	}
	return err
}

// DemoFilled notes that a file is the demo's; who comes later is not listed to be
// chosen.
func (q Queries) DemoFilled(ctx context.Context, at time.Time) error {
	return q.q.SetFact(ctx, db.SetFactParams{Name: demoFact, Value: stamp(at)})
}

// IsDemo tells whether a file is the demo's.
func (q Queries) IsDemo(ctx context.Context) (bool, error) {
	_, err := q.q.Fact(ctx, demoFact)
	if errors.Is(found(err), ErrNotFound) {
		return false, nil
	}
	return err == nil, err
}

const demoFact = "demo"
