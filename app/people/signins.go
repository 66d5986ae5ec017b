package people

import (
	"bytes"
	"context"
	"crypto/sha256"
	_ "embed"
	"errors"
	"fmt"
	"slices"
	"sort"
	"strings"
	"time"

	"github.com/alexedwards/argon2id"

	"exactflask/app/access"
	"exactflask/core/values/finding"
	"exactflask/store"
)

// Idle is how long a sign-in that is not used lasts: a practical with its break.
// A page that is open uses it.
const Idle = 3 * time.Hour

// seenEvery is how often it is noted that a sign-in was used.
const seenEvery = 5 * time.Minute

var (
	wrongPassword  = finding.Declare("app.wrong-password")
	samePassword   = finding.Declare("app.same-password")
	commonPassword = finding.Declare("app.common-password")
	ownName        = finding.Declare("app.password-is-name")
)

// SignedIn is one of a person's sign-ins.
type SignedIn struct {
	ID    string    `json:"id"`
	Agent string    `json:"agent" doc:"the browser, as it calls itself"`
	Began time.Time `json:"began"`
	Seen  time.Time `json:"seen" doc:"when it was used last, to five minutes"`
	Mine  bool      `json:"mine,omitempty" doc:"the one that asks"`
}

// BeginSignIn keeps that a person signed in, and returns the id of the sign-in.
func (a *People) BeginSignIn(ctx context.Context, p access.Person, agent string) (string, error) {
	now := a.Now()
	s := store.SignIn{ID: access.NewID(), Person: p.ID, Agent: clip(agent, 200), Began: now, Seen: now}
	err := a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		if err := q.EndOldSignIns(ctx, now.Add(-Idle)); err != nil {
			return err
		}
		return errors.Join(q.AddSignIn(ctx, s), q.SeePerson(ctx, p.ID, now))
	})
	switch {
	case errors.Is(err, store.ErrFull), errors.Is(err, store.ErrReadOnly):
		// Who signs in can read, and what they record is kept by their device.
		a.Log("a sign-in is kept in memory only", "err", err)
		a.unwritten.Add(s.ID, s)
	case err != nil:
		return "", fmt.Errorf("keeping a sign-in: %w", err)
	}
	a.signIns.Add(s.ID, s)
	return s.ID, nil
}

func clip(text string, most int) string {
	text = strings.ToValidUTF8(text, "")
	if r := []rune(text); len(r) > most {
		return string(r[:most])
	}
	return text
}

// PersonOf is who signed in, or ErrNotFound where that sign-in has ended or was not
// used for long.
func (a *People) PersonOf(ctx context.Context, signIn string) (access.Person, error) {
	s, ok := a.signIns.Get(signIn)
	if !ok {
		s, ok = a.unwritten.Get(signIn)
	}
	if !ok {
		var err error
		if s, err = a.Store.Read().SignIn(ctx, signIn); err != nil {
			return access.Person{}, access.NotFound(err)
		}
		a.signIns.Add(signIn, s)
	}
	now := a.Now()
	switch idle := now.Sub(s.Seen); {
	case idle > Idle:
		a.signIns.Remove(signIn)
		return access.Person{}, access.ErrNotFound
	case idle > seenEvery:
		if err := a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
			return errors.Join(q.SeeSignIn(ctx, signIn, now), q.SeePerson(ctx, s.Person, now))
		}); err != nil {
			a.Log("a sign-in cannot be noted as used", "err", err) // whoever reads goes on, also where the disk is full
		}
		s.Seen = now
		a.signIns.Add(signIn, s)
	}
	return a.Person(ctx, s.Person)
}

// SignIns are the person's own; here is the one that asks.
func (a *People) SignIns(ctx context.Context, p access.Person, here string) ([]SignedIn, error) {
	kept, err := a.Store.Read().SignInsOf(ctx, p.ID)
	if err != nil {
		return nil, fmt.Errorf("reading sign-ins: %w", err)
	}
	out := []SignedIn{}
	for _, s := range kept {
		if a.Now().Sub(s.Seen) <= Idle {
			out = append(out, SignedIn{s.ID, s.Agent, s.Began, s.Seen, s.ID == here})
		}
	}
	slices.SortStableFunc(out, func(x, y SignedIn) int {
		switch {
		case x.Mine == y.Mine:
			return 0
		case x.Mine:
			return -1
		}
		return 1
	})
	return out, nil
}

// EndSignIn ends one of the person's sign-ins at once.
func (a *People) EndSignIn(ctx context.Context, p access.Person, id string) error {
	defer a.signIns.Remove(id)
	if a.unwritten.Remove(id) {
		return nil
	}
	return access.NotFound(a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error { return q.EndSignIn(ctx, id, p.ID) }))
}

// EndOthers ends all of the person's sign-ins but the one that asks, at once.
func (a *People) EndOthers(ctx context.Context, p access.Person, here string) error {
	defer a.forget(p.ID, here)
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error { return q.EndOtherSignIns(ctx, p.ID, here) })
}

// forget lets the sign-ins of a person be looked for again.
func (a *People) forget(person, but string) {
	for _, id := range a.unwritten.Keys() {
		if s, ok := a.unwritten.Peek(id); ok && s.Person == person && id != but {
			a.unwritten.Remove(id)
		}
	}
	for _, id := range a.signIns.Keys() {
		if s, ok := a.signIns.Peek(id); ok && s.Person == person && id != but {
			a.signIns.Remove(id)
		}
	}
}

// ChangePassword gives the person a new password of their own, and ends their other
// sign-ins.
func (a *People) ChangePassword(ctx context.Context, p access.Person, here, old, wanted string) error {
	row, err := a.Store.Read().PersonByUsername(ctx, p.Username)
	if err != nil {
		return access.NotFound(err)
	}
	if len(old) > 256 {
		return wrongPassword.Fault("old")
	}
	release, err := a.mayHash(ctx)
	if err != nil {
		return err
	}
	match, err := argon2id.ComparePasswordAndHash(old, row.Password)
	release()
	if err != nil || !match {
		return wrongPassword.Fault("old")
	}
	if old == wanted {
		return samePassword.Fault("new")
	}
	hash, fault := a.hashOf(ctx, p.Username, wanted)
	if fault != nil {
		return fault
	}
	defer a.forget(p.ID, here)
	defer a.Persons.Remove(p.ID)
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return errors.Join(q.SetPassword(ctx, p.ID, hash, false), q.EndOtherSignIns(ctx, p.ID, here))
	})
}

// mayHash waits for its turn to compute a password hash.
func (a *People) mayHash(ctx context.Context) (release func(), err error) {
	select {
	case a.hashes <- struct{}{}:
		return func() { <-a.hashes }, nil
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// commonPasswords are the prints of passwords that are guessed first, sorted
// (tools/commonpasswords).
//
//go:embed common-passwords.bin
var commonPasswords []byte

// PasswordPrint is what is kept of a common password: the first eight bytes of its
// SHA-256.
func PasswordPrint(password string) (print [8]byte) {
	sum := sha256.Sum256([]byte(password))
	copy(print[:], sum[:])
	return print
}

func isCommon(password string) bool {
	wanted := PasswordPrint(password)
	_, found := sort.Find(len(commonPasswords)/len(wanted), func(i int) int {
		return bytes.Compare(wanted[:], commonPasswords[i*len(wanted):(i+1)*len(wanted)])
	})
	return found
}

// checkPassword refuses what is guessed first.
func checkPassword(username, password string) error {
	if n := len(password); n < 8 || n > 256 {
		return passwordLength.Fault("password", finding.Count(n))
	}
	lower := strings.ToLower(password)
	switch {
	case strings.Contains(lower, strings.ToLower(username)):
		return ownName.Fault("password")
	case isCommon(lower) || isCommon(strings.TrimRight(lower, "0123456789!.?")):
		return commonPassword.Fault("password")
	}
	return nil
}

// hashOf is the hash of a password that may be used.
func (a *People) hashOf(ctx context.Context, username, password string) (string, error) {
	if err := checkPassword(username, password); err != nil {
		return "", err
	}
	release, err := a.mayHash(ctx)
	if err != nil {
		return "", err
	}
	defer release()
	hash, err := argon2id.CreateHash(password, a.hash)
	if err != nil {
		return "", fmt.Errorf("hashing a password: %w", err)
	}
	return hash, nil
}
