package journal

import "exactflask/core/values/finding"

// Remark is a note, about a trial or about the whole.
type Remark struct {
	Of      string `json:"trial,omitempty" maxLength:"64" doc:"id of the trial; empty for the whole"`
	Written string `json:"text" minLength:"1" maxLength:"2000"`
}

var noteSaid = finding.Declare("journal.note", "text")

// Kind implements Part.
func (Remark) Kind() Kind { return "note" }

// Check implements Part.
func (r Remark) Check() *finding.Fault {
	return first(checkTrial(r.Of), checkText("text", r.Written, 1, 2000))
}

// Trial implements Part.
func (r Remark) Trial() string { return r.Of }

// Text implements Part: the note is what a correction replaces.
func (r Remark) Text() string { return r.Written }

// With implements Part.
func (r Remark) With(text string) (Part, *finding.Fault) {
	r.Written = text
	return corrected(r)
}

// Said implements Part.
func (r Remark) Said() finding.Message { return noteSaid.Message(finding.Text(r.Written)) }

func (r Remark) fold(c *folding, l *Line) {
	c.out.Notes = append(c.out.Notes, Note{l.Entry.ID, r.Of, r.Written, l.Entry.At, l.Entry.Author, l.Struck, l.Withdrawn})
}
