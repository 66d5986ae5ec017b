package experiment

import (
	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/model/assay"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
)

// next stands for the id of the trial that is still to be opened.
const next = "next"

// steering is the third stage: what is known of the titre to expect. The
// answers of earlier trials, run forwards through the sample of the trial at
// hand, say it: the agreeing set, else the accurate trials that were not marked
// as overshot (a span where they differ), else the rough one, else an accurate
// one that was overshot, else what the practical expects. See
// docs/decisions/0005.
type steering struct {
	rec     recorded
	from    []*evaluation.Trial
	isRough bool
	mean    bool // of the agreeing set
	// coming is what the trial that is still to be opened will take, where known.
	coming expectation
	known  bool
}

func steer(rec recorded, j judged) steering {
	s := sources(rec, j)
	s.coming, s.known = s.expected(assay.Measured{Trial: next})
	return s
}

// sources finds the trials that say what to expect.
func sources(rec recorded, j judged) steering {
	s := steering{rec: rec}
	if j.verdict.Status == agreement.Agreed {
		s.from, s.mean = j.averaged(), true
		return s
	}
	var rough, deep *evaluation.Trial
	for i := range j.trials {
		switch t := &j.trials[i]; {
		case t.Usable(journal.Accurate) && t.EndColour == journal.Deep:
			deep = t
		case t.Usable(journal.Accurate):
			s.from = append(s.from, t)
		case t.Usable(journal.Rough) && rough == nil:
			rough = t
		}
	}
	switch {
	case len(s.from) > 0:
	case rough != nil:
		s.from, s.isRough = []*evaluation.Trial{rough}, true
	case deep != nil:
		s.from = []*evaluation.Trial{deep}
	}
	return s
}

// expectation is a titre to expect: a span, mL, and the volume from which to go
// drop by drop.
type expectation struct {
	low, high decimal.Decimal
	dropFrom  *decimal.Decimal // of a rough trial: what had run in without reaching the end
}

// expected is the titre to expect of a trial with this sample; false where
// nothing is known, or no titre gives what is expected.
func (s steering) expected(m assay.Measured) (expectation, bool) {
	low, high, sum, n := 0.0, 0.0, 0.0, 0
	for _, t := range s.from {
		v, problem := s.rec.assay.Carry(t.Measured, m)
		if problem != nil {
			continue
		}
		if n == 0 || v < low {
			low = v
		}
		if n == 0 || v > high {
			high = v
		}
		sum, n = sum+v, n+1
	}
	switch {
	case n > 0 && s.mean:
		low = sum / float64(n)
		high = low
	case n == 0 && s.rec.r.ByBlank() && len(s.rec.assay.Held().Blanks) == 0:
		return expectation{}, false // nobody knows how much reagent there is
	case n == 0:
		t, problem := s.rec.assay.Expected(m)
		if problem != nil {
			return expectation{}, false
		}
		low, high = t.Last, t.Last
	}
	e := expectation{}
	var okLow, okHigh bool
	e.low, okLow = decimal.FromFloat(low)
	e.high, okHigh = decimal.FromFloat(high)
	if !okLow || !okHigh || low <= 0 || high > 1e6 {
		return expectation{}, false
	}
	e.low, e.high = e.low.Round(2), e.high.Round(2)
	if s.isRough && !s.rec.r.Each() {
		e.dropFrom = lastNoted(s.rec.r.Glass.Burette.Rising, s.from[0])
	}
	return e, true
}

// lastNoted is the volume at the last reading that was noted before the end of
// a trial: the end had not been reached there.
func lastNoted(rising bool, t *evaluation.Trial) *decimal.Decimal {
	if len(t.Refills) > 0 {
		return nil // which filling it belongs to is not told
	}
	var last *decimal.Decimal
	for _, p := range t.Provisional {
		v, _ := t.Delivery(rising).Ran(p.Value, 0)
		if v.Sign() > 0 && v.Cmp(*t.Titre) < 0 && (last == nil || v.Cmp(*last) > 0) {
			last = &v
		}
	}
	return last
}

// slow returns the volumes at which free flow ends and drops begin.
func (s steering) slow(e expectation) (free, drops decimal.Decimal) {
	rule := s.rec.r.Rules.Readings
	before := rule.Dropwise
	if lead := s.rec.r.Norms().Value(practical.RoughLead); s.isRough && before.Cmp(lead) < 0 {
		before = lead
	}
	drops = e.low.Sub(before)
	if e.dropFrom != nil && e.dropFrom.Cmp(drops) > 0 { // the end was not reached there
		drops = *e.dropFrom
	}
	wide := rule.FreeFlow.Sub(rule.Dropwise)
	if wide.Sign() < 0 {
		wide = decimal.Decimal{}
	}
	return drops.Sub(wide), drops
}

// supply reckons what is left of the solutions and how many trials of the
// expected titre they allow.
func supply(rec recorded, j judged, expected *evaluation.Span) *evaluation.SupplyLeft {
	given := rec.r.Glass.Supply
	if rec.c.Prepared != nil { // of one's own solution its bottle tells what is left
		if rec.r.UnknownInBurette && rec.r.Chemistry.Standard != "" {
			given.Analyte = decimal.Decimal{}
		} else {
			given.Titrant = decimal.Decimal{}
		}
	}
	if given.Titrant.IsZero() && given.Analyte.IsZero() || rec.r.MadeOnly() {
		return nil
	}
	left := &evaluation.SupplyLeft{Trials: -1}
	titrant, analyte := given.Titrant, given.Analyte
	for i := range j.trials {
		t := &j.trials[i]
		if t.Withdrawn || t.Start == nil {
			continue
		}
		if t.Titre != nil && t.Titre.Sign() > 0 {
			titrant = titrant.Sub(*t.Titre)
		}
		if v, ok := rec.assay.Sample(t.Measured); ok && takesSample(rec.r, t) {
			analyte = analyte.Sub(v)
		}
	}
	allows := func(have, each decimal.Decimal) {
		if n, ok := have.Div(each); ok {
			if trials := max(0, int(n.Float64()+1e-9)); left.Trials < 0 || trials < left.Trials {
				left.Trials = trials
			}
		}
	}
	if !given.Titrant.IsZero() {
		left.Titrant = &titrant
		if expected != nil {
			allows(titrant, expected.High)
		}
	}
	if !given.Analyte.IsZero() {
		left.Analyte = &analyte
		if v, ok := rec.assay.Sample(assay.Measured{}); ok {
			allows(analyte, v)
		}
	}
	if left.Trials < 0 {
		return nil
	}
	return left
}

// takesSample tells whether a trial took sample from the bottle. A blank takes
// none; a sample by burette counts once it was read.
func takesSample(r *practical.Ready, t *evaluation.Trial) bool {
	return t.Type != journal.Blank && (!r.SampleBurette() || t.Sample != nil)
}
