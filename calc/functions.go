package calc

import (
	"fmt"
	"math"

	"exactflask/core/agreement"
	"exactflask/core/budget"
	"exactflask/core/chem"
	"exactflask/core/decimal"
	"exactflask/core/derivation"
	"exactflask/core/finding"
	"exactflask/core/practical"
	"exactflask/core/quantity"
)

var functions = []Function{
	define("formula", "A formula: its atoms, charge and molar mass with uncertainty", doFormula),
	define("balance", "Balances an equation", doBalance),
	define("half-reactions", "Balances two half-reactions and joins them", doHalf),
	define("agreement", "Which titres agree, with statistics", doAgreement),
	define("titration", "Any titration: practical and titres in, answer with working out", doTitration),
	define("direct", "A direct titration", titrationOf(practical.Direct)),
	define("indirect", "An indirect titration, with reactions between", titrationOf(practical.Indirect)),
	define("back", "A back titration, with a reagent in excess", titrationOf(practical.Back)),
	define("standardisation", "A standardisation: the titrant is unknown", titrationOf(practical.Standardisation)),
	define("two-end-points", "A mixture with carbonate, by two end points", titrationOf(practical.TwoEndPoints)),
	define("hydrate", "x of a hydrate from its mass and the amount of the salt in it", doHydrate),
	define("uncertainty", "Uncertainty of a product of powers, to first order and by Monte Carlo", doUncertainty),
	define("dilution", "c1 V1 = c2 V2: the one that is left out", doDilution),
	define("weighing", "Mass for a solution, or the concentration from the mass that was weighed", doWeighing),
	define("convert", "A value in another unit, with molar mass and density where they are needed", doConvert),
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

func doFormula(in formulaIn) (formulaOut, *finding.Fault) {
	f, fault := parse("formula", in.Formula)
	if fault != nil {
		return formulaOut{}, fault
	}
	return formulaOut{f.String(), f.LaTeX(), f.Charge(), f.Atoms(), f.MolarMass().Float64(), f.MolarMassUncertainty(), chem.WeightSource}, nil
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
		eq, err = eq.Balance()
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
	whole, err := chem.Join(a, b)
	if err != nil {
		return halfOut{}, finding.FaultOf("oxidation", err)
	}
	lost := -b.Electrons
	gcd := func(x, y int) int {
		for y != 0 {
			x, y = y, x%y
		}
		return x
	}
	return halfOut{equationOf(a.Equation), equationOf(b.Equation), a.Electrons * lost / gcd(a.Electrons, lost), equationOf(whole)}, nil
}

type agreementIn struct {
	Titres []decimal.Decimal `json:"titres" minItems:"1" maxItems:"100" doc:"mL, in the order they were measured"`
	Rule   agreement.Rule    `json:"rule"`
}

type agreementOut struct {
	Status     agreement.Status      `json:"status"`
	Chosen     []int                 `json:"chosen" doc:"which titres are averaged, from 0"`
	Reasons    []agreement.Reason    `json:"reasons" doc:"one for each titre"`
	Mean       *decimal.Decimal      `json:"mean,omitempty" doc:"to 34 digits at most"`
	Spread     *decimal.Decimal      `json:"spread,omitempty"`
	Statistics *agreement.Statistics `json:"statistics,omitempty"`
	Dixon      *agreement.Dixon      `json:"dixon,omitempty"`
}

func doAgreement(in agreementIn) (agreementOut, *finding.Fault) {
	candidates := make([]agreement.Candidate, len(in.Titres))
	values := make([]float64, len(in.Titres))
	for i, t := range in.Titres {
		if t.Sign() <= 0 {
			return agreementOut{}, titrePositive.Fault(fmt.Sprintf("titres[%d]", i), finding.Exact(t, quantity.Millilitre))
		}
		candidates[i], values[i] = agreement.Candidate{ID: fmt.Sprintf("%06d", i), Titre: t}, t.Float64()
	}
	v := agreement.Judge(candidates, in.Rule)
	out := agreementOut{Status: v.Status, Chosen: []int{}, Reasons: make([]agreement.Reason, len(candidates))}
	var averaged []float64
	for i, c := range candidates {
		out.Reasons[i] = v.Reasons[c.ID]
		if out.Reasons[i] == agreement.InSet {
			out.Chosen, averaged = append(out.Chosen, i), append(averaged, values[i])
		}
	}
	if v.Status == agreement.Agreed {
		out.Mean, out.Spread = &v.Mean, &v.Spread
	}
	if s, ok := agreement.Describe(averaged); ok {
		out.Statistics = &s
	}
	if d, ok := agreement.DixonQ(values); ok {
		d.Trial = fmt.Sprint(d.Index)
		out.Dixon = &d
	}
	return out, nil
}

type hydrateIn struct {
	Anhydrous string  `json:"anhydrous" minLength:"1" maxLength:"200" doc:"formula without its water"`
	Mass      float64 `json:"mass" exclusiveMinimum:"0" doc:"of the hydrate, g"`
	Amount    float64 `json:"amount" exclusiveMinimum:"0" doc:"of the salt in it, mol"`
}

type hydrateOut struct {
	MolarMass float64 `json:"molarMass" doc:"of the hydrate, g/mol"`
	X         float64 `json:"x" doc:"unrounded"`
	Whole     int     `json:"whole" doc:"to the nearest whole number"`
}

func doHydrate(in hydrateIn) (hydrateOut, *finding.Fault) {
	f, fault := parse("anhydrous", in.Anhydrous)
	if fault != nil {
		return hydrateOut{}, fault
	}
	m := in.Mass / in.Amount
	x := (m - f.MolarMass().Float64()) / chem.MustFormula("H2O").MolarMass().Float64()
	if x < -0.5 || math.Abs(x) > 1e6 {
		return hydrateOut{}, tooMuchSalt.Fault("amount", finding.Formula(f.Plain()), finding.Number(m, 4, quantity.GramPerMole))
	}
	return hydrateOut{m, x, int(math.Round(x))}, nil
}

var (
	noReduction   = finding.Declare("calc.no-reduction", "electrons")
	titrePositive = finding.Declare("calc.titre-positive", "titre")
	tooMuchSalt   = finding.Declare("calc.too-much-salt", "formula", "molar")
	twice         = finding.Declare("calc.twice", "name")
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
	Standard float64      `json:"standard" minimum:"0" doc:"standard uncertainty"`
	Shape    budget.Shape `json:"shape,omitempty" enum:"normal,rectangular,triangular" doc:"normal when left out"`
	Power    int          `json:"power,omitempty" minimum:"-1" maximum:"1" doc:"1 (when left out) multiplies, -1 divides"`
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
		op, shape := derivation.Product, f.Shape
		if f.Power == -1 {
			op = derivation.Quotient
		}
		if op == derivation.Quotient && f.Value == 0 {
			return uncertaintyOut{}, zeroDivisor.Fault(path + ".value")
		}
		if op == derivation.Quotient {
			value /= f.Value
		} else {
			value *= f.Value
		}
		if shape == "" {
			shape = budget.Normal
		}
		leaf := put(derivation.Node{ID: f.Name, Operation: derivation.Given, Quantity: quantity.Quantity{Value: f.Value}})
		at = put(derivation.Node{ID: fmt.Sprintf("product-%d", i), Operation: op, Inputs: []int{at, leaf}, Quantity: quantity.Quantity{Value: value}})
		inputs = append(inputs, budget.Input{Code: f.Name, Standard: f.Standard, Shape: shape, Effects: []budget.Effect{{Node: leaf, Gain: 1}}})
	}
	p := d.Program()
	out := uncertaintyOut{Value: value, Budget: budget.Of(p, inputs, at)}
	if in.Draws > 0 {
		mc := budget.MonteCarlo(p, inputs, in.Draws, 1)
		out.MonteCarlo = &mc
	}
	return out, nil
}

type dilutionIn struct {
	C1 float64 `json:"c1,omitempty" minimum:"0" doc:"before, mol/L"`
	V1 float64 `json:"v1,omitempty" minimum:"0" doc:"taken, mL"`
	C2 float64 `json:"c2,omitempty" minimum:"0" doc:"after, mol/L"`
	V2 float64 `json:"v2,omitempty" minimum:"0" doc:"made up to, mL"`
}

type dilutionOut struct {
	dilutionIn
	Factor float64 `json:"factor" doc:"how many times weaker"`
}

func doDilution(in dilutionIn) (dilutionOut, *finding.Fault) {
	values := []*float64{&in.C1, &in.V1, &in.C2, &in.V2}
	names := []string{"c1", "v1", "c2", "v2"}
	missing := -1
	for i, v := range values {
		if *v != 0 {
			continue
		}
		if missing >= 0 {
			return dilutionOut{}, threeNeeded.Fault(names[i], finding.Text(names[missing]), finding.Text(names[i]))
		}
		missing = i
	}
	switch missing {
	case -1:
		return dilutionOut{}, leaveOne.Fault("")
	case 0:
		in.C1 = in.C2 * in.V2 / in.V1
	case 1:
		in.V1 = in.C2 * in.V2 / in.C1
	case 2:
		in.C2 = in.C1 * in.V1 / in.V2
	case 3:
		in.V2 = in.C1 * in.V1 / in.C2
	}
	if in.C2 > in.C1*(1+1e-9) {
		return dilutionOut{}, notStronger.Fault("c2", finding.Number(in.C2, 4, quantity.MolePerL), finding.Number(in.C1, 4, quantity.MolePerL))
	}
	return dilutionOut{in, in.C1 / in.C2}, nil
}

type weighingIn struct {
	Formula       string  `json:"formula" minLength:"1" maxLength:"200" doc:"of the solid, with its water"`
	Volume        float64 `json:"volume" exclusiveMinimum:"0" doc:"of the solution, mL"`
	Purity        float64 `json:"purity,omitempty" minimum:"0" maximum:"1" doc:"fraction; 1 when left out"`
	Concentration float64 `json:"concentration,omitempty" minimum:"0" doc:"mol/L: how much is to be weighed?"`
	Mass          float64 `json:"mass,omitempty" minimum:"0" doc:"g: which concentration did it give?"`
}

type weighingOut struct {
	MolarMass     float64 `json:"molarMass"`
	Mass          float64 `json:"mass"`
	Concentration float64 `json:"concentration"`
}

func doWeighing(in weighingIn) (weighingOut, *finding.Fault) {
	f, fault := parse("formula", in.Formula)
	if fault != nil {
		return weighingOut{}, fault
	}
	purity := in.Purity
	if purity == 0 {
		purity = 1
	}
	m := f.MolarMass().Float64()
	switch {
	case (in.Mass == 0) == (in.Concentration == 0):
		return weighingOut{}, eitherMass.Fault("mass")
	case in.Mass > 0:
		return weighingOut{m, in.Mass, in.Mass * purity / m / (in.Volume / 1000)}, nil
	default:
		return weighingOut{m, in.Concentration * in.Volume / 1000 * m / purity, in.Concentration}, nil
	}
}

type convertIn struct {
	Value   float64       `json:"value"`
	Unit    quantity.Unit `json:"unit" maxLength:"20"`
	To      quantity.Unit `json:"to" maxLength:"20"`
	Formula string        `json:"formula,omitempty" maxLength:"200" doc:"for mol and g"`
	Density float64       `json:"density,omitempty" minimum:"0" doc:"g/mL, for % w/w"`
}

type convertOut struct {
	Value float64       `json:"value"`
	Unit  quantity.Unit `json:"unit"`
}

func doConvert(in convertIn) (convertOut, *finding.Fault) {
	for path, u := range map[string]quantity.Unit{"unit": in.Unit, "to": in.To} {
		if !u.Known() {
			return convertOut{}, noUnit.Fault(path, finding.Text(string(u)))
		}
	}
	q := quantity.Quantity{Value: in.Value, Unit: in.Unit}
	if q.Unit.SameDimension(in.To) {
		out, _ := q.In(in.To)
		return convertOut{out.Value, in.To}, nil
	}
	// Through g/L: every concentration leads there.
	m := 0.0
	if in.Formula != "" {
		f, fault := parse("formula", in.Formula)
		if fault != nil {
			return convertOut{}, fault
		}
		m = f.MolarMass().Float64()
	}
	toGrams := func(u quantity.Unit) (float64, *finding.Fault) { // g/L, or g, in one unit of u
		switch {
		case u.SameDimension(quantity.GramPerL), u.SameDimension(quantity.Gram):
			return u.Scale(), nil
		case u.SameDimension(quantity.MolePerL), u.SameDimension(quantity.Mole):
			if m == 0 {
				return 0, needsFormula.Fault("formula")
			}
			return u.Scale() * m, nil
		case u == quantity.PercentWW:
			if in.Density == 0 {
				return 0, needsDensity.Fault("density")
			}
			return u.Scale() * in.Density * 1000, nil
		}
		return 0, cannotConvert.Fault("to", finding.Text(string(in.Unit)), finding.Text(string(in.To)))
	}
	solution := func(u quantity.Unit) bool {
		return u.SameDimension(quantity.GramPerL) || u.SameDimension(quantity.MolePerL) || u == quantity.PercentWW
	}
	if solution(in.Unit) != solution(in.To) {
		return convertOut{}, cannotConvert.Fault("to", finding.Text(string(in.Unit)), finding.Text(string(in.To)))
	}
	from, fault := toGrams(in.Unit)
	if fault != nil {
		return convertOut{}, fault
	}
	to, fault := toGrams(in.To)
	if fault != nil {
		return convertOut{}, fault
	}
	return convertOut{in.Value * from / to, in.To}, nil
}
