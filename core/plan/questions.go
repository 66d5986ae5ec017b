package plan

import (
	"math"
	"slices"
	"strings"

	"exactflask/core/catalog"
	"exactflask/core/chem"
	"exactflask/core/decimal"
	"exactflask/core/experiment"
	"exactflask/core/finding"
	"exactflask/core/quantity"
	"exactflask/core/stoich"
)

// Question is a question of the pre-laboratory exercise, made from the plan.
type Question struct {
	Code    string            `json:"code" enum:"ratio,titre,indicator,mass,burette"`
	Values  map[string]string `json:"values,omitempty"`
	Unit    quantity.Unit     `json:"unit,omitempty" doc:"of a number that is asked for"`
	Choices []string          `json:"choices,omitempty" doc:"to choose from"`

	answer float64
	choice string
}

// Questions makes the questions of a practical. The answers are not part of
// them: Check tells whether one is right.
func Questions(p experiment.Practical) ([]Question, *finding.Fault) {
	o, fault := p.Outline()
	if fault != nil {
		return nil, fault
	}
	a, fault := Assess(p)
	if fault != nil {
		return nil, fault
	}
	titrant, analyte := o.Titrant.String(), o.Analyte.String()
	qs := []Question{{Code: "ratio", Values: finding.Values("equation", o.Equation.String(), "titrant", titrant, "analyte", analyte), Unit: quantity.One, answer: o.PerTitrant}}
	if a.Titre > 0 && o.TitrantStrength > 0 {
		qs = append(qs, Question{Code: "titre", Unit: quantity.Millilitre, answer: a.Titre,
			Values: finding.Values("titrant", titrant, "analyte", analyte, "strength", quantity.Show(o.TitrantStrength, 3), "sample", quantity.Show(o.AnalyteStrength, 3), "volume", quantity.Show(o.Flask, 3))})
	}
	if len(a.Indicators) > 2 {
		best := a.Indicators[0].ID
		if a.Meter {
			best = "ph-meter"
		}
		var choices []string
		for _, i := range a.Indicators {
			if len(choices) < 4 && (i.ID == best || i.End.Verdict == "unsuitable") || len(choices) == 0 && !a.Meter {
				choices = append(choices, i.ID)
			}
		}
		choices = append(choices, "ph-meter")
		qs = append(qs, Question{Code: "indicator", Values: finding.Values("titrant", titrant, "analyte", analyte), Choices: sorted(choices), choice: best})
	}
	// The mass of solid for a solution that is known by weighing.
	for i, step := range p.Route {
		if step.Kind == stoich.MakeUp && i > 0 && p.Route[i-1].Kind == stoich.Weigh && p.UnknownInBurette() {
			f, err := chem.ParseFormula(p.Analyte.Formula)
			if err != nil {
				continue
			}
			c := p.Route[i-1].Mass.Float64() / f.MolarMass().Float64() / (step.Volume.Float64() / 1000)
			if round, ok := decimal.FromFloat(c); ok {
				c = round.RoundFigures(2).Float64()
			}
			qs = append(qs, Question{Code: "mass", Unit: quantity.Gram, answer: c * step.Volume.Float64() / 1000 * f.MolarMass().Float64(),
				Values: finding.Values("formula", f.String(), "concentration", quantity.Show(c, 2), "volume", step.Volume.String())})
		}
	}
	qs = append(qs, Question{Code: "burette", Choices: []string{"analyte", "titrant"}, choice: "titrant", Values: finding.Values("titrant", p.Titrant.Name, "analyte", p.Analyte.Name)})
	return qs, nil
}

func sorted(ids []string) []string {
	// By name, so that the order says nothing.
	return slices.SortedFunc(slices.Values(ids), func(a, b string) int { return strings.Compare(name(a), name(b)) })
}

func name(id string) string {
	if i, ok := catalog.BuiltIn().Indicator(id); ok {
		return i.Name
	}
	return id
}

// Checked is the judgement of an answer.
type Checked struct {
	Right  bool              `json:"right"`
	Code   string            `json:"code" doc:"what to say, such as prelab.titre.why"`
	Values map[string]string `json:"values,omitempty"`
}

// Check judges an answer to a question: a number within 2 %, or a choice. Once
// it is right the explanation comes with it.
func Check(p experiment.Practical, code, answer string) (Checked, *finding.Fault) {
	qs, fault := Questions(p)
	if fault != nil {
		return Checked{}, fault
	}
	for _, q := range qs {
		if q.Code != code {
			continue
		}
		if len(q.Choices) > 0 {
			right := answer == q.choice
			out := Checked{Right: right, Code: "prelab." + code + ".wrong", Values: q.Values}
			if right {
				out.Code = "prelab." + code + ".why"
				if code == "indicator" {
					out.Values = finding.Values("name", name(q.choice))
				}
			}
			return out, nil
		}
		value, err := decimal.Parse(strings.TrimSpace(answer))
		if err != nil {
			return Checked{}, finding.Faultf("answer", "%w; write a number", err)
		}
		v := value.Float64()
		right := math.Abs(v-q.answer) <= 0.02*math.Abs(q.answer)
		out := Checked{Right: right, Code: "prelab." + code + ".wrong", Values: q.Values}
		switch {
		case right:
			out.Code = "prelab." + code + ".why"
			out.Values = finding.Values("answer", quantity.Show(q.answer, 3))
		case math.Abs(v*q.answer-1) < 0.02 && code == "ratio":
			out.Code = "prelab.ratio.inverted"
		case math.Abs(v-1000*q.answer) < 20*q.answer || math.Abs(1000*v-q.answer) < 0.02*q.answer:
			out.Code = "slip.thousand"
		}
		return out, nil
	}
	return Checked{}, finding.Faultf("code", "there is no question %q", code)
}
