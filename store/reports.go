package store

import (
	"bytes"
	"compress/gzip"
	"context"
	"database/sql"
	"fmt"
	"io"
	"time"

	"exactflask/store/db"
)

// Picture is a picture of a notebook, by the SHA-256 of its content.
type Picture struct {
	Hash          string
	Kind          string // image/jpeg or image/png
	Width, Height int
	Content       []byte
}

// AddPicture keeps a picture; one that is there stays as it is.
func (q Queries) AddPicture(ctx context.Context, notebook, person string, p Picture, at time.Time) error {
	return q.q.AddPicture(ctx, db.AddPictureParams{NotebookID: notebook, Hash: p.Hash, Kind: p.Kind, Width: int64(p.Width),
		Height: int64(p.Height), Content: p.Content, PersonID: person, Added: stamp(at)})
}

// Picture reads one.
func (q Queries) Picture(ctx context.Context, notebook, hash string) (Picture, error) {
	r, err := q.q.Picture(ctx, db.PictureParams{NotebookID: notebook, Hash: hash})
	return Picture{hash, r.Kind, int(r.Width), int(r.Height), r.Content}, found(err)
}

// CountPictures is how many a notebook has, those that were taken out of the report too.
func (q Queries) CountPictures(ctx context.Context, notebook string) (int, error) {
	n, err := q.q.CountPictures(ctx, notebook)
	return int(n), err
}

// PicturesOf are those that a person sent, by notebook.
func (q Queries) PicturesOf(ctx context.Context, person string) (map[string][]Picture, error) {
	rows, err := q.q.PicturesOf(ctx, person)
	out := map[string][]Picture{}
	for _, r := range rows {
		out[r.NotebookID] = append(out[r.NotebookID], Picture{r.Hash, r.Kind, int(r.Width), int(r.Height), r.Content})
	}
	return out, err
}

// Submission is a report as it was handed in.
type Submission struct {
	Notebook   string
	Version    int
	Person, By string // id and name of who handed it in
	Handed     time.Time
	Late       bool
	Entries    int
	Hash       string // SHA-256 of the receipt
	Receipt    string
	Returned   time.Time // zero while it counts
	ReturnedBy string    // name
	Reason     string
}

// HandIn keeps a report; its document is read by SubmissionDocument.
func (q Queries) HandIn(ctx context.Context, s Submission, document []byte) error {
	var packed bytes.Buffer
	w := gzip.NewWriter(&packed)
	if _, err := w.Write(document); err != nil {
		return fmt.Errorf("packing a report: %w", err)
	}
	if err := w.Close(); err != nil {
		return fmt.Errorf("packing a report: %w", err)
	}
	late := int64(0)
	if s.Late {
		late = 1
	}
	return q.q.HandIn(ctx, db.HandInParams{NotebookID: s.Notebook, Version: int64(s.Version), PersonID: s.Person, Handed: stamp(s.Handed),
		Late: late, Entries: int64(s.Entries), Hash: s.Hash, Receipt: s.Receipt, Document: packed.Bytes()})
}

// Submissions are those of a notebook, the first version first.
func (q Queries) Submissions(ctx context.Context, notebook string) ([]Submission, error) {
	rows, err := q.q.Submissions(ctx, notebook)
	out := make([]Submission, len(rows))
	for i, r := range rows {
		out[i] = Submission{notebook, int(r.Version), r.PersonID, r.ByName, moment(r.Handed), r.Late != 0, int(r.Entries), r.Hash,
			r.Receipt, moment(r.Returned), r.ReturnedBy, r.Reason}
	}
	return out, err
}

// maxDocument bounds what a packed document may unpack to.
const maxDocument = 64 << 20

// SubmissionDocument is what was frozen.
func (q Queries) SubmissionDocument(ctx context.Context, notebook string, version int) ([]byte, error) {
	packed, err := q.q.SubmissionDocument(ctx, db.SubmissionDocumentParams{NotebookID: notebook, Version: int64(version)})
	if err != nil {
		return nil, found(err)
	}
	r, err := gzip.NewReader(bytes.NewReader(packed))
	if err != nil {
		return nil, fmt.Errorf("unpacking a report: %w", err)
	}
	out, err := io.ReadAll(io.LimitReader(r, maxDocument))
	if err != nil {
		return nil, fmt.Errorf("unpacking a report: %w", err)
	}
	return out, nil
}

// ReturnSubmission gives a report back for another version; false where it was returned
// already or is not there.
func (q Queries) ReturnSubmission(ctx context.Context, notebook string, version int, person, reason string, at time.Time) (bool, error) {
	n, err := q.q.ReturnSubmission(ctx, db.ReturnSubmissionParams{Returned: stamp(at), ReturnedBy: sql.NullString{String: person, Valid: true}, Reason: reason,
		NotebookID: notebook, Version: int64(version)})
	return n > 0, err
}

// HandedIn is where the newest version of a notebook's report stands.
type HandedIn struct {
	Notebook string
	Version  int
	Handed   time.Time
	Late     bool
	Returned bool
	Released bool // the student sees its marks
}

// HandedInOfClass are the newest versions in a practical of a class, by notebook.
func (q Queries) HandedInOfClass(ctx context.Context, class, practical string) (map[string]HandedIn, error) {
	rows, err := q.q.SubmissionsOfClass(ctx, db.SubmissionsOfClassParams{ClassID: class, PracticalID: practical})
	out := map[string]HandedIn{}
	for _, r := range rows { // the newest last
		out[r.NotebookID] = HandedIn{r.NotebookID, int(r.Version), moment(r.Handed), r.Late != 0, r.Returned != "", r.Released != 0}
	}
	return out, err
}

// Agreement is that somebody agrees to hand a report in, as it stood with so many entries.
type Agreement struct {
	Person  string
	Entries int
}

// Agree notes it.
func (q Queries) Agree(ctx context.Context, notebook string, a Agreement, at time.Time) error {
	return q.q.Agree(ctx, db.AgreeParams{NotebookID: notebook, PersonID: a.Person, Entries: int64(a.Entries), At: stamp(at)})
}

// AgreedTo is who agrees.
func (q Queries) AgreedTo(ctx context.Context, notebook string) ([]Agreement, error) {
	rows, err := q.q.AgreedTo(ctx, notebook)
	out := make([]Agreement, len(rows))
	for i, r := range rows {
		out[i] = Agreement{r.PersonID, int(r.Entries)}
	}
	return out, err
}

// EndAgreements forgets who agreed.
func (q Queries) EndAgreements(ctx context.Context, notebook string) error {
	return q.q.EndAgreements(ctx, notebook)
}

// DropPartner takes a partner out of a notebook; what they wrote stays. False: they are none.
func (q Queries) DropPartner(ctx context.Context, notebook, person string) (bool, error) {
	n, err := q.q.DropPartner(ctx, db.DropPartnerParams{NotebookID: notebook, PersonID: person})
	return n > 0, err
}

// Awarded tells whether anything was awarded for a version of a report: its marking has begun.
func (q Queries) Awarded(ctx context.Context, notebook string, version int) (bool, error) {
	n, err := q.q.AwardsOf(ctx, db.AwardsOfParams{NotebookID: notebook, Version: int64(version)})
	return n > 0, err
}
