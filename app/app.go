// Package app is what people do and who may do it. Every operation takes the
// person who asks; what that person may see is decided here, before anything
// is encoded.
package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"sync"
	"time"
	"unicode/utf8"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"
	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/hashicorp/golang-lru/v2/expirable"

	"exactflask/core/experiment"
	"exactflask/core/finding"
	"exactflask/store"
	"exactflask/store/db"
)

// Errors that a caller decides on. Faults of input are *finding.Fault.
var (
	// ErrNotFound: it is not there, or not for this person. The two are not
	// told apart, so that nobody can find out what others have.
	ErrNotFound = errors.New("there is no such thing here, or it is not yours to see")
	// ErrForbidden: it is there and visible, but this is not for this role.
	ErrForbidden = errors.New("this is not for your role")
	// ErrSignIn: wrong name or password; which of them is not said.
	ErrSignIn = errors.New("user name or password is wrong")
	// ErrConflict: an id was used before for something else.
	ErrConflict = errors.New("this id was used before for something else")
)

// Role is what a person is in a class.
type Role string

// The roles.
const (
	Student    Role = "student"
	Instructor Role = "instructor"
)

// App does what people ask for. It may be used by many goroutines.
type App struct {
	store  *store.Store
	hash   *argon2id.Params
	decoy  string        // hash compared with when no such person exists
	hashes chan struct{} // limits how many password hashes are made at once
	now    func() time.Time
	// books are the notebooks used last. Only this process writes entries, and
	// each write puts the new state here while it holds writing, so what is
	// here is what the file holds.
	books   *lru.Cache[string, *book]
	writing sync.Mutex
	// people are those who asked last. The command line may change a class
	// while the server runs, so they are asked for again after freshness.
	people    *expirable.LRU[string, Person]
	listeners listeners
}

// freshness is how long a person's classes are believed without looking.
const freshness = 10 * time.Second

// maxBooks is how many notebooks are kept in memory: a large school's benches.
const maxBooks = 1000

// New returns an App over an open store. cheap passwords are for tests and
// the demo, where seven people are made at every start.
func New(s *store.Store, cheap bool) (*App, error) {
	params := *argon2id.DefaultParams
	params.Parallelism = 2
	if cheap {
		params.Memory = 8 * 1024
	}
	decoy, err := argon2id.CreateHash(uuid.NewString(), &params)
	if err != nil {
		return nil, fmt.Errorf("hashing passwords: %w", err)
	}
	books, err := lru.New[string, *book](maxBooks)
	if err != nil {
		return nil, fmt.Errorf("making room for notebooks: %w", err)
	}
	return &App{store: s, books: books, people: expirable.NewLRU[string, Person](maxBooks, nil, freshness), hash: &params, decoy: decoy, hashes: make(chan struct{}, 2), now: func() time.Time { return time.Now().UTC() }}, nil
}

// Person is someone who signed in.
type Person struct {
	ID          string       `json:"id"`
	Username    string       `json:"username"`
	Name        string       `json:"name"`
	Preferences Preferences  `json:"preferences"`
	Classes     []Membership `json:"classes"`
}

// Preferences are a person's own words, units and theme.
type Preferences struct {
	Words experiment.Words `json:"words" enum:",titre,titer" doc:"empty: as the practical says"`
	Units experiment.Units `json:"units" enum:",mL,cm3" doc:"empty: as the practical says"`
	Theme string           `json:"theme" enum:"system,light,dark"`
}

// Style is the person's own way of writing; empty parts follow the practical.
func (p Person) Style() experiment.Style {
	return experiment.Style{Words: p.Preferences.Words, Units: p.Preferences.Units}
}

// Membership is a class a person belongs to.
type Membership struct {
	Class string `json:"class" doc:"id of the class"`
	Name  string `json:"name"`
	Role  Role   `json:"role" enum:"student,instructor"`
}

// SignIn returns the person with this user name and password, or ErrSignIn.
// It takes the same time whether or not the person exists.
func (a *App) SignIn(ctx context.Context, username, password string) (Person, error) {
	if len(username) > 64 || len(password) > 256 {
		return Person{}, ErrSignIn
	}
	row, err := a.store.Read().PersonByUsername(ctx, strings.TrimSpace(username))
	hash := row.Password
	if err = store.Found(err); errors.Is(err, store.ErrNotFound) {
		hash = a.decoy
	} else if err != nil {
		return Person{}, fmt.Errorf("looking for a person: %w", err)
	}
	select {
	case a.hashes <- struct{}{}:
		defer func() { <-a.hashes }()
	case <-ctx.Done():
		return Person{}, ctx.Err()
	}
	match, err := argon2id.ComparePasswordAndHash(password, hash)
	if err != nil || !match || row.ID == "" {
		return Person{}, ErrSignIn
	}
	return a.Person(ctx, row.ID)
}

// Person returns a person by id, or ErrNotFound.
func (a *App) Person(ctx context.Context, id string) (Person, error) {
	if p, ok := a.people.Get(id); ok {
		return p, nil
	}
	p, err := a.readPerson(ctx, id)
	if err == nil {
		a.people.Add(id, p)
	}
	return p, err
}

func (a *App) readPerson(ctx context.Context, id string) (Person, error) {
	rows, err := a.store.Read().PersonWithClasses(ctx, id)
	if err != nil {
		return Person{}, fmt.Errorf("reading a person: %w", err)
	}
	if len(rows) == 0 {
		return Person{}, ErrNotFound
	}
	row := rows[0].Person
	p := Person{ID: row.ID, Username: row.Username, Name: row.Name, Classes: []Membership{},
		Preferences: Preferences{experiment.Words(row.Words), experiment.Units(row.Units), row.Theme}}
	for _, m := range rows {
		if m.ClassID != "" {
			p.Classes = append(p.Classes, Membership{m.ClassID, m.ClassName, Role(m.Role)})
		}
	}
	return p, nil
}

// SetPreferences keeps a person's words, units and theme.
func (a *App) SetPreferences(ctx context.Context, p Person, wanted Preferences) (Person, error) {
	if wanted.Words != "" && wanted.Words != experiment.WordsTitre && wanted.Words != experiment.WordsTiter {
		return Person{}, finding.Faultf("words", "the words are titre or titer; this says %q", wanted.Words)
	}
	if wanted.Units != "" && wanted.Units != experiment.UnitsML && wanted.Units != experiment.UnitsCM3 {
		return Person{}, finding.Faultf("units", "the units are mL or cm3; this says %q", wanted.Units)
	}
	if t := wanted.Theme; t != "system" && t != "light" && t != "dark" {
		return Person{}, finding.Faultf("theme", "the theme is system, light or dark; this says %q", t)
	}
	err := a.store.Write(ctx, func(q *db.Queries) error {
		return q.SetPreferences(ctx, db.SetPreferencesParams{Words: string(wanted.Words), Units: string(wanted.Units), Theme: wanted.Theme, ID: p.ID})
	})
	if err != nil {
		return Person{}, fmt.Errorf("keeping preferences: %w", err)
	}
	a.people.Remove(p.ID)
	return a.Person(ctx, p.ID)
}

// DemoPerson is someone who may be chosen on the sign-in page of the demo.
type DemoPerson struct {
	Username string `json:"username"`
	Name     string `json:"name"`
	Role     Role   `json:"role" enum:"student,instructor"`
	Class    string `json:"class"`
}

// DemoPeople lists everyone, for the sign-in page of the demo only.
func (a *App) DemoPeople(ctx context.Context) ([]DemoPerson, error) {
	rows, err := a.store.Read().DemoPeople(ctx)
	if err != nil {
		return nil, fmt.Errorf("listing people: %w", err)
	}
	out := make([]DemoPerson, len(rows))
	for i, r := range rows {
		out[i] = DemoPerson{r.Username, r.Name, Role(r.Role), r.ClassName}
	}
	return out, nil
}

// Empty reports whether nobody is in the store yet.
func (a *App) Empty(ctx context.Context) (bool, error) {
	n, err := a.store.Read().CountPeople(ctx)
	return n == 0, err
}

// AddPerson adds a person and returns the id. For the administrator at the
// command line and for the demo; no route reaches it.
func (a *App) AddPerson(ctx context.Context, username, name, password string) (string, error) {
	if err := checkUsername(username); err != nil {
		return "", err
	}
	if n := utf8.RuneCountInString(strings.TrimSpace(name)); n == 0 || n > 80 {
		return "", finding.Faultf("name", "a name has 1 to 80 characters; this has %d", n)
	}
	hash, err := a.passwordHash(password)
	if err != nil {
		return "", err
	}
	id := newID()
	return id, a.store.Write(ctx, func(q *db.Queries) error {
		if _, err := q.PersonByUsername(ctx, username); err == nil {
			return finding.Faultf("username", "the user name %q is taken; choose another", username)
		}
		return q.AddPerson(ctx, db.AddPersonParams{ID: id, Username: username, Name: strings.TrimSpace(name), Password: hash, Created: a.stamp()})
	})
}

// SetPassword gives a person a new password. For the administrator.
func (a *App) SetPassword(ctx context.Context, username, password string) error {
	hash, err := a.passwordHash(password)
	if err != nil {
		return err
	}
	return a.store.Write(ctx, func(q *db.Queries) error {
		row, err := q.PersonByUsername(ctx, username)
		if err := store.Found(err); err != nil {
			return notFound(err)
		}
		_, err = q.SetPassword(ctx, db.SetPasswordParams{Password: hash, ID: row.ID})
		return err
	})
}

func checkUsername(username string) error {
	if len(username) < 2 || len(username) > 40 {
		return finding.Faultf("username", "a user name has 2 to 40 characters; this has %d", len(username))
	}
	for _, r := range username {
		if !(r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || strings.ContainsRune(".-_", r)) {
			return finding.Faultf("username", "a user name holds small letters, digits, dot, - and _; this has %q", r)
		}
	}
	return nil
}

func (a *App) passwordHash(password string) (string, error) {
	if n := len(password); n < 8 || n > 256 {
		return "", finding.Faultf("password", "a password has 8 to 256 characters; this has %d", n)
	}
	hash, err := argon2id.CreateHash(password, a.hash)
	if err != nil {
		return "", fmt.Errorf("hashing a password: %w", err)
	}
	return hash, nil
}

// AddClass adds a class, or finds the one with this name, and returns its id.
func (a *App) AddClass(ctx context.Context, name string) (string, error) {
	if n := utf8.RuneCountInString(strings.TrimSpace(name)); n == 0 || n > 80 {
		return "", finding.Faultf("class", "the name of a class has 1 to 80 characters; this has %d", n)
	}
	id := newID()
	err := a.store.Write(ctx, func(q *db.Queries) error {
		if row, err := q.ClassByName(ctx, strings.TrimSpace(name)); err == nil {
			id = row.ID
			return nil
		}
		return q.AddClass(ctx, db.AddClassParams{ID: id, Name: strings.TrimSpace(name), Created: a.stamp()})
	})
	return id, err
}

// Join puts a person into a class with a role.
func (a *App) Join(ctx context.Context, classID, personID string, role Role) error {
	defer a.people.Remove(personID)
	return a.store.Write(ctx, func(q *db.Queries) error {
		return q.Join(ctx, db.JoinParams{ClassID: classID, PersonID: personID, Role: string(role)})
	})
}

// Assign sets a practical to a class: notebooks that are started from now on
// are under this revision, those already begun keep theirs. A revision that is
// already kept must be the same.
func (a *App) Assign(ctx context.Context, classID string, p experiment.Practical) error {
	if fault := p.Check(); fault != nil {
		return fault
	}
	text, err := json.Marshal(p)
	if err != nil {
		return fmt.Errorf("writing the practical: %w", err)
	}
	return a.store.Write(ctx, func(q *db.Queries) error {
		kept, err := q.Practical(ctx, db.PracticalParams{ID: p.ID, Revision: int64(p.Revision)})
		switch err = store.Found(err); {
		case errors.Is(err, store.ErrNotFound):
			if err := q.AddPractical(ctx, db.AddPracticalParams{ID: p.ID, Revision: int64(p.Revision), Document: string(text), Created: a.stamp()}); err != nil {
				return err
			}
		case err != nil:
			return err
		case kept != string(text):
			return fmt.Errorf("practical %s, revision %d: %w; count the revision up", p.ID, p.Revision, ErrConflict)
		}
		return q.Assign(ctx, db.AssignParams{ClassID: classID, PracticalID: p.ID, Revision: int64(p.Revision), Created: a.stamp()})
	})
}

func (a *App) stamp() string { return a.now().Format(time.RFC3339Nano) }

func newID() string { return uuid.Must(uuid.NewV7()).String() }

// notFound makes the store's "not found" the one that callers know.
func notFound(err error) error {
	if errors.Is(err, store.ErrNotFound) {
		return ErrNotFound
	}
	return err
}
