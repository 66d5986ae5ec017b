// Package prep reckons what is weighed, diluted and set out for a practical.
package prep

import (
	"fmt"
	"math"
	"slices"

	"exactflask/core/catalog"
	"exactflask/core/chem"
	"exactflask/core/decimal"
	"exactflask/core/finding"
	"exactflask/core/glass"
)

// Solution is what is to be made.
type Solution struct {
	Formula       string  `json:"formula" minLength:"1" maxLength:"200" doc:"of what is weighed or taken from stock, with its water"`
	Concentration float64 `json:"concentration" exclusiveMinimum:"0" maximum:"20" doc:"wanted, mol/L"`
	Volume        float64 `json:"volume" exclusiveMinimum:"0" maximum:"1000000" doc:"mL"`
	Purity        float64 `json:"purity,omitempty" minimum:"0" maximum:"1" doc:"fraction of the solid; 1 when left out"`
	Stock         float64 `json:"stock,omitempty" minimum:"0" maximum:"30" doc:"mol/L, when it is made from a stock solution"`
	StockPercent  float64 `json:"stockPercent,omitempty" minimum:"0" maximum:"100" doc:"% w/w of a concentrated stock, with its density"`
	Density       float64 `json:"density,omitempty" minimum:"0" maximum:"5" doc:"g/mL"`
	Weighed       float64 `json:"weighed,omitempty" minimum:"0" doc:"g that were weighed in fact: which concentration is it?"`
	Window        float64 `json:"window,omitempty" minimum:"0" maximum:"50" doc:"how far from the mass the weighing may lie, %; 5 when left out"`
}

// Step is one thing to do; Seconds is a waiting time.
type Step struct {
	Code    string            `json:"code"`
	Values  map[string]string `json:"values,omitempty"`
	Seconds int               `json:"seconds,omitempty"`
}

// Preparation is how a solution is made.
type Preparation struct {
	MolarMass float64 `json:"molarMass" doc:"g/mol"`
	Mass      float64 `json:"mass,omitempty" doc:"g of solid"`
	Low       float64 `json:"low,omitempty" doc:"weigh between this"`
	High      float64 `json:"high,omitempty" doc:"and this"`
	Stock     float64 `json:"stock,omitempty" doc:"mL of stock"`
	Strength  float64 `json:"strength,omitempty" doc:"mol/L of the stock"`
	Percent   float64 `json:"percent,omitempty" doc:"% w/w of a concentrated stock"`
	Exact     float64 `json:"exact,omitempty" doc:"mol/L from the mass that was weighed"`
	Primary   bool    `json:"primary" doc:"its concentration follows from the mass; otherwise it has to be standardised"`
	Steps     []Step  `json:"steps"`
}

// Make reckons a preparation. Source of the steps: common practice, no source.
func Make(in Solution) (Preparation, *finding.Fault) {
	f, err := chem.ParseFormula(in.Formula)
	if err != nil {
		return Preparation{}, finding.Faultf("formula", "%w", err)
	}
	m := f.MolarMass().Float64()
	out := Preparation{MolarMass: m, Steps: []Step{}}
	s, known := catalog.BuiltIn().Substance(f)
	var standard *catalog.Standard
	for _, st := range catalog.BuiltIn().Standards {
		if known && st.Substance == s.ID {
			standard = &st
		}
	}
	out.Primary = standard != nil && standard.Kind == "primary"
	add := func(code string, seconds int, pairs ...string) {
		out.Steps = append(out.Steps, Step{code, finding.Values(pairs...), seconds})
	}
	if known && s.Stock != nil && in.Stock == 0 && in.StockPercent == 0 && in.Weighed == 0 {
		in.StockPercent, in.Density = s.Stock.Percent.Float64(), s.Stock.Density.Float64()
	}
	volume := show(in.Volume, 4)
	if in.Stock > 0 || in.StockPercent > 0 {
		out.Strength = in.Stock
		if in.StockPercent > 0 {
			if in.Density <= 0 {
				return Preparation{}, finding.Faultf("density", "a stock in %% w/w needs its density")
			}
			out.Percent = in.StockPercent
			out.Strength = in.StockPercent / 100 * in.Density * 1000 / m
		}
		if in.Concentration > out.Strength {
			return Preparation{}, finding.Faultf("concentration", "the stock has %.4g mol/L: nothing stronger can be made of it", out.Strength)
		}
		out.Stock = in.Concentration * in.Volume / out.Strength
		out.Primary = false
		add("prep.half-water", 0, "volume", show(in.Volume/2, 2))
		if isAcid(s) && out.Strength > 2 {
			add("prep.acid-to-water", 0, "stock", show(out.Stock, 3))
		} else {
			add("prep.add-stock", 0, "stock", show(out.Stock, 3))
		}
		if out.Strength > 2 {
			add("prep.stir-dense", 120)
		}
		add("prep.make-up", 0, "volume", volume)
	} else {
		purity := in.Purity
		if purity == 0 {
			purity = 1
		}
		window := in.Window
		if window == 0 {
			window = 5
		}
		out.Mass = in.Concentration * in.Volume / 1000 * m / purity
		out.Low, out.High = out.Mass*(1-window/100), out.Mass*(1+window/100)
		if in.Weighed > 0 {
			out.Exact = in.Weighed * purity / m / (in.Volume / 1000)
		}
		if out.Primary {
			add("prep.dry", 0, "how", standard.Drying)
		}
		if out.Primary {
			add("prep.weigh-by-difference", 0, "low", show(out.Low, 4), "high", show(out.High, 4))
		} else {
			add("prep.weigh-roughly", 0, "mass", show(out.Mass, 3))
		}
		if s.ID == "sodium-hydroxide" || s.ID == "potassium-hydroxide" {
			add("prep.boiled-water", 0)
		}
		seconds := 0
		if s.ID == "potassium-hydrogenphthalate" {
			seconds = 900
		}
		add("prep.dissolve", seconds)
		if out.Primary {
			add("prep.transfer", 0)
		}
		add("prep.make-up", 0, "volume", volume)
	}
	add("prep.invert", 0)
	if !out.Primary {
		add("prep.standardise", 0)
	}
	if standard != nil {
		add("prep.keeps", 0, "life", standard.ShelfLife, "handling", standard.Handling)
	}
	add("prep.label", 0)
	return out, nil
}

func isAcid(s catalog.Substance) bool {
	return s.InWater != nil && (s.InWater.Strong < 0 || s.InWater.Strong == 0 && len(s.InWater.PKa) > 0 && s.InWater.Top <= 0)
}

func show(v float64, figures int) string {
	d, ok := decimal.FromFloat(v)
	if !ok {
		return "–"
	}
	return d.RoundFigures(12).RoundFigures(figures).String()
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
		return nil, finding.Faultf("to", "a dilution cannot be stronger (%.4g mol/L) than what it is made from (%.4g mol/L)", in.To, in.From)
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
	relative := func(kind glass.Kind, v float64) float64 {
		d, _ := decimal.FromFloat(v)
		t, ok := glass.Tolerance(kind, d, class)
		if !ok {
			return 0.01 // glass without a standard is not trusted
		}
		return t.Float64() / math.Sqrt(6) / v
	}
	type single struct {
		pipette, flask, factor, variance float64
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
	singles = slices.CompactFunc(singles, func(a, b single) bool { return math.Abs(a.factor-b.factor) < 1e-9 })
	var all []Diluted
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
	if len(all) == 0 {
		return nil, finding.Faultf("to", "with this glass no way leads within 5 %% of %.4g mol/L in %d steps", in.To, most)
	}
	cost := func(d Diluted) float64 { // a step is worth a tenth of a per cent
		return math.Abs(d.Off) + d.Uncertainty + 0.1*float64(len(d.Steps))
	}
	slices.SortStableFunc(all, func(a, b Diluted) int {
		switch x, y := cost(a), cost(b); {
		case x < y:
			return -1
		case x > y:
			return 1
		}
		return 0
	})
	return all[:min(5, len(all))], nil
}

// Class is for how many a practical is set out.
type Class struct {
	Students int     `json:"students" minimum:"1" maximum:"500" doc:"benches"`
	Trials   int     `json:"trials" minimum:"1" maximum:"20" doc:"the rough one among them"`
	Spare    float64 `json:"spare,omitempty" minimum:"0" maximum:"200" doc:"%, on top of what is needed; 20 when left out"`
	Rinses   int     `json:"rinses,omitempty" minimum:"0" maximum:"10" doc:"of burette and pipette; 2 when left out"`
	Bottle   float64 `json:"bottle,omitempty" minimum:"0" maximum:"5000" doc:"mL of each solution that a bench is given; reckoned when left out"`
}

// Need is how much of a solution is needed.
type Need struct {
	What    string  `json:"what" enum:"titrant,analyte,indicator"`
	Name    string  `json:"name"`
	Bench   float64 `json:"bench" doc:"mL for one bench"`
	Total   float64 `json:"total" doc:"mL for all, with the spare"`
	Make    float64 `json:"make" doc:"mL to make: the next whole half litre, or ten mL of indicator"`
	Bottles int     `json:"bottles" doc:"how many, one a bench"`
	Short   bool    `json:"short,omitempty" doc:"the bottle would run out before the last trial"`
	Lasts   int     `json:"lasts,omitempty" doc:"for how many trials the bottle is enough"`
}

// Quantities reckons what a class needs: titre and aliquot of every trial, the
// rinses of burette (10 mL) and pipette (5 mL), filling the jet (5 mL), and a
// spare. Source of the amounts: common practice, no source.
func Quantities(titrant, analyte, indicator string, titre, aliquot float64, drops float64, c Class) []Need {
	spare := c.Spare
	if spare == 0 {
		spare = 20
	}
	rinses := c.Rinses
	if rinses == 0 {
		rinses = 2
	}
	trials, benches := float64(c.Trials), float64(c.Students)
	need := func(what, name string, each, rinse float64) Need {
		n := Need{What: what, Name: name, Bench: each*trials + rinse, Bottles: c.Students}
		n.Total = n.Bench * benches * (1 + spare/100)
		n.Make = math.Ceil(n.Total/500) * 500
		if c.Bottle > 0 && each > 0 {
			n.Lasts = max(0, int((c.Bottle-rinse)/each+1e-9))
			n.Short = n.Lasts < c.Trials
		}
		return n
	}
	out := []Need{need("titrant", titrant, titre, 10*float64(rinses)+5), need("analyte", analyte, aliquot, 5*float64(rinses))}
	if drops > 0 {
		n := Need{What: "indicator", Name: indicator, Bench: drops * 0.05 * trials, Bottles: (c.Students + 1) / 2}
		n.Total = n.Bench * benches * (1 + spare/100)
		n.Make = math.Ceil(n.Total/10) * 10
		out = append(out, n)
	}
	return out
}

// String is for a log or a test.
func (d DilutionStep) String() string { return fmt.Sprintf("%g to %g", d.Pipette, d.Flask) }
