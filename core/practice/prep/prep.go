// Package prep reckons what is weighed, diluted and set out for a practical.
package prep

import (
	"cmp"
	"math"
	"slices"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	"exactflask/core/chemistry/glass"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Solution is what is to be made.
type Solution struct {
	Norms         practical.Norms `json:"-"` // of the school
	Sample        bool            `json:"-"` // it is the unknown, and no standard: it is not dried
	Jar           bool            `json:"-"` // the formula is what stands on the jar, its water of crystallisation asked for
	Formula       string          `json:"formula" minLength:"1" maxLength:"200" doc:"of what is weighed or taken from stock, with its water"`
	Concentration float64         `json:"concentration" exclusiveMinimum:"0" maximum:"20" doc:"wanted, mol/L"`
	Volume        float64         `json:"volume" exclusiveMinimum:"0" maximum:"1000000" doc:"mL"`
	Purity        float64         `json:"purity,omitempty" minimum:"0" maximum:"1" doc:"fraction of the solid; 1 when left out"`
	Stock         float64         `json:"stock,omitempty" minimum:"0" maximum:"30" doc:"mol/L, when it is made from a stock solution"`
	StockPercent  float64         `json:"stockPercent,omitempty" minimum:"0" maximum:"100" doc:"% w/w of a concentrated stock, with its density"`
	Density       float64         `json:"density,omitempty" minimum:"0" maximum:"5" doc:"g/mL"`
	Weighed       float64         `json:"weighed,omitempty" minimum:"0" doc:"g that were weighed in fact: which concentration is it?"`
	Window        float64         `json:"window,omitempty" minimum:"0" maximum:"50" doc:"how far from the mass the weighing may lie, %; 5 when left out"`
}

// Instruction is one thing to do; Seconds is a waiting time.
type Instruction struct {
	Say     finding.Message `json:"say"`
	Seconds int             `json:"seconds,omitempty"`
	Note    bool            `json:"note,omitempty" doc:"said beside the step before it; it takes no time of its own"`
}

var (
	noMolarMass = finding.Declare("chem.unnamed", "letter", "formula")
	halfWater   = finding.Declare("prep.half-water", "volume")
	acidToWater = finding.Declare("prep.acid-to-water", "stock")
	addStock    = finding.Declare("prep.add-stock", "stock")
	stirDense   = finding.Declare("prep.stir-dense", "time")
	makeUp      = finding.Declare("prep.make-up", "volume")
	dry         = finding.Declare("prep.dry", "how")
	cool        = finding.Declare("prep.cool", "time")
	byDiffer    = finding.Declare("prep.weigh-by-difference", "low", "high")
	roughly     = finding.Declare("prep.weigh-roughly", "mass")
	boiled      = finding.Declare("prep.boiled-water")
	dissolve    = finding.Declare("prep.dissolve")
	transfer    = finding.Declare("prep.transfer")
	invert      = finding.Declare("prep.invert")
	standardise = finding.Declare("prep.standardise")
	lookAtJar   = finding.Declare("prep.look-at-jar", "formula", "other", "mass")
	keeps       = finding.Declare("prep.keeps", "life", "handling")
	label       = finding.Declare("prep.label")

	noDensity   = finding.Declare("prep.density")
	tooWeak     = finding.Declare("prep.too-weak", "strength")
	notStronger = finding.Declare("prep.not-stronger", "to", "from")
	noDilution  = finding.Declare("prep.no-dilution", "to", "count")
)

// Preparation is how a solution is made.
type Preparation struct {
	MolarMass    float64       `json:"molarMass" doc:"g/mol"`
	Mass         float64       `json:"mass,omitempty" doc:"g of solid"`
	Low          float64       `json:"low,omitempty" doc:"weigh between this"`
	High         float64       `json:"high,omitempty" doc:"and this"`
	Stock        float64       `json:"stock,omitempty" doc:"mL of stock"`
	Strength     float64       `json:"strength,omitempty" doc:"mol/L of the stock"`
	Percent      float64       `json:"percent,omitempty" doc:"% w/w of a concentrated stock"`
	Exact        float64       `json:"exact,omitempty" doc:"mol/L from the mass that was weighed"`
	Primary      bool          `json:"primary" doc:"its concentration follows from the mass; otherwise it has to be standardised"`
	Instructions []Instruction `json:"instructions"`
}

// Make reckons a preparation. Source of the steps: common practice, no source.
func Make(in Solution) (Preparation, *finding.Fault) {
	f, err := chem.ParseFormula(in.Formula)
	if err != nil {
		return Preparation{}, finding.FaultOf("formula", err)
	}
	if letter, is := f.Unnamed(); is {
		return Preparation{}, noMolarMass.Fault("formula", finding.Text(letter), finding.Formula(f.Plain()))
	}
	m := &making{in: in, formula: f, Preparation: Preparation{MolarMass: f.MolarMass().Float64(), Instructions: []Instruction{}}}
	s, known := catalog.BuiltIn().Substance(f)
	m.substance = s
	for _, st := range catalog.BuiltIn().Standards {
		if known && st.Substance == s.ID && !(in.Sample && st.Kind == "primary") {
			m.standard = &st
		}
	}
	m.Primary = m.standard != nil && m.standard.Kind == "primary"
	if known && s.Stock != nil && in.Stock == 0 && in.StockPercent == 0 && in.Weighed == 0 {
		m.in.StockPercent, m.in.Density = s.Stock.Percent.Float64(), s.Stock.Density.Float64()
	}
	if m.in.Stock > 0 || m.in.StockPercent > 0 {
		if fault := m.fromStock(); fault != nil {
			return Preparation{}, fault
		}
	} else {
		m.fromSolid()
	}
	m.add(0, makeUp.Message(Volume(in.Volume)))
	m.add(0, invert.Message())
	if !m.Primary {
		m.add(0, standardise.Message())
	}
	if m.standard != nil {
		m.add(0, keeps.Message(m.of("life"), m.of("handling")))
	}
	m.add(0, label.Message())
	return m.Preparation, nil
}

// making is a preparation that is being worked out.
type making struct {
	Preparation
	in        Solution
	formula   chem.Formula
	substance catalog.Substance
	standard  *catalog.Standard // what the catalogue says of it as one; nil: nothing
}

func (m *making) add(seconds int, say finding.Message) {
	m.Instructions = append(m.Instructions, Instruction{Say: say, Seconds: seconds})
}

// of is what the catalogue says of the standard.
func (m *making) of(what string) finding.Value {
	return finding.Said(finding.Message{Code: "standard." + m.standard.Substance + "." + what})
}

// fromStock dilutes a stronger solution.
func (m *making) fromStock() *finding.Fault {
	m.Strength = m.in.Stock
	if m.in.StockPercent > 0 {
		if m.in.Density <= 0 {
			return noDensity.Fault("density")
		}
		m.Percent = m.in.StockPercent
		m.Strength = m.in.StockPercent / 100 * m.in.Density * 1000 / m.MolarMass
	}
	if m.in.Concentration > m.Strength {
		return tooWeak.Fault("concentration", finding.Number(m.Strength, 4, quantity.MolePerL))
	}
	m.Stock = m.in.Concentration * m.in.Volume / m.Strength
	m.Primary = false
	m.add(0, halfWater.Message(Volume(m.in.Volume/2)))
	if isAcid(m.substance) && m.Strength > 2 {
		m.add(0, acidToWater.Message(Volume(m.Stock)))
	} else {
		m.add(0, addStock.Message(Volume(m.Stock)))
	}
	if m.Strength > 2 {
		m.add(int(60*m.in.Norms.Of(practical.StirMinutes)), stirDense.Message(m.in.Norms.Said(practical.StirMinutes)))
	}
	return nil
}

// fromSolid weighs.
func (m *making) fromSolid() {
	purity, window := cmp.Or(m.in.Purity, 1), cmp.Or(m.in.Window, 5)
	m.Mass = m.in.Concentration * m.in.Volume / 1000 * m.MolarMass / purity
	m.Low, m.High = m.Mass*(1-window/100), m.Mass*(1+window/100)
	if m.in.Weighed > 0 {
		m.Exact = m.in.Weighed * purity / m.MolarMass / (m.in.Volume / 1000)
	}
	if m.Primary {
		m.add(int(math.Round(3600*m.standard.Drying.Float64())), dry.Message(m.of("drying")))
		if m.standard.Drying.Sign() > 0 { // what is warm is never weighed
			m.add(int(60*m.in.Norms.Of(practical.CoolMinutes)), cool.Message(m.in.Norms.Said(practical.CoolMinutes)))
		}
		m.add(0, byDiffer.Message(finding.Number(m.Low, 4, ""), finding.Number(m.High, 4, quantity.Gram)))
	} else {
		m.add(0, roughly.Message(finding.Number(m.Mass, 3, quantity.Gram)))
	}
	if !m.in.Jar { // the same solution is made of solids with and without water of crystallisation
		for _, other := range catalog.BuiltIn().Hydrates(m.formula) {
			mass := m.Mass * other.MolarMass().Float64() / m.MolarMass
			m.Instructions = append(m.Instructions, Instruction{Note: true,
				Say: lookAtJar.Message(finding.Formula(m.formula.Plain()), finding.Formula(other.Plain()), finding.Number(mass, 3, quantity.Gram))})
		}
	}
	if m.substance.ID == "sodium-hydroxide" || m.substance.ID == "potassium-hydroxide" {
		m.add(0, boiled.Message())
	}
	seconds := 0
	if m.substance.ID == "potassium-hydrogenphthalate" {
		seconds = 900
	}
	m.add(seconds, dissolve.Message())
	if m.Primary {
		m.add(0, transfer.Message())
	}
}

func isAcid(s catalog.Substance) bool {
	return s.InWater != nil && (s.InWater.Strong < 0 || s.InWater.Strong == 0 && len(s.InWater.PKa) > 0 &&
		s.InWater.Top <= 0)
}

// Dilution is what a serial dilution has to reach.
type Dilution struct {
	From     float64   `json:"from" exclusiveMinimum:"0" doc:"mol/L"`
	To       float64   `json:"to" exclusiveMinimum:"0" doc:"mol/L"`
	Pipettes []float64 `json:"pipettes,omitempty" maxItems:"8" doc:"mL that are there; 1, 2, 5, 10, 20, 25, 50 when left out"`
	Flasks   []float64 `json:"flasks,omitempty" maxItems:"8" doc:"mL; 50, 100, 250, 500, 1000 when left out"`
	Class    string    `json:"class,omitempty" enum:"A,B" doc:"of the glass; B when left out"`
	Steps    int       `json:"steps,omitempty" minimum:"0" maximum:"3" doc:"at most this many; 3 when left out"`
}

// DilutionStep is one aliquot made up to one mark.
type DilutionStep struct {
	Pipette float64 `json:"pipette" doc:"mL"`
	Flask   float64 `json:"flask" doc:"mL"`
	Gives   float64 `json:"gives" doc:"mol/L"`
}

// Diluted is a way to a concentration.
type Diluted struct {
	Steps       []DilutionStep `json:"steps"`
	Gives       float64        `json:"gives" doc:"mol/L"`
	Off         float64        `json:"off" doc:"% from what was wanted"`
	Uncertainty float64        `json:"uncertainty" doc:"relative standard uncertainty from the glass, %"`
}

// Serial finds the best ways: nearest to what is wanted, then surest, then
// with the fewest steps. The first is the best of at most five.
func Serial(in Dilution) ([]Diluted, *finding.Fault) {
	if in.To >= in.From {
		return nil, notStronger.Fault("to", finding.Number(in.To, 4, quantity.MolePerL),
			finding.Number(in.From, 4, quantity.MolePerL))
	}
	pipettes, flasks, most := in.Pipettes, in.Flasks, in.Steps
	if len(pipettes) == 0 {
		pipettes = []float64{1, 2, 5, 10, 20, 25, 50}
	}
	if len(flasks) == 0 {
		flasks = []float64{50, 100, 250, 500, 1000}
	}
	if most == 0 {
		most = 3
	}
	class := glass.ClassB
	if in.Class == "A" {
		class = glass.ClassA
	}
	all := chains(in, singleSteps(pipettes, flasks, class), most)
	if len(all) == 0 {
		return nil, noDilution.Fault("to", finding.Number(in.To, 4, quantity.MolePerL), finding.Count(most))
	}
	cost := func(d Diluted) float64 { // a step is worth a tenth of a per cent
		return math.Abs(d.Off) + d.Uncertainty + 0.1*float64(len(d.Steps))
	}
	slices.SortStableFunc(all, func(a, b Diluted) int { return cmp.Compare(cost(a), cost(b)) })
	return all[:min(5, len(all))], nil
}

// chains are the ways of at most so many steps that come within 5 % of what is wanted.
func chains(in Dilution, singles []single, most int) (all []Diluted) {
	var walk func(steps []single, factor, variance float64, from int)
	walk = func(steps []single, factor, variance float64, from int) {
		if len(steps) > 0 {
			d := Diluted{Gives: in.From / factor, Uncertainty: 100 * math.Sqrt(variance)}
			d.Off = 100 * (d.Gives - in.To) / in.To
			c := in.From
			for _, s := range steps {
				c /= s.factor
				d.Steps = append(d.Steps, DilutionStep{s.pipette, s.flask, c})
			}
			if math.Abs(d.Off) <= 5 {
				all = append(all, d)
			}
		}
		if len(steps) == most {
			return
		}
		for i := from; i < len(singles); i++ {
			s := singles[i]
			if factor*s.factor > in.From/in.To*1.06 {
				break
			}
			walk(append(slices.Clone(steps), s), factor*s.factor, variance+s.variance, i)
		}
	}
	walk(nil, 1, 0, 0)
	return all
}

// single is one dilution, with the relative variance of its glass.
type single struct {
	pipette, flask, factor, variance float64
}

// singleSteps are the dilutions that the glass allows, in order of their factors.
func singleSteps(pipettes, flasks []float64, class glass.Class) []single {
	relative := func(kind glass.Kind, v float64) float64 {
		d, _ := decimal.FromFloat(v)
		t, _ := glass.Tolerance(kind, d, class)
		return t.Float64() / math.Sqrt(6) / v
	}
	var singles []single
	for _, p := range pipettes {
		for _, f := range flasks {
			if p <= 0 || f <= 0 || p >= f {
				continue
			}
			a, b := relative(glass.OneMark, p), relative(glass.Flask, f)
			singles = append(singles, single{p, f, f / p, a*a + b*b})
		}
	}
	slices.SortFunc(singles, func(a, b single) int {
		switch {
		case a.factor < b.factor, a.factor == b.factor && a.variance < b.variance:
			return -1
		case a.factor == b.factor && a.variance == b.variance:
			return 0
		}
		return 1
	})
	// Of equal factors only the surest is kept.
	return slices.CompactFunc(singles, func(a, b single) bool { return math.Abs(a.factor-b.factor) < 1e-9 })
}

// Volume is a volume in mL as people order it: from a litre on in litres.
func Volume(ml float64) finding.Value {
	if ml >= 1000 {
		return finding.Number(ml/1000, 3, quantity.Litre)
	}
	return finding.Number(ml, 3, quantity.Millilitre)
}
