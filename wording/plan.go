package wording

import (
	"strings"

	"exactflask/core/catalog"
	"exactflask/core/chem"
	"exactflask/core/decimal"
	"exactflask/core/experiment"
	"exactflask/core/finding"
	"exactflask/core/plan"
	"exactflask/core/prep"
	"exactflask/core/quantity"
)

// PlanSheet is a plan in words.
type PlanSheet struct {
	Assessment  plan.Assessment `json:"assessment"`
	Setting     Setting         `json:"setting"`
	Findings    []Sentence      `json:"findings" doc:"one for each finding of the assessment"`
	Titre       string          `json:"titre" doc:"what is expected on the burette"`
	Uncertainty string          `json:"uncertainty"`
	Proposals   []string        `json:"proposals" doc:"one for each proposal"`
	Needs       []NeedText      `json:"needs" doc:"what the class needs"`
	Solutions   []SolutionText  `json:"solutions" doc:"how each solution is made"`
	Labels      []BottleLabel   `json:"labels"`
	Questions   []QuestionText  `json:"questions"`
	Units       UnitText        `json:"units"`
}

// NeedText is a quantity for the class.
type NeedText struct {
	prep.Need
	Text    string `json:"text"`
	Warning string `json:"warning,omitempty"`
}

// SolutionText is how a solution is made.
type SolutionText struct {
	Name  string     `json:"name"`
	Text  string     `json:"text" doc:"what is weighed or taken"`
	Steps []StepText `json:"steps"`
}

// StepText is one thing to do; Seconds is a waiting time.
type StepText struct {
	Text    string `json:"text"`
	Seconds int    `json:"seconds,omitempty"`
}

// BottleLabel is what goes on a bottle.
type BottleLabel struct {
	Name          string   `json:"name"`
	Formula       string   `json:"formula"`
	Concentration string   `json:"concentration"`
	Hazards       []string `json:"hazards"`
	Copies        int      `json:"copies"`
}

// QuestionText is a question of the pre-laboratory exercise.
type QuestionText struct {
	Code    string   `json:"code"`
	Text    string   `json:"text"`
	Unit    string   `json:"unit,omitempty"`
	Choices []Choice `json:"choices,omitempty"`
}

// SpeakPlan puts a plan into words.
func SpeakPlan(p experiment.Practical, a plan.Assessment, class prep.Class, style experiment.Style) PlanSheet {
	w, s := exercise(p, style)
	s.Assessment = a
	for _, f := range a.Findings {
		s.Findings = append(s.Findings, Sentence{f.Code, f.Severity, f.Subject, "", w.say(f.Code, f.Values)})
	}
	s.Titre = w.say("plan.range."+string(a.Range), finding.Values("titre", quantity.Show(a.Titre, 4), "percent", quantity.Show(a.Fill, 2)))
	if a.Uncertainty > 0 {
		s.Uncertainty = w.say("plan.uncertainty", finding.Values("percent", quantity.Show(2*a.Uncertainty, 2)))
	}
	for _, x := range a.Proposals {
		s.Proposals = append(s.Proposals, w.say("plan.proposal."+x.What, finding.Values("value", x.Value, "titre", quantity.Show(x.Titre, 3))))
	}
	if class.Students > 0 && class.Trials > 0 {
		w.class(&s, p, a, class)
	}
	return s
}

// SpeakExercise says what a student is told before the laboratory: what is to
// be done, with its cautions, and the questions. What answers them (the
// expected titre, the curve, the indicators, the preparation) is left out.
func SpeakExercise(p experiment.Practical, style experiment.Style) PlanSheet {
	_, s := exercise(p, style)
	s.Assessment = plan.Assessment{Equation: s.Setting.Equation, Range: plan.RangeUnknown, Indicators: []plan.Judged{}, Proposals: []plan.Proposal{}, Findings: []finding.Finding{}}
	return s
}

func exercise(p experiment.Practical, style experiment.Style) (writer, PlanSheet) {
	w := writer{style: style.Or(p.Style).Or(experiment.Style{Words: experiment.WordsTitre, Units: experiment.UnitsML})}
	s := PlanSheet{Setting: w.setting(p), Findings: []Sentence{}, Proposals: []string{}, Needs: []NeedText{}, Solutions: []SolutionText{}, Labels: []BottleLabel{}, Questions: []QuestionText{},
		Units: UnitText{Volume: w.unit(quantity.Millilitre), Concentration: w.unit(quantity.MolePerL)}}
	if qs, fault := plan.Questions(p); fault == nil {
		for _, q := range qs {
			t := QuestionText{Code: q.Code, Text: w.say("prelab."+q.Code, q.Values), Unit: w.unit(q.Unit)}
			for _, c := range q.Choices {
				text := c
				if i, ok := catalog.BuiltIn().Indicator(c); ok {
					text = i.Name
				} else {
					text = q.Values[c]
				}
				t.Choices = append(t.Choices, Choice{c, text})
			}
			s.Questions = append(s.Questions, t)
		}
	}
	return w, s
}

// class adds quantities, preparations and labels.
func (w writer) class(s *PlanSheet, p experiment.Practical, a plan.Assessment, class prep.Class) {
	titre := a.Titre
	if titre == 0 {
		titre = p.Burette.Capacity.Float64() / 2
	}
	drops := 3.0
	indicator, known := catalog.BuiltIn().Indicator(p.Indicator)
	if !known || indicator.Kind == catalog.Self || indicator.Kind == catalog.Meter {
		drops = 0
	}
	needs := prep.Quantities(p.Titrant.Name, p.Analyte.Name, indicator.Name, titre, p.Aliquot.Volume.Float64(), drops, class)
	for _, n := range needs {
		t := NeedText{Need: n}
		code := "class.need"
		if n.What == "indicator" {
			code = "class.indicator"
		}
		t.Text = w.say(code, finding.Values("name", n.Name, "bench", quantity.Show(n.Bench, 3), "total", litres(n.Total), "make", litres(n.Make), "bottles", quantity.Show(float64(n.Bottles), 0)))
		if n.Short {
			t.Warning = w.say("class.short", finding.Values("name", n.Name, "lasts", quantity.Show(float64(n.Lasts), 0), "trials", quantity.Show(float64(class.Trials), 0)))
		}
		s.Needs = append(s.Needs, t)
	}
	for i, sol := range []experiment.Solution{p.Titrant, p.Analyte} {
		c := sol.Concentration
		if c.IsZero() {
			c = sol.Approximate
		}
		f, err := chem.ParseFormula(sol.Formula)
		if err != nil {
			continue
		}
		label := BottleLabel{Name: sol.Name, Formula: f.String(), Hazards: []string{}, Copies: class.Students}
		if c.Sign() > 0 {
			label.Concentration = c.String() + thin + w.unit(quantity.MolePerL)
		}
		if i == 1 && !p.UnknownInBurette() {
			label.Concentration = "" // it is the unknown
		}
		if sub, ok := catalog.BuiltIn().Substance(f); ok {
			label.Hazards = sub.CautionsAt(c)
		}
		s.Labels = append(s.Labels, label)
		if c.Sign() <= 0 || f.Charge() != 0 {
			continue
		}
		made, fault := prep.Make(prep.Solution{Formula: f.Plain(), Concentration: c.Float64(), Volume: needs[i].Make, Purity: sol.Purity.Float64()})
		if fault != nil {
			continue
		}
		s.Solutions = append(s.Solutions, w.preparation(sol.Name, c, needs[i].Make, made))
	}
}

func (w writer) preparation(name string, c decimal.Decimal, volume float64, made prep.Preparation) SolutionText {
	t := SolutionText{Name: name, Steps: []StepText{}}
	values := finding.Values("mass", quantity.Show(made.Mass, 4), "stock", quantity.Show(made.Stock, 3), "volume", litres(volume), "concentration", c.String(), "molar", quantity.Show(made.MolarMass, 5))
	code := "prep.solid"
	if made.Stock > 0 {
		code = "prep.from-stock"
		values["strength"] = quantity.Show(made.Strength, 3)
		if made.Percent > 0 {
			code = "prep.from-concentrated"
			values["percent"] = quantity.Show(made.Percent, 3)
		}
	}
	t.Text = w.say(code, values)
	for _, step := range made.Steps {
		t.Steps = append(t.Steps, StepText{w.say(step.Code, step.Values), step.Seconds})
	}
	return t
}

// litres writes a volume in mL as people order it.
func litres(ml float64) string {
	if ml >= 1000 {
		return quantity.Show(ml/1000, 3) + thin + "L"
	}
	return strings.TrimSuffix(quantity.Show(ml, 3), ".") + thin + "mL"
}

// SpeakCheck is the answer to a pre-laboratory question in words.
func SpeakCheck(c plan.Checked, style experiment.Style) string {
	w := writer{style: style.Or(experiment.Style{Words: experiment.WordsTitre, Units: experiment.UnitsML})}
	return w.say(c.Code, c.Values)
}
