// Package calc offers the computations of the core without a notebook: JSON
// in, JSON out, each with its schema. The command line and the API share it.
//
//	out, err := calc.Run("formula", []byte(`{"formula": "H2C2O4*2H2O"}`))
package calc

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"sync"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/core/values/finding"
	"exactflask/schema"
)

// ErrUnknown is returned for a name that no function has.
var ErrUnknown = errors.New("there is no such computation")

// Function is one computation.
type Function struct {
	Name    string
	Answers bool // it answers a titration, or plans one: closed while a practical withholds its result
	about   finding.Code
	in, out reflect.Type
	run     func([]byte) (any, *finding.Fault)
}

// define makes a function of its typed form.
func define[In, Out any](name string, do func(In) (Out, *finding.Fault)) Function {
	return Function{Name: name, about: finding.Declare("calc.about." + name), in: reflect.TypeFor[In](),
		out: reflect.TypeFor[Out](), run: func(text []byte) (any, *finding.Fault) {
			var in In
			if err := json.Unmarshal(text, &in); err != nil {
				return nil, finding.FaultOf("", err)
			}
			return do(in)
		}}
}

// About says what the computation is for.
func (f Function) About() finding.Message { return f.about.Message() }

// Functions lists all computations by name.
func Functions() []Function {
	out := slices.Concat(functions, planning)
	slices.SortFunc(out, func(a, b Function) int { return bytes.Compare([]byte(a.Name), []byte(b.Name)) })
	return out
}

// answering marks a function that answers or plans a titration.
func answering(f Function) Function {
	f.Answers = true
	return f
}

// Answering tells whether a computation answers or plans a titration.
func Answering(name string) bool {
	f, err := find(name)
	return err == nil && f.Answers
}

func find(name string) (Function, error) {
	for _, f := range slices.Concat(functions, planning) {
		if f.Name == name {
			return f, nil
		}
	}
	return Function{}, fmt.Errorf("%w: %q; see the list", ErrUnknown, name)
}

// made are the schemas of each function, by its name.
var made sync.Map

type shapes struct {
	registry huma.Registry
	in, out  *huma.Schema
}

func (f Function) shapes() shapes {
	if s, ok := made.Load(f.Name); ok {
		return s.(shapes)
	}
	r := schema.Registry("#/$defs/")
	s := shapes{r, r.Schema(f.in, true, "Input"), r.Schema(f.out, true, "Output")}
	made.Store(f.Name, s)
	return s
}

// Schema returns the JSON Schemas of a computation's input and output; about is
// what it says of the computation.
func Schema(name string, about func(finding.Message) string) ([]byte, error) {
	f, err := find(name)
	if err != nil {
		return nil, err
	}
	s := f.shapes()
	text, err := json.MarshalIndent(struct {
		Schema  string                  `json:"$schema"`
		Title   string                  `json:"title"`
		Summary string                  `json:"description"`
		Input   *huma.Schema            `json:"input"`
		Output  *huma.Schema            `json:"output"`
		Defs    map[string]*huma.Schema `json:"$defs"`
	}{"https://json-schema.org/draft/2020-12/schema", f.Name, about(f.About()), s.in, s.out, s.registry.Map()}, "", "  ")
	if err != nil {
		return nil, fmt.Errorf("writing the schema: %w", err)
	}
	return append(text, '\n'), nil
}

// Run checks the input against its schema, computes, and returns the output.
// Errors: ErrUnknown, or schema.Faults, each with the path of what is wrong.
func Calculate(name string, input []byte) ([]byte, error) {
	f, err := find(name)
	if err != nil {
		return nil, err
	}
	var tree any
	if err := json.Unmarshal(input, &tree); err != nil {
		return nil, schema.Faults{schema.SyntaxFault(input, err)}
	}
	s := f.shapes()
	if faults := schema.Validate(s.registry, s.in, tree); len(faults) > 0 {
		return nil, faults
	}
	out, fault := f.run(input)
	if fault != nil {
		return nil, schema.Faults{fault}
	}
	text, err := json.Marshal(out)
	var beyond *json.UnsupportedValueError
	if errors.As(err, &beyond) {
		return nil, schema.Faults{notFinite.Fault("")}
	}
	if err != nil {
		return nil, fmt.Errorf("writing the answer: %w", err)
	}
	return text, nil
}

// notFinite is for inputs so large or small that the answer is no number.
var notFinite = finding.Declare("calc.not-finite")
