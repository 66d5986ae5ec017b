package experiment

import (
	"exactflask/core/agreement"
	"exactflask/core/chem"
	"exactflask/core/decimal"
	"exactflask/core/finding"
	"exactflask/core/glass"
	"exactflask/core/journal"
	"exactflask/core/stoich"
)

// readingFindings looks at every reading and titre. Nothing is refused here.
func (s setup) readingFindings(trials []Trial, steer decimal.Decimal, steered bool) []finding.Finding {
	var out []finding.Finding
	add := func(code string, severity finding.Severity, subject string, pairs ...string) {
		out = append(out, finding.New(code, severity, subject, pairs...))
	}
	var rough *Trial
	var lastEnd *Reading
	for i := range trials {
		t := &trials[i]
		if t.Withdrawn {
			continue
		}
		readings := []*Reading{t.Start, t.FirstEnd, t.End}
		for _, r := range t.Refills {
			readings = append(readings, r.Before, r.After)
		}
		for _, r := range readings {
			if r != nil {
				s.scaleFindings(r, add)
			}
		}
		if t.Start != nil {
			if s.Readings.StartAtZero && !t.Start.Value.IsZero() {
				add("reading.start-not-zero", finding.Check, t.Start.Entry, "reading", t.Start.Text)
			}
			// Filling brings the level up the tube, so the new start is less
			// than the last end. Liquid that was run off makes it more.
			if lastEnd != nil && t.Start.Value.Cmp(lastEnd.Value) > 0 {
				add("reading.start-differs", finding.Note, t.Start.Entry, "reading", t.Start.Text, "last", lastEnd.Text)
			}
		}
		if len(t.Struck.Start) > 0 && t.Start != nil && t.Struck.Start[len(t.Struck.Start)-1].Reason == "" {
			add("reading.taken-again", finding.Note, t.Start.Entry, "before", t.Struck.Start[len(t.Struck.Start)-1].Text, "now", t.Start.Text)
		}
		if t.End != nil {
			lastEnd = t.End
		}
		if t.Titre == nil {
			continue
		}
		switch t.EndColour {
		case "deep":
			add("titre.overshot", finding.Check, t.ID)
		case "fading":
			add("titre.fading", finding.Check, t.ID)
		}
		switch {
		case t.Type == journal.Practice || t.Type == journal.Blank:
			continue
		case t.Titre.Sign() < 0:
			add("titre.end-before-start", finding.Warning, t.ID, "start", t.Start.Text, "end", t.End.Text)
			continue
		case t.Titre.IsZero():
			add("titre.nothing-ran", finding.Warning, t.ID, "reading", t.End.Text)
			continue
		}
		if t.Titre.Cmp(decimal.Must("5")) < 0 && t.SetAside == nil {
			step := s.Burette.Step(s.Readings.Resolution)
			percent, _ := step.Mul(decimal.Whole(100)).Div(*t.Titre)
			add("titre.small", finding.Check, t.ID, "titre", t.Titre.String(), "step", step.String(), "percent", percent.RoundFigures(2).String())
		}
		if t.FirstTitre != nil && t.FirstTitre.Cmp(*t.Titre) > 0 {
			add("titre.first-after-second", finding.Warning, t.ID, "first", t.FirstEnd.Text, "end", t.End.Text)
		}
		if t.Type == journal.Rough {
			if rough == nil && t.SetAside == nil {
				rough = t
			}
			continue
		}
		if rough != nil && t.SetAside == nil {
			if over := t.Titre.Sub(*rough.Titre); over.Cmp(decimal.Must("1")) > 0 {
				add("titre.beyond-rough", finding.Check, t.ID, "titre", t.Titre.String(), "rough", rough.Titre.String(), "over", over.String())
			}
		}
	}
	for i, r := range s.Route {
		if r.By == glass.Cylinder && r.Kind != stoich.MakeUp || s.Aliquot.Kind == glass.Cylinder && i == 0 {
			add("glass.cylinder", finding.Warning, "")
			break
		}
	}
	if len(s.Route) == 0 && s.Aliquot.Kind == glass.Cylinder {
		add("glass.cylinder", finding.Warning, "")
	}
	for _, step := range s.route {
		if step.Kind == stoich.Excess && makesGas(step.Reaction.Equation) {
			add("back.carbon-dioxide", finding.Note, "")
		}
	}
	if d, ok := drift(trials, s.Agreement.Tolerance); ok {
		add("titre.drift", finding.Check, "", "from", d[0].String(), "to", d[1].String())
	}
	if steered && s.Agreement.Kind != agreement.Relative && s.Agreement.Tolerance.Mul(decimal.Must("100")).Cmp(steer) > 0 {
		percent, _ := s.Agreement.Tolerance.Mul(decimal.Must("100")).Div(steer)
		add("agreement.tolerance-loose", finding.Warning, "", "tolerance", s.Agreement.Tolerance.String(), "titre", steer.String(), "percent", percent.RoundFigures(2).String())
	}
	return out
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

// drift looks for accurate titres that all go one way, three or more, by more
// than the tolerance: a sign of a fault that grows, such as a leak, a warming
// flask or a burette that was not rinsed. It returns the first and the last.
func drift(trials []Trial, tolerance decimal.Decimal) ([2]decimal.Decimal, bool) {
	var titres []decimal.Decimal
	for _, t := range trials {
		if t.Type == journal.Accurate && !outside(t) && t.Sample == nil {
			titres = append(titres, *t.Titre)
		}
	}
	if len(titres) < 3 {
		return [2]decimal.Decimal{}, false
	}
	first, last := titres[0], titres[len(titres)-1]
	way := last.Cmp(first)
	for i := 1; i < len(titres); i++ {
		if titres[i].Cmp(titres[i-1]) != way {
			return [2]decimal.Decimal{}, false
		}
	}
	size := last.Sub(first)
	if way < 0 {
		size = first.Sub(last)
	}
	return [2]decimal.Decimal{first, last}, way != 0 && size.Cmp(tolerance) > 0
}

// scaleFindings compares a reading with the scale it was read from.
func (s setup) scaleFindings(r *Reading, add func(string, finding.Severity, string, ...string)) {
	step := s.Burette.Step(s.Readings.Resolution)
	switch {
	case r.Value.Sign() < 0:
		add("reading.below-scale", finding.Warning, r.Entry, "reading", r.Text)
	case r.Value.Cmp(s.Burette.Capacity) > 0:
		add("reading.beyond-scale", finding.Warning, r.Entry, "reading", r.Text, "capacity", s.Burette.Capacity.String())
	case r.Value.Places() < step.Places():
		add("reading.few-decimals", finding.Check, r.Entry, "reading", r.Text, "written", r.Value.Round(step.Places()).String(), "step", step.String())
	case !r.Value.MultipleOf(step):
		add("reading.off-resolution", finding.Check, r.Entry, "reading", r.Text, "step", step.String())
	}
}

// agreementFindings speaks of the set as a whole.
func (s setup) agreementFindings(ev Evaluation) []finding.Finding {
	if ev.Agreement.Status != "ambiguous" {
		return nil
	}
	return []finding.Finding{finding.New("agreement.ambiguous", finding.Check, "", "tolerance", s.Agreement.Tolerance.String())}
}
