package experiment

import (
	"cmp"
	"math"
	"slices"
	"strconv"
	"strings"

	"exactflask/core/agreement"
	"exactflask/core/chem"
	"exactflask/core/decimal"
	"exactflask/core/glass"
	"exactflask/core/journal"
	"exactflask/core/quantity"
	"exactflask/core/stoich"
)

// What is taken for every titration, common practice, no source: a drop of
// 0.05 mL, a laboratory within 3 K of 20 °C. The volume of water grows by
// 2.1e-4 of itself a kelvin (EURACHEM/CITAC CG4, QUAM:2012, A2).
const (
	drop        = 0.05   // mL
	temperature = 3      // K, half width
	expansion   = 2.1e-4 // 1/K
)

// inputs lists the sources of error of a derivation. What is shared (one
// burette, one pipette used twice, the temperature of all solutions) is one
// input that acts on several leaves.
func (s setup) inputs(d stoich.Derivation, averaged []Trial) []stoich.Input {
	var out []stoich.Input
	add := func(code, of string, standard float64, shape stoich.Shape, unit quantity.Unit, effects ...stoich.Effect) {
		if standard > 0 && len(effects) > 0 {
			out = append(out, stoich.Input{Code: code, Of: of, Standard: standard, Shape: shape, Unit: string(unit), Effects: effects})
		}
	}
	step := s.Burette.Step(s.Readings.Resolution).Float64()
	var ends, scatter, warm []stoich.Effect
	values := make([]float64, len(averaged))
	counted := map[string]bool{}
	for i, t := range averaged {
		values[i], counted[t.ID] = s.onStrip(t).Float64(), true
	}
	bySource := map[string][]stoich.Effect{}
	var sources []string
	leaves := map[string]stoich.Node{}
	for _, n := range d.Nodes {
		if !n.Leaf() || n.Source == "" {
			continue
		}
		leaves[n.ID] = n
		one := stoich.Effect{Leaf: n.ID, Gain: 1}
		kind, _, _ := strings.Cut(n.Source, "-")
		switch {
		case n.Source == "burette" || n.Source == "sample-burette":
			add("reading", n.Written, stoich.Rectangular.Standard(step/2), stoich.Rectangular, quantity.Millilitre, one)
			if strings.HasSuffix(n.ID, "end") {
				if n.Source == "burette" {
					ends = append(ends, one)
					if counted[n.Trial] {
						scatter = append(scatter, one)
					}
				} else {
					bySource[n.Source] = append(bySource[n.Source], one)
				}
				warm = append(warm, stoich.Effect{Leaf: n.ID, Gain: n.Quantity.Value * expansion})
			}
			if n.Source == "burette" && strings.HasSuffix(n.ID, "/start") {
				warm = append(warm, stoich.Effect{Leaf: n.ID, Gain: n.Quantity.Value * expansion})
			}
			continue
		case n.Source == "balance":
			add("balance", n.Written, stoich.Rectangular.Standard(s.balance()), stoich.Rectangular, quantity.Gram, one)
			continue
		case kind == "pipette" || kind == "flask" || kind == "cylinder":
			warm = append(warm, stoich.Effect{Leaf: n.ID, Gain: n.Quantity.Value * expansion})
		}
		if len(bySource[n.Source]) == 0 {
			sources = append(sources, n.Source)
		}
		bySource[n.Source] = append(bySource[n.Source], one)
	}
	if t, ok := s.Burette.Tolerance(); ok {
		add("burette", s.Burette.Capacity.String(), stoich.Triangular.Standard(t.Float64()), stoich.Triangular, quantity.Millilitre, ends...)
		add("sample-burette", s.Burette.Capacity.String(), stoich.Triangular.Standard(t.Float64()), stoich.Triangular, quantity.Millilitre, bySource["sample-burette"]...)
	}
	add("drop", "", stoich.Rectangular.Standard(drop/2), stoich.Rectangular, quantity.Millilitre, ends...)
	if st, ok := agreement.Describe(values); ok {
		add("repeatability", strconv.Itoa(st.N), st.SD/math.Sqrt(float64(st.N)), stoich.Normal, quantity.Millilitre, scatter...)
	}
	add("temperature", "", stoich.Rectangular.Standard(temperature), stoich.Rectangular, "K", warm...)
	for _, source := range sources {
		n := leaves[bySource[source][0].Leaf]
		kind, rest, _ := strings.Cut(source, "-")
		switch kind {
		case "pipette", "flask", "cylinder":
			at := strings.LastIndexByte(rest, '-')
			if at < 0 {
				continue
			}
			volume, err := decimal.Parse(rest[:at])
			if err != nil {
				continue
			}
			if t, ok := glass.Tolerance(glass.Kind(kind), volume, glass.Class(rest[at+1:])); ok {
				add(kind, volume.String(), stoich.Triangular.Standard(t.Float64()), stoich.Triangular, quantity.Millilitre, bySource[source]...)
			}
		case "known":
			u, shape := s.knownUncertainty(n)
			add("known", n.Of, u, shape, n.Quantity.Unit, bySource[source]...)
		case "excess", "density":
			add(kind, n.Of, stoich.Rectangular.Standard(lastDigit(n)/2), stoich.Rectangular, n.Quantity.Unit, bySource[source]...)
		case "purity":
			add("purity", n.Of, stoich.Rectangular.Standard(s.Analyte.PuritySpread.Float64()), stoich.Rectangular, quantity.One, bySource[source]...)
		case "molar":
			if f, err := chem.ParseFormula(n.Of); err == nil {
				add("molar-mass", n.Of, f.MolarMassUncertainty(), stoich.Rectangular, quantity.GramPerMole, bySource[source]...)
			}
		}
	}
	return out
}

// balance is its readability in g.
func (s setup) balance() float64 {
	if s.Balance.Sign() > 0 {
		return s.Balance.Float64()
	}
	return 0.001
}

// knownUncertainty is the standard uncertainty of the known concentration.
func (s setup) knownUncertainty(n stoich.Node) (float64, stoich.Shape) {
	u := s.Titrant.Uncertainty
	if s.UnknownInBurette() {
		u = s.Analyte.Uncertainty
	}
	if u.Sign() > 0 {
		return u.Float64(), stoich.Normal
	}
	if s.Standard != "" {
		// It will be standardised; what is given is nominal. A careful
		// standardisation is sure to some 0.3 % (common practice, no source).
		return 0.003 * n.Quantity.Value, stoich.Normal
	}
	return stoich.Rectangular.Standard(lastDigit(n) / 2), stoich.Rectangular
}

// lastDigit is one unit of the last digit that was written.
func lastDigit(n stoich.Node) float64 {
	d, err := journal.ParseReading(n.Written)
	if err != nil {
		return 0
	}
	return math.Pow(10, -float64(d.Places()))
}

// sure adds the uncertainty to a result: the budget, and which one improvement
// would help most.
func (s setup) sure(r *Result, m *stoich.Model, ev Evaluation, averaged func(Trial) bool) {
	b := m.Budget(s.inputs(r.Derivation, those(ev, averaged)), "")
	b.Contributions = together(b.Contributions)
	r.Budget = &b
}

func those(ev Evaluation, averaged func(Trial) bool) []Trial {
	var out []Trial
	for _, t := range ev.Trials {
		if averaged(t) {
			out = append(out, t)
		}
	}
	return out
}

// together makes one bar of what is of one kind, such as all readings: their
// errors are independent, so that their variances add up.
func together(in []stoich.Contribution) []stoich.Contribution {
	at := map[string]int{}
	var out []stoich.Contribution
	for _, c := range in {
		i, there := at[c.Code]
		if !there || c.Code != "reading" && c.Code != "balance" {
			at[c.Code] = len(out)
			out = append(out, c)
			continue
		}
		sum := &out[i]
		sum.Share += c.Share
		sum.Answer = math.Hypot(sum.Answer, c.Answer)
		sum.Of = ""
	}
	slices.SortStableFunc(out, func(a, b stoich.Contribution) int { return cmp.Compare(b.Share, a.Share) })
	return out
}

// MonteCarlo propagates the distributions through the result of a notebook;
// false while there is no result. Source: JCGM 101:2008.
func MonteCarlo(p Practical, entries []journal.Entry, draws int, seed uint64) (stoich.Propagated, bool) {
	s, fault := p.prepare()
	if fault != nil {
		return stoich.Propagated{}, false
	}
	rec := journal.Fold(entries)
	s.standardised(rec.Known)
	ev := s.evaluate(rec)
	if ev.Result == nil {
		return stoich.Propagated{}, false
	}
	averaged := those(ev, func(t Trial) bool { return t.Counts })
	return ev.Result.Derivation.MonteCarlo(s.inputs(ev.Result.Derivation, averaged), draws, seed), true
}
