package finding

import (
	"fmt"
	"slices"
	"sync"
)

// Code names one thing the core has to say, and the values it says it with.
// What is said in which language is no business of the core.
type Code struct {
	name   string
	params []string
}

// declared are all codes, so that a test can hold every language to them. They
// are declared while the program starts and never changed afterwards.
var (
	declaring sync.Mutex
	declared  = map[string][]string{}
)

// Declare declares a code with the names of its values, in the order in which
// they are given later. Declaring it again with other names panics.
func Declare(name string, params ...string) Code {
	declaring.Lock()
	defer declaring.Unlock()
	if old, there := declared[name]; there && !slices.Equal(old, params) {
		panic("code " + name + " is declared twice, with other values")
	}
	declared[name] = params
	return Code{name, params}
}

// Family declares several codes of one kind with the same values and returns
// them by their last part: prefix + part is the code.
func Family[Part ~string](prefix string, parts []Part, params ...string) map[Part]Code {
	out := make(map[Part]Code, len(parts))
	for _, part := range parts {
		out[part] = Declare(prefix+string(part), params...)
	}
	return out
}

// Declared returns every declared code with the names of its values.
func Declared() map[string][]string {
	declaring.Lock()
	defer declaring.Unlock()
	out := make(map[string][]string, len(declared))
	for name, params := range declared {
		out[name] = params
	}
	return out
}

// Name is the code as it stands in files and answers.
func (c Code) Name() string { return c.name }

// Message is the code with its values, in the order of its declaration; the
// numbers of both being different is a fault of the program and panics.
func (c Code) Message(values ...Value) Message {
	if len(values) != len(c.params) {
		panic(fmt.Sprintf("code %q has the values %v and was given %d", c.name, c.params, len(values)))
	}
	m := Message{Code: c.name}
	if len(values) > 0 {
		m.Values = make(Values, len(values))
		for i, v := range values {
			m.Values[c.params[i]] = v
		}
	}
	return m
}

// Finding is the code as a finding about a trial or an entry, or about the
// whole where subject is empty.
func (c Code) Finding(severity Severity, subject string, values ...Value) Finding {
	return Finding{Message: c.Message(values...), Severity: severity, Subject: subject}
}

// Fault is the code as an error of input at a path.
func (c Code) Fault(path string, values ...Value) *Fault {
	return &Fault{Path: path, Message: c.Message(values...)}
}
