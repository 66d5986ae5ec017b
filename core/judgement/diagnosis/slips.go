package diagnosis

import (
	"math"
	"slices"
	"sort"
	"strings"

	"exactflask/core/chemistry/chem"
	dv "exactflask/core/model/derivation"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Record is what slips are found from that do not stand in the working: the titres of
// the trials that count, of all accurate ones, and of the rough ones; the readings of
// those that count, where each is one end less one start; mL. Nominal is the
// concentration of the known solution as the practical gives it, mol/L.
type Record struct {
	Counted, All, Rough []float64
	Ends, Starts        []float64
	Capacity            float64
	Places              int       // decimals of a reading, mL
	Step                float64   // what is read of the burette, mL
	Figures             int       // that a step is written with at least
	Rivals              []float64 // means of sets that agree as well, mL
	Nominal             float64
}

// Slips are the usual slips of a calculation. Source: common practice, no source.
var Slips = []string{"thousand", "hundred", "ten", "ratio-inverted", "ratio-left-out", "dilution-left-out", "dilution-inverted",
	"water-left-out", "molar-mass-left-out", "purity-left-out", "density-left-out", "count-left-out", "volumes-swapped", "other-volume",
	"upside-down", "multiplied", "divided", "remainder-taken", "not-subtracted", "blank-left-out", "blank-added", "nominal-taken",
	"rough-included", "all-averaged", "two-closest", "one-alone", "not-divided", "from-capacity", "start-left-out", "read-upward",
	"digits-swapped", "rounded-early"}

// vague are slips that explain a figure no better than a stray power of ten does.
var vague = []string{"slip.divided", "slip.multiplied", "slip.one-alone"}

var slips = finding.Family("slip.", Slips)

// Given is a student's own value for a step: the value, half a unit of its last
// digit, and what the step should give by the student's own earlier figures. Written
// are its digits, Scale what one of them is in the unit of the step. Coarse is that it is
// written with too few to tell it from other values; Near what it may lie off whatever its
// digits, as a part; Read half of what is read of a scale, where it is rounded to that.
type Given struct {
	Value, Half, Expected float64
	Written               decimal.Decimal
	Scale                 float64
	Coarse                bool
	Near, Read            float64
}

// Thousandth is what a figure may lie off whatever its digits, as a part. Source: common
// practice, no source.
const Thousandth = 1e-3

// Fits tells whether the given value is this one, as far as it was written. Nothing is
// nothing: 0 fits 0 alone, and what is written too coarsely fits by its size only.
func (g Given) Fits(value float64) bool {
	if g.Value == 0 || value == 0 {
		return g.Value == value
	}
	off := math.Abs(g.Value - value)
	return off <= g.Near*math.Abs(value)*(1+1e-9) || !g.Coarse && off <= max(g.Half, g.Read)*1.001
}

// Rounded tells whether the given value is this one rounded to too few figures.
func (g Given) Rounded(value float64) bool {
	return g.Coarse && g.Value != 0 && !g.Fits(value) && math.Abs(g.Value-value) <= g.Half*1.001
}

// Slipped is what a slip makes of a step.
type Slipped struct {
	Slip  string // without "slip."
	Value float64
}

// Slip names the usual slip that a wrong value of a step fits; nothing when
// none does, or when several do. own are the student's figures for earlier
// steps, by place.
func Slip(d dv.Derivation, at int, own map[int]float64, g Given, r Record) string {
	here, stray := Slippings(d, at, own, r)
	if g.transposed() {
		stray = append(stray, Slipped{"digits-swapped", g.Value})
	}
	code, found := g.among(here)
	other, astray := g.among(stray)
	switch {
	case found && astray && slices.Contains(vague, code):
		return ""
	case found: // what this step itself explains goes before a stray power of ten
		return code
	case astray:
		return other
	}
	return ""
}

// RoundedEarly is the slip of a figure that agrees only because it is written with too few.
var RoundedEarly = slips["rounded-early"].Name()

// among finds the one slip that fits; none where several do. A name is given more strictly
// than credit: what a molar mass of 100.09 and a factor of 100 make is told apart.
func (g Given) among(all []Slipped) (code string, found bool) {
	g.Near, g.Read = min(g.Near, Thousandth/2), 0
	for _, s := range all {
		if s.Value == 0 || !finite(s.Value) || !g.Fits(s.Value) {
			continue
		}
		switch name := slips[s.Slip].Name(); {
		case !found:
			code, found = name, true
		case code != name:
			return "", true
		}
	}
	return code, found
}

// transposed tells whether two neighbouring digits changed places.
func (g Given) transposed() bool {
	text := []byte(g.Written.String())
	for i := 0; i+1 < len(text); i++ {
		j := i + 1
		if text[j] == '.' && j+1 < len(text) {
			j++
		}
		if text[i] == text[j] || text[i] == '.' || text[i] == '-' || text[j] < '0' || text[j] > '9' {
			continue
		}
		swapped := slices.Clone(text)
		swapped[i], swapped[j] = swapped[j], swapped[i]
		v, err := decimal.Parse(string(swapped))
		if err == nil && math.Abs(v.Float64()*g.Scale-g.Expected) <= g.Half*1.001 {
			return true
		}
	}
	return false
}

// Slippings are what the usual slips make of a step by the student's earlier figures
// (own, by place): first those that this step itself can have, then stray powers of ten.
func Slippings(d dv.Derivation, at int, own map[int]float64, r Record) (here, stray []Slipped) {
	s := &search{d: d, at: at, own: own}
	n := d.Nodes[at]
	for _, i := range s.within() {
		s.input(i, r)
	}
	s.operation(n)
	if n.ID == dv.MeanTitre {
		s.mean(r)
	}
	expected := s.with(-1, 0)
	power := func(slip string, by float64) {
		stray = append(stray, Slipped{slip, expected * by}, Slipped{slip, expected / by})
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
	found []Slipped
}

func (s *search) try(slip string, value float64) { s.found = append(s.found, Slipped{slip, value}) }

// value is the student's figure for a node.
func (s *search) value(i int) float64 { return s.d.Recompute(s.own, i) }

// with is the step with another value for a node; -1 for none.
func (s *search) with(i int, v float64) float64 {
	all := make(map[int]float64, len(s.own)+1)
	for k, x := range s.own {
		if k != s.at {
			all[k] = x
		}
	}
	if i >= 0 {
		all[i] = v
	}
	return s.d.Recompute(all, s.at)
}

// within are the nodes that this step is made of, down to the leaves and to earlier steps
// for which the student has a figure: what was not written down belongs to this one.
func (s *search) within() []int {
	seen := map[int]bool{}
	var walk func(i int)
	walk = func(i int) {
		for _, in := range s.d.Nodes[i].Inputs {
			if !seen[in] {
				seen[in] = true
				if _, has := s.own[in]; !has || !s.d.IsStep(in) {
					walk(in)
				}
			}
		}
	}
	walk(s.at)
	out := make([]int, 0, len(seen))
	for i := range seen {
		out = append(out, i)
	}
	sort.Ints(out)
	return out
}

// input tries the slips that can be made with a figure that the step uses.
func (s *search) input(i int, r Record) {
	in := s.d.Nodes[i]
	v := s.value(i)
	switch {
	case in.Operation == dv.Ratio && v != 1:
		s.try("ratio-inverted", s.with(i, 1/v))
		s.try("ratio-left-out", s.with(i, 1))
	case in.Letter == "f":
		s.try("dilution-left-out", s.with(i, 1))
		s.try("dilution-inverted", s.with(i, 1/v))
	case in.Operation == dv.Molar:
		s.try("molar-mass-left-out", s.with(i, 1))
		if f, err := chem.ParseFormula(in.Of); err == nil {
			if dry, ok := f.Anhydrous(); ok {
				s.try("water-left-out", s.with(i, dry.MolarMass().Float64()))
			}
		}
	case in.Source.Kind == dv.Purity:
		s.try("purity-left-out", s.with(i, 1))
	case in.Source.Kind == dv.Density:
		s.try("density-left-out", s.with(i, 1))
	case in.Letter == "N":
		s.try("count-left-out", s.with(i, 1))
	case strings.HasSuffix(in.ID, dv.Corrected):
		mean, blank := s.value(in.Inputs[0]), s.value(in.Inputs[1])
		s.try("blank-left-out", s.with(i, mean))
		s.try("blank-added", s.with(i, mean+blank))
	case in.ID == dv.Known && r.Nominal > 0 && r.Nominal != v:
		s.try("nominal-taken", s.with(i, r.Nominal))
	case in.Quantity.Unit == quantity.Litre:
		s.volume(i)
	}
}

// volume tries the other volumes of the working in the place of one.
func (s *search) volume(i int) {
	in := s.d.Nodes[i]
	for j, other := range s.d.Nodes {
		if other.Quantity.Unit != quantity.Litre || j == i || other.Trial != in.Trial && other.Trial != "" && in.Trial != "" {
			continue
		}
		// The two volumes of a titration are easily swapped.
		slip := "volumes-swapped"
		if other.Of == in.Of {
			slip = "other-volume"
		}
		s.try(slip, s.with(i, s.value(j)))
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
		if n.Quantity.Unit != quantity.One {
			s.try("upside-down", values[1]/values[0])
		}
		if !factor(n.Inputs[0]) && !factor(n.Inputs[1]) {
			s.try("multiplied", values[0]*values[1])
		}
	case n.Operation == dv.Product && two && !factor(n.Inputs[0]) && !factor(n.Inputs[1]):
		s.try("divided", values[0]/values[1])
		s.try("divided", values[1]/values[0])
	case n.Operation == dv.Difference && two && n.ID != dv.Corrected:
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

// mean looks for slips of the mean titre: which titres were averaged.
func (s *search) mean(r Record) {
	average := func(lists ...[]float64) float64 {
		sum, n := 0.0, 0
		for _, list := range lists {
			for _, v := range list {
				sum, n = sum+v, n+1
			}
		}
		return sum / float64(n)
	}
	more := len(r.All) > len(r.Counted)
	if len(r.Rough) > 0 {
		s.try("rough-included", average(r.Counted, r.Rough))
		if more {
			s.try("rough-included", average(r.All, r.Rough))
		}
	}
	if more {
		s.try("all-averaged", average(r.All))
	}
	if two := closest(r.All); len(r.All) > 2 && len(r.Counted) > 2 {
		s.try("two-closest", average(two))
	}
	if len(r.Ends) == 0 || len(r.Ends) != len(r.Starts) {
		return
	}
	s.try("from-capacity", r.Capacity-average(r.Ends))
	var up []float64
	for i := range r.Ends {
		up = append(up, upwards(r.Ends[i])-upwards(r.Starts[i]))
	}
	s.try("read-upward", average(up))
	if average(r.Starts) != 0 {
		s.try("start-left-out", average(r.Ends))
	}
}

// upwards is what is read where the scale is read from the number below, mL: 26.4 for
// 25.6.
func upwards(v float64) float64 { return 2*math.Ceil(v) - v }

// closest are the two titres that lie closest together.
func closest(all []float64) []float64 {
	sorted := slices.Clone(all)
	slices.Sort(sorted)
	if len(sorted) < 2 {
		return sorted
	}
	at := 1
	for i := 2; i < len(sorted); i++ {
		if sorted[i]-sorted[i-1] < sorted[at]-sorted[at-1]-1e-9 {
			at = i
		}
	}
	return sorted[at-1 : at+1]
}
