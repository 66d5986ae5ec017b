package budget

import (
	"math"
	"slices"

	"exactflask/core/chemistry/chem"
	"exactflask/core/chemistry/glass"
	"exactflask/core/model/assay"
	dv "exactflask/core/model/derivation"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
	"exactflask/core/values/statistics"
)

// The volume of water grows by
// 2.1e-4 of itself a kelvin (EURACHEM/CITAC CG4, QUAM:2012, A2).
const (
	expansion = 2.1e-4 // 1/K
)

// kelvin is the unit of the temperature's standard uncertainty.
const kelvin quantity.Unit = "K"

// inputs collects the sources of error of a derivation.
type inputs struct {
	a   *assay.Assay
	r   *practical.Ready
	d   dv.Derivation
	out []Input

	ends, warm []Effect
	drops      []Effect // ends that an eye saw
	sampleEnds map[dv.SourceKind][]Effect
	shared     []source
}

// source is one thing that measured several leaves.
type source struct {
	first dv.Node
	on    []Effect
}

// Inputs lists the sources of error of a derivation. What is shared (one
// burette, one pipette used twice, the temperature of all solutions) is one
// input that acts on several leaves.
func Inputs(a *assay.Assay, d dv.Derivation) []Input {
	c := &inputs{a: a, r: a.Ready(), d: d, sampleEnds: map[dv.SourceKind][]Effect{}, out: make([]Input, 0, len(d.Nodes)/2)}
	for i := range d.Nodes {
		if n := &d.Nodes[i]; n.Leaf() && n.Source.Kind != "" {
			c.leaf(i, n)
		}
	}
	c.burettes()
	c.repeatability()
	c.add("temperature", finding.Value{}, c.kelvins(), Rectangular, kelvin, c.warm...)
	for _, s := range c.shared {
		c.source(s)
	}
	return c.out
}

// glassAt is the temperature that volumetric glass is marked for, °C (ISO 384, from memory), and
// readAs how surely a thermometer of the bench is read, K (common practice, no source).
const glassAt, readAs = 20, 1

// kelvins is how far the solutions may be from the temperature that the glass is marked for: as
// the norm takes it, or, where it was measured, by that.
func (c *inputs) kelvins() float64 {
	if celsius, ok := c.a.Celsius(); ok {
		return math.Abs(celsius-glassAt) + readAs
	}
	return c.r.Norms().Of(practical.RoomKelvin)
}

func (c *inputs) add(code string, of finding.Value, halfWidth float64, shape Shape, unit quantity.Unit,
	effects ...Effect) {
	if u := shape.Standard(halfWidth); u > 0 && len(effects) > 0 {
		c.out = append(c.out, Input{Code: code, Of: of, Standard: u, Shape: shape, Unit: unit, Effects: effects})
	}
}

func (c *inputs) leaf(i int, n *dv.Node) {
	one := Effect{i, 1}
	switch kind := n.Source.Kind; kind {
	case dv.Burette, dv.SampleBurette, dv.ReagentBurette:
		step := c.r.Glass.Burette.Step(c.r.Rules.Readings.Resolution).Float64()
		if n.Source.Curve > 0 {
			c.add("curve", finding.Value{}, n.Source.Curve, Normal, quantity.Millilitre, one)
		} else {
			c.add("reading", finding.Value{}, step/2, Rectangular, quantity.Millilitre, one)
		}
		// Liquid between two readings grows with both of them.
		c.warm = append(c.warm, Effect{i, n.Quantity.Value * expansion})
		if n.Source.Point != dv.End {
			return
		}
		if kind == dv.Burette {
			c.ends = append(c.ends, one)
			if n.Source.Curve == 0 {
				c.drops = append(c.drops, one)
			}
		} else {
			c.sampleEnds[kind] = append(c.sampleEnds[kind], one)
		}
	case dv.Balance:
		c.add("balance", finding.Value{}, c.r.Glass.Balance.Float64(), Rectangular, quantity.Gram, one)
	default:
		if _, ok := n.Source.Glass(); ok {
			c.warm = append(c.warm, Effect{i, n.Quantity.Value * expansion})
		}
		for j := range c.shared {
			s := &c.shared[j]
			if s.first.Source.Shares(n.Source) && (s.first.Of == n.Of || n.Source.Volume.Sign() > 0) {
				s.on = append(s.on, one)
				return
			}
		}
		c.shared = append(c.shared, source{*n, []Effect{one}})
	}
}

// burettes adds tolerance and last drop of each burette; all three are taken to
// be of one kind.
func (c *inputs) burettes() {
	b := c.r.Glass.Burette
	of := finding.Exact(b.Capacity, quantity.Millilitre)
	t, listed := b.Tolerance()
	if t.Sign() > 0 {
		before := len(c.out)
		c.add("burette", of, t.Float64(), Triangular, quantity.Millilitre, c.ends...)
		c.add("sample-burette", of, t.Float64(), Triangular, quantity.Millilitre, c.sampleEnds[dv.SampleBurette]...)
		c.add("reagent-burette", of, t.Float64(), Triangular, quantity.Millilitre, c.sampleEnds[dv.ReagentBurette]...)
		for i := range c.out[before:] {
			c.out[before+i].Estimated = !listed
		}
	}
	c.add("drop", finding.Value{}, glass.Drop/2, Rectangular, quantity.Millilitre, c.drops...)
}

// repeatability is the scatter of what was averaged: of the titres (to either
// end point, and of the blanks), on all of them; of the answers of unequal
// samples, on their mean.
func (c *inputs) repeatability() {
	last := len(c.d.Nodes) - 1
	if c.single() {
		c.assumed(last)
	}
	for at, n := range c.d.Nodes {
		if n.Operation != dv.Mean || len(n.Inputs) < 2 {
			continue
		}
		values, on := make([]float64, len(n.Inputs)), make([]Effect, len(n.Inputs))
		for i, in := range n.Inputs {
			values[i] = c.d.Nodes[in].Quantity.Value
			if at != last {
				on[i] = Effect{c.d.Nodes[in].Inputs[0], 1} // its end reading
			}
		}
		if at == last {
			on = []Effect{{at, 1}}
		}
		st, ok := statistics.Describe(values)
		if !ok {
			continue
		}
		sd, freedom := st.SD, st.N-1
		if least := c.least(at); sd < least { // equal by chance
			sd, freedom = least, 0
		}
		before := len(c.out)
		c.add("repeatability", finding.Count(st.N), sd/math.Sqrt(float64(st.N)), Normal, n.Quantity.Unit, on...)
		for i := range c.out[before:] {
			c.out[before+i].Freedom = freedom
		}
	}
}

// single tells whether everything comes of one trial; blanks aside.
func (c *inputs) single() bool {
	trial := ""
	for _, e := range c.ends {
		if n := c.d.Nodes[e.Node]; !c.ofBlank(n) {
			if trial != "" && n.Trial != trial {
				return false
			}
			trial = n.Trial
		}
	}
	return trial != ""
}

// ofBlank tells whether a reading is that of a blank.
func (c *inputs) ofBlank(n dv.Node) bool {
	return slices.ContainsFunc(c.a.Held().Blanks, func(b assay.Measured) bool { return b.Trial == n.Trial })
}

// repeatabilityLimit is by how many standard deviations of repeatability two results differ at
// most, in 95 of 100 cases: 1.96 times the root of 2 (ISO 5725-6:1994, 4.1.1, quoted from memory).
const repeatabilityLimit = 2.8

// assumed is the scatter of one trial, which tells nothing of it: titres that have to agree
// within the rule's tolerance are taken to do so in 95 of 100 pairs.
func (c *inputs) assumed(last int) {
	before := len(c.out)
	if rule := c.r.Rules.Agreement; rule.Kind == practical.Relative {
		width := 2 * rule.Percent.Float64() / 100 * math.Abs(c.d.Nodes[last].Quantity.Value)
		c.add("repeatability", finding.Count(1), width/repeatabilityLimit, Normal, c.d.Nodes[last].Quantity.Unit, Effect{last, 1})
	} else {
		for _, e := range c.ends {
			if !c.ofBlank(c.d.Nodes[e.Node]) {
				c.add("repeatability", finding.Count(1), rule.Tolerance.Float64()/repeatabilityLimit, Normal, quantity.Millilitre, e)
			}
		}
	}
	for i := range c.out[before:] {
		c.out[before+i].Estimated = true
	}
}

// least is the scatter below which no values of a mean are believed to lie: an end that an eye
// sees falls anywhere within a drop, each time anew.
func (c *inputs) least(mean int) float64 {
	program := c.d.Program()
	sum := 0.0
	for _, in := range c.d.Nodes[mean].Inputs {
		gradient := program.Gradient(in)
		for i, n := range c.d.Nodes[:in] {
			if n.Leaf() && n.Source.Kind == dv.Burette && n.Source.Point == dv.End && n.Source.Curve == 0 && n.Trial == c.d.Nodes[in].Trial {
				sum += math.Abs(gradient[i])
			}
		}
	}
	return sum / float64(len(c.d.Nodes[mean].Inputs)) * Rectangular.Standard(glass.Drop/2)
}

func (c *inputs) source(s source) {
	n := s.first
	switch kind := n.Source.Kind; kind {
	case dv.Pipette, dv.Flask, dv.Cylinder:
		g, _ := n.Source.Glass()
		t, listed := glass.Tolerance(g, n.Source.Volume, n.Source.Class)
		if own := n.Source.Within; own.Sign() > 0 {
			t, listed = own, true
		}
		before := len(c.out)
		c.add(string(kind), finding.Exact(n.Source.Volume, quantity.Millilitre), t.Float64(), Triangular,
			quantity.Millilitre, s.on...)
		if len(c.out) > before {
			c.out[before].Estimated = !listed
		}
	case dv.KnownSolution:
		u, shape := c.known(n)
		c.add("known", finding.Formula(n.Of), u, shape, n.Quantity.Unit, s.on...)
	case dv.ExcessSolution:
		half, _ := c.r.Sure(c.r.Steps[n.Route-1].Concentration)
		c.add("excess", finding.Formula(n.Of), half, Rectangular, n.Quantity.Unit, s.on...)
	case dv.StockSolution:
		half, nominal := c.r.Sure(c.a.StockStrength())
		if !nominal {
			half = lastDigit(n) / 2
		}
		c.add("stock", finding.Formula(n.Of), half, Rectangular, n.Quantity.Unit, s.on...)
	case dv.Density:
		c.add("density", finding.Value{}, lastDigit(n)/2, Rectangular, n.Quantity.Unit, s.on...)
	case dv.Purity:
		c.add("purity", finding.Formula(n.Of), c.r.Known().PuritySpread.Float64(), Rectangular, quantity.One, s.on...)
	case dv.AtomicWeights:
		if f, err := chem.ParseFormula(n.Of); err == nil {
			c.add("molar-mass", finding.Formula(n.Of), f.MolarMassUncertaintyBy(c.r.Rules.AtomicWeights), Normal, quantity.GramPerMole, s.on...)
		}
	}
}

// known is the uncertainty of the known concentration, where something tells it;
// else what its digits say.
func (c *inputs) known(n dv.Node) (float64, Shape) {
	if u, ok := c.a.KnownUncertainty(); ok {
		return u, Normal
	}
	return lastDigit(n) / 2, Rectangular
}

// lastDigit is one unit of the last digit that was written.
func lastDigit(n dv.Node) float64 {
	d := n.Quantity
	if d.Value == 0 || d.Figures == 0 {
		return 0
	}
	return math.Pow(10, math.Floor(math.Log10(math.Abs(d.Value))+1e-12)-float64(d.Figures)+1)
}
