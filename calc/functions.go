package calc

import (
	"fmt"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	"exactflask/core/judgement/agreement"
	"exactflask/core/model/budget"
	"exactflask/core/model/derivation"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
	"exactflask/core/values/statistics"
)

var functions = []Function{
	define("formula", doFormula),
	define("balance", doBalance),
	define("half-reactions", doHalf),
	define("agreement", doAgreement),
	answering(define("titration", doTitration)),
	answering(define("direct", titrationOf(practical.Direct))),
	answering(define("indirect", titrationOf(practical.Indirect))),
	answering(define("back", titrationOf(practical.Back))),
	answering(define("standardisation", titrationOf(practical.Standardisation))),
	answering(define("two-end-points", titrationOf(practical.TwoEndPoints))),
	answering(define("hydrate", doHydrate)),
	define("uncertainty", doUncertainty),
	define("propagate", doPropagate),
	define("dilution", doDilution),
	define("weighing", doWeighing),
	define("convert", doConvert),
	define("series", doSeries),
}

type formulaIn struct {
	Formula string `json:"formula" minLength:"1" maxLength:"200"`
}

type formulaOut struct {
	Formula     string       `json:"formula" doc:"in Unicode"`
	LaTeX       string       `json:"latex"`
	Charge      int          `json:"charge"`
	Atoms       []chem.Count `json:"atoms"`
	MolarMass   float64      `json:"molarMass" doc:"g/mol"`
	Uncertainty float64      `json:"uncertainty" doc:"standard uncertainty, g/mol"`
	Source      string       `json:"source"`
}

func parse(path, text string) (chem.Formula, *finding.Fault) {
	f, err := chem.ParseFormula(text)
	if err != nil {
		return f, finding.FaultOf(path, err)
	}
	return f, nil
}

// parseNamed is parse for a formula that has to have a molar mass.
func parseNamed(path, text string) (chem.Formula, *finding.Fault) {
	f, fault := parse(path, text)
	if fault != nil {
		return f, fault
	}
	if letter, is := f.Unnamed(); is {
		return f, noMolarMass.Fault(path, finding.Text(letter), finding.Formula(f.Plain()))
	}
	return f, nil
}

func doFormula(in formulaIn) (formulaOut, *finding.Fault) {
	f, fault := parseNamed("formula", in.Formula)
	if fault != nil {
		return formulaOut{}, fault
	}
	return formulaOut{f.String(), f.LaTeX(), f.Charge(), f.Atoms(), f.MolarMass().Float64(), f.MolarMassUncertainty(),
		chem.WeightSource}, nil
}

type balanceIn struct {
	Equation string `json:"equation" minLength:"1" maxLength:"600"`
}

type equationOut struct {
	Equation  string      `json:"equation"`
	LaTeX     string      `json:"latex"`
	Reactants []component `json:"reactants"`
	Products  []component `json:"products"`
}

type component struct {
	Coefficient int    `json:"coefficient"`
	Formula     string `json:"formula"`
}

func equationOf(eq chem.Equation) equationOut {
	side := func(in []chem.Species) []component {
		out := make([]component, len(in))
		for i, s := range in {
			out[i] = component{max(s.Coefficient, 1), s.Formula.Plain()}
		}
		return out
	}
	return equationOut{eq.String(), eq.LaTeX(), side(eq.Reactants), side(eq.Products)}
}

func doBalance(in balanceIn) (equationOut, *finding.Fault) {
	eq, err := chem.ParseEquation(in.Equation)
	if err == nil {
		eq, err = catalog.BuiltIn().Balance(eq)
	}
	if err != nil {
		return equationOut{}, finding.FaultOf("equation", err)
	}
	return equationOf(eq), nil
}

type halfIn struct {
	Reduction string      `json:"reduction" minLength:"1" maxLength:"600" doc:"such as MnO4- -> Mn^2+"`
	Oxidation string      `json:"oxidation" minLength:"1" maxLength:"600"`
	Medium    chem.Medium `json:"medium,omitempty" enum:"acid,base" doc:"acid when left out"`
}

type halfOut struct {
	Reduction equationOut `json:"reduction"`
	Oxidation equationOut `json:"oxidation"`
	Electrons int         `json:"electrons" doc:"that change over in the whole"`
	Whole     equationOut `json:"whole"`
}

func doHalf(in halfIn) (halfOut, *finding.Fault) {
	medium := in.Medium
	if medium == "" {
		medium = chem.InAcid
	}
	a, err := chem.ParseHalf(in.Reduction, medium)
	if err != nil {
		return halfOut{}, finding.FaultOf("reduction", err)
	}
	b, err := chem.ParseHalf(in.Oxidation, medium)
	if err != nil {
		return halfOut{}, finding.FaultOf("oxidation", err)
	}
	if a.Electrons <= 0 {
		return halfOut{}, noReduction.Fault("reduction", finding.Count(a.Electrons))
	}
	whole, electrons, err := chem.Join(a, b)
	if err != nil {
		return halfOut{}, finding.FaultOf("oxidation", err)
	}
	if len(whole.Reactants) == 0 || len(whole.Products) == 0 {
		return halfOut{}, sameCouple.Fault("oxidation")
	}
	return halfOut{equationOf(a.Equation), equationOf(b.Equation), electrons, equationOf(whole)}, nil
}

type agreementIn struct {
	Titres []decimal.Decimal       `json:"titres" minItems:"1" maxItems:"100" doc:"mL, in the order they were measured"`
	Rule   practical.AgreementRule `json:"rule"`
	Step   float64                 `json:"step,omitempty" minimum:"0" maximum:"10" doc:"smallest difference of two readings, mL; Dixon's Q says nothing of a gap no larger"`
}

type agreementOut struct {
	Status     agreement.Status       `json:"status"`
	Chosen     []int                  `json:"chosen" doc:"which titres are averaged, from 0"`
	Reasons    []agreement.Reason     `json:"reasons" doc:"one for each titre"`
	Mean       *decimal.Decimal       `json:"mean,omitempty" doc:"to 34 digits at most"`
	Spread     *decimal.Decimal       `json:"spread,omitempty"`
	Statistics *statistics.Statistics `json:"statistics,omitempty"`
	Dixon      *statistics.Dixon      `json:"dixon,omitempty"`
}

func doAgreement(in agreementIn) (agreementOut, *finding.Fault) {
	candidates := make([]agreement.Candidate, len(in.Titres))
	values := make([]float64, len(in.Titres))
	for i, t := range in.Titres {
		if t.Sign() <= 0 {
			return agreementOut{}, titrePositive.Fault(fmt.Sprintf("titres[%d]", i), finding.Exact(t, quantity.Millilitre))
		}
		candidates[i], values[i] = agreement.Candidate{ID: fmt.Sprintf("%06d", i), Titre: t, Place: i}, t.Float64()
	}
	v := agreement.Judge(candidates, in.Rule)
	out := agreementOut{Status: v.Status, Chosen: []int{}, Reasons: make([]agreement.Reason, len(candidates))}
	var averaged []float64
	for i, c := range candidates {
		out.Reasons[i] = v.Reasons[c.ID]
		if out.Reasons[i].In() {
			out.Chosen, averaged = append(out.Chosen, i), append(averaged, values[i])
		}
	}
	if v.Status == agreement.Agreed {
		out.Mean, out.Spread = &v.Mean, &v.Spread
	}
	if s, ok := statistics.Describe(averaged); ok {
		out.Statistics = &s
	}
	if d, ok := statistics.DixonQ(values, in.Step); ok {
		d.Trial = fmt.Sprint(d.Index)
		out.Dixon = &d
	}
	return out, nil
}

var (
	badPower      = finding.Declare("calc.power", "power")
	sameCouple    = finding.Declare("calc.same-couple")
	noReduction   = finding.Declare("calc.no-reduction", "electrons")
	titrePositive = finding.Declare("calc.titre-positive", "titre")
	tooMuchSalt   = finding.Declare("calc.too-much-salt", "formula", "molar")
	twice         = finding.Declare("calc.twice", "name")
	noMolarMass   = finding.Declare("chem.unnamed", "letter", "formula")
	notLess       = finding.Declare("calc.not-less")
	zeroDivisor   = finding.Declare("calc.zero-divisor")
	threeNeeded   = finding.Declare("calc.three-needed", "one", "other")
	leaveOne      = finding.Declare("calc.leave-one")
	notStronger   = finding.Declare("prep.not-stronger", "to", "from")
	eitherMass    = finding.Declare("calc.either-mass")
	noUnit        = finding.Declare("entry.unit", "unit")
	needsFormula  = finding.Declare("calc.needs-formula")
	needsDensity  = finding.Declare("calc.needs-density")
	cannotConvert = finding.Declare("quantity.conversion", "from", "to")
)

type uncertaintyIn struct {
	Factors []factorIn `json:"factors" minItems:"1" maxItems:"40"`
	Scale   float64    `json:"scale,omitempty" doc:"a number that the whole is multiplied with, such as 1000; 1 when left out"`
	Draws   int        `json:"draws,omitempty" minimum:"0" maximum:"200000"`
}

type factorIn struct {
	Name     string       `json:"name" minLength:"1" maxLength:"60"`
	Value    float64      `json:"value"`
	Standard float64      `json:"standard,omitempty" minimum:"0" doc:"standard uncertainty; or give the half width"`
	Half     float64      `json:"halfWidth,omitempty" minimum:"0" doc:"of a tolerance or a resolution"`
	Shape    budget.Shape `json:"shape,omitempty" enum:"normal,rectangular,triangular" doc:"rectangular for a half width when left out, else normal"`
	Power    *int         `json:"power,omitempty" enum:"-1,1" doc:"1 (when left out) multiplies, -1 divides"`
}

type uncertaintyOut struct {
	Value      float64            `json:"value"`
	Budget     budget.Budget      `json:"budget"`
	MonteCarlo *budget.Propagated `json:"monteCarlo,omitempty"`
}

func doUncertainty(in uncertaintyIn) (uncertaintyOut, *finding.Fault) {
	var d derivation.Derivation
	scale := in.Scale
	if scale == 0 {
		scale = 1
	}
	put := func(n derivation.Node) int {
		n.Quantity.Unit = quantity.One
		d.Nodes = append(d.Nodes, n)
		return len(d.Nodes) - 1
	}
	value := scale
	at := put(derivation.Node{ID: "scale", Operation: derivation.Constant, Quantity: quantity.Quantity{Value: scale}})
	var inputs []budget.Input
	seen := map[string]bool{}
	for i, f := range in.Factors {
		path := fmt.Sprintf("factors[%d]", i)
		if seen[f.Name] {
			return uncertaintyOut{}, twice.Fault(path+".name", finding.Text(f.Name))
		}
		seen[f.Name] = true
		op := derivation.Product
		u, shape, fault := standard(path, f.Standard, f.Half, f.Shape)
		if fault != nil {
			return uncertaintyOut{}, fault
		}
		switch {
		case f.Power == nil:
		case *f.Power == -1:
			op = derivation.Quotient
		case *f.Power != 1:
			return uncertaintyOut{}, badPower.Fault(path+".power", finding.Count(*f.Power))
		}
		if op == derivation.Quotient && f.Value == 0 {
			return uncertaintyOut{}, zeroDivisor.Fault(path + ".value")
		}
		if op == derivation.Quotient {
			value /= f.Value
		} else {
			value *= f.Value
		}
		leaf := put(derivation.Node{ID: f.Name, Operation: derivation.Given, Quantity: quantity.Quantity{Value: f.Value}})
		at = put(derivation.Node{ID: fmt.Sprintf("product-%d", i), Operation: op, Inputs: []int{at, leaf},
			Quantity: quantity.Quantity{Value: value}})
		inputs = append(inputs, budget.Input{Code: f.Name, Standard: u, Shape: shape,
			Effects: []budget.Effect{{Node: leaf, Gain: 1}}})
	}
	p := d.Program()
	out := uncertaintyOut{Value: value, Budget: budget.Of(p, inputs, at)}
	if in.Draws > 0 {
		mc := budget.MonteCarlo(p, inputs, in.Draws, 1)
		out.MonteCarlo = &mc
	}
	return out, nil
}
