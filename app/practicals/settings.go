package practicals

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"time"

	"exactflask/app/access"
	"exactflask/app/classes"
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

func TimesOf(t store.Times) (out Times) {
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
func (a *Practicals) IsOpen(t store.Times) bool { return !a.Now().Before(t.Opens) }

// over tells whether nobody begins it any more.
func (a *Practicals) IsOver(t store.Times) bool { return !t.Late.IsZero() && a.Now().After(t.Late) }

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
	Assigned  bool           `json:"assigned" doc:"false: it is not set any more"`
	MayManage bool           `json:"mayManage"`
	Unit      string         `json:"unit" doc:"of the answer"`
	Withholds practical.When `json:"withholds" enum:"always,after-attempt,after-marking"`
	Hides     bool           `json:"hides" doc:"the expected end is hidden"`
	Times     Times          `json:"times"`
	Sequence  []string       `json:"sequence,omitempty" doc:"titles of the other practicals of its sequence, in order"`
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

// Setting is how a practical is set to a class, and the titration of somebody who
// teaches there: the reader's own, or another's; without a notebook where there is none.
func (a *Practicals) Setting(ctx context.Context, p access.Person, class, id string) (Settings, store.Begun, error) {
	if err := access.Allowed(p, access.SeePlan, class); err != nil {
		return Settings{}, store.Begun{}, err
	}
	q := a.Store.Read()
	assigned, err := q.AssignmentsOfClass(ctx, class)
	if err != nil {
		return Settings{}, store.Begun{}, fmt.Errorf("reading practicals: %w", err)
	}
	i := slices.IndexFunc(assigned, func(s store.Assigned) bool { return s.ID == id })
	if i < 0 {
		return Settings{}, store.Begun{}, access.ErrNotFound
	}
	item := assigned[i]
	if item.Err != nil {
		return Settings{}, store.Begun{}, item.Err
	}
	ready, err := a.Checked(item.Practical)
	if err != nil {
		return Settings{}, store.Begun{}, err
	}
	out := Settings{Practical: id, Title: item.Practical.Title, Revision: item.Practical.Revision, Assigned: item.Set,
		MayManage: access.May(p, access.AssignPractical, access.Thing{Class: class}), Unit: view.Writer(ready, p.Style()).Unit(ready.Asked.Unit),
		Withholds: ready.Showing.Results, Hides: ready.Showing.HideExpected, Times: TimesOf(item.Times), Unknowns: []Unknown{}, Seats: []Seat{}}
	_, out.Sequence = sequenceOf(OfClass(assigned), id)
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
func (a *Practicals) seats(ctx context.Context, p access.Person, class, id string, out *Settings) (reference store.Begun, err error) {
	q := a.Store.Read()
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
	partners, err := PartnersIn(ctx, q, class, id, members)
	if err != nil {
		return reference, err
	}
	of := map[string]store.Begun{}
	for _, b := range begun {
		of[b.Student] = b
	}
	for _, m := range members {
		b, has := of[m.ID]
		if access.Role(m.Role).Teaches() {
			if has && (reference.Notebook == "" || m.ID == p.ID) {
				reference = b
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

// NewSettings is what an instructor says of a practical in a class.
type NewSettings struct {
	Times    Times             `json:"times"`
	Unknowns []Unknown         `json:"unknowns" maxItems:"99"`
	Deals    map[string]string `json:"deals,omitempty" doc:"code of the unknown by the id of the student"`
	Pairing  Pairing           `json:"pairing,omitempty" enum:",alone,own" doc:"the pairs of the class when left out"`
	Together bool              `json:"together,omitempty" doc:"the times hold for every practical of its sequence"`
	Pairs    map[string]string `json:"pairs,omitempty" doc:"with pairs of its own: id of the partner by the id of the student"`
}

// SetSettings keeps them.
func (a *Practicals) SetSettings(ctx context.Context, p access.Person, class, id string, wanted NewSettings) error {
	if err := access.Allowed(p, access.AssignPractical, class); err != nil {
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
			if m, found := access.Member(members, person); !found || access.Role(m.Role) != access.Student {
				return classes.NotInClass.Fault("deals")
			}
		}
		before, err := q.Deals(ctx, class, id)
		if err != nil {
			return err
		}
		deals := keepDeals(before, wanted.Deals, members, unknowns)
		together := []string{id}
		if wanted.Together {
			assigned, err := q.AssignmentsOfClass(ctx, class)
			if err != nil {
				return fmt.Errorf("reading practicals: %w", err)
			}
			others, _ := sequenceOf(OfClass(assigned), id)
			together = append(together, others...)
		}
		for _, one := range together {
			if err := q.SetTimes(ctx, class, one, wanted.Times.kept()); err != nil {
				return access.NotFound(err)
			}
		}
		pairs := map[string]string{}
		if wanted.Pairing == OwnPairs {
			if pairs, err = checkPairs(wanted.Pairs, members); err != nil {
				return err
			}
		}
		return errors.Join(q.SetPairing(ctx, class, id, string(wanted.Pairing), pairs), q.SetUnknowns(ctx, class, id, unknowns, deals), a.Did(ctx, q, access.ActSettings, p, class, "", id))
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
		_, here := access.Member(members, person)
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
func (a *Practicals) Unassign(ctx context.Context, p access.Person, class, id string) error {
	if err := access.Allowed(p, access.AssignPractical, class); err != nil {
		return err
	}
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		if err := q.Unassign(ctx, class, id); err != nil {
			return access.NotFound(err)
		}
		return a.Did(ctx, q, access.ActUnassigned, p, class, "", id)
	})
}

// MoveToRevision puts notebooks under the revision of their practical that is set now,
// those of the named students or, where none is named, all. What was written stays;
// it is judged by the new revision.
func (a *Practicals) MoveToRevision(ctx context.Context, p access.Person, class, id string, people []string) error {
	if err := access.Allowed(p, access.AssignPractical, class); err != nil {
		return err
	}
	return a.changingThose(ctx, class, id, func(ctx context.Context, q store.Queries) error {
		revision, _, err := q.Assignment(ctx, class, id)
		if err != nil {
			return access.NotFound(err)
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
				a.Did(ctx, q, access.ActRevision, p, class, b.Student, fmt.Sprint(revision))); err != nil {
				return err
			}
		}
		return nil
	})
}

// changingThose is changing for the notebooks of a practical in a class.
func (a *Practicals) changingThose(ctx context.Context, class, id string, do func(context.Context, store.Queries) error) error {
	begun, err := a.Store.Read().Begun(ctx, class, id)
	if err != nil {
		return fmt.Errorf("reading notebooks: %w", err)
	}
	ids := make([]string, len(begun))
	for i, b := range begun {
		ids[i] = b.Notebook
	}
	return a.Changing(ctx, ids, do)
}

// Preview is a practical that is being written as a student sees it before it is
// done.
func (a *Practicals) Preview(_ context.Context, p access.Person, written practical.Practical) (Planned, error) {
	if !mayWrite(p) {
		return Planned{}, access.ErrForbidden
	}
	r, fault := written.Check()
	if fault != nil {
		return Planned{}, fault.In("practical")
	}
	shown, fault := experiment.Visible(r.Practical, access.Student.Reader(), experiment.Granted(access.Student.Reader(), r.Showing.Results, false)).Check()
	if fault != nil {
		return Planned{}, fault.In("practical")
	}
	return Planned{Practical: shown.Practical, Plan: view.Exercise(shown, p.Style()), Given: []view.Given{}}, nil
}
