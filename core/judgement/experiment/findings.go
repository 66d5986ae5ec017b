package experiment

import (
	"exactflask/core/chemistry/chem"
	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/model/curve"
	"exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Findings about readings and titres. Nothing is refused for them.
var (
	belowScale     = finding.Declare("reading.below-scale", "reading")
	beyondScale    = finding.Declare("reading.beyond-scale", "reading", "capacity")
	fewDecimals    = finding.Declare("reading.few-decimals", "reading", "written", "step")
	offResolution  = finding.Declare("reading.off-resolution", "reading", "step")
	startNotZero   = finding.Declare("reading.start-not-zero", "reading")
	startDiffers   = finding.Declare("reading.start-differs", "reading", "last")
	takenAgain     = finding.Declare("reading.taken-again", "before", "now")
	endBeforeStart = finding.Declare("titre.end-before-start", "start", "end")
	endAboveStart  = finding.Declare("titre.end-above-start", "start", "end")
	nothingRan     = finding.Declare("titre.nothing-ran", "reading")
	beyondRough    = finding.Declare("titre.beyond-rough", "titre", "expected", "over")
	overshot       = finding.Declare("titre.overshot")
	fading         = finding.Declare("titre.fading")
	smallTitre     = finding.Declare("titre.small", "titre", "step", "percent")
	firstLater     = finding.Declare("titre.first-after-second", "first", "end")
	driftSeen      = finding.Declare("titre.drift", "from", "to")
	cylinderUsed   = finding.Declare("glass.cylinder")
	gasSeen        = finding.Declare("back.carbon-dioxide")
	looseTolerance = finding.Declare("agreement.tolerance-loose", "tolerance", "titre", "percent", "most")
	allApart       = finding.Declare("agreement.all-apart", "spread", "tolerance")
	tiedSets       = finding.Declare("agreement.tied", "tolerance")
	wrongIndicator = finding.Family("indicator.bench-", []string{"early", "late", "slow", "never"}, "name")
	otherProtons   = finding.Declare("indicator.other-protons", "name", "formula", "counted", "fitting", "answer", "other")
	tiedSame       = finding.Declare("agreement.tied-relative", "percent")
)

var cent = decimal.Whole(100)

func mL(d decimal.Decimal) finding.Value { return finding.Exact(d, quantity.Millilitre) }

// looking collects findings trial by trial.
type looking struct {
	rec     recorded
	norms   practical.Norms
	steer   steering
	out     []finding.Finding
	rough   *evaluation.Trial
	lastEnd *journal.Reading
}

// readingFindings looks at every reading and titre.
func readingFindings(rec recorded, j judged, s steering, groups []group) []finding.Finding {
	l := &looking{rec: rec, norms: rec.r.Norms(), steer: s}
	roughs := map[string]*evaluation.Trial{}
	for i := range j.trials {
		if t := &j.trials[i]; !t.Withdrawn {
			if groups != nil { // a trial is compared with the rough one of its own sample
				l.rough = roughs[t.OfSample]
			}
			l.readings(t)
			if t.Titre != nil {
				l.titre(t)
			}
			roughs[t.OfSample] = l.rough
		}
	}
	l.practical(j, groups)
	l.out = append(l.out, nominalFindings(rec, j)...)
	return l.out
}

func (l *looking) drawn(r *journal.Reading) decimal.Decimal {
	return l.rec.r.Glass.Burette.Drawn(r.Value)
}

func (l *looking) add(f finding.Finding) { l.out = append(l.out, f) }

func (l *looking) readings(t *evaluation.Trial) {
	for _, r := range []*journal.Reading{t.SampleStart, t.SampleEnd, t.ReagentStart, t.ReagentEnd, t.Start, t.FirstEnd} {
		l.scale(r)
	}
	for _, r := range t.Refills {
		l.scale(r.Before)
		l.scale(r.After)
	}
	l.scale(t.End)
	if t.Start != nil {
		if l.rec.r.Rules.Readings.StartAtZero && !l.rec.r.Glass.Burette.Drawn(t.Start.Value).IsZero() {
			l.add(startNotZero.Finding(finding.Check, t.Start.Entry, finding.Text(t.Start.Text)))
		}
		// Filling brings the level up the tube, so the new start is less than
		// the last end. Liquid that was run off makes it more.
		if l.lastEnd != nil && l.drawn(t.Start).Cmp(l.drawn(l.lastEnd)) > 0 {
			l.add(startDiffers.Finding(finding.Note, t.Start.Entry, finding.Text(t.Start.Text), finding.Text(l.lastEnd.Text)))
		}
		if n := len(t.Struck.Start); n > 0 && t.Struck.Start[n-1].Reason == "" {
			l.add(takenAgain.Finding(finding.Note, t.Start.Entry, finding.Text(t.Struck.Start[n-1].Text),
				finding.Text(t.Start.Text)))
		}
	}
	if t.End != nil {
		l.lastEnd = t.End
	}
}

// scale compares a reading with the scale it was read from.
func (l *looking) scale(r *journal.Reading) {
	if r == nil {
		return
	}
	step, text := stepOf(l.rec.r), finding.Text(r.Text)
	switch beside(l.rec.r, r.Value) {
	case before:
		l.add(belowScale.Finding(finding.Warning, r.Entry, text))
	case past:
		l.add(beyondScale.Finding(finding.Warning, r.Entry, text, mL(l.rec.r.Glass.Burette.Capacity)))
	case coarse:
		l.add(fewDecimals.Finding(finding.Check, r.Entry, text, finding.Exact(r.Value.Round(step.Places()), ""), mL(step)))
	case finer:
		l.add(offResolution.Finding(finding.Check, r.Entry, text, mL(step)))
	}
}

// besides is how a reading stands to the scale that it was read from.
type besides int

const (
	onScale besides = iota
	before          // the first mark
	past            // the last mark
	coarse          // with fewer decimals than are read
	finer           // than is read
)

func stepOf(r *practical.Ready) decimal.Decimal {
	return r.Glass.Burette.Step(r.Rules.Readings.Resolution)
}

func beside(r *practical.Ready, v decimal.Decimal) besides {
	b, step := r.Glass.Burette, stepOf(r)
	switch {
	case v.Cmp(b.First) < 0:
		return before
	case v.Cmp(b.Capacity) > 0:
		return past
	case v.Places() < step.Places():
		return coarse
	case !v.MultipleOf(step):
		return finer
	}
	return onScale
}

func (l *looking) titre(t *evaluation.Trial) {
	switch t.EndColour {
	case journal.Deep:
		l.add(overshot.Finding(finding.Check, t.ID))
	case journal.Fading:
		l.add(fading.Finding(finding.Check, t.ID))
	}
	switch {
	case !t.Type.Judged():
		return
	case t.Titre.Sign() < 0:
		code := endBeforeStart
		if l.rec.r.Glass.Burette.Rising {
			code = endAboveStart
		}
		l.add(code.Finding(finding.Warning, t.ID, finding.Text(t.Start.Text), finding.Text(t.End.Text)))
		return
	case t.Titre.IsZero():
		l.add(nothingRan.Finding(finding.Warning, t.ID, finding.Text(t.End.Text)))
		return
	}
	if t.Titre.Cmp(l.norms.Value(practical.SmallTitre)) < 0 && t.SetAside == nil {
		step := l.rec.r.Glass.Burette.Step(l.rec.r.Rules.Readings.Resolution)
		percent, _ := step.Mul(cent).Div(*t.Titre)
		l.add(smallTitre.Finding(finding.Check, t.ID, mL(*t.Titre), mL(step),
			finding.Exact(percent.RoundFigures(2), quantity.Percent)))
	}
	if t.FirstTitre != nil && t.FirstTitre.Cmp(*t.Titre) > 0 {
		l.add(firstLater.Finding(finding.Warning, t.ID, finding.Text(t.FirstEnd.Text), finding.Text(t.End.Text)))
	}
	if t.Type == journal.Rough {
		if l.rough == nil && t.SetAside == nil {
			l.rough = t
		}
		return
	}
	l.beyondRough(t)
}

// beyondRough compares a titre with what the rough trial, run forwards through
// this trial's own sample, says.
func (l *looking) beyondRough(t *evaluation.Trial) {
	if l.rough == nil || t.SetAside != nil || !l.rough.Usable(journal.Rough) {
		return
	}
	v, problem := l.rec.assay.Carry(l.rough.Measured, t.Measured)
	expected, ok := decimal.FromFloat(v)
	if problem != nil || !ok {
		return
	}
	expected = expected.Round(2)
	if over := t.Titre.Sub(expected); over.Cmp(l.norms.Value(practical.PastRough)) > 0 {
		l.add(beyondRough.Finding(finding.Check, t.ID, mL(*t.Titre), mL(expected), mL(over)))
	}
}

// practical says what is to be said of the whole.
func (l *looking) practical(j judged, groups []group) {
	r := l.rec.r
	for _, s := range r.Steps {
		if s.By == practical.ByCylinder && s.Kind != practical.MakeUp {
			l.add(cylinderUsed.Finding(finding.Warning, ""))
			break
		}
	}
	if i := r.Excess(); i >= 0 && makesGas(r.Steps[i].Reaction.Equation) {
		l.add(gasSeen.Finding(finding.Note, ""))
	}
	all := []judged{j}
	if groups != nil { // samples differ: each drifts by itself
		all = nil
		for _, g := range groups {
			all = append(all, g.j)
		}
	}
	for _, j := range all {
		if d, ok := drift(j, l.norms.Count(practical.DriftTrials)); ok {
			l.add(driftSeen.Finding(finding.Check, "", finding.Exact(d[0], j.agreement.Unit),
				finding.Exact(d[1], j.agreement.Unit)))
		}
	}
	rule := r.Rules.Agreement
	if rule.Kind == practical.Relative || rule.Need == 1 {
		return
	}
	if e := l.steer.coming; l.steer.known {
		if f, loose := Loose(l.norms, rule.Tolerance, e.low); loose {
			l.add(f)
		}
	}
}

// Loose is the finding that a tolerance is too large a part of a titre.
func Loose(norms practical.Norms, tolerance, titre decimal.Decimal) (finding.Finding, bool) {
	if titre.Sign() <= 0 || tolerance.Mul(cent).Cmp(titre.Mul(norms.Value(practical.LooseTolerance))) <= 0 {
		return finding.Finding{}, false
	}
	percent, _ := tolerance.Mul(cent).Div(titre)
	return looseTolerance.Finding(finding.Warning, "", mL(tolerance), mL(titre),
		finding.Exact(percent.RoundFigures(2), quantity.Percent), norms.Said(practical.LooseTolerance)), true
}

// makesGas tells whether a reaction sets carbon dioxide free.
func makesGas(eq chem.Equation) bool {
	for _, p := range eq.Products {
		if p.Formula.Same(carbonDioxide) {
			return true
		}
	}
	return false
}

var carbonDioxide = chem.MustFormula("CO2")

// drift looks for accurate trials that all go one way, so many or more, by more
// than agreement allows: a sign of a fault that grows, such as a leak, a
// warming flask or a burette that was not rinsed. What the rule compares is
// looked at: the titres, or the answers where samples differ.
func drift(j judged, least int) ([2]decimal.Decimal, bool) {
	v := j.compared
	if len(v) < least || j.agreement.Allowed == nil {
		return [2]decimal.Decimal{}, false
	}
	way := v[1].Cmp(v[0])
	for i := 2; i < len(v); i++ {
		if v[i].Cmp(v[i-1]) != way {
			return [2]decimal.Decimal{}, false
		}
	}
	size := v[len(v)-1].Sub(v[0])
	if way < 0 {
		size = v[0].Sub(v[len(v)-1])
	}
	return [2]decimal.Decimal{v[0], v[len(v)-1]}, way != 0 && size.Cmp(*j.agreement.Allowed) > 0
}

// agreementFindings speaks of the set as a whole.
func agreementFindings(rec recorded, j judged) []finding.Finding {
	rule := rec.r.Rules.Agreement
	if spread := j.agreement.Spread; rule.Need == 1 && spread != nil && j.agreement.Allowed != nil && spread.Cmp(*j.agreement.Allowed) > 0 {
		apart, allowed := *spread, *j.agreement.Allowed
		if rule.Kind == practical.Relative { // of computed answers no more figures than are worth reading
			apart, allowed = apart.RoundFigures(2), allowed.RoundFigures(2)
		}
		return []finding.Finding{allApart.Finding(finding.Check, "", finding.Exact(apart, j.agreement.Unit), finding.Exact(allowed, j.agreement.Unit))}
	}
	if len(j.verdict.Rivals) == 0 {
		return nil
	}
	if rule.Kind == practical.Relative {
		return []finding.Finding{tiedSame.Finding(finding.Check, "", finding.Exact(rule.Percent, quantity.Percent))}
	}
	return []finding.Finding{tiedSets.Finding(finding.Check, "", mL(rule.Tolerance))}
}

// indicatorFindings says on the bench that the practical's indicator does not
// show the equivalence. It gives no figures, which would tell the expected titre.
func indicatorFindings(rec recorded, j judged) []finding.Finding {
	end := curve.Of(rec.r).Chosen
	if at, found := j.outline(rec.r); end == nil && found { // nothing was expected: what was found tells
		if now, ok := at.Ended(); ok {
			end = &now
		}
	}
	if end == nil || end.End.Verdict != equilibrium.Unsuitable || end.Boiled != nil && end.Boiled.Verdict == equilibrium.Suits {
		return nil
	}
	return []finding.Finding{wrongIndicator[end.End.Reason].Finding(finding.Warning, "", curve.IndicatorName(end.ID))}
}

// outline is the practical with the titre that was found: the mean of those that count, else of
// what is worked with.
func (j judged) outline(r *practical.Ready) (curve.Outline, bool) {
	trials := j.worked()
	if len(trials) == 0 || r.Chemistry.EndPoints != practical.OneEndPoint || r.Each() || r.Probed() {
		return curve.Outline{}, false
	}
	sum := 0.0
	for _, t := range trials {
		sum += t.Titre.Float64()
	}
	o := curve.AtTitre(r, sum/float64(len(trials)))
	return o, o.Titre.Last > 0
}

// protonFindings say that the indicator stops where another number of protons has reacted than
// the equation counts, and what the answer would be with that.
func protonFindings(rec recorded, j judged, r *evaluation.Result) []finding.Finding {
	o, found := j.outline(rec.r)
	if !found {
		return nil
	}
	counted, fitting, other := o.Protons()
	ratio, ok := r.Derivation.Find(derivation.MoleRatio)
	if !other || !ok {
		return nil
	}
	by := float64(counted) / float64(fitting)
	if rec.r.UnknownInBurette {
		by = 1 / by
	}
	answer := r.Answer
	answer.Value = r.Derivation.Recompute(map[int]float64{ratio: r.Derivation.Nodes[ratio].Quantity.Value * by}, len(r.Derivation.Nodes)-1)
	return []finding.Finding{otherProtons.Finding(finding.Warning, "", curve.IndicatorName(rec.r.Chemistry.Indicator), finding.Formula(rec.r.Titrated.Plain()),
		finding.Count(counted), finding.Count(fitting), finding.Quantity(r.Answer), finding.Quantity(answer))}
}
