// Package evaluation is what follows from a practical and a journal, as values: package
// experiment makes them, and whoever judges, marks or shows a notebook reads them.
package evaluation

import (
	"slices"

	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/diagnosis"
	"exactflask/core/judgement/working"
	"exactflask/core/model/budget"
	"exactflask/core/model/derivation"
	"exactflask/core/model/followed"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
	"exactflask/core/values/statistics"
)

// Sampled is what was found for one of several samples.
type Sampled struct {
	Name       string      `json:"name"`
	Control    bool        `json:"control,omitempty" doc:"the others are compared with it"`
	Agreement  Agreement   `json:"agreement"`
	Result     *Result     `json:"result,omitempty" doc:"left out until enough titres agree, or where it was not asked for"`
	Difference *Difference `json:"difference,omitempty" doc:"from the control"`
}

// Difference is how far an answer lies from the control's, in its unit.
type Difference struct {
	Value    float64 `json:"value"`
	Percent  float64 `json:"percent" doc:"of the control's answer"`
	Expanded float64 `json:"expanded" doc:"its uncertainty for about 95 %; what both share does not count"`
	Clear    bool    `json:"clear" doc:"it is larger than its uncertainty"`
}

// Evaluation is everything that follows from a practical and a journal.
type Evaluation struct {
	Trials     []Trial                `json:"trials"`
	Agreement  Agreement              `json:"agreement"`
	Result     *Result                `json:"result,omitempty" doc:"left out until enough titres agree, or where it was not asked for"`
	Withheld   bool                   `json:"withheld,omitempty" doc:"results are kept back from this reader"`
	Judged     bool                   `json:"judged,omitempty" doc:"own steps are judged as they are given"`
	Next       Next                   `json:"next"`
	Findings   []finding.Finding      `json:"findings"`
	Notes      []journal.Note         `json:"notes"`
	Amended    []journal.Amended      `json:"-"`
	Setup      []Item                 `json:"setup" doc:"what is done before, and whether it was"`
	Cleanup    []Item                 `json:"cleanup" doc:"what is done afterwards"`
	Log        []LogLine              `json:"log" doc:"observations, weighings and waiting times, in order"`
	Statistics *statistics.Statistics `json:"statistics,omitempty" doc:"of the averaged titres"`
	Dixon      *statistics.Dixon      `json:"dixon,omitempty" doc:"of the accurate titres; information only"`
	Blank      *decimal.Decimal       `json:"blank,omitempty" doc:"mean blank titre, mL"`
	SoFar      *SoFar                 `json:"soFar,omitempty" doc:"the answer so far; left out while results are withheld"`
	Supply     *SupplyLeft            `json:"supply,omitempty" doc:"what is left, where the practical says what a bench is given"`
	Stage      Stage                  `json:"stage" enum:"untouched,rough,measuring,disagreeing,agreed,making,made" doc:"where the notebook stands"`
	// Ready is the practical as it was done, with the glassware that was chosen at the bench; nil where
	// that is the practical's own.
	Ready     *practical.Ready `json:"-"`
	MadeOnly  bool             `json:"-"` // a solution is made and nothing titrated
	Made      decimal.Decimal  `json:"-"` // then how much there is of it, mL; zero before
	MadeOf    *finding.Message `json:"-"` // then what it is made of, as it was written; nil before
	Clock     int64            `json:"clock" doc:"highest logical clock in the notebook"`
	Entries   int              `json:"entries" doc:"number of entries in the notebook"`
	Passages  []WrittenPassage `json:"passages" doc:"what the student writes in the report, in its order"`
	Evidence  []Evidence       `json:"evidence" doc:"what the practical asks photographs of"`
	Pictures  []ShownPicture   `json:"pictures" doc:"of the report"`
	Work      []working.Step   `json:"work" doc:"the student's own calculation, step by step"`
	Given     []working.Given  `json:"-"` // what it is made from, as it is used
	Attempted bool             `json:"attempted,omitempty" doc:"the student has given an own answer to every step; left out where own steps are not judged"`
	Samples   []Sampled        `json:"samples,omitempty" doc:"what was found for each of several samples; then there is no single result"`
	WorkedOn  string           `json:"workedOn,omitempty" doc:"of several samples the one that is worked on: agreement, statistics and what comes next are about it"`
	// Expected is the titre that the next trial should take, where something is
	// known about it, mL.
	Expected *Span               `json:"expected,omitempty"`
	Probe    *followed.Probing   `json:"probe,omitempty" doc:"how the probe stands, where one is used"`
	Runs     []followed.Run      `json:"runs,omitempty" doc:"what the curve of each run says, in the order of the trials"`
	Points   []followed.RunPoint `json:"points,omitempty" doc:"of all runs, in order"`
	Salt     *Salt               `json:"salt,omitempty" doc:"the salt that is made, where one is, once the titres agree"`
	Prepared *Prepared           `json:"prepared,omitempty" doc:"one's own solution as it was made from a stock"`
	Used     decimal.Decimal     `json:"used" doc:"of one's own solution, mL"`
	Own      []OwnMeasured       `json:"own" doc:"what may be measured in the place of what the practical gives, and was"`
}

// OwnMeasured is a value that may be measured at the bench, with what was.
type OwnMeasured struct {
	What    journal.Quality `json:"what" enum:"tablet,volume,density,label,temperature"`
	Step    int             `json:"step,omitempty" doc:"of a volume: which step of the route, from 1"`
	Nominal decimal.Decimal `json:"nominal,omitzero" doc:"as the practical gives it"`
	Unit    quantity.Unit   `json:"unit,omitempty" doc:"degrees Celsius where there is none"`
	Entry   string          `json:"entry,omitempty" doc:"id of the entry that says what was measured"`
	Written string          `json:"written,omitempty" doc:"as it was written"`
}

// Span is a range of volumes, mL; both ends are the same where it is one.
type Span struct {
	Low  decimal.Decimal `json:"low"`
	High decimal.Decimal `json:"high"`
}

// Stage says where a notebook stands.
type Stage string

// The stages.
const (
	Untouched   Stage = "untouched"
	RoughOnly   Stage = "rough"
	Measuring   Stage = "measuring"
	Disagreeing Stage = "disagreeing"
	Agreed      Stage = "agreed"
	Making      Stage = "making" // of a solution alone, begun
	Made        Stage = "made"   // it is made, and its strength can be worked out
)

// Done tells whether the bench work is done.
func (s Stage) Done() bool { return s == Agreed || s == Made }

// SoFar is the answer that the titres give up to now.
type SoFar struct {
	Answer   quantity.Quantity `json:"answer"`
	Of       string            `json:"of"`
	Letter   string            `json:"letter" doc:"symbol of what was asked for"`
	From     string            `json:"from" enum:"rough,accurate,mean" doc:"from the rough trial, from one accurate trial, or from the mean"`
	Expected *Comparison       `json:"expected,omitempty"`
}

// SupplyLeft is what remains of the solutions a bench was given.
type SupplyLeft struct {
	Titrant *decimal.Decimal `json:"titrant,omitempty" doc:"mL left, not counting what was run off"`
	Analyte *decimal.Decimal `json:"analyte,omitempty" doc:"mL left"`
	Trials  int              `json:"trials" doc:"how many more trials they allow"`
}

// Agreement is the judgement of the titres.
type Agreement struct {
	Status   agreement.Status `json:"status" enum:"too-few,disagree,agreed"`
	Chosen   []string         `json:"chosen" doc:"ids of the averaged trials, lowest first"`
	Rivals   [][]string       `json:"rivals,omitempty" doc:"sets that agree as well as the one that is taken, which is the later"`
	Unit     quantity.Unit    `json:"unit" doc:"of what is compared"`
	Mean     *decimal.Decimal `json:"mean,omitempty" doc:"mean titre, mL, at the decimals of the titres; left out where samples differ"`
	Spread   *decimal.Decimal `json:"spread,omitempty" doc:"largest less smallest of what was compared"`
	Relative *decimal.Decimal `json:"relative,omitempty" doc:"relative rule: half the largest difference, % of the mean"`
	Allowed  *decimal.Decimal `json:"allowed,omitempty" doc:"largest spread of an agreeing set"`
	Missing  int              `json:"missing" doc:"how many more agreeing titres are needed at least"`
}

// Result is the answer with its working.
type Result struct {
	Of         string                `json:"of" doc:"formula of the substance asked for, plain ASCII"`
	Answer     quantity.Quantity     `json:"answer" doc:"figures by the practical's rule"`
	What       practical.What        `json:"what" doc:"what was asked for"`
	Second     *Second               `json:"second,omitempty" doc:"the other component of a mixture"`
	Whole      *float64              `json:"whole,omitempty" doc:"x of a hydrate to the nearest whole number"`
	Derivation derivation.Derivation `json:"derivation"`
	Expected   *Comparison           `json:"expected,omitempty" doc:"against the roughly expected answer"`
	Label      *Comparison           `json:"label,omitempty" doc:"against the label, in the answer's unit"`
	Reference  *Comparison           `json:"reference,omitempty" doc:"against the true value; for the instructor"`
	Budget     *budget.Budget        `json:"budget,omitempty" doc:"where the uncertainty comes from"`
	Causes     []diagnosis.Cause     `json:"causes,omitempty" doc:"what would put the answer off, the best explanation first"`
	Single     bool                  `json:"single,omitempty" doc:"from one accurate trial, the only one so far"`
	Nearest    string                `json:"nearest,omitempty" enum:"within,beyond" doc:"of a hydrate: whether the whole number lies within the uncertainty"`
	Within     bool                  `json:"within,omitempty" doc:"the difference from the true value, the label or the expected value, the first that there is, lies within the uncertainty"`
}

// Second is the other answer of a mixture.
type Second struct {
	Of     string            `json:"of"`
	Answer quantity.Quantity `json:"answer"`
}

// Comparison sets the answer beside another value of the same unit.
type Comparison struct {
	Value   float64 `json:"value"`
	Percent float64 `json:"percent" doc:"difference of the answer from it, % of it"`
}

// Prepared is one's own solution as it was made from a stock, beside what was found
// by standardising it.
type Prepared struct {
	Concentration float64         `json:"concentration" doc:"c1 V1 / V2, mol/L"`
	Figures       int             `json:"figures"`
	Volume        decimal.Decimal `json:"volume" doc:"that was made, mL"`
	Found         *Comparison     `json:"found,omitempty" doc:"the answer of the standardisation against it, %"`
}

// Salt is the making of a salt: the volume that was found is run in once more,
// without indicator, and the solution is left to crystallise.
type Salt struct {
	Formula  string           `json:"formula" doc:"of the crystals, plain"`
	Volume   decimal.Decimal  `json:"volume" doc:"to be run in without indicator, mL"`
	Ran      *decimal.Decimal `json:"ran,omitempty" doc:"what was run in, mL"`
	Expected float64          `json:"expected" doc:"mass of crystals if all of the salt came out, g"`
	Crystals *decimal.Decimal `json:"crystals,omitempty" doc:"mass that was found, g"`
	Yield    float64          `json:"yield,omitempty" doc:"%"`
}

// Then is where it goes on to once the titres agree: to the own working while the result
// waits for it and a step of it has no answer, to the result where it is shown, else to
// the report; empty before.
func (ev Evaluation) Then() Onward {
	unanswered := func(s working.Step) bool { return s.Answer == nil }
	switch {
	case !ev.Stage.Done():
		return ""
	case ev.Withheld && slices.ContainsFunc(ev.Work, unanswered):
		return ToWork
	case ev.Result != nil || !ev.Withheld && len(ev.Samples) > 0:
		return ToResult
	}
	return ToReport
}

var _ = finding.Family("stage.", []Stage{Untouched, RoughOnly, Measuring, Disagreeing, Agreed, Making, Made})
