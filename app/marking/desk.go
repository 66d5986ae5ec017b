package marking

import (
	"context"
	"crypto/sha256"
	"errors"
	"fmt"

	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/judgement/marking"
	"exactflask/core/practice/plan"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/formats"
	"exactflask/store"
	"exactflask/view"
)

// Pass says whose marks are meant.
type Pass int

// The readings: the marks that count, and those of a second marker who does not see them.
const (
	First  Pass = 1
	Second Pass = 2
)

// evidence are the parts of an evaluation that marks are proposed by.
const evidence = experiment.PartResult | experiment.PartVerdicts | experiment.PartReference

// examined is a report as it was handed in, evaluated: what was handed in never changes.
type examined struct {
	ready *practical.Ready
	ev    evaluation.Evaluation
	off   float64 // titres from the one that the true value gives, mL
	known bool
}

// examine reads a version of a report and evaluates it, once.
func (a *Marking) examine(ctx context.Context, notebook string, version int) (*examined, error) {
	key := fmt.Sprintf("%s/%d", notebook, version)
	if e, ok := a.examined.Get(key); ok {
		return e, nil
	}
	document, err := a.Store.Read().SubmissionDocument(ctx, notebook, version)
	if err != nil {
		return nil, access.NotFound(err)
	}
	f, err := formats.Thaw(document)
	if err != nil {
		return nil, err
	}
	ready, err := a.practicals.ReadyAsFrozen(f.Practical)
	if err != nil {
		return nil, err
	}
	e, err := bench.Safely(a.Log, notebook, func() *examined {
		basis := experiment.Begin(ready, journal.Fold(f.Journal))
		e := &examined{ready: ready, ev: basis.Of(evidence)}
		if truth := ready.Asked.Reference; truth.Sign() > 0 {
			e.off, e.known = basis.TitreOff(truth.Float64())
		}
		return e
	})
	if err == nil {
		a.examined.Add(key, e)
	}
	return e, err
}

// desk is a practical of a class with everything that its marks hang on.
type desk struct {
	a        *Marking
	p        access.Person
	class    string
	ready    *practical.Ready
	scheme   practical.Scheme
	revision int // of the scheme; 0: as the practical says
	toMark   []store.ToMark
	awards   []store.Award
	released map[string]bool // by notebook and version
	requests []store.Request
	asked    []plan.Question         // before the laboratory
	given    map[string][]view.Given // their answers, by student
	titre    float64                 // of the reference titration, mL; 0: none
	codes    map[string]string       // of unknowns, by student
	members  []store.Member
	unknowns []store.Unknown
}

func versionKey(notebook string, version int) string { return fmt.Sprintf("%s/%d", notebook, version) }

// deskOf reads it for somebody who marks there.
func (a *Marking) deskOf(ctx context.Context, p access.Person, class, id string) (*desk, error) {
	if err := access.Allowed(p, access.SeeRoll, class); err != nil {
		return nil, err
	}
	ready, err := a.onceSet(ctx, class, id)
	if err != nil {
		return nil, err
	}
	d := &desk{a: a, p: p, class: class, ready: ready, released: map[string]bool{}}
	if d.scheme, d.revision, err = a.schemeOf(ctx, class, ready); err != nil {
		return nil, err
	}
	return d, d.read(ctx)
}

// onceSet is a practical of a class, also one that was taken from it after notebooks were
// begun: their reports are still marked.
func (a *Marking) onceSet(ctx context.Context, class, id string) (*practical.Ready, error) {
	q := a.Store.Read()
	switch revision, _, err := q.Assignment(ctx, class, id); {
	case err == nil:
		written, err := q.Practical(ctx, id, revision)
		if err != nil {
			return nil, access.NotFound(err)
		}
		return a.practicals.Checked(written)
	case !errors.Is(err, store.ErrNotFound):
		return nil, fmt.Errorf("reading a practical: %w", err)
	}
	assigned, err := q.AssignmentsOfClass(ctx, class)
	if err != nil {
		return nil, fmt.Errorf("reading practicals: %w", err)
	}
	for _, s := range assigned {
		if s.ID != id {
			continue
		}
		if s.Err != nil {
			return nil, s.Err
		}
		return a.practicals.Checked(s.Practical)
	}
	return nil, access.ErrNotFound
}

func (d *desk) read(ctx context.Context) error {
	q, id := d.a.Store.Read(), d.ready.ID
	all, err := q.SubmissionsToMark(ctx, d.class, id)
	if err != nil {
		return fmt.Errorf("reading what was handed in: %w", err)
	}
	d.toMark = d.toMark[:0]
	for i, s := range all {
		if newest := i+1 == len(all) || all[i+1].Notebook != s.Notebook; newest && !s.Returned {
			d.toMark = append(d.toMark, s)
		}
	}
	if err := d.readAwards(ctx); err != nil {
		return err
	}
	released, err := q.ReleasesOfClass(ctx, d.class, id)
	if err != nil {
		return fmt.Errorf("reading what was released: %w", err)
	}
	for _, r := range released {
		d.released[versionKey(r.Notebook, r.Version)] = true
	}
	if d.requests, err = q.RequestsOfClass(ctx, d.class, id); err != nil {
		return fmt.Errorf("reading requests: %w", err)
	}
	if d.codes, err = q.Deals(ctx, d.class, id); err != nil {
		return fmt.Errorf("reading who has which unknown: %w", err)
	}
	if d.unknowns, err = q.Unknowns(ctx, d.class, id); err != nil {
		return fmt.Errorf("reading unknowns: %w", err)
	}
	if d.members, err = q.Members(ctx, d.class); err != nil {
		return fmt.Errorf("reading the people of a class: %w", err)
	}
	if err := d.readQuestions(ctx, q); err != nil {
		return err
	}
	return d.readTitre(ctx, q)
}

// readAwards reads what was awarded, also anew once something was.
func (d *desk) readAwards(ctx context.Context) (err error) {
	if d.awards, err = d.a.Store.Read().AwardsOfClass(ctx, d.class, d.ready.ID); err != nil {
		return fmt.Errorf("reading awards: %w", err)
	}
	return nil
}

func (d *desk) readQuestions(ctx context.Context, q store.Queries) error {
	d.asked, d.given = plan.Asked(d.ready), map[string][]view.Given{}
	given, err := q.ExerciseOfClass(ctx, d.class, d.ready.ID)
	if err != nil {
		return fmt.Errorf("reading answers: %w", err)
	}
	for _, g := range given {
		d.given[g.Person] = append(d.given[g.Person], view.Given{Code: g.Code, Answer: g.Answer, Right: g.Right})
	}
	return nil
}

// questions are those before the laboratory with what a student answered.
func (d *desk) questions(student string) []marking.Question {
	given := d.given[student]
	view.SayGiven(d.ready, given, d.p.Style())
	out := make([]marking.Question, len(d.asked))
	for i, q := range d.asked {
		out[i] = marking.Question{Ask: q.Ask, Judged: q.Judged()}
		for _, g := range given {
			if g.Code == q.Code {
				out[i].Given, out[i].Right = g.Shown, g.Right
			}
		}
	}
	return out
}

// readTitre finds the mean titre of somebody who teaches: a reference where all have the
// same sample.
func (d *desk) readTitre(ctx context.Context, q store.Queries) error {
	if len(d.unknowns) > 0 || d.ready.Each() {
		return nil
	}
	begun, err := q.Begun(ctx, d.class, d.ready.ID)
	if err != nil {
		return fmt.Errorf("reading notebooks: %w", err)
	}
	for _, b := range begun {
		m, ok := access.Member(d.members, b.Student)
		if !ok || !access.Role(m.Role).Teaches() {
			continue
		}
		if book, err := d.a.bench.Read(ctx, b.Notebook); err == nil {
			if mean := experiment.Begin(book.Ready, journal.Fold(book.Entries)).Of(experiment.Record).Agreement.Mean; mean != nil {
				d.titre = mean.Float64()
			}
		}
	}
	return nil
}

// report is what a version of a report is marked by.
func (d *desk) report(ctx context.Context, s store.ToMark) (marking.Report, error) {
	e, err := d.a.examine(ctx, s.Notebook, s.Version)
	if err != nil {
		return marking.Report{}, err
	}
	r := marking.Report{Ready: e.ready, Evaluation: e.ev, Late: s.Late, Questions: d.questions(s.Student)}
	switch mean := e.ev.Agreement.Mean; {
	case e.known:
		r.Titre, r.Referred = e.off, marking.ByTruth
	case d.titre > 0 && mean != nil:
		r.Titre, r.Referred = mean.Float64()-d.titre, marking.ByTeacher
	}
	return r, nil
}

// proposals are what the evidence of a report says, with the report. Where it cannot be
// read there is nothing proposed, and the report is nil: a person marks it.
func (d *desk) proposals(ctx context.Context, s store.ToMark) ([]marking.Proposal, *marking.Report, error) {
	r, err := d.report(ctx, s)
	switch {
	case err == nil:
		return marking.Evaluate(d.scheme, r), &r, nil
	case ctx.Err() != nil:
		return nil, nil, err
	}
	d.a.Log("a report cannot be marked by its evidence", "notebook", s.Notebook, "err", err)
	out := make([]marking.Proposal, len(d.scheme.Criteria))
	for i, c := range d.scheme.Criteria {
		out[i].Criterion = c.ID
	}
	return out, nil, nil
}

// inForce are the awards of a version that count, by criterion.
func (d *desk) inForce(s store.ToMark, pass Pass) map[string]store.Award {
	return inForce(d.awards, s.Notebook, s.Version, pass)
}

func inForce(all []store.Award, notebook string, version int, pass Pass) map[string]store.Award {
	out := map[string]store.Award{}
	for _, w := range all {
		if w.Notebook == notebook && w.Version == version && w.Pass == int(pass) {
			out[w.Criterion] = w
		}
	}
	return out
}

// marksOf are the marks among awards.
func marksOf(awards map[string]store.Award) map[string]decimal.Decimal {
	out := map[string]decimal.Decimal{}
	for c, w := range awards {
		if w.Marks != nil {
			out[c] = *w.Marks
		}
	}
	return out
}

// codeOf stands for a name where marking is anonymous: the same for a notebook always.
func codeOf(notebook string) string {
	const signs = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789"
	sum := sha256.Sum256([]byte(notebook))
	return string([]byte{signs[sum[0]%32], signs[sum[1]%32], signs[sum[2]%32], signs[sum[3]%32]})
}
