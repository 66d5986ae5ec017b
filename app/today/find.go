package today

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"unicode"

	"golang.org/x/text/runes"
	"golang.org/x/text/transform"
	"golang.org/x/text/unicode/norm"

	"exactflask/app/access"
)

// Hit is something that was looked for and that the person may see.
type Hit struct {
	Kind      string `json:"kind" enum:"class,practical,person,substance,indicator"`
	Title     string `json:"title"`
	Of        string `json:"of,omitempty" doc:"the class that it is in, or the formula"`
	Class     string `json:"class,omitempty" doc:"id"`
	Practical string `json:"practical,omitempty" doc:"id"`
	Notebook  string `json:"notebook,omitempty" doc:"id of the person's own notebook of a practical"`
}

// mostHits is how many hits of a kind are told.
const mostHits = 6

// Find looks for classes, practicals, people and entries of the catalogue by their names: each word that was
// typed begins a word of the name. Of people only those who teach are told, in their own classes.
func (a *Today) Find(ctx context.Context, p access.Person, typed string) ([]Hit, error) {
	wanted := strings.Fields(plain(typed))
	out := []Hit{}
	if len(wanted) == 0 {
		return out, nil
	}
	counts := map[string]int{}
	add := func(h Hit) {
		if !begins(h.Title+" "+h.Of, wanted) || counts[h.Kind] == mostHits {
			return
		}
		counts[h.Kind]++
		out = append(out, h)
	}
	q := a.Store.Read()
	if err := a.onShelf(ctx, p, add); err != nil {
		return nil, err
	}
	for _, m := range p.Classes {
		if m.Role.Teaches() {
			add(Hit{Kind: "class", Title: strings.TrimSpace(m.Name + " " + m.Term), Class: m.Class})
		}
	}
	for _, m := range p.Classes {
		if m.Archived {
			continue
		}
		if !m.Role.Teaches() {
			continue // theirs are on their shelf
		}
		set, err := q.AssignmentsOfClass(ctx, m.Class)
		if err != nil {
			return nil, fmt.Errorf("reading practicals: %w", err)
		}
		for _, item := range set {
			if item.Err == nil {
				add(Hit{Kind: "practical", Title: item.Practical.Title, Of: m.Name, Class: m.Class, Practical: item.ID})
			}
		}
	}
	for _, m := range p.Classes {
		if !m.Role.Teaches() {
			continue
		}
		members, err := q.Members(ctx, m.Class)
		if err != nil {
			return nil, fmt.Errorf("reading members: %w", err)
		}
		for _, member := range members {
			add(Hit{Kind: "person", Title: access.NameFor(p, member.Name), Of: m.Name, Class: m.Class})
		}
	}
	known, err := a.practicals.Catalogue(ctx, p)
	if err != nil {
		return nil, err
	}
	for _, s := range known.Substances {
		add(Hit{Kind: "substance", Title: s.Name, Of: s.Formula})
	}
	for _, i := range known.Indicators {
		add(Hit{Kind: "indicator", Title: i.Name})
	}
	return out, nil
}

// onShelf are the practicals of a student, as far as they see them.
func (a *Today) onShelf(ctx context.Context, p access.Person, add func(Hit)) error {
	if !slices.ContainsFunc(p.Classes, func(m access.Membership) bool { return !m.Role.Teaches() }) {
		return nil
	}
	shelf, err := a.bench.Shelf(ctx, p)
	if err != nil {
		return err
	}
	for _, s := range shelf.Shelves {
		if s.Role.Teaches() {
			continue
		}
		for _, item := range s.Practicals {
			h := Hit{Kind: "practical", Title: item.Title, Of: s.Name, Class: s.Class, Practical: item.Practical}
			if len(item.Notebooks) > 0 {
				h.Notebook = item.Notebooks[0].ID
			}
			add(h)
		}
	}
	return nil
}

// begins tells whether each of the words begins a word of a text.
func begins(text string, words []string) bool {
	there := strings.FieldsFunc(plain(text), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsNumber(r) })
	for _, w := range words {
		found := false
		for _, t := range there {
			found = found || strings.HasPrefix(t, w)
		}
		if !found {
			return false
		}
	}
	return true
}

// plain is a text in small letters without what stands above or below them.
func plain(text string) string {
	out, _, err := transform.String(transform.Chain(norm.NFD, runes.Remove(runes.In(unicode.Mn)), norm.NFC), strings.ToLower(text))
	if err != nil {
		return strings.ToLower(text)
	}
	return out
}
