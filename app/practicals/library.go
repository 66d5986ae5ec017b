package practicals

import (
	"bytes"
	"cmp"
	"context"
	"fmt"
	"io/fs"
	"slices"
	"sync"

	"exactflask/app/access"
	"exactflask/core/record/practical"
	"exactflask/docs/examples"
	"exactflask/formats"
	"exactflask/store"
	"exactflask/view"
)

// LibraryItem is a practical that another one can be made of.
type LibraryItem struct {
	ID        string         `json:"id"`
	Revision  int            `json:"revision"`
	Title     string         `json:"title"`
	Purpose   string         `json:"purpose"`
	Kind      practical.Kind `json:"kind" enum:"direct,indirect,back,standardisation,two-end-points,solution"`
	KindText  string         `json:"kindText"`
	Equation  string         `json:"equation"`
	Route     []view.Vessel  `json:"route"`
	Titre     string         `json:"titre,omitempty" doc:"what is expected on the burette; left out where nothing is titrated"`
	Own       bool           `json:"own,omitempty" doc:"written in one of the person's classes; else a worked one that comes with the program"`
	Classes   []string       `json:"classes,omitempty" doc:"names of the person's classes that it is set to"`
	Revisions []int          `json:"revisions,omitempty" doc:"of an own one, the newest first"`
}

// worked are the practicals that come with the program.
var worked = sync.OnceValues(func() ([]practical.Practical, error) {
	names, err := fs.Glob(examples.Files, "*.json")
	if err != nil {
		return nil, err
	}
	seen := map[string]bool{}
	var out []practical.Practical
	for _, name := range names {
		text, err := examples.Files.ReadFile(name)
		if err != nil {
			return nil, err
		}
		doc, err := formats.Read(bytes.NewReader(text))
		if err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		if !seen[doc.Practical.ID] {
			seen[doc.Practical.ID] = true
			out = append(out, doc.Practical)
		}
	}
	return out, nil
})

// mayWrite tells whether a person may write practicals at all.
func mayWrite(p access.Person) bool {
	return slices.ContainsFunc(p.Classes, func(m access.Membership) bool { return access.May(p, access.SeePlan, access.Thing{Class: m.Class}) })
}

// Library are the practicals that come with the program, and those of the person's
// classes, for those who teach.
func (a *Practicals) Library(ctx context.Context, p access.Person) ([]LibraryItem, error) {
	if !mayWrite(p) {
		return nil, access.ErrForbidden
	}
	own, err := a.ownPracticals(ctx, p)
	if err != nil {
		return nil, err
	}
	out := []LibraryItem{}
	for _, o := range own {
		item := a.libraryItem(o.Practical, p)
		item.Own, item.Classes = true, o.classes
		if item.Revisions, err = a.Store.Read().Revisions(ctx, o.ID); err != nil {
			return nil, fmt.Errorf("reading revisions: %w", err)
		}
		out = append(out, item)
	}
	all, err := worked()
	if err != nil {
		return nil, err
	}
	for _, w := range all {
		if !slices.ContainsFunc(own, func(o *ownPractical) bool { return o.ID == w.ID }) {
			out = append(out, a.libraryItem(w, p))
		}
	}
	return out, nil
}

func (a *Practicals) libraryItem(p practical.Practical, reader access.Person) LibraryItem {
	out := LibraryItem{ID: p.ID, Revision: p.Revision, Title: p.Title, Purpose: p.Purpose, Route: []view.Vessel{}}
	ready, fault := p.Check()
	if fault != nil {
		return out // it opens in the editor, which says what is wrong
	}
	words := view.Writer(ready, reader.Style())
	setting := view.SettingOf(words, ready)
	out.Kind, out.KindText, out.Equation, out.Route = ready.Kind, view.KindText(words, ready.Kind), cmp.Or(setting.Equation, setting.Titrant), setting.Route
	out.Titre = view.ExpectedTitre(words, ready)
	return out
}

type ownPractical struct {
	store.Assigned
	classes []string
}

// ownPracticals are those that are set to the classes in which the person teaches.
func (a *Practicals) ownPracticals(ctx context.Context, p access.Person) ([]*ownPractical, error) {
	var out []*ownPractical
	by := map[string]*ownPractical{}
	for _, m := range p.Classes {
		if !access.May(p, access.SeePlan, access.Thing{Class: m.Class}) {
			continue
		}
		assigned, err := a.Store.Read().AssignmentsOfClass(ctx, m.Class)
		if err != nil {
			return nil, fmt.Errorf("reading practicals: %w", err)
		}
		for _, item := range assigned {
			if item.Err != nil {
				continue // said on the shelf
			}
			o := by[item.ID]
			if o == nil {
				o = &ownPractical{Assigned: item}
				by[item.ID], out = o, append(out, o)
			}
			if item.Practical.Revision > o.Practical.Revision {
				o.Assigned = item
			}
			if item.Set {
				o.classes = append(o.classes, m.Name)
			}
		}
	}
	return out, nil
}

// LibraryPractical is one of them: of the person's classes in any of its revisions, 0
// for the newest that is set; or one that comes with the program.
func (a *Practicals) LibraryPractical(ctx context.Context, p access.Person, id string, revision int) (practical.Practical, error) {
	if !mayWrite(p) {
		return practical.Practical{}, access.ErrForbidden
	}
	own, err := a.ownPracticals(ctx, p)
	if err != nil {
		return practical.Practical{}, err
	}
	for _, o := range own {
		switch {
		case o.ID != id:
		case revision == 0:
			return o.Practical, nil
		default:
			kept, err := a.Store.Read().Practical(ctx, id, revision)
			return kept, access.NotFound(err)
		}
	}
	all, err := worked()
	if err != nil {
		return practical.Practical{}, err
	}
	for _, w := range all {
		if w.ID == id {
			return w, nil
		}
	}
	return practical.Practical{}, access.ErrNotFound
}

// LibraryDocument is one of them as the open document, without a notebook.
func (a *Practicals) LibraryDocument(ctx context.Context, p access.Person, id string, revision int) (formats.Document, error) {
	found, err := a.LibraryPractical(ctx, p, id, revision)
	if err != nil {
		return formats.Document{}, err
	}
	doc := formats.New(found, nil, nil)
	doc.Written = a.Now()
	return doc, nil
}

// ReadPractical takes the practical out of an open document; nothing is kept.
func (a *Practicals) ReadPractical(_ context.Context, p access.Person, text []byte) (practical.Practical, error) {
	if !mayWrite(p) {
		return practical.Practical{}, access.ErrForbidden
	}
	doc, err := formats.Read(bytes.NewReader(text))
	return doc.Practical, err
}
