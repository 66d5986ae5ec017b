package journal

import (
	"time"

	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Contents is what the entries of a notebook add up to.
type Contents struct {
	Trials []Trial
	Notes  []Note
	Lines  []Line // checks, observations, weighings, waiting times, concentrations found, in order
	// Known is the concentration found by standardising, where there is one.
	Known *Line
	// Prepared is how one's own solution was made, where that was written.
	Prepared *Line
	// Weighed is the last weighing that belongs to no trial.
	Weighed *Line
	// Measured are values that take the place of nominal ones, the latest of each.
	Measured map[OwnKey]Line
	// Glass is what a bench works with in the place of the practical's, the latest for each step of the
	// route; 0 is the burette.
	Glass map[int]Line
	// Standard is the last weighing of the solid that the titrant is made of.
	Standard *Line
	// Answers are the student's own values, the latest for each step.
	Answers map[string]Line
	// Passages are those of the report by their prompt: one, or several that were typed
	// over the same one by different devices.
	Passages map[string][]Line
	Pictures []Line // of the report
	// Calibrations are of the probe, in order; those that were withdrawn are not among them.
	Calibrations []Line
	// Amended are entries that were corrected or withdrawn, in order, but for those whose history
	// stands in a trial.
	Amended []Amended
	// Findings are about entries that fit nowhere; they are kept all the same.
	Findings []finding.Finding
	// Clock is the highest logical clock seen; the next entry takes one more.
	Clock int64
	// Entries is the number of different entries.
	Entries int
}

// Line is an entry as it stands now, with what it said before.
type Line struct {
	Entry     Entry
	Part      Part // with its corrections
	Withdrawn bool
	Struck    []Struck
}

// Amended is an entry as it stood before it was corrected or withdrawn.
type Amended struct {
	Trial     string
	Kind      Kind
	Was       finding.Message // what its line said
	Withdrawn bool
	Reason    string
	At        time.Time
	By        string
}

// amended notes an entry that is corrected or withdrawn, but for readings and points, trials and
// what sets them aside, whose history stands in the trial.
func (c *folding) amended(l *Line, by *Entry, p Correction) {
	switch l.Part.(type) {
	case Opening, Scale, Exclusion, ProbePoint:
		return
	}
	c.out.Amended = append(c.out.Amended, Amended{l.Part.Trial(), l.Part.Kind(), l.Part.Said(), p.Withdraw, p.Reason, by.At, by.Author})
}

// Trial is one run of the burette.
type Trial struct {
	ID     string    `json:"id"` // of the entry that opened it
	Type   TrialType `json:"type" enum:"rough,accurate,blank,practice,repeat"`
	Number int       `json:"number" doc:"among the trials of its type, from 1; 0 when withdrawn"`
	At     time.Time `json:"at"`
	By     string    `json:"by,omitempty"`
	Clock  int64     `json:"-"` // logical clock of its opening
	// OfSample is the sample that the trial is of, where several are compared.
	OfSample string   `json:"ofSample,omitempty" doc:"name of the sample, where several are compared"`
	Start    *Reading `json:"start,omitempty"`
	End      *Reading `json:"end,omitempty"`
	// Refills are the fillings within the trial; Before or After is nil while
	// only the other was read.
	Refills      []Refill  `json:"refills,omitempty"`
	SampleStart  *Reading  `json:"sampleStart,omitempty" doc:"of the sample's own burette"`
	SampleEnd    *Reading  `json:"sampleEnd,omitempty"`
	ReagentStart *Reading  `json:"reagentStart,omitempty" doc:"of the burette of the reagent in excess"`
	ReagentEnd   *Reading  `json:"reagentEnd,omitempty"`
	FirstEnd     *Reading  `json:"firstEnd,omitempty" doc:"at the first of two end points"`
	FirstFills   int       `json:"firstFills,omitempty" doc:"fillings within the trial before the first end"`
	Weighed      *Line     `json:"-"` // of the trial's own sample
	Provisional  []Reading `json:"provisional,omitempty" doc:"noted before further drops, in order"`
	// Points are those of a run that is followed with a probe, in the order they were taken.
	Points    []ReadPoint `json:"-"`
	EndColour string      `json:"endColour,omitempty" enum:"pale,deep,fading"`
	SetAside  *SetAside   `json:"setAside,omitempty"`
	// Withdrawn is set when the trial was opened by mistake. It has no number
	// and counts nowhere, and is shown struck through.
	Withdrawn bool    `json:"withdrawn,omitempty" doc:"opened by mistake; shown struck through"`
	Struck    History `json:"struck" doc:"what once stood here"`

	befores, afters int // readings of refills that stand in their places
}

// History is what once stood in a trial, oldest first: nothing vanishes, also
// where nothing stands now.
type History struct {
	Type     []Struck `json:"type,omitempty"`
	Start    []Struck `json:"start,omitempty"`
	End      []Struck `json:"end,omitempty"`
	SetAside []Struck `json:"setAside,omitempty"`
	Others   []Struck `json:"others,omitempty" doc:"of refills, samples and provisional readings"`
}

// Refill is a filling of the burette within a trial.
type Refill struct {
	Before *Reading `json:"before,omitempty"`
	After  *Reading `json:"after,omitempty"`
}

// Reading is a reading of a scale as it stands now.
type Reading struct {
	Entry string          `json:"entry" doc:"id of the entry to name in a correction"`
	Text  string          `json:"text" doc:"as it was written"`
	Value decimal.Decimal `json:"value"`
	At    time.Time       `json:"at"`
	By    string          `json:"by,omitempty"`
	Why   string          `json:"why,omitempty" doc:"reason of the last correction, where it was corrected"`
}

// SetAside says why a trial is left out.
type SetAside struct {
	Entry  string    `json:"entry"`
	Reason string    `json:"text"`
	At     time.Time `json:"at"`
	By     string    `json:"by,omitempty"`
}

// Note is a note with who wrote it and what it said before.
type Note struct {
	Entry  string    `json:"entry"`
	Trial  string    `json:"trial,omitempty"`
	Text   string    `json:"text"`
	At     time.Time `json:"at"`
	By     string    `json:"by,omitempty"`
	Struck []Struck  `json:"struck,omitempty"`
	// Withdrawn is set when it should not have been written; it is shown struck through.
	Withdrawn bool `json:"withdrawn,omitempty" doc:"shown struck through"`
}

// Struck is something struck through: what it said, and why, by whom and when
// it was replaced. Reason is empty where a reading was simply taken again.
type Struck struct {
	Text   string        `json:"text"`
	Unit   quantity.Unit `json:"unit,omitempty" doc:"of an answer"`
	Reason string        `json:"reason,omitempty"`
	At     time.Time     `json:"at"`
	By     string        `json:"by,omitempty"`
}

var (
	orphan     = finding.Declare("entry.orphan", "text")
	unreadable = finding.Declare("entry.unreadable", "problem")
)

// folding is a notebook being folded.
type folding struct {
	out     Contents
	trials  map[string]*Trial
	numbers map[TrialType]int
}

// trialOf is the trial of a line; where it is not there (its own entry may be
// on its way) that is noted.
func (c *folding) trialOf(l *Line) *Trial {
	t := c.trials[l.Part.Trial()]
	if t == nil {
		c.orphan(l.Entry.ID, l.Part.Text())
	}
	return t
}

func (c *folding) orphan(entry, text string) {
	c.out.Findings = append(c.out.Findings, orphan.Finding(finding.Check, entry, finding.Text(text)))
}

func (c *folding) unreadable(l *Line, f *finding.Fault) {
	c.out.Findings = append(c.out.Findings, unreadable.Finding(finding.Warning, l.Entry.ID, finding.Said(f.Message)))
}

// Fold turns entries into what they add up to. Entries in another order, or
// repeated, give the same. They were checked on the way in; one that was
// damaged since is passed over with a finding, so that everything else shows.
// The cost grows in proportion to the entries (sorting aside).
func Fold(entries []Entry) Contents {
	sorted := Sort(entries)
	c := &folding{numbers: map[TrialType]int{}}
	c.out.Entries = len(sorted)
	lines := make([]Line, 0, len(sorted)) // never grows past this, so that pointers into it stay good
	byID := make(map[string]*Line, len(sorted))
	var corrections []*Line
	opened := 0
	for i := range sorted {
		if _, ok := sorted[i].Part.(Opening); ok {
			opened++
		}
	}
	trials := make([]Trial, 0, opened)
	for _, e := range sorted {
		c.out.Clock = max(c.out.Clock, e.Clock)
		lines = append(lines, Line{Entry: e, Part: e.Part})
		l := &lines[len(lines)-1]
		switch e.Part.(type) {
		case nil:
			if f := e.Check(); f != nil {
				c.unreadable(l, f)
			}
			continue
		case Correction:
			corrections = append(corrections, l)
			continue
		case Opening:
			trials = append(trials, Trial{ID: e.ID, At: e.At, By: e.Author, Clock: e.Clock})
		}
		byID[e.ID] = l
	}
	c.trials = make(map[string]*Trial, opened)
	for i := range trials {
		c.trials[trials[i].ID] = &trials[i]
	}
	c.correct(corrections, byID)
	for i := range lines {
		if lines[i].Part != nil {
			lines[i].Part.fold(c, &lines[i])
		}
	}
	c.out.Trials = trials
	return c.out
}

// correct applies the corrections in notebook order.
func (c *folding) correct(corrections []*Line, byID map[string]*Line) {
	if len(corrections) == 0 {
		return
	}
	replaces := make(map[string]string, len(corrections))
	for _, l := range corrections {
		replaces[l.Entry.ID] = l.Part.(Correction).Replaces
	}
	ends := roots(replaces)
	for _, by := range corrections {
		e, p := &by.Entry, by.Part.(Correction)
		l := byID[ends[e.ID]]
		if l == nil {
			c.orphan(e.ID, p.Value)
			continue
		}
		was, part := Struck{Text: l.Part.Text(), Reason: p.Reason, At: e.At, By: e.Author}, l.Part
		if !p.Withdraw {
			var f *finding.Fault
			if part, f = l.Part.With(p.Value); f != nil {
				c.unreadable(by, f)
				continue
			}
		}
		c.amended(l, e, p)
		l.Part = part
		l.Struck = append(l.Struck, was)
		l.Withdrawn = p.Withdraw
	}
}
