package calc

import (
	"fmt"
	"strconv"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/model/assay"
	"exactflask/core/model/budget"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/view"
	"exactflask/wording"
)

// titre is one trial, by its readings or by its titre alone.
type titre struct {
	Titre    string `json:"titre,omitempty" maxLength:"24" doc:"mL; or give the readings"`
	Start    string `json:"start,omitempty" maxLength:"24"`
	End      string `json:"end,omitempty" maxLength:"24"`
	FirstEnd string `json:"firstEnd,omitempty" maxLength:"24" doc:"at the first of two end points"`
	Mass     string `json:"mass,omitempty" maxLength:"24" doc:"g, where every trial has its own; of the first titre, where one is for all"`
	Sample   string `json:"sample,omitempty" maxLength:"24" doc:"mL, where the sample is run from a burette"`
	Reagent  string `json:"reagent,omitempty" maxLength:"24" doc:"mL, where the reagent in excess is"`
	Blank    bool   `json:"blank,omitempty"`
}

type titrationIn struct {
	Practical practical.Practical `json:"practical" doc:"id, revision, title, burette, readings and indicator may be any: they do not enter"`
	Titres    []titre             `json:"titres" minItems:"1" maxItems:"50"`
	Draws     int                 `json:"draws,omitempty" minimum:"0" maximum:"200000" doc:"of a Monte Carlo propagation; none when left out"`
}

type titrationOut struct {
	Statement  string             `json:"statement"`
	Result     *evaluation.Result `json:"result"`
	Working    []string           `json:"working" doc:"plain text, a line a step"`
	LaTeX      []string           `json:"latex"`
	MonteCarlo *budget.Propagated `json:"monteCarlo,omitempty"`
	Notes      []string           `json:"notes" doc:"findings, in words"`
}

var (
	giveTitre  = finding.Declare("calc.give-titre")
	onlyBlanks = finding.Declare("calc.only-blanks")
	otherKind  = finding.Declare("calc.other-kind", "wanted", "given")
)

// measured reads a trial as it was given; number is its place, from 0.
func (t titre) measured(number int) (assay.Measured, *finding.Fault) {
	path := fmt.Sprintf("titres[%d]", number)
	m := assay.Measured{Trial: strconv.Itoa(number + 1)}
	if (t.Titre == "") == (t.Start == "" || t.End == "") {
		return m, giveTitre.Fault(path)
	}
	var fault *finding.Fault
	read := func(name, text string) journal.Reading {
		if f := journal.CheckNumber(path+"."+name, text); f != nil && fault == nil {
			fault = f
		}
		v, _ := journal.ParseNumber(text)
		return journal.Reading{Text: text, Value: v}
	}
	zero := journal.Reading{Text: "0"}
	start := zero
	if t.Titre != "" {
		m.End = read("titre", t.Titre)
	} else {
		start, m.End = read("start", t.Start), read("end", t.End)
	}
	m.Burette.Start = &start
	if t.FirstEnd != "" {
		first := read("firstEnd", t.FirstEnd)
		m.First = &first
	}
	if t.Mass != "" {
		m.Mass = &[2]journal.Reading{read("mass", t.Mass), zero}
	}
	if t.Sample != "" {
		m.Sample = &[2]journal.Reading{zero, read("sample", t.Sample)}
	}
	if t.Reagent != "" {
		m.Reagent = &[2]journal.Reading{zero, read("reagent", t.Reagent)}
	}
	return m, fault
}

// doTitration averages whatever is given: which titres agree is another
// question.
func doTitration(in titrationIn) (titrationOut, *finding.Fault) {
	r, fault := in.Practical.Check()
	if fault != nil {
		return titrationOut{}, fault.In("practical")
	}
	var trials []assay.Measured
	held := assay.Held{}
	for i, t := range in.Titres {
		m, fault := t.measured(i)
		if fault != nil {
			return titrationOut{}, fault
		}
		m.Burette.Rising = r.Glass.Burette.Rising && t.Titre == ""
		switch {
		case t.Blank:
			held.Blanks = append(held.Blanks, m)
			continue
		case r.Weighs() && !r.MassEach() && held.Mass == nil:
			held.Mass = m.Mass
		}
		trials = append(trials, m)
	}
	if len(trials) == 0 {
		return titrationOut{}, onlyBlanks.Fault("titres")
	}
	a := assay.New(r, held)
	result, findings, problem := experiment.Given(a, trials, experiment.All)
	if problem != nil {
		return titrationOut{}, &finding.Fault{Path: "titres", Message: problem.Message}
	}
	w, words := view.AnswerOf(r, result), wording.For(r.Showing.Style)
	out := titrationOut{Statement: w.Statement, Result: result, Notes: []string{}}
	for _, s := range w.Steps {
		out.Working, out.LaTeX = append(out.Working, s.Title+": "+s.Plain()), append(out.LaTeX, s.LaTeX())
	}
	for _, f := range findings {
		out.Notes = append(out.Notes, words.Say(f.Message))
	}
	if in.Draws > 0 {
		mc := budget.MonteCarlo(result.Derivation.Program(), budget.Inputs(a, result.Derivation), in.Draws, 1)
		out.MonteCarlo = &mc
	}
	return out, nil
}

// titrationOf is doTitration for one kind only.
func titrationOf(kind practical.Kind) func(titrationIn) (titrationOut, *finding.Fault) {
	return func(in titrationIn) (titrationOut, *finding.Fault) {
		r, fault := in.Practical.Check()
		if fault != nil {
			return titrationOut{}, fault.In("practical")
		}
		if r.Kind != kind && !(kind == practical.Direct && r.Kind == practical.Standardisation && in.Practical.Kind == "") {
			return titrationOut{}, otherKind.Fault("practical.kind", finding.Text(string(kind)), finding.Text(string(r.Kind)))
		}
		return doTitration(in)
	}
}
