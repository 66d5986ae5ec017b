package app

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"unicode/utf8"

	"github.com/alexedwards/argon2id"

	"exactflask/core/finding"
	"exactflask/core/practical"
	"exactflask/store"
)

var (
	badPreference  = finding.Declare("app.preference", "given")
	nameLength     = finding.Declare("app.name-length", "length")
	nameTaken      = finding.Declare("app.name-taken", "username")
	noUser         = finding.Declare("app.no-user", "username")
	userLength     = finding.Declare("app.username-length", "length")
	userSign       = finding.Declare("app.username-sign", "sign")
	passwordLength = finding.Declare("app.password-length", "length")
	classLength    = finding.Declare("app.class-length", "length")
)

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
	Words practical.Words `json:"words" enum:",titre,titer" doc:"empty: as the practical says"`
	Units practical.Units `json:"units" enum:",mL,cm3" doc:"empty: as the practical says"`
	Theme string          `json:"theme" enum:"system,light,dark"`
}

// Style is the person's own way of writing; empty parts follow the practical.
func (p Person) Style() practical.Style {
	return practical.Style{Words: p.Preferences.Words, Units: p.Preferences.Units}
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
	if errors.Is(err, store.ErrNotFound) {
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
	row, err := a.store.Read().Person(ctx, id)
	if err != nil {
		return Person{}, notFound(err)
	}
	p := Person{ID: row.ID, Username: row.Username, Name: row.Name, Classes: []Membership{},
		Preferences: Preferences{practical.Words(row.Words), practical.Units(row.Units), row.Theme}}
	for _, m := range row.Memberships {
		p.Classes = append(p.Classes, Membership{m.Class, m.Name, Role(m.Role)})
	}
	return p, nil
}

// SetPreferences keeps a person's words, units and theme.
func (a *App) SetPreferences(ctx context.Context, p Person, wanted Preferences) (Person, error) {
	if wanted.Words != "" && !wanted.Words.Known() {
		return Person{}, badPreference.Fault("words", finding.Text(string(wanted.Words)))
	}
	if wanted.Units != "" && !wanted.Units.Known() {
		return Person{}, badPreference.Fault("units", finding.Text(string(wanted.Units)))
	}
	if t := wanted.Theme; t != "system" && t != "light" && t != "dark" {
		return Person{}, badPreference.Fault("theme", finding.Text(t))
	}
	err := a.store.Write(ctx, func(q store.Queries) error {
		return q.SetPreferences(ctx, p.ID, string(wanted.Words), string(wanted.Units), wanted.Theme)
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
		out[i] = DemoPerson{r.Username, r.Name, Role(r.Role), r.Class}
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
		return "", nameLength.Fault("name", finding.Count(n))
	}
	hash, err := a.passwordHash(password)
	if err != nil {
		return "", err
	}
	id := newID()
	return id, a.store.Write(ctx, func(q store.Queries) error {
		if _, err := q.PersonByUsername(ctx, username); err == nil {
			return nameTaken.Fault("username", finding.Text(username))
		}
		return q.AddPerson(ctx, store.Person{ID: id, Username: username, Name: strings.TrimSpace(name), Password: hash}, a.now())
	})
}

// SetPassword gives a person a new password. For the administrator.
func (a *App) SetPassword(ctx context.Context, username, password string) error {
	hash, err := a.passwordHash(password)
	if err != nil {
		return err
	}
	return a.store.Write(ctx, func(q store.Queries) error {
		row, err := q.PersonByUsername(ctx, username)
		if errors.Is(err, store.ErrNotFound) {
			return noUser.Fault("username", finding.Text(username))
		}
		if err != nil {
			return err
		}
		return q.SetPassword(ctx, row.ID, hash)
	})
}

func checkUsername(username string) error {
	if len(username) < 2 || len(username) > 40 {
		return userLength.Fault("username", finding.Count(len(username)))
	}
	for _, r := range username {
		if !(r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || strings.ContainsRune(".-_", r)) {
			return userSign.Fault("username", finding.Text(string(r)))
		}
	}
	return nil
}

func (a *App) passwordHash(password string) (string, error) {
	if n := len(password); n < 8 || n > 256 {
		return "", passwordLength.Fault("password", finding.Count(n))
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
		return "", classLength.Fault("class", finding.Count(n))
	}
	id := newID()
	err := a.store.Write(ctx, func(q store.Queries) error {
		if known, err := q.ClassByName(ctx, strings.TrimSpace(name)); err == nil {
			id = known
			return nil
		}
		return q.AddClass(ctx, id, strings.TrimSpace(name), a.now())
	})
	return id, err
}

// Join puts a person into a class with a role.
func (a *App) Join(ctx context.Context, classID, personID string, role Role) error {
	defer a.people.Remove(personID)
	return a.store.Write(ctx, func(q store.Queries) error {
		return q.Join(ctx, classID, personID, string(role))
	})
}
