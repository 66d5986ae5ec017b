package journal

import (
	"time"

	"exactflask/core/decimal"
	"exactflask/core/finding"
)

// Record is what the entries of a notebook add up to.
type Record struct {
	Trials []Trial
	Notes  []Remarked
	Bench  []Bench // checks, observations, weighings and waiting times, in order
	// Known is the concentration found by standardising, where there is one.
	Known *Bench
	// Weighed is the last weighing that belongs to no trial.
	Weighed *Bench
	// Answers are the student's own values, the latest for each step.
	Answers map[string]Bench
	// Findings are about entries that fit nowhere; they are kept all the same.
	Findings []finding.Finding
	// Clock is the highest logical clock seen; the next entry takes one more.
	Clock int64
	// Entries is the number of different entries.
	Entries int
}

// Trial is one run of the burette.
type Trial struct {
	ID     string // of the entry that opened it
	Type   TrialType
	Number int // among the trials of its type, from 1, in notebook order
	At     time.Time
	By     string
	Start  *Reading
	End    *Reading
	// Refills are the fillings within the trial; Before or After is nil while
	// only the other was read.
	Refills []Refill
	// SampleStart and SampleEnd are readings of the sample's own burette.
	SampleStart *Reading
	SampleEnd   *Reading
	FirstEnd    *Reading  // at the first of two end points
	Mass        *Bench    // weighing of the trial's own sample
	Provisional []Reading // noted before further drops, in order
	EndColour   string    // pale, deep or fading, when it was noted
	SetAside    *SetAside
	// Withdrawn is set when the trial was opened by mistake. It has no number
	// and counts nowhere, and is shown struck through.
	Withdrawn bool
	Struck    History
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
type Refill struct{ Before, After *Reading }

// Bench is something done or seen beside the readings.
type Bench struct {
	Entry     Entry
	Text      string // as it stands now
	Withdrawn bool
	Struck    []Struck
}

// Reading is a reading of the burette as it stands now.
type Reading struct {
	Entry string // id of the entry to name in a correction
	Text  string // as written
	Value decimal.Decimal
	At    time.Time
	By    string
}

// SetAside says why a trial is left out.
type SetAside struct {
	Entry  string
	Reason string
	At     time.Time
	By     string
}

// Remarked is a note with who wrote it and what it said before.
type Remarked struct {
	Entry  string
	Trial  string
	Text   string
	At     time.Time
	By     string
	Struck []Struck
}

// Struck is a line struck through: what it said, and why, by whom and when it
// was replaced. Reason is empty where a reading was simply taken again.
type Struck struct {
	Text   string    `json:"text"`
	Reason string    `json:"reason,omitempty"`
	At     time.Time `json:"at"`
	By     string    `json:"by,omitempty"`
}

// Titre returns end minus start, exact, summed over the fills, and whether all
// has been read. It may be negative: an odd record is kept and flagged.
func (t Trial) Titre() (decimal.Decimal, bool) {
	if t.Start == nil || t.End == nil {
		return decimal.Decimal{}, false
	}
	titre := t.End.Value.Sub(t.Start.Value)
	for _, r := range t.Refills {
		if r.Before == nil || r.After == nil {
			return decimal.Decimal{}, false
		}
		titre = titre.Add(r.Before.Value).Sub(r.After.Value)
	}
	return titre, true
}

// Sample returns the volume that ran from the sample's own burette, mL, and
// whether both of its readings are there.
func (t Trial) Sample() (decimal.Decimal, bool) {
	if t.SampleStart == nil || t.SampleEnd == nil {
		return decimal.Decimal{}, false
	}
	return t.SampleEnd.Value.Sub(t.SampleStart.Value), true
}

// Complete reports whether the trial has a titre.
func (t Trial) Complete() bool { _, ok := t.Titre(); return ok }

// line is an entry's current value with its history.
type line struct {
	entry     Entry
	value     string
	withdrawn bool
	struck    []Struck
}

// Fold turns entries into a record. Entries in another order, or repeated,
// give the same record. Entries that fail Check are skipped with a finding,
// so that a damaged file still shows everything else.
func Fold(entries []Entry) Record {
	var rec Record
	sorted := Sort(entries)
	rec.Entries = len(sorted)
	lines := make([]line, 0, len(sorted)) // never grows past this, so that pointers into it stay good
	byID := make(map[string]*line, len(sorted))
	var root map[string]string // a correction's id to the entry it corrects
	for i := range sorted {
		e := &sorted[i]
		rec.Clock = max(rec.Clock, e.Clock)
		if fault := e.Check(); fault != nil {
			rec.Findings = append(rec.Findings, finding.New("entry.unreadable", finding.Warning, e.ID, "problem", fault.Error()))
			continue
		}
		if e.Kind == KindCorrection {
			if root == nil {
				root = map[string]string{}
			}
			root[e.ID] = e.Correction.Replaces
			continue
		}
		lines = append(lines, line{entry: *e, value: e.value()})
		byID[e.ID] = &lines[len(lines)-1]
	}
	rec.correct(sorted, byID, root)

	trials := map[string]*Trial{}
	numbers := map[TrialType]int{}
	order := make([]string, 0, 8)
	for i := range lines {
		l := &lines[i]
		e := &l.entry
		if e.Kind != KindTrial {
			continue
		}
		t := &Trial{ID: e.ID, Type: TrialType(l.value), At: e.At, By: e.Author, Withdrawn: l.withdrawn}
		t.Struck.Type = l.struck
		if !t.Withdrawn {
			numbers[t.Type]++
			t.Number = numbers[t.Type]
		}
		trials[e.ID], order = t, append(order, e.ID)
	}
	for i := range lines {
		l := &lines[i]
		e := &l.entry
		if e.Kind == KindNote {
			if !l.withdrawn {
				rec.Notes = append(rec.Notes, Remarked{e.ID, e.Note.Trial, l.value, e.At, e.Author, l.struck})
			}
			continue
		}
		var id string
		switch e.Kind {
		case KindCheck, KindObservation, KindWeighing, KindTimer:
			rec.Bench = append(rec.Bench, Bench{*e, l.value, l.withdrawn, l.struck})
			if e.Kind == KindObservation && e.Observation.About == EndColour && !l.withdrawn {
				if t := trials[e.Observation.Trial]; t != nil {
					t.EndColour = l.value
				}
			}
			if e.Kind == KindWeighing && !l.withdrawn {
				rec.weighed(trials, Bench{*e, l.value, false, l.struck})
			}
			continue
		case KindKnown:
			if !l.withdrawn {
				rec.Known = &Bench{*e, l.value, false, l.struck}
			}
			rec.Bench = append(rec.Bench, Bench{*e, l.value, l.withdrawn, l.struck})
			continue
		case KindAnswer:
			if !l.withdrawn {
				if rec.Answers == nil {
					rec.Answers = map[string]Bench{}
				}
				struck := l.struck
				if old, again := rec.Answers[e.Answer.Step]; again {
					struck = append(append(old.Struck, Struck{Text: old.Text + " " + old.Entry.Answer.Unit, At: e.At, By: e.Author}), struck...)
				}
				rec.Answers[e.Answer.Step] = Bench{*e, l.value, false, struck}
			}
			continue
		case KindReading:
			id = e.Reading.Trial
		case KindSetAside:
			id = e.SetAside.Trial
		default:
			continue
		}
		t := trials[id]
		if t == nil {
			// The trial's own entry may be on its way.
			rec.Findings = append(rec.Findings, finding.New("entry.orphan", finding.Check, e.ID, "text", l.value))
			continue
		}
		if e.Kind == KindReading {
			t.read(l)
			continue
		}
		t.Struck.SetAside = append(t.Struck.SetAside, l.struck...)
		if !l.withdrawn {
			t.SetAside = &SetAside{e.ID, l.value, e.At, e.Author}
		}
	}
	rec.Trials = make([]Trial, 0, len(order))
	for _, id := range order {
		rec.Trials = append(rec.Trials, *trials[id])
	}
	return rec
}

// weighed gives a weighing to its trial, or to the whole.
func (rec *Record) weighed(trials map[string]*Trial, b Bench) {
	id := b.Entry.Weighing.Trial
	if id == "" {
		rec.Weighed = &b
		return
	}
	if t := trials[id]; t != nil {
		t.Mass = &b
		return
	}
	rec.Findings = append(rec.Findings, finding.New("entry.orphan", finding.Check, b.Entry.ID, "text", b.Entry.Weighing.Of))
}

// correct applies the corrections in notebook order.
func (rec *Record) correct(sorted []Entry, byID map[string]*line, root map[string]string) {
	for _, e := range sorted {
		if _, ok := root[e.ID]; !ok {
			continue
		}
		c := e.Correction
		target := c.Replaces
		for range root { // at most as many steps as there are corrections: a circle ends
			next, ok := root[target]
			if !ok {
				break
			}
			target = next
		}
		l := byID[target]
		if l == nil {
			rec.Findings = append(rec.Findings, finding.New("entry.orphan", finding.Check, e.ID, "text", c.Value))
			continue
		}
		if !c.Withdraw {
			if fault := l.entry.checkValue(c.Value); fault != nil {
				rec.Findings = append(rec.Findings, finding.New("entry.unreadable", finding.Warning, e.ID, "problem", fault.Error()))
				continue
			}
		}
		l.struck = append(l.struck, Struck{l.value, c.Reason, e.At, e.Author})
		l.withdrawn = c.Withdraw
		if !c.Withdraw {
			l.value = c.Value
		}
	}
}

// read lets a reading stand in its place. A later one takes the place of an
// earlier: the start is read again when liquid was run off since.
func (t *Trial) read(l *line) {
	e := &l.entry
	place, struck := &t.Start, &t.Struck.Start
	switch e.Reading.Mark {
	case End:
		place, struck = &t.End, &t.Struck.End
	case FirstEnd:
		place, struck = &t.FirstEnd, &t.Struck.Others
	case SampleStart:
		place, struck = &t.SampleStart, &t.Struck.Others
	case SampleEnd:
		place, struck = &t.SampleEnd, &t.Struck.Others
	case Provisional, BeforeRefill, AfterRefill: // there may be many
		t.Struck.Others = append(t.Struck.Others, l.struck...)
		if r, ok := l.reading(); ok && e.Reading.Mark == Provisional {
			t.Provisional = append(t.Provisional, r)
		} else if ok {
			t.refill(e.Reading.Mark, r)
		}
		return
	}
	old := *place
	if old != nil && !l.withdrawn {
		*struck = append(*struck, Struck{Text: old.Text, At: e.At, By: e.Author})
	}
	*struck = append(*struck, l.struck...)
	if l.withdrawn {
		return // what stood before stands again
	}
	if r, ok := l.reading(); ok {
		*place = &r
	}
}

// reading is the line as a reading; false when it was withdrawn.
func (l *line) reading() (Reading, bool) {
	value, err := ParseReading(l.value)
	if err != nil || l.withdrawn { // err cannot be: every value was checked
		return Reading{}, false
	}
	return Reading{Entry: l.entry.ID, Text: l.value, Value: value, At: l.entry.At, By: l.entry.Author}, true
}

// refill puts a reading into the first refill that still lacks it.
func (t *Trial) refill(mark Mark, r Reading) {
	for i := range t.Refills {
		place := &t.Refills[i].Before
		if mark == AfterRefill {
			place = &t.Refills[i].After
		}
		if *place == nil {
			*place = &r
			return
		}
	}
	if mark == AfterRefill {
		t.Refills = append(t.Refills, Refill{After: &r})
		return
	}
	t.Refills = append(t.Refills, Refill{Before: &r})
}

// value is the part of an entry that a correction replaces.
func (e Entry) value() string {
	switch e.Kind {
	case KindTrial:
		return string(e.Trial.Type)
	case KindReading:
		return e.Reading.Text
	case KindSetAside:
		return e.SetAside.Reason
	case KindNote:
		return e.Note.Text
	case KindCheck:
		return e.Checked.Item
	case KindObservation:
		return e.Observation.Text
	case KindKnown:
		return e.Known.Text
	case KindAnswer:
		return e.Answer.Text
	default:
		return ""
	}
}

// checkValue checks a correction's value against the kind of entry it replaces.
func (e Entry) checkValue(value string) *finding.Fault {
	switch e.Kind {
	case KindTrial:
		return checkType("correction.value", TrialType(value))
	case KindReading, KindAnswer:
		return CheckReading("correction.value", value)
	case KindKnown:
		k := *e.Known
		k.Text = value
		if f := k.check(); f != nil {
			return finding.Faultf("correction.value", "%s", f.Problem)
		}
		return nil
	case KindSetAside:
		return checkText("correction.value", value, 1, 300)
	case KindObservation:
		o := *e.Observation
		o.Text = value
		if f := o.check(); f != nil {
			return finding.Faultf("correction.value", "%s", f.Problem)
		}
		return nil
	case KindCheck, KindWeighing, KindTimer:
		return finding.Faultf("correction.value", "this kind of entry is withdrawn and made again, not corrected")
	default:
		return checkText("correction.value", value, 1, 2000)
	}
}

// CheckAgainst returns the fault of an entry that is well formed but cannot
// belong to this notebook: it names a trial or an entry that is not there.
// known holds the notebook's entries by id, those of the same batch included.
func (e Entry) CheckAgainst(known map[string]Entry) *finding.Fault {
	trial := func(path, id string) *finding.Fault {
		if known[id].Kind != KindTrial {
			return finding.Faultf(path, "no trial %q is in this notebook; open the trial first", id)
		}
		return nil
	}
	switch e.Kind {
	case KindReading:
		return trial("reading.trial", e.Reading.Trial)
	case KindSetAside:
		return trial("setAside.trial", e.SetAside.Trial)
	case KindNote:
		if e.Note.Trial != "" {
			return trial("note.trial", e.Note.Trial)
		}
	case KindObservation:
		if e.Observation.Trial != "" {
			return trial("observation.trial", e.Observation.Trial)
		}
	case KindWeighing:
		if e.Weighing.Trial != "" {
			return trial("weighing.trial", e.Weighing.Trial)
		}
	case KindTimer:
		if e.Timer.Trial != "" {
			return trial("timer.trial", e.Timer.Trial)
		}
	case KindCorrection:
		target, ok := known[e.Correction.Replaces]
		for range known {
			if !ok || target.Kind != KindCorrection {
				break
			}
			target, ok = known[target.Correction.Replaces]
		}
		if !ok {
			return finding.Faultf("correction.replaces", "no entry %q is in this notebook", e.Correction.Replaces)
		}
		if target.Kind == KindCorrection {
			return finding.Faultf("correction.replaces", "these corrections replace each other in a circle")
		}
		if !e.Correction.Withdraw {
			return target.checkValue(e.Correction.Value)
		}
	}
	return nil
}
