// Package experiment is the top of the core. A Practical says what is to be
// done, a journal what was done, and Evaluate everything that follows from
// them. Nothing else computes.
package experiment

import (
	"unicode/utf8"

	"exactflask/core/agreement"
	"exactflask/core/catalog"
	"exactflask/core/chem"
	"exactflask/core/decimal"
	"exactflask/core/finding"
	"exactflask/core/glass"
)

// Method is a kind of titration.
type Method string

// Direct: the titrant reacts with what was pipetted into the flask.
const Direct Method = "direct"

// Practical says what is to be done, under which rules of the school.
type Practical struct {
	ID        string          `json:"id" minLength:"1" maxLength:"64" pattern:"^[A-Za-z0-9_-]+$"`
	Revision  int             `json:"revision" minimum:"1" doc:"counts up when the practical is changed; a notebook keeps the one it was started under"`
	Title     string          `json:"title" minLength:"1" maxLength:"120"`
	Purpose   string          `json:"purpose,omitempty" maxLength:"2000" doc:"why the titration is done, in a few sentences"`
	Method    Method          `json:"method" enum:"direct"`
	Equation  string          `json:"equation" maxLength:"600" doc:"reactants -> products; balanced when it is read"`
	Titrant   Solution        `json:"titrant" doc:"in the burette"`
	Analyte   Solution        `json:"analyte" doc:"in the conical flask"`
	Aliquot   glass.Pipette   `json:"aliquot" doc:"pipette that measures the analyte"`
	SampleBy  SampleBy        `json:"sampleBy,omitempty" enum:"pipette,burette" doc:"how the analyte is measured: with the pipette (when left out), or each time with a burette of its own"`
	Burette   glass.Burette   `json:"burette"`
	Supply    Supply          `json:"supply,omitzero" doc:"what one bench is given; left out when it is plenty"`
	Indicator string          `json:"indicator" maxLength:"64" doc:"id in the catalogue"`
	Readings  ReadingRule     `json:"readings"`
	Agreement agreement.Rule  `json:"agreement"`
	Result    ResultRule      `json:"result"`
	Style     Style           `json:"style"`
	Reference decimal.Decimal `json:"reference,omitzero" doc:"true concentration in mol/L, known to the instructor only; left out when there is none"`
}

// Solution is a solution of one substance. Of the practical's two solutions
// one has a known concentration; the other is asked for.
type Solution struct {
	Name          string          `json:"name" minLength:"1" maxLength:"80"`
	Formula       string          `json:"formula" minLength:"1" maxLength:"200"`
	Concentration decimal.Decimal `json:"concentration,omitzero" doc:"known concentration, mol/L; left out for the unknown"`
	Approximate   decimal.Decimal `json:"approximate,omitzero" doc:"roughly expected concentration of the unknown, mol/L; used to predict the titre"`
}

// SampleBy says what measures the sample.
type SampleBy string

// The choices of SampleBy.
const (
	ByPipette SampleBy = "pipette"
	ByBurette SampleBy = "burette"
)

// Supply is how much of each solution one bench is given.
type Supply struct {
	Titrant decimal.Decimal `json:"titrant,omitzero" doc:"mL"`
	Analyte decimal.Decimal `json:"analyte,omitzero" doc:"mL"`
}

// ReadingRule says how the burette is read.
type ReadingRule struct {
	Resolution   glass.Resolution `json:"resolution" enum:"half,tenth,whole" doc:"fraction of a division that is read"`
	StartAtZero  bool             `json:"startAtZero,omitempty" doc:"every trial has to start at the zero mark"`
	HideExpected bool             `json:"hideExpected,omitempty" doc:"no expected reading is shown before the end reading is in"`
	NoRough      bool             `json:"noRough,omitempty" doc:"no rough trial is asked for"`
	FreeFlow     decimal.Decimal  `json:"freeFlow,omitzero" doc:"free flow until this many mL before the expected reading; 2.00 when left out"`
	Hold         int              `json:"hold,omitempty" minimum:"0" maximum:"300" doc:"how many seconds the end colour must last; 30 when left out"`
	Dropwise     decimal.Decimal  `json:"dropwise,omitzero" doc:"drop by drop from this many mL before it; 1.00 when left out"`
}

// ResultRule says how the result is worked out and who sees it when.
type ResultRule struct {
	RoundMean bool    `json:"roundMean,omitempty" doc:"the mean titre is rounded to the decimals of the titres and used so; otherwise carried unrounded"`
	Figures   int     `json:"figures,omitempty" minimum:"0" maximum:"8" doc:"significant figures of the answer; 0 for the fewest of the measured inputs"`
	Show      Showing `json:"show" enum:"always,after-marking" doc:"when a student sees results and workings"`
}

// Showing says when a student sees the results.
type Showing string

// The choices of Showing.
const (
	Always       Showing = "always"
	AfterMarking Showing = "after-marking"
)

// Style is the way of writing: both schools' words and units. It does not
// change anything that is computed.
type Style struct {
	Words Words `json:"words" enum:"titre,titer" doc:"titre, burette, conical flask, mean; or titer, buret, Erlenmeyer flask, average"`
	Units Units `json:"units" enum:"mL,cm3" doc:"mL and mol/L; or cm³ and mol/dm³"`
}

// Words and Units name the two usages.
type (
	Words string
	Units string
)

// The choices of Style.
const (
	WordsTitre Words = "titre"
	WordsTiter Words = "titer"
	UnitsML    Units = "mL"
	UnitsCM3   Units = "cm3"
)

// Or returns the style with what is empty or unknown taken from another.
func (s Style) Or(other Style) Style {
	if s.Words != WordsTitre && s.Words != WordsTiter {
		s.Words = other.Words
	}
	if s.Units != UnitsML && s.Units != UnitsCM3 {
		s.Units = other.Units
	}
	return s
}

// UnknownInBurette tells which of the two concentrations is asked for.
func (p Practical) UnknownInBurette() bool { return p.Titrant.Concentration.IsZero() }

// setup is a practical with its texts parsed.
type setup struct {
	Practical
	equation         chem.Equation
	titrant, analyte chem.Formula
}

// Check returns the fault that keeps a practical from being used.
func (p Practical) Check() *finding.Fault {
	_, fault := p.prepare()
	return fault
}

func (p Practical) prepare() (setup, *finding.Fault) {
	s := setup{Practical: p}
	fail := func(path, format string, args ...any) (setup, *finding.Fault) {
		return setup{}, finding.Faultf(path, format, args...)
	}
	if p.ID == "" || p.Title == "" {
		return fail("title", "a practical needs an id and a title")
	}
	if p.Revision < 1 {
		return fail("revision", "revisions count from 1; this says %d", p.Revision)
	}
	for _, t := range [...]struct{ path, text string }{{"title", p.Title}, {"purpose", p.Purpose}, {"titrant.name", p.Titrant.Name}, {"analyte.name", p.Analyte.Name}} {
		if !utf8.ValidString(t.text) || len(t.text) > 4000 {
			return fail(t.path, "this is too long, or not text in UTF-8")
		}
	}
	if p.Method != Direct {
		return fail("method", "the method %q is not known; use direct", p.Method)
	}
	var err error
	if s.equation, err = chem.ParseEquation(p.Equation); err != nil {
		return fail("equation", "%w", err)
	}
	if !s.equation.Balanced() {
		if s.equation, err = s.equation.Balance(); err != nil {
			return fail("equation", "%w", err)
		}
	}
	if s.titrant, err = chem.ParseFormula(p.Titrant.Formula); err != nil {
		return fail("titrant.formula", "%w", err)
	}
	if s.analyte, err = chem.ParseFormula(p.Analyte.Formula); err != nil {
		return fail("analyte.formula", "%w", err)
	}
	for _, at := range [...]struct {
		path    string
		formula chem.Formula
	}{{"titrant.formula", s.titrant}, {"analyte.formula", s.analyte}} {
		if _, ok := s.equation.Coefficient(at.formula); !ok {
			return fail(at.path, "%s does not stand in the equation %s", at.formula, s.equation)
		}
	}
	known, unknown := p.Analyte, p.Titrant
	knownAt, unknownAt := "analyte", "titrant"
	if !p.UnknownInBurette() {
		known, unknown, knownAt, unknownAt = unknown, known, unknownAt, knownAt
	}
	if known.Concentration.Sign() <= 0 || known.Concentration.Cmp(decimal.Must("20")) > 0 {
		return fail(knownAt+".concentration", "one of the two solutions needs a known concentration above 0 and up to 20 mol/L")
	}
	if !unknown.Concentration.IsZero() {
		return fail(unknownAt+".concentration", "both concentrations are given; leave out the one that is asked for")
	}
	if unknown.Approximate.Sign() < 0 || p.Reference.Sign() < 0 {
		return fail(unknownAt+".approximate", "a concentration cannot be less than 0")
	}
	if f := p.Burette.Check(); f != nil {
		return setup{}, f.In("burette")
	}
	if f := p.Aliquot.Check(); f != nil {
		return setup{}, f.In("aliquot")
	}
	if _, ok := catalog.BuiltIn().Indicator(p.Indicator); !ok {
		return fail("indicator", "no indicator %q is in the catalogue", p.Indicator)
	}
	switch p.Readings.Resolution {
	case glass.HalfDivision, glass.TenthDivision, glass.WholeDivision:
	default:
		return fail("readings.resolution", "the resolution is half, tenth or whole; this says %q", p.Readings.Resolution)
	}
	if p.Readings.FreeFlow.Sign() < 0 || p.Readings.Dropwise.Sign() < 0 {
		return fail("readings.freeFlow", "the volumes before the expected reading cannot be less than 0")
	}
	if p.SampleBy != "" && p.SampleBy != ByPipette && p.SampleBy != ByBurette {
		return fail("sampleBy", "the sample is measured by pipette or burette; this says %q", p.SampleBy)
	}
	if p.Supply.Titrant.Sign() < 0 || p.Supply.Analyte.Sign() < 0 {
		return fail("supply", "a volume cannot be less than 0")
	}
	if p.Readings.Hold < 0 || p.Readings.Hold > 300 {
		return fail("readings.hold", "the colour is watched for 1 to 300 s; this says %d", p.Readings.Hold)
	}
	switch {
	case p.Agreement.Kind != "" && p.Agreement.Kind != agreement.Spread && p.Agreement.Kind != agreement.Relative:
		return fail("agreement.kind", "titres are compared by spread or relative; this says %q", p.Agreement.Kind)
	case p.Agreement.Kind == agreement.Relative && (p.Agreement.Percent.Sign() < 0 || p.Agreement.Percent.Cmp(decimal.Whole(50)) > 0):
		return fail("agreement.percent", "the percentage is more than 0 and at most 50")
	case p.Agreement.Kind != agreement.Relative && p.SampleBy == ByBurette:
		return fail("agreement.kind", "samples measured by burette differ in volume: compare them with the relative rule")
	case p.Agreement.Kind == agreement.Relative && p.SampleBy != ByBurette && p.Agreement.Tolerance.Sign() < 0,
		p.Agreement.Kind != agreement.Relative && p.Agreement.Tolerance.Sign() <= 0:
		return fail("agreement.tolerance", "the tolerance must be more than 0 mL")
	}
	switch p.Agreement.Average {
	case "", agreement.Largest, agreement.All, agreement.Closest:
	default:
		return fail("agreement.average", "the largest set, all or the closest are averaged; this says %q", p.Agreement.Average)
	}
	if p.Agreement.Need != 2 && p.Agreement.Need != 3 {
		return fail("agreement.need", "2 or 3 titres must agree; this says %d", p.Agreement.Need)
	}
	if p.Result.Figures < 0 || p.Result.Figures > 8 {
		return fail("result.figures", "the answer has 1 to 8 figures, or 0 for the rule; this says %d", p.Result.Figures)
	}
	if p.Result.Show != Always && p.Result.Show != AfterMarking {
		return fail("result.show", "results show always or after-marking; this says %q", p.Result.Show)
	}
	if (p.Style != Style{}) && p.Style != p.Style.Or(Style{}) {
		return fail("style", "the words are titre or titer, the units mL or cm3")
	}
	if p.Readings.FreeFlow.IsZero() {
		s.Readings.FreeFlow = decimal.Must("2.00")
	}
	if p.Readings.Dropwise.IsZero() {
		s.Readings.Dropwise = decimal.Must("1.00")
	}
	if p.Readings.Hold == 0 {
		s.Readings.Hold = 30
	}
	s.Style = p.Style.Or(Style{WordsTitre, UnitsML})
	return s, nil
}

// expectedTitre predicts the titre in mL from the approximate concentration:
// V(titrant) = c(analyte) · V(analyte) / c(titrant) · ν(titrant)/ν(analyte).
// It is false where no approximate concentration is given.
func (s setup) expectedTitre() (decimal.Decimal, bool) {
	titrant, analyte := s.Titrant.Concentration, s.Analyte.Concentration
	if titrant.IsZero() {
		titrant = s.Titrant.Approximate
	}
	if analyte.IsZero() {
		analyte = s.Analyte.Approximate
	}
	nuTitrant, _ := s.equation.Coefficient(s.titrant)
	nuAnalyte, _ := s.equation.Coefficient(s.analyte)
	v, ok := analyte.Mul(s.Aliquot.Volume).Mul(decimal.Whole(int64(nuTitrant))).Div(titrant.Mul(decimal.Whole(int64(nuAnalyte))))
	return v.Round(2), ok && v.Sign() > 0
}

// Cautions lists what to mind with the solutions and the indicator of this
// practical at their concentrations, without repeats. The concentration of
// the unknown is taken as the approximate one.
func (p Practical) Cautions() []string {
	var out []string
	seen := map[string]bool{}
	add := func(texts []string) {
		for _, t := range texts {
			if !seen[t] {
				seen[t] = true
				out = append(out, t)
			}
		}
	}
	for _, s := range []Solution{p.Titrant, p.Analyte} {
		f, err := chem.ParseFormula(s.Formula)
		if err != nil {
			continue
		}
		c := s.Concentration
		if c.IsZero() {
			c = s.Approximate
		}
		if substance, ok := catalog.BuiltIn().Substance(f); ok {
			add(substance.CautionsAt(c))
		}
	}
	if i, ok := catalog.BuiltIn().Indicator(p.Indicator); ok {
		for _, c := range i.Cautions {
			add([]string{c.Text})
		}
	}
	return out
}
