package experiment

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"exactflask/core/decimal"
	"exactflask/core/stoich"
)

// Cause is one usual fault with what it does to this titration.
type Cause struct {
	Code    string  `json:"code" doc:"such as cause.bubble"`
	Size    float64 `json:"size" doc:"usual size of the fault, in its unit"`
	Unit    string  `json:"unit" doc:"mL, % or empty"`
	Titre   float64 `json:"titre" doc:"what it does to the titre, mL; 0 where it acts elsewhere"`
	Answer  float64 `json:"answer" doc:"what it does to the answer, in the answer's unit"`
	Percent float64 `json:"percent" doc:"the same in % of the answer"`
	Needed  float64 `json:"needed,omitempty" doc:"size the fault would need to explain the whole difference; 0 where it cannot"`
}

// fault is a usual fault: how large it is, and what it adds to leaves.
type fault struct {
	code  string
	size  float64
	unit  string
	apply func(n stoich.Node, size float64) float64 // what the fault of this size adds to a leaf
	where func(s setup) bool                        // whether it can happen here; nil: always
}

func onEnds(sign float64) func(stoich.Node, float64) float64 {
	return func(n stoich.Node, size float64) float64 {
		if n.Source == "burette" && strings.HasSuffix(n.ID, "end") {
			return sign * size
		}
		return 0
	}
}

// scaledLeaf changes the leaves of one source by a part of themselves.
func scaledLeaf(source string, sign float64) func(stoich.Node, float64) float64 {
	return func(n stoich.Node, size float64) float64 {
		if n.Source == source || strings.HasPrefix(n.Source, source+"-") {
			return sign * size / 100 * n.Quantity.Value
		}
		return 0
	}
}

// The usual faults and their usual sizes. Source: common practice, no source.
// The sign is that of what the fault makes of the record: a bubble that leaves
// the jet makes the titre look larger.
var faults = []fault{
	{"cause.bubble", 0.3, "mL", onEnds(1), nil},
	{"cause.overshoot", 0.05, "mL", onEnds(1), nil},
	{"cause.leak", 0.1, "mL", onEnds(1), nil},
	{"cause.funnel", 0.1, "mL", onEnds(-1), nil},
	{"cause.top-of-meniscus", 0.1, "mL", onEnds(-1), nil},
	{"cause.read-upward", 1, "", func(n stoich.Node, size float64) float64 {
		if n.Source != "burette" || !strings.HasSuffix(n.ID, "end") {
			return 0
		}
		_, part := math.Modf(n.Quantity.Value)
		return size * 2 * (1 - part) // 25.6 is read as 26.4
	}, nil},
	{"cause.burette-wet", 2, "%", scaledTitre(1), nil},
	{"cause.flask-with-sample", 0.5, "mL", onAliquot(-1), func(s setup) bool { return !s.UnknownInBurette() }},
	{"cause.flask-with-standard", 0.5, "mL", onAliquot(-1), func(s setup) bool { return s.UnknownInBurette() && !s.Aliquot.Volume.IsZero() }},
	{"cause.pipette-wet", 1, "%", scaledLeaf("pipette", 1), nil},
	{"cause.blown-out", 0.05, "mL", onAliquot(-1), nil},
	{"cause.mark-missed", 0.5, "mL", func(n stoich.Node, size float64) float64 {
		if strings.HasPrefix(n.Source, "flask-") {
			return -size
		}
		return 0
	}, nil},
	{"cause.old-hydroxide", 1, "%", scaledLeaf("known", 1), func(s setup) bool {
		known := s.titrant
		if s.UnknownInBurette() {
			known = s.analyte
		}
		return known.Plain() == "NaOH" || known.Plain() == "KOH"
	}},
	{"cause.standard-wet", 1, "%", scaledLeaf("balance", 1), func(s setup) bool { return s.UnknownInBurette() }},
}

// scaledTitre makes every titre larger by a part of itself: end and start grow
// by the same part.
func scaledTitre(sign float64) func(stoich.Node, float64) float64 {
	return func(n stoich.Node, size float64) float64 {
		if n.Source == "burette" {
			return sign * size / 100 * n.Quantity.Value
		}
		return 0
	}
}

// onAliquot changes what the last pipette delivers. More sample than the
// record says looks, in the record, like less volume for the same titre.
func onAliquot(sign float64) func(stoich.Node, float64) float64 {
	return func(n stoich.Node, size float64) float64 {
		if n.ID == stoich.NodeAliquot {
			return sign * size
		}
		return 0
	}
}

// causes says for every usual fault what it does to this answer, by the same
// derivation as the result. Where the answer differs from the label or the
// expected value, those that explain the difference best come first.
func (s setup) causes(r *Result, m *stoich.Model) []Cause {
	d := r.Derivation
	titreAt, hasTitre := titreNode(d, m)
	target := r.Label
	if target == nil {
		target = r.Expected
	}
	base := r.Answer.Value
	var out []Cause
	for _, f := range faults {
		if f.where != nil && !f.where(s) {
			continue
		}
		off := func(size float64) (answer, titre float64) {
			m.Reset()
			changed := false
			for i := range d.Nodes {
				n := &d.Nodes[i]
				if n.Source == "" {
					continue
				}
				if by := f.apply(*n, size); by != 0 {
					m.Shift(i, by)
					changed = true
				}
			}
			if !changed {
				return 0, 0
			}
			m.Run()
			if hasTitre {
				titre = m.Value(titreAt) - d.Nodes[titreAt].Quantity.Value
			}
			return m.Value(m.Last()) - base, titre
		}
		answer, titre := off(f.size)
		if answer == 0 {
			continue
		}
		c := Cause{Code: f.code, Size: f.size, Unit: f.unit, Titre: titre, Answer: answer, Percent: 100 * answer / base}
		if target != nil {
			c.Needed = needed(base-target.Value, f.size, answer, func(size float64) float64 { a, _ := off(size); return a })
		}
		out = append(out, c)
	}
	if target == nil {
		slices.SortStableFunc(out, func(a, b Cause) int { return cmp.Compare(math.Abs(b.Answer), math.Abs(a.Answer)) })
		return out
	}
	fit := func(c Cause) float64 { // how far the needed size is from the usual one
		if c.Needed <= 0 {
			return math.Inf(1)
		}
		return math.Abs(math.Log(c.Needed / c.Size))
	}
	slices.SortStableFunc(out, func(a, b Cause) int { return cmp.Compare(fit(a), fit(b)) })
	return out
}

// titreNode is the mean titre, or the first where each trial stands alone.
func titreNode(d stoich.Derivation, m *stoich.Model) (int, bool) {
	if at, ok := m.At(stoich.NodeMeanTitre); ok {
		return at, true
	}
	for i, n := range d.Nodes {
		if strings.HasSuffix(n.ID, "/titre") {
			return i, true
		}
	}
	return 0, false
}

// needed is the size a fault would have to have for the whole difference; 0
// where it goes the other way, or would have to be absurd (over 100 times the
// usual size). Faults act almost in proportion; two steps of the secant rule
// settle the rest.
func needed(difference, size, effect float64, off func(float64) float64) float64 {
	if difference == 0 || difference*effect <= 0 || math.Abs(difference/effect) > 100 {
		return 0
	}
	guess := size * difference / effect
	for range 2 {
		if got := off(guess); got != 0 {
			guess *= difference / got
		}
	}
	if math.IsNaN(guess) || guess <= 0 {
		return 0
	}
	rounded, _ := decimal.FromFloat(guess)
	return rounded.RoundFigures(3).Float64()
}
