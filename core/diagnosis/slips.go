package diagnosis

import (
	"math"

	"exactflask/core/chem"
	dv "exactflask/core/derivation"
	"exactflask/core/finding"
	"exactflask/core/quantity"
)

// Record is what slips of the mean titre are found from: the titres of the
// trials that count, of all accurate ones, and of the rough ones, and the end
// readings of those that count, mL.
type Record struct {
	Counted, All, Rough []float64
	Ends                []float64
	Capacity            float64
}

// The usual slips of a calculation. Source: common practice, no source.
var slips = finding.Family("slip.", []string{"thousand", "ten", "ratio-inverted", "ratio-left-out",
	"dilution-left-out", "dilution-inverted",
	"water-left-out", "volumes-swapped", "upside-down", "rough-included", "all-averaged", "from-capacity", "rounded-early"})

// Given is a student's own value for a step: the value, half a unit of its last
// digit, and what the step should give by the student's own earlier figures.
type Given struct {
	Value, Half, Expected float64
}

// Fits tells whether the given value is this one, as far as it was written.
func (g Given) Fits(value float64) bool {
	return math.Abs(g.Value-value) <= math.Max(g.Half*1.001, 5e-4*math.Abs(value))
}

// search looks for the one slip that fits.
type search struct {
	Given
	found   string
	several bool
}

func (s *search) try(slip string, value float64) {
	if value == 0 || !finite(value) || !s.Fits(value) {
		return
	}
	code := slips[slip].Name()
	s.several = s.several || s.found != "" && s.found != code
	s.found = code
}

// Slip names the usual slip that a wrong value of a step fits; nothing when
// none does, or when several do. own are the student's figures for earlier
// steps, by place.
func Slip(d dv.Derivation, at int, own map[int]float64, g Given, r Record) string {
	s := &search{Given: g}
	n := d.Nodes[at]
	value := func(i int) float64 { return d.Recompute(own, i) }
	with := func(i int, v float64) float64 {
		all := make(map[int]float64, len(own)+1)
		for k, x := range own {
			all[k] = x
		}
		all[i] = v
		return d.Recompute(all, at)
	}
	for _, i := range n.Inputs {
		switch in := d.Nodes[i]; {
		case in.Operation == dv.Ratio && value(i) != 1:
			s.try("ratio-inverted", with(i, 1/value(i)))
			s.try("ratio-left-out", with(i, 1))
		case in.Letter == "f":
			s.try("dilution-left-out", with(i, 1))
			s.try("dilution-inverted", with(i, 1/value(i)))
		case in.Operation == dv.Molar:
			if f, err := chem.ParseFormula(in.Of); err == nil {
				if dry, ok := f.Anhydrous(); ok {
					s.try("water-left-out", with(i, dry.MolarMass().Float64()))
				}
			}
		case in.Quantity.Unit == quantity.Litre:
			// The two volumes of a titration are easily swapped.
			for j, other := range d.Nodes {
				if other.Quantity.Unit == quantity.Litre && j != i && other.Of != in.Of {
					s.try("volumes-swapped", with(i, other.Quantity.Value))
				}
			}
		}
	}
	if n.Operation == dv.Quotient && n.Quantity.Unit != quantity.One {
		s.try("upside-down", 1/g.Expected)
	}
	if n.ID == dv.MeanTitre {
		s.mean(r)
	}
	if s.found == "" { // what this step itself explains goes before a stray power of ten
		s.try("thousand", g.Expected*1000)
		s.try("thousand", g.Expected/1000)
		s.try("ten", g.Expected*10)
		s.try("ten", g.Expected/10)
	}
	switch {
	case s.several:
		return ""
	case s.found == "" && math.Abs(g.Value-g.Expected) < 0.02*math.Abs(g.Expected):
		return slips["rounded-early"].Name()
	}
	return s.found
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
	s.try("from-capacity", r.Capacity-average(r.Ends))
}
