// Package working judges a student's own working: each step against what
// follows from the student's own earlier figures, so that one slip loses once.
package working

import (
	"cmp"
	"math"
	"time"

	dv "exactflask/core/derivation"
	"exactflask/core/diagnosis"
	"exactflask/core/finding"
	"exactflask/core/journal"
	"exactflask/core/quantity"
)

// Step is one step of the student's own calculation.
type Step struct {
	Step    string           `json:"step" doc:"id of the node; names the step in an answer"`
	Node    dv.Node          `json:"-"`
	Code    string           `json:"code" doc:"what is worked out, such as step.ratio"`
	Sample  string           `json:"sample,omitempty" doc:"name of the sample, where several are compared"`
	Trial   string           `json:"trial,omitempty"`
	Unit    quantity.Unit    `json:"unit" doc:"the usual unit; others of the dimension are taken too"`
	Answer  *OwnAnswer       `json:"answer,omitempty"`
	Verdict Verdict          `json:"verdict,omitempty" enum:"right,wrong,unit,few-figures,many-figures" doc:"left out while not judged"`
	Slip    string           `json:"slip,omitempty" doc:"code of the slip that fits, when one does"`
	Carried bool             `json:"carried,omitempty" doc:"right by the student's own earlier figures, not by the true ones"`
	Struck  []journal.Struck `json:"struck,omitempty"`
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

// The verdicts. Few and many figures are right values with the wrong number of
// significant figures.
const (
	Right       Verdict = "right"
	Wrong       Verdict = "wrong"
	WrongUnit   Verdict = "unit"
	FewFigures  Verdict = "few-figures"
	ManyFigures Verdict = "many-figures"
)

var (
	_ = finding.Family("verdict.", []Verdict{Right, Wrong, WrongUnit, FewFigures, ManyFigures, "carried"})
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
		case n.ID == dv.MeanTitre:
			s.Code = meanTitre
		case s.Code == "":
			s.Code = convert
		}
		if l, ok := answers[n.ID]; ok {
			a := l.Part.(journal.Answer)
			s.Answer = &OwnAnswer{l.Entry.ID, a.Written, quantity.Unit(a.Unit), l.Entry.At, l.Entry.Author}
			s.Struck = l.Struck
		}
		out = append(out, s)
	}
	return out
}

// Judge gives the answers their verdicts, in the order of the working. figures
// are those that the practical fixes for the answer; 0 for the rule.
func Judge(d dv.Derivation, steps []Step, figures int, record diagnosis.Record) {
	own := map[int]float64{} // the student's figures so far
	for i := range steps {
		if s := &steps[i]; s.Answer != nil {
			judge(d, s, own, figures, record)
		}
	}
}

func judge(d dv.Derivation, s *Step, own map[int]float64, figures int, record diagnosis.Record) {
	at, ok := d.Find(s.Step)
	written, err := journal.ParseNumber(s.Answer.Text)
	if !ok || err != nil {
		return
	}
	n := d.Nodes[at]
	unit := s.Answer.Unit
	if unit == "" {
		unit = quantity.One
	}
	value, err := quantity.Of(written, unit).In(n.Quantity.Unit)
	if err != nil {
		s.Verdict = WrongUnit
		return
	}
	scale := unit.Scale() / n.Quantity.Unit.Scale()
	given := diagnosis.Given{Value: value.Value, Half: math.Pow(10, -float64(written.Places())) / 2 * scale,
		Expected: d.Recompute(own, at)}
	deserved, last := n.Quantity.Figures, n.ID == dv.Answer
	if last && figures > 0 {
		deserved = figures
	}
	switch {
	case !given.Fits(given.Expected):
		s.Verdict = Wrong
		s.Slip = diagnosis.Slip(d, at, own, given, record)
	case deserved > 0 && written.Figures() < deserved:
		s.Verdict = FewFigures
	case last && deserved > 0 && written.Figures() > deserved:
		s.Verdict = ManyFigures
	default:
		s.Verdict = Right
	}
	own[at] = given.Value
	if s.Verdict != Wrong {
		s.Carried = !given.Fits(n.Quantity.Value)
		// What is right is carried on unrounded: rounding on the way is not
		// held against the next step.
		own[at] = given.Expected
	}
}

// Final is the step of the answer itself.
const Final = dv.Answer

// thrown is how many times an answer may be off the right value and still be one:
// the largest usual slip, millilitres for litres, is a thousand (common practice,
// no source).
const thrown = 10_000

// Attempted tells whether the student has given an own answer to every step, none
// of them thrown away: zero, in a unit of another kind, off by more than any slip,
// or one and the same for all of several steps. The steps have to be judged.
func Attempted(steps []Step) bool {
	alike := len(steps) > 2
	for i := range steps {
		s := &steps[i]
		if s.Answer == nil || s.Verdict == "" || s.Verdict == WrongUnit || s.Verdict == Wrong && s.off() > thrown {
			return false
		}
		alike = alike && s.Answer.Text == steps[0].Answer.Text
	}
	return len(steps) > 0 && !alike
}

// off is how many times an answer is larger or smaller than the right value.
func (s *Step) off() float64 {
	written, err := journal.ParseNumber(s.Answer.Text)
	if err != nil {
		return math.Inf(1)
	}
	unit := cmp.Or(s.Answer.Unit, quantity.One)
	value, err := quantity.Of(written, unit).In(s.Node.Quantity.Unit)
	if err != nil || value.Value == 0 || s.Node.Quantity.Value == 0 {
		return math.Inf(1)
	}
	ratio := math.Abs(value.Value / s.Node.Quantity.Value)
	return max(ratio, 1/ratio)
}
