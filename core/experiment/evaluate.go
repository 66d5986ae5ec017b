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
	Trials    []Trial           `json:"trials"`
	Agreement Agreement         `json:"agreement"`
	Result    *Result           `json:"result,omitempty" doc:"left out until enough titres agree, or while results are withheld"`
	Withheld  bool              `json:"withheld,omitempty" doc:"results are kept back from this reader until after marking"`
	Next      Next              `json:"next"`
	Findings  []finding.Finding `json:"findings"`
	Notes     []Note            `json:"notes"`
	Stage     Stage             `json:"stage" enum:"untouched,rough,measuring,disagreeing,agreed" doc:"where the notebook stands"`
	Clock     int64             `json:"clock" doc:"highest logical clock in the notebook"`
	Entries   int               `json:"entries" doc:"number of entries in the notebook"`
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
	ID        string            `json:"id"`
	Type      journal.TrialType `json:"type" enum:"rough,accurate"`
	Number    int               `json:"number" doc:"among the trials of its type, from 1; 0 when withdrawn"`
	At        time.Time         `json:"at"`
	By        string            `json:"by,omitempty"`
	Start     *Reading          `json:"start,omitempty"`
	End       *Reading          `json:"end,omitempty"`
	Titre     *decimal.Decimal  `json:"titre,omitempty" doc:"end less start, mL, exact"`
	Counts    bool              `json:"counts" doc:"the titre is in the mean"`
	Reason    Reason            `json:"reason" doc:"why it is in or out"`
	SetAside  *Mark             `json:"setAside,omitempty"`
	Withdrawn bool              `json:"withdrawn,omitempty" doc:"opened by mistake; shown struck through"`
	Struck    journal.History   `json:"struck" doc:"what once stood here"`
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
)

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
	Status  agreement.Status `json:"status" enum:"too-few,disagree,ambiguous,agreed"`
	Chosen  []string         `json:"chosen" doc:"ids of the averaged trials, lowest titre first"`
	Rivals  [][]string       `json:"rivals,omitempty" doc:"equally good sets, when ambiguous"`
	Mean    *decimal.Decimal `json:"mean,omitempty" doc:"mean titre, mL, at the decimals of the titres"`
	Spread  *decimal.Decimal `json:"spread,omitempty" doc:"largest less smallest of the averaged titres, mL"`
	Missing int              `json:"missing" doc:"how many more agreeing titres are needed at least"`
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
	rec := journal.Fold(entries)
	ev := Evaluation{Trials: make([]Trial, 0, len(rec.Trials)), Findings: rec.Findings, Notes: make([]Note, 0, len(rec.Notes)), Clock: rec.Clock, Entries: rec.Entries}
	for _, n := range rec.Notes {
		ev.Notes = append(ev.Notes, Note(n))
	}
	for _, t := range rec.Trials {
		ev.Trials = append(ev.Trials, s.trial(t))
	}
	verdict := s.judge(&ev)
	steer, steered := s.steer(ev.Trials, verdict)
	ev.Findings = append(ev.Findings, s.readingFindings(ev.Trials, steer, steered)...)
	ev.Findings = append(ev.Findings, s.agreementFindings(ev)...)
	if verdict.Status == agreement.Agreed {
		ev.Result = s.result(ev)
		ev.Findings = append(ev.Findings, resultFindings(ev.Result)...)
	}
	if ev.Findings == nil {
		ev.Findings = []finding.Finding{}
	}
	ev.Stage = stage(ev)
	ev.Next = s.next(ev, steer, steered)
	return ev, nil
}

// Redacted returns the evaluation without what a practical still withholds:
// the answer, its working, and every judgement made with them.
func (ev Evaluation) Redacted() Evaluation {
	ev.Result, ev.Withheld = nil, true
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
	for _, r := range []struct {
		from *journal.Reading
		to   **Reading
	}{{t.Start, &out.Start}, {t.End, &out.End}} {
		if r.from != nil {
			*r.to = &Reading{r.from.Entry, r.from.Text, r.from.Value, r.from.At, r.from.By}
		}
	}
	if t.SetAside != nil {
		out.SetAside = &Mark{t.SetAside.Entry, t.SetAside.Reason, t.SetAside.At, t.SetAside.By}
	}
	if titre, ok := t.Titre(); ok {
		out.Titre = &titre
	}
	switch {
	case out.Withdrawn:
		out.Reason = OutWithdrawn
	case out.SetAside != nil:
		out.Reason = OutSetAside
	case out.Titre == nil:
		out.Reason = OutOpen
	case out.Type == journal.Rough:
		out.Reason = OutRough
	case out.Titre.Sign() <= 0:
		out.Reason = OutNegative
	}
	return out
}

// judge finds the agreeing set and gives every trial its reason.
func (s setup) judge(ev *Evaluation) agreement.Verdict {
	var candidates []agreement.Candidate
	places := 0
	for _, t := range ev.Trials {
		if t.Reason == "" {
			candidates = append(candidates, agreement.Candidate{ID: t.ID, Titre: *t.Titre})
		}
	}
	v := agreement.Judge(candidates, s.Agreement)
	for i := range ev.Trials {
		t := &ev.Trials[i]
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
		ev.Agreement.Mean, ev.Agreement.Spread = &mean, &spread
	case agreement.TooFew:
		ev.Agreement.Missing = s.Agreement.Need - len(candidates)
	default:
		ev.Agreement.Missing = 1
	}
	if ev.Agreement.Chosen == nil {
		ev.Agreement.Chosen = []string{}
	}
	return v
}

// steer is the titre to expect of the next trial, in mL: the mean of the
// agreeing set, else the first rough trial, else an accurate one, else what
// the approximate concentration predicts.
func (s setup) steer(trials []Trial, v agreement.Verdict) (decimal.Decimal, bool) {
	if v.Status == agreement.Agreed {
		return v.Mean.Round(2), true
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

// result derives the answer from the agreeing trials. It is nil where no
// answer follows (no expected fault leaves one out once titres agree).
func (s setup) result(ev Evaluation) *Result {
	in := stoich.Direct{Equation: s.equation, Titrant: s.titrant, Analyte: s.analyte, UnknownInBurette: s.UnknownInBurette(),
		Known: s.Titrant.Concentration, Aliquot: s.Aliquot.Volume, RoundMean: s.Result.RoundMean}
	unknown := s.Analyte
	if in.UnknownInBurette {
		in.Known, unknown = s.Analyte.Concentration, s.Titrant
	}
	for _, t := range ev.Trials {
		if t.Counts {
			in.Titres = append(in.Titres, stoich.Titre{Trial: t.ID, Start: stoichReading(t.Start), End: stoichReading(t.End)})
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

func stoichReading(r *Reading) stoich.Reading {
	return stoich.Reading{Entry: r.Entry, Value: r.Value, Text: r.Text}
}

func stage(ev Evaluation) Stage {
	complete, rough := 0, 0
	for _, t := range ev.Trials {
		switch {
		case t.Titre == nil || t.Withdrawn:
		case t.Type == journal.Rough:
			rough++
		default:
			complete++
		}
	}
	switch {
	case ev.Entries == 0:
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
