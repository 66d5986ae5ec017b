package app

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"strings"
	"time"

	"exactflask/core/values/finding"
	"exactflask/store"
)

var (
	codeTime    = finding.Declare("app.code-time", "least", "most")
	noCode      = finding.Declare("app.no-code")
	classIsFull = finding.Declare("app.class-full", "most")
)

// maxMembers is how many people a class may have.
const maxMembers = 500

// Letters and digits that are not taken for one another when they are read aloud or
// from a projector.
const codeLetters = "ABCDEFGHJKMNPQRSTUVWXYZ23456789"

// codeLength makes about 8.5e11 codes: at one guess a second for a year, one of a
// hundred open ones is met with a chance of 1 in 270.
const codeLength = 8

// The bounds of how long a code stays open.
const (
	leastCodeMinutes = 5
	mostCodeMinutes  = 7 * 24 * 60
)

// JoinCode is the code with which students come into a class by themselves.
type JoinCode struct {
	Code   string    `json:"code" doc:"such as K7MQ-3XDA; read without regard to its dash and to capitals"`
	Closes time.Time `json:"closes"`
}

// randomly makes a text of n random letters and digits.
func randomly(n int) string {
	out := make([]byte, 0, n)
	for raw := make([]byte, 2*n); len(out) < n; {
		_, _ = rand.Read(raw) // never fails
		for _, b := range raw {
			if most := byte(256 - 256%len(codeLetters)); b < most && len(out) < n { // each as likely as the others
				out = append(out, codeLetters[int(b)%len(codeLetters)])
			}
		}
	}
	return string(out)
}

func dashed(code string) string { return code[:len(code)/2] + "-" + code[len(code)/2:] }

// plainCode is a code as it is kept, from what was typed.
func plainCode(typed string) string {
	return strings.Map(func(r rune) rune {
		if strings.ContainsRune(codeLetters, r) {
			return r
		}
		return -1
	}, strings.ToUpper(typed))
}

// OpenCode opens a class's code for so many minutes; it closes by itself. A code
// that was open before is worthless then.
func (a *App) OpenCode(ctx context.Context, p Person, class string, minutes int) (JoinCode, error) {
	if err := allowed(p, ManageClass, class); err != nil {
		return JoinCode{}, err
	}
	if minutes < leastCodeMinutes || minutes > mostCodeMinutes {
		return JoinCode{}, codeTime.Fault("minutes", finding.Count(leastCodeMinutes), finding.Count(mostCodeMinutes))
	}
	c := store.JoinCode{Code: randomly(codeLength), Closes: a.now().Add(time.Duration(minutes) * time.Minute)}
	err := a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return errors.Join(q.OpenCode(ctx, class, c), a.did(ctx, q, actCodeOpened, p, class, "", c.Closes.Format(time.RFC3339)))
	})
	return JoinCode{dashed(c.Code), c.Closes}, err
}

// CloseCode closes a class's code.
func (a *App) CloseCode(ctx context.Context, p Person, class string) error {
	if err := allowed(p, ManageClass, class); err != nil {
		return err
	}
	return a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return errors.Join(q.CloseCode(ctx, class), a.did(ctx, q, actCodeClosed, p, class, "", ""))
	})
}

func (a *App) openCode(ctx context.Context, class string) (*JoinCode, error) {
	c, err := a.store.Read().CodeOf(ctx, class)
	if errors.Is(err, store.ErrNotFound) || err == nil && !a.now().Before(c.Closes) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("reading a code: %w", err)
	}
	return &JoinCode{dashed(c.Code), c.Closes}, nil
}

// Invitation is what somebody with a code is told before they join.
type Invitation struct {
	Class string `json:"class" doc:"name of the class"`
	Term  string `json:"term"`
}

func (a *App) classOf(ctx context.Context, q store.Queries, code string) (store.Class, error) {
	c, closes, err := q.ClassOfCode(ctx, plainCode(code))
	if errors.Is(err, store.ErrNotFound) || err == nil && !a.now().Before(closes) {
		return c, noCode.Fault("code")
	}
	return c, err
}

// Invitation tells what a code leads to.
func (a *App) Invitation(ctx context.Context, code string) (Invitation, error) {
	c, err := a.classOf(ctx, a.store.Read(), code)
	return Invitation{c.Name, c.Term}, err
}

// SuggestUsername makes a user name of a name, one that is not taken.
func (a *App) SuggestUsername(ctx context.Context, code, name string) (string, error) {
	if _, err := a.classOf(ctx, a.store.Read(), code); err != nil {
		return "", err
	}
	taken, err := a.taken(ctx)
	return freeUsername(name, taken), err
}

// JoinByCode makes the person a student of the code's class. Who is in it already
// stays what they are.
func (a *App) JoinByCode(ctx context.Context, p Person, code string) error {
	defer a.people.Remove(p.ID)
	return a.store.Write(ctx, func(ctx context.Context, q store.Queries) error { return a.joinByCode(ctx, q, p, code) })
}

func (a *App) joinByCode(ctx context.Context, q store.Queries, p Person, code string) error {
	c, err := a.classOf(ctx, q, code)
	if err != nil {
		return err
	}
	if p.roleIn(c.ID) != "" {
		return nil
	}
	if n, err := q.CountMembers(ctx, c.ID); err != nil {
		return err
	} else if n >= maxMembers {
		return classIsFull.Fault("code", finding.Count(maxMembers))
	}
	return errors.Join(q.Join(ctx, c.ID, p.ID, string(Student), a.now()), a.did(ctx, q, actJoined, p, c.ID, p.ID, ""))
}

// SignUp makes somebody with a code a person, and a student of its class: both or
// neither.
func (a *App) SignUp(ctx context.Context, code string, n NewPerson) (Person, error) {
	if _, err := a.classOf(ctx, a.store.Read(), code); err != nil { // before a hash is made for it
		return Person{}, err
	}
	person, err := a.newPerson(ctx, NewPerson{Username: n.Username, Name: n.Name, Password: n.Password})
	if err != nil {
		return Person{}, err
	}
	err = a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		if err := a.addPerson(ctx, q, person); err != nil {
			return err
		}
		return a.joinByCode(ctx, q, Person{ID: person.ID}, code)
	})
	if err != nil {
		return Person{}, err
	}
	return a.Person(ctx, person.ID)
}
