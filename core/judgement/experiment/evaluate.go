// Package experiment is the top of the core. A practical says what is to be
// done, a journal what was done, and Evaluate everything that follows from
// them. Nothing else computes.
//
//	ready, fault := practical.Check()
//	ev := experiment.Evaluate(ready, entries, experiment.All)
//
// It works in stages, each a value made from the ones before: the record, its
// titres, their agreement, the result, its analysis. A caller names the parts
// that it needs; what is not asked for is not computed.
package experiment

import (
	"slices"
	"time"

	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/diagnosis"
	"exactflask/core/judgement/working"
	"exactflask/core/model/assay"
	"exactflask/core/model/budget"
	"exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
	"exactflask/core/values/statistics"
)

// Parts are what an evaluation is asked for, beside the record.
type Parts uint

// The parts. The record (trials, titres, their agreement, what to do next) and
// the steps of the student's own working are always there.
const (
	PartResult    Parts = 1 << iota // the answer, its working, and judgements made with it
	PartBudget                      // how sure it is
	PartCauses                      // what would put it off
	PartVerdicts                    // whether the student's own steps are right
	PartReference                   // against the true value
)

// Record asks for the record alone, All for everything.
const (
	Record Parts = 0
	All          = PartResult | PartBudget | PartCauses | PartVerdicts | PartReference
)

// Has tells whether all of these parts are asked for.
func (p Parts) Has(wanted Parts) bool { return p&wanted == wanted }

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
	Setup      []Item                 `json:"setup" doc:"what is done before, and whether it was"`
	Cleanup    []Item                 `json:"cleanup" doc:"what is done afterwards"`
	Log        []LogLine              `json:"log" doc:"observations, weighings and waiting times, in order"`
	Statistics *statistics.Statistics `json:"statistics,omitempty" doc:"of the averaged titres"`
	Dixon      *statistics.Dixon      `json:"dixon,omitempty" doc:"of the accurate titres; information only"`
	Blank      *decimal.Decimal       `json:"blank,omitempty" doc:"mean blank titre, mL"`
	SoFar      *SoFar                 `json:"soFar,omitempty" doc:"the answer so far; left out while results are withheld"`
	Supply     *SupplyLeft            `json:"supply,omitempty" doc:"what is left, where the practical says what a bench is given"`
	Stage      Stage                  `json:"stage" enum:"untouched,rough,measuring,disagreeing,agreed" doc:"where the notebook stands"`
	Clock      int64                  `json:"clock" doc:"highest logical clock in the notebook"`
	Entries    int                    `json:"entries" doc:"number of entries in the notebook"`
	Passages   []WrittenPassage       `json:"passages" doc:"what the student writes in the report, in its order"`
	Pictures   []ShownPicture         `json:"pictures" doc:"of the report"`
	Work       []working.Step         `json:"work" doc:"the student's own calculation, step by step"`
	Attempted  bool                   `json:"attempted,omitempty" doc:"the student has given an own answer to every step; left out where own steps are not judged"`
	Samples    []Sampled              `json:"samples,omitempty" doc:"what was found for each of several samples; then there is no single result"`
	Hand       string                 `json:"hand,omitempty" doc:"of several samples the one that is worked on: agreement, statistics and what comes next are about it"`
	// Expected is the titre that the next trial should take, where something is
	// known about it, mL.
	Expected *Span           `json:"expected,omitempty"`
	Probe    *Probing        `json:"probe,omitempty" doc:"how the probe stands, where one is used"`
	Runs     []Run           `json:"runs,omitempty" doc:"what the curve of each run says, in the order of the trials"`
	Points   []RunPoint      `json:"points,omitempty" doc:"of all runs, in order"`
	Salt     *Salt           `json:"salt,omitempty" doc:"the salt that is made, where one is, once the titres agree"`
	Prepared *Prepared       `json:"prepared,omitempty" doc:"one's own solution as it was made from a stock"`
	Used     decimal.Decimal `json:"used" doc:"of one's own solution, mL"`
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
)

var _ = finding.Family("stage.", []Stage{Untouched, RoughOnly, Measuring, Disagreeing, Agreed})

// Trial is one trial as judged.
type Trial struct {
	journal.Trial
	Sample     *decimal.Decimal `json:"sample,omitempty" doc:"measured sample, mL, exact"`
	Reagent    *decimal.Decimal `json:"reagent,omitempty" doc:"measured reagent in excess, mL, exact"`
	FirstTitre *decimal.Decimal `json:"firstTitre,omitempty" doc:"to the first of two end points, mL, exact"`
	Mass       *decimal.Decimal `json:"mass,omitempty" doc:"of the trial's own sample, g, exact"`
	Titre      *decimal.Decimal `json:"titre,omitempty" doc:"end less start over all fills, mL, exact; of a run with a probe the end found on the curve, to a hundredth"`
	Ran        *decimal.Decimal `json:"ran,omitempty" doc:"of a run with a probe that has ended: all that ran, mL, exact"`
	OnCurve    *decimal.Decimal `json:"onCurve,omitempty" doc:"of such a run: the reading at which its end lies, had the burette not been filled since, mL"`
	Standard   float64          `json:"standard,omitempty" doc:"standard uncertainty of an end that was found on a curve, mL"`
	Compared   *decimal.Decimal `json:"compared,omitempty" doc:"what the rule of agreement compares, in the unit of the agreement: the titre, or under the relative rule the answer that the trial gives by itself"`
	Counts     bool             `json:"counts" doc:"the titre is in the mean"`
	Reason     Reason           `json:"reason" doc:"why it is in or out"`
	Why        *finding.Message `json:"why,omitempty" doc:"what keeps the trial from giving an answer"`

	measured assay.Measured
}

// Reason says why a trial is in or out: one of agreement.Reason, or one below.
type Reason string

// Reasons beside those of package agreement.
const (
	OutRough     Reason = "out.rough"
	OutOpen      Reason = "out.open"
	OutSetAside  Reason = "out.set-aside"
	OutWithdrawn Reason = "out.withdrawn"
	OutNegative  Reason = "out.not-positive"
	OutBlank     Reason = "out.blank"
	OutPractice  Reason = "out.practice"
	OutRepeat    Reason = "out.repeat"
	OutNoSample  Reason = "out.no-sample"
	OutNoReagent Reason = "out.no-reagent"
	OutNoMass    Reason = "out.no-mass"
	OutNoFirst   Reason = "out.no-first"
	OutNoAnswer  Reason = "out.no-answer"
	OutNoEnd     Reason = "out.no-end"
)

var (
	_ = finding.Family("", []Reason{OutRough, OutOpen, OutWithdrawn, OutNegative, OutBlank, OutPractice, OutRepeat, OutNoSample,
		OutNoReagent, OutNoMass, OutNoFirst})
	_ = finding.Family("", []agreement.Reason{agreement.InSet, agreement.OutTooHigh, agreement.OutTooLow,
		agreement.OutNoSet, agreement.OutTied, agreement.Alone, agreement.NotClosest})
	_ = finding.Declare(string(OutSetAside), "reason")
	_ = finding.Declare(string(OutNoAnswer), "why")
	_ = finding.Declare(string(OutNoEnd))
)

// Outside tells whether a trial is not judged for agreement.
func (t Trial) Outside() bool {
	switch t.Reason {
	case OutRough, OutOpen, OutSetAside, OutWithdrawn, OutNegative, OutBlank, OutPractice, OutRepeat, OutNoSample, OutNoReagent,
		OutNoMass, OutNoFirst, OutNoAnswer, OutWhichSample, OutNoEnd:
		return true
	}
	return false
}

// Item is one thing of a list, and when it was done last.
type Item struct {
	Code  string     `json:"code"`
	Entry string     `json:"entry,omitempty" doc:"the entry that says so; empty while it was not done"`
	At    *time.Time `json:"at,omitempty"`
	By    string     `json:"by,omitempty"`
}

// LogLine is something done or seen beside the readings.
type LogLine struct {
	Entry     string           `json:"entry"`
	Said      finding.Message  `json:"said"`
	Trial     string           `json:"trial,omitempty"`
	At        time.Time        `json:"at"`
	By        string           `json:"by,omitempty"`
	Withdrawn bool             `json:"withdrawn,omitempty"`
	Struck    []journal.Struck `json:"struck,omitempty"`
}

// WrittenPassage is a passage of the report, with what the student wrote.
type WrittenPassage struct {
	practical.Passage
	Stand []PassageText `json:"stand" doc:"what stands there: none, one, or several that devices wrote beside each other"`
}

// PassageText is what stands in a passage.
type PassageText struct {
	Entry string    `json:"entry"`
	Text  string    `json:"text"`
	By    string    `json:"by,omitempty" doc:"id of who wrote it"`
	At    time.Time `json:"at"`
}

// ShownPicture is a picture of the report.
type ShownPicture struct {
	Entry string `json:"entry"`
	journal.Picture
}

// SoFar is the answer that the titres give up to now.
type SoFar struct {
	Answer   quantity.Quantity `json:"answer"`
	Of       string            `json:"of"`
	Letter   string            `json:"letter" doc:"symbol of what was asked for"`
	From     string            `json:"from" enum:"rough,accurate,mean" doc:"from the rough trial, from one accurate trial, or from the mean"`
	Expected *Comparison       `json:"expected,omitempty"`
}

var _ = finding.Family("sofar.", []string{"rough", "accurate"}, "symbol", "answer")
var _ = finding.Declare("sofar.mean", "mean", "trials", "symbol", "answer")
var _ = finding.Declare("sofar.mean-relative", "trials", "symbol", "answer")

// SupplyLeft is what remains of the solutions a bench was given.
type SupplyLeft struct {
	Titrant *decimal.Decimal `json:"titrant,omitempty" doc:"mL left, not counting what was run off"`
	Analyte *decimal.Decimal `json:"analyte,omitempty" doc:"mL left"`
	Trials  int              `json:"trials" doc:"how many more trials they allow"`
}

// Agreement is the judgement of the titres.
type Agreement struct {
	Status   agreement.Status `json:"status" enum:"too-few,disagree,ambiguous,agreed"`
	Chosen   []string         `json:"chosen" doc:"ids of the averaged trials, lowest first"`
	Rivals   [][]string       `json:"rivals,omitempty" doc:"equally good sets, when ambiguous"`
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

// Evaluate says what follows from the entries of one notebook under a
// practical. It is pure: the same practical and entries, in any order, give
// the same evaluation. No entry makes it fail, and its cost grows in
// proportion to them.
func Evaluate(r *practical.Ready, entries []journal.Entry, parts Parts) Evaluation {
	return Of(r, journal.Fold(entries), parts)
}

// Of is Evaluate for entries that are folded already.
func Of(r *practical.Ready, c journal.Contents, parts Parts) Evaluation { return Begin(r, c).Of(parts) }

// Basis is what every evaluation of the same entries begins with: the record, the
// titres and their judgement. It may be used by several goroutines.
type Basis struct {
	rec    recorded
	groups []group
	hand   int
	j      judged
	ev     Evaluation
}

// Begin lays the basis for evaluating a notebook, once for all parts.
func Begin(r *practical.Ready, c journal.Contents) *Basis {
	rec := record(r, c)
	groups := groupsOf(rec)
	var j judged
	var s steering
	hand := 0
	if groups == nil {
		j = judge(rec)
		s = steer(rec, j)
	} else {
		hand = atHand(rec, groups)
		j, s = together(rec, groups, hand), groups[hand].steer
	}
	ev := Evaluation{Trials: j.trials, Agreement: j.agreement, Notes: rec.notes, Setup: rec.setup, Cleanup: rec.cleanup,
		Log: rec.log, Clock: c.Clock, Entries: c.Entries, Stage: stage(j), Blank: rec.meanBlank}
	ev.Passages, ev.Pictures = passages(rec)
	if groups == nil { // of several samples they would be about one of them
		ev.Statistics, ev.Dixon = describe(rec, j)
	}
	if e := s.coming; s.known {
		ev.Expected = &Span{e.low, e.high}
	}
	ev.Supply = supply(rec, j, ev.Expected)
	ev.Findings = append(ev.Findings, c.Findings...)
	ev.Findings = append(ev.Findings, readingFindings(rec, j, s, groups)...)
	ev.Findings = append(ev.Findings, agreementFindings(rec, j)...)
	ev.Findings = append(ev.Findings, indicatorFindings(r)...)
	ev.Probe, ev.Points = rec.probe, rec.points
	ev.Findings = append(ev.Findings, rec.probed...)
	for i := range j.trials {
		if run := rec.runs[j.trials[i].ID]; run != nil {
			ev.Runs = append(ev.Runs, *run)
			ev.Findings = append(ev.Findings, run.Notes...)
		}
	}
	ev.Next = nextOf(rec, j, s, ev.Supply, ev.Setup)
	return &Basis{rec, groups, hand, j, ev}
}

// Attempted tells whether the student has answered every step of the own working
// (working.Attempted).
func (b *Basis) Attempted() bool { return len(b.rec.c.Answers) > 0 && b.Of(PartVerdicts).Attempted }

// Of is the evaluation with these parts.
func (b *Basis) Of(parts Parts) Evaluation {
	rec, groups, hand, j, ev := b.rec, b.groups, b.hand, b.j, b.ev
	ev.Withheld, ev.Judged = !parts.Has(PartResult), parts.Has(PartVerdicts)
	// What the parts add to is this evaluation's own.
	ev.Findings = slices.Clip(ev.Findings)
	if e := ev.Next.Entry; e != nil {
		own := *e
		ev.Next.Entry = &own
	}
	if groups != nil {
		ev.compare(rec, groups, hand, parts)
	} else {
		if parts.Has(PartResult) {
			res := result(rec, j, parts)
			ev.Result, ev.SoFar = res.whole, res.soFar
			ev.Findings = append(ev.Findings, res.findings...)
		}
		ev.Work = work(rec, j, ev.Result, parts)
		if parts.Has(PartResult) {
			if ev.Salt = makeSalt(rec, j); ev.Salt != nil {
				ev.Salt.next(&ev.Next)
				ev.Findings = append(ev.Findings, ev.Salt.findings()...)
			}
		}
	}
	ev.Attempted = parts.Has(PartVerdicts) && working.Attempted(ev.Work)
	ev.Prepared, ev.Used = prepared(rec, ev.Result), ownUsed(rec, j)
	if ev.Findings == nil {
		ev.Findings = []finding.Finding{}
	}
	if !parts.Has(PartResult) { // constants can be what is asked for
		ev.Runs = slices.Clone(ev.Runs)
		for i := range ev.Runs {
			ev.Runs[i].withhold()
		}
	}
	return ev
}

// compare fills in what several samples have of their own.
func (ev *Evaluation) compare(rec recorded, groups []group, hand int, parts Parts) {
	var findings []finding.Finding
	ev.Samples, findings = answers(rec, groups, parts)
	ev.Findings = append(ev.Findings, findings...)
	ev.Work = ownWork(groups, ev.Samples, parts)
	if e := ev.Next.Entry; e != nil && e.Opens != "" {
		e.Sample = groups[hand].name
	}
	ev.Hand = groups[hand].name
	all := true
	for _, s := range ev.Samples {
		all = all && s.Agreement.Status == agreement.Agreed
	}
	switch {
	case !all && ev.Stage == Agreed:
		ev.Stage = Measuring
	case all && ev.Stage == Agreed:
		ev.Next.Say = []finding.Message{nextAllAgreed.Message(finding.Count(len(ev.Samples)))}
	}
}

func stage(j judged) Stage {
	complete, rough := 0, 0
	for i := range j.trials {
		switch t := &j.trials[i]; {
		case t.Titre == nil || t.Withdrawn || !t.Type.Judged():
		case t.Type == journal.Rough:
			rough++
		default:
			complete++
		}
	}
	switch {
	case len(j.trials) == 0:
		return Untouched
	case j.verdict.Status == agreement.Agreed:
		return Agreed
	case complete >= 2 && j.verdict.Status != agreement.TooFew:
		return Disagreeing
	case complete == 0 && rough > 0:
		return RoughOnly
	default:
		return Measuring
	}
}
