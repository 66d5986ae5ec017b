package classes

import (
	"context"
	"errors"
	"fmt"
	"time"

	"exactflask/app/access"
	"exactflask/app/people"
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

// OpenCode opens a class's code for so many minutes; it closes by itself. A code
// that was open before is worthless then.
func (a *Classes) OpenCode(ctx context.Context, p access.Person, class string, minutes int) (JoinCode, error) {
	if err := access.Allowed(p, access.ManageClass, class); err != nil {
		return JoinCode{}, err
	}
	if minutes < leastCodeMinutes || minutes > mostCodeMinutes {
		return JoinCode{}, codeTime.Fault("minutes", finding.Count(leastCodeMinutes), finding.Count(mostCodeMinutes))
	}
	c := store.JoinCode{Code: people.Randomly(people.CodeLength), Closes: a.Now().Add(time.Duration(minutes) * time.Minute)}
	err := a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return errors.Join(q.OpenCode(ctx, class, c), a.Did(ctx, q, access.ActCodeOpened, p, class, "", c.Closes.Format(time.RFC3339)))
	})
	return JoinCode{people.Dashed(c.Code), c.Closes}, err
}

// CloseCode closes a class's code.
func (a *Classes) CloseCode(ctx context.Context, p access.Person, class string) error {
	if err := access.Allowed(p, access.ManageClass, class); err != nil {
		return err
	}
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return errors.Join(q.CloseCode(ctx, class), a.Did(ctx, q, access.ActCodeClosed, p, class, "", ""))
	})
}

func (a *Classes) openCode(ctx context.Context, class string) (*JoinCode, error) {
	c, err := a.Store.Read().CodeOf(ctx, class)
	if errors.Is(err, store.ErrNotFound) || err == nil && !a.Now().Before(c.Closes) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("reading a code: %w", err)
	}
	return &JoinCode{people.Dashed(c.Code), c.Closes}, nil
}

// Invitation is what somebody with a code is told before they join.
type Invitation struct {
	Class string `json:"class" doc:"name of the class"`
	Term  string `json:"term"`
}

func (a *Classes) classOf(ctx context.Context, q store.Queries, code string) (store.Class, error) {
	c, closes, err := q.ClassOfCode(ctx, people.PlainCode(code))
	if errors.Is(err, store.ErrNotFound) || err == nil && !a.Now().Before(closes) {
		return c, noCode.Fault("code")
	}
	return c, err
}

// Invitation tells what a code leads to.
func (a *Classes) Invitation(ctx context.Context, code string) (Invitation, error) {
	c, err := a.classOf(ctx, a.Store.Read(), code)
	return Invitation{c.Name, c.Term}, err
}

// SuggestUsername makes a user name of a name, one that is not taken.
func (a *Classes) SuggestUsername(ctx context.Context, code, name string) (string, error) {
	if _, err := a.classOf(ctx, a.Store.Read(), code); err != nil {
		return "", err
	}
	taken, err := a.people.Taken(ctx)
	return people.FreeUsername(name, taken), err
}

// JoinByCode makes the person a student of the code's class. Who is in it already
// stays what they are.
func (a *Classes) JoinByCode(ctx context.Context, p access.Person, code string) error {
	defer a.Persons.Remove(p.ID)
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error { return a.joinByCode(ctx, q, p, code) })
}

func (a *Classes) joinByCode(ctx context.Context, q store.Queries, p access.Person, code string) error {
	c, err := a.classOf(ctx, q, code)
	if err != nil {
		return err
	}
	if p.RoleIn(c.ID) != "" {
		return nil
	}
	if n, err := q.CountMembers(ctx, c.ID); err != nil {
		return err
	} else if n >= maxMembers {
		return classIsFull.Fault("code", finding.Count(maxMembers))
	}
	return errors.Join(q.Join(ctx, c.ID, p.ID, string(access.Student), a.Now()), a.Did(ctx, q, access.ActJoined, p, c.ID, p.ID, ""))
}

// SignUp makes somebody with a code a person, and a student of its class: both or
// neither.
func (a *Classes) SignUp(ctx context.Context, code string, n people.NewPerson) (access.Person, error) {
	if _, err := a.classOf(ctx, a.Store.Read(), code); err != nil { // before a hash is made for it
		return access.Person{}, err
	}
	person, err := a.people.NewPerson(ctx, people.NewPerson{Username: n.Username, Name: n.Name, Password: n.Password})
	if err != nil {
		return access.Person{}, err
	}
	err = a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		if err := a.people.AddPerson(ctx, q, person); err != nil {
			return err
		}
		return a.joinByCode(ctx, q, access.Person{ID: person.ID}, code)
	})
	if err != nil {
		return access.Person{}, err
	}
	return a.Person(ctx, person.ID)
}
