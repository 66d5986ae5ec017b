// Package journal is the notebook in ink. Entries are only ever added; Fold
// says what they add up to.
//
// Entries merge by union: whatever order they arrive in, and however often,
// Fold sorts them by logical clock, device and id and finds the same trials.
package journal

import (
	"cmp"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"exactflask/core/decimal"
	"exactflask/core/finding"
	"exactflask/core/quantity"
)

// Kind says what an entry records, and which of its parts is filled.
type Kind string

// The kinds of entry.
const (
	KindTrial       Kind = "trial"
	KindReading     Kind = "reading"
	KindSetAside    Kind = "set-aside"
	KindNote        Kind = "note"
	KindCheck       Kind = "check"
	KindObservation Kind = "observation"
	KindWeighing    Kind = "weighing"
	KindTimer       Kind = "timer"
	KindKnown       Kind = "known"
	KindAnswer      Kind = "answer"
	KindCorrection  Kind = "correction"
)

// TrialType says what a trial is for.
type TrialType string

// The types of trial. A rough trial finds the end point to within a millilitre
// and steers the next ones; the mean titre of blank trials is subtracted; a
// practice trial counts nowhere.
const (
	Rough    TrialType = "rough"
	Accurate TrialType = "accurate"
	Blank    TrialType = "blank"
	Practice TrialType = "practice"
)

// Mark says which reading of a trial was taken.
type Mark string

// The readings of a trial. A provisional reading is noted before a further
// drop. When the burette is filled within a trial it is read before and after.
// Where the sample is run from a burette of its own, that is read at the start
// and end of the sample.
const (
	Start        Mark = "start"
	End          Mark = "end"
	FirstEnd     Mark = "first-end"
	Provisional  Mark = "provisional"
	BeforeRefill Mark = "before-refill"
	AfterRefill  Mark = "after-refill"
	SampleStart  Mark = "sample-start"
	SampleEnd    Mark = "sample-end"
)

// Observed says what an observation is about.
type Observed string

// What can be observed. EndColour has the values pale, deep and fading; Leak
// has seen, reseated and changed (the burette was changed); the others are in
// words: the label of the bottle that was used, the solution that was made,
// the aliquot that was pipetted, the waste a liquid went to, and what is left
// of the titrant.
const (
	EndColour Observed = "end-colour"
	Leak      Observed = "leak"
	Batch     Observed = "batch"
	Made      Observed = "solution-made"
	Aliquot   Observed = "aliquot"
	Waste     Observed = "waste"
	Left      Observed = "left"
)

// observedValues are the values of those observations that have fixed ones.
var observedValues = map[Observed][]string{EndColour: {"pale", "deep", "fading"}, Leak: {"seen", "reseated", "changed"}, Batch: nil, Made: nil, Aliquot: nil, Waste: nil, Left: nil}

// Entry is one line of the notebook. Exactly the part named by Kind is filled.
type Entry struct {
	ID          string       `json:"id" minLength:"8" maxLength:"64" pattern:"^[A-Za-z0-9_-]+$" doc:"made by the device that recorded it (UUIDv7)"`
	Author      string       `json:"author,omitempty" maxLength:"64" doc:"id of the person who recorded it; the server fills it in"`
	Device      string       `json:"device" minLength:"1" maxLength:"64" doc:"id of the device that recorded it"`
	Clock       int64        `json:"clock" minimum:"1" doc:"logical clock: one more than the highest the device had seen"`
	At          time.Time    `json:"at" doc:"wall time of the device; shown, never used for order"`
	Kind        Kind         `json:"kind" enum:"trial,reading,set-aside,note,check,observation,weighing,timer,known,answer,correction"`
	Trial       *Opening     `json:"trial,omitempty" doc:"a trial is opened; its id is the entry's"`
	Reading     *Scale       `json:"reading,omitempty" doc:"the burette is read"`
	SetAside    *Exclusion   `json:"setAside,omitempty" doc:"a trial is left out of the judgement, with the reason"`
	Note        *Remark      `json:"note,omitempty" doc:"something worth remembering"`
	Checked     *Checked     `json:"check,omitempty" doc:"an item of the set-up or clean-up list was done"`
	Observation *Observation `json:"observation,omitempty" doc:"something was seen"`
	Weighing    *Weighing    `json:"weighing,omitempty" doc:"a mass by difference"`
	Timer       *Timer       `json:"timer,omitempty" doc:"a waiting time was kept"`
	Known       *Known       `json:"known,omitempty" doc:"the concentration of the solution that is known, as it was found by standardising"`
	Answer      *Answer      `json:"answer,omitempty" doc:"the student's own value for a step of the working"`
	Correction  *Correction  `json:"correction,omitempty" doc:"an earlier entry is corrected; what it said stays readable"`
}

// Opening opens a trial.
type Opening struct {
	Type TrialType `json:"type" enum:"rough,accurate,blank,practice"`
}

// Scale is a reading of the burette, as it was written.
type Scale struct {
	Trial string `json:"trial" maxLength:"64" doc:"id of the trial"`
	Mark  Mark   `json:"mark" enum:"start,end,first-end,provisional,before-refill,after-refill,sample-start,sample-end"`
	Text  string `json:"text" maxLength:"24" doc:"the reading in mL with the digits that were written; a decimal comma is understood"`
}

// Exclusion sets a trial aside.
type Exclusion struct {
	Trial  string `json:"trial" maxLength:"64" doc:"id of the trial"`
	Reason string `json:"reason" minLength:"1" maxLength:"300" doc:"what went wrong, in words"`
}

// Remark is a note, about a trial or about the whole.
type Remark struct {
	Trial string `json:"trial,omitempty" maxLength:"64" doc:"id of the trial; empty for the whole"`
	Text  string `json:"text" minLength:"1" maxLength:"2000"`
}

// Checked says that an item of a list was done.
type Checked struct {
	Item string `json:"item" minLength:"1" maxLength:"40" doc:"code of the item, such as rinse-water"`
}

// Observation is something seen, about a trial or about the whole.
type Observation struct {
	About Observed `json:"about" enum:"end-colour,leak,batch,solution-made,aliquot,waste,left"`
	Trial string   `json:"trial,omitempty" maxLength:"64"`
	Text  string   `json:"text" minLength:"1" maxLength:"300" doc:"one of the fixed values, or words"`
}

// Weighing is a mass by difference: vessel with solid, then the emptied vessel.
type Weighing struct {
	Of      string `json:"of" minLength:"1" maxLength:"80" doc:"what was weighed"`
	Full    string `json:"full" maxLength:"24" doc:"vessel and solid, g, as written"`
	Emptied string `json:"emptied" maxLength:"24" doc:"the emptied vessel, g, as written"`
	Trial   string `json:"trial,omitempty" maxLength:"64" doc:"id of the trial whose sample it is, where every trial has its own"`
}

// Known is the concentration of the known solution as it was found, which
// takes the place of the one that the practical gives.
type Known struct {
	Text        string `json:"text" maxLength:"24" doc:"mol/L, with its digits"`
	Uncertainty string `json:"uncertainty,omitempty" maxLength:"24" doc:"standard uncertainty, mol/L"`
	From        string `json:"from,omitempty" maxLength:"120" doc:"where it comes from, such as the notebook of the standardisation"`
}

// Answer is a value that the student worked out for a step.
type Answer struct {
	Step string `json:"step" minLength:"1" maxLength:"120" doc:"id of the step's node in the derivation"`
	Text string `json:"text" maxLength:"24" doc:"the value with its digits"`
	Unit string `json:"unit,omitempty" maxLength:"20" doc:"unit code; empty for a pure number"`
}

// Timer is a waiting time that was kept to its end.
type Timer struct {
	For     string `json:"for" enum:"leak,end-colour,stirring,drain"`
	Trial   string `json:"trial,omitempty" maxLength:"64"`
	Seconds int    `json:"seconds" minimum:"1" maximum:"7200"`
}

// Correction replaces what an earlier entry says, or withdraws that entry.
// Naming a correction is the same as naming the entry it corrected.
type Correction struct {
	Replaces string `json:"replaces" maxLength:"64" doc:"id of the entry that is corrected"`
	Value    string `json:"value,omitempty" maxLength:"2000" doc:"what it should say: reading, type of trial, reason or text"`
	Withdraw bool   `json:"withdraw,omitempty" doc:"the entry should not have been made"`
	Reason   string `json:"reason" minLength:"1" maxLength:"300"`
}

// Check returns the fault that keeps an entry out of a notebook: a part that
// is missing or does not fit the kind, a reading that is no number, a text
// that is too long. Whether a reading is plausible is not looked at here.
func (e Entry) Check() *finding.Fault {
	if f := checkID("id", e.ID); f != nil {
		return f
	}
	if f := checkText("device", e.Device, 1, 64); f != nil {
		return f
	}
	if e.Clock < 1 || e.Clock > 1<<53 {
		return finding.Faultf("clock", "the logical clock counts from 1; this says %d", e.Clock)
	}
	filled := 0
	own := false
	for _, part := range [...]struct {
		kind  Kind
		there bool
	}{{KindTrial, e.Trial != nil}, {KindReading, e.Reading != nil}, {KindSetAside, e.SetAside != nil}, {KindNote, e.Note != nil},
		{KindCheck, e.Checked != nil}, {KindObservation, e.Observation != nil}, {KindWeighing, e.Weighing != nil}, {KindTimer, e.Timer != nil},
		{KindKnown, e.Known != nil}, {KindAnswer, e.Answer != nil}, {KindCorrection, e.Correction != nil}} {
		if part.there {
			filled++
		}
		own = own || part.there && part.kind == e.Kind
	}
	switch e.Kind {
	case KindTrial, KindReading, KindSetAside, KindNote, KindCheck, KindObservation, KindWeighing, KindTimer, KindKnown, KindAnswer, KindCorrection:
	default:
		return finding.Faultf("kind", "no entry is of kind %q; use trial, reading, set-aside, note, check, observation, weighing, timer, known, answer or correction", e.Kind)
	}
	if !own {
		return finding.Faultf("kind", "the entry says %q but that part is missing", e.Kind)
	}
	if filled > 1 {
		return finding.Faultf("kind", "the entry says %q and also holds another part; write two entries", e.Kind)
	}
	switch e.Kind {
	case KindTrial:
		return checkType("trial.type", e.Trial.Type)
	case KindReading:
		if f := checkID("reading.trial", e.Reading.Trial); f != nil {
			return f
		}
		switch e.Reading.Mark {
		case Start, End, FirstEnd, Provisional, BeforeRefill, AfterRefill, SampleStart, SampleEnd:
		default:
			return finding.Faultf("reading.mark", "a reading is start, end, first-end, provisional, before-refill, after-refill, sample-start or sample-end; this says %q", e.Reading.Mark)
		}
		return CheckReading("reading.text", e.Reading.Text)
	case KindSetAside:
		if f := checkID("setAside.trial", e.SetAside.Trial); f != nil {
			return f
		}
		return checkText("setAside.reason", e.SetAside.Reason, 1, 300)
	case KindNote:
		if e.Note.Trial != "" {
			if f := checkID("note.trial", e.Note.Trial); f != nil {
				return f
			}
		}
		return checkText("note.text", e.Note.Text, 1, 2000)
	case KindCheck:
		return checkText("check.item", e.Checked.Item, 1, 40)
	case KindObservation:
		return e.Observation.check()
	case KindWeighing:
		return e.Weighing.check()
	case KindTimer:
		if e.Timer.Seconds < 1 || e.Timer.Seconds > 7200 {
			return finding.Faultf("timer.seconds", "a waiting time is 1 to 7200 s; this says %d", e.Timer.Seconds)
		}
		return checkText("timer.for", e.Timer.For, 1, 40)
	case KindKnown:
		return e.Known.check()
	case KindAnswer:
		if f := checkText("answer.step", e.Answer.Step, 1, 120); f != nil {
			return f
		}
		if e.Answer.Unit != "" && !quantity.Unit(e.Answer.Unit).Known() {
			return finding.Faultf("answer.unit", "no unit %q is known", e.Answer.Unit)
		}
		return CheckReading("answer.text", e.Answer.Text)
	default:
		return e.Correction.check()
	}
}

func (o Observation) check() *finding.Fault {
	values, known := observedValues[o.About]
	if !known {
		return finding.Faultf("observation.about", "nothing is observed about %q", o.About)
	}
	if o.Trial != "" {
		if f := checkID("observation.trial", o.Trial); f != nil {
			return f
		}
	}
	if values != nil && !slices.Contains(values, o.Text) {
		return finding.Faultf("observation.text", "this is one of %s; it says %q", strings.Join(values, ", "), o.Text)
	}
	return checkText("observation.text", o.Text, 1, 300)
}

func (k Known) check() *finding.Fault {
	if f := CheckReading("known.text", k.Text); f != nil {
		return f
	}
	if v, _ := ParseReading(k.Text); v.Sign() <= 0 {
		return finding.Faultf("known.text", "a concentration is more than 0 mol/L; this says %s", k.Text)
	}
	if k.Uncertainty != "" {
		if f := CheckReading("known.uncertainty", k.Uncertainty); f != nil {
			return f
		}
	}
	return checkText("known.from", k.From, 0, 120)
}

func (w Weighing) check() *finding.Fault {
	if w.Trial != "" {
		if f := checkID("weighing.trial", w.Trial); f != nil {
			return f
		}
	}
	if f := checkText("weighing.of", w.Of, 1, 80); f != nil {
		return f
	}
	if f := CheckReading("weighing.full", w.Full); f != nil {
		return f
	}
	return CheckReading("weighing.emptied", w.Emptied)
}

// Mass returns the mass in g, exact: vessel and solid less the emptied vessel.
func (w Weighing) Mass() decimal.Decimal {
	full, _ := ParseReading(w.Full)
	emptied, _ := ParseReading(w.Emptied)
	return full.Sub(emptied)
}

func (c Correction) check() *finding.Fault {
	if f := checkID("correction.replaces", c.Replaces); f != nil {
		return f
	}
	if f := checkText("correction.reason", c.Reason, 1, 300); f != nil {
		return f
	}
	if c.Withdraw != (c.Value == "") {
		return finding.Faultf("correction.value", "a correction either gives the right value or withdraws the entry")
	}
	return checkText("correction.value", c.Value, 0, 2000)
}

// CheckReading returns a fault when a text cannot be read as a number.
func CheckReading(path, text string) *finding.Fault {
	if f := checkText(path, text, 1, 24); f != nil {
		return f
	}
	if _, err := ParseReading(text); err != nil {
		return finding.Faultf(path, "%w; write a reading such as 24.40 or 24,40", err)
	}
	return nil
}

// ParseReading reads a number as people write, paste or dictate a reading:
// "24.40", "24,40", "24,40 ml", "24.40 cm3", "1.2345 g". The unit is dropped.
func ParseReading(text string) (decimal.Decimal, error) {
	number := strings.ToLower(strings.TrimSpace(text))
	for _, unit := range [...]string{"ml", "cm3", "cm³", "cc", "mol/l", "g"} {
		if cut, ok := strings.CutSuffix(number, unit); ok {
			number = cut
			break
		}
	}
	d, err := decimal.Parse(number)
	if err != nil {
		_, err = decimal.Parse(text) // the fault speaks of what was written
	}
	return d, err
}

func checkType(path string, t TrialType) *finding.Fault {
	switch t {
	case Rough, Accurate, Blank, Practice:
		return nil
	}
	return finding.Faultf(path, "a trial is rough, accurate, blank or practice; this says %q", t)
}

func checkID(path, id string) *finding.Fault {
	if len(id) < 8 || len(id) > 64 {
		return finding.Faultf(path, "an id has 8 to 64 characters; this has %d", len(id))
	}
	for _, r := range id {
		if !(r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || r == '-' || r == '_') {
			return finding.Faultf(path, "an id holds letters, digits, - and _ only; this has %q", r)
		}
	}
	return nil
}

func checkText(path, text string, least, most int) *finding.Fault {
	switch n := utf8.RuneCountInString(text); {
	case !utf8.ValidString(text):
		return finding.Faultf(path, "this is not text in UTF-8")
	case n < least:
		return finding.Faultf(path, "nothing is written here")
	case n > most:
		return finding.Faultf(path, "this has %d characters; at most %d are kept", n, most)
	}
	return nil
}

// Sort returns the entries in the order of the notebook, each id once. Of two
// entries with one id the earlier in that order is taken.
func Sort(entries []Entry) []Entry {
	out := slices.Clone(entries)
	slices.SortStableFunc(out, compare)
	seen := make(map[string]struct{}, len(out))
	return slices.DeleteFunc(out, func(e Entry) bool {
		_, again := seen[e.ID]
		seen[e.ID] = struct{}{}
		return again
	})
}

func compare(a, b Entry) int {
	return cmp.Or(cmp.Compare(a.Clock, b.Clock), strings.Compare(a.Device, b.Device), strings.Compare(a.ID, b.ID))
}
