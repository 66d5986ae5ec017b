package experiment

import (
	"math"
	"time"

	"exactflask/core/agreement"
	"exactflask/core/decimal"
	"exactflask/core/finding"
	"exactflask/core/journal"
	"exactflask/core/quantity"
	"exactflask/core/stoich"
)

// Evaluation is everything that follows from a practical and a journal.
type Evaluation struct {
	Trials     []Trial               `json:"trials"`
	Agreement  Agreement             `json:"agreement"`
	Result     *Result               `json:"result,omitempty" doc:"left out until enough titres agree, or while results are withheld"`
	Withheld   bool                  `json:"withheld,omitempty" doc:"results are kept back from this reader until after marking"`
	Next       Next                  `json:"next"`
	Findings   []finding.Finding     `json:"findings"`
	Notes      []Note                `json:"notes"`
	Setup      []Item                `json:"setup" doc:"what is done before, and whether it was"`
	Cleanup    []Item                `json:"cleanup" doc:"what is done afterwards"`
	Log        []LogLine             `json:"log" doc:"observations, weighings and waiting times, in order"`
	Statistics *agreement.Statistics `json:"statistics,omitempty" doc:"of the averaged titres"`
	Dixon      *agreement.Dixon      `json:"dixon,omitempty" doc:"of the accurate titres; information only"`
	Blank      *decimal.Decimal      `json:"blank,omitempty" doc:"mean blank titre, mL, subtracted from the mean titre"`
	SoFar      *SoFar                `json:"soFar,omitempty" doc:"concentration so far; left out while results are withheld"`
	Supply     *SupplyLeft           `json:"supply,omitempty" doc:"what is left, where the practical says what a bench is given"`
	Stage      Stage                 `json:"stage" enum:"untouched,rough,measuring,disagreeing,agreed" doc:"where the notebook stands"`
	Clock      int64                 `json:"clock" doc:"highest logical clock in the notebook"`
	Entries    int                   `json:"entries" doc:"number of entries in the notebook"`
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

// Trial is one trial as judged.
type Trial struct {
	ID          string            `json:"id"`
	Type        journal.TrialType `json:"type" enum:"rough,accurate,blank,practice"`
	Number      int               `json:"number" doc:"among the trials of its type, from 1; 0 when withdrawn"`
	At          time.Time         `json:"at"`
	By          string            `json:"by,omitempty"`
	Start       *Reading          `json:"start,omitempty"`
	End         *Reading          `json:"end,omitempty"`
	Refills     []Refill          `json:"refills,omitempty"`
	SampleStart *Reading          `json:"sampleStart,omitempty"`
	SampleEnd   *Reading          `json:"sampleEnd,omitempty"`
	Sample      *decimal.Decimal  `json:"sample,omitempty" doc:"measured sample, mL, exact"`
	Provisional []Reading         `json:"provisional,omitempty" doc:"noted before further drops"`
	EndColour   string            `json:"endColour,omitempty" enum:"pale,deep,fading"`
	Titre       *decimal.Decimal  `json:"titre,omitempty" doc:"end less start over all fills, mL, exact"`
	Compared    *decimal.Decimal  `json:"compared,omitempty" doc:"what the rule of agreement compares, mL: the titre, or under the relative rule the titre for a sample of the nominal volume"`
	Counts      bool              `json:"counts" doc:"the titre is in the mean"`
	Reason      Reason            `json:"reason" doc:"why it is in or out"`
	SetAside    *Mark             `json:"setAside,omitempty"`
	Withdrawn   bool              `json:"withdrawn,omitempty" doc:"opened by mistake; shown struck through"`
	Struck      journal.History   `json:"struck" doc:"what once stood here"`
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
	OutNoSample  Reason = "out.no-sample"
)

// Refill is a filling of the burette within a trial.
type Refill struct {
	Before *Reading `json:"before,omitempty"`
	After  *Reading `json:"after,omitempty"`
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
	Code      string           `json:"code" doc:"what it is, such as observation.leak"`
	Trial     string           `json:"trial,omitempty"`
	Text      string           `json:"text"`
	At        time.Time        `json:"at"`
	By        string           `json:"by,omitempty"`
	Withdrawn bool             `json:"withdrawn,omitempty"`
	Struck    []journal.Struck `json:"struck,omitempty"`
}

// SoFar is the concentration that the titres give up to now.
type SoFar struct {
	Answer   quantity.Quantity `json:"answer"`
	Of       string            `json:"of"`
	From     string            `json:"from" enum:"rough,accurate,mean" doc:"from the rough trial, from one accurate trial, or from the mean"`
	Expected *Comparison       `json:"expected,omitempty"`
}

// SupplyLeft is what remains of the solutions a bench was given.
type SupplyLeft struct {
	Titrant *decimal.Decimal `json:"titrant,omitempty" doc:"mL left, not counting what was run off"`
	Analyte *decimal.Decimal `json:"analyte,omitempty" doc:"mL left"`
	Trials  int              `json:"trials" doc:"how many more trials they allow"`
}

// Reading is a reading as it stands, with the entry to name in a correction.
type Reading struct {
	Entry string          `json:"entry"`
	Text  string          `json:"text" doc:"as it was written"`
	Value decimal.Decimal `json:"value"`
	At    time.Time       `json:"at"`
	By    string          `json:"by,omitempty"`
}

// Mark is a statement about a trial, such as why it was set aside.
type Mark struct {
	Entry string    `json:"entry"`
	Text  string    `json:"text"`
	At    time.Time `json:"at"`
	By    string    `json:"by,omitempty"`
}

// Note is a note of the notebook.
type Note struct {
	Entry  string           `json:"entry"`
	Trial  string           `json:"trial,omitempty"`
	Text   string           `json:"text"`
	At     time.Time        `json:"at"`
	By     string           `json:"by,omitempty"`
	Struck []journal.Struck `json:"struck,omitempty"`
}

// Agreement is the judgement of the titres.
type Agreement struct {
	Status   agreement.Status `json:"status" enum:"too-few,disagree,ambiguous,agreed"`
	Chosen   []string         `json:"chosen" doc:"ids of the averaged trials, lowest titre first"`
	Rivals   [][]string       `json:"rivals,omitempty" doc:"equally good sets, when ambiguous"`
	Mean     *decimal.Decimal `json:"mean,omitempty" doc:"mean titre, mL, at the decimals of the titres"`
	Spread   *decimal.Decimal `json:"spread,omitempty" doc:"largest less smallest of the averaged titres, mL"`
	Relative *decimal.Decimal `json:"relative,omitempty" doc:"relative rule: half the largest difference, % of the mean"`
	Allowed  *decimal.Decimal `json:"allowed,omitempty" doc:"largest spread of an agreeing set on the scale of what is compared, mL"`
	Missing  int              `json:"missing" doc:"how many more agreeing titres are needed at least"`
}

// Result is the answer with its working.
type Result struct {
	Of         string            `json:"of" doc:"formula of the substance asked for, plain ASCII"`
	Answer     quantity.Quantity `json:"answer" doc:"figures by the practical's rule"`
	Derivation stoich.Derivation `json:"derivation"`
	Expected   *Comparison       `json:"expected,omitempty" doc:"against the roughly expected concentration"`
}

// Comparison sets the answer beside another value of the same unit.
type Comparison struct {
	Value   float64 `json:"value"`
	Percent float64 `json:"percent" doc:"difference of the answer from it, % of it"`
}

// Evaluate says what follows from the entries of one notebook under a
// practical. It is pure: the same practical and entries, in any order, give
// the same evaluation. The fault is the practical's (Practical.Check); no
// entry makes Evaluate fail.
func Evaluate(p Practical, entries []journal.Entry) (Evaluation, *finding.Fault) {
	s, fault := p.prepare()
	if fault != nil {
		return Evaluation{}, fault.In("practical")
	}
	ev, verdict, steer, steered := s.record(entries)
	s.answer(&ev, verdict, steer, steered)
	return ev, nil
}

// Record is Evaluate without the answer, the working and every judgement made
// with them: what a device may compute while results are withheld.
func Record(p Practical, entries []journal.Entry) (Evaluation, *finding.Fault) {
	s, fault := p.prepare()
	if fault != nil {
		return Evaluation{}, fault.In("practical")
	}
	ev, _, _, _ := s.record(entries)
	ev.Withheld = true
	return ev, nil
}

// record judges readings, titres and their agreement. It also returns the
// titre to expect of the next trial, if anything is known about it.
func (s setup) record(entries []journal.Entry) (Evaluation, agreement.Verdict, decimal.Decimal, bool) {
	rec := journal.Fold(entries)
	ev := Evaluation{Trials: make([]Trial, 0, len(rec.Trials)), Findings: rec.Findings, Notes: make([]Note, 0, len(rec.Notes)), Clock: rec.Clock, Entries: rec.Entries}
	for _, n := range rec.Notes {
		ev.Notes = append(ev.Notes, Note(n))
	}
	for _, t := range rec.Trials {
		ev.Trials = append(ev.Trials, s.trial(t))
	}
	s.lists(&ev, rec.Bench)
	verdict := s.judge(&ev)
	s.describe(&ev)
	steer, steered := s.steer(ev.Trials, verdict)
	s.supply(&ev, steer, steered)
	ev.Findings = append(ev.Findings, s.readingFindings(ev.Trials, steer, steered)...)
	ev.Findings = append(ev.Findings, s.agreementFindings(ev)...)
	if ev.Findings == nil {
		ev.Findings = []finding.Finding{}
	}
	ev.Stage = stage(ev)
	ev.Next = s.next(ev, steer, steered)
	return ev, verdict, steer, steered
}

// Redacted returns the evaluation without what a practical still withholds:
// the answer, its working, and every judgement made with them.
func (ev Evaluation) Redacted() Evaluation {
	ev.Result, ev.SoFar, ev.Withheld = nil, nil, true
	kept := make([]finding.Finding, 0, len(ev.Findings))
	for _, f := range ev.Findings {
		if !fromResult(f.Code) {
			kept = append(kept, f)
		}
	}
	ev.Findings = kept
	return ev
}

// trial takes a folded trial over; its reason is filled by judge.
func (s setup) trial(t journal.Trial) Trial {
	out := Trial{ID: t.ID, Type: t.Type, Number: t.Number, At: t.At, By: t.By, Withdrawn: t.Withdrawn, Struck: t.Struck}
	out.Start, out.End = (*Reading)(t.Start), (*Reading)(t.End)
	if t.SetAside != nil {
		out.SetAside = &Mark{t.SetAside.Entry, t.SetAside.Reason, t.SetAside.At, t.SetAside.By}
	}
	if titre, ok := t.Titre(); ok {
		out.Titre = &titre
	}
	if sample, ok := t.Sample(); ok {
		out.Sample = &sample
	}
	for _, r := range t.Refills {
		out.Refills = append(out.Refills, Refill{(*Reading)(r.Before), (*Reading)(r.After)})
	}
	for _, r := range t.Provisional {
		out.Provisional = append(out.Provisional, Reading(r))
	}
	out.SampleStart, out.SampleEnd, out.EndColour = (*Reading)(t.SampleStart), (*Reading)(t.SampleEnd), t.EndColour
	switch {
	case out.Withdrawn:
		out.Reason = OutWithdrawn
	case out.SetAside != nil:
		out.Reason = OutSetAside
	case out.Titre == nil:
		out.Reason = OutOpen
	case out.Type == journal.Practice:
		out.Reason = OutPractice
	case out.Titre.Sign() <= 0 && out.Type != journal.Blank:
		out.Reason = OutNegative
	case out.Type == journal.Blank:
		out.Reason = OutBlank
	case out.Type == journal.Rough && !s.Agreement.RoughCounts:
		out.Reason = OutRough
	case s.SampleBy == ByBurette && (out.Sample == nil || out.Sample.Sign() <= 0):
		out.Reason = OutNoSample
	}
	return out
}

// judge finds the agreeing set and gives every trial its reason.
func (s setup) judge(ev *Evaluation) agreement.Verdict {
	var candidates []agreement.Candidate
	places := 0
	for _, t := range ev.Trials {
		if t.Reason == "" {
			candidates = append(candidates, agreement.Candidate{ID: t.ID, Titre: s.compared(t)})
		}
	}
	v := agreement.Judge(candidates, s.Agreement)
	var compared []decimal.Decimal
	for i := range ev.Trials {
		t := &ev.Trials[i]
		if t.Titre != nil && t.Titre.Sign() > 0 && t.Type != journal.Blank && t.Type != journal.Practice {
			c := s.onStrip(*t)
			t.Compared = &c
			if _, judged := v.Reasons[t.ID]; judged {
				compared = append(compared, c)
			}
		}
		if r, ok := v.Reasons[t.ID]; ok {
			t.Reason = Reason(r)
			t.Counts = r == agreement.InSet
		}
		if t.Counts {
			places = max(places, t.Titre.Places())
		}
	}
	ev.Agreement = Agreement{Status: v.Status, Chosen: v.Chosen, Rivals: v.Rivals}
	switch v.Status {
	case agreement.Agreed:
		mean, spread := v.Mean.Round(places), v.Spread
		if s.Agreement.Kind == agreement.Relative { // the mean is of quotients; the titres' own is shown
			mean, spread = meanAndSpread(ev.Trials, places)
			relative, _ := v.Spread.Mul(decimal.Whole(50)).Div(v.Mean)
			relative = relative.RoundFigures(2)
			ev.Agreement.Relative = &relative
		}
		ev.Agreement.Mean, ev.Agreement.Spread = &mean, &spread
	case agreement.TooFew:
		ev.Agreement.Missing = s.Agreement.Need - len(candidates)
	default:
		ev.Agreement.Missing = 1
	}
	if ev.Agreement.Chosen == nil {
		ev.Agreement.Chosen = []string{}
	}
	ev.Agreement.Allowed = s.allowed(compared)
	return v
}

// onStrip is what the rule compares, on a scale of mL that people know: under
// the relative rule the titre that a sample of the nominal volume would take.
func (s setup) onStrip(t Trial) decimal.Decimal {
	if s.Agreement.Kind != agreement.Relative || t.Sample == nil || t.Sample.Sign() <= 0 {
		return *t.Titre
	}
	return s.compared(t).Mul(s.Aliquot.Volume).Round(3)
}

// allowed is the largest spread of an agreeing set, in mL.
func (s setup) allowed(compared []decimal.Decimal) *decimal.Decimal {
	if s.Agreement.Kind != agreement.Relative {
		return &s.Agreement.Tolerance
	}
	mean, ok := decimal.Mean(compared...)
	if !ok {
		return nil
	}
	width, _ := mean.Mul(s.Agreement.PercentOr2()).Div(decimal.Whole(50))
	width = width.Round(3)
	return &width
}

// steer is the titre to expect of the next trial, in mL: the mean of the
// agreeing set, else the first rough trial, else an accurate one, else what
// the approximate concentration predicts.
func (s setup) steer(trials []Trial, v agreement.Verdict) (decimal.Decimal, bool) {
	if v.Status == agreement.Agreed {
		mean, _ := meanAndSpread(trials, 2)
		return mean, true
	}
	for _, wanted := range []journal.TrialType{journal.Rough, journal.Accurate} {
		for _, t := range trials {
			if t.Type == wanted && t.Titre != nil && t.SetAside == nil && !t.Withdrawn && t.Titre.Sign() > 0 {
				return *t.Titre, true
			}
		}
	}
	return s.expectedTitre()
}

// answer adds the result once titres agree, and what they give so far.
func (s setup) answer(ev *Evaluation, verdict agreement.Verdict, steer decimal.Decimal, steered bool) {
	from := "mean"
	if verdict.Status == agreement.Agreed {
		ev.Result = s.result(*ev, func(t Trial) bool { return t.Counts })
	}
	r := ev.Result
	if r == nil {
		// As soon as there is one titre it tells whether all this can be right.
		var one string
		for _, wanted := range []journal.TrialType{journal.Accurate, journal.Rough} {
			for _, t := range ev.Trials {
				usable := t.Type == wanted && t.Titre != nil && t.SetAside == nil && !t.Withdrawn && t.Titre.Sign() > 0 && t.Reason != OutNoSample
				if usable && one == "" {
					one, from = t.ID, string(wanted)
				}
			}
		}
		if one == "" {
			return
		}
		if r = s.result(*ev, func(t Trial) bool { return t.ID == one }); r == nil {
			return
		}
		if from == "rough" {
			r.Answer.Figures = min(r.Answer.Figures, 2)
		}
	}
	ev.SoFar = &SoFar{Answer: r.Answer, Of: r.Of, From: from, Expected: r.Expected}
	ev.Findings = append(ev.Findings, resultFindings(r)...)
}

// compared is what the rule of agreement compares.
func (s setup) compared(t Trial) decimal.Decimal {
	if s.Agreement.Kind == agreement.Relative && t.Sample != nil {
		q, _ := t.Titre.Div(*t.Sample)
		return q
	}
	return *t.Titre
}

// meanAndSpread of the averaged titres, in mL.
func meanAndSpread(trials []Trial, places int) (mean, spread decimal.Decimal) {
	var titres []decimal.Decimal
	for _, t := range trials {
		if t.Counts {
			titres = append(titres, *t.Titre)
		}
	}
	mean, _ = decimal.Mean(titres...)
	low, high := titres[0], titres[0]
	for _, v := range titres {
		if v.Cmp(low) < 0 {
			low = v
		}
		if v.Cmp(high) > 0 {
			high = v
		}
	}
	return mean.Round(places), high.Sub(low)
}

// result derives the answer from the trials that averaged names. It is nil
// where no answer follows, as with a blank larger than the titre.
func (s setup) result(ev Evaluation, averaged func(Trial) bool) *Result {
	in := stoich.Direct{Equation: s.equation, Titrant: s.titrant, Analyte: s.analyte, UnknownInBurette: s.UnknownInBurette(),
		Known: s.Titrant.Concentration, Aliquot: s.Aliquot.Volume, RoundMean: s.Result.RoundMean}
	unknown := s.Analyte
	if in.UnknownInBurette {
		in.Known, unknown = s.Analyte.Concentration, s.Titrant
	}
	for _, t := range ev.Trials {
		switch {
		case averaged(t):
			in.Titres = append(in.Titres, t.stoich())
		case t.Reason == OutBlank && t.Titre.Sign() > 0:
			in.Blanks = append(in.Blanks, t.stoich())
		}
	}
	d, err := in.Derive()
	if err != nil {
		return nil
	}
	answer := d.Answer()
	r := &Result{Of: answer.Of, Answer: answer.Quantity, Derivation: d}
	if s.Result.Figures > 0 {
		r.Answer.Figures = s.Result.Figures
	}
	if expected := unknown.Approximate.Float64(); expected > 0 {
		r.Expected = &Comparison{Value: expected, Percent: 100 * (r.Answer.Value - expected) / expected}
	}
	return r
}

// stoich hands a complete trial on.
func (t Trial) stoich() stoich.Titre {
	out := stoich.Titre{Trial: t.ID, Start: stoichReading(t.Start), End: stoichReading(t.End)}
	for _, r := range t.Refills {
		out.Refills = append(out.Refills, [2]stoich.Reading{stoichReading(r.Before), stoichReading(r.After)})
	}
	if t.Sample != nil {
		out.Sample = &[2]stoich.Reading{stoichReading(t.SampleStart), stoichReading(t.SampleEnd)}
	}
	return out
}

func stoichReading(r *Reading) stoich.Reading {
	return stoich.Reading{Entry: r.Entry, Value: r.Value, Text: r.Text}
}

func stage(ev Evaluation) Stage {
	complete, rough := 0, 0
	for _, t := range ev.Trials {
		switch {
		case t.Titre == nil || t.Withdrawn || t.Type == journal.Blank || t.Type == journal.Practice:
		case t.Type == journal.Rough:
			rough++
		default:
			complete++
		}
	}
	switch {
	case len(ev.Trials) == 0:
		return Untouched
	case ev.Agreement.Status == agreement.Agreed:
		return Agreed
	case complete >= 2 && ev.Agreement.Status != agreement.TooFew:
		return Disagreeing
	case complete == 0 && rough > 0:
		return RoughOnly
	default:
		return Measuring
	}
}

// resultFindings says when a result is hard to believe.
func resultFindings(r *Result) []finding.Finding {
	if r == nil || r.Expected == nil || math.Abs(r.Expected.Percent) <= 10 {
		return nil
	}
	return []finding.Finding{finding.New("result.far-from-expected", finding.Check, "",
		"answer", r.Answer.String(), "expected", quantity.Show(r.Expected.Value, 3), "percent", quantity.Show(math.Abs(r.Expected.Percent), 2),
		"factor", quantity.Show(r.Answer.Value/r.Expected.Value, 2))}
}

// fromResult tells the findings that give away the result.
func fromResult(code string) bool { return len(code) > 7 && code[:7] == "result." }
