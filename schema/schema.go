// Package schema holds documents and requests to their form: JSON Schema made
// from Go types, validation, and faults with their path, as codes.
package schema

import (
	"bytes"
	"encoding/json"
	"errors"
	"reflect"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/validation"

	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

// Faults are all the things wrong with a document.
type Faults []*finding.Fault

func (f Faults) Error() string {
	lines := make([]string, len(f))
	for i, fault := range f {
		lines[i] = fault.Error()
	}
	return strings.Join(lines, "\n")
}

// What can be wrong with the form of a value. The library's messages are
// replaced by these codes, each with what was wanted behind a bar.
var (
	forms     = map[string]finding.Code{}
	otherForm = form("schema.other")
	notJSON   = finding.Declare("schema.not-json", "line", "column")
	noJSON    = finding.Declare("schema.no-json")
)

func form(name string) finding.Code {
	forms[name] = finding.Declare(name, "wanted", "given")
	return forms[name]
}

func init() {
	huma.DefaultArrayNullable = false
	for code, message := range map[string]*string{
		"schema.unexpected": &validation.MsgUnexpectedProperty, "schema.boolean": &validation.MsgExpectedBoolean, "schema.number": &validation.MsgExpectedNumber,
		"schema.integer": &validation.MsgExpectedInteger, "schema.string": &validation.MsgExpectedString, "schema.array": &validation.MsgExpectedArray,
		"schema.object": &validation.MsgExpectedObject, "schema.time": &validation.MsgExpectedRFC3339DateTime,
	} {
		form(code)
		*message = code
	}
	for code, message := range map[string]*string{
		"schema.one-of": &validation.MsgExpectedOneOf, "schema.least": &validation.MsgExpectedMinimumNumber, "schema.more-than": &validation.MsgExpectedExclusiveMinimumNumber,
		"schema.most": &validation.MsgExpectedMaximumNumber, "schema.less-than": &validation.MsgExpectedExclusiveMaximumNumber, "schema.pattern": &validation.MsgExpectedMatchPattern,
		"schema.required": &validation.MsgExpectedRequiredProperty,
	} {
		form(code)
		*message = code + "|%v"
	}
	for code, message := range map[string]*string{
		"schema.length-least": &validation.MsgExpectedMinLength, "schema.length-most": &validation.MsgExpectedMaxLength,
		"schema.items-least": &validation.MsgExpectedMinItems, "schema.items-most": &validation.MsgExpectedMaxItems,
	} {
		form(code)
		*message = code + "|%d"
	}
	form("schema.be.decimal")
	form("schema.be.positive")
	validation.MsgExpectedBePattern = "schema.be.%s"
}

// number describes an exact decimal in a schema: text, so that the digits that
// were written are kept.
type number struct{}

// Schema implements huma.SchemaProvider.
func (number) Schema(huma.Registry) *huma.Schema {
	one, most := 1, 20
	s := &huma.Schema{Type: huma.TypeString, Pattern: `^[-+−]?[0-9]*[.,]?[0-9]*$`, PatternDescription: "decimal",
		MinLength: &one, MaxLength: &most, Description: "exact decimal, as text with the digits that count", Examples: []any{"21.35"}}
	s.PrecomputeMessages()
	return s
}

// Registry returns a registry of schemas that knows how decimals and entries
// are written. prefix is where schemas are referred to, such as "#/$defs/".
func Registry(prefix string) huma.Registry {
	r := huma.NewMapRegistry(prefix, namer)
	r.RegisterTypeAlias(reflect.TypeFor[decimal.Decimal](), reflect.TypeFor[number]())
	r.RegisterTypeAlias(reflect.TypeFor[decimal.Number](), reflect.TypeFor[float64]())
	r.RegisterTypeAlias(reflect.TypeFor[[]*decimal.Number](), reflect.TypeFor[[]*float64]()) // null where there are none
	r.RegisterTypeAlias(reflect.TypeFor[journal.Entry](), journal.Shape())
	return r
}

// Plain takes out of schemas what only the program understands, when all of them are made and
// their sentences stand: a strict reader refuses words that the standard does not have.
func Plain(schemas map[string]*huma.Schema) {
	for _, s := range schemas {
		plain(s)
	}
}

func plain(s *huma.Schema) {
	if s == nil {
		return
	}
	s.PatternDescription = ""
	plain(s.Items)
	plain(s.Not)
	if inner, ok := s.AdditionalProperties.(*huma.Schema); ok {
		plain(inner)
	}
	Plain(s.Properties)
	for _, list := range [][]*huma.Schema{s.OneOf, s.AnyOf, s.AllOf} {
		for _, one := range list {
			plain(one)
		}
	}
}

// namer names the entry's shape, which has no name of its own, and those types
// of the core whose names the views use for the same thing in words.
func namer(t reflect.Type, hint string) string {
	if t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	switch t {
	case journal.Shape():
		return "Entry"
	case reflect.TypeFor[journal.Answer]():
		return "AnswerEntry"
	case reflect.TypeFor[practical.RouteStep]():
		return "RouteStep"
	case reflect.TypeFor[practical.Sample]():
		return "ComparedSample"
	}
	name := huma.DefaultSchemaNamer(t, hint)
	if path := t.PkgPath(); strings.HasSuffix(path, "/core/practice/plan") && name != "Assessment" {
		return "Planned" + name
	}
	return name
}

// Validate compares decoded JSON with a schema; each fault has its path.
func Validate(registry huma.Registry, s *huma.Schema, tree any) Faults {
	path := huma.NewPathBuffer([]byte{}, 0)
	res := &huma.ValidateResult{}
	huma.Validate(registry, s, path, huma.ModeWriteToServer, tree, res)
	var faults Faults
	for _, err := range res.Errors {
		faults = append(faults, FaultOf(err))
	}
	return faults
}

// FaultOf makes a fault of what the validation says.
func FaultOf(err error) *finding.Fault {
	var detail *huma.ErrorDetail
	if !errors.As(err, &detail) {
		return finding.FaultOf("", err)
	}
	name, wanted, _ := strings.Cut(detail.Message, "|")
	code, ok := forms[name]
	if !ok {
		code, wanted = otherForm, detail.Message
	}
	return code.Fault(detail.Location, finding.Text(wanted), finding.Text(Short(detail.Value)))
}

// Short writes a value for a message.
func Short(v any) string {
	if v == nil {
		return "–"
	}
	text, _ := json.Marshal(v)
	if len(text) > 60 {
		return strings.ToValidUTF8(string(text[:60]), "") + "…"
	}
	return string(text)
}

// SyntaxFault says where a text is no JSON, by line and column.
func SyntaxFault(text []byte, err error) *finding.Fault {
	var syntax *json.SyntaxError
	if errors.As(err, &syntax) {
		before := text[:min(int(syntax.Offset), len(text))]
		line := 1 + bytes.Count(before, []byte("\n"))
		column := max(len(before)-bytes.LastIndexByte(before, '\n')-1, 1)
		return notJSON.Fault("", finding.Text(strconv.Itoa(line)), finding.Text(strconv.Itoa(column)))
	}
	return noJSON.Fault("")
}
