package practical

import (
	"fmt"
	"slices"
	"strings"

	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

// Scheme says what is given marks in a report, and by which evidence.
type Scheme struct {
	Criteria []Criterion `json:"criteria,omitempty" maxItems:"40" doc:"in the order of the marker; a first scheme follows from the practical when there are none"`
}

// Criterion is one thing that is given marks.
type Criterion struct {
	ID    string          `json:"id" minLength:"1" maxLength:"40" pattern:"^[a-z0-9-]+$" doc:"names it in awards; never used for another"`
	Rule  MarkRule        `json:"rule" enum:"setup,cleanup,complete,resolution,decimals,subtraction,rough,averaged,agreement,economy,titre,result,answer,step,figures,unit,questions,in-time,person,calibrated,jump,tail,evidence" doc:"what the marks are proposed by"`
	Text  string          `json:"text,omitempty" maxLength:"200" doc:"in words of one's own; the usual ones when left out"`
	Marks decimal.Decimal `json:"marks" doc:"at most; 0 to 100, to a quarter"`
	Lose  decimal.Decimal `json:"lose,omitzero" doc:"for each thing that is not right; 1 when left out"`
	Most  int             `json:"most,omitempty" minimum:"0" maximum:"20" doc:"of economy: accurate trials that cost nothing; 4 when left out"`
	Bands []MarkBand      `json:"bands,omitempty" maxItems:"8" doc:"of titre and answer: how close gives how many marks, the closest first"`
	// Step names what a step of the working works out.
	Step   string `json:"step,omitempty" maxLength:"60" doc:"of step: code of the step, such as step.ratio"`
	Prompt string `json:"prompt,omitempty" maxLength:"20" doc:"of person: the passage of the report that is read for it"`
	Needs  string `json:"needs,omitempty" maxLength:"40" doc:"id of an earlier criterion: without marks there, none are given here"`
}

// MarkBand is how close gives how many marks.
type MarkBand struct {
	Within decimal.Decimal `json:"within" doc:"mL of the reference titre, or % of the true value"`
	Marks  decimal.Decimal `json:"marks"`
}

// MarkRule is what the marks of a criterion are proposed by.
type MarkRule string

// The rules.
const (
	MarkSetup       MarkRule = "setup"       // the list of the set-up is done
	MarkCleanup     MarkRule = "cleanup"     // the list of the clean-up is done
	MarkComplete    MarkRule = "complete"    // every trial has its readings
	MarkResolution  MarkRule = "resolution"  // readings lie on what is read
	MarkDecimals    MarkRule = "decimals"    // all readings have the same decimals
	MarkSubtraction MarkRule = "subtraction" // titres are end less start
	MarkRough       MarkRule = "rough"       // the rough trial is left out
	MarkAveraged    MarkRule = "averaged"    // nothing is averaged that does not agree
	MarkAgreement   MarkRule = "agreement"   // enough titres agree
	MarkEconomy     MarkRule = "economy"     // within so many accurate trials
	MarkTitre       MarkRule = "titre"       // closeness of the mean titre to the reference titre
	MarkResult      MarkRule = "result"      // closeness of what follows from the readings to the true value: the titration
	MarkAnswer      MarkRule = "answer"      // closeness of the student's own final answer to the true value
	MarkStep        MarkRule = "step"        // a step of the working, carried forward
	MarkFigures     MarkRule = "figures"     // of the answer
	MarkUnit        MarkRule = "unit"        // of the answer
	MarkQuestions   MarkRule = "questions"   // those before the laboratory
	MarkInTime      MarkRule = "in-time"     // not late
	MarkCalibrated  MarkRule = "calibrated"  // the probe, on both sides of the end, with a fair slope
	MarkJump        MarkRule = "jump"        // points close together in the jump of every run
	MarkTail        MarkRule = "tail"        // points enough past the jump
	MarkEvidence    MarkRule = "evidence"    // every photograph that is asked for is there
	MarkPerson      MarkRule = "person"      // what only a person can judge
)

// MarkRules are all of them, in the order of a report.
var MarkRules = []MarkRule{MarkQuestions, MarkSetup, MarkComplete, MarkCalibrated, MarkJump, MarkTail, MarkResolution, MarkDecimals, MarkAgreement, MarkEconomy, MarkSubtraction,
	MarkRough, MarkAveraged, MarkTitre, MarkResult, MarkStep, MarkFigures, MarkUnit, MarkAnswer, MarkEvidence, MarkPerson, MarkInTime, MarkCleanup}

// ofTitration are the rules that are about trials: nothing proposes marks by them where a solution
// is only made.
var ofTitration = []MarkRule{MarkCalibrated, MarkJump, MarkTail, MarkResolution, MarkDecimals, MarkAgreement, MarkEconomy, MarkSubtraction, MarkRough,
	MarkAveraged, MarkTitre}

// MarkRules are the rules that a criterion of this practical can have, in the order of a report.
func (r *Ready) MarkRules() []MarkRule {
	return slices.DeleteFunc(slices.Clone(MarkRules), func(m MarkRule) bool { return r.MadeOnly() && slices.Contains(ofTitration, m) })
}

// Banded tells whether the marks follow from how close something is.
func (r MarkRule) Banded() bool { return r == MarkTitre || r == MarkResult || r == MarkAnswer }

var (
	schemeMany     = finding.Declare("scheme.many", "count")
	schemeID       = finding.Declare("scheme.id", "id")
	schemeMarks    = finding.Declare("scheme.marks")
	schemeBands    = finding.Declare("scheme.bands")
	schemeStep     = finding.Declare("scheme.step")
	schemeSolution = finding.Declare("scheme.solution")
	schemeNeeds    = finding.Declare("scheme.needs", "id")
	schemePrompt   = finding.Declare("scheme.prompt", "prompt")
	quarter        = decimal.Must("0.25")
	hundred        = decimal.Whole(100)
)

const mostCriteria = 40

// Each is what is lost for each thing that is not right.
func (c Criterion) Each() decimal.Decimal {
	if c.Lose.IsZero() {
		return decimal.Whole(1)
	}
	return c.Lose
}

// Total is what can be had.
func (s Scheme) Total() decimal.Decimal {
	var sum decimal.Decimal
	for _, c := range s.Criteria {
		sum = sum.Add(c.Marks)
	}
	return sum
}

// CheckScheme checks a marking scheme of this practical.
func (r *Ready) CheckScheme(s Scheme) *finding.Fault {
	if len(s.Criteria) > mostCriteria {
		return schemeMany.Fault("criteria", finding.Count(mostCriteria))
	}
	seen := map[string]bool{}
	for i, c := range s.Criteria {
		if f := r.checkCriterion(c, seen); f != nil {
			return f.In(fmt.Sprintf("criteria[%d]", i))
		}
		seen[c.ID] = true
	}
	return nil
}

func (r *Ready) checkMarking() *finding.Fault {
	if f := r.CheckScheme(r.Marking); f != nil {
		return f.In("marking")
	}
	return nil
}

func validMarks(d decimal.Decimal) bool {
	return d.Sign() >= 0 && d.Cmp(hundred) <= 0 && (d.IsZero() || d.MultipleOf(quarter))
}

func (r *Ready) checkCriterion(c Criterion, seen map[string]bool) *finding.Fault {
	prompt := func(p Passage) bool { return p.Prompt == c.Prompt }
	switch {
	case c.ID == "" || seen[c.ID] || strings.Trim(c.ID, "abcdefghijklmnopqrstuvwxyz0123456789-") != "":
		return schemeID.Fault("id", finding.Text(c.ID))
	case c.Text != "" && !written(c.Text, 200):
		return exerciseText.Fault("text")
	case !validMarks(c.Marks):
		return schemeMarks.Fault("marks")
	case !validMarks(c.Lose):
		return schemeMarks.Fault("lose")
	case c.Needs != "" && !seen[c.Needs]:
		return schemeNeeds.Fault("needs", finding.Text(c.Needs))
	case c.Rule == MarkStep && c.Step == "":
		return schemeStep.Fault("step")
	case r.MadeOnly() && slices.Contains(ofTitration, c.Rule):
		return schemeSolution.Fault("rule")
	case c.Prompt != "" && !slices.ContainsFunc(r.Passages(), prompt):
		return schemePrompt.Fault("prompt", finding.Text(c.Prompt))
	}
	if c.Rule.Banded() && len(c.Bands) == 0 {
		return schemeBands.Fault("bands")
	}
	for k, b := range c.Bands {
		closer := k > 0 && b.Within.Cmp(c.Bands[k-1].Within) <= 0
		if b.Within.Sign() <= 0 || closer || !validMarks(b.Marks) || b.Marks.Cmp(c.Marks) > 0 {
			return schemeBands.Fault(fmt.Sprintf("bands[%d]", k))
		}
	}
	return among("rule", c.Rule, MarkRules)
}
