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
)

// Kind says what an entry records, and which of its parts is filled.
type Kind string

// The kinds of entry.
const (
	KindTrial      Kind = "trial"
	KindReading    Kind = "reading"
	KindSetAside   Kind = "set-aside"
	KindNote       Kind = "note"
	KindCorrection Kind = "correction"
)

// TrialType says what a trial is for.
type TrialType string

// The types of trial. A rough trial finds the end point to within a millilitre
// and steers the next ones.
const (
	Rough    TrialType = "rough"
	Accurate TrialType = "accurate"
)

// Mark says which reading of a trial was taken.
type Mark string

// The readings of a trial.
const (
	Start Mark = "start"
	End   Mark = "end"
)

// Entry is one line of the notebook. Exactly the part named by Kind is filled.
type Entry struct {
	ID         string      `json:"id" minLength:"8" maxLength:"64" pattern:"^[A-Za-z0-9_-]+$" doc:"made by the device that recorded it (UUIDv7)"`
	Author     string      `json:"author,omitempty" maxLength:"64" doc:"id of the person who recorded it; the server fills it in"`
	Device     string      `json:"device" minLength:"1" maxLength:"64" doc:"id of the device that recorded it"`
	Clock      int64       `json:"clock" minimum:"1" doc:"logical clock: one more than the highest the device had seen"`
	At         time.Time   `json:"at" doc:"wall time of the device; shown, never used for order"`
	Kind       Kind        `json:"kind" enum:"trial,reading,set-aside,note,correction"`
	Trial      *Opening    `json:"trial,omitempty" doc:"a trial is opened; its id is the entry's"`
	Reading    *Scale      `json:"reading,omitempty" doc:"the burette is read"`
	SetAside   *Exclusion  `json:"setAside,omitempty" doc:"a trial is left out of the judgement, with the reason"`
	Note       *Remark     `json:"note,omitempty" doc:"something worth remembering"`
	Correction *Correction `json:"correction,omitempty" doc:"an earlier entry is corrected; what it said stays readable"`
}

// Opening opens a trial.
type Opening struct {
	Type TrialType `json:"type" enum:"rough,accurate"`
}

// Scale is a reading of the burette, as it was written.
type Scale struct {
	Trial string `json:"trial" maxLength:"64" doc:"id of the trial"`
	Mark  Mark   `json:"mark" enum:"start,end"`
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
	}{{KindTrial, e.Trial != nil}, {KindReading, e.Reading != nil}, {KindSetAside, e.SetAside != nil}, {KindNote, e.Note != nil}, {KindCorrection, e.Correction != nil}} {
		if part.there {
			filled++
		}
		own = own || part.there && part.kind == e.Kind
	}
	switch e.Kind {
	case KindTrial, KindReading, KindSetAside, KindNote, KindCorrection:
	default:
		return finding.Faultf("kind", "no entry is of kind %q; use trial, reading, set-aside, note or correction", e.Kind)
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
		if e.Reading.Mark != Start && e.Reading.Mark != End {
			return finding.Faultf("reading.mark", "a reading is start or end; this says %q", e.Reading.Mark)
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
	default:
		return e.Correction.check()
	}
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
	if _, err := decimal.Parse(text); err != nil {
		return finding.Faultf(path, "%w; write a reading such as 24.40 or 24,40", err)
	}
	return nil
}

func checkType(path string, t TrialType) *finding.Fault {
	if t != Rough && t != Accurate {
		return finding.Faultf(path, "a trial is rough or accurate; this says %q", t)
	}
	return nil
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
