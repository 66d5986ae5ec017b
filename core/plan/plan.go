// Package plan looks at a practical before it is done: the expected titre on
// its burette, the predicted curve, which indicators serve, how sure the
// result can be, and what would make it better.
package plan

import (
	"math"
	"slices"
	"strconv"

	"exactflask/core/catalog"
	"exactflask/core/chem"
	"exactflask/core/decimal"
	"exactflask/core/equilibrium"
	"exactflask/core/experiment"
	"exactflask/core/finding"
	"exactflask/core/quantity"
)

// Range says how an expected titre lies on the burette.
type Range string

// The ranges: under 10 mL a titre is too small, beyond one fill too large; 40
// to 90 % of the burette is best. Source: common practice, no source.
const (
	RangeUnknown Range = "unknown"
	RangeSmall   Range = "small"
	RangeLow     Range = "low" // usable, below the best part
	RangeBest    Range = "best"
	RangeHigh    Range = "high" // usable, above the best part
	RangeLarge   Range = "large"
)

// Assessment is everything that is said about a plan.
type Assessment struct {
	Equation    string            `json:"equation"`
	Ratio       string            `json:"ratio" doc:"titrant to what it titrates"`
	Titre       float64           `json:"titre" doc:"expected, mL; 0 where it is not known"`
	Range       Range             `json:"range" enum:"unknown,small,low,best,high,large"`
	Fill        float64           `json:"fill" doc:"part of the burette that it takes, %"`
	Uncertainty float64           `json:"uncertainty" doc:"predicted relative standard uncertainty, %; 0 where it is not known"`
	Curve       *Curve            `json:"curve,omitempty"`
	Indicators  []Judged          `json:"indicators" doc:"the best first"`
	Chosen      *Judged           `json:"chosen,omitempty" doc:"the indicator of the practical"`
	Meter       bool              `json:"meter" doc:"no indicator serves: use a pH meter"`
	Proposals   []Proposal        `json:"proposals"`
	Findings    []finding.Finding `json:"findings"`
}

// Curve is the predicted titration curve.
type Curve struct {
	Kind        string              `json:"kind" enum:"pH,V"`
	Points      []equilibrium.Point `json:"points"`
	Equivalence []equilibrium.Point `json:"equivalence" doc:"the one of the equation first"`
	Half        []equilibrium.Point `json:"half" doc:"half-equivalence points, where pH is near pKa"`
	Before      equilibrium.Point   `json:"before" doc:"one drop before the equivalence"`
	After       equilibrium.Point   `json:"after" doc:"one drop after it"`
}

// Judged is an indicator with its verdict.
type Judged struct {
	ID       string               `json:"id"`
	Name     string               `json:"name"`
	Low      float64              `json:"low" doc:"pH, or V, at which the change begins"`
	High     float64              `json:"high"`
	Stop     float64              `json:"stop" doc:"where the eye stops"`
	Before   string               `json:"before" doc:"colour"`
	At       string               `json:"at"`
	After    string               `json:"after"`
	When     string               `json:"when,omitempty"`
	End      equilibrium.EndPoint `json:"end"`
	Answer   float64              `json:"answer" doc:"what it does to the answer, %"`
	Selfmade bool                 `json:"self,omitempty" doc:"the titrant or starch shows the end; nothing is computed"`
}

// Proposal is one change that brings the titre into range.
type Proposal struct {
	What  string  `json:"what" enum:"aliquot,titrant,dilution"`
	Value string  `json:"value" doc:"mL of the aliquot, mol/L of the titrant, or how many times the sample is diluted"`
	Titre float64 `json:"titre" doc:"that follows, mL"`
	// Practical is the plan with the change made.
	Practical experiment.Practical `json:"practical"`
}

// Assess looks at a practical. Source of the advice: common practice, no
// source, where nothing else is said.
func Assess(p experiment.Practical) (Assessment, *finding.Fault) {
	o, fault := p.Outline()
	if fault != nil {
		return Assessment{}, fault
	}
	capacity := p.Burette.Capacity.Float64()
	a := Assessment{Equation: o.Equation.String(), Ratio: ratio(1, o.PerTitrant), Titre: o.Titre, Range: RangeUnknown, Indicators: []Judged{}, Proposals: []Proposal{}, Findings: []finding.Finding{}}
	if a.Titre > 0 {
		a.Fill = 100 * a.Titre / capacity
		switch {
		case a.Titre < 10:
			a.Range = RangeSmall
		case a.Titre > capacity:
			a.Range = RangeLarge
		case a.Fill < 40:
			a.Range = RangeLow
		case a.Fill > 90:
			a.Range = RangeHigh
		default:
			a.Range = RangeBest
		}
		a.propose(p, o, capacity)
	}
	if r := p.Predict(); r != nil && r.Budget != nil {
		a.Uncertainty = r.Budget.Relative
	}
	if !a.acidBase(p, o) {
		a.redox(p, o)
	}
	a.remarks(p, o)
	return a, nil
}

// ratio writes a mole ratio in small whole numbers.
func ratio(a, b float64) string {
	for n := 1; n <= 20; n++ {
		if x := b * float64(n); math.Abs(x-math.Round(x)) < 1e-6 {
			return strconv.Itoa(int(a)*n) + " : " + strconv.Itoa(int(math.Round(x)))
		}
	}
	return quantity.Show(a/b, 3)
}

func substance(s *catalog.InWater) equilibrium.Substance {
	out := equilibrium.Substance{Strong: float64(s.Strong), Top: float64(s.Top), Units: float64(s.Units)}
	for _, k := range s.PKa {
		out.PKa = append(out.PKa, k.Float64())
	}
	return out
}

// InWater finds how a substance takes part in acid-base equilibria.
func InWater(f chem.Formula) (equilibrium.Substance, bool) {
	s, ok := catalog.BuiltIn().Substance(f)
	if !ok || s.InWater == nil {
		return equilibrium.Substance{}, false
	}
	return substance(s.InWater), true
}

const points = 240

// acidBase fills in curve and indicators of an acid-base titration; false
// where it is none.
func (a *Assessment) acidBase(p experiment.Practical, o experiment.Outline) bool {
	titrant, okT := InWater(o.Titrant)
	sample, okA := InWater(o.Analyte)
	if !okT || !okA || o.TitrantStrength <= 0 || o.AnalyteStrength <= 0 {
		return false
	}
	t := equilibrium.Titration{Sample: equilibrium.Mixture{{Substance: sample, Concentration: o.AnalyteStrength}}, Volume: o.Flask,
		Titrant: equilibrium.Mixture{{Substance: titrant, Concentration: o.TitrantStrength}}}
	acid := equilibrium.Mixture{{Substance: titrant, Concentration: o.TitrantStrength}}.PH() < 7
	eqv := o.AnalyteStrength * o.Flask / o.PerTitrant / o.TitrantStrength
	if !(eqv > 0) || eqv > 1e6 {
		return false
	}
	to := math.Max(2*eqv, eqv+5)
	c := &Curve{Kind: "pH", Points: t.Curve(to, points), Equivalence: []equilibrium.Point{{Volume: eqv, Value: t.PH(eqv)}}, Half: []equilibrium.Point{},
		Before: equilibrium.Point{Volume: eqv - 0.05, Value: t.PH(eqv - 0.05)}, After: equilibrium.Point{Volume: eqv + 0.05, Value: t.PH(eqv + 0.05)}}
	// A polyprotic sample has an equivalence for each proton, and half way to
	// each the pH is near a pKa.
	one := eqv
	if n := len(sample.PKa); n > 0 {
		// One equivalent of the titrant carries this many protons or places for
		// them, so that the first of them is at this volume.
		carried := math.Abs(titrant.Charge(7) - titrant.Charge(map[bool]float64{true: -3, false: 18}[acid]))
		if strong := math.Abs(titrant.Strong); strong > carried {
			carried = strong
		}
		if carried > 0 {
			one = o.AnalyteStrength * o.Flask * math.Max(sample.Units, 1) / o.TitrantStrength / carried
		}
		for k := 1; k <= n; k++ {
			v := one * float64(k)
			if v < to && math.Abs(v-eqv) > 0.01*eqv {
				c.Equivalence = append(c.Equivalence, equilibrium.Point{Volume: v, Value: t.PH(v)})
			}
			if h := one * (float64(k) - 0.5); h < to {
				c.Half = append(c.Half, equilibrium.Point{Volume: h, Value: t.PH(h)})
			}
		}
	}
	a.Curve = c
	for _, i := range catalog.BuiltIn().Indicators {
		if i.Kind != catalog.AcidBase {
			continue
		}
		j := Judged{ID: i.ID, Name: i.Name, Low: i.Low.Float64(), High: i.High.Float64(), Before: i.Acid, After: i.Alkaline, At: i.EndColour.AlkaliInBurette}
		j.Stop = (j.Low + j.High) / 2
		if i.Eye != nil {
			j.Stop = i.Eye.AlkaliInBurette.Float64()
		}
		if acid {
			j.Before, j.After, j.At = j.After, j.Before, i.EndColour.AcidInBurette
			if i.Eye != nil {
				j.Stop = i.Eye.AcidInBurette.Float64()
			}
		}
		j.End = equilibrium.Judge(t.VolumeAt, j.Stop, 0.5, eqv)
		j.Answer = j.End.Percent
		if p.UnknownInBurette() && j.End.Percent > -99 {
			j.Answer = 100 * (eqv/(eqv+j.End.Error) - 1)
		}
		a.Indicators = append(a.Indicators, j)
	}
	a.rank(p)
	return true
}

// redox fills in curve and indicators of a redox titration.
func (a *Assessment) redox(p experiment.Practical, o experiment.Outline) {
	titrant, oxidant, okT := catalog.BuiltIn().Couple(o.Titrant)
	sample, oxidised, okA := catalog.BuiltIn().Couple(o.Analyte)
	if !okT || !okA || oxidant == oxidised || o.TitrantStrength <= 0 || o.AnalyteStrength <= 0 {
		return
	}
	couple := func(c catalog.Couple) equilibrium.Couple {
		return equilibrium.Couple{Potential: c.Potential.Float64(), Electrons: float64(c.Electrons)}
	}
	t := equilibrium.RedoxTitration{Sample: couple(sample), Titrant: couple(titrant), Concentration: o.AnalyteStrength, Volume: o.Flask, TitrantStrength: o.TitrantStrength, Oxidant: oxidant}
	eqv := o.AnalyteStrength * o.Flask / o.PerTitrant / o.TitrantStrength
	if !(eqv > 0) || eqv > 1e6 {
		return
	}
	at := func(v float64) equilibrium.Point { return equilibrium.Point{Volume: v, Value: t.At(v)} }
	a.Curve = &Curve{Kind: "V", Points: t.Curve(2*eqv, points), Equivalence: []equilibrium.Point{at(eqv)}, Half: []equilibrium.Point{at(eqv / 2)}, Before: at(eqv - 0.05), After: at(eqv + 0.05)}
	for _, i := range catalog.BuiltIn().Indicators {
		switch i.Kind {
		case catalog.Redox:
			e := i.Potential.Float64()
			j := Judged{ID: i.ID, Name: i.Name, Low: e - 0.06, High: e + 0.06, Stop: e, Before: i.Acid, At: i.EndColour.AcidInBurette, After: i.Alkaline, When: i.When}
			if !oxidant {
				j.Before, j.After = j.After, j.Before
			}
			j.End = equilibrium.Judge(t.VolumeAt, e, 0.05, eqv)
			j.Answer = j.End.Percent
			a.Indicators = append(a.Indicators, j)
		case catalog.Self, catalog.Starch:
			serves := i.Kind == catalog.Self && slices.Contains(titrant.Oxidised, "MnO4^-") ||
				i.Kind == catalog.Starch && (slices.Contains(titrant.Oxidised, "I2") || slices.Contains(sample.Oxidised, "I2"))
			if !serves {
				continue
			}
			// The colour of the titrant, or of iodine with starch, shows the
			// first small excess: about a drop.
			a.Indicators = append(a.Indicators, Judged{ID: i.ID, Name: i.Name, Low: a.Curve.Before.Value, High: a.Curve.After.Value, Stop: a.Curve.After.Value, Before: i.Acid, At: i.EndColour.AcidInBurette, After: i.Alkaline, When: i.When, Selfmade: true,
				End: equilibrium.EndPoint{Volume: eqv, Verdict: equilibrium.Suits, Reason: "good"}})
		}
	}
	a.rank(p)
}

// rank puts the best indicators first and finds the chosen one.
func (a *Assessment) rank(p experiment.Practical) {
	order := map[equilibrium.Verdict]int{equilibrium.Suits: 0, equilibrium.Marginal: 1, equilibrium.Unsuitable: 2}
	slices.SortStableFunc(a.Indicators, func(x, y Judged) int {
		if d := order[x.End.Verdict] - order[y.End.Verdict]; d != 0 {
			return d
		}
		if x.Selfmade != y.Selfmade {
			if x.Selfmade {
				return -1
			}
			return 1
		}
		switch d := math.Abs(x.End.Error) - math.Abs(y.End.Error); {
		case d < 0:
			return -1
		case d > 0:
			return 1
		}
		return 0
	})
	a.Meter = len(a.Indicators) > 0 && a.Indicators[0].End.Verdict == equilibrium.Unsuitable
	for i := range a.Indicators {
		if a.Indicators[i].ID == p.Indicator {
			a.Chosen = &a.Indicators[i]
		}
	}
}

// propose finds what brings a titre into the best part of the burette.
func (a *Assessment) propose(p experiment.Practical, o experiment.Outline, capacity float64) {
	if a.Range == RangeBest {
		return
	}
	best := func(titre float64) bool { return titre >= 0.4*capacity && titre <= 0.9*capacity && titre >= 10 }
	closest := math.Inf(1)
	var aliquot *Proposal
	number := func(v float64, places int) decimal.Decimal {
		d, _ := decimal.FromFloat(v)
		return d.Round(places)
	}
	for _, v := range []float64{5, 10, 15, 20, 25, 50, 100} {
		titre := a.Titre * v / o.Flask
		if d := math.Abs(titre - 0.55*capacity); best(titre) && d < closest && v != o.Flask && p.Aliquot.Volume.Sign() > 0 {
			changed := p
			changed.Aliquot.Volume = number(v, 2)
			closest, aliquot = d, &Proposal{"aliquot", quantity.Show(v, 3), titre, changed}
		}
	}
	if aliquot != nil {
		a.Proposals = append(a.Proposals, *aliquot)
	}
	if o.TitrantStrength > 0 && !p.UnknownInBurette() {
		want := o.TitrantStrength * a.Titre / (0.55 * capacity)
		d, ok := decimal.FromFloat(want)
		if ok {
			c := d.RoundFigures(1).Float64()
			if titre := a.Titre * o.TitrantStrength / c; best(titre) && c <= 5 {
				changed := p
				changed.Titrant.Concentration = d.RoundFigures(1)
				for changed.Titrant.Concentration.Figures() < p.Titrant.Concentration.Figures() { // as many figures as before
					changed.Titrant.Concentration = changed.Titrant.Concentration.Round(changed.Titrant.Concentration.Places() + 1)
				}
				changed.ExpectedTitre = decimal.Decimal{}
				a.Proposals = append(a.Proposals, Proposal{"titrant", quantity.Show(c, 3), titre, changed})
			}
		}
	}
	if a.Titre > 0.9*capacity && len(p.Route) == 0 && !p.UnknownInBurette() {
		for _, way := range dilutions {
			times := way.flask / way.pipette
			if titre := a.Titre / times; best(titre) {
				changed := p
				changed.Route = []experiment.RouteStep{{Kind: "pipette", What: p.Analyte.Name, Volume: number(way.pipette, 2)}, {Kind: "make-up", Volume: number(way.flask, 1)}}
				if c, ok := p.Analyte.Approximate.Div(number(times, 1)); ok {
					changed.Analyte.Approximate = c.RoundFigures(3)
				}
				a.Proposals = append(a.Proposals, Proposal{"dilution", quantity.Show(times, 0), titre, changed})
				break
			}
		}
	}
}

// dilutions are usual ways to make a sample weaker, the mildest first.
var dilutions = []struct{ pipette, flask float64 }{{50, 100}, {20, 50}, {25, 100}, {20, 100}, {25, 250}, {5, 100}, {10, 250}, {10, 500}, {10, 1000}}

// Begin says how a reaction of the catalogue is usually set up: hydroxides,
// oxidants and strong acids are run in, iodine is titrated with thiosulfate.
// Source: common practice, no source.
func Begin(r catalog.Reaction) (titrant, analyte experiment.Solution) {
	solution := func(id string, at int) experiment.Solution {
		if s, ok := catalog.BuiltIn().SubstanceByID(id); ok {
			return experiment.Solution{Name: s.Name, Formula: s.Formula}
		}
		eq, err := chem.ParseEquation(r.Equation)
		if err != nil || at >= len(eq.Reactants) {
			return experiment.Solution{}
		}
		f := eq.Reactants[at].Formula
		return experiment.Solution{Name: f.String(), Formula: f.Plain()}
	}
	first, second := solution(r.Acid, 0), solution(r.Base, 1)
	if second.Formula == "NaOH" || second.Formula == "KOH" || r.ID == "iodine-thiosulfate" {
		return second, first
	}
	return first, second
}

// remarks adds what should be said of the plan as a whole.
func (a *Assessment) remarks(p experiment.Practical, o experiment.Outline) {
	add := func(code string, severity finding.Severity, pairs ...string) {
		a.Findings = append(a.Findings, finding.New(code, severity, "", pairs...))
	}
	capacity := p.Burette.Capacity.String()
	switch a.Range {
	case RangeSmall:
		add("plan.titre-small", finding.Warning, "titre", quantity.Show(a.Titre, 3))
	case RangeLarge:
		add("plan.titre-large", finding.Warning, "titre", quantity.Show(a.Titre, 3), "capacity", capacity)
	case RangeLow:
		add("plan.titre-low", finding.Note, "titre", quantity.Show(a.Titre, 3), "percent", quantity.Show(a.Fill, 2))
	case RangeHigh:
		add("plan.titre-high", finding.Note, "titre", quantity.Show(a.Titre, 3), "percent", quantity.Show(a.Fill, 2))
	case RangeUnknown:
		add("plan.titre-unknown", finding.Note)
	}
	if c := a.Chosen; c != nil && !c.Selfmade {
		values := []string{"name", c.Name, "error", quantity.Show(math.Abs(c.End.Error), 2), "percent", quantity.Show(math.Abs(c.End.Percent), 2), "answer", quantity.Show(math.Abs(c.Answer), 2), "better", a.better(c.ID)}
		switch c.End.Verdict {
		case equilibrium.Suits:
			add("plan.indicator-suits", finding.Note, values...)
		case equilibrium.Marginal:
			add("plan.indicator-marginal", finding.Check, values...)
		default:
			add("plan.indicator-"+c.End.Reason, finding.Warning, values...)
		}
	}
	if a.Meter {
		add("plan.meter", finding.Warning)
	}
	if p.Agreement.Tolerance.Sign() > 0 && a.Titre > 0 && p.Agreement.Tolerance.Float64() > 0.01*a.Titre {
		add("agreement.tolerance-loose", finding.Warning, "tolerance", p.Agreement.Tolerance.String(), "titre", quantity.Show(a.Titre, 3), "percent", quantity.Show(100*p.Agreement.Tolerance.Float64()/a.Titre, 2))
	}
	if p.Aliquot.Kind == "cylinder" {
		add("glass.cylinder", finding.Warning)
	}
}

// better names the best indicators but for this one.
func (a *Assessment) better(id string) string {
	out := ""
	for _, i := range a.Indicators {
		if i.ID == id || i.End.Verdict == equilibrium.Unsuitable {
			continue
		}
		if out != "" {
			out += ", "
		}
		out += i.Name
		if len(out) > 60 {
			break
		}
	}
	return out
}
