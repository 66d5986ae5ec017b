// Package finding holds what the core has to say: messages with typed values,
// findings about a true record, and faults of input that could not be taken.
//
// Everything is a code with values, not a sentence: package wording turns it
// into one, in the language, words and units of the reader. A finding never
// blocks a record.
package finding

import (
	"encoding/json"
	"errors"
	"maps"
	"slices"
	"strings"

	"exactflask/core/values/decimal"
	"exactflask/core/values/quantity"
)

// Severity says how much a finding matters.
type Severity string

// The severities: Note informs, Check asks the person to look again, Warning
// says that a result would mislead.
const (
	Note    Severity = "note"
	Check   Severity = "check"
	Warning Severity = "warning"
)

// Values are the values of a message by name.
type Values map[string]Value

// Message is a code with its values.
type Message struct {
	Code   string `json:"code" doc:"stable code, such as reading.below-scale"`
	Values Values `json:"values,omitempty" doc:"what the sentence needs, by name"`
}

// String is for logs and tests.
func (m Message) String() string {
	parts := []string{m.Code}
	for _, name := range slices.Sorted(maps.Keys(m.Values)) {
		parts = append(parts, name+"="+m.Values[name].String())
	}
	return strings.Join(parts, " ")
}

// Finding is one thing seen in a practical or a notebook.
type Finding struct {
	Message
	Severity Severity `json:"severity" enum:"note,check,warning"`
	Subject  string   `json:"subject,omitempty" doc:"id of the trial or entry it is about; empty for the whole notebook"`
}

// Fault is an error of input: where it is and what is wrong. Its sentence,
// which also says what to do, is that of the message.
type Fault struct {
	Path string // such as route[3].volume; empty for the whole
	Message
}

// Error is for logs and tests; people read the sentence of the message.
func (f *Fault) Error() string {
	if f.Path == "" {
		return f.Message.String()
	}
	return f.Path + ": " + f.Message.String()
}

// Is reports whether the target is a fault of the same code, so that
// errors.Is(err, code.Fault("")) asks for a kind of fault.
func (f *Fault) Is(target error) bool {
	var other *Fault
	return errors.As(target, &other) && other.Code == f.Code && (other.Path == "" || other.Path == f.Path)
}

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

// At returns the fault with its path replaced.
func (f *Fault) At(path string) *Fault { return &Fault{Path: path, Message: f.Message} }

// Speaker is an error that knows what is to be said of it.
type Speaker interface {
	error
	Said() Message
}

// Faults of the packages below this one, and of an error that has no code of
// its own.
var (
	other      = Declare("fault.other")
	wrongType  = Declare("fault.type", "value")
	conversion = Declare("quantity.conversion", "from", "to")
	numbers    = map[error]Code{
		decimal.ErrEmpty:      Declare("number.empty"),
		decimal.ErrNotANumber: Declare("number.unreadable", "text"),
		decimal.ErrTwoPoints:  Declare("number.two-points", "text"),
		decimal.ErrTooLong:    Declare("number.too-long", "text", "most"),
	}
)

// FaultOf makes a fault of an error, with its own code where it has one.
func FaultOf(path string, err error) *Fault {
	var speaker Speaker
	if errors.As(err, &speaker) {
		return &Fault{Path: path, Message: speaker.Said()}
	}
	var fault *Fault
	if errors.As(err, &fault) {
		return fault.At(path)
	}
	var parse *decimal.ParseError
	if errors.As(err, &parse) {
		code := numbers[parse.Err]
		return code.Fault(path, []Value{Text(parse.Text), Count(decimal.MaxDigits)}[:len(code.params)]...)
	}
	var unit *quantity.ConversionError
	if errors.As(err, &unit) {
		return conversion.Fault(path, Text(string(unit.From)), Text(string(unit.To)))
	}
	var kind *json.UnmarshalTypeError
	if errors.As(err, &kind) {
		return wrongType.Fault(kind.Field, Text(kind.Value)).In(path)
	}
	// What nobody wrote a sentence for may hold what is nobody's business.
	return other.Fault(path)
}
