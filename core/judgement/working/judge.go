package working

import (
	"cmp"
	"maps"
	"math"
	"slices"
	"strings"

	"exactflask/core/chemistry/chem"
	"exactflask/core/judgement/diagnosis"
	dv "exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/values/decimal"
	"exactflask/core/values/quantity"
)

// Judge gives the answers their verdicts, in the order of the working. figures
// are those that the practical fixes for the answer; 0 for the rule.
//
// A step is right when it follows from the student's own earlier figures, unrounded or
// as they were written, or by its own premises: from none of them; by the molar masses of
// any usual table; and in whatever order the factors are brought in.
func Judge(d dv.Derivation, steps []Step, figures int, record diagnosis.Record) {
	j := judging{d: d, exact: map[int]float64{}, written: map[int]float64{}, figures: figures, record: record}
	for i := range steps {
		if s := &steps[i]; s.Answer != nil {
			j.judge(s)
			j.again(s, steps[:i])
			j.shows(s, steps[:i])
		}
	}
	j.reorder(steps)
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
	digits, ok := j.read(s)
	if !ok {
		return
	}
	n, given, at := j.d.Nodes[s.at], s.given, s.at
	deserved, last := j.deserved(n), n.ID == dv.Answer
	// Nothing is right only where nothing is meant, and not because nothing came before.
	rival := j.rival(n, given)
	right := rival || (given.Value != 0 || n.Quantity.Value == 0) && j.right(at, given, n.Quantity.Value)
	school, without := 0.0, 0.0
	if !right {
		school, s.School = j.school(at, given)
		without, s.Without = j.without(at, given)
		right = s.School || s.Without
	}
	asWritten := j.d.Recompute(j.written, at)
	followed := given.Fits(s.Follows) || given.Fits(asWritten)
	switch {
	case s.Unfit:
		s.Verdict = WrongUnit
	case !right && (given.Rounded(s.Follows) || given.Rounded(n.Quantity.Value) || given.Rounded(asWritten)):
		s.Verdict, s.Slip = Rounded, diagnosis.RoundedEarly
	case !right:
		s.Verdict = Wrong
		j.name(s)
	case deserved > 0 && digits.Figures() < deserved && (last || !exactly(given.Value, s.Follows)):
		s.Verdict = FewFigures
	case last && deserved > 0 && SureFigures(digits) > deserved:
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
	switch s.Fits = true; {
	case rival && !given.Fits(n.Quantity.Value):
		return // another set that agrees as well is as right, and is worked on with
	case s.School:
		j.exact[at] = school
		return
	case s.Without:
		j.exact[at] = without
		return
	}
	s.Carried = !given.Fits(n.Quantity.Value)
	s.Apart = !s.Carried && !followed
	// What is right is carried on unrounded: rounding on the way is not
	// held against the next step.
	if j.exact[at] = s.Follows; s.Apart {
		j.exact[at] = n.Quantity.Value
	}
}

// read takes the number of an answer in the step's usual unit, with what it is judged by;
// false where it is none.
func (j *judging) read(s *Step) (decimal.Decimal, bool) {
	at, ok := j.d.Find(s.Step)
	digits, _, err := journal.ParseFigure(s.Answer.Text)
	if !ok || err != nil {
		return digits, false
	}
	n := j.d.Nodes[at]
	unit := cmp.Or(s.Answer.Unit, quantity.One)
	value, err := quantity.Of(digits, unit).In(n.Quantity.Unit)
	s.Unfit = err != nil
	if s.Unfit { // the number may be right all the same: in the usual unit
		unit, value = n.Quantity.Unit, quantity.Of(digits, n.Quantity.Unit)
	}
	scale := unit.Scale() / n.Quantity.Unit.Scale()
	deserved := j.deserved(n)
	given := diagnosis.Given{Value: value.Value, Half: half(digits, max(SureFigures(digits), deserved)) * scale, Written: digits, Scale: scale,
		Expected: j.d.Recompute(j.exact, at), Near: diagnosis.Thousandth}
	enough := j.record.Figures
	if deserved > 0 {
		enough = min(enough, deserved)
	}
	given.Coarse = digits.Figures() < enough
	if n.Own || n.ID == dv.MeanTitre { // written as finely as its readings
		given.Near = 0
		millilitre := quantity.Millilitre.Scale() / n.Quantity.Unit.Scale()
		given.Coarse = 2*given.Half > 1.001*millilitre*math.Pow(10, -float64(j.record.Places))
		if step := j.record.Step * millilitre; !given.Coarse && step > 0 && math.Abs(math.Remainder(given.Value, step)) < 1e-6*step {
			given.Read = step / 2 // or rounded to what is read
		}
	}
	s.at, s.given, s.Given, s.Follows = at, given, given.Value, given.Expected
	return digits, true
}

// deserved are the significant figures of a step's answer; 0 for any.
func (j *judging) deserved(n dv.Node) int {
	if n.ID == dv.Answer && j.figures > 0 {
		return j.figures
	}
	return n.Quantity.Figures
}

// name looks for the slip that a wrong figure fits.
func (j *judging) name(s *Step) {
	named := diagnosis.Slip(j.d, s.at, j.exact, s.given, j.record)
	if named.Code == "" {
		given := s.given
		given.Expected = j.d.Recompute(j.written, s.at)
		named = diagnosis.Slip(j.d, s.at, j.written, given, j.record)
	}
	s.Slip, s.about = named.Code, named.About
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

// school tells whether a value follows by the molar masses of some other table, each by the
// same or by its own, and what then stands unrounded.
func (j *judging) school(at int, given diagnosis.Given) (float64, bool) {
	others := []map[int]float64{{}}
	for _, i := range j.d.Within(at, j.written) {
		n := j.d.Nodes[i]
		f, err := chem.ParseFormula(n.Of)
		if n.Operation != dv.Molar || err != nil {
			continue
		}
		for _, known := range slices.Clone(others) {
			for _, m := range f.SchoolMasses() {
				one := maps.Clone(known)
				one[i] = m
				others = append(others, one)
			}
		}
	}
	for _, other := range others[1:] {
		for _, own := range []map[int]float64{j.exact, j.written, nil} {
			all := maps.Clone(other)
			maps.Copy(all, own)
			if v := j.d.Recompute(all, at); given.Fits(v) {
				return v, true
			}
		}
	}
	return 0, false
}

// without tells whether a mean of the student's own answers is right without the one that
// lies farthest from the others, where two at least are left, and what then stands unrounded.
func (j *judging) without(at int, given diagnosis.Given) (float64, bool) {
	n := j.d.Nodes[at]
	if n.Operation != dv.Mean || n.Step == "" || len(n.Inputs) < 3 {
		return 0, false
	}
	sum, values := 0.0, make([]float64, len(n.Inputs))
	for i, in := range n.Inputs {
		values[i] = j.d.Recompute(j.exact, in)
		sum += values[i]
	}
	farthest := slices.MaxFunc(values, func(a, b float64) int {
		return cmp.Compare(math.Abs(a*float64(len(values))-sum), math.Abs(b*float64(len(values))-sum))
	})
	rest := (sum - farthest) / float64(len(values)-1)
	return rest, given.Fits(rest)
}

// exactly tells whether a figure is what follows, but for what is left of the arithmetic: 0.0025 of
// 0.100 times 0.02500 has lost nothing but zeros.
func exactly(given, follows float64) bool { return math.Abs(given-follows) <= 1e-9*math.Abs(follows) }
