package app

import (
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"exactflask/core/experiment"
	"exactflask/core/journal"
	"exactflask/core/marking"
	"exactflask/core/plan"
	"exactflask/core/practical"
	"exactflask/formats"
	"exactflask/store"
	"exactflask/view"
)

// Reading says whose marks are meant.
type Reading int

// The readings: the marks that count, and those of a second marker who does not see them.
const (
	First  Reading = 1
	Second Reading = 2
)

// evidence are the parts of an evaluation that marks are proposed by.
const evidence = experiment.PartResult | experiment.PartVerdicts | experiment.PartReference

// examined is a report as it was handed in, evaluated: what was handed in never changes.
type examined struct {
	ready *practical.Ready
	ev    experiment.Evaluation
	off   float64 // titres from the one that the true value gives, mL
	known bool
}

// examine reads a version of a report and evaluates it, once.
func (a *App) examine(ctx context.Context, notebook string, version int) (*examined, error) {
	key := fmt.Sprintf("%s/%d", notebook, version)
	if e, ok := a.examined.Get(key); ok {
		return e, nil
	}
	document, err := a.store.Read().SubmissionDocument(ctx, notebook, version)
	if err != nil {
		return nil, notFound(err)
	}
	f, err := formats.Thaw(document)
	if err != nil {
		return nil, err
	}
	ready, err := a.readyAsFrozen(f.Practical)
	if err != nil {
		return nil, err
	}
	e, err := safely(a.log, notebook, func() *examined {
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
	a        *App
	p        Person
	class    string
	ready    *practical.Ready
	scheme   practical.Scheme
	revision int // of the scheme; 0: as the practical says
	toMark   []store.ToMark
	awards   []store.Award
	released map[string]bool // by notebook and version
	requests []store.Request
	asked    map[string]bool            // questions before the laboratory that are judged
	right    map[string]map[string]bool // of them, by student
	titre    float64                    // of the reference titration, mL; 0: none
	codes    map[string]string          // of unknowns, by student
	members  []store.Member
	unknowns []store.Unknown
}

func versionKey(notebook string, version int) string { return fmt.Sprintf("%s/%d", notebook, version) }

// deskOf reads it for somebody who marks there.
func (a *App) deskOf(ctx context.Context, p Person, class, id string) (*desk, error) {
	if err := allowed(p, SeeRoll, class); err != nil {
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
func (a *App) onceSet(ctx context.Context, class, id string) (*practical.Ready, error) {
	q := a.store.Read()
	switch revision, _, err := q.Assignment(ctx, class, id); {
	case err == nil:
		written, err := q.Practical(ctx, id, revision)
		if err != nil {
			return nil, notFound(err)
		}
		return a.ready(written)
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
		return a.ready(s.Practical)
	}
	return nil, ErrNotFound
}

func (d *desk) read(ctx context.Context) error {
	q, id := d.a.store.Read(), d.ready.ID
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
	if d.awards, err = q.AwardsOfClass(ctx, d.class, id); err != nil {
		return fmt.Errorf("reading awards: %w", err)
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

func (d *desk) readQuestions(ctx context.Context, q store.Queries) error {
	d.asked, d.right = map[string]bool{}, map[string]map[string]bool{}
	for _, question := range plan.Questions(d.ready) {
		if question.Judged() {
			d.asked[question.Code] = true
		}
	}
	given, err := q.ExerciseOfClass(ctx, d.class, d.ready.ID)
	if err != nil {
		return fmt.Errorf("reading answers: %w", err)
	}
	for _, g := range given {
		if g.Right && d.asked[g.Code] {
			if d.right[g.Person] == nil {
				d.right[g.Person] = map[string]bool{}
			}
			d.right[g.Person][g.Code] = true
		}
	}
	return nil
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
		m, ok := member(d.members, b.Student)
		if !ok || !Role(m.Role).Teaches() {
			continue
		}
		if book, err := d.a.read(ctx, b.Notebook); err == nil {
			if mean := experiment.Begin(book.ready, journal.Fold(book.Entries)).Of(experiment.Record).Agreement.Mean; mean != nil {
				d.titre = mean.Float64()
			}
		}
	}
	return nil
}

// schemeOf is the scheme by which a class is marked, and its revision.
func (a *App) schemeOf(ctx context.Context, class string, ready *practical.Ready) (practical.Scheme, int, error) {
	kept, err := a.store.Read().Schemes(ctx, class, ready.ID)
	if err != nil {
		return practical.Scheme{}, 0, fmt.Errorf("reading schemes: %w", err)
	}
	if len(kept) == 0 {
		return marking.Of(ready), 0, nil
	}
	last := kept[len(kept)-1]
	var s practical.Scheme
	if err := json.Unmarshal(last.Document, &s); err != nil {
		return practical.Scheme{}, 0, fmt.Errorf("reading a scheme: %w", err)
	}
	return s, last.Revision, nil
}

// report is what a version of a report is marked by.
func (d *desk) report(ctx context.Context, s store.ToMark) (marking.Report, error) {
	e, err := d.a.examine(ctx, s.Notebook, s.Version)
	if err != nil {
		return marking.Report{}, err
	}
	r := marking.Report{Ready: e.ready, Evaluation: e.ev, Late: s.Late, Asked: len(d.asked), Right: len(d.right[s.Student])}
	switch mean := e.ev.Agreement.Mean; {
	case e.known:
		r.Titre, r.Referred = e.off, marking.ByTruth
	case d.titre > 0 && mean != nil:
		r.Titre, r.Referred = mean.Float64()-d.titre, marking.ByTeacher
	}
	return r, nil
}

// inForce are the awards of a version that count, by criterion.
func (d *desk) inForce(s store.ToMark, reading Reading) map[string]store.Award {
	return inForce(d.awards, s.Notebook, s.Version, reading)
}

func inForce(all []store.Award, notebook string, version int, reading Reading) map[string]store.Award {
	out := map[string]store.Award{}
	for _, w := range all {
		if w.Notebook == notebook && w.Version == version && w.Reading == int(reading) {
			out[w.Criterion] = w
		}
	}
	return out
}

// marksOf are the marks among awards.
func marksOf(awards map[string]store.Award) map[string]float64 {
	out := map[string]float64{}
	for c, w := range awards {
		if v, ok := view.Marks(w.Marks); ok {
			out[c] = v
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

// Order is how the reports on a desk are ordered.
type Order string

// The orders: by name, by the code that stands for it, reports with the same slips
// together.
const (
	ByName  Order = "name"
	ByCode  Order = "code"
	Similar Order = "similar"
)

// DeskAsked is how somebody wants to mark.
type DeskAsked struct {
	Reading   Reading
	Anonymous bool
	Order     Order
}

// Desk is where a class is marked.
type Desk struct {
	Class      string                `json:"class" doc:"name of the class"`
	Title      string                `json:"title"`
	MayRelease bool                  `json:"mayRelease"`
	MayMark    bool                  `json:"mayMark"`
	Scheme     practical.Scheme      `json:"scheme"`
	Revision   int                   `json:"revision" doc:"of the scheme; 0: as the practical says, or as it follows from it"`
	Parts      view.SchemeParts      `json:"parts" doc:"what the scheme can be made of"`
	Criteria   []view.NamedCriterion `json:"criteria"`
	Possible   float64               `json:"possible"`
	Reports    []view.DeskRow        `json:"reports"`
	Requests   []MarkRequest         `json:"requests" doc:"that are open"`
	Missing    int                   `json:"missing" doc:"students whose report was not handed in, or was given back"`
}

// Desk shows where a class is marked.
func (a *App) Desk(ctx context.Context, p Person, class, id string, asked DeskAsked) (Desk, error) {
	d, err := a.deskOf(ctx, p, class, id)
	if err != nil {
		return Desk{}, err
	}
	out := Desk{Class: p.in(class).Name, Title: d.ready.Title, MayRelease: May(p, ReleaseMarks, Thing{Class: class}), MayMark: May(p, MarkReports, Thing{Class: class}),
		Scheme: d.scheme, Revision: d.revision, Criteria: view.Criteria(d.ready, d.scheme, p.Style()), Possible: d.scheme.Total().Float64(),
		Parts:   view.SchemePartsOf(d.ready, p.Style()),
		Reports: []view.DeskRow{}, Requests: []MarkRequest{}}
	for _, s := range d.toMark {
		row, err := d.row(ctx, s, asked)
		if err != nil {
			return Desk{}, err
		}
		out.Reports = append(out.Reports, row)
	}
	for _, m := range d.members {
		if Role(m.Role) == Student && !slices.ContainsFunc(d.toMark, func(s store.ToMark) bool { return s.Student == m.ID }) {
			out.Missing++
		}
	}
	for _, r := range d.requests {
		if r.Answered.IsZero() {
			out.Requests = append(out.Requests, d.request(r))
		}
	}
	slices.SortStableFunc(out.Reports, func(x, y view.DeskRow) int {
		switch {
		case asked.Order == Similar:
			return cmp.Or(-cmp.Compare(len(x.Slips), len(y.Slips)), strings.Compare(strings.Join(x.Slips, " "), strings.Join(y.Slips, " ")), cmp.Compare(y.Proposed, x.Proposed))
		case asked.Order == ByCode, asked.Anonymous: // names must not show in the order
			return strings.Compare(x.Code, y.Code)
		}
		return 0
	})
	return out, nil
}

// row is a report on the desk. What fails in one report fails there alone.
func (d *desk) row(ctx context.Context, s store.ToMark, asked DeskAsked) (view.DeskRow, error) {
	row := view.DeskRow{Notebook: s.Notebook, Version: s.Version, Name: nameFor(d.p, s.Name), Code: codeOf(s.Notebook), Late: s.Late,
		Released: d.released[versionKey(s.Notebook, s.Version)], Cells: []view.MarkCell{}, Slips: []string{}}
	if asked.Anonymous {
		row.Name = row.Code
	}
	for _, r := range d.requests {
		if r.Notebook == s.Notebook && r.Version == s.Version && r.Answered.IsZero() {
			row.Requests++
		}
	}
	report, err := d.report(ctx, s)
	var proposals []marking.Proposal
	if err == nil {
		proposals = marking.Evaluate(d.scheme, report)
	} else if ctx.Err() != nil {
		return row, err
	} else {
		d.a.log("a report cannot be marked by its evidence", "notebook", s.Notebook, "err", err)
		row.Broken, proposals = view.Broken(d.p.Style()), make([]marking.Proposal, len(d.scheme.Criteria))
	}
	awards := d.inForce(s, asked.Reading)
	for i, c := range d.scheme.Criteria {
		row.Add(c, proposals[i], awardOf(awards[c.ID], d.p))
	}
	return row, nil
}

// awardOf is an award as a reader sees it; nil where nothing is awarded.
func awardOf(w store.Award, p Person) *view.Award {
	if w.ID == 0 {
		return nil
	}
	out := &view.Award{ID: w.ID, Comment: w.Comment, How: w.How, By: nameFor(p, w.By), At: w.Made}
	if v, ok := view.Marks(w.Marks); ok {
		out.Marks = &v
	}
	return out
}

// MarkSheet is one report on the desk, with the evidence beside each criterion.
type MarkSheet struct {
	Notebook string          `json:"notebook"`
	Version  int             `json:"version"`
	Name     string          `json:"name" doc:"or the code that stands for it"`
	Released *time.Time      `json:"released,omitempty"`
	Lines    []view.MarkLine `json:"lines"`
	Total    float64         `json:"total" doc:"of what was awarded"`
	Whole    bool            `json:"whole" doc:"every criterion was awarded"`
	Possible float64         `json:"possible"`
	Revision int             `json:"revision" doc:"of the scheme"`
	Report   view.Report     `json:"report"`
	Requests []MarkRequest   `json:"requests"`
}

// toMarkOf finds a report that is to be marked, with its desk.
func (a *App) toMarkOf(ctx context.Context, p Person, notebook string) (*desk, store.ToMark, opened, error) {
	o, err := a.open(ctx, p, notebook)
	if err != nil {
		return nil, store.ToMark{}, o, err
	}
	if !o.role.Teaches() {
		return nil, store.ToMark{}, o, fmt.Errorf("marking: %w", ErrForbidden)
	}
	d, err := a.deskOf(ctx, p, o.Class, o.Practical.ID)
	if err != nil {
		return nil, store.ToMark{}, o, err
	}
	for _, s := range d.toMark {
		if s.Notebook == notebook {
			return d, s, o, nil
		}
	}
	return nil, store.ToMark{}, o, notHandedIn.Fault("version")
}

// MarkSheet shows a report on the desk.
func (a *App) MarkSheet(ctx context.Context, p Person, notebook string, asked DeskAsked) (MarkSheet, error) {
	d, s, o, err := a.toMarkOf(ctx, p, notebook)
	if err != nil {
		return MarkSheet{}, err
	}
	out, err := d.sheet(ctx, s, asked.Reading)
	if err != nil {
		return MarkSheet{}, err
	}
	if out.Report, err = a.report(ctx, p, o, s.Version); err != nil {
		return MarkSheet{}, err
	}
	if asked.Anonymous {
		out.Name = codeOf(notebook)
		out.Report.Anonymous(out.Name)
	}
	return out, nil
}

// sheet are the criteria of a report with their evidence and awards.
func (d *desk) sheet(ctx context.Context, s store.ToMark, reading Reading) (MarkSheet, error) {
	report, err := d.report(ctx, s)
	if err != nil {
		return MarkSheet{}, err
	}
	awards := d.inForce(s, reading)
	out := MarkSheet{Notebook: s.Notebook, Version: s.Version, Name: nameFor(d.p, s.Name), Possible: d.scheme.Total().Float64(), Revision: d.revision, Requests: []MarkRequest{}}
	out.Total, out.Whole = marking.Total(d.scheme, marksOf(awards))
	out.Lines = view.MarkLines(report.Ready, report.Evaluation, d.scheme, marking.Evaluate(d.scheme, report), d.p.Style())
	for i, c := range d.scheme.Criteria {
		out.Lines[i].Award = awardOf(awards[c.ID], d.p)
		for _, w := range d.awards {
			if w.Notebook == s.Notebook && w.Version == s.Version && w.Criterion == c.ID && w.Reading == int(reading) {
				out.Lines[i].History = append(out.Lines[i].History, *awardOf(w, d.p))
			}
		}
	}
	for _, r := range d.requests {
		if r.Notebook == s.Notebook && r.Version == s.Version {
			out.Requests = append(out.Requests, d.request(r))
		}
	}
	kept, err := d.a.store.Read().Releases(ctx, s.Notebook)
	for _, r := range kept {
		if r.Version == s.Version {
			out.Released = &r.Made
		}
	}
	return out, err
}

// CommentBank are comments that were used on a criterion.
func (a *App) CommentBank(ctx context.Context, p Person, class, id, criterion string) ([]store.UsedComment, error) {
	if err := allowed(p, SeeRoll, class); err != nil {
		return nil, err
	}
	return a.store.Read().CommentBank(ctx, p.ID, id, criterion)
}
