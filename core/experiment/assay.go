package experiment

import (
	"fmt"

	"exactflask/core/chem"
	"exactflask/core/decimal"
	"exactflask/core/finding"
	"exactflask/core/glass"
	"exactflask/core/journal"
	"exactflask/core/stoich"
)

// balanced reads an equation and balances it where it is not.
func balanced(text string) (chem.Equation, error) {
	eq, err := chem.ParseEquation(text)
	if err != nil || eq.Balanced() {
		return eq, err
	}
	return eq.Balance()
}

// chain parses the reactions from the titrant to the analyte, and the route.
func (s *setup) chain() *finding.Fault {
	in := func(path string, f chem.Formula, eq chem.Equation) *finding.Fault {
		if _, ok := eq.Coefficient(f); !ok {
			return finding.Faultf(path, "%s does not stand in the equation %s", f, eq)
		}
		return nil
	}
	titrated, at := s.analyte, "analyte.formula"
	if s.Titrated != "" {
		var err error
		if titrated, err = chem.ParseFormula(s.Titrated); err != nil {
			return finding.Faultf("titrated", "%w", err)
		}
		at = "titrated"
	}
	if f := in("titrant.formula", s.titrant, s.equation); f != nil {
		return f
	}
	if f := in(at, titrated, s.equation); f != nil {
		return f
	}
	s.reactions = []stoich.Reaction{{Equation: s.equation, From: s.titrant, To: titrated}}
	from := titrated
	for i, v := range s.Via {
		path := fmt.Sprintf("via[%d].", i)
		eq, err := balanced(v.Equation)
		if err != nil {
			return finding.Faultf(path+"equation", "%w", err)
		}
		to, err := chem.ParseFormula(v.To)
		if err != nil {
			return finding.Faultf(path+"to", "%w", err)
		}
		if f := in(path+"equation", from, eq); f != nil {
			return f
		}
		if f := in(path+"to", to, eq); f != nil {
			return f
		}
		s.reactions = append(s.reactions, stoich.Reaction{Equation: eq, From: from, To: to})
		from = to
	}
	if f := s.checkRoute(from); f != nil {
		return f
	}
	end := s.reactions[len(s.reactions)-1].To
	for _, step := range s.route {
		if step.Kind == stoich.Excess {
			end = step.Reaction.To
		}
	}
	if !end.Same(s.analyte) {
		return finding.Faultf("analyte.formula", "the reactions lead from %s to %s and not to %s; give what lies between in via, or as a reagent in excess", s.titrant, end, s.analyte)
	}
	switch s.EndPoints {
	case stoich.OneEndPoint:
	case stoich.HydroxideCarbonate, stoich.CarbonateHydrogencarbonate:
		var err error
		if s.other, err = chem.ParseFormula(s.Other); err != nil {
			return finding.Faultf("other", "%w", err)
		}
	default:
		return finding.Faultf("endPoints", "the mixture is hydroxide-carbonate or carbonate-hydrogencarbonate; this says %q", s.EndPoints)
	}
	return nil
}

// checkRoute parses the route; reagent is what the titrant leads to.
func (s *setup) checkRoute(reagent chem.Formula) *finding.Fault {
	for i, r := range s.Route {
		path := fmt.Sprintf("route[%d]", i)
		step := stoich.Step{Kind: r.Kind, Volume: r.Volume, Mass: r.Mass, EachTrial: r.EachTrial, Count: r.Count, Concentration: r.Concentration, ByBlank: r.ByBlank, Source: r.source()}
		switch r.Kind {
		case stoich.Weigh, stoich.Tablets, stoich.Pipette, stoich.MakeUp, stoich.Portion:
		case stoich.Excess:
			if s.UnknownInBurette() {
				return finding.Faultf(path, "with the unknown in the burette no reagent is added in excess")
			}
			eq, err := balanced(r.Equation)
			if err != nil {
				return finding.Faultf(path+".equation", "%w", err)
			}
			f, err := chem.ParseFormula(r.Formula)
			if err != nil {
				return finding.Faultf(path+".formula", "%w", err)
			}
			if !f.Same(reagent) {
				return finding.Faultf(path+".formula", "the titrant leads to %s, and this is %s: the reagent in excess is what is titrated", reagent, f)
			}
			if _, ok := eq.Coefficient(s.analyte); !ok {
				return finding.Faultf(path+".equation", "%s does not stand in the equation %s", s.analyte, eq)
			}
			if _, ok := eq.Coefficient(f); !ok {
				return finding.Faultf(path+".equation", "%s does not stand in the equation %s", f, eq)
			}
			if !r.ByBlank && r.Concentration.Sign() <= 0 {
				return finding.Faultf(path+".concentration", "the reagent in excess needs a concentration of more than 0 mol/L")
			}
			step.Reaction = stoich.Reaction{Equation: eq, From: f, To: s.analyte}
		default:
			return finding.Faultf(path+".kind", "no step is of kind %q; use weigh, tablets, pipette, make-up, aliquot or excess", r.Kind)
		}
		if r.Volume.Sign() < 0 || r.Volume.Cmp(decimal.Whole(100_000)) > 0 || r.Mass.Sign() < 0 || r.Mass.Cmp(decimal.Whole(10_000)) > 0 || r.Count < 0 || r.Count > 1000 {
			return finding.Faultf(path, "volumes lie between 0 and 100 000 mL, masses between 0 and 10 000 g, tablets up to 1000")
		}
		s.route = append(s.route, step)
	}
	if !s.Aliquot.Volume.IsZero() {
		source := string(s.Aliquot.Kind)
		if source == "" {
			source = string(glass.OneMark)
		}
		s.route = append(s.route, stoich.Step{Kind: stoich.Portion, Volume: s.Aliquot.Volume, Source: source + "-" + s.Aliquot.Volume.String() + "-" + string(s.Aliquot.Class)})
	}
	if s.SampleBy == ByBurette && len(s.Route) == 0 {
		s.route = nil // each trial has its own volume
	}
	return s.tryRoute()
}

// tryRoute works a made-up titre through the route, so that one that cannot be
// is found when the practical is written and not at the bench.
func (s *setup) tryRoute() *finding.Fault {
	for i, step := range s.route {
		path := fmt.Sprintf("route[%d]", i)
		if i == len(s.Route) {
			path = "aliquot"
		}
		switch {
		case step.Kind == stoich.Portion && i > 0 && s.route[i-1].Kind != stoich.MakeUp:
			return finding.Faultf(path, "an aliquot is taken of what was made up to a mark; put a make-up before it")
		case step.Kind == stoich.Portion && i > 0 && step.Volume.Cmp(s.route[i-1].Volume) > 0:
			return finding.Faultf(path, "an aliquot of %s mL cannot be taken from %s mL", step.Volume, s.route[i-1].Volume)
		case (step.Kind == stoich.Weigh || step.Kind == stoich.Tablets || step.Kind == stoich.Pipette) && i != 0:
			return finding.Faultf(path, "the sample is measured first, at the head of the route")
		case step.Kind == stoich.MakeUp && i == 0:
			return finding.Faultf(path, "what is made up has to be measured first")
		case step.Kind == stoich.Tablets && step.Count < 1:
			return finding.Faultf(path+".count", "say how many tablets are taken")
		case (step.Kind == stoich.Pipette || step.Kind == stoich.MakeUp || step.Kind == stoich.Portion || step.Kind == stoich.Excess && !step.ByBlank) && step.Volume.Sign() <= 0:
			return finding.Faultf(path+".volume", "the volume must be more than 0 mL")
		}
	}
	return nil
}

// source names what measured a volume: two steps with one glass share its error.
func (r RouteStep) source() string {
	by := r.By
	if by == "" {
		by = map[stoich.StepKind]glass.Kind{stoich.MakeUp: glass.Flask}[r.Kind]
	}
	if by == "" {
		by = glass.OneMark
	}
	class := r.Class
	if class == "" {
		class = glass.ClassB
	}
	return string(by) + "-" + r.Volume.String() + "-" + string(class)
}

// checkAsk finds an answer that cannot be asked for, and a label in a unit
// that says something else.
func (s *setup) checkAsk() *finding.Fault {
	units := s.Ask.What.Units()
	if len(units) == 0 {
		return finding.Faultf("ask.what", "nothing is known about the answer %q", s.Ask.What)
	}
	unit := s.Ask.Unit
	if unit == "" {
		unit = units[0]
	}
	known := false
	for _, u := range units {
		known = known || u == unit
	}
	if !known {
		return finding.Faultf("ask.unit", "this answer is not given in %q; use one of %v", unit, units)
	}
	if s.Ask.As != "" {
		var err error
		if s.as, err = chem.ParseFormula(s.Ask.As); err != nil {
			return finding.Faultf("ask.as", "%w", err)
		}
	}
	if !s.Label.Value.IsZero() {
		u := s.Label.Unit
		switch {
		case u == "%" && unit != "%":
			return finding.Faultf("label.unit", "say which per cent the label means: %% w/v (g in 100 mL) or %% w/w (g in 100 g)")
		case !u.SameDimension(unit):
			return finding.Faultf("label.unit", "the label is in %q, the answer in %q: they cannot be compared", u, unit)
		}
	}
	return nil
}

// massEach tells whether every trial has its own weighing.
func (p Practical) massEach() bool { return len(p.Route) > 0 && p.Route[0].EachTrial }

func (s setup) hasExcess() bool {
	for _, step := range s.route {
		if step.Kind == stoich.Excess {
			return true
		}
	}
	return false
}

// assay puts the trials that are averaged into the route.
func (s setup) assay(ev Evaluation, averaged func(Trial) bool) stoich.Assay {
	in := stoich.Assay{Reactions: s.reactions, Titrant: s.titrant, Analyte: s.analyte, UnknownInBurette: s.UnknownInBurette(), Known: s.known(), Purity: s.Analyte.Purity,
		Route: s.route, RoundMean: s.Result.RoundMean, EndPoints: s.EndPoints, Other: s.other,
		Ask: stoich.Ask{What: s.Ask.What, Unit: s.Ask.Unit, As: s.as, Density: s.Ask.Density, Nominal: s.Ask.Nominal}}
	if w := ev.weighed; w != nil && len(in.Route) > 0 && !in.Route[0].EachTrial && (in.Route[0].Kind == stoich.Weigh || in.Route[0].Kind == stoich.Tablets) {
		in.Route = append([]stoich.Step(nil), in.Route...)
		in.Route[0].Weighed = weighedReadings(*w)
	}
	for _, t := range ev.Trials {
		switch {
		case averaged(t):
			in.Titres = append(in.Titres, t.stoich())
		case t.Reason == OutBlank && t.Titre.Sign() > 0:
			in.Blanks = append(in.Blanks, t.stoich())
		}
	}
	return in
}

// known is the concentration that is known: the one found by standardising
// where it was written down, else the practical's.
func (s setup) known() decimal.Decimal {
	if s.UnknownInBurette() {
		return s.Analyte.Concentration
	}
	return s.Titrant.Concentration
}

func weighedReadings(b journal.Bench) *[2]stoich.Reading {
	w := b.Entry.Weighing
	full, _ := journal.ParseReading(w.Full)
	emptied, _ := journal.ParseReading(w.Emptied)
	return &[2]stoich.Reading{{Entry: b.Entry.ID, Value: full, Text: w.Full}, {Entry: b.Entry.ID, Value: emptied, Text: w.Emptied}}
}

// stoich hands a complete trial on.
func (t Trial) stoich() stoich.Titre {
	out := stoich.Titre{Trial: t.ID, Start: stoichReading(t.Start), End: stoichReading(t.End)}
	for _, r := range t.Refills {
		out.Refills = append(out.Refills, [2]stoich.Reading{stoichReading(r.Before), stoichReading(r.After)})
	}
	if t.FirstEnd != nil {
		r := stoichReading(t.FirstEnd)
		out.Middle = &r
	}
	if t.Sample != nil {
		out.Sample = &[2]stoich.Reading{stoichReading(t.SampleStart), stoichReading(t.SampleEnd)}
	}
	if t.weighed != nil {
		out.Mass = weighedReadings(*t.weighed)
	}
	return out
}

func stoichReading(r *Reading) stoich.Reading {
	return stoich.Reading{Entry: r.Entry, Value: r.Value, Text: r.Text}
}
