package people

import (
	"context"
	"crypto/rand"
	"errors"
	"strings"

	"golang.org/x/sync/errgroup"

	"exactflask/app/access"
	"exactflask/store"
)

// Letters and digits that are not taken for one another when they are read aloud or
// from a projector.
const codeLetters = "ABCDEFGHJKMNPQRSTUVWXYZ23456789"

// codeLength makes about 8.5e11 codes: at one guess a second for a year, one of a
// hundred open ones is met with a chance of 1 in 270.
const CodeLength = 8

// Randomly makes a text of n random letters and digits.
func Randomly(n int) string {
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

func Dashed(code string) string { return code[:len(code)/2] + "-" + code[len(code)/2:] }

// PlainCode is a code as it is kept, from what was typed.
func PlainCode(typed string) string {
	return strings.Map(func(r rune) rune {
		if strings.ContainsRune(codeLetters, r) {
			return r
		}
		return -1
	}, strings.ToUpper(typed))
}

// Slip is what a person needs to sign in for the first time.
type Slip struct {
	Name     string `json:"name"`
	Username string `json:"username"`
	Password string `json:"password" doc:"to be changed at the first sign-in; shown now and never again"`
}

// NewPasswords makes the passwords of slips and keeps them.
func (a *People) NewPasswords(ctx context.Context, p access.Person, class string, people []string, slips []Slip) error {
	hashes := make([]string, len(people))
	work, inner := errgroup.WithContext(ctx)
	for i := range people {
		work.Go(func() (err error) {
			slips[i].Password = StartPassword()
			hashes[i], err = a.hashOf(inner, slips[i].Username, slips[i].Password)
			return err
		})
	}
	if err := work.Wait(); err != nil {
		return err
	}
	defer func() {
		for _, id := range people {
			a.forgetPerson(id)
		}
	}()
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		for i, id := range people {
			if err := errors.Join(q.SetPassword(ctx, id, hashes[i], true), q.EndOtherSignIns(ctx, id, ""),
				a.Did(ctx, q, access.ActPassword, p, class, id, "")); err != nil {
				return err
			}
		}
		return nil
	})
}

// StartPassword is one for the first sign-in, which is read off a slip.
func StartPassword() string { return strings.ToLower(Dashed(Randomly(CodeLength))) }
