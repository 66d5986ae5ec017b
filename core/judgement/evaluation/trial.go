package evaluation

import (
	"exactflask/core/model/assay"
	"exactflask/core/record/journal"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

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

	Measured assay.Measured `json:"-"` // as the model takes it
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
	OutOffScale  Reason = "out.off-scale"
	// OutWhichSample: of several samples it was not said which one it is of.
	OutWhichSample Reason = "out.which-sample"
)

var (
	_ = finding.Family("", []Reason{OutRough, OutOpen, OutWithdrawn, OutNegative, OutBlank, OutPractice, OutRepeat, OutNoSample,
		OutNoReagent, OutNoMass, OutNoFirst, OutWhichSample, OutNoEnd, OutOffScale})
	_ = finding.Declare(string(OutSetAside), "reason")
	_ = finding.Declare(string(OutNoAnswer), "why")
)

// Usable tells whether a trial of a type gave a titre that something can be
// learnt from.
func (t *Trial) Usable(kind journal.TrialType) bool {
	return t.Type == kind && t.Titre != nil && t.Titre.Sign() > 0 && t.SetAside == nil && !t.Withdrawn &&
		t.Reason != OutNoSample && t.Reason != OutNoReagent && t.Reason != OutNoMass && t.Reason != OutOffScale && t.Reason != OutNoAnswer
}
