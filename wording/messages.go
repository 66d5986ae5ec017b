// Package wording turns what the core says in codes and typed values into
// sentences, in the language, words and units of the reader. It knows no rule:
// a number stays a number until it is spoken here.
//
// A language is one folder of message files, messages/en and so on, and
// nothing else. The page reads the same files.
package wording

import (
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"path"
	"strconv"
	"strings"
	"sync"

	"exactflask/core/record/practical"
)

// The page's own texts are not needed here; those that the server alone says are in
// server.json (server.go).
//
//go:embed messages/*/core.json messages/*/catalogue.json messages/*/terms.json messages/*/spelling.json
var files embed.FS

// text is a message: one sentence, or one for each plural form that its count
// chooses. {name} stands for a value, [word] for a term or a unit.
type text map[string]string

// UnmarshalJSON reads a string as the form "other".
func (t *text) UnmarshalJSON(b []byte) error {
	if len(b) > 0 && b[0] == '{' {
		return json.Unmarshal(b, (*map[string]string)(t))
	}
	var s string
	err := json.Unmarshal(b, &s)
	*t = text{other: s}
	return err
}

// other is the plural form that every language has.
const other = "other"

// Language is one language's messages.
type Language struct {
	plural   func(n int) string
	messages map[string]text
	// said are the messages with the terms of each usage put in, made when they
	// are first said.
	said sync.Map
	// terms are words that differ between usages, by their name in brackets.
	terms map[string]map[practical.Words]string
	// spelling is how a usage writes, as parts of words and what stands for them.
	spelling map[practical.Words]*strings.Replacer
}

// English is the first language.
var English = mustLoad("en")

func mustLoad(name string) *Language {
	l, err := load(name)
	if err != nil {
		panic(err)
	}
	return l
}

func load(name string) (*Language, error) {
	l := &Language{plural: plurals[name], messages: map[string]text{}}
	for _, file := range append([]string{"core.json", "catalogue.json"}, served...) {
		part := map[string]text{}
		if err := read(path.Join("messages", name, file), &part); err != nil {
			return nil, err
		}
		maps.Copy(l.messages, part)
	}
	var pairs map[practical.Words][][2]string
	if err := read(path.Join("messages", name, "spelling.json"), &pairs); err != nil {
		return nil, err
	}
	l.spelling = map[practical.Words]*strings.Replacer{}
	for usage, list := range pairs {
		var all []string
		for _, p := range list {
			all = append(all, p[0], p[1])
		}
		l.spelling[usage] = strings.NewReplacer(all...)
	}
	return l, read(path.Join("messages", name, "terms.json"), &l.terms)
}

func read(name string, into any) error {
	b, err := files.ReadFile(name)
	if errors.Is(err, fs.ErrNotExist) {
		b, err = servedFiles.ReadFile(name)
	}
	if err != nil {
		return fmt.Errorf("messages: %w", err)
	}
	if err := json.Unmarshal(b, into); err != nil {
		return fmt.Errorf("message file %s: %w", name, err)
	}
	return nil
}

// Messages returns every message with its plural forms.
func (l *Language) Messages() map[string]map[string]string {
	out := make(map[string]map[string]string, len(l.messages))
	for code, t := range l.messages {
		out[code] = t
	}
	return out
}

// form is the plural form that a count takes in this language.
func (l *Language) form(count string) string {
	n, err := strconv.Atoi(count)
	if err != nil {
		return other
	}
	return l.plural(n)
}

// key names a sentence in one usage.
type key struct {
	code, form string
	style      practical.Style
}

// sentence is a message with its terms and literal units put in; false where
// there is none.
func (w Writer) sentence(code, count string) (string, bool) {
	t, ok := w.lang.messages[code]
	if !ok {
		return "", false
	}
	form := other
	if count != "" && len(t) > 1 {
		form = w.lang.form(count)
	}
	k := key{code, form, w.style}
	if s, ok := w.lang.said.Load(k); ok {
		return s.(string), true
	}
	s, ok := t[form]
	if !ok {
		s = t[other]
	}
	s = w.spelt(w.terms(s))
	w.lang.said.Store(k, s)
	return s, true
}

// spelt writes a sentence as the reader's usage does; the names of values in braces
// stay.
func (w Writer) spelt(s string) string {
	spelling := w.lang.spelling[w.style.Words]
	if spelling == nil {
		return s
	}
	var b strings.Builder
	for s != "" {
		before, rest, _ := strings.Cut(s, "{")
		b.WriteString(spelling.Replace(before))
		name, after, ok := strings.Cut(rest, "}")
		if ok {
			b.WriteString("{" + name + "}")
		}
		s = after
	}
	return b.String()
}

// terms puts the reader's words and units in place of [titre], [mL] and so on.
func (w Writer) terms(s string) string {
	var b strings.Builder
	for {
		before, rest, ok := strings.Cut(s, "[")
		b.WriteString(before)
		name, after, closed := strings.Cut(rest, "]")
		if !ok || !closed {
			return b.String()
		}
		switch {
		case w.lang.terms[name] != nil:
			b.WriteString(w.lang.terms[name][w.style.Words])
		default: // a unit, with a narrow space before it
			unit := w.Unit(unitOf(name))
			if strings.HasSuffix(before, " ") {
				text := strings.TrimSuffix(b.String(), " ")
				b.Reset()
				b.WriteString(text + Thin)
			}
			b.WriteString(unit)
		}
		s = after
	}
}
