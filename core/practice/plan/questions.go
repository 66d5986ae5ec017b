package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/judgement/experiment"
	"exactflask/core/model/curve"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// The questions of a pre-laboratory exercise, with what their answers are met
// with.
var (
	askRatio     = finding.Declare("prelab.ratio", "equation", "titrant", "analyte")
	askTitre     = finding.Declare("prelab.titre", "volume", "analyte", "sample", "strength", "titrant")
	askIndicator = finding.Declare("prelab.indicator", "titrant", "analyte")
	askMass      = finding.Declare("prelab.mass", "formula", "volume", "concentration")
	askStock     = finding.Declare("prelab.stock", "stock", "volume", "concentration")
	askBurette   = finding.Declare("prelab.burette")
	wrong        = finding.Family("prelab.wrong.", []string{"ratio", "titre", "indicator", "mass", "stock", "burette"})
	whyRatio     = finding.Declare("prelab.right.ratio", "answer")
	whyTitre     = finding.Declare("prelab.right.titre", "answer")
	whyIndicator = finding.Declare("prelab.right.indicator", "name")
	whyMass      = finding.Declare("prelab.right.mass", "answer")
	whyStock     = finding.Declare("prelab.right.stock", "answer")
	whyBurette   = finding.Declare("prelab.right.burette")
	inverted     = finding.Declare("prelab.ratio-inverted")
	thousand     = finding.Declare("slip.thousand")
	noQuestion   = finding.Declare("prelab.no-question")
	askOwn       = finding.Declare("prelab.own", "text")
	wrongOwn     = finding.Declare("prelab.wrong.own")
	rightOwn     = finding.Declare("prelab.right.own")
	becauseOwn   = finding.Declare("prelab.right.because", "text")
	readByPerson = finding.Declare("prelab.kept")
)

// meter is the choice of no indicator at all.
const meter = "ph-meter"

// Choice is one of a question's choices.
type Choice struct {
	Code string        `json:"code"`
	Name finding.Value `json:"name"`
}

// Question is a question of the pre-laboratory exercise: made from the plan, or a
// school's own.
type Question struct {
	Code    string          `json:"code" doc:"ratio, titre, indicator, mass, burette, stock; own-1, own-2 and so on"`
	Ask     finding.Message `json:"ask"`
	Unit    quantity.Unit   `json:"unit,omitempty" doc:"of a number that is asked for"`
	Written bool            `json:"written,omitempty" doc:"a sentence is asked for; a person reads it"`
	Choices []Choice        `json:"choices,omitempty" doc:"to choose from"`

	answer  float64
	also    float64  // another value that is as right; 0 for none
	choices []string // those that are right
	right   finding.Message
	own     *practical.OwnQuestion
}

// Questions are those of a practical: what its plan asks, as the practical chooses and
// words it, and its own. The answers are not part of them: Check tells whether one is
// right.
func Questions(r *practical.Ready) []Question {
	var out []Question
	for _, q := range ofPlan(r) {
		if slices.Contains(r.Exercise.Leave, q.Code) {
			continue
		}
		for _, other := range r.Exercise.Reword {
			if other.Question == q.Code {
				q.Ask = askOwn.Message(finding.Text(other.Text))
			}
		}
		out = append(out, q)
	}
	for i := range r.Exercise.Own {
		own := &r.Exercise.Own[i]
		q := Question{Code: fmt.Sprintf("own-%d", i+1), Ask: askOwn.Message(finding.Text(own.Text)), own: own,
			Unit: quantity.Unit(own.Unit)}
		q.Written = len(own.Choices) == 0 && !own.Number
		for _, c := range own.Choices {
			q.Choices = append(q.Choices, Choice{c, finding.Text(c)})
		}
		out = append(out, q)
	}
	return out
}

// Asked are the questions that students are asked: those of what they see before it is done.
// What hangs on something that is hidden from them is not asked, and counts nowhere.
func Asked(r *practical.Ready) []Question {
	var student experiment.Reader
	shown, fault := experiment.Visible(r.Practical, student, experiment.Granted(student, r.Showing.Results, false)).Check()
	if fault != nil {
		return nil
	}
	shown.Exercise = r.Exercise // with what is right of the school's own
	return Questions(shown)
}

// ofPlan makes the questions that follow from the plan.
func ofPlan(r *practical.Ready) []Question {
	if r.MadeOnly() {
		return ofSolution(r)
	}
	o, a := curve.OutlineOf(r), Assess(r)
	titrant, analyte := finding.Formula(r.Titrant.Plain()), finding.Formula(r.Titrated.Plain())
	qs := []Question{{Code: "ratio", Ask: askRatio.Message(finding.Formula(r.Equation.Plain()), titrant, analyte),
		Unit: quantity.One, answer: o.Ratio, right: whyRatio.Message(finding.Number(o.Ratio, 3, ""))}}
	if a.Titre > 0 && o.Flask.Titrant > 0 {
		qs = append(qs, Question{Code: "titre", Unit: quantity.Millilitre, answer: a.Titre,
			right: whyTitre.Message(finding.Number(a.Titre, 3, quantity.Millilitre)),
			Ask: askTitre.Message(finding.Number(o.Flask.Volume, 3, quantity.Millilitre), analyte,
				finding.Number(o.Strength, 3, quantity.MolePerL), finding.Number(o.Flask.Titrant, 3, quantity.MolePerL), titrant)})
	}
	if q, ok := a.whichIndicator(askIndicator.Message(titrant, analyte)); ok {
		qs = append(qs, q)
	}
	if q, ok := whichMass(r); ok {
		qs = append(qs, q)
	}
	both := []Choice{{"analyte", finding.Text(r.Chemistry.Analyte.Name)},
		{"titrant", finding.Text(r.Chemistry.Titrant.Name)}}
	return append(qs, Question{Code: "burette", Ask: askBurette.Message(), Choices: both, choices: []string{"titrant"},
		right: whyBurette.Message()})
}

// asked is how many indicators there are to choose from, beside a pH meter.
const asked = 4

// whichIndicator asks for an indicator. Every one that serves is right, and so is
// the practical's own unless it is unsuitable.
func (a Assessment) whichIndicator(ask finding.Message) (Question, bool) {
	if len(a.Indicators) <= 2 {
		return Question{}, false
	}
	q := Question{Code: "indicator", Ask: ask}
	var ids []string
	add := func(j curve.Judged) {
		if len(ids) < asked && !slices.Contains(ids, j.ID) {
			ids = append(ids, j.ID)
			if serves(j) {
				q.choices = append(q.choices, j.ID)
			}
		}
	}
	if a.Chosen != nil {
		add(*a.Chosen)
	}
	add(a.Indicators[0])
	for _, j := range a.Indicators {
		if !serves(j) {
			add(j)
		}
	}
	for _, j := range a.Indicators {
		add(j)
	}
	best := a.Indicators[0].ID
	if a.Meter {
		best, q.choices = meter, append(q.choices, meter)
	}
	ids = append(ids, meter)
	slices.Sort(ids) // so that the order says nothing
	q.right = whyIndicator.Message(curve.IndicatorName(best))
	for _, id := range ids {
		q.Choices = append(q.Choices, Choice{id, curve.IndicatorName(id)})
	}
	return q, true
}

func serves(j curve.Judged) bool {
	return j.End.Verdict != equilibrium.Unsuitable || j.Boiled != nil && j.Boiled.Verdict == equilibrium.Suits
}

// ofSolution asks how much is weighed, or taken of a stock, for a solution that is made.
func ofSolution(r *practical.Ready) []Question {
	head, flask := r.Made[0], r.Made[1].Volume
	c, ok := decimal.FromFloat(r.StrengthMade(1))
	if !ok || c.Sign() <= 0 {
		return nil
	}
	c = c.RoundFigures(3)
	if head.Kind == practical.Weigh {
		n, d := float64(head.SaltRatio[0]), float64(head.SaltRatio[1])
		mass := c.Float64() * flask.Float64() / 1000 * d / n * r.MolarMass(head.Salt).Float64()
		if pure := r.Chemistry.Titrant.Purity; pure.Sign() > 0 { // so much more of it is weighed
			mass /= pure.Float64()
		}
		return []Question{{Code: "mass", Unit: quantity.Gram, answer: mass, also: head.Mass.Float64(),
			right: whyMass.Message(finding.Number(mass, 3, quantity.Gram)),
			Ask:   askMass.Message(finding.Formula(head.Salt.Plain()), finding.Exact(flask, quantity.Millilitre), finding.Exact(c, quantity.MolePerL))}}
	}
	volume := c.Float64() * flask.Float64() / head.Concentration.Float64()
	return []Question{{Code: "stock", Unit: quantity.Millilitre, answer: volume, also: head.Volume.Float64(),
		right: whyStock.Message(finding.Number(volume, 3, quantity.Millilitre)),
		Ask:   askStock.Message(finding.Exact(head.Concentration, quantity.MolePerL), finding.Exact(flask, quantity.Millilitre), finding.Exact(c, quantity.MolePerL))}}
}

// whichMass asks for the solid of a solution that is known by weighing.
func whichMass(r *practical.Ready) (Question, bool) {
	head := r.SampleStep()
	if !r.UnknownInBurette || head.Kind != practical.Weigh || len(r.Steps) < 2 || r.Steps[1].Kind != practical.MakeUp {
		return Question{}, false
	}
	litres, m := r.Steps[1].Volume.Float64()/1000, r.MolarMass(head.Salt).Float64()
	c, ok := decimal.FromFloat(head.Mass.Float64() / m / litres)
	if !ok || c.Sign() <= 0 {
		return Question{}, false
	}
	c = c.RoundFigures(3)
	mass := c.Float64() * litres * m
	return Question{Code: "mass", Unit: quantity.Gram, answer: mass, also: head.Mass.Float64(),
		right: whyMass.Message(finding.Number(mass, 3, quantity.Gram)),
		Ask: askMass.Message(finding.Formula(head.Salt.Plain()), finding.Exact(r.Steps[1].Volume, quantity.Millilitre),
			finding.Exact(c, quantity.MolePerL))}, true
}

// Checked is the judgement of an answer.
type Checked struct {
	Right bool            `json:"right"`
	Say   finding.Message `json:"say"`
}

// within is how far a number may be off, as a part of itself.
const within = 0.02

// Check judges an answer to a question: a number within 2 %, or a choice; of
// several that are right any will do. Once it is right the explanation comes with
// it.
func Check(r *practical.Ready, code, answer string) (Checked, *finding.Fault) {
	qs := Questions(r)
	at := slices.IndexFunc(qs, func(q Question) bool { return q.Code == code })
	if at < 0 {
		return Checked{}, noQuestion.Fault("code")
	}
	q := qs[at]
	if q.own != nil {
		return checkOwn(*q.own, strings.TrimSpace(answer))
	}
	if len(q.Choices) > 0 {
		if slices.Contains(q.choices, answer) {
			return Checked{true, q.right}, nil
		}
		return Checked{Say: wrong[code].Message()}, nil
	}
	value, err := journal.ParseNumber(strings.TrimSpace(answer))
	if err != nil {
		return Checked{}, finding.FaultOf("answer", err)
	}
	v := value.Float64()
	near := func(x float64) bool { return x != 0 && math.Abs(v-x) <= within*math.Abs(x) }
	switch {
	case near(q.answer), near(q.also):
		return Checked{true, q.right}, nil
	case code == "ratio" && near(1/q.answer):
		return Checked{Say: inverted.Message()}, nil
	case near(1000*q.answer) || near(q.answer/1000):
		return Checked{Say: thousand.Message()}, nil
	}
	return Checked{Say: wrong[code].Message()}, nil
}

// checkOwn judges an answer to a school's own question: a number within what the
// question allows, else the same words. Where no answer is given a person reads it.
func checkOwn(q practical.OwnQuestion, answer string) (Checked, *finding.Fault) {
	right := rightOwn.Message()
	if q.Because != "" {
		right = becauseOwn.Message(finding.Text(q.Because))
	}
	switch {
	case q.Answer == "":
		return Checked{true, readByPerson.Message()}, nil
	case !q.Number:
		if strings.EqualFold(strings.Join(strings.Fields(answer), " "), strings.Join(strings.Fields(q.Answer), " ")) {
			return Checked{true, right}, nil
		}
		return Checked{Say: wrongOwn.Message()}, nil
	}
	expected, _ := journal.ParseNumber(q.Answer) // checked with the practical
	value, err := journal.ParseNumber(answer)
	if err != nil {
		return Checked{}, finding.FaultOf("answer", err)
	}
	allowed := within
	if q.Within.Sign() > 0 {
		allowed = q.Within.Float64() / 100
	}
	v, x := value.Float64(), expected.Float64()
	switch {
	case math.Abs(v-x) <= allowed*math.Abs(x):
		return Checked{true, right}, nil
	case x != 0 && (math.Abs(v/1000-x) <= allowed*math.Abs(x) || math.Abs(v*1000-x) <= allowed*math.Abs(x)):
		return Checked{Say: thousand.Message()}, nil
	}
	return Checked{Say: wrongOwn.Message()}, nil
}

// Judged tells whether the program knows what is right: a school's own question may be
// read by a person.
func (q Question) Judged() bool { return q.own == nil || q.own.Answer != "" }
