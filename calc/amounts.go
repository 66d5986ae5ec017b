package calc

import (
	"math"

	"exactflask/core/chemistry/chem"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

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
	f, fault := parseNamed("anhydrous", in.Anhydrous)
	if fault != nil {
		return hydrateOut{}, fault
	}
	m := in.Mass / in.Amount
	x := (m - f.MolarMass().Float64()) / chem.MustFormula("H2O").MolarMass().Float64()
	if x < -0.5 || math.Abs(x) > 1e6 {
		return hydrateOut{}, tooMuchSalt.Fault("amount", finding.Formula(f.Plain()),
			finding.Number(m, 4, quantity.GramPerMole))
	}
	return hydrateOut{m, x, int(math.Round(x))}, nil
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
		return dilutionOut{}, notStronger.Fault("c2", finding.Number(in.C2, 4, quantity.MolePerL),
			finding.Number(in.C1, 4, quantity.MolePerL))
	}
	return dilutionOut{in, in.C1 / in.C2}, nil
}

type weighingIn struct {
	Formula       string  `json:"formula" minLength:"1" maxLength:"200" doc:"of the solid, with its water"`
	Volume        float64 `json:"volume" exclusiveMinimum:"0" doc:"of the solution, mL"`
	Purity        float64 `json:"purity,omitempty" minimum:"0" maximum:"1" doc:"fraction; 1 when left out"`
	Concentration float64 `json:"concentration,omitempty" minimum:"0" doc:"mol/L: how much is to be weighed?"`
	Mass          float64 `json:"mass,omitempty" minimum:"0" doc:"g: which concentration did it give?"`
	Full          float64 `json:"full,omitempty" minimum:"0" doc:"g, vessel and solid; with emptied, in the place of mass"`
	Emptied       float64 `json:"emptied,omitempty" minimum:"0" doc:"g, the emptied vessel with what stayed in it"`
}

type weighingOut struct {
	MolarMass     float64 `json:"molarMass"`
	Mass          float64 `json:"mass"`
	Concentration float64 `json:"concentration"`
}

func doWeighing(in weighingIn) (weighingOut, *finding.Fault) {
	f, fault := parseNamed("formula", in.Formula)
	if fault != nil {
		return weighingOut{}, fault
	}
	if in.Full > 0 || in.Emptied > 0 {
		if in.Mass > 0 || in.Full <= in.Emptied {
			return weighingOut{}, notLess.Fault("emptied")
		}
		in.Mass = in.Full - in.Emptied
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
		f, fault := parseNamed("formula", in.Formula)
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
