package view

import (
	"time"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/handin"
	"exactflask/core/model/followed"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
	"exactflask/wording"
)

// Report is a notebook as a page of a report: everything that stands in it, in
// one shape for screen, print and files.
type Report struct {
	Title       string                    `json:"title"`
	Purpose     string                    `json:"purpose,omitempty"`
	Student     string                    `json:"student"`
	Partners    []string                  `json:"partners"`
	Class       string                    `json:"class"`
	Begun       time.Time                 `json:"begun"`
	Setting     Setting                   `json:"setting"`
	Columns     []Column                  `json:"columns" doc:"of the table of readings"`
	Rows        []Row                     `json:"rows" doc:"one for each trial"`
	Agreement   string                    `json:"agreement"`
	Remarks     []string                  `json:"remarks"`
	Observed    []LogLine                 `json:"observed" doc:"weighings, solutions made, observations, waiting times"`
	Answer      *Answer                   `json:"answer,omitempty"`
	Samples     []Sample                  `json:"samples,omitempty" doc:"of several samples what was found for each"`
	Withheld    bool                      `json:"withheld,omitempty"`
	Own         []OwnStep                 `json:"own" doc:"the student's own working"`
	Notes       []ReportNote              `json:"notes"`
	Corrections []Corrected               `json:"corrections" doc:"what was struck through, and why"`
	Findings    []Sentence                `json:"findings"`
	Entries     int                       `json:"entries"`
	Seal        string                    `json:"seal,omitempty" doc:"the beginning of the hash in which the chain of the record ends"`
	Style       practical.Style           `json:"style"`
	Units       UnitTexts                 `json:"units"`
	Probe       *ProbeState               `json:"probe,omitempty" doc:"how the probe stood, where one was used"`
	Runs        []Run                     `json:"runs,omitempty" doc:"what the curve of each run says"`
	Points      []followed.RunPoint       `json:"points,omitempty" doc:"of all runs, in order"`
	Passages    []ReportPassage           `json:"passages" doc:"what the student writes, in the order of the report"`
	Pictures    []evaluation.ShownPicture `json:"pictures"`
	Lacks       []ReportLack              `json:"lacks" doc:"what is empty or odd before it is handed in"`
	Version     int                       `json:"version,omitempty" doc:"of what was handed in; left out: as it stands now"`
	Changes     []string                  `json:"changes" doc:"what differs from the version before"`
	Submissions []Submission              `json:"submissions" doc:"every version that was handed in"`
	Due         *time.Time                `json:"due,omitempty"`
	Until       *time.Time                `json:"until,omitempty" doc:"late reports are taken until then"`
}

// ReportPassage is a passage that the student writes.
type ReportPassage struct {
	evaluation.WrittenPassage
	Title string `json:"title" doc:"what is asked"`
}

// ReportLack is something that is empty or odd.
type ReportLack struct {
	Code  string       `json:"code"`
	Text  string       `json:"text"`
	Where handin.Where `json:"where" enum:"bench,work,report"`
}

// Submission is a version of the report that was handed in.
type Submission struct {
	Version    int        `json:"version"`
	At         time.Time  `json:"at" doc:"by the server's clock"`
	By         string     `json:"by"`
	Late       bool       `json:"late,omitempty"`
	Entries    int        `json:"entries"`
	Hash       string     `json:"hash" doc:"SHA-256 of the receipt"`
	Receipt    string     `json:"receipt" doc:"what the hash is of"`
	Returned   *time.Time `json:"returned,omitempty" doc:"it was given back for another version"`
	ReturnedBy string     `json:"returnedBy,omitempty"`
	Reason     string     `json:"reason,omitempty"`
	Awaits     []string   `json:"awaits,omitempty" doc:"names of those who have to agree before it is handed in; then it was not yet"`
}

// Column is a column of the table of readings.
type Column struct {
	Code string        `json:"code"`
	Name string        `json:"name"`
	Unit quantity.Unit `json:"unit,omitempty" doc:"code of the unit of its figures"`
	Head string        `json:"head" doc:"name and unit, as they are shown"`
}

// Row is a trial in the table of readings.
type Row struct {
	Trial  string `json:"trial" doc:"id of the trial"`
	Name   string `json:"name"`
	Cells  []Cell `json:"cells" doc:"one for each column"`
	Reason string `json:"reason"`
	Struck bool   `json:"struck,omitempty" doc:"set aside or withdrawn"`
	Counts bool   `json:"counts,omitempty"`
}

// Cell is what stands in a place, and what once stood there.
type Cell struct {
	Text   string           `json:"text" doc:"as it is shown"`
	Value  *decimal.Decimal `json:"value,omitempty" doc:"the figure, in the unit of the column; left out where there is none"`
	Struck []string         `json:"struck,omitempty"`
}

// OwnStep is a step of the student's own working.
type OwnStep struct {
	Title   string   `json:"title"`
	Value   string   `json:"value"`
	Verdict string   `json:"verdict,omitempty"`
	Struck  []string `json:"struck,omitempty"`
}

// ReportNote is a note, or something that is said of the whole record.
type ReportNote struct {
	Text   string `json:"text"`
	Struck bool   `json:"struck,omitempty" doc:"withdrawn: shown struck through"`
}

// Corrected is something that was struck through.
type Corrected struct {
	Trial  string    `json:"trial,omitempty"`
	Place  string    `json:"place"`
	Text   string    `json:"text"`
	Reason string    `json:"reason,omitempty" doc:"left out where a reading was simply taken again"`
	By     string    `json:"by,omitempty"`
	At     time.Time `json:"at"`
}

// About is what a report says beside the notebook's own sheet.
type About struct {
	Student, Class string
	Partners       []string
	Begun          time.Time
	People         map[string]string // names by id
	Seal           string            // hash in which the chain of the record ends
	Far            int               // entries that are dated far from when they came in
}

// sealLength is how many hexadecimal digits of the last hash a report shows.
const sealLength = 16

// For returns the writer of a sheet's reader.
func For(s Sheet) wording.Writer { return wording.For(s.Style) }

// ReportOf composes the report of a notebook from its sheet.
func ReportOf(r *practical.Ready, s Sheet, about About) Report {
	w := For(s)
	out := Report{Title: r.Title, Purpose: r.Purpose, Student: about.Student, Partners: about.Partners,
		Class: about.Class, Begun: about.Begun, Setting: s.Setting,
		Agreement: s.Agreement.Text, Remarks: s.Remarks, Observed: s.Log, Answer: s.Answer, Samples: s.Samples, Withheld: s.Withheld, Notes: []ReportNote{}, Corrections: []Corrected{},
		Findings: s.Findings, Entries: s.Entries, Style: s.Style}
	if out.Partners == nil {
		out.Partners = []string{}
	}
	cells := columnsOf(r, s.Trials)
	if r.MadeOnly() && len(s.Trials) == 0 {
		cells = nil // there is nothing to read
	}
	out.Columns = []Column{}
	for _, c := range cells {
		name := w.Text("column." + c.code)
		head := name
		if unit := w.Unit(c.unit); unit != "" {
			head += " / " + unit
		}
		out.Columns = append(out.Columns, Column{c.code, name, c.unit, head})
	}
	out.Rows = make([]Row, len(s.Trials))
	for i, t := range s.Trials {
		name := t.Name
		if t.OfSample != "" {
			name += " · " + t.OfSample
		}
		row := Row{Trial: t.ID, Name: name, Reason: t.ReasonText, Struck: t.SetAside != nil || t.Withdrawn, Counts: t.Counts}
		for _, c := range cells {
			row.Cells = append(row.Cells, c.cell(t.Trial))
		}
		out.Rows[i] = row
		out.Corrections = append(out.Corrections, corrections(w, t, about.People)...)
	}
	if about.Far > 0 {
		out.Notes = append(out.Notes, ReportNote{Text: w.Text("report.far", "count", finding.Count(about.Far))})
	}
	out.Seal = about.Seal[:min(len(about.Seal), sealLength)]
	for _, n := range s.Notes {
		out.Notes = append(out.Notes, ReportNote{n.Text, n.Withdrawn})
	}
	out.Own = ownSteps(w, s.Work)
	out.Passages, out.Pictures, out.Lacks = s.Passages, s.Pictures, s.Lacks
	out.Changes, out.Submissions = []string{}, []Submission{}
	out.Units, out.Probe, out.Runs, out.Points = s.Units, s.Probe, s.Runs, s.Points
	for _, run := range s.Runs {
		out.Corrections = append(out.Corrections, correctedPoints(w, run, s.Points, about.People)...)
	}
	names := map[string]string{}
	for _, t := range s.Trials {
		names[t.ID] = t.Name
	}
	for _, a := range s.Amended {
		out.Corrections = append(out.Corrections, Corrected{Trial: names[a.Trial], Place: w.Text("journal.kind." + string(a.Kind)),
			Text: w.Say(said(w, a.Was)), Reason: a.Reason, By: about.People[a.By], At: a.At})
	}
	return out
}

// ownSteps are the steps of the own working that were answered, with what was answered before.
func ownSteps(w wording.Writer, work []WorkStep) []OwnStep {
	out := []OwnStep{}
	for _, step := range work {
		if step.Answer == nil {
			continue
		}
		own := OwnStep{Title: step.Title, Value: asTyped(w, step.Answer.Text, step.Answer.Unit), Verdict: step.VerdictText}
		for _, old := range step.Struck {
			own.Struck = append(own.Struck, asTyped(w, old.Text, old.Unit))
		}
		out = append(out, own)
	}
	return out
}

// correctedPoints is what stood at the points of a run before.
func correctedPoints(w wording.Writer, run Run, points []followed.RunPoint, people map[string]string) []Corrected {
	var out []Corrected
	for _, p := range points {
		if p.Trial != run.Trial {
			continue
		}
		for _, old := range p.Struck {
			out = append(out, Corrected{Trial: run.Name, Place: w.Text("struck.others"), Text: old.Text, Reason: old.Reason, By: people[old.By], At: old.At})
		}
	}
	return out
}

// ChangesOf says what differs between two versions of a report, a sentence each.
func ChangesOf(r *practical.Ready, before, after journal.Contents, style practical.Style) []string {
	w := Writer(r, style)
	out := []string{}
	for _, p := range r.Passages() {
		was, is := textOf(before, p.Prompt), textOf(after, p.Prompt)
		if was != is {
			out = append(out, w.Text("changes.passage", "passage", finding.Said(handin.Named(p)), "was", finding.Text(was), "text", finding.Text(is)))
		}
	}
	for _, c := range []struct {
		code string
		more int
	}{{"changes.trials", len(after.Trials) - len(before.Trials)}, {"changes.notes", standing(after) - standing(before)},
		{"changes.answers", len(after.Answers) - len(before.Answers)}, {"changes.pictures", len(after.Pictures) - len(before.Pictures)},
		{"changes.entries", after.Entries - before.Entries}} {
		if c.more != 0 {
			out = append(out, w.Text(c.code, "count", finding.Count(c.more)))
		}
	}
	return out
}

// standing are the notes that were not withdrawn.
func standing(c journal.Contents) (n int) {
	for _, note := range c.Notes {
		if !note.Withdrawn {
			n++
		}
	}
	return n
}

func textOf(c journal.Contents, prompt string) string {
	if stand := c.Passages[prompt]; len(stand) > 0 {
		return stand[len(stand)-1].Part.(journal.Passage).Written
	}
	return ""
}

// column is a column that this notebook needs.
type column struct {
	code string
	unit quantity.Unit
	cell func(evaluation.Trial) Cell
}

// Nothing stands in a cell in which there is nothing.
const Nothing = "–"

func written(r *journal.Reading, struck []journal.Struck) Cell {
	c := Cell{Text: Nothing}
	if r != nil {
		c.Text, c.Value = r.Text, &r.Value
	}
	for _, s := range struck {
		c.Struck = append(c.Struck, s.Text)
	}
	return c
}

func reading(of func(evaluation.Trial) *journal.Reading) func(evaluation.Trial) Cell {
	return func(t evaluation.Trial) Cell { return written(of(t), nil) }
}

func exactly(v *decimal.Decimal) Cell {
	if v == nil {
		return Cell{Text: Nothing}
	}
	return Cell{Text: wording.Minus(v.String()), Value: v}
}

// columnsOf are the columns that the practical asks for, and those of fillings
// where there were any.
func columnsOf(r *practical.Ready, trials []Trial) []column {
	mL := quantity.Millilitre
	var out []column
	if r.SampleBurette() {
		out = append(out, column{"sample-start", mL, reading(func(t evaluation.Trial) *journal.Reading { return t.SampleStart })},
			column{"sample-end", mL, reading(func(t evaluation.Trial) *journal.Reading { return t.SampleEnd })},
			column{"sample", mL, func(t evaluation.Trial) Cell { return exactly(t.Sample) }})
	}
	if r.ReagentBurette() {
		out = append(out, column{"reagent", mL, func(t evaluation.Trial) Cell {
			return exactly(t.Reagent)
		}})
	}
	if r.MassEach() {
		out = append(out, column{"mass", quantity.Gram, func(t evaluation.Trial) Cell {
			return exactly(t.Mass)
		}})
	}
	out = append(out, column{"start", mL, func(t evaluation.Trial) Cell { return written(t.Start, t.Struck.Start) }})
	refilled := false
	for _, t := range trials {
		refilled = refilled || len(t.Refills) > 0
	}
	if refilled {
		out = append(out, column{"refills", mL, refills})
	}
	if r.Chemistry.EndPoints != practical.OneEndPoint {
		out = append(out, column{"first-end", mL, reading(func(t evaluation.Trial) *journal.Reading { return t.FirstEnd })})
	}
	out = append(out, column{"end", mL, func(t evaluation.Trial) Cell { return written(t.End, t.Struck.End) }})
	if r.Probed() {
		out = append(out, column{"curve-end", mL, func(t evaluation.Trial) Cell { return exactly(t.OnCurve) }})
	}
	if r.Chemistry.EndPoints != practical.OneEndPoint {
		out = append(out, column{"first-titre", mL, func(t evaluation.Trial) Cell {
			return exactly(t.FirstTitre)
		}})
	}
	return append(out, column{"titre", mL, func(t evaluation.Trial) Cell { return exactly(t.Titre) }})
}

// refills writes the readings before and after each filling.
func refills(t evaluation.Trial) Cell {
	text := ""
	for _, f := range t.Refills {
		if text != "" {
			text += "; "
		}
		text += written(f.Before, nil).Text + " → " + written(f.After, nil).Text
	}
	return Cell{Text: text}
}

func corrections(w wording.Writer, t Trial, people map[string]string) []Corrected {
	var out []Corrected
	for _, h := range []struct {
		code   string
		struck []journal.Struck
	}{{"type", t.Struck.Type}, {"start", t.Struck.Start}, {"end", t.Struck.End}, {"others",
		t.Struck.Others}, {"set-aside", t.Struck.SetAside}} {
		for _, s := range h.struck {
			text := s.Text
			if h.code == "type" {
				text = w.Text("trial-type." + text)
			}
			out = append(out, Corrected{Trial: t.Name, Place: w.Text("struck." + h.code), Text: text, Reason: s.Reason,
				By: people[s.By], At: s.At})
		}
	}
	return out
}

// asTyped is a figure of the own working with its unit, once: it may stand in what was typed.
func asTyped(w wording.Writer, text string, unit quantity.Unit) string {
	if _, typed, err := journal.ParseFigure(text); err == nil && typed != "" {
		return text
	}
	return text + w.After(unit)
}
