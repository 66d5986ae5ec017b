package marking

import (
	"context"
	"errors"
	"fmt"

	"exactflask/app/access"
	"exactflask/core/record/journal"
	"exactflask/files"
	"exactflask/store"
)

// Files is everything that the files of a report are made of, as its reader may see it:
// as it stands (version 0), or as a version was handed in.
func (a *Marking) Files(ctx context.Context, p access.Person, id string, version int) (files.Report, error) {
	o, err := a.bench.Open(ctx, p, id)
	if err != nil {
		return files.Report{}, err
	}
	report, err := a.bench.ReportOf(ctx, p, o, version)
	if err != nil {
		return files.Report{}, err
	}
	out := files.Report{Report: report, Made: o.Started}
	then := o
	var links []journal.Link
	if version > 0 {
		if then, links, err = a.bench.Frozen(ctx, o, version); err != nil {
			return files.Report{}, err
		}
		out.Made = o.Handed[version-1].Handed
	} else if links, err = a.bench.Chain(ctx, o); err != nil {
		return files.Report{}, err
	}
	if n := len(links); n > 0 && version == 0 {
		out.Made = links[n-1].Received
	}
	ev, err := then.Evaluate(a.Log)
	if err != nil {
		return files.Report{}, err
	}
	if ev.Result != nil {
		out.Derivation = &ev.Result.Derivation
	}
	if last, in := o.HandedIn(); in && version == last.Version && o.IsReleased() && (o.Role.Teaches() || o.Student == p.ID) {
		marks, err := a.Marks(ctx, p, id)
		if err != nil {
			return files.Report{}, err
		}
		out.Marks = &files.Marks{Lines: marks.Lines, Total: marks.Total.Decimal, Possible: marks.Possible.Decimal}
	}
	if out.Document, _, err = a.bench.DocumentOf(ctx, p, then, links); err != nil {
		return files.Report{}, err
	}
	out.Document.Written = out.Made // the same file whenever it is made
	for _, shown := range report.Pictures {
		kept, err := a.Store.Read().Picture(ctx, id, shown.Hash)
		if errors.Is(err, store.ErrNotFound) {
			continue // named, and never sent
		}
		if err != nil {
			return files.Report{}, fmt.Errorf("reading a picture: %w", err)
		}
		out.Pictures = append(out.Pictures, files.Picture{Hash: kept.Hash, Caption: shown.Caption, Kind: kept.Kind, Content: kept.Content})
	}
	return out, nil
}

// ClassReports are the notebooks of a practical in a class whose files may be taken, for
// its instructors; title is that of the practical.
func (a *Marking) ClassReports(ctx context.Context, p access.Person, class, id string) (title string, notebooks []string, err error) {
	if err := access.Allowed(p, access.SeeActs, class); err != nil {
		return "", nil, err
	}
	ready, err := a.practicals.Assigned(ctx, p, class, id)
	if err != nil {
		return "", nil, err
	}
	begun, err := a.Store.Read().Begun(ctx, class, id)
	if err != nil {
		return "", nil, fmt.Errorf("reading who began: %w", err)
	}
	for _, n := range begun {
		notebooks = append(notebooks, n.Notebook)
	}
	return ready.Title, notebooks, nil
}

// NewestFiles are the files of a report as it was handed in last, or as it stands where it
// was not.
func (a *Marking) NewestFiles(ctx context.Context, p access.Person, id string) (files.Report, error) {
	o, err := a.bench.Open(ctx, p, id)
	if err != nil {
		return files.Report{}, err
	}
	return a.Files(ctx, p, id, len(o.Handed))
}
