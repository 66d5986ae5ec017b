package view

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/chemistry/glass"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
	"exactflask/wording"
)

// Setting is the practical in words.
type Setting struct {
	Equation      string        `json:"equation" doc:"in Unicode"`
	EquationLaTeX string        `json:"equationLatex"`
	Titrant       string        `json:"titrant" doc:"what is in the burette"`
	Analyte       string        `json:"analyte" doc:"what is in the flask"`
	Burette       glass.Burette `json:"burette" doc:"that is read"`
	MadeOnly      bool          `json:"madeOnly,omitempty" doc:"the titrant is made and that is all: nothing is titrated"`
	Changed       bool          `json:"changed,omitempty" doc:"the sample itself is not what stands in the flask: it is weighed, or something was added to it"`
	Glass         string        `json:"glass" doc:"burette and pipette with their tolerances"`
	Indicator     string        `json:"indicator" doc:"name and the colour to stop at"`
	Rules         []string      `json:"rules" doc:"this school's rules for readings and agreement"`
	Cautions      []string      `json:"cautions"`
	Route         []Vessel      `json:"route" doc:"from the sample to the flask"`
	Makes         []Vessel      `json:"makes,omitempty" doc:"how one makes the titrant, from the solid or the stock to the bottle; left out where it is given"`
	Standard      string        `json:"standard,omitempty" doc:"what is weighed for the titrant"`
	Seen          bool          `json:"seen,omitempty" doc:"an eye sees the end; left out where a probe alone finds it"`
	Hold          int           `json:"hold" doc:"how many seconds the end colour must last"`
	Wait          int           `json:"wait" doc:"how many seconds the burette is watched for leaks"`
	Stir          int           `json:"stir" doc:"how many minutes a dense solution is stirred"`
	// What every trial weighs is asked for with a name that stands ready.
	WeighsEach bool     `json:"weighsEach,omitempty" doc:"every trial has its own weighing"`
	Weighs     string   `json:"weighs,omitempty" doc:"name of what is weighed"`
	Samples    []string `json:"samples,omitempty" doc:"names of the samples that are compared"`
	Known      string   `json:"known,omitempty" doc:"the known concentration as it is written, without its unit"`
	// Predicted is the curve that a run with a probe is expected to follow.
	Predicted []equilibrium.Point `json:"predicted,omitempty" doc:"the curve that a run with a probe is expected to follow: mL, and pH or mV"`

	kept *keptText // as JSON, where it was made once for all sheets of a practical
}

// settingOnce is SettingOf, worked out once for each way of writing.
func settingOnce(w wording.Writer, r *practical.Ready) Setting {
	style := w.Style()
	return r.Kept("setting "+string(style.Words)+" "+string(style.Units), func() any {
		s := SettingOf(w, r)
		s.kept = keep(s)
		return s
	}).(Setting)
}

// settingOfSolution puts a solution that is only made into words.
func settingOfSolution(w wording.Writer, r *practical.Ready) Setting {
	s := Setting{MadeOnly: true, Burette: r.Glass.Burette, Rules: []string{}, Route: makes(w, r), Cautions: cautions(w, r), Titrant: w.Text("setting.made", "name", r.Chemistry.Titrant.Name, "formula",
		finding.Formula(r.Titrant.Plain())),
		Stir: r.Norms().Count(practical.StirMinutes)}
	if !r.Chemistry.Titrant.Concentration.IsZero() { // aimed at
		s.Titrant = solution(w, r.Chemistry.Titrant, false)
	}
	if r.WeighsStandard() {
		s.Standard = cmp.Or(r.Made[0].What, r.Chemistry.Titrant.Name)
	}
	var parts []string
	for _, step := range r.Made {
		if text := portion(w, step); step.Measures() && !slices.Contains(parts, text) {
			parts = append(parts, text)
		}
	}
	s.Glass = strings.Join(parts, "; ")
	return s
}

func cautions(w wording.Writer, r *practical.Ready) []string {
	out := []string{}
	for _, code := range r.Cautions() {
		out = append(out, w.Text("caution."+code))
	}
	return out
}

// Vessel is one vessel of the route, from the sample to the flask.
type Vessel struct {
	Kind   string `json:"kind" doc:"step of the route, or flask"`
	Name   string `json:"name"`
	Amount string `json:"amount,omitempty"`
	Factor string `json:"factor,omitempty" doc:"by which the way back up multiplies"`
}

// SettingOf puts a practical into words.
func SettingOf(w wording.Writer, r *practical.Ready) Setting {
	if r.MadeOnly() {
		return settingOfSolution(w, r)
	}
	s := Setting{Burette: r.Glass.Burette, Equation: r.Equation.String(), EquationLaTeX: r.Equation.LaTeX(), Rules: rules(w, r),
		Route: route(w, r), Cautions: cautions(w, r),
		Titrant: solution(w, r.Chemistry.Titrant, false), Analyte: inFlask(w, r),
		Hold: r.Rules.Readings.Hold, Wait: int(math.Ceil(r.Norms().Of(practical.LeakSeconds))), Stir: r.Norms().Count(practical.StirMinutes), WeighsEach: r.MassEach(), Predicted: predicted(r)}
	s.Changed = r.Weighs() || r.Excess() >= 0 || len(r.Chemistry.Via) > 0
	for _, sample := range r.Samples {
		s.Samples = append(s.Samples, sample.Name)
	}
	if r.Weighs() {
		s.Weighs = nameOf(r, r.SampleStep().What)
	}
	s.Makes = makes(w, r)
	if r.WeighsStandard() {
		s.Standard = cmp.Or(r.Made[0].What, r.Chemistry.Titrant.Name)
	}
	if c := r.Known().Concentration; !c.IsZero() {
		s.Known = c.String()
	}
	b := r.Glass.Burette
	code := "setting.burette"
	if b.Rising {
		code = "setting.syringe"
	}
	parts := []string{w.Text(code, "capacity", mL(b.Capacity), "division", mL(b.Division), "class",
		string(b.Class), "tolerance", tolerance(w, b.Tolerance))}
	if b.Name != "" {
		parts[0] = w.Text("setting.glass-named", "name", b.Name, "glass", parts[0])
	}
	if p, ok := r.Aliquot(); ok {
		parts = append(parts, portion(w, p))
	}
	s.Glass = strings.Join(parts, "; ")
	i := r.Indicator
	s.Seen = r.Seen()
	if !s.Seen {
		s.Indicator = w.Text("setting.probe-alone")
		return s
	}
	s.Indicator = w.Text("setting.indicator", "name", w.Text(i.NameCode()), "colour",
		w.Text(i.EndCode(catalog.BuiltIn().AcidIn(r.Titrant))))
	return s
}

func mL(d decimal.Decimal) finding.Value { return finding.Exact(d, quantity.Millilitre) }

func portion(w wording.Writer, p practical.ReadyStep) string {
	if p.By == practical.ByBurette {
		return w.Text("setting.sample-burette")
	}
	code, kind := "setting.pipette", glass.OneMark
	switch p.By {
	case practical.ByCylinder:
		code, kind = "setting.cylinder", glass.Cylinder
	case practical.ByFlask:
		code, kind = "setting.flask", glass.Flask
	}
	return w.Text(code, "volume", mL(p.Volume), "class", string(p.Class), "tolerance",
		tolerance(w, func() (decimal.Decimal, bool) {
			if p.Within.Sign() > 0 {
				return p.Within, true
			}
			return glass.Tolerance(kind, p.Volume, p.Class)
		}))
}

func tolerance(w wording.Writer, of func() (decimal.Decimal, bool)) string {
	if t, ok := of(); ok {
		return w.Text("setting.tolerance", "value", mL(t))
	}
	return ""
}

// inFlask says what the titrant meets: what is left of a reagent in excess, what the sample set free,
// or the sample itself.
func inFlask(w wording.Writer, r *practical.Ready) string {
	sample := r.Chemistry.Analyte
	titrated := w.Value(finding.Formula(r.Titrated.Plain()))
	if s, ok := catalog.BuiltIn().Substance(r.Titrated); ok {
		titrated = w.Text(s.NameCode())
	}
	pairs := []any{"name", titrated, "formula", finding.Formula(r.Titrated.Plain()), "sample", sample.Name}
	switch i := r.Excess(); {
	case i >= 0:
		return w.Text("setting.left-over", "formula", pairs[3], "reagent", cmp.Or(r.Steps[i].What, titrated))
	case len(r.Chemistry.Via) > 0:
		return w.Text("setting.set-free", pairs...)
	}
	return solution(w, sample, r.Weighs())
}

func solution(w wording.Writer, s practical.Solution, weighed bool) string {
	pairs := []any{"name", s.Name, "formula", finding.Formula(s.Formula)}
	switch {
	case weighed && s.Concentration.IsZero():
		return w.Text("setting.weighed", pairs...)
	case !s.Concentration.IsZero():
		return w.Text("setting.known", append(pairs, "concentration", finding.Exact(s.Concentration, quantity.MolePerL))...)
	case !s.Approximate.IsZero():
		return w.Text("setting.rough", append(pairs, "concentration", finding.Exact(s.Approximate, quantity.MolePerL))...)
	}
	return w.Text("setting.unknown", pairs...)
}

func rules(w wording.Writer, r *practical.Ready) []string {
	a, reading := r.Rules.Agreement, r.Rules.Readings
	code := "rule.agreement"
	switch {
	case a.Need == 1:
		code = "rule.one"
	case a.Kind == practical.Relative:
		code = "rule.relative"
	case a.Average == practical.AverageAll:
		code = "rule.average-all"
	case a.Average == practical.AverageClosest:
		code = "rule.average-closest"
	}
	out := []string{w.Text("rule.resolution."+string(reading.Resolution), "step",
		mL(r.Glass.Burette.Step(reading.Resolution))),
		w.Text(code, "need", finding.Count(a.Need), "tolerance", mL(a.Tolerance), "percent",
			finding.Exact(a.Percent, quantity.Percent))}
	if a.AsTimeAllows && a.Need > 1 {
		out = append(out, w.Text("rule.as-time-allows"))
	}
	if a.RoughCounts {
		out = append(out, w.Text("rule.rough-counts"))
	}
	if r.Seen() {
		out = append(out, w.Text("rule.hold", "hold", finding.Count(reading.Hold)))
	}
	if reading.StartAtZero {
		out = append(out, w.Text("rule.start-at-zero"))
	}
	if r.Rules.RoundMean {
		out = append(out, w.Text("rule.round-mean"))
	}
	return out
}

// nameOf is what a step of the route is about, in the practical's words.
func nameOf(r *practical.Ready, what string) string {
	if what != "" {
		return what
	}
	if r.MadeOnly() {
		return r.Chemistry.Titrant.Name
	}
	return r.Chemistry.Analyte.Name
}

// route draws the way from the sample to the flask.
func route(w wording.Writer, r *practical.Ready) []Vessel {
	var out []Vessel
	made := ""
	factor := func(s practical.ReadyStep) string {
		if made == "" || s.Kind != practical.Aliquot {
			return ""
		}
		return made + "/" + s.Volume.String()
	}
	for i, s := range r.Steps {
		last := i == len(r.Steps)-1
		if last && s.Kind == practical.Aliquot {
			break
		}
		v := Vessel{Kind: string(s.Kind), Name: nameOf(r, s.What), Amount: w.Value(mL(s.Volume)), Factor: factor(s)}
		switch s.Kind {
		case practical.Weigh, practical.Tablets:
			v.Amount = weighed(w, s)
			if s.Count > 0 {
				v.Name = w.Text("route.tablets", "count", finding.Count(s.Count), "what", s.What)
			}
		case practical.Excess:
			v.Name, v.Amount = excess(w, s)
		case practical.MakeUp:
			made = s.Volume.String()
			if s.What == "" {
				v.Name = w.Text("route.made-up")
			}
		}
		if s.By == practical.ByBurette {
			v.Amount = w.Text("route.about", "volume", mL(s.Volume))
		}
		out = append(out, v)
	}
	flask := Vessel{Kind: "flask", Name: w.Text("route.flask")}
	if p, ok := r.Aliquot(); ok {
		flask.Amount, flask.Factor = w.Value(mL(p.Volume)), factor(p)
	}
	if len(r.Steps) == 1 && r.SampleStep().Kind == practical.Pipette {
		out = []Vessel{{Kind: "sample", Name: nameOf(r, r.SampleStep().What)}}
	}
	return append(out, flask)
}

// makes draws the way from the solid or the stock to the titrant's bottle.
func makes(w wording.Writer, r *practical.Ready) []Vessel {
	var out []Vessel
	for i, s := range r.Made {
		v := Vessel{Kind: string(s.Kind), Name: s.What, Amount: w.Value(mL(s.Volume))}
		switch {
		case s.Kind == practical.Weigh:
			v.Name, v.Amount = cmp.Or(v.Name, r.Chemistry.Titrant.Name), w.Value(finding.Exact(s.Mass, quantity.Gram))
		case s.Kind == practical.Pipette:
			v.Name = cmp.Or(v.Name, w.Text("setting.known", "name", r.Chemistry.Titrant.Name, "formula", finding.Formula(r.Titrant.Plain()),
				"concentration", finding.Exact(s.Concentration, quantity.MolePerL)))
		case i == len(r.Made)-1:
			v.Name = cmp.Or(v.Name, r.Chemistry.Titrant.Name)
		case s.Kind == practical.MakeUp:
			v.Name = cmp.Or(v.Name, w.Text("route.made-up"))
		default:
			v.Name = cmp.Or(v.Name, r.Chemistry.Titrant.Name)
		}
		out = append(out, v)
	}
	return out
}

func weighed(w wording.Writer, s practical.ReadyStep) string {
	mass := finding.Exact(s.Mass, quantity.Gram)
	switch {
	case s.EachTrial && s.Mass.Sign() > 0:
		return w.Text("route.about-each", "mass", mass)
	case s.EachTrial:
		return w.Text("route.weighed-each")
	case s.Mass.Sign() > 0:
		return w.Value(mass)
	}
	return ""
}

func excess(w wording.Writer, s practical.ReadyStep) (name, amount string) {
	name = strings.TrimSpace(s.What + " " + wording.Formula(s.Formula))
	if s.ByBlank {
		return w.Text("route.excess-blank", "name", name), w.Text("route.by-blank")
	}
	return w.Text("route.in-excess", "name", name, "concentration", finding.Exact(s.Concentration, quantity.MolePerL)),
		w.Value(mL(s.Volume))
}
