package practical

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"exactflask/core/record/journal"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

// Exercise is what is asked before the laboratory: the questions that the plan makes,
// chosen among and reworded, and a school's own.
type Exercise struct {
	Leave  []string      `json:"leave,omitempty" maxItems:"6" doc:"questions of the plan that are not asked: ratio, titre, indicator, mass, burette; stock where a solution is made of one"`
	Reword []Reworded    `json:"reword,omitempty" maxItems:"6" doc:"questions of the plan in other words; what is asked stays"`
	Own    []OwnQuestion `json:"own,omitempty" maxItems:"10"`
}

// Reworded is a question of the plan in other words.
type Reworded struct {
	Question string `json:"question" maxLength:"20" doc:"ratio, titre, indicator, mass, burette or stock"`
	Text     string `json:"text" minLength:"1" maxLength:"400"`
}

// OwnQuestion is a school's own question. A student never receives the answer: it is
// judged by the server.
type OwnQuestion struct {
	Text    string          `json:"text" minLength:"1" maxLength:"400"`
	Choices []string        `json:"choices,omitempty" maxItems:"8" doc:"to choose from; left out where a number or a sentence is asked for"`
	Number  bool            `json:"number,omitempty" doc:"a number is asked for"`
	Answer  string          `json:"answer,omitempty" maxLength:"120" doc:"the number, or the choice, that is right; left out where a person reads the answers"`
	Within  decimal.Decimal `json:"within,omitzero" doc:"how far a number may be off, % of it; 2 when left out"`
	Unit    string          `json:"unit,omitempty" maxLength:"20" doc:"of the number, as it is shown"`
	Because string          `json:"because,omitempty" maxLength:"400" doc:"said once the answer is right"`
}

// PlanQuestions are the questions that a plan can make.
var PlanQuestions = []string{"ratio", "titre", "indicator", "mass", "burette", ofStock}

// ofStock asks how much of a stock is taken.
const ofStock = "stock"

// OfPlan are the questions that the plan of this practical can make: of a solution that is only
// made, how much of the solid or of the stock is taken.
func (r *Ready) OfPlan() []string {
	switch {
	case r.MadeOnly() && r.WeighsStandard():
		return []string{"mass"}
	case r.MadeOnly():
		return []string{ofStock}
	}
	return slices.DeleteFunc(slices.Clone(PlanQuestions), func(q string) bool { return q == ofStock })
}

// ReportRule says what a student writes in the report beside what the record says.
type ReportRule struct {
	Leave []string `json:"leave,omitempty" maxItems:"3" doc:"usual passages that are not asked for: method, explain, differently"`
	Own   []string `json:"own,omitempty" maxItems:"10" doc:"passages of this school's own, such as: Which assumption does your result rest on?"`
	// Either lets one of several hand in for all.
	Either bool `json:"either,omitempty" doc:"one of those who wrote in a notebook may hand its report in for all; each of them has to agree when left out"`
	// Whole makes one report of a sequence.
	Whole bool `json:"whole,omitempty" doc:"of a practical that comes after another: its report is handed in together with those before it"`
	// Evidence is what is photographed at the bench.
	Evidence []string `json:"evidence,omitempty" maxItems:"8" doc:"what is photographed at the bench: label, set-up, end-colour, and own ones after an equals sign"`
}

// Passage is a passage of the report: what it is called, and the question where it is
// a school's own.
type Passage struct {
	Prompt string `json:"prompt" doc:"method, explain, differently; own-1, own-2 and so on"`
	Text   string `json:"question,omitempty" doc:"a school's own"`
}

// Passages are those that a report of this practical has, in order.
func (r *Ready) Passages() []Passage {
	var out []Passage
	for _, p := range journal.UsualPassages {
		if !slices.Contains(r.Report.Leave, p) {
			out = append(out, Passage{Prompt: p})
		}
	}
	for i, text := range r.Report.Own {
		out = append(out, Passage{fmt.Sprintf("own-%d", i+1), text})
	}
	return out
}

var (
	exerciseText    = finding.Declare("exercise.text")
	exerciseChoices = finding.Declare("exercise.choices")
	exerciseAnswer  = finding.Declare("exercise.answer", "given")
	exerciseWithin  = finding.Declare("exercise.within")
)

func written(text string, most int) bool {
	return strings.TrimSpace(text) != "" && utf8.ValidString(text) && utf8.RuneCountInString(text) <= most
}

// checkExercise checks the questions before the laboratory and the passages of the
// report.
func (r *Ready) checkExercise() *finding.Fault {
	if n := max(len(r.Exercise.Own), len(r.Report.Own)); n > mostOwn {
		return listMany.Fault("exercise.own", finding.Count(mostOwn))
	}
	for i := range r.Exercise.Leave {
		if f := among(fmt.Sprintf("exercise.leave[%d]", i), r.Exercise.Leave[i], PlanQuestions); f != nil {
			return f
		}
	}
	for i, q := range r.Exercise.Reword {
		at := fmt.Sprintf("exercise.reword[%d].", i)
		if f := among(at+"question", q.Question, PlanQuestions); f != nil {
			return f
		}
		if !written(q.Text, 400) {
			return exerciseText.Fault(at + "text")
		}
	}
	for i, q := range r.Exercise.Own {
		if f := q.check(); f != nil {
			return f.In(fmt.Sprintf("exercise.own[%d]", i))
		}
	}
	for i := range r.Report.Leave {
		if f := among(fmt.Sprintf("report.leave[%d]", i), r.Report.Leave[i], journal.UsualPassages); f != nil {
			return f
		}
	}
	for i, text := range r.Report.Own {
		if !written(text, 400) {
			return exerciseText.Fault(fmt.Sprintf("report.own[%d]", i))
		}
	}
	for i, code := range r.Report.Evidence {
		text, own := journal.OwnText(code)
		switch at := fmt.Sprintf("report.evidence[%d]", i); {
		case own && !written(text, journal.MaxOwnItem):
			return exerciseText.Fault(at)
		case slices.Contains(r.Report.Evidence[:i], code):
			return listTwice.Fault(at, finding.Text(text))
		case !own:
			if f := among(at, code, journal.UsualEvidence); f != nil {
				return f
			}
		}
	}
	return nil
}

// among is choice for a value that has to be given.
func among[T ~string](path string, value T, choices []T) *finding.Fault {
	if value == "" {
		value = "?"
	}
	return choice(path, &value, choices...)
}

func (q OwnQuestion) check() *finding.Fault {
	if !written(q.Text, 400) {
		return exerciseText.Fault("text")
	}
	if q.Within.Sign() < 0 || q.Within.Cmp(decimal.Whole(100)) > 0 {
		return exerciseWithin.Fault("within")
	}
	if q.Number && q.Answer != "" {
		if _, err := journal.ParseNumber(q.Answer); err != nil || len(q.Choices) > 0 {
			return exerciseAnswer.Fault("answer", finding.Text(q.Answer))
		}
	}
	if len(q.Choices) > 0 {
		seen := map[string]bool{}
		for _, c := range q.Choices {
			if !written(c, 120) || seen[c] {
				return exerciseChoices.Fault("choices")
			}
			seen[c] = true
		}
		switch {
		case len(q.Choices) < 2:
			return exerciseChoices.Fault("choices")
		case q.Answer != "" && !seen[q.Answer]:
			return exerciseAnswer.Fault("answer", finding.Text(q.Answer))
		}
	}
	return nil
}
