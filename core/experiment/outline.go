package experiment

import (
	"exactflask/core/chem"
	"exactflask/core/decimal"
	"exactflask/core/finding"
	"exactflask/core/journal"
)

// Outline is what a practical comes to before anything is measured.
type Outline struct {
	Equation         chem.Equation
	Titrant, Analyte chem.Formula // in the burette and, titrated, in the flask
	PerTitrant       float64      // amount of the titrated substance for one of titrant
	Titre            float64      // expected, mL; 0 where it is not known
	TitrantStrength  float64      // mol/L, known or approximate; 0 where neither
	AnalyteStrength  float64      // of what is pipetted, mol/L
	Flask            float64      // mL in the flask
}

// Outline returns it, or the fault of the practical.
func (p Practical) Outline() (Outline, *finding.Fault) {
	s, fault := p.prepare()
	if fault != nil {
		return Outline{}, fault
	}
	r := s.reactions[0]
	nuT, _ := r.Equation.Coefficient(r.From)
	nuA, _ := r.Equation.Coefficient(r.To)
	out := Outline{Equation: s.equation, Titrant: r.From, Analyte: r.To, PerTitrant: float64(nuA) / float64(nuT), Flask: s.Aliquot.Volume.Float64()}
	either := func(sol Solution) float64 {
		if !sol.Concentration.IsZero() {
			return sol.Concentration.Float64()
		}
		return sol.Approximate.Float64()
	}
	out.TitrantStrength, out.AnalyteStrength = either(s.Titrant), either(s.Analyte)
	if v, ok := s.expectedTitre(); ok {
		out.Titre = v.Float64()
	}
	if out.Flask == 0 {
		out.Flask = 25
	}
	if (out.AnalyteStrength == 0 || len(s.Via) > 0 || s.hasExcess()) && out.Titre > 0 {
		// What stands in the flask follows from the titre that is expected.
		out.AnalyteStrength = out.Titre * out.TitrantStrength * out.PerTitrant / out.Flask
	}
	return out, nil
}

// Predict works out the result of three titres as they are expected, so that
// its uncertainty can be seen beforehand; nil where nothing is expected.
func (p Practical) Predict() *Result {
	s, fault := p.prepare()
	if fault != nil {
		return nil
	}
	titre, ok := s.expectedTitre()
	if !ok || titre.Cmp(s.Burette.Capacity.Mul(decimal.Whole(4))) > 0 {
		return nil
	}
	step := s.Burette.Step(s.Readings.Resolution)
	titre = titre.Round(step.Places())
	if titre.Sign() <= 0 {
		return nil
	}
	s.SampleBy, s.EndPoints = "", ""
	for i := range s.Route {
		s.Route[i].EachTrial = false
	}
	for i := range s.route {
		s.route[i].EachTrial = false
	}
	s.Agreement.Kind = ""
	s.Agreement.Tolerance = decimal.Whole(1000)
	var entries []journal.Entry
	add := func(e journal.Entry) string {
		e.Clock = int64(len(entries) + 1)
		e.ID, e.Device = "predicted-"+decimal.Whole(e.Clock).String(), "plan"
		entries = append(entries, e)
		return e.ID
	}
	for i := range 3 { // they scatter by a step of the scale, as titres do
		end := titre
		if i == 1 {
			end = end.Add(step)
		}
		id := add(journal.Entry{Kind: journal.KindTrial, Trial: &journal.Opening{Type: journal.Accurate}})
		for mark, text := range map[journal.Mark]string{journal.Start: decimal.Whole(0).Round(step.Places()).String(), journal.End: end.String()} {
			add(journal.Entry{Kind: journal.KindReading, Reading: &journal.Scale{Trial: id, Mark: mark, Text: text}})
		}
	}
	ev := s.evaluate(journal.Fold(entries))
	return ev.Result
}
