//go:build !js

// The page does without this: its core neither marks nor plans.

package view

import (
	"slices"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/model/curve"
	"exactflask/core/practice/plan"
	"exactflask/core/practice/prep"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
	"exactflask/wording"
)

// Plan is a plan in words.
type Plan struct {
	Assessment  plan.Assessment `json:"assessment" doc:"what the picture of the curve and the burette is drawn from"`
	Setting     Setting         `json:"setting"`
	Findings    []Sentence      `json:"findings"`
	Titre       string          `json:"titre" doc:"what is expected on the burette"`
	Ratio       string          `json:"ratio" doc:"titrant to what it titrates"`
	Uncertainty string          `json:"uncertainty"`
	Best        [2]float64      `json:"best" doc:"the best part of the burette, mL"`
	Proposals   []Proposal      `json:"proposals"`
	Indicators  []Indicator     `json:"indicators" doc:"the best first"`
	Rests       []string        `json:"rests,omitempty" doc:"the potentials that a redox curve rests on"`
	Chosen      *Indicator      `json:"chosen,omitempty" doc:"the indicator of the practical"`
	Assumed     string          `json:"assumed,omitempty" doc:"said where the quantities rest on a guess"`
	Needs       []Need          `json:"needs" doc:"what the class needs"`
	Solutions   []Preparation   `json:"solutions" doc:"how each solution is made"`
	Order       []WorkItem      `json:"order" doc:"order of work for the day, what takes longest first"`
	OrderSaid   string          `json:"orderSaid,omitempty" doc:"what the order of work takes for granted"`
	Labels      []BottleLabel   `json:"labels"`
	Questions   []Question      `json:"questions"`
	Units       UnitTexts       `json:"units"`
	AskUnits    []UnitChoice    `json:"askUnits" doc:"in which the answer may be asked for; the first is the usual one"`
	KindText    string          `json:"kindText"`
	OfPlan      []string        `json:"ofPlan,omitempty" doc:"questions that the plan can make, by their codes; for those who teach"`
	Marking     *SchemeParts    `json:"marking,omitempty" doc:"for those who teach"`
	Lists       *Checklists     `json:"lists,omitempty" doc:"what is done before and after; for those who teach"`
	Norms       []NormGroup     `json:"norms,omitempty" doc:"limits of common practice, and what this practical says of them; for those who teach"`
}

// Checklists are the lists of a practical as they stand, and what they can be made of.
type Checklists struct {
	Setup   []Choice `json:"setup"`
	Cleanup []Choice `json:"cleanup"`
	// Usual are the items that the program knows; others are written in words.
	Usual []Choice `json:"usual" doc:"every usual item, with its code"`
	Most  int      `json:"most" doc:"how many characters an item of one's own may have"`
}

func checklists(w wording.Writer, r *practical.Ready) *Checklists {
	said := func(codes []string) []Choice {
		out := make([]Choice, len(codes))
		for i, code := range codes {
			out[i] = Choice{code, w.Say(journal.ItemSaid(code))}
		}
		return out
	}
	return &Checklists{said(r.Setup()), said(r.Cleanup()), said(practical.UsualItems), journal.MaxOwnItem}
}

// UnitChoice is a unit with how it is written.
type UnitChoice struct {
	Unit quantity.Unit `json:"unit"`
	Text string        `json:"text"`
}

// KindText names a kind of practical.
func KindText(w wording.Writer, k practical.Kind) string { return w.Say(kinds[k].Message()) }

var orderSaid = finding.Declare("plan.order", "time")

var kinds = finding.Family("kind.", []practical.Kind{practical.Direct, practical.Indirect, practical.Back, practical.Standardisation,
	practical.TwoEndPoints, practical.SolutionMade})

// Proposal is a change that brings the titre into range, in words.
type Proposal struct {
	plan.Proposal
	Text string `json:"text"`
}

// Indicator is a judged indicator with its names.
type Indicator struct {
	curve.Judged
	Name       string `json:"name"`
	BeforeText string `json:"beforeText"`
	AfterText  string `json:"afterText"`
	At         string `json:"at" doc:"the colour to stop at"`
	When       string `json:"when,omitempty" doc:"when and how it is added"`
}

// Given is an answer to a question before the laboratory that was kept.
type Given struct {
	Name   string `json:"name,omitempty" doc:"of the student; empty for one's own"`
	Code   string `json:"code" doc:"of the question"`
	Answer string `json:"answer" doc:"the last one, as it was given"`
	Shown  string `json:"shown" doc:"the same in words"`
	Right  bool   `json:"right" doc:"one of the answers was right"`
	Tries  int    `json:"tries"`
}

// SayGiven puts kept answers into words: a choice by its name.
func SayGiven(r *practical.Ready, given []Given, style practical.Style) {
	w := wording.For(style, r.Showing.Style)
	questions := plan.Questions(r)
	for i := range given {
		g := &given[i]
		g.Shown = g.Answer
		for _, q := range questions {
			for _, c := range q.Choices {
				if q.Code == g.Code && c.Code == g.Answer {
					g.Shown = w.Value(c.Name)
				}
			}
		}
	}
}

// Need is a quantity for the class.
type Need struct {
	prep.Need
	Text    string `json:"text"`
	Warning string `json:"warning,omitempty"`
}

// Preparation is how a solution is made.
type Preparation struct {
	Name  string     `json:"name"`
	Text  string     `json:"text" doc:"what is weighed or taken"`
	Steps []PrepStep `json:"steps"`
	// Cautions are about what is handled: the solid, or the stock.
	Cautions []string `json:"cautions"`
}

// PrepStep is one thing to do; Seconds is a waiting time.
type PrepStep struct {
	Text    string `json:"text"`
	Seconds int    `json:"seconds,omitempty"`
}

// WorkItem is something to be begun before the lesson.
type WorkItem struct {
	Text   string `json:"text"`
	Before int    `json:"before" doc:"minutes before the lesson begins, at the latest"`
}

// BottleLabel is what goes on a bottle.
type BottleLabel struct {
	Name          string   `json:"name"`
	Formula       string   `json:"formula"`
	Concentration string   `json:"concentration"`
	Hazards       []string `json:"hazards"`
	Copies        int      `json:"copies"`
}

// Question is a question of the pre-laboratory exercise.
type Question struct {
	Code    string   `json:"code"`
	Text    string   `json:"text"`
	Unit    string   `json:"unit,omitempty"`
	Written bool     `json:"written,omitempty" doc:"a sentence is asked for; a person reads it"`
	Choices []Choice `json:"choices,omitempty"`
	Hidden  string   `json:"hidden,omitempty" doc:"for those who teach: that students are not asked it, and why"`
}

// titreText says what is expected on the burette.
func titreText(w wording.Writer, titre, fill float64, judged plan.Range) string {
	return w.Text("plan.range."+string(judged), "titre", finding.Volume(titre), "percent", finding.Number(fill, 2, quantity.Percent))
}

// ExpectedTitre says what is expected on the burette of a practical; empty where nothing is titrated.
func ExpectedTitre(w wording.Writer, r *practical.Ready) string {
	if r.MadeOnly() {
		return ""
	}
	titre, fill, judged := plan.TitreOf(r)
	return titreText(w, titre, fill, judged)
}

// PlanOf puts a plan into words, with what a class needs where it is asked for.
func PlanOf(r *practical.Ready, class prep.Class, style practical.Style) Plan {
	w, s := exercise(r, style)
	asked := plan.Asked(r)
	for i, q := range s.Questions {
		if !slices.ContainsFunc(asked, func(a plan.Question) bool { return a.Code == q.Code }) {
			s.Questions[i].Hidden = w.Text("plan.not-asked")
		}
	}
	a := plan.Assess(r)
	s.Assessment = a
	parts := SchemePartsOf(r, style)
	s.Marking, s.Lists, s.OfPlan = &parts, checklists(w, r), r.OfPlan()
	s.Norms = NormsOf(style, r.Rules.Norms, r.Rules.School)
	for _, u := range r.Asked.What.Units() {
		s.AskUnits = append(s.AskUnits, UnitChoice{u, w.Unit(u)})
	}
	for _, f := range a.Findings {
		s.Findings = append(s.Findings, Sentence{f.Code, f.Severity, f.Subject, "", w.Say(f.Message)})
	}
	if r.MadeOnly() {
		code := "plan.uncertainty-solution"
		s.Uncertainty = w.Text(code, "percent", finding.Number(a.Factor*a.Uncertainty, 2, quantity.Percent), "strength",
			finding.Number(r.StrengthMade(0), 3, quantity.MolePerL))
		if class.Students > 0 && class.Trials > 0 {
			classOf(w, &s, r, class)
		}
		return s
	}
	s.Titre = titreText(w, a.Titre, a.Fill, a.Range)
	s.Best[0], s.Best[1] = plan.Best(r.Norms(), r.Glass.Burette.Capacity.Float64())
	s.Ratio = wording.Show(float64(a.Ratio[0]), 0) + " : " + wording.Show(float64(a.Ratio[1]), 0)
	if a.Uncertainty > 0 {
		code := "plan.uncertainty"
		if r.Rules.Agreement.Need == 1 {
			code += "-one"
		}
		s.Uncertainty = w.Text(code, "percent", finding.Number(a.Factor*a.Uncertainty, 2, quantity.Percent), "factor", finding.Number(a.Factor, 2, ""))
	}
	for _, x := range a.Proposals {
		s.Proposals = append(s.Proposals, Proposal{x, w.Say(x.Said)})
	}
	for i := range a.Indicators {
		s.Indicators = append(s.Indicators, indicator(w, a.Indicators[i]))
	}
	for _, x := range a.Rests {
		s.Rests = append(s.Rests, potential(w, x))
	}
	if a.Chosen != nil {
		chosen := indicator(w, *a.Chosen)
		s.Chosen = &chosen
	}
	if class.Students > 0 && class.Trials > 0 {
		classOf(w, &s, r, class)
	}
	return s
}

// Exercise says what a student is told before the laboratory: what is to be
// done, with its cautions, and the questions. What answers them (the expected
// titre, the curve, the indicators, the preparation) is left out.
func Exercise(r *practical.Ready, style practical.Style) Plan {
	_, s := exercise(r, style)
	s.Assessment = plan.Assessment{Equation: r.Equation.Plain(), Range: plan.RangeUnknown,
		Prediction: curve.Prediction{Indicators: []curve.Judged{}}, Proposals: []plan.Proposal{}, Findings: []finding.Finding{}}
	return s
}

func exercise(r *practical.Ready, style practical.Style) (wording.Writer, Plan) {
	w := wording.For(style, r.Showing.Style)
	s := Plan{Setting: SettingOf(w, r), Findings: []Sentence{}, Proposals: []Proposal{}, Indicators: []Indicator{},
		Needs: []Need{}, Solutions: []Preparation{}, Order: []WorkItem{}, Labels: []BottleLabel{}, Questions: []Question{},
		Units: unitTexts(w), AskUnits: []UnitChoice{}, KindText: KindText(w, r.Kind)}
	for _, q := range plan.Questions(r) {
		t := Question{Code: q.Code, Text: w.Say(q.Ask), Unit: w.Unit(q.Unit), Written: q.Written}
		for _, c := range q.Choices {
			t.Choices = append(t.Choices, Choice{c.Code, w.Value(c.Name)})
		}
		s.Questions = append(s.Questions, t)
	}
	return w, s
}

func potential(w wording.Writer, p curve.Potential) string {
	kind := w.Text("plan.potential.own")
	switch {
	case p.Half == "":
	case p.Kind == catalog.FormalPotential:
		kind = w.Text("plan.potential.formal", "medium", w.Text("medium."+p.Medium))
	default:
		kind = w.Text("plan.potential.standard")
	}
	return w.Text("plan.potential", "half", finding.Formula(p.Half), "value", finding.Exact(p.Value, quantity.Volt), "kind", kind)
}

func indicator(w wording.Writer, j curve.Judged) Indicator {
	i, _ := catalog.BuiltIn().Indicator(j.ID)
	out := Indicator{Judged: j, Name: w.Text(i.NameCode()), At: w.Text(i.EndCode(j.Acid))}
	for _, c := range []struct {
		code string
		text *string
	}{{j.Before, &out.BeforeText}, {j.After, &out.AfterText}} {
		if c.code != "" {
			*c.text = w.Text("colour." + c.code)
		}
	}
	if code := "indicator." + j.ID + ".when"; w.Has(code) {
		out.When = w.Text(code)
	}
	return out
}

// classOf adds quantities, preparations and labels.
func classOf(w wording.Writer, s *Plan, r *practical.Ready, class prep.Class) {
	out := plan.ForClass(r, class)
	if out.Assumed != nil {
		s.Assumed = w.Say(*out.Assumed)
	}
	for _, n := range out.Needs {
		code := "class.need"
		if slices.ContainsFunc(out.Made, func(m plan.Made) bool { return m.Name == n.Name && m.How.Mass > 0 }) {
			code = "class.need-solution"
		}
		if n.What == "indicator" {
			code, n.Name = "class.indicator", w.Text(r.Indicator.NameCode())
		}
		t := Need{Need: n, Text: w.Text(code, "name", n.Name, "bench", finding.Number(n.Bench, 3, quantity.Millilitre),
			"total", prep.Volume(n.Total), "make", prep.Volume(n.Make), "count", finding.Count(n.Bottles))}
		if n.Short {
			t.Warning = w.Text("class.short", "name", n.Name, "lasts", finding.Count(n.Lasts), "trials",
				finding.Count(class.Trials))
		}
		s.Needs = append(s.Needs, t)
	}
	for _, solid := range out.Solids {
		s.Needs = append(s.Needs, Need{Need: prep.Need{What: "solid", Name: solid.Name},
			Text: w.Text("class.solid", "name", solid.Name, "bench", finding.Number(solid.Bench, 4, quantity.Gram), "total",
				finding.Number(solid.Total, 3, quantity.Gram))})
	}
	for _, b := range out.Bottles {
		label := BottleLabel{Name: b.Name, Formula: wording.Formula(b.Formula), Hazards: []string{}, Copies: b.Copies}
		if b.Concentration.Sign() > 0 {
			label.Concentration = w.Value(finding.Exact(b.Concentration, quantity.MolePerL))
		}
		for _, c := range b.Cautions {
			label.Hazards = append(label.Hazards, w.Text("caution."+c))
		}
		s.Labels = append(s.Labels, label)
	}
	var all []prep.Preparation
	for _, made := range out.Made {
		s.Solutions = append(s.Solutions, preparation(w, made))
		all = append(all, made.How)
	}
	s.OrderSaid = w.Say(orderSaid.Message(r.Norms().Said(practical.HandsOnMinutes)))
	for _, task := range prep.Order(r.Norms(), all) {
		of := s.Solutions[task.Of]
		s.Order = append(s.Order, WorkItem{of.Name + ": " + of.Steps[task.Step].Text, task.Before})
	}
}

func preparation(w wording.Writer, m plan.Made) Preparation {
	t := Preparation{Name: m.Name, Steps: []PrepStep{}, Cautions: []string{}}
	how := m.How
	code, figures := "prep.solid", 3
	if how.Primary { // its concentration follows from the mass
		figures = 4
	}
	if how.Stock > 0 {
		code = "prep.from-stock"
		if how.Percent > 0 {
			code = "prep.from-concentrated"
		}
	}
	t.Text = w.Text(code, "volume", prep.Volume(m.Volume), "concentration", finding.Exact(m.Concentration, quantity.MolePerL),
		"mass", finding.Number(how.Mass, figures, quantity.Gram),
		"molar", finding.Number(how.MolarMass, 5, quantity.GramPerMole), "stock", finding.Number(how.Stock, 3,
			quantity.Millilitre),
		"strength", finding.Number(how.Strength, 3, quantity.MolePerL), "percent", finding.Number(how.Percent, 3,
			quantity.Percent))
	for _, step := range how.Instructions {
		t.Steps = append(t.Steps, PrepStep{w.Say(step.Say), step.Seconds})
	}
	for _, c := range m.Cautions {
		t.Cautions = append(t.Cautions, w.Text("caution."+c))
	}
	return t
}

// Checked speaks the judgement of a pre-laboratory question.
func Checked(r *practical.Ready, c plan.Checked, style practical.Style) string {
	return wording.For(style, r.Showing.Style).Say(c.Say)
}
