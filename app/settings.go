package app

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"time"

	"exactflask/core/judgement/experiment"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/store"
	"exactflask/view"
)

var timesOrder = finding.Declare("app.times-order")

// Times are when a practical is seen by students, due, and taken late until; left
// out: always. They are judged by the server's clock.
type Times struct {
	Opens *time.Time `json:"opens,omitempty" doc:"students see it and begin from then on"`
	Due   *time.Time `json:"due,omitempty"`
	Late  *time.Time `json:"late,omitempty" doc:"nobody begins, and no report is taken, after this"`
}

func timesOf(t store.Times) (out Times) {
	for _, f := range []struct {
		from time.Time
		to   **time.Time
	}{{t.Opens, &out.Opens}, {t.Due, &out.Due}, {t.Late, &out.Late}} {
		if !f.from.IsZero() {
			*f.to = &f.from
		}
	}
	return out
}

func (t Times) kept() (out store.Times) {
	for _, f := range []struct {
		from *time.Time
		to   *time.Time
	}{{t.Opens, &out.Opens}, {t.Due, &out.Due}, {t.Late, &out.Late}} {
		if f.from != nil {
			*f.to = *f.from
		}
	}
	return out
}

// open tells whether students see a practical by now.
func (a *App) isOpen(t store.Times) bool { return !a.now().Before(t.Opens) }

// over tells whether nobody begins it any more.
func (a *App) isOver(t store.Times) bool { return !t.Late.IsZero() && a.now().After(t.Late) }

// Seat is a student with the unknown they were given, and their notebook.
type Seat struct {
	Person   string `json:"person"`
	Name     string `json:"name"`
	Code     string `json:"code" doc:"of the unknown; empty: none"`
	Partner  string `json:"partner,omitempty" doc:"id of who works with them in this practical"`
	Notebook string `json:"notebook,omitempty"`
	Revision int    `json:"revision,omitempty" doc:"that the notebook is under"`
}

// Settings is how a practical is set to a class, for those who teach there.
type Settings struct {
	Practical string         `json:"practical"`
	Title     string         `json:"title"`
	Revision  int            `json:"revision" doc:"the one that is set: notebooks that are begun are under it"`
	Set       bool           `json:"set" doc:"false: it is not set any more"`
	MayManage bool           `json:"mayManage"`
	Unit      string         `json:"unit" doc:"of the answer"`
	Withholds practical.When `json:"withholds" enum:"always,after-attempt,after-marking"`
	Hides     bool           `json:"hides" doc:"the expected end is hidden"`
	Times     Times          `json:"times"`
	Pairing   Pairing        `json:"pairing" enum:",alone,own" doc:"who works with whom: the pairs of the class (empty), everyone alone, or pairs of its own"`
	Unknowns  []Unknown      `json:"unknowns"`
	Seats     []Seat         `json:"seats"`
	Begun     int            `json:"begun" doc:"notebooks"`
	Reference *ReferenceRun  `json:"reference,omitempty" doc:"the reader's own run of it, or another's who teaches there"`
}

// ReferenceRun is a notebook of somebody who teaches, and its answer.
type ReferenceRun struct {
	Notebook string           `json:"notebook"`
	By       string           `json:"by"`
	Answer   string           `json:"answer,omitempty" doc:"left out: none yet"`
	Value    *decimal.Decimal `json:"value,omitempty" doc:"of the answer, in its unit"`
}

// Settings shows how a practical is set to a class, with the reference titration.
func (a *App) Settings(ctx context.Context, p Person, class, id string) (Settings, error) {
	out, reference, err := a.setting(ctx, p, class, id)
	if err == nil && reference.Notebook != "" {
		out.Reference, err = a.referenceRun(ctx, p, reference)
	}
	return out, err
}

// setting is how a practical is set to a class, and the titration of somebody who
// teaches there: the reader's own, or another's; without a notebook where there is none.
func (a *App) setting(ctx context.Context, p Person, class, id string) (Settings, store.Begun, error) {
	if err := allowed(p, SeePlan, class); err != nil {
		return Settings{}, store.Begun{}, err
	}
	q := a.store.Read()
	assigned, err := q.AssignmentsOfClass(ctx, class)
	if err != nil {
		return Settings{}, store.Begun{}, fmt.Errorf("reading practicals: %w", err)
	}
	i := slices.IndexFunc(assigned, func(s store.Assigned) bool { return s.ID == id })
	if i < 0 {
		return Settings{}, store.Begun{}, ErrNotFound
	}
	item := assigned[i]
	if item.Err != nil {
		return Settings{}, store.Begun{}, item.Err
	}
	ready, err := a.ready(item.Practical)
	if err != nil {
		return Settings{}, store.Begun{}, err
	}
	out := Settings{Practical: id, Title: item.Practical.Title, Revision: item.Practical.Revision, Set: item.Set,
		MayManage: May(p, SetPractical, Thing{Class: class}), Unit: view.Writer(ready, p.Style()).Unit(ready.Asked.Unit),
		Withholds: ready.Showing.Results, Hides: ready.Showing.HideExpected, Times: timesOf(item.Times), Unknowns: []Unknown{}, Seats: []Seat{}}
	unknowns, err := q.Unknowns(ctx, class, id)
	if err != nil {
		return Settings{}, store.Begun{}, fmt.Errorf("reading unknowns: %w", err)
	}
	for _, u := range unknowns {
		value, _ := decimal.Parse(u.Value) // what was kept was read before; empty is none
		out.Unknowns = append(out.Unknowns, Unknown{u.Code, value})
	}
	reference, err := a.seats(ctx, p, class, id, &out)
	return out, reference, err
}

// seats fills in who has what; it returns the reference.
func (a *App) seats(ctx context.Context, p Person, class, id string, out *Settings) (reference store.Begun, err error) {
	q := a.store.Read()
	members, err := q.Members(ctx, class)
	if err != nil {
		return reference, fmt.Errorf("reading the people of a class: %w", err)
	}
	deals, err := q.Deals(ctx, class, id)
	if err != nil {
		return reference, fmt.Errorf("reading who has which unknown: %w", err)
	}
	begun, err := q.Begun(ctx, class, id)
	if err != nil {
		return reference, fmt.Errorf("reading notebooks: %w", err)
	}
	pairing, _, err := q.Pairing(ctx, class, id)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return reference, fmt.Errorf("reading pairs: %w", err)
	}
	out.Pairing = Pairing(pairing)
	partners, err := partnersIn(ctx, q, class, id, members)
	if err != nil {
		return reference, err
	}
	of := map[string]store.Begun{}
	for _, b := range begun {
		of[b.Student] = b
	}
	for _, m := range members {
		b, has := of[m.ID]
		if Role(m.Role).Teaches() {
			if has && (out.Reference == nil || m.ID == p.ID) {
				if out.Reference, err = a.referenceRun(ctx, p, b); err != nil {
					return reference, err
				}
			}
			continue
		}
		if has {
			out.Begun++
		}
		out.Seats = append(out.Seats, Seat{m.ID, m.Name, deals[m.ID], partners[m.ID], b.Notebook, b.Revision})
	}
	return reference, nil
}

// referenceRun is what came out of a titration of somebody who teaches.
func (a *App) referenceRun(ctx context.Context, p Person, b store.Begun) (*ReferenceRun, error) {
	out := &ReferenceRun{Notebook: b.Notebook, By: b.Name}
	o, err := a.open(ctx, p, b.Notebook)
	if err != nil {
		return nil, err
	}
	ev, err := o.evaluate(a.log)
	if err != nil || ev.Result == nil || ev.Result.Single {
		return out, nil // it says so itself where it is opened
	}
	words := view.Writer(o.ready, p.Style())
	value, err := decimal.Parse(ev.Result.Answer.String())
	if err != nil {
		return nil, fmt.Errorf("the answer of the reference titration: %w", err)
	}
	out.Value, out.Answer = &value, words.Value(finding.Quantity(ev.Result.Answer))
	return out, nil
}

// NewSettings is what an instructor says of a practical in a class.
type NewSettings struct {
	Times    Times             `json:"times"`
	Unknowns []Unknown         `json:"unknowns" maxItems:"99"`
	Deals    map[string]string `json:"deals,omitempty" doc:"code of the unknown by the id of the student"`
	Pairing  Pairing           `json:"pairing,omitempty" enum:",alone,own" doc:"the pairs of the class when left out"`
	Pairs    map[string]string `json:"pairs,omitempty" doc:"with pairs of its own: id of the partner by the id of the student"`
}

// SetSettings keeps them.
func (a *App) SetSettings(ctx context.Context, p Person, class, id string, wanted NewSettings) error {
	if err := allowed(p, SetPractical, class); err != nil {
		return err
	}
	unknowns, err := checkUnknowns(wanted)
	if err != nil {
		return err
	}
	if t := wanted.Times.kept(); !ordered(t.Opens, t.Due, t.Late) {
		return timesOrder.Fault("times")
	}
	return a.changingThose(ctx, class, id, func(ctx context.Context, q store.Queries) error {
		members, err := q.Members(ctx, class)
		if err != nil {
			return err
		}
		for person := range wanted.Deals {
			if m, found := member(members, person); !found || Role(m.Role) != Student {
				return notInClass.Fault("deals")
			}
		}
		before, err := q.Deals(ctx, class, id)
		if err != nil {
			return err
		}
		deals := keepDeals(before, wanted.Deals, members, unknowns)
		if err := q.SetTimes(ctx, class, id, wanted.Times.kept()); err != nil {
			return notFound(err)
		}
		pairs := map[string]string{}
		if wanted.Pairing == OwnPairs {
			if pairs, err = checkPairs(wanted.Pairs, members); err != nil {
				return err
			}
		}
		return errors.Join(q.SetPairing(ctx, class, id, string(wanted.Pairing), pairs), q.SetUnknowns(ctx, class, id, unknowns, deals), a.did(ctx, q, actSettings, p, class, "", id))
	})
}

// keepDeals are who has which unknown now, with those who have left the class: the
// notebook that they leave behind is of their unknown.
func keepDeals(before, wanted map[string]string, members []store.Member, unknowns []store.Unknown) map[string]string {
	out := maps.Clone(wanted)
	if out == nil {
		out = map[string]string{}
	}
	for person, code := range before {
		_, here := member(members, person)
		if !here && slices.ContainsFunc(unknowns, func(u store.Unknown) bool { return u.Code == code }) {
			out[person] = code
		}
	}
	return out
}

// ordered tells whether times follow one another; those that are not given do not
// count.
func ordered(times ...time.Time) bool {
	var last time.Time
	for _, t := range times {
		if t.IsZero() {
			continue
		}
		if t.Before(last) {
			return false
		}
		last = t
	}
	return true
}

// Unset takes a practical from a class: nobody begins it any more. Notebooks of it
// stay where they are.
func (a *App) Unset(ctx context.Context, p Person, class, id string) error {
	if err := allowed(p, SetPractical, class); err != nil {
		return err
	}
	return a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		if err := q.Unassign(ctx, class, id); err != nil {
			return notFound(err)
		}
		return a.did(ctx, q, actUnset, p, class, "", id)
	})
}

// MoveToRevision puts notebooks under the revision of their practical that is set now,
// those of the named students or, where none is named, all. What was written stays;
// it is judged by the new revision.
func (a *App) MoveToRevision(ctx context.Context, p Person, class, id string, people []string) error {
	if err := allowed(p, SetPractical, class); err != nil {
		return err
	}
	return a.changingThose(ctx, class, id, func(ctx context.Context, q store.Queries) error {
		revision, _, err := q.Assignment(ctx, class, id)
		if err != nil {
			return notFound(err)
		}
		begun, err := q.Begun(ctx, class, id)
		if err != nil {
			return err
		}
		handed, err := q.HandedInOfClass(ctx, class, id)
		if err != nil {
			return err
		}
		for _, b := range begun {
			if h, in := handed[b.Notebook]; in && !h.Returned {
				continue // its report is under the one that it was handed in with
			}
			if b.Revision == revision || len(people) > 0 && !slices.Contains(people, b.Student) {
				continue
			}
			if err := errors.Join(q.MoveToRevision(ctx, class, id, b.Notebook, revision),
				a.did(ctx, q, actRevision, p, class, b.Student, fmt.Sprint(revision))); err != nil {
				return err
			}
		}
		return nil
	})
}

// changingThose is changing for the notebooks of a practical in a class.
func (a *App) changingThose(ctx context.Context, class, id string, do func(context.Context, store.Queries) error) error {
	begun, err := a.store.Read().Begun(ctx, class, id)
	if err != nil {
		return fmt.Errorf("reading notebooks: %w", err)
	}
	ids := make([]string, len(begun))
	for i, b := range begun {
		ids[i] = b.Notebook
	}
	return a.changing(ctx, ids, do)
}

// Preview is a practical that is being written as a student sees it before it is
// done.
func (a *App) Preview(_ context.Context, p Person, written practical.Practical) (Planned, error) {
	if !mayWrite(p) {
		return Planned{}, ErrForbidden
	}
	r, fault := written.Check()
	if fault != nil {
		return Planned{}, fault.In("practical")
	}
	shown, fault := experiment.Visible(r.Practical, Student.reader(), experiment.Granted(Student.reader(), r.Showing.Results, false)).Check()
	if fault != nil {
		return Planned{}, fault.In("practical")
	}
	return Planned{Practical: shown.Practical, Plan: view.Exercise(shown, p.Style()), Given: []view.Given{}}, nil
}
