// Package view is what a page or a print shows, joined and ready: one shape for
// the screen, the paper and the files. It decides nothing; it joins what the
// core says with the words of the reader.
package view

import (
	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/judgement/handin"
	"exactflask/core/judgement/working"
	"exactflask/core/model/followed"
	"exactflask/core/practice/board"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
	"exactflask/wording"
)

// Sheet is a notebook as a person reads it.
type Sheet struct {
	Style     practical.Style           `json:"style"`
	Setting   Setting                   `json:"setting"`
	Trials    []Trial                   `json:"trials"`
	Agreement Agreement                 `json:"agreement"`
	Next      Next                      `json:"next"`
	Findings  []Sentence                `json:"findings"`
	Foremost  []int                     `json:"foremost" doc:"places of the findings that are shown at once at the bench, in order"`
	Notes     []journal.Note            `json:"notes"`
	Amended   []journal.Amended         `json:"-"`
	Remarks   []string                  `json:"remarks" doc:"statistics, blank, what is left: one sentence each"`
	SoFar     string                    `json:"soFar,omitempty" doc:"the result line: mean titre and answer so far"`
	Made      string                    `json:"made,omitempty" doc:"where a solution is only made: what it is made of, as it was written"`
	Measured  []MeasuredValue           `json:"measured" doc:"what may be measured at the bench in the place of what the practical gives, and was"`
	Setup     []Item                    `json:"setup"`
	Cleanup   []Item                    `json:"cleanup"`
	Log       []LogLine                 `json:"log"`
	Stage     evaluation.Stage          `json:"stage" enum:"untouched,rough,measuring,disagreeing,agreed,making,made" doc:"where the notebook stands"`
	StageText string                    `json:"stageText"`
	Stands    Stands                    `json:"stands" doc:"where the notebook stands at its stations after the bench"`
	Done      bool                      `json:"done,omitempty" doc:"the bench work is done"`
	ToDo      []string                  `json:"toDo" doc:"what is still to be done until the report is handed in"`
	Passages  []ReportPassage           `json:"passages" doc:"what the student writes in the report"`
	Evidence  []EvidenceRow             `json:"evidence" doc:"what is photographed at the bench"`
	Pictures  []evaluation.ShownPicture `json:"pictures" doc:"of the report"`
	Lacks     []ReportLack              `json:"lacks" doc:"what is empty or odd in the report"`
	Work      []WorkStep                `json:"work"`
	Given     []GivenRow                `json:"given" doc:"what the steps are worked out from"`
	Attempted bool                      `json:"attempted,omitempty" doc:"the student has given an own final answer"`
	Withheld  bool                      `json:"withheld,omitempty" doc:"results are kept back from this reader"`
	Judged    bool                      `json:"judged,omitempty" doc:"own steps are judged as they are given"`
	Answer    *Answer                   `json:"answer,omitempty"`
	WorkedOn  string                    `json:"workedOn,omitempty" doc:"of several samples the one that is worked on"`
	Samples   []Sample                  `json:"samples,omitempty" doc:"of several samples what was found for each"`
	Probe     *ProbeState               `json:"probe,omitempty" doc:"how the probe stands, where one is used"`
	Runs      []Run                     `json:"runs,omitempty" doc:"what the curve of each run says"`
	Points    []followed.RunPoint       `json:"points,omitempty" doc:"of all runs, in order"`
	Units     UnitTexts                 `json:"units"`
	Clock     int64                     `json:"clock" doc:"highest logical clock in the notebook"`
	Entries   int                       `json:"entries" doc:"number of entries in the notebook"`
}

// Stands says in a few words where a notebook stands at stations; empty: nothing to say yet.
type Stands struct {
	Work   string `json:"work,omitempty" doc:"how many steps have an answer"`
	Result string `json:"result,omitempty"`
}

// UnitTexts is how the units of columns are written.
type UnitTexts struct {
	Volume        string `json:"volume"`
	Concentration string `json:"concentration"`
	Compared      string `json:"compared,omitempty" doc:"of what the rule of agreement compares"`
}

// Agreement is the judgement of the titres with its sentence.
type Agreement struct {
	evaluation.Agreement
	Text string `json:"text" doc:"whether the titres agree"`
}

// Item is an item of a list in words.
type Item struct {
	evaluation.Item
	Text string `json:"text"`
	Done bool   `json:"done"`
}

// LogLine is a line of the bench's log in words.
type LogLine struct {
	Entry     string `json:"entry"`
	What      string `json:"what"`
	Text      string `json:"text"`
	Withdrawn bool   `json:"withdrawn,omitempty"`
}

// Sentence is a finding in words.
type Sentence struct {
	Code     string           `json:"code"`
	Severity finding.Severity `json:"severity" enum:"note,check,warning"`
	Subject  string           `json:"subject,omitempty"`
	Place    string           `json:"place,omitempty" doc:"which trial or reading, in words"`
	Text     string           `json:"text" doc:"what was seen, why it matters, what to do"`
}

// EvidenceRow is something that is photographed, in words.
type EvidenceRow struct {
	evaluation.Evidence
	Text string `json:"text"`
}

// Choice is something to choose: its code and how it is written.
type Choice struct {
	Code string `json:"code"`
	Text string `json:"text"`
}

// WorkStep is a step of the student's own calculation in words.
type WorkStep struct {
	working.Step
	Title       string   `json:"title"`
	Symbol      string   `json:"symbol" doc:"LaTeX"`
	UnitText    string   `json:"unitText" doc:"the usual unit, as it is written"`
	Units       []Choice `json:"units" doc:"units that can be chosen"`
	VerdictText string   `json:"verdictText,omitempty"`
	Hint        string   `json:"hint,omitempty" doc:"names the kind of slip, when one fits"`
}

func sayAll(w wording.Writer, all []finding.Message) []string {
	out := make([]string, len(all))
	for i, m := range all {
		out[i] = w.Say(m)
	}
	return out
}

// maker makes a sheet.
type maker struct {
	wording.Writer
	r      *practical.Ready
	ev     evaluation.Evaluation
	names  map[string]string // of trials, by id
	places map[string]place  // of readings, by id
	brief  bool
}

// Of puts an evaluation into words. What style leaves open is taken from the
// practical.
func Of(r *practical.Ready, ev evaluation.Evaluation, style practical.Style) Sheet {
	return of(r, ev, style, false)
}

// Unsaid are the parts of an evaluation of which Brief says nothing.
const Unsaid = experiment.PartCauses

// Brief is Of for the bench, where every millisecond shows: of the answer it
// leaves out where each figure comes from, the other ways of writing the
// working, the uncertainty and the causes.
func Brief(r *practical.Ready, ev evaluation.Evaluation, style practical.Style) Sheet {
	return of(r, ev, style, true)
}

func of(r *practical.Ready, ev evaluation.Evaluation, style practical.Style, brief bool) Sheet {
	if ev.Ready != nil { // as it was done
		r = ev.Ready
	}
	m := &maker{Writer: wording.For(style, r.Showing.Style), r: r, ev: ev, names: map[string]string{},
		places: map[string]place{}, brief: brief}
	s := Sheet{Style: m.Style(), Setting: settingOnce(m.Writer, r), Stage: ev.Stage, Done: ev.Stage.Done(),
		StageText: m.Text("stage." + string(ev.Stage)), Notes: ev.Notes, Amended: ev.Amended,
		Attempted: ev.Attempted, Withheld: ev.Withheld, Judged: ev.Judged, Clock: ev.Clock, Entries: ev.Entries, Units: unitTexts(m.Writer)}
	s.Units.Compared = m.Unit(ev.Agreement.Unit)
	s.Trials = m.trials()
	s.Findings, s.Foremost = m.findings()
	s.Next = Next{Next: ev.Next, Then: ev.Then()}
	for i, say := range ev.Next.Say {
		if i > 0 {
			s.Next.Text += " "
		}
		s.Next.Text += m.Say(say)
	}
	s.Passages, s.Pictures, s.Lacks = make([]ReportPassage, len(ev.Passages)), ev.Pictures, []ReportLack{}
	for i, p := range ev.Passages {
		s.Passages[i] = ReportPassage{p, m.Say(handin.Named(p.Passage))}
	}
	s.Evidence = make([]EvidenceRow, len(ev.Evidence))
	for i, e := range ev.Evidence {
		s.Evidence[i] = EvidenceRow{e, m.Say(journal.EvidenceSaid(e.Code))}
	}
	for _, l := range handin.Lacks(ev) {
		s.Lacks = append(s.Lacks, ReportLack{l.Code, m.Say(l.Message), l.Where})
	}
	summary := experiment.Summarise(r, ev, nil)
	s.ToDo = sayAll(m.Writer, board.ToDo(&summary, false))
	s.Agreement, s.WorkedOn = Agreement{ev.Agreement, m.agreement()}, ev.WorkedOn
	s.Setup, s.Cleanup, s.Log = m.items(ev.Setup), m.items(ev.Cleanup), m.log()
	s.Remarks, s.SoFar, s.Measured = m.remarks(), m.soFar(), m.ownValues()
	if of := ev.MadeOf; of != nil {
		s.Made = m.Say(said(m.Writer, *of))
	}
	s.Work, s.Given = m.work(), m.given()
	if ev.Result != nil {
		s.Answer = m.answer()
	}
	s.Stands = m.stands()
	s.Probe, s.Runs, s.Points = m.probe(), m.runs(), ev.Points
	s.Samples = m.samples()
	for i, sample := range s.Samples {
		text := m.Text("sample.agreement", "name", sample.Name, "text", sample.Agreement)
		if i == 0 {
			s.Agreement.Text = text
		} else {
			s.Agreement.Text += " " + text
		}
	}
	return s
}

// stands says where the working and the result stand.
func (m *maker) stands() (out Stands) {
	answered := 0
	for _, step := range m.ev.Work {
		if step.Answer != nil {
			answered++
		}
	}
	if n := len(m.ev.Work); n > 0 {
		out.Work = m.Text("stands.work", "done", finding.Count(answered), "count", finding.Count(n))
	}
	if m.ev.Withheld {
		out.Result = m.Text("stands.later")
	}
	return out
}

// UnitsFor is how the units of columns are written for a reader, outside any practical.
func UnitsFor(style practical.Style) UnitTexts { return unitTexts(wording.For(style)) }

func unitTexts(w wording.Writer) UnitTexts {
	return UnitTexts{Volume: w.Unit(quantity.Millilitre), Concentration: w.Unit(quantity.MolePerL)}
}

func (m *maker) agreement() string {
	if m.r.MadeOnly() { // nothing has to agree
		return ""
	}
	a, rule := m.ev.Agreement, m.r.Rules.Agreement
	mL := quantity.Millilitre
	code := "agreement." + string(a.Status)
	pairs := []any{"tolerance", finding.Exact(rule.Tolerance, mL), "percent",
		finding.Exact(rule.Percent, quantity.Percent), "count", finding.Count(a.Missing)}
	if rule.Kind == practical.Relative && a.Status != agreement.TooFew {
		code += "-relative"
	}
	if a.Status == agreement.Agreed {
		switch {
		case len(a.Chosen) == 1 && a.Missing > 0:
			code = "agreement.in-time"
			if rule.Kind == practical.Relative {
				code += "-relative"
			}
		case len(a.Chosen) == 1:
			code = "agreement.one"
			if rule.Kind == practical.Relative {
				code += "-relative"
			}
		case rule.Need == 1:
			code = "agreement.all"
			if rule.Kind == practical.Relative {
				code += "-relative"
			}
		}
		pairs = append(pairs, "missing", finding.Count(a.Missing), "count", finding.Count(len(a.Chosen)))
		if a.Mean != nil {
			pairs = append(pairs, "mean", finding.Exact(*a.Mean, mL), "spread", finding.Exact(*a.Spread, mL))
		}
		if a.Relative != nil {
			pairs = append(pairs, "relative", finding.Exact(*a.Relative, quantity.Percent))
		}
	}
	return m.Text(code, pairs...)
}

func (m *maker) items(items []evaluation.Item) []Item {
	out := make([]Item, len(items))
	for i, item := range items {
		out[i] = Item{item, m.Say(journal.ItemSaid(item.Code)), item.Entry != ""}
	}
	return out
}

func (m *maker) log() []LogLine {
	out := make([]LogLine, len(m.ev.Log))
	for i, l := range m.ev.Log {
		out[i] = LogLine{l.Entry, m.names[l.Trial], m.Say(said(m.Writer, l.Said)), l.Withdrawn}
	}
	return out
}

// said fits the parts of a message that may be left out.
func said(w wording.Writer, s finding.Message) finding.Message {
	out := finding.Message{Code: s.Code, Values: finding.Values{}}
	for name, v := range s.Values {
		switch {
		case name == "spread" && v.Exact != nil:
			v = finding.Text(" ± " + w.Value(v))
		case name == "from" && v.Text != "":
			v = finding.Text(" (" + v.Text + ")")
		case name == "unit":
			v = finding.Text(w.After(quantity.Unit(v.Text)))
		}
		out.Values[name] = v
	}
	return out
}

// remarks are the sentences under the result line.
func (m *maker) remarks() []string {
	out := []string{}
	mL := m.After(quantity.Millilitre)
	if b := m.ev.Blank; b != nil {
		out = append(out, m.Text("blank", "blank", finding.Exact(*b, quantity.Millilitre)))
	}
	if s := m.ev.Statistics; s != nil {
		out = append(out, m.Text("statistics", "sd", wording.Show(s.SD, 2)+mL, "rsd", wording.Show(s.RSD, 2), "n", finding.Count(s.N)))
		if s.Resolved {
			out = append(out, m.Text("statistics.resolved"))
		}
		if s.T > 0 {
			out = append(out, m.Text("statistics.interval", "ci", wording.Show(s.CI95, 2)+mL, "t", wording.Show(s.T, 3)))
		}
	}
	if d := m.ev.Dixon; d != nil {
		out = append(out, m.Text("dixon", "trial", m.names[d.Trial], "q", wording.Show(d.Q, 3), "critical",
			wording.Show(d.Critical, 3)))
	}
	out = append(out, m.products()...)
	if s := m.ev.Supply; s != nil {
		var left []finding.Value
		if s.Titrant != nil {
			left = append(left, finding.Text(m.Text("supply.titrant", "volume", finding.Exact(*s.Titrant, quantity.Millilitre))))
		}
		if s.Analyte != nil {
			left = append(left, finding.Text(m.Text("supply.analyte", "volume", finding.Exact(*s.Analyte, quantity.Millilitre))))
		}
		out = append(out, m.Text("supply", "left", finding.List(left...), "count", finding.Count(s.Trials)))
	}
	return out
}

// soFar is the result line under the trials.
func (m *maker) soFar() string {
	s := m.ev.SoFar
	if s == nil {
		return ""
	}
	pairs := []any{"symbol", symbolOf(m.Writer, s.Letter, s.Of), "answer", finding.Quantity(s.Answer)}
	code := "sofar." + s.From
	if s.From == "mean" {
		var names []finding.Value
		for _, t := range m.ev.Trials {
			if t.Counts {
				names = append(names, finding.Text(m.names[t.ID]))
			}
		}
		pairs = append(pairs, "trials", finding.List(names...))
		if mean := m.ev.Agreement.Mean; mean != nil {
			pairs = append(pairs, "mean", finding.Exact(*mean, quantity.Millilitre))
		} else {
			code += "-relative"
		}
	}
	text := m.Text(code, pairs...)
	if s.Expected != nil {
		text += " " + m.compared("answer.comparison", *s.Expected, s.Answer.Unit, "")
	}
	return text
}

func (m *maker) compared(code string, c evaluation.Comparison, unit quantity.Unit, label string) string {
	side := "side.above"
	if c.Percent < 0 {
		side = "side.below"
	}
	if label != "" {
		label = " (" + label + ")"
	}
	return m.Text(code, "percent", wording.Show(abs(c.Percent), 2), "side", m.Text(side), "expected",
		finding.Number(c.Value, 3, unit), "label", label)
}

func abs(v float64) float64 {
	if v < 0 {
		return -v
	}
	return v
}

// offered are the units a student may give a value in. Units of other
// dimensions stand there too: choosing is part of the work.
var offered = []quantity.Unit{quantity.Millilitre, quantity.Litre, quantity.Mole, quantity.Millimole, quantity.Gram,
	quantity.Milligram, quantity.MolePerL,
	quantity.MillimolePerL, quantity.GramPerL, quantity.MilligramPerL, quantity.PercentWV, quantity.MgPer100, quantity.PercentWW, quantity.Percent, quantity.GramPerMole, quantity.One}
