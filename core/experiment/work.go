package experiment

import (
	"math"
	"time"

	"exactflask/core/chem"
	"exactflask/core/journal"
	"exactflask/core/quantity"
	"exactflask/core/stoich"
)

// WorkStep is one step of the student's own calculation.
type WorkStep struct {
	Step    string           `json:"step" doc:"id of the node; names the step in an answer"`
	Code    string           `json:"code" doc:"what is worked out, such as step.ratio"`
	Letter  string           `json:"letter"`
	Of      string           `json:"of,omitempty"`
	Where   string           `json:"where,omitempty"`
	Trial   string           `json:"trial,omitempty"`
	Unit    quantity.Unit    `json:"unit" doc:"the usual unit; others of the dimension are taken too"`
	Answer  *OwnAnswer       `json:"answer,omitempty"`
	Verdict Verdict          `json:"verdict,omitempty" enum:"right,wrong,unit,few-figures,many-figures" doc:"left out while not judged"`
	Slip    string           `json:"slip,omitempty" doc:"code of the slip that fits, when one does"`
	Carried bool             `json:"carried,omitempty" doc:"right by the student's own earlier figures, not by the true ones"`
	Struck  []journal.Struck `json:"struck,omitempty"`
}

// OwnAnswer is a value that the student gave.
type OwnAnswer struct {
	Entry string        `json:"entry"`
	Text  string        `json:"text"`
	Unit  quantity.Unit `json:"unit,omitempty"`
	At    time.Time     `json:"at"`
	By    string        `json:"by,omitempty"`
}

// Verdict is the judgement of an answer.
type Verdict string

// The verdicts. Few and many figures are right values with the wrong number of
// significant figures.
const (
	Right       Verdict = "right"
	Wrong       Verdict = "wrong"
	WrongUnit   Verdict = "unit"
	FewFigures  Verdict = "few-figures"
	ManyFigures Verdict = "many-figures"
)

// work lays out the steps and judges the student's answers. Each is judged
// against what follows from the student's own earlier figures, so that one
// slip is one slip. Without a result (titres disagree, or results are
// withheld until marking) the answers are kept and not judged.
func (s setup) work(ev *Evaluation, rec journal.Record) {
	ev.Work = []WorkStep{}
	r := ev.Result
	if r == nil {
		if ev.Agreement.Status != "agreed" { // nothing can be worked out yet
			return
		}
		counts := func(t Trial) bool { return t.Counts }
		var err error
		if r, err = s.result(*ev, counts); err != nil {
			return
		}
	}
	judge := s.Result.Show != AfterMarking && ev.Result != nil
	d := r.Derivation
	own := map[string]float64{}
	for i, n := range d.Nodes {
		last := i == len(d.Nodes)-1
		if n.Step == "" && n.ID != stoich.NodeMeanTitre && n.ID != stoich.NodeSecond && !last {
			continue
		}
		w := WorkStep{Step: n.ID, Code: n.Step, Letter: n.Letter, Of: n.Of, Where: n.Where, Trial: n.Trial, Unit: n.Quantity.Unit}
		if w.Code == "" {
			w.Code = "step.convert"
			if n.ID == stoich.NodeMeanTitre {
				w.Code = "step.mean-titre"
			}
		}
		if b, ok := rec.Answers[n.ID]; ok {
			w.Answer = &OwnAnswer{b.Entry.ID, b.Text, quantity.Unit(b.Entry.Answer.Unit), b.Entry.At, b.Entry.Author}
			w.Struck = b.Struck
			if last {
				ev.Attempted = true
			}
			if judge {
				s.judgeAnswer(&w, d, n, own, *ev)
			}
		}
		ev.Work = append(ev.Work, w)
	}
}

// judgeAnswer gives an answer its verdict and adds it to the student's own
// figures, on which the next steps build.
func (s setup) judgeAnswer(w *WorkStep, d stoich.Derivation, n stoich.Node, own map[string]float64, ev Evaluation) {
	written, err := journal.ParseReading(w.Answer.Text)
	if err != nil {
		return
	}
	unit := w.Answer.Unit
	if unit == "" {
		unit = quantity.One
	}
	given, err := quantity.Of(written, unit).In(n.Quantity.Unit)
	if err != nil {
		w.Verdict = WrongUnit
		return
	}
	expected := d.Recompute(own, n.ID)
	scale := unit.Scale() / n.Quantity.Unit.Scale()
	half := math.Pow(10, -float64(written.Places())) / 2 * scale
	close := func(value float64) bool {
		return math.Abs(given.Value-value) <= math.Max(half*1.001, 5e-4*math.Abs(value))
	}
	deserved := n.Quantity.Figures
	if n.ID == stoich.NodeAnswer && s.Result.Figures > 0 {
		deserved = s.Result.Figures
	}
	switch {
	case !close(expected):
		w.Verdict = Wrong
		w.Slip = s.slip(d, n, own, given.Value, half, expected, ev)
	case deserved > 0 && written.Figures() < deserved:
		w.Verdict = FewFigures
	case n.ID == stoich.NodeAnswer && deserved > 0 && written.Figures() > deserved:
		w.Verdict = ManyFigures
	default:
		w.Verdict = Right
	}
	if w.Verdict != Wrong {
		w.Carried = !close(n.Quantity.Value)
	}
	own[n.ID] = given.Value
	if w.Verdict == Right || w.Verdict == ManyFigures || w.Verdict == FewFigures {
		// What is right is carried on unrounded, unless it came from a slip:
		// rounding on the way is not held against the next step.
		own[n.ID] = expected
	}
}

// slip names the usual slip that a wrong value fits; nothing when none does,
// or when several do.
func (s setup) slip(d stoich.Derivation, n stoich.Node, own map[string]float64, given, half, expected float64, ev Evaluation) string {
	var found string
	try := func(code string, value float64) {
		if value == 0 || math.IsNaN(value) || math.IsInf(value, 0) || math.Abs(given-value) > math.Max(half*1.001, 5e-4*math.Abs(value)) {
			return
		}
		if found != "" && found != code {
			found = "several"
			return
		}
		found = code
	}
	with := func(replaced map[string]float64) float64 {
		all := map[string]float64{}
		for k, v := range own {
			all[k] = v
		}
		for k, v := range replaced {
			all[k] = v
		}
		return d.Recompute(all, n.ID)
	}
	value := func(id string) float64 { return d.Recompute(own, id) }
	for _, id := range n.Inputs {
		in, _ := d.Node(id)
		v := value(id)
		switch {
		case in.Operation == stoich.Ratio && v != 1:
			try("slip.ratio-inverted", with(map[string]float64{id: 1 / v}))
			try("slip.ratio-left-out", with(map[string]float64{id: 1}))
		case in.Letter == "f":
			try("slip.dilution-left-out", with(map[string]float64{id: 1}))
			try("slip.dilution-inverted", with(map[string]float64{id: 1 / v}))
		case in.Operation == stoich.Molar:
			if f, err := chem.ParseFormula(in.Of); err == nil {
				if dry, ok := f.Anhydrous(); ok {
					try("slip.water-left-out", with(map[string]float64{id: dry.MolarMass().Float64()}))
				}
			}
		case in.Quantity.Unit == quantity.Litre:
			// The two volumes of a titration are easily swapped.
			for _, other := range d.Nodes {
				if other.Quantity.Unit == quantity.Litre && other.ID != id && other.Of != in.Of {
					try("slip.volumes-swapped", with(map[string]float64{id: other.Quantity.Value}))
				}
			}
		}
	}
	if n.Operation == stoich.Quotient && n.Quantity.Unit != quantity.One {
		try("slip.upside-down", 1/expected)
	}
	if n.ID == stoich.NodeMeanTitre {
		s.meanSlips(ev, try)
	}
	if found == "" { // what this step itself explains goes before a stray power of ten
		try("slip.thousand", expected*1000)
		try("slip.thousand", expected/1000)
		try("slip.ten", expected*10)
		try("slip.ten", expected/10)
	}
	if found == "" && math.Abs(given-expected) < 0.02*math.Abs(expected) {
		found = "slip.rounded-early"
	}
	if found == "several" {
		return ""
	}
	return found
}

// meanSlips are those of the mean titre: which titres were averaged.
func (s setup) meanSlips(ev Evaluation, try func(string, float64)) {
	var sum, all, rough float64
	var n, counted, roughs int
	var reading float64
	for _, t := range ev.Trials {
		if t.Titre == nil || t.Withdrawn || t.Type == journal.Blank || t.Type == journal.Practice {
			continue
		}
		v := t.Titre.Float64()
		if t.Type == journal.Rough {
			rough, roughs = rough+v, roughs+1
			continue
		}
		all, n = all+v, n+1
		if t.Counts {
			sum, counted = sum+v, counted+1
			reading += s.Burette.Capacity.Float64() - t.End.Value.Float64()
		}
	}
	if roughs > 0 {
		try("slip.rough-included", (sum+rough)/float64(counted+roughs))
		if n > counted {
			try("slip.rough-included", (all+rough)/float64(n+roughs))
		}
	}
	if n > counted {
		try("slip.all-averaged", all/float64(n))
	}
	try("slip.from-capacity", reading/float64(counted))
}
