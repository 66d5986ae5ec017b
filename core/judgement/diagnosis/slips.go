package diagnosis

import (
	"maps"
	"strings"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	dv "exactflask/core/model/derivation"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Record is what slips are found from that do not stand in the working: the titres of
// the trials that count, of all accurate ones, and of the rough ones; the readings of
// those that count, where each is one end less one start; mL.
type Record struct {
	Counted, All, Rough []float64
	Ends, Starts        []float64
	Capacity            float64
	Places              int       // decimals of a reading, mL
	Step                float64   // what is read of the burette, mL
	Figures             int       // that a step is written with at least
	Rivals              []float64 // means of sets that agree as well, mL
	Nominal             Nominal
}

// Nominal is what the practical gives of what is found or measured: the concentration of
// the known solution, mol/L, the mass of the sample, g, and the volumes of sample and
// reagent in excess, mL; 0 where it gives none.
type Nominal struct{ Known, Mass, Standard, Sample, Reagent float64 }

// Slips are the usual slips of a calculation. Source: common practice, no source.
var Slips = []string{"thousand", "hundred", "ten", "ratio-inverted", "ratio-left-out", "dilution-left-out", "dilution-inverted",
	"water-left-out", "molar-mass-left-out", "other-molar-mass", "purity-left-out", "density-left-out", "count-left-out", "volumes-swapped", "other-volume",
	"upside-down", "multiplied", "divided", "remainder-taken", "not-subtracted", "blank-left-out", "blank-added", "nominal-taken",
	"rough-included", "all-averaged", "two-closest", "one-alone", "not-divided", "from-capacity", "start-left-out", "read-upward",
	"digits-swapped", "copied-wrong", "rounded-early"}

// vague are slips that explain a figure no better than a stray power of ten does.
var vague = []string{"slip.divided", "slip.multiplied", "slip.one-alone", "slip.copied-wrong"}

// A dilution is a ratio of volumes: who leaves it out takes one of them for the other.
var (
	dilutions   = []string{"slip.dilution-left-out", "slip.dilution-inverted"}
	otherVolume = "slip.other-volume"
)

var slips = finding.Family("slip.", Slips)

// Slippings are what the usual slips make of a step by the student's earlier figures
// (own, by place): first those that this step itself can have, then stray powers of ten.
func Slippings(d dv.Derivation, at int, own map[int]float64, r Record) (here, stray []Slipped) {
	s := &search{d: d, at: at, own: own}
	n := d.Nodes[at]
	within := d.Within(at, own)
	for _, i := range within {
		s.about = about(d.Nodes[i])
		s.input(i, r)
	}
	s.about = ""
	s.bothVolumes(within)
	s.operation(n)
	switch {
	case n.ID == dv.MeanTitre:
		s.mean(r)
	case n.Own && len(n.Inputs) == 2:
		s.titre(n, r)
	}
	expected := s.with(nil)
	power := func(slip string, by float64) {
		stray = append(stray, Slipped{Slip: slip, Value: expected * by}, Slipped{Slip: slip, Value: expected / by})
	}
	power("thousand", 1000)
	power("ten", 10)
	if _, err := (quantity.Quantity{Value: 1, Unit: n.Quantity.Unit}).In(quantity.Percent); err == nil {
		power("hundred", 100) // a fraction or a percentage
	}
	return s.found, stray
}

// search collects what slips make of a step.
type search struct {
	d     dv.Derivation
	at    int
	own   map[int]float64
	about string
	found []Slipped
}

// about names a figure for all trials alike.
func about(n dv.Node) string { return n.ID[strings.LastIndexByte(n.ID, '/')+1:] }

func (s *search) try(slip string, value float64) {
	s.found = append(s.found, Slipped{slip, value, s.about})
}

// value is the student's figure for a node.
func (s *search) value(i int) float64 { return s.d.Recompute(s.own, i) }

// with is the step with other values for some nodes.
func (s *search) with(other map[int]float64) float64 {
	all := make(map[int]float64, len(s.own)+len(other))
	for k, x := range s.own {
		if k != s.at {
			all[k] = x
		}
	}
	maps.Copy(all, other)
	return s.d.Recompute(all, s.at)
}

// put tries a slip that puts another value in the place of a node.
func (s *search) put(slip string, i int, v float64) { s.try(slip, s.with(map[int]float64{i: v})) }

// input tries the slips that can be made with a figure that the step uses.
func (s *search) input(i int, r Record) {
	in := s.d.Nodes[i]
	v := s.value(i)
	if given := in.Source.Instead.Float64(); given > 0 { // though another was measured
		s.nominal(i, given, true)
	}
	switch {
	case in.Operation == dv.Ratio && v != 1:
		s.put("ratio-inverted", i, 1/v)
		s.put("ratio-left-out", i, 1)
	case in.Letter == "f":
		s.put("dilution-left-out", i, 1)
		s.put("dilution-inverted", i, 1/v)
	case in.Operation == dv.Molar:
		s.molar(i)
	case in.Source.Kind == dv.Purity:
		s.put("purity-left-out", i, 1)
	case in.Source.Kind == dv.Density:
		s.put("density-left-out", i, 1)
	case in.Letter == "N":
		s.put("count-left-out", i, 1)
	case strings.HasSuffix(in.ID, dv.Corrected):
		mean, blank := s.value(in.Inputs[0]), s.value(in.Inputs[1])
		s.put("blank-left-out", i, mean)
		s.put("blank-added", i, mean+blank)
	case in.Source.Kind == dv.KnownSolution || in.Source.Kind == dv.ExcessSolution:
		s.nominal(i, r.Nominal.Known, in.ID == dv.Known)
		s.copied(i)
	case in.Operation == dv.Difference && in.Quantity.Unit == quantity.Gram:
		nominal := r.Nominal.Mass
		if in.ID == dv.MadeMass {
			nominal = r.Nominal.Standard
		}
		s.nominal(i, nominal, s.measuredBy(in, dv.Balance))
		s.copied(i)
	case in.Operation == dv.Difference && in.Quantity.Unit == quantity.Millilitre:
		s.nominal(i, r.Nominal.Sample, s.measuredBy(in, dv.SampleBurette))
		s.nominal(i, r.Nominal.Reagent, s.measuredBy(in, dv.ReagentBurette))
	case in.Quantity.Unit == quantity.Litre:
		s.volume(i)
	}
}

// Factor tells whether a node is a pure number that may be brought in earlier or later: a
// mole ratio, a dilution, a number of tablets, a purity.
func Factor(n dv.Node) bool {
	return n.Operation == dv.Ratio || n.Letter == "f" || n.Letter == "N" || n.Source.Kind == dv.Purity
}

// measuredBy tells whether a difference is one of readings of this.
func (s *search) measuredBy(n dv.Node, by dv.SourceKind) bool {
	return s.d.Nodes[n.Inputs[0]].Source.Kind == by
}

// nominal tries the nominal value in the place of the one that was found or measured.
func (s *search) nominal(i int, v float64, here bool) {
	if here && v > 0 && v != s.value(i) {
		s.put("nominal-taken", i, v)
	}
}

// copied tries a figure of the record with two neighbouring digits in each other's place.
func (s *search) copied(i int) {
	n := s.d.Nodes[i]
	digits := n.Written
	if d, ok := decimal.FromFloat(n.Quantity.Value); digits == "" && ok {
		digits = d.String()
	}
	transposed(digits, func(v float64) bool {
		if ratio := v / s.value(i); 0.2 < ratio && ratio < 5 { // else it is the decimal point that moved
			s.put("copied-wrong", i, v)
		}
		return false
	})
}

// molar tries other molar masses: none at all, without the water of crystallisation, of an
// atom of the formula, of another substance of this working, of a relative in the catalogue.
func (s *search) molar(i int) {
	s.put("molar-mass-left-out", i, 1)
	f, err := chem.ParseFormula(s.d.Nodes[i].Of)
	if err != nil {
		return
	}
	dry, crystals := f.Anhydrous()
	others := map[string]chem.Formula{}
	add := func(o chem.Formula, err error) {
		if _, unnamed := o.Unnamed(); err == nil && !unnamed && !o.Same(f) && !(crystals && o.Same(dry)) {
			others[o.Plain()] = o
		}
	}
	for _, a := range f.Atoms() {
		if a.Element != "H" { // about 1: the molar mass left out
			add(chem.ParseFormula(a.Element))
		}
	}
	for _, n := range s.d.Nodes {
		if n.Of != "" {
			add(chem.ParseFormula(n.Of))
		}
	}
	for _, substance := range catalog.BuiltIn().Substances {
		if o, err := chem.ParseFormula(substance.Formula); err == nil && o.Relative(f) {
			add(o, nil)
		}
	}
	if crystals {
		for _, m := range dry.SchoolMasses() {
			s.put("water-left-out", i, m)
		}
	}
	for _, o := range others {
		for _, m := range o.SchoolMasses() {
			s.put("other-molar-mass", i, m)
		}
	}
}

// bothVolumes tries two volumes of a step in each other's place.
func (s *search) bothVolumes(within []int) {
	for k, i := range within {
		for _, j := range within[k+1:] {
			if a, b := s.d.Nodes[i], s.d.Nodes[j]; a.Quantity.Unit == quantity.Litre && b.Quantity.Unit == quantity.Litre && a.Of != b.Of {
				s.try("volumes-swapped", s.with(map[int]float64{i: s.value(j), j: s.value(i)}))
			}
		}
	}
}

// volume tries the other volumes of the working in the place of one: those that are worked
// with, and what glassware holds.
func (s *search) volume(i int) {
	in := s.d.Nodes[i]
	for j, other := range s.d.Nodes {
		v := s.value(j)
		switch {
		case j == i || other.Trial != in.Trial && other.Trial != "" && in.Trial != "":
			continue
		case other.Quantity.Unit == quantity.Litre:
		case other.Quantity.Unit == quantity.Millilitre && other.Operation == dv.Given && other.Of == in.Of:
			v *= quantity.Millilitre.Scale() / quantity.Litre.Scale()
		default:
			continue
		}
		// The two volumes of a titration are easily swapped.
		slip := "volumes-swapped"
		if s.about = ""; other.Of == in.Of {
			slip, s.about = "other-volume", about(in)
		}
		s.put(slip, i, v)
	}
}

// operation tries what can be mistaken in how the step's figures are put together.
func (s *search) operation(n dv.Node) {
	values := make([]float64, len(n.Inputs))
	for k, i := range n.Inputs {
		values[k] = s.value(i)
	}
	factor := func(i int) bool { return s.d.Nodes[i].Operation == dv.Ratio || s.d.Nodes[i].Letter == "f" }
	switch two := len(values) == 2; {
	case n.Operation == dv.Quotient && two:
		s.try("upside-down", values[1]/values[0])
		if !factor(n.Inputs[0]) && !factor(n.Inputs[1]) {
			s.try("multiplied", values[0]*values[1])
		}
	case n.Operation == dv.Product && two && !factor(n.Inputs[0]) && !factor(n.Inputs[1]):
		s.try("divided", values[0]/values[1])
		s.try("divided", values[1]/values[0])
	case n.Operation == dv.Difference && two && n.ID != dv.Corrected && !n.Own:
		s.try("not-subtracted", values[0])
		s.try("remainder-taken", values[1])
	case n.Operation == dv.Mean && len(values) > 1:
		sum := 0.0
		for _, v := range values {
			sum += v
		}
		s.try("not-divided", sum)
		for _, v := range values {
			s.try("one-alone", v)
		}
	}
}
