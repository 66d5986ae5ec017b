// Package practical says what is to be done: a Practical as it is written, and
// what Check makes of it, a Ready practical that was parsed once, with every
// default explicit and every contradiction refused. A Ready practical is kept
// with its notebooks; nothing parses it again.
package practical

import (
	"strings"

	"exactflask/core/chemistry/chem"
	"exactflask/core/chemistry/glass"
	"exactflask/core/values/decimal"
	"exactflask/core/values/quantity"
)

// Kind is a kind of titration. It follows from what the practical says.
type Kind string

// The kinds. Direct: the titrant reacts with the analyte. Indirect: it reacts
// with something that the analyte set free. Back: a reagent was added in
// excess and the remainder is titrated. Standardisation: the titrant is
// unknown, a standard stands in the flask. TwoEndPoints: a mixture with
// carbonate, two indicators one after the other. SolutionMade: a solution is
// made and its strength worked out; nothing is titrated.
const (
	Direct          Kind = "direct"
	Indirect        Kind = "indirect"
	Back            Kind = "back"
	Standardisation Kind = "standardisation"
	TwoEndPoints    Kind = "two-end-points"
	SolutionMade    Kind = "solution"
)

// Practical says what is to be done, under which rules of the school. Its
// fields are grouped by what they are about.
type Practical struct {
	ID        string      `json:"id" minLength:"1" maxLength:"64" pattern:"^[A-Za-z0-9_-]+$"`
	Revision  int         `json:"revision" minimum:"1" doc:"counts up when the practical is changed; a notebook keeps the one it was started under"`
	Title     string      `json:"title" minLength:"1" maxLength:"120"`
	Purpose   string      `json:"purpose,omitempty" maxLength:"2000" doc:"why the titration is done, in a few sentences"`
	Kind      Kind        `json:"kind,omitempty" enum:"direct,indirect,back,standardisation,two-end-points,solution" doc:"follows from what is said below; where it is given it has to agree with that"`
	After     string      `json:"after,omitempty" maxLength:"64" doc:"id of the practical that comes before this one in a sequence of its class, such as the one in which the titrant is standardised"`
	Asked     Asked       `json:"asked,omitzero" doc:"what is asked for, and what is expected"`
	Chemistry Chemistry   `json:"chemistry" doc:"the two solutions, their reaction, and what shows the end"`
	Route     []RouteStep `json:"route" maxItems:"13" doc:"how the sample comes into the flask, from its measuring to what is titrated; empty where a solution is only made"`
	Samples   []Sample    `json:"samples,omitempty" maxItems:"8" doc:"samples or treatments that are compared: the same assay on each, such as stored cold and stored warm; none for one sample"`
	Probe     Probe       `json:"probe,omitzero" doc:"how the titration is followed with a probe; left out where an indicator shows the end"`
	Glass     Glass       `json:"glass" doc:"burette, balance, and what a bench is given"`
	Rules     Rules       `json:"rules" doc:"how this school reads, judges and rounds"`
	Lists     Lists       `json:"lists,omitzero" doc:"what this school does beside the usual before and after"`
	Exercise  Exercise    `json:"exercise,omitzero" doc:"what is asked before the laboratory"`
	Report    ReportRule  `json:"report,omitzero" doc:"what a student writes in the report beside what the record says"`
	Marking   Scheme      `json:"marking,omitzero" doc:"what is given marks, and by which evidence; a student never receives it"`
	Showing   Showing     `json:"showing" doc:"what is shown when, and how it is written"`
}

// Asked says what is asked for, and what is expected of it.
type Asked struct {
	What     What            `json:"what,omitempty" enum:"concentration,mass-concentration,mass-fraction,amount,mass,mass-per-tablet,purity,water,molar-mass,protons,volume-strength,factor" doc:"the concentration of the unknown when left out"`
	Unit     quantity.Unit   `json:"unit,omitempty" maxLength:"20" doc:"unit code; the usual one when left out"`
	As       string          `json:"as,omitempty" maxLength:"200" doc:"formula of the substance in whose mass the answer is given"`
	AsRatio  string          `json:"asRatio,omitempty" maxLength:"20" pattern:"^[0-9]+(/[0-9]+)?$" doc:"how many moles of that one mole of the analyte stands for, such as 1 or 2/3; by the electrons or protons they exchange when left out, else by the atoms they share"`
	Density  decimal.Decimal `json:"density,omitzero" doc:"of the sample, g/mL; for % w/w"`
	Nominal  decimal.Decimal `json:"nominal,omitzero" doc:"mol/L; for a factor"`
	Expected decimal.Decimal `json:"expected,omitzero" doc:"roughly expected answer, in its unit; the expected titre follows from it"`
	// Second is the expected answer for the other component of a mixture.
	Second    decimal.Decimal `json:"expectedSecond,omitzero" doc:"the same of the other component of a mixture"`
	Titre     decimal.Decimal `json:"expectedTitre,omitzero" doc:"mL; where it is known and the answer is not"`
	Label     Label           `json:"label,omitzero" doc:"what the label or the supplier says, to compare with"`
	Reference decimal.Decimal `json:"reference,omitzero" doc:"true answer in its unit, known to the instructor only; left out when there is none"`
	Dealt     bool            `json:"dealt,omitempty" doc:"an unknown was given out: what is roughly expected is nothing to compare an answer with"`
}

// Label is a value to compare the answer with.
type Label struct {
	Value decimal.Decimal `json:"value,omitzero"`
	Unit  quantity.Unit   `json:"unit,omitempty" maxLength:"20" doc:"unit code of the same dimension as the answer; which per cent is meant has to be said: % w/v, % w/w or %"`
	Text  string          `json:"text,omitempty" maxLength:"120" doc:"as the label says it"`
}

// Chemistry is the two solutions, what happens between them, and what shows
// its end.
type Chemistry struct {
	Equation  string    `json:"equation" maxLength:"600" doc:"of the titrant with what it titrates: reactants -> products; balanced when it is read. Empty where a solution is only made"`
	Titrated  string    `json:"titrated,omitempty" maxLength:"200" doc:"formula of what the titrant reacts with, where that is not the analyte"`
	Via       []Via     `json:"via,omitempty" maxItems:"4" doc:"the reactions that lead from there to the analyte, or to the reagent in excess, in order"`
	EndPoints EndPoints `json:"endPoints,omitempty" enum:"hydroxide-carbonate,carbonate-hydrogencarbonate" doc:"the mixture, with two end points in one flask"`
	Other     string    `json:"other,omitempty" maxLength:"200" doc:"with two end points: formula of what stands beside the carbonate"`
	Titrant   Solution  `json:"titrant" doc:"in the burette"`
	Analyte   Solution  `json:"analyte" doc:"what the sample is or holds"`
	Indicator string    `json:"indicator" maxLength:"64" doc:"id in the catalogue"`
	// StopsAt is where the eye stops, as this school judges it.
	StopsAt  decimal.Decimal `json:"stopsAt,omitzero" doc:"pH at which the end is called, where that is another than the catalogue says, such as 3.1 for methyl orange at red"`
	Diluted  *Diluted        `json:"diluted,omitempty" doc:"of an unknown in the burette: how it was diluted before; its answer is that of the undiluted one"`
	Salt     string          `json:"salt,omitempty" maxLength:"200" doc:"formula of the crystals that are made of the neutral solution afterwards, with their water: the volume that was found is run in once more without indicator"`
	Standard string          `json:"standardisedIn,omitempty" maxLength:"64" doc:"id of the practical in which the known solution is standardised: its result takes the place of the nominal concentration"`
}

// EndPoints says which end points a titration has.
type EndPoints string

// The choices of EndPoints: one; or two in one flask, phenolphthalein first and
// methyl orange second, for mixtures with carbonate.
const (
	OneEndPoint                EndPoints = ""
	HydroxideCarbonate         EndPoints = "hydroxide-carbonate"
	CarbonateHydrogencarbonate EndPoints = "carbonate-hydrogencarbonate"
)

// OnlySolution tells whether a solution is made and nothing titrated: how it is made is said, and
// neither a reaction nor a sample.
func (p Practical) OnlySolution() bool {
	c := p.Chemistry
	return len(c.Titrant.Made) > 0 && len(p.Route) == 0 && strings.TrimSpace(c.Equation+c.Analyte.Formula) == ""
}

// Solution is a solution of one substance. Of the practical's two solutions
// one has a known concentration; the other is asked for. Where a solution is
// only made it is the titrant, and the concentration is the one aimed at.
type Solution struct {
	Name          string          `json:"name" maxLength:"80"`
	Formula       string          `json:"formula" maxLength:"200" doc:"empty, as its name, of what is titrated where a solution is only made"`
	Concentration decimal.Decimal `json:"concentration,omitzero" doc:"known concentration, mol/L; left out for the unknown"`
	Approximate   decimal.Decimal `json:"approximate,omitzero" doc:"roughly expected concentration of the unknown as it is titrated, mol/L; used to predict the titre"`
	Uncertainty   decimal.Decimal `json:"uncertainty,omitzero" doc:"standard uncertainty of the known concentration, mol/L; half a unit of its last digit each way when left out"`
	Purity        decimal.Decimal `json:"purity,omitzero" doc:"fraction of a weighed standard that is the substance, such as 0.9995; 1 when left out"`
	PuritySpread  decimal.Decimal `json:"puritySpread,omitzero" doc:"the purity lies within plus or minus this"`
	Solid         string          `json:"solid,omitempty" maxLength:"200" doc:"formula on the jar of the solid that the technician makes it of, with its water of crystallisation; the formula of the solution when left out"`
	Own           *Own            `json:"own,omitempty" doc:"what is known of a substance of one's own, or without a name"`
	Made          []RouteStep     `json:"made,omitempty" maxItems:"6" doc:"of the titrant: how students make it, from a weighed solid or a stock that is made up, and an aliquot of it made up again; left out where it is given to them"`
}

// Diluted says that the unknown was diluted before it came into the burette.
type Diluted struct {
	Taken  decimal.Decimal `json:"taken" doc:"mL, with a pipette"`
	MadeUp decimal.Decimal `json:"madeUp" doc:"mL, in a volumetric flask"`
	Class  glass.Class     `json:"class,omitempty" enum:"A,B" doc:"of both; B when left out"`
}

// Own is what a school says of a substance that the catalogue does not know, or
// that has no name, such as H2A. Where it is given it counts, and not the
// catalogue.
type Own struct {
	Kind      OwnKind           `json:"kind,omitempty" enum:"acid,base" doc:"an acid, or one of its salts; or a base. An acid when left out"`
	PKa       []decimal.Decimal `json:"pKa,omitempty" maxItems:"6" doc:"of the acid, or of the acids that the base makes, the strongest first"`
	MolarMass decimal.Decimal   `json:"molarMass,omitzero" doc:"g/mol, of a substance without a name"`
	Potential decimal.Decimal   `json:"potential,omitzero" doc:"V, of its redox couple; with electrons"`
	Electrons int               `json:"electrons,omitempty" minimum:"0" maximum:"20" doc:"that one formula unit gives or takes"`
}

// OwnKind says how a substance of one's own meets water.
type OwnKind string

// The choices of OwnKind.
const (
	OwnAcid OwnKind = "acid"
	OwnBase OwnKind = "base"
)

// Sample is one of several that are compared.
type Sample struct {
	Name    string `json:"name" minLength:"1" maxLength:"60"`
	Control bool   `json:"control,omitempty" doc:"the others are compared with it; with the first where none is one"`
}

// Via is a reaction between what the titrant titrates and the analyte.
type Via struct {
	Equation string `json:"equation" maxLength:"600"`
	To       string `json:"to" minLength:"1" maxLength:"200" doc:"formula of what it leads to; the last is the analyte"`
}

// StepKind is a kind of step of a sample's route to the flask.
type StepKind string

// The steps. Weigh, Tablets and Pipette measure the sample, at the head of the
// route; MakeUp and Aliquot (of what was made up) dilute; Excess
// adds a reagent that reacts with the analyte and whose remainder is titrated.
const (
	Weigh   StepKind = "weigh"
	Tablets StepKind = "tablets"
	Pipette StepKind = "pipette"
	MakeUp  StepKind = "make-up"
	Aliquot StepKind = "aliquot"
	Excess  StepKind = "excess"
)

// By says what measures a volume.
type By string

// The glass that measures a volume. A burette is read for every trial.
const (
	ByPipette  By = "pipette"
	ByFlask    By = "flask"
	ByCylinder By = "cylinder"
	ByBurette  By = "burette"
)

// Step is one step from the sample to the flask.
type RouteStep struct {
	Kind          StepKind        `json:"kind" enum:"weigh,tablets,pipette,make-up,aliquot,excess"`
	What          string          `json:"what,omitempty" maxLength:"120" doc:"in words, such as crushed shell"`
	Volume        decimal.Decimal `json:"volume,omitzero" doc:"mL; pipette, make-up, aliquot, excess; about so much where a burette measures it"`
	Class         glass.Class     `json:"class,omitempty" enum:"A,B" doc:"of the glassware; B when left out"`
	Within        decimal.Decimal `json:"tolerance,omitzero" doc:"of the glass, mL, where it is a school's own; by its class when left out"`
	By            By              `json:"by,omitempty" enum:"pipette,flask,cylinder,burette" doc:"what measures the volume; the usual one when left out. A burette is read for every trial"`
	Mass          decimal.Decimal `json:"mass,omitzero" doc:"g; weigh and tablets. Where a weighing stands in the notebook, that counts"`
	EachTrial     bool            `json:"eachTrial,omitempty" doc:"every trial has its own weighing"`
	Count         int             `json:"count,omitempty" minimum:"0" maximum:"1000" doc:"how many tablets"`
	Formula       string          `json:"formula,omitempty" maxLength:"200" doc:"of what is weighed, where that is another than the analyte, such as a hydrate; of the reagent in excess"`
	Concentration decimal.Decimal `json:"concentration,omitzero" doc:"of the reagent in excess, or of the stock, mol/L"`
	Equation      string          `json:"equation,omitempty" maxLength:"600" doc:"of the reagent in excess with the analyte"`
	ByBlank       bool            `json:"byBlank,omitempty" doc:"the blank trials tell how much reagent was added"`
}

// Measures tells whether the step measures a volume.
func (s RouteStep) Measures() bool { return s.Kind != Weigh && s.Kind != Tablets }

// Head tells whether the step measures the sample itself.
func (s RouteStep) Head() bool { return s.Kind == Weigh || s.Kind == Tablets || s.Kind == Pipette }

// Glass is what a bench works with.
type Glass struct {
	Burette glass.Burette   `json:"burette"`
	Balance decimal.Decimal `json:"balance,omitzero" doc:"readability of the balance, g; 0.001 when left out"`
	Supply  Supply          `json:"supply,omitzero" doc:"what one bench is given; left out when it is plenty"`
}

// Supply is how much of each solution one bench is given.
type Supply struct {
	Titrant decimal.Decimal `json:"titrant,omitzero" doc:"mL"`
	Analyte decimal.Decimal `json:"analyte,omitzero" doc:"mL"`
}

// Rules are a school's rules for the record and the result.
type Rules struct {
	Readings  ReadingRule   `json:"readings"`
	Agreement AgreementRule `json:"agreement"`
	// IndicatorLimit is how far off an end point may lie.
	IndicatorLimit decimal.Decimal `json:"indicatorLimit,omitzero" doc:"% of the titre that an indicator's end may lie off and still serve; 0.5 when left out"`
	RoundMean      bool            `json:"roundMean,omitempty" doc:"the mean titre is rounded to the decimals of the titres and used so; otherwise carried unrounded"`
	Subtractions   bool            `json:"subtractions,omitempty" doc:"the own working asks for each titre as end less start"`
	AtomicWeights  chem.Weights    `json:"atomicWeights,omitempty" enum:"hundredth,tenth,whole" doc:"table that molar masses are worked out with: the standard one when left out; others are taken in an own working too"`
	Norms          Norms           `json:"norms,omitempty" doc:"limits of common practice that this practical sees differently, by name"`
	School         Norms           `json:"school,omitempty" doc:"the same of its class and its installation, as they were when this revision was set; as usual where left out"`
	Figures        int             `json:"figures,omitempty" minimum:"0" maximum:"8" doc:"significant figures of the answer; 0 for the fewest of the measured inputs"`
}

// ReadingRule says how the burette is read.
type ReadingRule struct {
	Resolution  glass.Resolution `json:"resolution" enum:"half,tenth,whole" doc:"fraction of a division that is read"`
	StartAtZero bool             `json:"startAtZero,omitempty" doc:"every trial has to start at the zero mark"`
	NoRough     bool             `json:"noRough,omitempty" doc:"no rough trial is asked for"`
	FreeFlow    decimal.Decimal  `json:"freeFlow,omitzero" doc:"free flow until this many mL before the expected reading; 2.00 when left out"`
	Dropwise    decimal.Decimal  `json:"dropwise,omitzero" doc:"drop by drop from this many mL before it; 1.00 when left out"`
	Hold        int              `json:"hold,omitempty" minimum:"0" maximum:"300" doc:"how many seconds the end colour must last; 30 when left out"`
}

// Lists are what this school does before and after: whole lists in its own order, of usual items by
// their code and of its own, which begin with "=" (journal.OwnItem); where one is left out, the usual
// items that this practical calls for, and behind them the school's own.
type Lists struct {
	Setup   []string `json:"setup,omitempty" maxItems:"40" doc:"the whole list before: codes of usual items, and own ones after an equals sign"`
	Cleanup []string `json:"cleanup,omitempty" maxItems:"40" doc:"the whole list after, likewise"`
	Before  []string `json:"before,omitempty" maxItems:"10" doc:"such as: fume cupboard on"`
	After   []string `json:"after,omitempty" maxItems:"10" doc:"such as: silver waste into the brown bottle"`
}

// Showing says what is shown when, and how.
type Showing struct {
	Results      When    `json:"results" enum:"always,after-attempt,after-marking" doc:"when a student sees results and workings: always, after an own answer to every asked step, or after marking"`
	HideExpected bool    `json:"hideExpected,omitempty" doc:"no expected reading is shown before the end reading is in"`
	Tries        int     `json:"tries,omitempty" minimum:"0" maximum:"50" doc:"how often a student may answer a question before the laboratory; 5 when left out"`
	Calculators  bool    `json:"calculators,omitempty" doc:"the calculators stay open to students while the results of this practical are withheld"`
	Working      Working `json:"working,omitempty" enum:"steps,factors,formula" doc:"how the working is written: three steps (when left out), one chain of unit factors, or one formula with coefficients"`
	Style        Style   `json:"style,omitzero" doc:"words and units"`
}

// When says when a student sees the results.
type When string

// The choices of When.
const (
	Always       When = "always"
	AfterAttempt When = "after-attempt"
	AfterMarking When = "after-marking"
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

// DefaultStyle is taken where nobody chose.
var DefaultStyle = Style{WordsTitre, UnitsML}

// Known tells whether the words are one of the usages.
func (w Words) Known() bool { return w == WordsTitre || w == WordsTiter }

// Known tells whether the units are one of the usages.
func (u Units) Known() bool { return u == UnitsML || u == UnitsCM3 }

// Or returns the style with what is empty or unknown taken from another.
func (s Style) Or(other Style) Style {
	if !s.Words.Known() {
		s.Words = other.Words
	}
	if !s.Units.Known() {
		s.Units = other.Units
	}
	return s
}
