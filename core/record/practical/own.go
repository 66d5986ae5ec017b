package practical

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	"exactflask/core/chemistry/glass"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

var (
	ownPKa        = finding.Declare("own.pka")
	ownMass       = finding.Declare("own.molar-mass")
	ownPotential  = finding.Declare("own.potential")
	stopsAtRange  = finding.Declare("practical.stops-at")
	limitRange    = finding.Declare("practical.indicator-limit")
	samplesFew    = finding.Declare("samples.few")
	samplesNames  = finding.Declare("samples.names", "name")
	samplesTwice  = finding.Declare("samples.controls")
	samplesKnown  = finding.Declare("samples.unknown-in-burette")
	dilutedKnown  = finding.Declare("diluted.known")
	dilutedRange  = finding.Declare("diluted.range")
	saltDirect    = finding.Declare("salt.direct")
	saltNoProduct = finding.Declare("salt.no-product", "formula", "equation")
	otherSolid    = finding.Declare("solution.solid", "solid", "formula")
	noMolarMass   = finding.Declare("chem.unnamed", "letter", "formula")
)

// checkOwn checks what is said of substances of one's own, and that nothing is
// asked for which needs the molar mass of something without a name.
func (r *Ready) checkOwn() *finding.Fault {
	for path, s := range r.solutions() {
		if f := checkJar("chemistry."+path+".solid", *s); f != nil {
			return f
		}
		if s.Own == nil {
			continue
		}
		own := *s.Own
		at := "chemistry." + path + ".own."
		if f := choice(at+"kind", &own.Kind, OwnAcid, OwnBase); f != nil {
			return f
		}
		for i, k := range own.PKa {
			if k.Cmp(decimal.Whole(-2)) < 0 || k.Cmp(decimal.Whole(16)) > 0 || i > 0 && k.Cmp(own.PKa[i-1]) < 0 {
				return ownPKa.Fault(at + "pKa")
			}
		}
		if m := own.MolarMass; m.Sign() < 0 || !m.IsZero() && (m.Cmp(decimal.Whole(1)) < 0 || m.Cmp(maxMass) > 0) {
			return ownMass.Fault(at + "molarMass")
		}
		if own.Potential.IsZero() != (own.Electrons == 0) || own.Electrons < 0 || own.Electrons > 20 ||
			own.Potential.Cmp(decimal.Whole(-4)) < 0 || own.Potential.Cmp(decimal.Whole(4)) > 0 {
			return ownPotential.Fault(at + "potential")
		}
	}
	if v := r.Chemistry.StopsAt; !v.IsZero() && (v.Sign() < 0 || v.Cmp(decimal.Whole(14)) > 0) {
		return stopsAtRange.Fault("chemistry.stopsAt")
	}
	limit := &r.Rules.IndicatorLimit
	if limit.Sign() < 0 || limit.Cmp(decimal.Whole(10)) > 0 {
		return limitRange.Fault("rules.indicatorLimit")
	}
	if limit.IsZero() {
		*limit = decimal.Must("0.5")
	}
	if d := r.Chemistry.Diluted; d != nil {
		own := *d
		if f := choice("chemistry.diluted.class", &own.Class, glass.ClassB, glass.ClassA); f != nil {
			return f
		}
		r.Chemistry.Diluted = &own
		switch {
		case !r.UnknownInBurette:
			return dilutedKnown.Fault("chemistry.diluted")
		case own.Taken.Sign() <= 0 || own.MadeUp.Cmp(own.Taken) <= 0 || own.MadeUp.Cmp(maxVolume) > 0:
			return dilutedRange.Fault("chemistry.diluted.madeUp")
		}
	}
	if f := r.checkCrystals(); f != nil {
		return f
	}
	return r.checkUnnamed()
}

// checkJar checks that the solid on the jar is the solution's substance but for its water of
// crystallisation.
func checkJar(path string, s Solution) *finding.Fault {
	if s.Solid == "" {
		return nil
	}
	solid, fault := formulaAt(path, s.Solid)
	if fault != nil {
		return fault
	}
	of, err := chem.ParseFormula(s.Formula)
	if err != nil {
		return nil // said at the formula itself
	}
	jar, _ := solid.Anhydrous()
	if dry, _ := of.Anhydrous(); !jar.Same(dry) {
		return otherSolid.Fault(path, finding.Formula(solid.Plain()), finding.Formula(of.Plain()))
	}
	return nil
}

// checkCrystals relates the crystals to a product of the reaction, by its salt.
func (r *Ready) checkCrystals() *finding.Fault {
	if r.Chemistry.Salt == "" {
		return nil
	}
	const path = "chemistry.salt"
	f, fault := formulaAt(path, r.Chemistry.Salt)
	if fault != nil {
		return fault
	}
	if r.Weighs() || r.Excess() >= 0 || len(r.Chemistry.Via) > 0 || r.Chemistry.EndPoints != OneEndPoint ||
		len(r.Samples) > 0 {
		return saltDirect.Fault(path)
	}
	dry, _ := f.Anhydrous()
	for _, s := range r.Equation.Products {
		if product, _ := s.Formula.Anhydrous(); product.Same(dry) {
			r.Crystals, r.CrystalNu = f, max(s.Coefficient, 1)
			return nil
		}
	}
	return saltNoProduct.Fault(path, finding.Formula(f.Plain()), finding.Formula(r.Equation.Plain()))
}

// mostSamples are compared in one notebook.
const mostSamples = 8

// checkSamples checks the samples that are compared.
func (r *Ready) checkSamples() *finding.Fault {
	if len(r.Samples) == 0 {
		return nil
	}
	if len(r.Samples) < 2 || len(r.Samples) > mostSamples {
		return samplesFew.Fault("samples")
	}
	if r.UnknownInBurette {
		return samplesKnown.Fault("samples")
	}
	seen, controls := map[string]bool{}, 0
	for i, s := range r.Samples {
		name := strings.TrimSpace(s.Name)
		if name == "" || utf8.RuneCountInString(name) > 60 || seen[name] {
			return samplesNames.Fault(fmt.Sprintf("samples[%d].name", i), finding.Text(name))
		}
		seen[name] = true
		if s.Control {
			controls++
		}
	}
	if controls > 1 {
		return samplesTwice.Fault("samples")
	}
	return nil
}

// Control is the place of the sample that the others are compared with.
func (r *Ready) Control() int {
	return max(0, slices.IndexFunc(r.Samples, func(s Sample) bool { return s.Control }))
}

func (r *Ready) solutions() map[string]*Solution {
	return map[string]*Solution{"titrant": &r.Chemistry.Titrant, "analyte": &r.Chemistry.Analyte}
}

// checkUnnamed finds a molar mass that is needed and that nothing gives.
func (r *Ready) checkUnnamed() *finding.Fault {
	type use struct {
		path    string
		formula chem.Formula
		needed  bool
	}
	mass := slices.Contains([]What{MassConcentration, MassFraction, MassInSample, MassPerTablet, PurityOf, Water, Protons},
		r.Asked.What)
	uses := []use{{"asked.what", r.As, mass}}
	// What is weighed and is the known one turns mass into amount.
	if head := r.SampleStep(); r.Weighs() && r.UnknownInBurette {
		uses = append(uses, use{"route[0].formula", head.Salt, true})
	}
	for _, u := range uses {
		if letter, is := u.formula.Unnamed(); is && u.needed && r.MolarMass(u.formula).IsZero() {
			return noMolarMass.Fault(u.path, finding.Text(letter), finding.Formula(u.formula.Plain()))
		}
	}
	return nil
}

// own is what the practical says of a substance itself, if anything.
func (r *Ready) own(f chem.Formula) *Own {
	switch {
	case f.Same(r.Titrant) && r.Chemistry.Titrant.Own != nil:
		return r.Chemistry.Titrant.Own
	case f.Same(r.Analyte) && r.Chemistry.Analyte.Own != nil:
		return r.Chemistry.Analyte.Own
	}
	return nil
}

// MolarMass is that of a formula by the practical's table of atomic weights or, where it holds something without a name,
// the one that the practical gives; zero where none does. g/mol.
func (r *Ready) MolarMass(f chem.Formula) decimal.Decimal {
	if _, is := f.Unnamed(); !is {
		return f.MolarMassBy(r.Rules.AtomicWeights)
	}
	if own := r.own(f); own != nil {
		return own.MolarMass
	}
	return decimal.Decimal{}
}

// InWater is how a substance with these pKa values takes part in acid-base
// equilibria: an acid or its salt, by the metals in its formula; or a base.
func (o Own) InWater(f chem.Formula) catalog.InWater {
	if o.Kind == OwnBase {
		return catalog.InWater{PKa: o.PKa, Top: len(o.PKa)}
	}
	return catalog.InWater{PKa: o.PKa, Strong: f.CationCharge()}
}

// InWater finds how a substance takes part in acid-base equilibria: as the
// practical says, or else the catalogue.
func (r *Ready) InWater(f chem.Formula) (catalog.InWater, bool) {
	type known struct {
		catalog.InWater
		ok bool
	}
	w := r.Kept("water "+f.Plain(), func() any {
		if own := r.own(f); own != nil && len(own.PKa) > 0 {
			return known{own.InWater(f), true}
		}
		found, ok := catalog.BuiltIn().InWater(f)
		return known{found, ok}
	}).(known)
	return w.InWater, w.ok
}

// Couple finds the redox couple of a substance: as the practical says, or else
// the catalogue. Of one's own, one ion makes one ion.
func (r *Ready) Couple(f chem.Formula, oxidant bool) (c catalog.Couple, oxidised, ok bool) {
	if own := r.own(f); own != nil && own.Electrons > 0 {
		return catalog.Couple{Potential: own.Potential, Own: own.Electrons, Kind: catalog.FormalPotential}, oxidant, true
	}
	return catalog.BuiltIn().Couple(f)
}
