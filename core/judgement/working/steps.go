// Package working judges a student's own working: each step against what
// follows from the student's own earlier figures, so that one slip loses once.
package working

import (
	"math"
	"slices"
	"time"

	"exactflask/core/judgement/diagnosis"
	dv "exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Step is one step of the student's own calculation.
type Step struct {
	Step    string        `json:"step" doc:"id of the node; names the step in an answer"`
	Node    dv.Node       `json:"-"`
	Code    string        `json:"code" doc:"what is worked out, such as step.ratio"`
	Sample  string        `json:"sample,omitempty" doc:"name of the sample, where several are compared"`
	Trial   string        `json:"trial,omitempty"`
	Unit    quantity.Unit `json:"unit" doc:"the usual unit; others of the dimension are taken too"`
	Answer  *OwnAnswer    `json:"answer,omitempty"`
	Verdict Verdict       `json:"verdict,omitempty" enum:"right,wrong,unit,rounded,few-figures,many-figures" doc:"left out while not judged"`
	Slip    string        `json:"slip,omitempty" doc:"code of the slip that fits, when one does"`
	Carried bool          `json:"carried,omitempty" doc:"right by the student's own earlier figures, not by the true ones"`
	Apart   bool          `json:"apart,omitempty" doc:"right by its own premises, though it does not follow from an earlier figure of the student's"`
	School  bool          `json:"school,omitempty" doc:"right by molar masses of another table of atomic weights than the practical's"`
	Order   bool          `json:"order,omitempty" doc:"right in another order: a later step brings in what this one left out, or leaves out what this one brought in"`
	Without bool          `json:"without,omitempty" doc:"right without one of the student's own trials"`
	Again   string        `json:"again,omitempty" doc:"id of the earlier step in which the same slip was made first"`
	// Of an answer that was judged: its number in the usual unit, what follows from the
	// student's earlier figures, whether the number fits, and whether the unit does not.
	Given   float64 `json:"-"`
	Follows float64 `json:"-"`
	Fits    bool    `json:"-"`
	Unfit   bool    `json:"-"`
	about   string  // what a slip was made with (diagnosis.Named)
	at      int     // place of the node; where judged
	given   diagnosis.Given
	// ShownBy is, of a step without an answer, the first answered one that was worked from it.
	ShownBy string           `json:"-"`
	Struck  []journal.Struck `json:"struck,omitempty"`
	Lacks   Lack             `json:"lacks,omitempty" enum:"figure,value,unit,size,own" doc:"why it is no own answer yet, where results are shown after one"`
}

// OwnAnswer is a value that the student gave.
type OwnAnswer struct {
	Entry string        `json:"entry"`
	Text  string        `json:"text"`
	Unit  quantity.Unit `json:"unit,omitempty"`
	At    time.Time     `json:"at"`
	By    string        `json:"by,omitempty"`
}

// Verdict is the judgement of an answer.
type Verdict string

// The verdicts. Rounded agrees only because it is written with too few figures to be carried
// on. Few and many figures are right values with the wrong number of
// significant figures.
const (
	Right       Verdict = "right"
	Wrong       Verdict = "wrong"
	WrongUnit   Verdict = "unit"
	Rounded     Verdict = "rounded"
	FewFigures  Verdict = "few-figures"
	ManyFigures Verdict = "many-figures"
)

var (
	_ = finding.Family("verdict.", []Verdict{Right, Wrong, WrongUnit, Rounded, FewFigures, ManyFigures, "carried", "apart", "order", "without", "school"})
	// Steps that lie between those of the model, and the last where it only
	// changes the unit.
	meanTitre = "step.mean-titre"
	convert   = "step.convert"
)

// Steps are those of a derivation with the student's answers, not judged.
func Steps(d dv.Derivation, answers map[string]journal.Line) []Step {
	out := []Step{}
	for i, n := range d.Nodes {
		if !d.IsStep(i) {
			continue
		}
		s := Step{Step: n.ID, Node: n, Code: n.Step, Trial: n.Trial, Unit: n.Quantity.Unit}
		switch {
		case n.Own:
			s.Code = Subtraction
		case n.ID == dv.MeanTitre:
			s.Code = meanTitre
		case s.Code == "":
			s.Code = convert
		}
		if l, ok := answers[n.ID]; ok {
			a := l.Part.(journal.Answer)
			s.Answer = &OwnAnswer{l.Entry.ID, a.Written, quantity.Unit(a.Unit), l.Entry.At, l.Entry.Author}
			if _, typed, err := journal.ParseFigure(a.Written); err == nil && typed != "" {
				s.Answer.Unit = typed // it is never dropped
			}
			s.Struck = l.Struck
		}
		out = append(out, s)
	}
	return out
}

// Subtraction is the code of a titre that students subtract themselves.
const Subtraction = "step.titre"

// Final is the step of the answer itself.
const Final = dv.Answer

// thrown is how many times an answer may be off the right value and still be one:
// the largest usual slip, millilitres for litres, is a thousand, and its last figure may be
// rounded (common practice, no source).
const thrown = 1_001

// Lack says why a step is no own answer yet.
type Lack string

// What can lack: a figure; any value (it is zero); the right kind of unit; a figure that
// a usual slip could make of the right one; and figures of their own for the steps, where
// one and the same stands for all of several.
const (
	LacksFigure Lack = "figure"
	LacksValue  Lack = "value"
	LacksUnit   Lack = "unit"
	LacksSize   Lack = "size"
	LacksOwn    Lack = "own"
)

var lacks = finding.Family("work.lacks-", []Lack{LacksFigure, LacksValue, LacksUnit, LacksSize, LacksOwn})

// Code is the message that says it.
func (l Lack) Code() string { return lacks[l].Name() }

// Lacks says of each step what it lacks to be an own answer; empty where nothing does. The
// steps have to be judged.
func Lacks(steps []Step) []Lack {
	out := make([]Lack, len(steps))
	alike := len(steps) > 2
	for i := range steps {
		s := &steps[i]
		switch {
		case s.Answer == nil || s.Verdict == "":
			out[i] = LacksFigure
		case s.Verdict == WrongUnit:
			out[i] = LacksUnit
		case s.Fits:
		case s.Given == 0:
			out[i] = LacksValue
		case s.off() > thrown:
			out[i] = LacksSize
		}
		alike = alike && s.Answer != nil && s.Answer.Text == steps[0].Answer.Text
	}
	for i := range out {
		if alike && out[i] == "" {
			out[i] = LacksOwn
		}
	}
	return out
}

// Attempted tells whether the student has given an own answer to every step: none lacks
// anything.
func Attempted(steps []Step) bool {
	return len(steps) > 0 && !slices.ContainsFunc(Lacks(steps), func(l Lack) bool { return l != "" })
}

// off is how many times an answer is larger or smaller than the right value.
func (s *Step) off() float64 {
	if s.Given == 0 || s.Node.Quantity.Value == 0 {
		return math.Inf(1)
	}
	ratio := math.Abs(s.Given / s.Node.Quantity.Value)
	return max(ratio, 1/ratio)
}
