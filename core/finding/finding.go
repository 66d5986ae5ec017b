// Package finding holds what the core has to say: findings about a true
// record, and faults of input that could not be taken.
//
// A finding is a code with values, not a sentence: package wording turns it
// into one, in the words and units of the reader. It never blocks a record.
package finding

import "fmt"

// Severity says how much a finding matters.
type Severity string

// The severities: Note informs, Check asks the person to look again, Warning
// says that a result would mislead.
const (
	Note    Severity = "note"
	Check   Severity = "check"
	Warning Severity = "warning"
)

// Finding is one thing seen in a practical or a notebook.
type Finding struct {
	Code     string            `json:"code" doc:"stable code, such as reading.below-scale"`
	Severity Severity          `json:"severity" enum:"note,check,warning"`
	Subject  string            `json:"subject,omitempty" doc:"id of the trial or entry it is about; empty for the whole notebook"`
	Values   map[string]string `json:"values,omitempty" doc:"numbers and names the sentence needs"`
}

// New makes a finding; pairs are names and values in turn.
func New(code string, severity Severity, subject string, pairs ...string) Finding {
	f := Finding{Code: code, Severity: severity, Subject: subject}
	if len(pairs) > 0 {
		f.Values = Values(pairs...)
	}
	return f
}

// Values makes a map of names and values given in turn.
func Values(pairs ...string) map[string]string {
	out := make(map[string]string, len(pairs)/2)
	for i := 0; i+1 < len(pairs); i += 2 {
		out[pairs[i]] = pairs[i+1]
	}
	return out
}

// Fault is an error of input: where it is and what is wrong, in words that
// also say what to do.
type Fault struct {
	Path    string // such as entries[3].reading.text; empty for the whole
	Problem string
	Err     error // the cause, if another error was
}

// Faultf makes a Fault at path. An argument for %w becomes the cause.
func Faultf(path, format string, args ...any) *Fault {
	err := fmt.Errorf(format, args...)
	return &Fault{Path: path, Problem: err.Error(), Err: err}
}

func (f *Fault) Error() string {
	if f.Path == "" {
		return f.Problem
	}
	return f.Path + ": " + f.Problem
}

func (f *Fault) Unwrap() error { return f.Err }

// In returns the fault with an outer path put before its own.
func (f *Fault) In(path string) *Fault {
	out := *f
	switch {
	case out.Path == "":
		out.Path = path
	case out.Path[0] == '[':
		out.Path = path + out.Path
	default:
		out.Path = path + "." + out.Path
	}
	return &out
}
