package stoich

import (
	"math"
	"math/rand/v2"
	"slices"
)

// Shape is the distribution of an input's error.
type Shape string

// The shapes: a tolerance is triangular, a resolution rectangular, a scatter
// normal (EURACHEM/CITAC CG4, QUAM:2012, chapter 8).
const (
	Normal      Shape = "normal"
	Rectangular Shape = "rectangular"
	Triangular  Shape = "triangular"
)

// Standard returns the standard uncertainty of a half width: a/√3, a/√6; the
// half width of a normal distribution is taken as its standard deviation.
func (s Shape) Standard(halfWidth float64) float64 {
	switch s {
	case Rectangular:
		return halfWidth / math.Sqrt(3)
	case Triangular:
		return halfWidth / math.Sqrt(6)
	default:
		return halfWidth
	}
}

// Effect is what an error of one unit of an input does to a leaf: it is added
// to it times Gain.
type Effect struct {
	Leaf string
	Gain float64
}

// Input is one source of error. It may act on several leaves: what two
// quantities share (the same burette, the same standard) is counted once.
type Input struct {
	Code     string // such as burette, pipette, drop
	Of       string // what it is about: a volume, a formula
	Standard float64
	Shape    Shape
	Unit     string // of Standard
	Effects  []Effect
}

// Contribution is one bar of the budget.
type Contribution struct {
	Code     string  `json:"code" doc:"source of error, such as burette, pipette, repeatability"`
	Of       string  `json:"of,omitempty" doc:"what it is about"`
	Standard float64 `json:"standard" doc:"standard uncertainty of the input, in its unit"`
	Unit     string  `json:"unit"`
	Answer   float64 `json:"answer" doc:"what it adds to the answer's standard uncertainty, with its sign, in the answer's unit"`
	Share    float64 `json:"share" doc:"its part of the variance, 0 to 1"`
}

// Budget says how sure an answer is.
type Budget struct {
	Standard      float64        `json:"standard" doc:"combined standard uncertainty, in the answer's unit"`
	Expanded      float64        `json:"expanded" doc:"k = 2: about 95 % of results lie within"`
	Relative      float64        `json:"relative" doc:"standard uncertainty in % of the answer"`
	Contributions []Contribution `json:"contributions" doc:"largest first"`
}

// Budget combines the inputs to first order, by central differences of half a
// standard uncertainty each way (JCGM 100:2008, 5.1). id is the node asked
// for; empty for the answer.
func (d Derivation) Budget(inputs []Input, id string) Budget { return d.Model().Budget(inputs, id) }

// Budget is Derivation.Budget.
func (m *Model) Budget(inputs []Input, id string) Budget {
	at, ok := m.index[id]
	if !ok {
		at = m.Last()
	}
	answer := m.base[at]
	out := Budget{Contributions: make([]Contribution, 0, len(inputs))}
	variance := 0.0
	var places [64]int // of the leaves of one input; more are looked up again
	for _, in := range inputs {
		where := places[:0]
		for _, e := range in.Effects {
			where = append(where, m.index[e.Leaf])
		}
		shift := func(by float64) float64 {
			m.Reset()
			for i, e := range in.Effects {
				m.values[where[i]] += by * e.Gain
			}
			m.run()
			return m.values[at]
		}
		u := shift(in.Standard/2) - shift(-in.Standard/2)
		out.Contributions = append(out.Contributions, Contribution{Code: in.Code, Of: in.Of, Standard: in.Standard, Unit: in.Unit, Answer: u})
		variance += u * u
	}
	out.Standard = math.Sqrt(variance)
	out.Expanded = 2 * out.Standard
	if answer != 0 {
		out.Relative = 100 * out.Standard / math.Abs(answer)
	}
	for i := range out.Contributions {
		if variance > 0 {
			out.Contributions[i].Share = out.Contributions[i].Answer * out.Contributions[i].Answer / variance
		}
	}
	slices.SortStableFunc(out.Contributions, func(a, b Contribution) int {
		switch {
		case a.Share > b.Share:
			return -1
		case a.Share < b.Share:
			return 1
		}
		return 0
	})
	return out
}

func (d Derivation) indices() map[string]int {
	index := make(map[string]int, len(d.Nodes))
	for i, n := range d.Nodes {
		index[n.ID] = i
	}
	return index
}

// Propagated is what Monte Carlo finds.
type Propagated struct {
	Draws    int     `json:"draws"`
	Mean     float64 `json:"mean"`
	Standard float64 `json:"standard" doc:"standard deviation of the draws"`
	Low      float64 `json:"low" doc:"2.5 % of the draws lie below"`
	High     float64 `json:"high" doc:"2.5 % lie above"`
}

// MonteCarlo propagates the distributions of the inputs themselves (JCGM
// 101:2008) with a fixed seed, so that the same notebook gives the same
// figures. Draws is at least 2; more than a million are not made.
func (d Derivation) MonteCarlo(inputs []Input, draws int, seed uint64) Propagated {
	draws = min(max(draws, 2), 1_000_000)
	p := d.compile().trimmed(inputs, d.indices())
	random := rand.NewPCG(seed, 0x5eed)
	uniform := func() float64 { return float64(random.Uint64()>>11) / (1 << 53) }
	gauss := rand.New(random)
	results := make([]float64, draws)
	sum := 0.0
	for k := range results {
		copy(p.values, p.rest)
		for i := range p.inputs {
			in := &p.inputs[i]
			var x float64
			switch in.shape {
			case Rectangular:
				x = (2*uniform() - 1) * math.Sqrt(3)
			case Triangular:
				x = (uniform() - uniform()) * math.Sqrt(6)
			default:
				x = gauss.NormFloat64()
			}
			x *= in.standard
			for _, e := range in.effects {
				p.values[e.at] += x * e.gain
			}
		}
		p.run()
		results[k] = p.values[len(p.values)-1]
		sum += results[k]
	}
	mean := sum / float64(draws)
	squares := 0.0
	for _, r := range results {
		squares += (r - mean) * (r - mean)
	}
	low, high := quantiles(results)
	return Propagated{Draws: draws, Mean: mean, Standard: math.Sqrt(squares / float64(draws-1)), Low: low, High: high}
}

// quantiles finds the 2.5 % and 97.5 % values through a histogram, refined by
// sorting the two cells they lie in: sorting all would cost the most.
func quantiles(values []float64) (low, high float64) {
	least, most := slices.Min(values), slices.Max(values)
	if least == most {
		return least, most
	}
	const cells = 1024
	scale := (cells - 1) / (most - least)
	var counts [cells]int
	for _, v := range values {
		counts[int((v-least)*scale)]++
	}
	find := func(rank int) float64 {
		below, cell := 0, 0
		for below+counts[cell] <= rank {
			below += counts[cell]
			cell++
		}
		var in []float64
		for _, v := range values {
			if int((v-least)*scale) == cell {
				in = append(in, v)
			}
		}
		slices.Sort(in)
		return in[rank-below]
	}
	n := float64(len(values) - 1)
	return find(int(math.Round(0.025 * n))), find(int(math.Round(0.975 * n)))
}

// drawn is a program cut down to what the inputs reach.
type drawn struct {
	program
	rest   []float64 // values before an error is added
	inputs []drawnInput
}

type drawnInput struct {
	shape    Shape
	standard float64
	effects  []drawnEffect
}

type drawnEffect struct {
	at   int
	gain float64
}

// trimmed keeps the nodes that the inputs change; what they do not is a leaf.
func (p *program) trimmed(inputs []Input, index map[string]int) *drawn {
	touched := make([]bool, len(p.steps))
	for _, in := range inputs {
		for _, e := range in.Effects {
			touched[index[e.Leaf]] = true
		}
	}
	for i, s := range p.steps {
		for _, in := range s.inputs {
			touched[i] = touched[i] || touched[in]
		}
		if !touched[i] {
			p.steps[i] = step{}
		}
	}
	// Leaves that are only ever seen through one sum are not worth a walk of
	// their own: nodes that nothing needs are dropped, the others moved up.
	needed := make([]bool, len(p.steps))
	needed[len(needed)-1] = true
	for i := len(p.steps) - 1; i >= 0; i-- {
		if needed[i] {
			for _, in := range p.steps[i].inputs {
				needed[in] = true
			}
		}
	}
	out := &drawn{}
	moved := make([]int, len(p.steps))
	for i, s := range p.steps {
		if !needed[i] {
			continue
		}
		moved[i] = len(out.values)
		for j, in := range s.inputs {
			s.inputs[j] = moved[in]
		}
		out.values, out.steps = append(out.values, p.values[i]), append(out.steps, s)
	}
	for _, in := range inputs {
		d := drawnInput{shape: in.Shape, standard: in.Standard}
		for _, e := range in.Effects {
			if i := index[e.Leaf]; needed[i] {
				d.effects = append(d.effects, drawnEffect{moved[i], e.Gain})
			}
		}
		out.inputs = append(out.inputs, d)
	}
	out.rest = slices.Clone(out.values)
	return out
}
