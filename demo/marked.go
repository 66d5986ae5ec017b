package demo

import (
	"bytes"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"exactflask/app"
	"exactflask/app/access"
	"exactflask/app/classes"
	"exactflask/app/marking"
	"exactflask/app/practicals"
	"exactflask/core/judgement/experiment"
	"exactflask/core/judgement/working"
	"exactflask/core/practice/sim"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/docs/examples"
	"exactflask/formats"
	"exactflask/view"
)

// Monday is the class whose reports are handed in: half of one practical marked, another
// released.
const Monday = "Kelp Laboratory, Monday group"

var kelpNames = strings.Split(`Arlo Venn|Bettina Quay|Corin Ashdown|Dilys Marlowe|Emrys Falk|Freya Lockhart|Garrick Noll|Hester Bly|Idris Cope|Juno Haldane|Kit Ormerod|Lysander Poe|Maud Ferrier|Nils Ostrand|Orla Penhale|Perrin Skye|Rosalind Thane|Stellan Weir|Thora Underhill|Ulric Bane|Vesna Clough|Wilmot Drey|Xenia Farrar|Yorick Lamb`, "|")

// report is what a student of that class hands in.
type report struct {
	slip  string // of the working
	skill sim.Skill
	stop  int // accurate trials after which the student stopped; 0: went on until they agreed
	text  int // quality of what is written: 2 good, 1 thin, 0 nothing
	late  bool
	given string // why it was given back
	fault string // made all the time
}

// reports are those of the class, in turn: good ones, one slip each of ten kinds, titres
// averaged that do not agree, a mean with the rough, some that never agreed, a late one
// and one that was given back.
var reports = []report{
	{skill: sim.Careful, text: 2}, {skill: sim.Usual, text: 1}, {skill: sim.Usual, text: 2, slip: "thousand"}, {skill: sim.Careful, text: 1, slip: "ratio-inverted"},
	{skill: sim.Careful, text: 2, slip: "ratio-left-out"}, {skill: sim.Usual, text: 0, slip: "dilution-left-out"}, {skill: sim.Usual, text: 1, slip: "molar-mass-left-out"},
	{skill: sim.Careful, text: 2}, {skill: sim.Careful, text: 1, slip: "volumes-swapped"}, {skill: sim.Usual, text: 1, slip: "digits-swapped"},
	{skill: sim.Careful, text: 2, slip: "rounded-early"}, {skill: sim.Hasty, text: 1, slip: "upside-down"}, {skill: sim.Usual, text: 1, slip: "rough-included"},
	{skill: sim.Hasty, text: 0, slip: "all-averaged"}, {skill: sim.Hasty, text: 1, stop: 2}, {skill: sim.Careful, text: 2, slip: "ten"},
	{skill: sim.Careful, text: 2, fault: "cause.bubble"}, {skill: sim.Usual, text: 2}, {skill: sim.Careful, text: 1, slip: "dilution-left-out"},
	{skill: sim.Usual, text: 0, fault: "cause.burette-wet"}, {skill: sim.Careful, text: 2, slip: "start-left-out"}, {skill: sim.Careful, text: 2, slip: "dilution-left-out"},
	{skill: sim.Usual, text: 1, late: true}, {skill: sim.Hasty, text: 0, given: "Say in your own words what you did, and hand it in again."},
}

// texts are what is written, by passage and quality.
var texts = map[string][3]string{
	"method": {"", "We titrated it until it changed colour.",
		"I pipetted an aliquot of the diluted sample into a conical flask, added potassium iodide and dilute acid, and titrated the iodine with thiosulfate. Starch went in when the brown had paled to straw; I stopped at the first lasting colourless."},
	"explain": {"", "Human error.",
		"My end point was slow to fade near the end, and one drop more is about 0.05 mL of 22 mL, so 0.2 %. The pipette adds about as much. Iodine lost from a flask that stands open makes the result low, which fits the sign of the difference."},
	"differently": {"", "Be more careful.",
		"I would titrate each flask as soon as the iodide is in, keep it stoppered until then, and run a blank on the iodide."},
}

// fillMarked makes the class whose reports are handed in.
func fillMarked(ctx context.Context, a *app.App, farrow access.Person) error {
	c := class{name: Monday, term: "Autumn 2026", people: kelpNames}
	id, err := a.Classes.MakeClass(ctx, farrow, classes.NewClass{Name: c.name, Term: c.term})
	if err != nil {
		return err
	}
	if farrow, err = a.Person(ctx, farrow.ID); err != nil {
		return err
	}
	students, err := c.enrol(ctx, a, farrow, id)
	if err != nil {
		return err
	}
	released := set{file: "vitamin-c-feed.json", unknowns: map[string]string{"A": "96", "B": "104"}}
	if err := released.collect(ctx, taught{a, farrow, id}, students[:12], 700, 12); err != nil {
		return fmt.Errorf("%s: %w", released.file, err)
	}
	toMark := set{file: "pond-bleach.json", unknowns: map[string]string{"A": "9.60", "B": "10.00", "C": "10.40", "D": "10.90"}}
	return toMark.collect(ctx, taught{a, farrow, id}, students, 900, 12)
}

// taught is a class of the demo with who teaches it.
type taught struct {
	app    *app.App
	farrow access.Person
	class  string
}

// collect sets a practical, lets the students hand in, and marks the first so many. Where
// all are marked, the marks are released.
func (s set) collect(ctx context.Context, at taught, students []access.Person, seed uint64, marked int) error {
	a, farrow, class := at.app, at.farrow, at.class
	text, err := examples.Files.ReadFile(s.file)
	if err != nil {
		return err
	}
	doc, err := formats.Read(bytes.NewReader(text))
	if err != nil {
		return err
	}
	doc.Practical.ID += "-marked"
	doc.Practical.Showing.Results = practical.AfterMarking
	doc.Practical.Exercise.Leave = practical.PlanQuestions
	p, err := a.Practicals.AssignRevision(ctx, farrow, class, doc.Practical)
	if err != nil {
		return err
	}
	settings := practicals.NewSettings{Unknowns: s.samples()}
	if err := a.Practicals.SetSettings(ctx, farrow, class, p.ID, settings); err != nil {
		return err
	}
	if settings.Deals, err = s.settle(ctx, a, farrow, class, p.ID, seed); err != nil {
		return err
	}
	if err := a.Practicals.SetSettings(ctx, farrow, class, p.ID, settings); err != nil {
		return err
	}
	ready, fault := p.Check()
	if fault != nil {
		return fault
	}
	var notebooks []string
	for i, student := range students {
		r := reports[i%len(reports)]
		if r.late { // everybody else was in time
			due := time.Now().UTC().Add(-time.Minute)
			settings.Times.Due = &due
			if err := a.Practicals.SetSettings(ctx, farrow, class, p.ID, settings); err != nil {
				return err
			}
		}
		truth := decimal.Must(s.unknowns[settings.Deals[student.ID]]).Float64()
		notebook, err := r.handIn(ctx, at, ready, student, sim.Student{Answer: truth, Seed: seed*1000 + uint64(i)*50})
		if err != nil {
			return fmt.Errorf("%s: %w", student.Name, err)
		}
		notebooks = append(notebooks, notebook)
	}
	for i, notebook := range notebooks[:marked] {
		if err := reports[i%len(reports)].mark(ctx, a, farrow, notebook); err != nil {
			return fmt.Errorf("marking: %w", err)
		}
	}
	if marked == len(notebooks) {
		_, err = a.Marking.Release(ctx, farrow, class, p.ID, notebooks)
	}
	return err
}

// handIn lets a student work, write and hand in.
func (r report) handIn(ctx context.Context, at taught, ready *practical.Ready, student access.Person, of sim.Student) (string, error) {
	a, seed := at.app, of.Seed
	of.Skill, of.Stop, of.Device, of.Begin = r.skill, r.stop, "simulated", time.Now().Add(-3*time.Hour)
	if r.fault != "" {
		of.Faults = []string{r.fault}
	}
	var entries []journal.Entry
	for try := range uint64(50) { // a record in which the slip can be made
		of.Seed = seed + try
		record, err := sim.Titrate(ready, of)
		if err != nil {
			return "", err
		}
		worked := sim.Work(ready, record, of, r.slip)
		entries = append(record, worked.Entries...)
		named := func(s working.Step) bool { return s.Slip == "slip."+r.slip }
		if r.slip == "" || slices.ContainsFunc(experiment.Evaluate(ready, entries, experiment.PartResult|experiment.PartVerdicts).Work, named) {
			break
		}
	}
	add := func(id string, part journal.Part) {
		last := entries[len(entries)-1]
		entries = append(entries, journal.Entry{ID: fmt.Sprintf("%s-%d", id, of.Seed), Device: of.Device, Clock: last.Clock + 1, At: last.At.Add(time.Minute), Part: part})
	}
	for i, item := range ready.Cleanup() {
		if r.skill != sim.Hasty {
			add(fmt.Sprintf("tidy-%d", i), journal.Checked{Item: item})
		}
	}
	for _, p := range ready.Passages() {
		text := texts[p.Prompt][r.text]
		if text != "" {
			add("text-"+p.Prompt, journal.Passage{Prompt: p.Prompt, Written: text})
		}
	}
	notebook, err := a.Bench.Begin(ctx, student, at.class, ready.ID, "")
	if err != nil {
		return "", err
	}
	if _, err := a.Bench.Append(ctx, student, notebook, 0, until(a.Now(), entries)); err != nil {
		return "", err
	}
	if _, err := a.Bench.HandIn(ctx, student, notebook, len(entries)); err != nil {
		return "", err
	}
	if r.given != "" {
		return notebook, a.Bench.Return(ctx, at.farrow, notebook, 1, r.given)
	}
	return notebook, nil
}

// remarks are what is said of a text, by quality.
var remarks = [3]string{"Nothing is written here.", "Too general: which error, how large, and in which direction?", ""}

// mark awards what is proposed, and marks of a person for what is written.
func (r report) mark(ctx context.Context, a *app.App, farrow access.Person, notebook string) error {
	sheet, err := a.Marking.MarkSheet(ctx, farrow, notebook, marking.DeskAsked{Pass: marking.First})
	if err != nil {
		return err
	}
	var given []marking.NewAward
	for _, l := range sheet.Lines {
		award := marking.NewAward{Criterion: l.ID, Marks: l.Proposed}
		if award.Marks == nil {
			var marks decimal.Decimal
			if l.Rule == practical.MarkPerson {
				marks, award.Comment = decimal.Whole(int64(r.text)), remarks[r.text]
			}
			if marks.Cmp(l.Most.Decimal) > 0 {
				marks = l.Most.Decimal
			}
			award.Marks = view.Shown(&marks)
		}
		given = append(given, award)
	}
	_, err = a.Marking.Award(ctx, farrow, notebook, marking.First, given)
	return err
}
