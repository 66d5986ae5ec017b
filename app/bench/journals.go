package bench

import (
	"context"

	"exactflask/app/access"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/formats"
	"exactflask/view"
)

// JournalPage is how many lines of a journal are read at once.
const JournalPage = 500

// Journal returns a page of the notebook's entries as lines to read, in order, and
// how many pages there are. Pages count from 1; 0 is the last one.
func (a *Bench) Journal(ctx context.Context, p access.Person, id string, page int) (lines []view.JournalLine, at, pages int, err error) {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return nil, 0, 0, err
	}
	n, err := a.present(ctx, p, o, true)
	if err != nil {
		return nil, 0, 0, err
	}
	chain, err := a.Chain(ctx, o)
	if err != nil {
		return nil, 0, 0, err
	}
	handed := make([]view.Submission, len(o.Handed))
	for i, s := range o.Handed {
		handed[i] = SubmissionOf(p, s)
	}
	lines = view.Journal(o.Entries, chain, n.Sheet, n.People, handed)
	pages = max(1, (len(lines)+JournalPage-1)/JournalPage)
	if page < 1 || page > pages {
		page = pages
	}
	return lines[(page-1)*JournalPage : min(page*JournalPage, len(lines))], page, pages, nil
}

// Document returns a notebook as an open file, without what the reader must
// not see, and the name of its student.
func (a *Bench) Document(ctx context.Context, p access.Person, id string) (formats.Document, string, error) {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return formats.Document{}, "", err
	}
	links, err := a.Chain(ctx, o)
	if err != nil {
		return formats.Document{}, "", err
	}
	return a.DocumentOf(ctx, p, o, links)
}

func (a *Bench) DocumentOf(ctx context.Context, p access.Person, o Opened, links []journal.Link) (formats.Document, string, error) {
	people, err := a.authors(ctx, p, o)
	if err != nil {
		return formats.Document{}, "", err
	}
	granted, err := o.GrantedSafely(a.Log)
	if err != nil {
		return formats.Document{}, "", err
	}
	doc := formats.New(experiment.Visible(o.Practical, o.Role.Reader(), granted), journal.Sort(o.Entries), people)
	doc.Written, doc.Chain = a.Now(), links
	return doc, access.NameFor(p, o.StudentName), nil
}

// Chain reads what binds the entries of an opened notebook together. It is asked for
// seldom, and large: it is not kept in memory.
func (a *Bench) Chain(ctx context.Context, o Opened) ([]journal.Link, error) {
	links, err := a.Store.Read().Chain(ctx, o.ID)
	return links[:min(len(links), len(o.Entries))], err
}
