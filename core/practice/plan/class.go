package plan

import (
	"cmp"
	"slices"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	"exactflask/core/model/assay"
	"exactflask/core/model/curve"
	"exactflask/core/practice/prep"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// SetOut is what is made and set out for a class.
type SetOut struct {
	Needs   []prep.Need
	Solids  []Solid
	Made    []Made
	Bottles []Bottle
	// Assumed is said where the titre is not known and half a burette was taken.
	Assumed *finding.Message
}

// Solid is what is weighed for the trials themselves, g.
type Solid struct {
	Name         string
	Bench, Total float64
}

// Made is a solution with how it is prepared.
type Made struct {
	Name          string
	Concentration decimal.Decimal
	Volume        float64 // mL
	How           prep.Preparation
	Cautions      []string // codes, of what is handled: the stock, or the solid
}

// Bottle is what goes on a bottle's label. The concentration of the unknown is
// not on it.
type Bottle struct {
	Name          string
	Formula       string
	Concentration decimal.Decimal
	Cautions      []string // codes
	Copies        int
}

var assumed = finding.Declare("class.assumed", "titre")

// ForClass reckons what a class needs of a practical.
func ForClass(r *practical.Ready, class prep.Class) SetOut {
	var out SetOut
	o := curve.OutlineOf(r)
	titre := o.Titre.Last
	if titre == 0 && !r.MadeOnly() {
		titre = r.Glass.Burette.Capacity.Float64() / 2
		say := assumed.Message(finding.Number(titre, 3, quantity.Millilitre))
		out.Assumed = &say
	}
	sample, _ := o.Assay.Sample(assay.Measured{})
	wanted := []prep.Wanted{{What: "titrant", Name: r.Chemistry.Titrant.Name, Each: titre, Given: r.Glass.Supply.Titrant.Float64()}}
	solutions := []solution{{r.Chemistry.Titrant, r.Titrant.Plain(), !r.UnknownInBurette}}
	switch { // what students make of it is given to them, and not what they make
	case r.WeighsStandard():
		wanted, solutions = nil, nil
		each := r.Made[0].Mass.Float64()
		out.Solids = append(out.Solids, Solid{Name: cmp.Or(r.Made[0].What, r.Chemistry.Titrant.Name), Bench: each, Total: each * float64(class.Students)})
	case len(r.Made) > 0:
		stock := r.Made[0]
		wanted[0] = prep.Wanted{What: "stock", Name: r.Chemistry.Titrant.Name, Each: stock.Volume.Float64(), Once: true}
		solutions[0] = solution{practical.Solution{Name: r.Chemistry.Titrant.Name, Concentration: stock.Concentration}, r.Titrant.Plain(), true}
	}
	if head := r.SampleStep(); head.Kind == practical.Pipette && sample.Sign() > 0 { // what is weighed is a solution only in the flask
		each := head.Volume.Float64()
		if each == 0 {
			each = sample.Float64()
		}
		wanted = append(wanted, prep.Wanted{What: "analyte", Name: r.Chemistry.Analyte.Name, Each: each, Once: once(r, 0), Given: r.Glass.Supply.Analyte.Float64()})
		solutions = append(solutions, solution{r.Chemistry.Analyte, r.Analyte.Plain(), r.UnknownInBurette})
	}
	if i := r.Excess(); i >= 0 {
		s := r.Steps[i]
		each := s.Volume.Float64()
		if each == 0 {
			each = curve.DefaultFlask
		}
		wanted = append(wanted, prep.Wanted{What: "reagent", Name: s.What, Each: each, Once: once(r, i)})
		solutions = append(solutions, solution{practical.Solution{Name: s.What, Concentration: s.Concentration},
			s.Reaction.From.Plain(), true})
	}
	if head := r.SampleStep(); r.Weighs() && head.Mass.Sign() > 0 {
		solid := Solid{Name: head.What, Bench: head.Mass.Float64()}
		if solid.Name == "" {
			solid.Name = r.Chemistry.Analyte.Name
		}
		if head.EachTrial {
			solid.Bench *= float64(class.Trials)
		}
		solid.Total = solid.Bench * float64(class.Students)
		out.Solids = append(out.Solids, solid)
	}
	if k := r.Indicator.Kind; r.Seen() && k != catalog.Self {
		wanted = append(wanted, prep.Wanted{What: "indicator", Name: "", Each: r.Norms().Of(practical.IndicatorDrops)})
	}
	out.Needs = prep.Quantities(r.Norms(), wanted, class)
	for i, s := range solutions {
		s.setOut(r.Norms(), &out, out.Needs[i].Make, class.Students)
	}
	return out
}

// once tells whether a step of the route is done once at a bench: what is made up to a mark
// later is shared by all trials.
func once(r *practical.Ready, step int) bool {
	return slices.ContainsFunc(r.Steps[step+1:], func(s practical.ReadyStep) bool { return s.Kind == practical.MakeUp })
}

type solution struct {
	practical.Solution
	formula string
	known   bool
}

func (s solution) setOut(norms practical.Norms, out *SetOut, volume float64, copies int) {
	c := s.Concentration
	if c.IsZero() {
		c = s.Approximate
	}
	f := chem.MustFormula(s.formula)
	cautions := []string{}
	if substance, ok := catalog.BuiltIn().Substance(f); ok {
		cautions = substance.CautionsAt(c)
	}
	b := Bottle{Name: s.Name, Formula: f.Plain(), Cautions: cautions, Copies: copies}
	if s.known {
		b.Concentration = s.Concentration
	}
	out.Bottles = append(out.Bottles, b)
	if c.Sign() <= 0 || f.Charge() != 0 {
		return
	}
	made, fault := prep.Make(prep.Solution{Norms: norms, Sample: !s.known, Jar: s.Solid != "", Formula: cmp.Or(s.Solid, f.Plain()), Concentration: c.Float64(), Volume: volume,
		Purity: s.Purity.Float64()})
	if fault != nil {
		return
	}
	// A solid is handled as the strongest of its solutions.
	handled := practical.AsSolid
	if made.Strength > 0 {
		handled = number(made.Strength, 3)
	}
	cautions = []string{}
	if substance, ok := catalog.BuiltIn().Substance(f); ok {
		cautions = substance.CautionsAt(handled)
	}
	out.Made = append(out.Made, Made{s.Name, c, volume, made, cautions})
}
