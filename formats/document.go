// Package formats reads and writes the open file of Exact Flask: one JSON
// document with a practical and, for a notebook, its journal.
package formats

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/core/decimal"
	"exactflask/core/experiment"
	"exactflask/core/finding"
	"exactflask/core/journal"
)

// Format and Version are what this program writes. It reads every version
// from 1 to Version and refuses newer ones.
const (
	Format  = "exactflask.notebook"
	Version = 1
)

// MaxSize is the largest document that is read, in bytes; it holds well over
// ten thousand entries.
const MaxSize = 8 << 20

// MaxEntries is the largest number of entries in one notebook.
const MaxEntries = 10_000

// Document is a practical with the journal of one notebook. An empty journal
// makes it a practical to be done.
type Document struct {
	Format    string               `json:"format" enum:"exactflask.notebook"`
	Version   int                  `json:"version" minimum:"1"`
	Written   time.Time            `json:"written,omitzero" doc:"when the file was made"`
	Practical experiment.Practical `json:"practical"`
	People    map[string]string    `json:"people,omitempty" doc:"names of the authors of entries, by id"`
	Journal   []journal.Entry      `json:"journal" maxItems:"10000" doc:"entries in any order"`
}

// New makes a document of the current version.
func New(p experiment.Practical, entries []journal.Entry, people map[string]string) Document {
	if entries == nil {
		entries = []journal.Entry{}
	}
	return Document{Format: Format, Version: Version, Practical: p, People: people, Journal: entries}
}

// Faults are all the things wrong with a document.
type Faults []*finding.Fault

func (f Faults) Error() string {
	lines := make([]string, len(f))
	for i, fault := range f {
		lines[i] = fault.Error()
	}
	return strings.Join(lines, "\n")
}

// Read reads a document and checks all of it: syntax, structure, the
// practical and every entry. The error is a Faults: each says where in the
// document, what is wrong and what to do.
func Read(r io.Reader) (Document, error) {
	text, err := io.ReadAll(io.LimitReader(r, MaxSize+1))
	if err != nil {
		return Document{}, fmt.Errorf("reading the document: %w", err)
	}
	if len(text) > MaxSize {
		return Document{}, Faults{finding.Faultf("", "the document is larger than %d MiB", MaxSize>>20)}
	}
	text = bytes.TrimPrefix(text, []byte("\ufeff"))
	var tree any
	if err := json.Unmarshal(text, &tree); err != nil {
		return Document{}, Faults{SyntaxFault(text, err)}
	}
	// What kind of file it is comes before what is wrong inside.
	if head, ok := tree.(map[string]any); !ok {
		return Document{}, Faults{finding.Faultf("", "this is no Exact Flask document: a JSON object with format, version, practical and journal is wanted")}
	} else if head["format"] != Format {
		return Document{}, Faults{finding.Faultf("format", "this says %v; an Exact Flask document says %q", show(head["format"]), Format)}
	} else if v, ok := head["version"].(float64); ok && v > Version {
		return Document{}, Faults{finding.Faultf("version", "the document is of version %v, this program reads up to %d; use a newer Exact Flask", v, Version)}
	}
	if faults := validate(tree); len(faults) > 0 {
		return Document{}, faults
	}
	var doc Document
	if err := json.Unmarshal(text, &doc); err != nil {
		return Document{}, Faults{finding.Faultf("", "%w", err)}
	}
	if faults := doc.check(); len(faults) > 0 {
		return Document{}, faults
	}
	return doc, nil
}

func show(v any) string {
	if v == nil {
		return "nothing"
	}
	text, _ := json.Marshal(v)
	if len(text) > 60 {
		text = append(text[:60], "…"...)
	}
	return string(text)
}

// check looks at what a schema cannot: the chemistry, and whether entries fit
// each other. Orphans are left to Evaluate, which keeps and flags them.
func (doc Document) check() Faults {
	var faults Faults
	if f := doc.Practical.Check(); f != nil {
		faults = append(faults, f.In("practical"))
	}
	seen := map[string]int{}
	for i, e := range doc.Journal {
		at := fmt.Sprintf("journal[%d]", i)
		if f := e.Check(); f != nil {
			faults = append(faults, f.In(at))
		}
		if first, ok := seen[e.ID]; ok && !reflect.DeepEqual(doc.Journal[first], e) {
			faults = append(faults, finding.Faultf(at+".id", "the id %q stands at journal[%d] too, with another content", e.ID, first))
		}
		seen[e.ID] = i
	}
	return faults
}

// Write writes a document with indentation.
func Write(w io.Writer, doc Document) error {
	enc := json.NewEncoder(w)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	if err := enc.Encode(doc); err != nil {
		return fmt.Errorf("writing the document: %w", err)
	}
	return nil
}

// SyntaxFault says where a text is no JSON, by line and column.
func SyntaxFault(text []byte, err error) *finding.Fault {
	var syntax *json.SyntaxError
	if errors.As(err, &syntax) {
		before := text[:min(int(syntax.Offset), len(text))]
		line := 1 + bytes.Count(before, []byte("\n"))
		column := len(before) - bytes.LastIndexByte(before, '\n') - 1
		return finding.Faultf(fmt.Sprintf("line %d, column %d", line, max(column, 1)), "this is not JSON: %w", err)
	}
	return finding.Faultf("", "this is not JSON: %w", err)
}

// number describes an exact decimal in a schema: text, so that the digits that
// were written are kept.
type number struct{}

// Schema implements huma.SchemaProvider.
func (number) Schema(huma.Registry) *huma.Schema {
	s := &huma.Schema{Type: huma.TypeString, Pattern: `^[-+−]?[0-9]*[.,]?[0-9]*$`, PatternDescription: "a decimal number in quotes, such as \"24.40\"",
		MinLength: ptr(1), MaxLength: ptr(20), Description: "exact decimal, as text with the digits that count", Examples: []any{"24.40"}}
	s.PrecomputeMessages()
	return s
}

func ptr(n int) *int { return &n }

// Registry returns a registry of schemas that knows how decimals are written.
// prefix is where schemas are referred to, such as "#/$defs/".
func Registry(prefix string) huma.Registry {
	r := huma.NewMapRegistry(prefix, huma.DefaultSchemaNamer)
	r.RegisterTypeAlias(reflect.TypeFor[decimal.Decimal](), reflect.TypeFor[number]())
	return r
}

var documentSchema = sync.OnceValues(func() (huma.Registry, *huma.Schema) {
	huma.DefaultArrayNullable = false
	r := Registry("#/$defs/")
	return r, r.Schema(reflect.TypeFor[Document](), true, "Document")
})

// validate compares a decoded document with the schema.
func validate(tree any) Faults {
	registry, schema := documentSchema()
	return Validate(registry, schema, tree)
}

// Validate compares decoded JSON with a schema; each fault has its path.
func Validate(registry huma.Registry, schema *huma.Schema, tree any) Faults {
	path := huma.NewPathBuffer([]byte{}, 0)
	res := &huma.ValidateResult{}
	huma.Validate(registry, schema, path, huma.ModeWriteToServer, tree, res)
	var faults Faults
	for _, err := range res.Errors {
		var detail *huma.ErrorDetail
		if errors.As(err, &detail) {
			faults = append(faults, finding.Faultf(detail.Location, "%s; this says %s", detail.Message, show(detail.Value)))
			continue
		}
		faults = append(faults, finding.Faultf("", "%w", err))
	}
	return faults
}

// Schema returns the JSON Schema (2020-12) of a document.
func Schema() ([]byte, error) {
	registry, schema := documentSchema()
	text, err := json.Marshal(struct {
		Schema string                  `json:"$schema"`
		Title  string                  `json:"title"`
		Ref    string                  `json:"$ref"`
		Defs   map[string]*huma.Schema `json:"$defs"`
	}{"https://json-schema.org/draft/2020-12/schema", "Exact Flask notebook", schema.Ref, registry.Map()})
	if err != nil {
		return nil, fmt.Errorf("writing the schema: %w", err)
	}
	var out bytes.Buffer
	if err := json.Indent(&out, text, "", "  "); err != nil {
		return nil, fmt.Errorf("writing the schema: %w", err)
	}
	out.WriteByte('\n')
	return out.Bytes(), nil
}
