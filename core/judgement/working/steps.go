// Package working judges a student's own working: each step against what
// follows from the student's own earlier figures, so that one slip loses once.
package working

import (
	"cmp"
	"maps"
	"math"
	"slices"
	"strings"
	"time"

	"exactflask/core/judgement/diagnosis"
	dv "exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/values/decimal"
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
	// Of an answer that was judged: its number in the usual unit, what follows from the
	// student's earlier figures, whether the number fits, and whether the unit does not.
	Given   float64 `json:"-"`
	Follows float64 `json:"-"`
	Fits    bool    `json:"-"`
	Unfit   bool    `json:"-"`
	// ShownBy is, of a step without an answer, the first answered one that was worked from it.
	ShownBy string           `json:"-"`
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
	_ = finding.Family("verdict.", []Verdict{Right, Wrong, WrongUnit, Rounded, FewFigures, ManyFigures, "carried", "apart"})
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
			if _, typed, err := journal.ParseFigure(a.Written); err == nil && typed != "" {
				s.Answer.Unit = typed // it is never dropped
			}
			s.Struck = l.Struck
		}
		out = append(out, s)
	}
	return out
}

// Judge gives the answers their verdicts, in the order of the working. figures
// are those that the practical fixes for the answer; 0 for the rule.
//
// A step is right when it follows from the student's own earlier figures, unrounded or
// as they were written, or by its own premises: from none of them.
func Judge(d dv.Derivation, steps []Step, figures int, record diagnosis.Record) {
	j := judging{d: d, exact: map[int]float64{}, written: map[int]float64{}, figures: figures, record: record}
	for i := range steps {
		if s := &steps[i]; s.Answer != nil {
			j.judge(s)
			j.shows(s, steps[:i])
		}
	}
}

// shows marks the steps without an answer that an answered one was worked from: one
// formula in the place of several steps.
func (j *judging) shows(s *Step, before []Step) {
	place := map[int]*Step{}
	for i := range before {
		if at, ok := j.d.Find(before[i].Step); ok {
			place[at] = &before[i]
		}
	}
	var walk func(at int)
	walk = func(at int) {
		for _, in := range j.d.Nodes[at].Inputs {
			earlier := place[in]
			if earlier != nil && earlier.Answer != nil {
				continue
			}
			if earlier != nil && earlier.ShownBy == "" {
				earlier.ShownBy = s.Step
			}
			walk(in)
		}
	}
	if at, ok := j.d.Find(s.Step); ok {
		walk(at)
	}
}

// judging is a working being judged: the student's figures so far, by place, as they
// would be unrounded and as they were written.
type judging struct {
	d              dv.Derivation
	exact, written map[int]float64
	figures        int
	record         diagnosis.Record
}

func (j *judging) judge(s *Step) {
	at, ok := j.d.Find(s.Step)
	digits, _, err := journal.ParseFigure(s.Answer.Text)
	if !ok || err != nil {
		return
	}
	n := j.d.Nodes[at]
	unit := cmp.Or(s.Answer.Unit, quantity.One)
	value, err := quantity.Of(digits, unit).In(n.Quantity.Unit)
	s.Unfit = err != nil
	if s.Unfit { // the number may be right all the same: in the usual unit
		unit, value = n.Quantity.Unit, quantity.Of(digits, n.Quantity.Unit)
	}
	scale := unit.Scale() / n.Quantity.Unit.Scale()
	deserved, last := n.Quantity.Figures, n.ID == dv.Answer
	if last && j.figures > 0 {
		deserved = j.figures
	}
	sure := SureFigures(digits)
	given := diagnosis.Given{Value: value.Value, Half: half(digits, max(sure, deserved)) * scale, Written: digits, Scale: scale,
		Expected: j.d.Recompute(j.exact, at), Near: diagnosis.Thousandth}
	enough := j.record.Figures
	if deserved > 0 {
		enough = min(enough, deserved)
	}
	given.Coarse = digits.Figures() < enough
	if n.ID == dv.MeanTitre { // a mean is written as finely as its readings
		given.Near = 0
		millilitre := quantity.Millilitre.Scale() / n.Quantity.Unit.Scale()
		given.Coarse = 2*given.Half > 1.001*millilitre*math.Pow(10, -float64(j.record.Places))
		if step := j.record.Step * millilitre; !given.Coarse && step > 0 && math.Abs(math.Remainder(given.Value, step)) < 1e-6*step {
			given.Read = step / 2 // or rounded to what is read
		}
	}
	s.Given, s.Follows = given.Value, given.Expected
	// Nothing is right only where nothing is meant, and not because nothing came before.
	rival := j.rival(n, given)
	right := rival || (given.Value != 0 || n.Quantity.Value == 0) && j.right(at, given, n.Quantity.Value)
	followed := given.Fits(s.Follows) || given.Fits(j.d.Recompute(j.written, at))
	switch {
	case s.Unfit:
		s.Verdict = WrongUnit
	case !right && (given.Rounded(s.Follows) || given.Rounded(n.Quantity.Value) || given.Rounded(j.d.Recompute(j.written, at))):
		s.Verdict, s.Slip = Rounded, diagnosis.RoundedEarly
	case !right:
		s.Verdict = Wrong
		if s.Slip = diagnosis.Slip(j.d, at, j.exact, given, j.record); s.Slip == "" {
			given.Expected = j.d.Recompute(j.written, at)
			s.Slip = diagnosis.Slip(j.d, at, j.written, given, j.record)
		}
	case deserved > 0 && digits.Figures() < deserved:
		s.Verdict = FewFigures
	case last && deserved > 0 && sure > deserved:
		s.Verdict = ManyFigures
	default:
		s.Verdict = Right
	}
	j.exact[at], j.written[at] = given.Value, given.Value
	if s.Verdict == Rounded { // the calculator may hold what was not written
		j.exact[at] = s.Follows
	}
	if !right {
		return
	}
	if s.Fits = true; rival && !given.Fits(n.Quantity.Value) {
		return // another set that agrees as well is as right, and is worked on with
	}
	s.Carried = !given.Fits(n.Quantity.Value)
	s.Apart = !s.Carried && !followed
	// What is right is carried on unrounded: rounding on the way is not
	// held against the next step.
	if j.exact[at] = s.Follows; s.Apart {
		j.exact[at] = n.Quantity.Value
	}
}

// rival tells whether a mean is that of another set of titres that agrees as well.
func (j *judging) rival(n dv.Node, given diagnosis.Given) bool {
	millilitre := quantity.Millilitre.Scale() / n.Quantity.Unit.Scale()
	return n.ID == dv.MeanTitre && slices.ContainsFunc(j.record.Rivals, func(mean float64) bool { return given.Fits(mean * millilitre) })
}

// SureFigures are the figures of a number without the zeros at the end of a whole one,
// which may only say how large it is: 3 of 11400.
func SureFigures(d decimal.Decimal) int {
	text := d.String()
	if strings.Contains(text, ".") {
		return d.Figures()
	}
	return max(1, len(strings.TrimLeft(strings.TrimRight(text, "0"), "-")))
}

// half is half a unit of the last of so many figures of a number; of its last digit,
// where it has no more.
func half(d decimal.Decimal, figures int) float64 {
	places := d.Places()
	if places == 0 {
		places = min(0, figures-d.Figures())
	}
	return math.Pow(10, -float64(places)) / 2
}

// right tells whether a value follows from the student's earlier figures, unrounded, as
// they were written, one of them so and the others not, or from none of them.
func (j *judging) right(at int, given diagnosis.Given, truth float64) bool {
	if given.Fits(given.Expected) || given.Fits(truth) || given.Fits(j.d.Recompute(j.written, at)) {
		return true
	}
	for i := range j.written {
		for _, all := range []map[int]float64{j.exact, j.written} {
			one := maps.Clone(all)
			one[i] = j.exact[i] + j.written[i] - all[i]
			if given.Fits(j.d.Recompute(one, at)) {
				return true
			}
		}
	}
	return false
}

// Final is the step of the answer itself.
const Final = dv.Answer

// thrown is how many times an answer may be off the right value and still be one:
// the largest usual slip, millilitres for litres, is a thousand, and its last figure may be
// rounded (common practice, no source).
const thrown = 1_001

// Attempted tells whether the student has given an own answer to every step, none
// of them thrown away: zero, in a unit of another kind, off by more than any slip,
// or one and the same for all of several steps. The steps have to be judged.
func Attempted(steps []Step) bool {
	alike := len(steps) > 2
	for i := range steps {
		s := &steps[i]
		if s.Answer == nil || s.Verdict == "" || s.Verdict == WrongUnit || !s.Fits && s.off() > thrown {
			return false
		}
		alike = alike && s.Answer.Text == steps[0].Answer.Text
	}
	return len(steps) > 0 && !alike
}

// off is how many times an answer is larger or smaller than the right value.
func (s *Step) off() float64 {
	written, _, err := journal.ParseFigure(s.Answer.Text)
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
