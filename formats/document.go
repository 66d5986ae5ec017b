// Package formats reads and writes the open file of Exact Flask: one JSON
// document with a practical and, for a notebook, its journal.
package formats

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"reflect"
	"slices"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/schema"
)

// Format and Version are what this program writes. It reads every version
// from 1 to Version and refuses newer ones.
const (
	Format  = "exactflask.notebook"
	Version = 2
)

// MaxSize is the largest document that is read, in bytes; it holds well over
// ten thousand entries.
const MaxSize = 8 << 20

// Document is a practical with the journal of one notebook. An empty journal
// makes it a practical to be done.
type Document struct {
	Format    string              `json:"format" enum:"exactflask.notebook"`
	Version   int                 `json:"version" minimum:"1"`
	Written   time.Time           `json:"written,omitzero" doc:"when the file was made"`
	Practical practical.Practical `json:"practical"`
	People    map[string]string   `json:"people,omitempty" doc:"names of the authors of entries, by id"`
	Journal   []journal.Entry     `json:"journal" maxItems:"10000" doc:"entries in any order"`
	Chain     []journal.Link      `json:"chain,omitempty" maxItems:"10000" doc:"when each entry came in, in that order, and the hash that binds it to those before"`
}

// document1 is a document of version 1.
type document1 struct {
	Format    string             `json:"format" enum:"exactflask.notebook"`
	Version   int                `json:"version" minimum:"1"`
	Written   time.Time          `json:"written,omitzero" doc:"when the file was made"`
	Practical practical.Version1 `json:"practical"`
	People    map[string]string  `json:"people,omitempty" doc:"names of the authors of entries, by id"`
	Journal   []journal.Entry    `json:"journal" maxItems:"10000" doc:"entries in any order"`
}

// New makes a document of the current version.
func New(p practical.Practical, entries []journal.Entry, people map[string]string) Document {
	if entries == nil {
		entries = []journal.Entry{}
	}
	return Document{Format: Format, Version: Version, Practical: p, People: people, Journal: entries}
}

var (
	tooLarge    = finding.Declare("document.too-large", "most")
	noDocument  = finding.Declare("document.none")
	otherFormat = finding.Declare("document.format", "given", "format")
	tooNew      = finding.Declare("document.too-new", "given", "most")
	nothing     = finding.Declare("document.null")
	sameID      = finding.Declare("document.same-id", "other")
)

// Read reads a document of any version and checks all of it: syntax, structure,
// the practical and every entry. What it returns is of the current version. The
// error is a schema.Faults: each says where in the document, what is wrong and
// what to do.
func Read(r io.Reader) (Document, error) {
	text, err := io.ReadAll(io.LimitReader(r, MaxSize+1))
	if err != nil {
		return Document{}, fmt.Errorf("reading the document: %w", err)
	}
	if len(text) > MaxSize {
		return Document{}, schema.Faults{tooLarge.Fault("", finding.Count(MaxSize>>20))}
	}
	text = bytes.TrimPrefix(text, []byte("\ufeff"))
	var tree any
	if err := json.Unmarshal(text, &tree); err != nil {
		return Document{}, schema.Faults{schema.SyntaxFault(text, err)}
	}
	// What kind of file it is comes before what is wrong inside.
	top, ok := tree.(map[string]any)
	if !ok {
		return Document{}, schema.Faults{noDocument.Fault("")}
	}
	if top["format"] != Format {
		return Document{}, schema.Faults{otherFormat.Fault("format", finding.Text(schema.Short(top["format"])),
			finding.Text(Format))}
	}
	version, _ := top["version"].(float64)
	if version > Version {
		return Document{}, schema.Faults{tooNew.Fault("version", finding.Text(schema.Short(version)), finding.Count(Version))}
	}
	doc, faults := decode(text, tree, version)
	if len(faults) > 0 {
		return Document{}, faults
	}
	if faults := doc.check(); len(faults) > 0 {
		return Document{}, faults
	}
	return doc, nil
}

func decode(text []byte, tree any, version float64) (Document, schema.Faults) {
	var doc Document
	var old document1
	of, into := current, any(&doc)
	if version == 1 {
		of, into = first, &old
	}
	registry, s := of()
	faults := schema.Validate(registry, s, tree)
	if version > 1 { // those of the first were read so, and are for ever
		nulls("", tree, &faults)
	}
	if len(faults) > 0 {
		return doc, faults
	}
	if err := json.Unmarshal(text, into); err != nil {
		return doc, schema.Faults{finding.FaultOf("", err)}
	}
	if version == 1 {
		doc = New(old.Practical.Upgrade(), old.Journal, old.People)
		doc.Written = old.Written
	}
	return doc, nil
}

// nulls finds what is null: the schema has no place for it, and other readers refuse it.
func nulls(at string, tree any, faults *schema.Faults) {
	switch x := tree.(type) {
	case map[string]any:
		for _, name := range slices.Sorted(maps.Keys(x)) {
			path := name
			if at != "" {
				path = at + "." + name
			}
			if x[name] == nil {
				*faults = append(*faults, nothing.Fault(path))
			}
			nulls(path, x[name], faults)
		}
	case []any:
		for i, one := range x {
			path := fmt.Sprintf("%s[%d]", at, i)
			if one == nil {
				*faults = append(*faults, nothing.Fault(path))
			}
			nulls(path, one, faults)
		}
	}
}

// check looks at what a schema cannot: the chemistry, and whether entries fit
// each other. Orphans are left to Evaluate, which keeps and flags them.
func (doc Document) check() schema.Faults {
	var faults schema.Faults
	if _, f := doc.Practical.Check(); f != nil {
		faults = append(faults, f.In("practical"))
	}
	seen := make(map[string]int, len(doc.Journal))
	for i, e := range doc.Journal {
		at := fmt.Sprintf("journal[%d]", i)
		if f := e.Check(); f != nil {
			faults = append(faults, f.In(at))
		}
		if first, ok := seen[e.ID]; ok && !reflect.DeepEqual(doc.Journal[first], e) {
			faults = append(faults, sameID.Fault(at+".id", finding.Count(first)))
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

func schemaOf[D any]() func() (huma.Registry, *huma.Schema) {
	return sync.OnceValues(func() (huma.Registry, *huma.Schema) {
		r := schema.Registry("#/$defs/")
		s := r.Schema(reflect.TypeFor[D](), true, "Document")
		schema.Plain(r.Map())
		return r, s
	})
}

var current, first = schemaOf[Document](), schemaOf[document1]()

// Schema returns the JSON Schema (2020-12) of a document.
func Schema() ([]byte, error) {
	registry, s := current()
	text, err := json.Marshal(struct {
		Schema string                  `json:"$schema"`
		Title  string                  `json:"title"`
		Ref    string                  `json:"$ref"`
		Defs   map[string]*huma.Schema `json:"$defs"`
	}{"https://json-schema.org/draft/2020-12/schema", "Exact Flask notebook", s.Ref, registry.Map()})
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
