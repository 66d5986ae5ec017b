package practicals

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"unicode/utf8"

	"exactflask/app/access"
	"exactflask/core/practice/dealing"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/plaintext"
	"exactflask/store"
)

const (
	MaxUnknowns = 99
	maxCode     = 8 // characters
)

var (
	codeLengthOf   = finding.Declare("app.unknown-code", "most")
	codeTwice      = finding.Declare("app.unknown-twice", "code")
	codeNotThere   = finding.Declare("app.unknown-none", "code")
	tooManyUnknown = finding.Declare("app.too-many-unknowns", "most")
	valueRange     = finding.Declare("app.unknown-value")
)

// Unknown is a sample with its true value, which no student receives.
type Unknown struct {
	Code  string          `json:"code" maxLength:"8"`
	Value decimal.Decimal `json:"value,omitzero" doc:"true value in the unit of the answer; left out: not known"`
}

func checkUnknowns(wanted NewSettings) ([]store.Unknown, error) {
	if len(wanted.Unknowns) > MaxUnknowns {
		return nil, tooManyUnknown.Fault("unknowns", finding.Count(MaxUnknowns))
	}
	seen := map[string]bool{}
	out := make([]store.Unknown, len(wanted.Unknowns))
	for i, u := range wanted.Unknowns {
		code := strings.TrimSpace(plaintext.Clean(u.Code))
		switch n := utf8.RuneCountInString(code); {
		case n == 0 || n > maxCode:
			return nil, codeLengthOf.Fault(fmt.Sprintf("unknowns[%d].code", i), finding.Count(maxCode))
		case seen[code]:
			return nil, codeTwice.Fault(fmt.Sprintf("unknowns[%d].code", i), finding.Text(code))
		case u.Value.Sign() < 0:
			return nil, valueRange.Fault(fmt.Sprintf("unknowns[%d].value", i))
		}
		seen[code] = true
		out[i] = store.Unknown{Code: code}
		if !u.Value.IsZero() {
			out[i].Value = u.Value.String()
		}
	}
	for person, code := range wanted.Deals {
		if code == "" {
			delete(wanted.Deals, person)
		} else if !seen[code] {
			return nil, codeNotThere.Fault("deals", finding.Text(code))
		}
	}
	return out, nil
}

// Dealt says how unknowns are given out.
type Dealt struct {
	Codes []string `json:"codes" minItems:"1" maxItems:"99"`
	How   Dealing  `json:"how" enum:"in-turn,at-random"`
	Seed  uint64   `json:"seed,omitempty" doc:"the same gives the same"`
}

// Dealing is a way of giving out unknowns.
type Dealing string

// The ways.
const (
	InTurn   Dealing = "in-turn"
	AtRandom Dealing = "at-random"
)

// Deal gives out the unknowns of a practical to the students of a class who have not
// begun; it keeps nothing: SetSettings does. The same seed gives the same.
func (a *Practicals) Deal(ctx context.Context, p access.Person, class, id string, how Dealt) (map[string]string, error) {
	now, _, err := a.Setting(ctx, p, class, id)
	if err != nil {
		return nil, err
	}
	var open []Seat
	out := map[string]string{}
	for _, s := range now.Seats {
		if s.Notebook != "" && s.Code != "" {
			out[s.Person] = s.Code // it is on their bench already
			continue
		}
		open = append(open, s)
	}
	given := dealing.InTurn(how.Codes, len(open))
	if how.How == AtRandom {
		given = dealing.AtRandom(how.Codes, len(open), how.Seed)
	}
	for i, s := range open {
		if given[i] != "" {
			out[s.Person] = given[i]
		}
	}
	return out, nil
}

// WithUnknown is a notebook's practical with the true value of the unknown that its
// student was given. What a student sees of it is decided in access, as for every
// true value.
func (a *Practicals) WithUnknown(ctx context.Context, n store.Notebook) (*practical.Ready, error) {
	ready, err := a.Checked(n.Practical)
	if err != nil {
		return nil, err
	}
	u, err := a.Store.Read().UnknownOf(ctx, n.Class, n.Practical.ID, n.Student)
	if errors.Is(err, store.ErrNotFound) {
		return ready, nil
	}
	if err != nil {
		return nil, fmt.Errorf("reading the unknown of a student: %w", err)
	}
	own := ready.Practical
	own.Asked.Dealt = true
	if u.Value != "" {
		if own.Asked.Reference, err = decimal.Parse(u.Value); err != nil {
			return nil, fmt.Errorf("the true value of unknown %s: %w", u.Code, err)
		}
	}
	checked, fault := own.Check()
	if fault != nil {
		return nil, unusable.Fault("practical", finding.Said(fault.Message))
	}
	return checked, nil
}
