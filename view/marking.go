//go:build !js

// The page does without this: its core neither marks nor plans.

package view

import (
	"cmp"
	"slices"
	"time"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/handin"
	"exactflask/core/judgement/marking"
	"exactflask/core/model/derivation"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
	"exactflask/wording"
)

// NamedCriterion is a criterion of a scheme in words.
type NamedCriterion struct {
	ID    string             `json:"id"`
	Rule  practical.MarkRule `json:"rule"`
	Title string             `json:"title"`
	Most  decimal.Number     `json:"most" doc:"marks that can be had"`
}

// NamedStep is a step of the working, or a passage, that a criterion can be about.
type NamedStep struct {
	Code string `json:"code"`
	Text string `json:"text"`
}

// StepsOf names the steps that a criterion of a practical can be about.
func StepsOf(r *practical.Ready, style practical.Style) []NamedStep {
	w := Writer(r, style).Working(derivation.Derivation{}, quantity.Quantity{}, nil)
	out := []NamedStep{}
	for _, s := range marking.StepsOf(r) {
		out = append(out, NamedStep{s.Key, w.OwnTitle(s.Step.Node, s.Step.Code)})
	}
	return out
}

// PassagesOf names the passages of a practical's report.
func PassagesOf(r *practical.Ready, style practical.Style) []NamedStep {
	w := Writer(r, style)
	out := []NamedStep{}
	for _, p := range r.Passages() {
		out = append(out, NamedStep{p.Prompt, w.Say(handin.Named(p))})
	}
	return out
}

// SchemeParts are what a marking scheme of a practical can be made of.
type SchemeParts struct {
	First    practical.Scheme `json:"first" doc:"that follows from the practical"`
	Rules    []NamedRule      `json:"rules" doc:"what marks can be proposed by"`
	Steps    []NamedStep      `json:"steps" doc:"of the working"`
	Passages []NamedStep      `json:"passages" doc:"that a person reads"`
}

// NamedRule is what marks can be proposed by, with its name.
type NamedRule struct {
	NamedStep
	Of string `json:"of" enum:"things,titre,value,person" doc:"what they follow from: from things that are not right, how close a titre (mL) or a value (%) is, or a person's judgement"`
}

// SchemePartsOf tells them.
func SchemePartsOf(r *practical.Ready, style practical.Style) SchemeParts {
	w := Writer(r, style)
	out := SchemeParts{First: marking.Propose(r), Rules: []NamedRule{}, Steps: StepsOf(r, style), Passages: PassagesOf(r, style)}
	for _, rule := range r.MarkRules() {
		of := "things"
		switch {
		case rule == practical.MarkTitre:
			of = "titre"
		case rule.Banded():
			of = "value"
		case rule == practical.MarkPerson:
			of = "person"
		}
		out.Rules = append(out.Rules, NamedRule{NamedStep{string(rule), criterion(w, r, rule)}, of})
	}
	return out
}

// criterion names a rule: nothing of a solution that is only made is a trial.
func criterion(w wording.Writer, r *practical.Ready, rule practical.MarkRule) string {
	if rule == practical.MarkComplete && r.MadeOnly() {
		return w.Text("criterion.complete-solution")
	}
	return w.Text("criterion." + string(rule))
}

// Criteria names the criteria of a scheme: in its own words, or the usual ones.
func Criteria(r *practical.Ready, s practical.Scheme, style practical.Style) []NamedCriterion {
	w := Writer(r, style)
	named := append(StepsOf(r, style), PassagesOf(r, style)...)
	out := make([]NamedCriterion, len(s.Criteria))
	for i, c := range s.Criteria {
		title := c.Text
		if title == "" {
			about := cmp.Or(c.Step, c.Prompt)
			if at := slices.IndexFunc(named, func(n NamedStep) bool { return n.Code == about && about != "" }); at >= 0 {
				title = named[at].Text
			} else {
				title = criterion(w, r, c.Rule)
			}
		}
		out[i] = NamedCriterion{c.ID, c.Rule, title, decimal.Number{Decimal: c.Marks}}
	}
	return out
}

// Award is what somebody gave for a criterion.
type Award struct {
	ID      int64           `json:"id"`
	Marks   *decimal.Number `json:"marks,omitempty" doc:"left out: taken back"`
	Comment string          `json:"comment,omitempty"`
	How     string          `json:"how" enum:"awarded,accepted,together,undone"`
	By      string          `json:"by"`
	At      time.Time       `json:"at"`
}

// MarkCell is a criterion of a report on the desk.
type MarkCell struct {
	Proposed *decimal.Number `json:"proposed,omitempty" doc:"left out where the evidence cannot tell"`
	Certain  bool            `json:"certain,omitempty"`
	Full     bool            `json:"full,omitempty" doc:"all marks, and certain: it may be accepted together with others"`
	Award    *Award          `json:"award,omitempty"`
}

// DeskRow is a report on the desk.
type DeskRow struct {
	Notebook string         `json:"notebook"`
	Version  int            `json:"version"`
	Name     string         `json:"name"`
	Code     string         `json:"code" doc:"stands for the name where marking is anonymous"`
	Late     bool           `json:"late,omitempty"`
	Released bool           `json:"released,omitempty"`
	Broken   string         `json:"broken,omitempty" doc:"said where its evidence cannot be read; it can be marked by a person"`
	Cells    []MarkCell     `json:"cells" doc:"one for each criterion"`
	Total    decimal.Number `json:"total" doc:"of what was awarded"`
	Open     int            `json:"open" doc:"criteria that nobody awarded yet"`
	Proposed decimal.Number `json:"proposed" doc:"sum of what is proposed"`
	Slips    []string       `json:"slips" doc:"codes of the slips that were named"`
	Requests int            `json:"requests,omitempty" doc:"that are open"`
}

// Add adds a criterion with its proposal and award.
func (row *DeskRow) Add(c practical.Criterion, p marking.Proposal, award *Award) {
	cell := MarkCell{Proposed: Shown(p.Marks), Certain: p.Certain, Full: p.Full(c), Award: award}
	if cell.Proposed != nil {
		row.Proposed.Decimal = row.Proposed.Add(*p.Marks)
	}
	if award != nil && award.Marks != nil {
		row.Total.Decimal = row.Total.Add(award.Marks.Decimal)
	} else {
		row.Open++
	}
	row.Slips = append(row.Slips, p.Slips...)
	row.Cells = append(row.Cells, cell)
}

// Shown are marks as a reader gets them; nil where there are none.
func Shown(marks *decimal.Decimal) *decimal.Number {
	if marks == nil {
		return nil
	}
	return &decimal.Number{Decimal: *marks}
}

// MarkLine is a criterion of one report with its evidence in words.
type MarkLine struct {
	NamedCriterion
	Proposed *decimal.Number `json:"proposed,omitempty" doc:"left out where the evidence cannot tell"`
	Certain  bool            `json:"certain,omitempty"`
	Lose     decimal.Number  `json:"lose" doc:"for each thing that is not right"`
	Why      []string        `json:"why"`
	Exact    []string        `json:"exact,omitempty" doc:"for markers only: how far from the true value"`
	Evidence []ShownMarked   `json:"evidence"`
	Award    *Award          `json:"award,omitempty"`
	History  []Award         `json:"history" doc:"everything that was awarded, in order"`
	Full     bool            `json:"full,omitempty" doc:"all of its marks were awarded"`
}

// ForStudent leaves out what is for markers only.
func (l *MarkLine) ForStudent() {
	l.Full = l.Award != nil && l.Award.Marks != nil && l.Award.Marks.Cmp(l.Most.Decimal) >= 0
	l.History, l.Exact, l.Proposed, l.Certain = []Award{}, nil, nil, false
	if l.Award != nil {
		l.Award.How, l.Award.ID = "awarded", 0
	}
}

// ShownMarked is a piece of evidence in words.
type ShownMarked struct {
	Title   string `json:"title" doc:"what it is: a trial, a step, a passage"`
	Text    string `json:"text" doc:"what stands there"`
	Follows string `json:"follows,omitempty" doc:"of a step: what follows from the student's own earlier figures"`
	Fits    bool   `json:"fits,omitempty"`
	Trial   string `json:"trial,omitempty"`
	Entry   string `json:"entry,omitempty"`
	Step    string `json:"step,omitempty"`
	Passage bool   `json:"passage,omitempty" doc:"a person reads it"`
}

// MarkLines put proposals with their evidence into words.
func MarkLines(r *practical.Ready, ev evaluation.Evaluation, s practical.Scheme, proposals []marking.Proposal, style practical.Style) []MarkLine {
	sheet := Of(r, ev, style)
	w := For(sheet)
	out := make([]MarkLine, len(proposals))
	for i, c := range Criteria(r, s, style) {
		p := proposals[i]
		line := MarkLine{NamedCriterion: c, Proposed: Shown(p.Marks), Certain: p.Certain, Lose: decimal.Number{Decimal: s.Criteria[i].Each()}, Why: []string{}, Evidence: []ShownMarked{}, History: []Award{}}
		for _, why := range p.Why {
			if text := w.Say(why); !slices.Contains(line.Why, text) {
				line.Why = append(line.Why, text)
			}
		}
		for _, exact := range p.Exact {
			line.Exact = append(line.Exact, w.Say(exact))
		}
		for _, e := range p.Evidence {
			line.Evidence = append(line.Evidence, sheet.evidence(w, e, p.Prompt))
		}
		out[i] = line
	}
	return out
}

// evidence puts a place of a report into words.
func (s Sheet) evidence(w wording.Writer, e marking.Evidence, prompt string) ShownMarked {
	out := ShownMarked{Trial: e.Trial, Entry: e.Entry, Step: e.Step, Fits: e.Fits}
	if e.Ask != nil {
		if out.Title, out.Text = w.Say(*e.Ask), e.Answer; e.Answer == "" {
			out.Text = w.Text("mark.nothing")
		}
	}
	for _, t := range s.Trials {
		if t.ID != e.Trial || e.Trial == "" {
			continue
		}
		out.Title, out.Text = t.Name, t.ReasonText
		if t.Titre != nil {
			out.Text = w.Text("mark.trial", "titre", finding.Exact(*t.Titre, "mL"), "reason", finding.Text(t.ReasonText))
		}
	}
	for _, step := range s.Work {
		if step.Step.Step != e.Step || e.Step == "" {
			continue
		}
		out.Title, out.Text = step.Title, w.Text("mark.nothing")
		if step.Answer != nil {
			out.Text = step.Answer.Text + w.After(step.Answer.Unit)
		}
		if e.Follows != nil {
			out.Follows = w.Value(*e.Follows)
		}
	}
	for _, p := range s.Passages {
		if prompt == "" || p.Prompt != prompt {
			continue
		}
		out.Title, out.Passage = p.Title, true
		for k, text := range p.Stand {
			if k > 0 {
				out.Text += "\n\n"
			}
			out.Text += text.Text
		}
	}
	return out
}

// Anonymous takes the names out of a report.
func (r *Report) Anonymous(code string) {
	r.Student, r.Partners, r.Class = code, []string{}, ""
	for i := range r.Corrections {
		r.Corrections[i].By = ""
	}
	for i := range r.Submissions {
		r.Submissions[i].By, r.Submissions[i].ReturnedBy = "", ""
	}
}
