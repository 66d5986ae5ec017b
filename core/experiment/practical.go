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
	"exactflask/core/quantity"
	"exactflask/core/stoich"
)

// Method is a kind of titration.
type Method string

// The methods. Direct: the titrant reacts with the analyte. Indirect: it reacts
// with something that the analyte set free. Back: a reagent was added in
// excess and the remainder is titrated. Standardisation: the titrant is
// unknown, a standard stands in the flask. TwoEndPoints: a mixture with
// carbonate, two indicators one after the other.
const (
	Direct          Method = "direct"
	Indirect        Method = "indirect"
	Back            Method = "back"
	Standardisation Method = "standardisation"
	TwoEndPoints    Method = "two-end-points"
)

// Practical says what is to be done, under which rules of the school.
type Practical struct {
	ID            string           `json:"id" minLength:"1" maxLength:"64" pattern:"^[A-Za-z0-9_-]+$"`
	Revision      int              `json:"revision" minimum:"1" doc:"counts up when the practical is changed; a notebook keeps the one it was started under"`
	Title         string           `json:"title" minLength:"1" maxLength:"120"`
	Purpose       string           `json:"purpose,omitempty" maxLength:"2000" doc:"why the titration is done, in a few sentences"`
	Method        Method           `json:"method" enum:"direct,indirect,back,standardisation,two-end-points"`
	Equation      string           `json:"equation" maxLength:"600" doc:"of the titrant with what it titrates: reactants -> products; balanced when it is read"`
	Titrated      string           `json:"titrated,omitempty" maxLength:"200" doc:"formula of what the titrant reacts with, where that is not the analyte"`
	Via           []Via            `json:"via,omitempty" maxItems:"4" doc:"indirect: the reactions that lead from there to the analyte, in order"`
	Route         []RouteStep      `json:"route,omitempty" maxItems:"12" doc:"how the sample came to the solution that is titrated; left out where the analyte is pipetted as it is"`
	EndPoints     stoich.EndPoints `json:"endPoints,omitempty" enum:"hydroxide-carbonate,carbonate-hydrogencarbonate" doc:"the mixture, with two end points in one flask"`
	Other         string           `json:"other,omitempty" maxLength:"200" doc:"with two end points: formula of what stands beside the carbonate"`
	Titrant       Solution         `json:"titrant" doc:"in the burette"`
	Analyte       Solution         `json:"analyte" doc:"in the conical flask"`
	Aliquot       glass.Pipette    `json:"aliquot,omitzero" doc:"what goes into each flask; left out where the whole of the route does"`
	SampleBy      SampleBy         `json:"sampleBy,omitempty" enum:"pipette,burette" doc:"how the analyte is measured: with the pipette (when left out), or each time with a burette of its own"`
	Burette       glass.Burette    `json:"burette"`
	Supply        Supply           `json:"supply,omitzero" doc:"what one bench is given; left out when it is plenty"`
	Indicator     string           `json:"indicator" maxLength:"64" doc:"id in the catalogue"`
	Readings      ReadingRule      `json:"readings"`
	Agreement     agreement.Rule   `json:"agreement"`
	Result        ResultRule       `json:"result"`
	Style         Style            `json:"style"`
	Ask           Ask              `json:"ask,omitzero" doc:"what is asked for; the concentration of the unknown when left out"`
	Label         Label            `json:"label,omitzero" doc:"what the label or the supplier says, to compare with"`
	Standard      string           `json:"standardisedIn,omitempty" maxLength:"64" doc:"id of the practical in which the known solution is standardised: its result takes the place of the nominal concentration"`
	ExpectedTitre decimal.Decimal  `json:"expectedTitre,omitzero" doc:"mL; where it does not follow from the approximate concentration"`
	Balance       decimal.Decimal  `json:"balance,omitzero" doc:"readability of the balance, g; 0.001 when left out"`
	Reference     decimal.Decimal  `json:"reference,omitzero" doc:"true answer in its unit, known to the instructor only; left out when there is none"`
}

// Solution is a solution of one substance. Of the practical's two solutions
// one has a known concentration; the other is asked for.
type Solution struct {
	Name          string          `json:"name" minLength:"1" maxLength:"80"`
	Formula       string          `json:"formula" minLength:"1" maxLength:"200"`
	Concentration decimal.Decimal `json:"concentration,omitzero" doc:"known concentration, mol/L; left out for the unknown"`
	Approximate   decimal.Decimal `json:"approximate,omitzero" doc:"roughly expected concentration of the unknown, mol/L; used to predict the titre"`
	Uncertainty   decimal.Decimal `json:"uncertainty,omitzero" doc:"standard uncertainty of the known concentration, mol/L; half a unit of its last digit each way when left out"`
	Purity        decimal.Decimal `json:"purity,omitzero" doc:"fraction of a weighed standard that is the substance, such as 0.9995; 1 when left out"`
	PuritySpread  decimal.Decimal `json:"puritySpread,omitzero" doc:"the purity lies within plus or minus this"`
}

// Via is a reaction between what the titrant titrates and the analyte.
type Via struct {
	Equation string `json:"equation" maxLength:"600"`
	To       string `json:"to" minLength:"1" maxLength:"200" doc:"formula of what it leads to; the last is the analyte"`
}

// RouteStep is one step from the sample to the flask.
type RouteStep struct {
	Kind          stoich.StepKind `json:"kind" enum:"weigh,tablets,pipette,make-up,aliquot,excess"`
	What          string          `json:"what,omitempty" maxLength:"120" doc:"in words, such as crushed shell"`
	Volume        decimal.Decimal `json:"volume,omitzero" doc:"mL; pipette, make-up, aliquot, excess"`
	Class         glass.Class     `json:"class,omitempty" enum:"A,B" doc:"of the glassware; B when left out"`
	By            glass.Kind      `json:"by,omitempty" enum:"pipette,flask,cylinder" doc:"what measures the volume; the usual one when left out"`
	Mass          decimal.Decimal `json:"mass,omitzero" doc:"g; weigh and tablets. Where a weighing stands in the notebook, that counts"`
	EachTrial     bool            `json:"eachTrial,omitempty" doc:"every trial has its own weighing"`
	Count         int             `json:"count,omitempty" minimum:"0" maximum:"1000" doc:"how many tablets"`
	Formula       string          `json:"formula,omitempty" maxLength:"200" doc:"of the reagent in excess"`
	Concentration decimal.Decimal `json:"concentration,omitzero" doc:"of the reagent in excess, mol/L"`
	Equation      string          `json:"equation,omitempty" maxLength:"600" doc:"of the reagent in excess with the analyte"`
	ByBlank       bool            `json:"byBlank,omitempty" doc:"the blank trials tell how much reagent was added"`
}

// Ask says what is asked for.
type Ask struct {
	What    stoich.What     `json:"what,omitempty" enum:"concentration,mass-concentration,mass-fraction,amount,mass,mass-per-tablet,purity,water,molar-mass,protons,volume-strength,factor"`
	Unit    quantity.Unit   `json:"unit,omitempty" maxLength:"20" doc:"unit code; the usual one when left out"`
	As      string          `json:"as,omitempty" maxLength:"200" doc:"formula of the substance in whose mass the answer is given"`
	Density decimal.Decimal `json:"density,omitzero" doc:"of the sample, g/mL; for % w/w"`
	Nominal decimal.Decimal `json:"nominal,omitzero" doc:"mol/L; for a factor"`
}

// Label is a value to compare the answer with.
type Label struct {
	Value decimal.Decimal `json:"value,omitzero"`
	Unit  quantity.Unit   `json:"unit,omitempty" maxLength:"20" doc:"unit code of the same dimension as the answer; which per cent is meant has to be said: % w/v, % w/w or %"`
	Text  string          `json:"text,omitempty" maxLength:"120" doc:"as the label says it"`
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
	Show      Showing `json:"show" enum:"always,after-attempt,after-marking" doc:"when a student sees results and workings: always, after an own answer to every asked step, or after marking"`
	Working   Working `json:"working,omitempty" enum:"steps,factors,formula" doc:"how the working is written: three steps (when left out), one chain of unit factors, or one formula with coefficients"`
}

// Showing says when a student sees the results.
type Showing string

// The choices of Showing.
const (
	Always       Showing = "always"
	AfterAttempt Showing = "after-attempt"
	AfterMarking Showing = "after-marking"
)

// Working is a school's way of writing a working.
type Working string

// The choices of Working.
const (
	BySteps   Working = "steps"
	ByFactors Working = "factors"
	ByFormula Working = "formula"
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
	other, as        chem.Formula
	reactions        []stoich.Reaction
	route            []stoich.Step
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
	switch p.Method {
	case Direct, Indirect, Back, Standardisation, TwoEndPoints:
	default:
		return fail("method", "the method %q is not known; use direct, indirect, back, standardisation or two-end-points", p.Method)
	}
	var err error
	if s.equation, err = balanced(p.Equation); err != nil {
		return fail("equation", "%w", err)
	}
	if s.titrant, err = chem.ParseFormula(p.Titrant.Formula); err != nil {
		return fail("titrant.formula", "%w", err)
	}
	if s.analyte, err = chem.ParseFormula(p.Analyte.Formula); err != nil {
		return fail("analyte.formula", "%w", err)
	}
	if f := s.chain(); f != nil {
		return setup{}, f
	}
	known, unknown := p.Analyte, p.Titrant
	knownAt, unknownAt := "analyte", "titrant"
	if !p.UnknownInBurette() {
		known, unknown, knownAt, unknownAt = unknown, known, unknownAt, knownAt
	}
	byMass := p.UnknownInBurette() && len(p.Route) > 0 && (p.Route[0].Kind == stoich.Weigh || p.Route[0].Kind == stoich.Tablets)
	if byMass && known.Concentration.IsZero() {
		known.Concentration = decimal.Whole(1) // known by its mass
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
	if len(p.Route) == 0 || !p.Aliquot.Volume.IsZero() {
		if f := p.Aliquot.Check(); f != nil {
			return setup{}, f.In("aliquot")
		}
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
	case p.Agreement.Kind != agreement.Relative && (p.SampleBy == ByBurette || p.massEach()):
		return fail("agreement.kind", "samples that are measured each time differ: compare them with the relative rule")
	case p.Agreement.Tolerance.Sign() < 0,
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
	if p.Result.Show != Always && p.Result.Show != AfterAttempt && p.Result.Show != AfterMarking {
		return fail("result.show", "results show always, after-attempt or after-marking; this says %q", p.Result.Show)
	}
	if w := p.Result.Working; w != "" && w != BySteps && w != ByFactors && w != ByFormula {
		return fail("result.working", "the working is written in steps, factors or as a formula; this says %q", w)
	}
	if f := s.checkAsk(); f != nil {
		return setup{}, f
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
	if s.ExpectedTitre.Sign() > 0 {
		return s.ExpectedTitre, true
	}
	if s.hasExcess() || s.Aliquot.Volume.IsZero() {
		return decimal.Decimal{}, false
	}
	v := analyte.Mul(s.Aliquot.Volume)
	for _, r := range s.reactions {
		nuFrom, _ := r.Equation.Coefficient(r.From)
		nuTo, _ := r.Equation.Coefficient(r.To)
		v, _ = v.Mul(decimal.Whole(int64(nuFrom))).Div(decimal.Whole(int64(nuTo)))
	}
	v, ok := v.Div(titrant)
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
	solutions := []Solution{p.Titrant, p.Analyte}
	for _, step := range p.Route {
		if step.Formula != "" {
			solutions = append(solutions, Solution{Formula: step.Formula, Concentration: step.Concentration})
		}
	}
	for _, s := range solutions {
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
