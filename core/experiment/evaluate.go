package experiment

import (
	"fmt"
	"math"
	"strings"
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
	Work       []WorkStep            `json:"work" doc:"the student's own calculation, step by step"`
	Attempted  bool                  `json:"attempted,omitempty" doc:"the student has given an own final answer"`

	weighed *journal.Bench // the last weighing that belongs to no trial
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
	FirstEnd    *Reading          `json:"firstEnd,omitempty" doc:"at the first of two end points"`
	FirstTitre  *decimal.Decimal  `json:"firstTitre,omitempty" doc:"to the first of two end points, mL, exact"`
	Mass        *decimal.Decimal  `json:"mass,omitempty" doc:"of the trial's own sample, g, exact"`
	Provisional []Reading         `json:"provisional,omitempty" doc:"noted before further drops"`
	EndColour   string            `json:"endColour,omitempty" enum:"pale,deep,fading"`
	Titre       *decimal.Decimal  `json:"titre,omitempty" doc:"end less start over all fills, mL, exact"`
	Compared    *decimal.Decimal  `json:"compared,omitempty" doc:"what the rule of agreement compares, mL: the titre, or under the relative rule the titre for a sample of the nominal volume"`
	Counts      bool              `json:"counts" doc:"the titre is in the mean"`
	Reason      Reason            `json:"reason" doc:"why it is in or out"`
	SetAside    *Mark             `json:"setAside,omitempty"`
	Withdrawn   bool              `json:"withdrawn,omitempty" doc:"opened by mistake; shown struck through"`
	Struck      journal.History   `json:"struck" doc:"what once stood here"`

	weighed *journal.Bench
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
	OutNoMass    Reason = "out.no-mass"
	OutNoFirst   Reason = "out.no-first"
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
	Text      string           `json:"text" doc:"in the person's own words, or a value"`
	Unit      quantity.Unit    `json:"unit,omitempty" doc:"of the value"`
	From      string           `json:"from,omitempty" doc:"where the value was taken from"`
	At        time.Time        `json:"at"`
	By        string           `json:"by,omitempty"`
	Withdrawn bool             `json:"withdrawn,omitempty"`
	Struck    []journal.Struck `json:"struck,omitempty"`
}

// SoFar is the concentration that the titres give up to now.
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
	What       stoich.What       `json:"what" doc:"what was asked for"`
	Second     *Second           `json:"second,omitempty" doc:"the other component of a mixture"`
	Whole      *float64          `json:"whole,omitempty" doc:"x of a hydrate to the nearest whole number"`
	Derivation stoich.Derivation `json:"derivation"`
	Expected   *Comparison       `json:"expected,omitempty" doc:"against the roughly expected concentration"`
	Label      *Comparison       `json:"label,omitempty" doc:"against the label, in the answer's unit"`
	Reference  *Comparison       `json:"reference,omitempty" doc:"against the true value; for the instructor"`
	Budget     *stoich.Budget    `json:"budget,omitempty" doc:"where the uncertainty comes from"`
	Causes     []Cause           `json:"causes,omitempty" doc:"what would put the answer off, the best explanation first"`
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
// the same evaluation. The fault is the practical's (Practical.Check); no
// entry makes Evaluate fail.
func Evaluate(p Practical, entries []journal.Entry) (Evaluation, *finding.Fault) {
	s, fault := p.prepare()
	if fault != nil {
		return Evaluation{}, fault.In("practical")
	}
	return s.evaluate(journal.Fold(entries)), nil
}

func (s setup) evaluate(rec journal.Record) Evaluation {
	s.standardised(rec.Known)
	ev, verdict := s.record(rec)
	s.answer(&ev, verdict)
	s.work(&ev, rec)
	return ev
}

// standardised takes the concentration that was found over the nominal one.
func (s *setup) standardised(found *journal.Bench) {
	if found == nil {
		return
	}
	k := found.Entry.Known
	of := &s.Titrant
	if s.UnknownInBurette() {
		of = &s.Analyte
	}
	of.Concentration, _ = journal.ParseReading(found.Text)
	of.Uncertainty, _ = journal.ParseReading(k.Uncertainty)
}

// Record is Evaluate without the answer, the working and every judgement made
// with them: what a device may compute while results are withheld.
func Record(p Practical, entries []journal.Entry) (Evaluation, *finding.Fault) {
	s, fault := p.prepare()
	if fault != nil {
		return Evaluation{}, fault.In("practical")
	}
	rec := journal.Fold(entries)
	s.standardised(rec.Known)
	ev, _ := s.record(rec)
	s.work(&ev, rec)
	ev.Withheld = true
	return ev, nil
}

// record judges readings, titres and their agreement.
func (s setup) record(rec journal.Record) (Evaluation, agreement.Verdict) {
	ev := Evaluation{Trials: make([]Trial, 0, len(rec.Trials)), Findings: rec.Findings, Notes: make([]Note, 0, len(rec.Notes)), Clock: rec.Clock, Entries: rec.Entries, weighed: rec.Weighed}
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
	return ev, verdict
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
	if t.FirstEnd != nil {
		out.FirstEnd = (*Reading)(t.FirstEnd)
		if t.Start != nil {
			first := t.FirstEnd.Value.Sub(t.Start.Value)
			out.FirstTitre = &first
		}
	}
	if t.Mass != nil {
		mass := t.Mass.Entry.Weighing.Mass()
		out.Mass, out.weighed = &mass, t.Mass
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
	case s.massEach() && (out.Mass == nil || out.Mass.Sign() <= 0):
		out.Reason = OutNoMass
	case s.EndPoints != stoich.OneEndPoint && out.FirstEnd == nil:
		out.Reason = OutNoFirst
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
	switch {
	case s.Agreement.Kind != agreement.Relative:
	case t.Sample != nil && t.Sample.Sign() > 0:
		return s.compared(t).Mul(s.Aliquot.Volume).Round(3)
	case t.Mass != nil && t.Mass.Sign() > 0 && s.Route[0].Mass.Sign() > 0:
		return s.compared(t).Mul(s.Route[0].Mass).Round(3)
	}
	return *t.Titre
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
func (s setup) answer(ev *Evaluation, verdict agreement.Verdict) {
	from := "mean"
	if verdict.Status == agreement.Agreed {
		counts := func(t Trial) bool { return t.Counts }
		r, problem := s.result(*ev, counts)
		if problem != nil {
			ev.Findings = append(ev.Findings, finding.New("result.impossible", finding.Warning, "", "problem", problem.Error()))
			return
		}
		m := r.Derivation.Model()
		s.sure(r, m, *ev, counts)
		r.Causes = s.causes(r, m)
		ev.Result = r
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
		var problem error
		if r, problem = s.result(*ev, func(t Trial) bool { return t.ID == one }); problem != nil {
			return // it may be that something is still to be recorded
		}
		if from == "rough" {
			r.Answer.Figures = min(r.Answer.Figures, 2)
		}
	}
	ev.SoFar = &SoFar{Answer: r.Answer, Of: r.Of, Letter: r.Derivation.Answer().Letter, From: from, Expected: r.Expected}
	ev.Findings = append(ev.Findings, s.resultFindings(r)...)
}

// compared is what the rule of agreement compares.
func (s setup) compared(t Trial) decimal.Decimal {
	if s.Agreement.Kind == agreement.Relative {
		for _, measure := range []*decimal.Decimal{t.Sample, t.Mass} {
			if measure != nil && measure.Sign() > 0 {
				q, _ := t.Titre.Div(*measure)
				return q
			}
		}
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

// result derives the answer from the trials that averaged names, or says why
// none follows, as with a blank larger than the titre.
func (s setup) result(ev Evaluation, averaged func(Trial) bool) (*Result, error) {
	d, err := s.assay(ev, averaged).Derive()
	if err != nil {
		return nil, err
	}
	answer := d.Answer()
	r := &Result{Of: answer.Of, What: s.Ask.What, Answer: answer.Quantity, Derivation: d}
	if r.What == "" {
		r.What = stoich.Concentration
	}
	if second, ok := d.Node(stoich.NodeSecond); ok {
		r.Second = &Second{Of: second.Of, Answer: second.Quantity}
	}
	if s.Result.Figures > 0 {
		r.Answer.Figures = s.Result.Figures
		if r.Second != nil {
			r.Second.Answer.Figures = s.Result.Figures
		}
	}
	if r.What == stoich.Water {
		whole := math.Round(answer.Quantity.Value)
		r.Whole = &whole
	}
	r.Expected = compare(r.Answer.Value, s.expected(r).Value)
	if !s.Label.Value.IsZero() {
		label, err := quantity.Of(s.Label.Value, s.Label.Unit).In(answer.Quantity.Unit)
		if err == nil {
			r.Label = compare(r.Answer.Value, label.Value)
		}
	}
	if s.Reference.Sign() > 0 {
		r.Reference = compare(r.Answer.Value, s.Reference.Float64())
	}
	return r, nil
}

// expected is the roughly expected answer, where the approximate concentration
// is the answer itself.
func (s setup) expected(r *Result) quantity.Quantity {
	unknown := s.Analyte
	if s.UnknownInBurette() {
		unknown = s.Titrant
	}
	if r.What == stoich.Concentration && r.Answer.Unit == quantity.MolePerL && (len(s.Route) == 0 || s.UnknownInBurette()) {
		return quantity.Of(unknown.Approximate, quantity.MolePerL)
	}
	return quantity.Quantity{}
}

// compare sets a value beside another; nil where that is not known.
func compare(value, with float64) *Comparison {
	if with <= 0 {
		return nil
	}
	return &Comparison{Value: with, Percent: 100 * (value - with) / with}
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
func (s setup) resultFindings(r *Result) []finding.Finding {
	var out []finding.Finding
	if r.Expected != nil && math.Abs(r.Expected.Percent) > 10 {
		out = append(out, finding.New("result.far-from-expected", finding.Check, "",
			"answer", r.Answer.String(), "expected", quantity.Show(r.Expected.Value, 3), "percent", quantity.Show(math.Abs(r.Expected.Percent), 2),
			"factor", quantity.Show(r.Answer.Value/r.Expected.Value, 2)))
	}
	d := r.Derivation
	for i, step := range s.route {
		if step.Kind != stoich.Excess {
			continue
		}
		for _, n := range d.Nodes { // each trial has its own where samples differ
			if n.Step != "step.used" || !strings.HasSuffix(n.ID, fmt.Sprintf("route-%d-used", i)) {
				continue
			}
			added, _ := d.Node(n.Inputs[0])
			left := 1 - n.Quantity.Value/added.Quantity.Value
			switch {
			case left < 0.1:
				out = append(out, finding.New("result.small-excess", finding.Warning, n.Trial, "percent", quantity.Show(100*left, 2)))
			case left > 0.9:
				out = append(out, finding.New("result.hardly-used", finding.Check, n.Trial, "percent", quantity.Show(100*(1-left), 2)))
			}
			break
		}
	}
	return out
}

// fromResult tells the findings that give away the result.
func fromResult(code string) bool { return len(code) > 7 && code[:7] == "result." }
