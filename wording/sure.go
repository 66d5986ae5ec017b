package wording

import (
	"math"
	"strings"

	"exactflask/core/catalog"
	"exactflask/core/chem"
	"exactflask/core/experiment"
	"exactflask/core/finding"
	"exactflask/core/quantity"
	"exactflask/core/stoich"
)

// UncertaintyText says how sure an answer is.
type UncertaintyText struct {
	Sentence string `json:"sentence" doc:"for the report"`
	Improve  string `json:"improve" doc:"which single improvement would help most"`
	Bars     []Bar  `json:"bars" doc:"where it comes from, largest first"`
}

// Bar is one bar of the budget.
type Bar struct {
	Name  string  `json:"name"`
	Share float64 `json:"share" doc:"of the variance, 0 to 1"`
	Text  string  `json:"text" doc:"share in %, and what it adds to the answer"`
}

// CauseText is a usual fault in words.
type CauseText struct {
	Code   string `json:"code"`
	Name   string `json:"name"`
	Effect string `json:"effect" doc:"sign and size on the titre and the answer"`
	Needed string `json:"needed,omitempty" doc:"the size it would need to explain the whole difference"`
	Fits   bool   `json:"fits,omitempty" doc:"its usual size explains the difference"`
}

// VesselText is one vessel of the route, from the sample to the flask.
type VesselText struct {
	Kind   string `json:"kind" doc:"step of the route, or flask"`
	Name   string `json:"name"`
	Amount string `json:"amount,omitempty"`
	Factor string `json:"factor,omitempty" doc:"by which the way back up multiplies"`
}

func catalogueName(f chem.Formula) (string, bool) {
	s, ok := catalog.BuiltIn().Substance(f)
	return s.Name, ok
}

func (w writer) uncertainty(r *experiment.Result) *UncertaintyText {
	b := r.Budget
	if b == nil || b.Standard == 0 || len(b.Contributions) == 0 {
		return nil
	}
	unit := unitAfter(w.unit(r.Answer.Unit))
	value, spread := withUncertainty(r.Answer.Value, b.Expanded)
	out := &UncertaintyText{Sentence: w.say("uncertainty.sentence", finding.Values("value", value, "spread", spread, "unit", unit, "percent", quantity.Show(2*b.Relative, 2)))}
	for _, c := range b.Contributions {
		if c.Share < 5e-4 && len(out.Bars) >= 4 {
			continue
		}
		out.Bars = append(out.Bars, Bar{Name: w.source(c), Share: c.Share,
			Text: w.say("uncertainty.bar", finding.Values("percent", quantity.Show(math.Round(1000*c.Share)/10, 0), "answer", quantity.Show(math.Abs(c.Answer), 2), "unit", unit))})
	}
	first := b.Contributions[0]
	out.Improve = w.say("improve."+first.Code, finding.Values("name", out.Bars[0].Name, "percent", quantity.Show(math.Round(100*first.Share), 0)))
	return out
}

func (w writer) source(c stoich.Contribution) string {
	return w.say("source."+c.Code, finding.Values("of", formula(c.Of)))
}

// withUncertainty writes a value to the last digit of its uncertainty, which
// is given to two figures.
func withUncertainty(value, spread float64) (string, string) {
	shown := quantity.Show(spread, 2)
	places := 0
	if _, after, ok := strings.Cut(shown, "."); ok {
		places = len(after)
	}
	figures := max(1, int(math.Floor(math.Log10(math.Abs(value))))+1+places)
	return quantity.Show(value, figures), shown
}

// maxCauses is how many causes are shown.
const maxCauses = 10

func (w writer) causes(r *experiment.Result) []CauseText {
	out := []CauseText{}
	for _, c := range r.Causes {
		if len(out) == maxCauses {
			break
		}
		size := quantity.Show(c.Size, 0)
		values := finding.Values("size", size, "answer", signed(c.Answer, 2), "unit", unitAfter(w.unit(r.Answer.Unit)), "percent", signed(c.Percent, 2), "titre", signed(c.Titre, 2))
		t := CauseText{Code: c.Code, Name: w.say(c.Code, values)}
		if c.Titre != 0 {
			t.Effect = w.say("cause.effect-titre", values)
		} else {
			t.Effect = w.say("cause.effect", values)
		}
		if c.Needed > 0 {
			t.Fits = c.Needed > 0.5*c.Size && c.Needed < 2*c.Size
			unit := c.Unit
			if unit == "mL" {
				unit = w.unit(quantity.Millilitre)
			}
			t.Needed = w.say("cause.needed", finding.Values("needed", quantity.Show(c.Needed, 2), "unit", unitAfter(unit)))
			if c.Unit == "" {
				t.Needed = ""
			}
		}
		out = append(out, t)
	}
	return out
}

func signed(v float64, figures int) string {
	s := quantity.Show(math.Abs(v), figures)
	if v < 0 {
		return "−" + s
	}
	return "+" + s
}

// route draws the way from the sample to the flask.
func (w writer) route(p experiment.Practical) []VesselText {
	out := []VesselText{}
	ml := func(text string) string { return w.text(text + " [mL]") }
	var made string
	for _, s := range p.Route {
		v := VesselText{Kind: string(s.Kind), Name: s.What}
		switch s.Kind {
		case stoich.Weigh, stoich.Tablets:
			switch {
			case s.EachTrial && s.Mass.Sign() > 0:
				v.Amount = "about " + s.Mass.String() + thin + "g for each trial"
			case s.EachTrial:
				v.Amount = "weighed for each trial"
			case s.Mass.Sign() > 0:
				v.Amount = s.Mass.String() + thin + "g"
			}
			if s.Count > 0 {
				v.Name = strings.TrimSpace(quantity.Show(float64(s.Count), 0) + " tablets " + s.What)
			}
			if v.Name == "" {
				v.Name = p.Analyte.Name
			}
		case stoich.Excess:
			v.Amount = ml(s.Volume.String())
			if s.ByBlank {
				v.Amount = "measured by the blank"
			}
			v.Name = strings.TrimSpace(s.What + " " + formula(s.Formula))
			if s.Concentration.Sign() > 0 {
				v.Name += w.text(", " + s.Concentration.String() + " [mol/L], in excess")
			}
		case stoich.MakeUp:
			v.Amount, made = ml(s.Volume.String()), s.Volume.String()
			if v.Name == "" {
				v.Name = "made up to the mark"
			}
		default:
			v.Amount = ml(s.Volume.String())
			if v.Name == "" {
				v.Name = p.Analyte.Name
			}
			if s.Kind == stoich.Portion && made != "" {
				v.Factor = made + "/" + s.Volume.String()
			}
		}
		out = append(out, v)
	}
	last := VesselText{Kind: "flask", Name: w.text("[flask]")}
	if p.Aliquot.Volume.Sign() > 0 {
		last.Amount = ml(p.Aliquot.Volume.String())
		if made != "" {
			last.Factor = made + "/" + p.Aliquot.Volume.String()
		}
	}
	if len(out) == 0 {
		out = append(out, VesselText{Kind: "sample", Name: p.Analyte.Name})
	}
	return append(out, last)
}

// WorkText is a step of the student's own calculation in words.
type WorkText struct {
	Title   string   `json:"title"`
	Symbol  string   `json:"symbol" doc:"LaTeX"`
	Unit    string   `json:"unit" doc:"the usual unit, as it is written"`
	Units   []Choice `json:"units" doc:"units that can be chosen"`
	Verdict string   `json:"verdict,omitempty"`
	Hint    string   `json:"hint,omitempty" doc:"names the kind of slip, when one fits"`
}

// Choice is a unit to choose: its code and how it is written.
type Choice struct {
	Code string `json:"code"`
	Text string `json:"text"`
}

// offered are the units a student may give a value in.
var offered = []quantity.Unit{quantity.Millilitre, quantity.Litre, quantity.Mole, quantity.Millimole, quantity.Gram, quantity.Milligram, quantity.MolePerL,
	quantity.MillimolePerL, quantity.GramPerL, quantity.MilligramPerL, quantity.PercentWV, quantity.MgPer100, quantity.PercentWW, quantity.Percent, quantity.GramPerMole, quantity.One}

func (w writer) work(p experiment.Practical, ev experiment.Evaluation, trials map[string]TrialText) []WorkText {
	out := make([]WorkText, len(ev.Work))
	for i, s := range ev.Work {
		where := w.portion(s.Where)
		n := stoich.Node{Letter: s.Letter, Of: s.Of, Where: where}
		t := WorkText{Title: w.say(s.Code+".own", finding.Values("of", formula(s.Of), "where", where)), Symbol: symbolLaTeX(n), Unit: w.unit(s.Unit), Units: []Choice{}}
		if name := trials[s.Trial].Name; name != "" {
			t.Title = name + ": " + t.Title
		} else if at := strings.IndexByte(s.Step, '/'); at > 0 && trials[s.Step[:at]].Name != "" {
			t.Title = trials[s.Step[:at]].Name + ": " + t.Title
		}
		// Units of other dimensions stand there too: choosing is part of the work.
		for _, u := range offered {
			text := w.unit(u)
			if u == quantity.One {
				text = "no unit"
			}
			t.Units = append(t.Units, Choice{string(u), text})
		}
		if s.Verdict != "" {
			code := "verdict." + string(s.Verdict)
			if s.Carried {
				code = "verdict.carried"
			}
			t.Verdict = w.say(code, nil)
			if s.Slip != "" {
				t.Hint = w.say(s.Slip, nil)
			}
		}
		out[i] = t
	}
	return out
}
