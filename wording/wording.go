// Package wording turns what the core says in codes and values into sentences,
// in the words and units of the reader.
//
// A Sheet is one notebook as a person reads it: the evaluation, and beside it
// every text that a screen, a report or a terminal shows.
package wording

import (
	"math"
	"slices"
	"strings"

	"exactflask/core/agreement"
	"exactflask/core/catalog"
	"exactflask/core/chem"
	"exactflask/core/experiment"
	"exactflask/core/finding"
	"exactflask/core/journal"
	"exactflask/core/quantity"
	"exactflask/core/stoich"
)

// Sheet is a notebook in words.
type Sheet struct {
	Evaluation experiment.Evaluation `json:"evaluation"`
	Style      experiment.Style      `json:"style"`
	Setting    Setting               `json:"setting"`
	Trials     map[string]TrialText  `json:"trials" doc:"by trial id"`
	Findings   []Sentence            `json:"findings" doc:"one for each finding of the evaluation, in the same order"`
	Next       string                `json:"next" doc:"what to do now"`
	Agreement  string                `json:"agreement" doc:"whether the titres agree"`
	Notes      []string              `json:"notes" doc:"statistics, blank, what is left: one sentence each"`
	SoFar      string                `json:"soFar,omitempty" doc:"the result line: mean titre and concentration so far"`
	Setup      []ItemText            `json:"setup"`
	Log        []LogText             `json:"log"`
	Cleanup    []ItemText            `json:"cleanup"`
	Hold       int                   `json:"hold" doc:"how many seconds the end colour must last"`
	Stage      string                `json:"stage" doc:"where the notebook stands, in a few words"`
	Answer     *AnswerText           `json:"answer,omitempty"`
	Work       []WorkText            `json:"work" doc:"one for each step of the evaluation's work, in the same order"`
	Units      UnitText              `json:"units"`
}

// ItemText is an item of a list in words.
type ItemText struct {
	Code string `json:"code"`
	Text string `json:"text"`
	Done bool   `json:"done"`
}

// UnitText is how the units of columns are written.
type UnitText struct {
	Volume        string `json:"volume"`
	Concentration string `json:"concentration"`
}

// Setting is the practical in words.
type Setting struct {
	Equation      string       `json:"equation" doc:"in Unicode"`
	EquationLaTeX string       `json:"equationLatex"`
	Titrant       string       `json:"titrant" doc:"what is in the burette"`
	Analyte       string       `json:"analyte" doc:"what is in the flask"`
	Glass         string       `json:"glass" doc:"burette and pipette with their tolerances"`
	Indicator     string       `json:"indicator" doc:"name and the colour to stop at"`
	Rules         []string     `json:"rules" doc:"this school's rules for readings and agreement"`
	Cautions      []string     `json:"cautions"`
	Route         []VesselText `json:"route" doc:"from the sample to the flask"`
}

// TrialText names a trial and says why it is in or out.
type TrialText struct {
	Name   string `json:"name"`
	Short  string `json:"short" doc:"for narrow places: R, 1, 2"`
	Reason string `json:"reason"`
}

// Sentence is a finding in words.
type Sentence struct {
	Code     string           `json:"code"`
	Severity finding.Severity `json:"severity" enum:"note,check,warning"`
	Subject  string           `json:"subject,omitempty"`
	Place    string           `json:"place,omitempty" doc:"which trial or reading, in words"`
	Text     string           `json:"text" doc:"what was seen, why it matters, what to do"`
}

// AnswerText is the result in words.
type AnswerText struct {
	Statement   string                        `json:"statement" doc:"the answer as a sentence"`
	Symbol      string                        `json:"symbol" doc:"LaTeX"`
	Value       string                        `json:"value" doc:"at its figures"`
	Unit        string                        `json:"unit"`
	Unrounded   string                        `json:"unrounded" doc:"with more figures than it deserves, on request"`
	Figures     string                        `json:"figures" doc:"why it has these figures"`
	Comparison  string                        `json:"comparison,omitempty" doc:"against the expected value"`
	Style       experiment.Working            `json:"style" enum:"steps,factors,formula" doc:"of steps"`
	Steps       []Step                        `json:"steps" doc:"the working in the style of the practical"`
	Others      map[experiment.Working][]Step `json:"others" doc:"the same in the other styles"`
	Uncertainty *UncertaintyText              `json:"uncertainty,omitempty"`
	Within      string                        `json:"within,omitempty" doc:"said when the difference needs no fault to explain it"`
	Causes      []CauseText                   `json:"causes" doc:"why is mine off?"`
	Origins     map[string]Origin             `json:"origins" doc:"where each figure comes from, by node id"`
}

// Speak puts an evaluation into words. What style leaves open is taken from
// the practical.
func Speak(p experiment.Practical, ev experiment.Evaluation, style experiment.Style) Sheet {
	return speak(p, ev, style, false)
}

// SpeakBrief is Speak for the bench, where every millisecond shows: of the
// answer it leaves out the derivation, where each figure comes from, the other ways of writing
// the working, the uncertainty and the causes.
func SpeakBrief(p experiment.Practical, ev experiment.Evaluation, style experiment.Style) Sheet {
	return speak(p, ev, style, true)
}

func speak(p experiment.Practical, ev experiment.Evaluation, style experiment.Style, brief bool) Sheet {
	w := writer{brief: brief, style: style.Or(p.Style).Or(experiment.Style{Words: experiment.WordsTitre, Units: experiment.UnitsML})}
	s := Sheet{Evaluation: ev, Style: w.style, Setting: w.setting(p), Trials: make(map[string]TrialText, len(ev.Trials)),
		Findings: make([]Sentence, 0, len(ev.Findings)),
		Units:    UnitText{Volume: w.unit(quantity.Millilitre), Concentration: w.unit(quantity.MolePerL)}}
	entries := map[string]string{} // entry id to place
	for _, t := range ev.Trials {
		name, short := w.trialName(t)
		s.Trials[t.ID] = TrialText{Name: name, Short: short, Reason: w.say(string(t.Reason), w.reasonValues(t))}
		entries[t.ID] = name
		if t.Start != nil {
			entries[t.Start.Entry] = name + w.text(", start")
		}
		if t.End != nil {
			entries[t.End.Entry] = name + w.text(", end")
		}
	}
	for _, f := range ev.Findings {
		s.Findings = append(s.Findings, Sentence{f.Code, f.Severity, f.Subject, entries[f.Subject], w.say(f.Code, f.Values)})
	}
	s.Next = w.next(ev.Next)
	s.Agreement = w.agreement(p, ev)
	s.Stage = w.say("stage."+string(ev.Stage), nil)
	s.Setup, s.Cleanup = w.items(ev.Setup), w.items(ev.Cleanup)
	s.Log = w.log(ev.Log, s.Trials)
	s.Hold = p.Readings.Hold
	if s.Hold == 0 {
		s.Hold = 30
	}
	s.Notes = w.notes(ev, s.Trials)
	s.SoFar = w.soFar(ev, s.Trials)
	s.Work = w.work(p, ev, s.Trials)
	if ev.Result != nil {
		said := *ev.Result // with its portions named in the reader's units
		said.Derivation.Nodes = slices.Clone(said.Derivation.Nodes)
		for i := range said.Derivation.Nodes {
			said.Derivation.Nodes[i].Where = w.portion(said.Derivation.Nodes[i].Where)
		}
		worded := ev
		worded.Result = &said
		s.Answer = w.answer(p, worded, s.Trials)
		if brief {
			short := *ev.Result
			short.Derivation.Nodes, short.Causes = []stoich.Node{}, nil
			s.Evaluation.Result = &short
		}
	}
	return s
}

// writer holds the reader's style.
type writer struct {
	style      experiment.Style
	brief      bool              // without what only the result's own page shows
	derivation stoich.Derivation // whose working is written
}

// thin is the narrow no-break space between a value and its unit.
const thin = "\u202f"

// text puts the reader's words and units in place of [titre], [mL] and so on.
func (w writer) text(template string) string {
	if !strings.Contains(template, "[") {
		return template
	}
	for _, term := range terms {
		word := term.titre
		if w.style.Words == experiment.WordsTiter {
			word = term.titer
		}
		template = strings.ReplaceAll(template, "["+term.key+"]", word)
	}
	template = strings.ReplaceAll(template, " [mL]", thin+w.unit(quantity.Millilitre))
	return strings.ReplaceAll(template, " [mol/L]", thin+w.unit(quantity.MolePerL))
}

// say writes the sentence of a code with its values. A code without a sentence
// is shown as it is: tests see to it that there is none.
func (w writer) say(code string, values map[string]string) string {
	template, ok := sentences[code]
	if !ok {
		return code
	}
	if one, ok := sentences[code+".one"]; ok && values["missing"] == "1" {
		template = one
	}
	template = w.text(template)
	for name, value := range values {
		template = strings.ReplaceAll(template, "{"+name+"}", minus(value))
	}
	return template
}

// minus writes a typographic minus before a number.
func minus(s string) string {
	if strings.HasPrefix(s, "-") {
		return "−" + s[1:]
	}
	return s
}

func (w writer) unit(u quantity.Unit) string {
	if w.style.Units == experiment.UnitsCM3 {
		switch u {
		case quantity.Millilitre:
			return "cm³"
		case quantity.Litre:
			return "dm³"
		case quantity.MolePerL:
			return "mol/dm³"
		case quantity.GramPerL:
			return "g/dm³"
		case quantity.MillimolePerL:
			return "mmol/dm³"
		case quantity.MilligramPerL:
			return "mg/dm³"
		case quantity.MgPer100:
			return "mg/100 cm³"
		}
	}
	if u == quantity.One {
		return ""
	}
	return string(u)
}

// portion names a portion such as "250.0 mL" in the reader's units.
func (w writer) portion(where string) string {
	if volume, ok := strings.CutSuffix(where, " mL"); ok {
		return volume + thin + w.unit(quantity.Millilitre)
	}
	return where
}

func (w writer) trialName(t experiment.Trial) (name, short string) {
	n := quantity.Show(float64(t.Number), 0)
	switch {
	case t.Withdrawn:
		return "Withdrawn trial", "×"
	case t.Type == journal.Rough && t.Number == 1:
		return "Rough", "R"
	case t.Type == journal.Rough:
		return "Rough " + n, "R" + n
	case t.Type == journal.Blank:
		return "Blank " + n, "B" + n
	case t.Type == journal.Practice:
		return "Practice " + n, "P" + n
	default:
		return "Trial " + n, n
	}
}

func (w writer) reasonValues(t experiment.Trial) map[string]string {
	if t.SetAside != nil {
		return finding.Values("reason", t.SetAside.Text)
	}
	return nil
}

func (w writer) setting(p experiment.Practical) Setting {
	s := Setting{Cautions: p.Cautions(), Rules: w.rules(p), Route: w.route(p)}
	if s.Cautions == nil {
		s.Cautions = []string{}
	}
	if eq, err := chem.ParseEquation(p.Equation); err == nil {
		if !eq.Balanced() {
			if balanced, err := eq.Balance(); err == nil {
				eq = balanced
			}
		}
		s.Equation, s.EquationLaTeX = eq.String(), eq.LaTeX()
	}
	s.Titrant, s.Analyte = w.solution(p.Titrant), w.solution(p.Analyte)
	pipette := ""
	if p.Aliquot.Volume.Sign() > 0 {
		kind := "pipette"
		if p.Aliquot.Kind != "" {
			kind = "measuring " + string(p.Aliquot.Kind)
		}
		pipette = "; " + p.Aliquot.Volume.String() + " [mL] " + kind + ", class " + string(p.Aliquot.Class)
		if t, ok := p.Aliquot.Tolerance(); ok {
			pipette += " (±" + t.String() + " [mL])"
		}
	}
	burette := p.Burette.Capacity.String() + " [mL] [burette] in " + p.Burette.Division.String() + " [mL], class " + string(p.Burette.Class)
	if t, ok := p.Burette.Tolerance(); ok {
		burette += " (±" + t.String() + " [mL])"
	}
	s.Glass = w.text(burette + pipette)
	if i, ok := catalog.BuiltIn().Indicator(p.Indicator); ok {
		stop := i.EndColour.AlkaliInBurette
		if acidic(p) {
			stop = i.EndColour.AcidInBurette
		}
		s.Indicator = w.text(i.Name + ": stop at " + strings.ReplaceAll(stop, "burette", "[burette]"))
	}
	return s
}

// acidic tells whether the acid is in the burette, by the catalogue's reaction
// of these two substances.
func acidic(p experiment.Practical) bool {
	titrant, err := chem.ParseFormula(p.Titrant.Formula)
	if err != nil {
		return false
	}
	s, ok := catalog.BuiltIn().Substance(titrant)
	if !ok {
		return false
	}
	for _, r := range catalog.BuiltIn().Reactions {
		if r.Acid == s.ID {
			return true
		}
	}
	return false
}

func (w writer) solution(s experiment.Solution) string {
	formula := s.Formula
	if f, err := chem.ParseFormula(s.Formula); err == nil {
		formula = f.String()
	}
	switch {
	case !s.Concentration.IsZero():
		return w.text(s.Name + " (" + formula + "), " + s.Concentration.String() + " [mol/L]")
	case !s.Approximate.IsZero():
		return w.text(s.Name + " (" + formula + "), unknown, roughly " + s.Approximate.String() + " [mol/L]")
	default:
		return s.Name + " (" + formula + "), unknown"
	}
}

func (w writer) rules(p experiment.Practical) []string {
	out := []string{w.say("rule.resolution."+string(p.Readings.Resolution), finding.Values("step", p.Burette.Step(p.Readings.Resolution).String())),
		w.say(agreementRule(p.Agreement), finding.Values("need", quantity.Show(float64(p.Agreement.Need), 0), "tolerance", p.Agreement.Tolerance.String(), "percent", p.Agreement.PercentOr2().String()))}
	if p.Agreement.RoughCounts {
		out = append(out, w.say("rule.rough-counts", nil))
	}
	hold := p.Readings.Hold
	if hold == 0 {
		hold = 30
	}
	out = append(out, w.say("rule.hold", finding.Values("hold", quantity.Show(float64(hold), 0))))
	if p.Readings.StartAtZero {
		out = append(out, w.say("rule.start-at-zero", nil))
	}
	if p.Result.RoundMean {
		out = append(out, w.say("rule.round-mean", nil))
	}
	return out
}

func (w writer) next(n experiment.Next) string {
	values := map[string]string{}
	for k, v := range n.Values {
		values[k] = v
	}
	if n.SlowAt != nil {
		values["slow"], values["drop"], values["expect"] = n.SlowAt.Round(2).String(), n.DropAt.Round(2).String(), n.ExpectAt.Round(2).String()
	}
	text := w.say(n.Code, values)
	for _, more := range []string{"percent", "short", "left"} {
		code := map[string]string{"percent": "next.relative", "short": "next.short", "left": "next.left"}[more]
		if n.Values[more] != "" && n.Code != "next.nothing-left" && n.Code != "next.disagree" {
			text += " " + w.say(code, values)
			if more == "short" {
				break
			}
		}
	}
	if item := n.Values["setup"]; item != "" {
		text = w.say("next.setup", finding.Values("item", w.say("item."+item, nil))) + " " + text
	}
	if n.Values["weigh"] != "" {
		text += " " + w.say("next.weigh", nil)
	}
	if n.Values["refill"] != "" {
		text += " " + w.say("next.refill", values)
	}
	if n.Values["beyond"] != "" {
		text += " " + w.say("next.beyond", values)
	}
	return text
}

func (w writer) agreement(p experiment.Practical, ev experiment.Evaluation) string {
	a := ev.Agreement
	values := finding.Values("tolerance", p.Agreement.Tolerance.String(), "missing", quantity.Show(float64(a.Missing), 0))
	if a.Status == agreement.Agreed {
		values["mean"], values["spread"] = a.Mean.String(), a.Spread.String()
		values["count"] = quantity.Show(float64(len(a.Chosen)), 0)
	}
	code := "agreement." + string(a.Status)
	if a.Status == agreement.Ambiguous {
		code = "agreement.undecided"
	}
	if p.Agreement.Kind == agreement.Relative && a.Status != agreement.TooFew {
		code += "-relative"
		values["percent"] = p.Agreement.PercentOr2().String()
		if a.Relative != nil {
			values["relative"] = a.Relative.String()
		}
	}
	return w.say(code, values)
}

func agreementRule(r agreement.Rule) string {
	switch {
	case r.Kind == agreement.Relative:
		return "rule.relative"
	case r.Average == agreement.All:
		return "rule.average-all"
	case r.Average == agreement.Closest:
		return "rule.average-closest"
	default:
		return "rule.agreement"
	}
}

func (w writer) items(items []experiment.Item) []ItemText {
	out := make([]ItemText, len(items))
	for i, item := range items {
		out[i] = ItemText{item.Code, w.say("item."+item.Code, nil), item.Entry != ""}
	}
	return out
}

// notes are the sentences under the result line.
func (w writer) notes(ev experiment.Evaluation, trials map[string]TrialText) []string {
	out := []string{}
	if b := ev.Blank; b != nil {
		out = append(out, w.say("blank", finding.Values("blank", b.String())))
	}
	if s := ev.Statistics; s != nil {
		out = append(out, w.say("statistics", finding.Values("sd", quantity.Show(s.SD, 2), "rsd", quantity.Show(s.RSD, 2), "ci", quantity.Show(s.CI95, 2), "n", quantity.Show(float64(s.N), 0))))
	}
	if d := ev.Dixon; d != nil {
		out = append(out, w.say("dixon", finding.Values("trial", trials[d.Trial].Name, "q", quantity.Show(d.Q, 3), "critical", quantity.Show(d.Critical, 3))))
	}
	if s := ev.Supply; s != nil {
		var left []string
		if s.Titrant != nil {
			left = append(left, w.text(minus(s.Titrant.String())+" [mL] of titrant"))
		}
		if s.Analyte != nil {
			left = append(left, w.text(minus(s.Analyte.String())+" [mL] of sample"))
		}
		out = append(out, w.say("supply", finding.Values("left", strings.Join(left, ", "), "count", quantity.Show(float64(s.Trials), 0))))
	}
	return out
}

// soFar is the result line under the trials.
func (w writer) soFar(ev experiment.Evaluation, trials map[string]TrialText) string {
	s := ev.SoFar
	if s == nil {
		return ""
	}
	values := finding.Values("symbol", symbolPlain(stoich.Node{Letter: s.Letter, Of: s.Of}), "value", s.Answer.String(), "unit", unitAfter(w.unit(s.Answer.Unit)))
	if s.From == "mean" {
		var names []string
		for _, t := range ev.Trials {
			if t.Counts {
				names = append(names, trials[t.ID].Name)
			}
		}
		values["mean"], values["trials"] = ev.Agreement.Mean.String(), strings.Join(names, ", ")
	}
	text := w.say("sofar."+s.From, values)
	if s.Expected != nil {
		text += " " + w.compared("answer.comparison", *s.Expected, s.Answer.Unit, "")
	}
	return text
}

func (w writer) compared(code string, c experiment.Comparison, unit quantity.Unit, label string) string {
	side := "above"
	if c.Percent < 0 {
		side = "below"
	}
	if label != "" {
		label = " (" + label + ")"
	}
	return w.say(code, finding.Values("percent", quantity.Show(math.Abs(c.Percent), 2), "side", side, "expected", quantity.Show(c.Value, 3), "unit", unitAfter(w.unit(unit)), "label", label))
}

// Codes returns every code that has a sentence.
func Codes() map[string]bool {
	out := make(map[string]bool, len(sentences))
	for code := range sentences {
		out[code] = true
	}
	return out
}
