package store

import (
	"context"
	"database/sql"
	"fmt"
	"time"

	"exactflask/core/values/decimal"
	"exactflask/store/db"
)

// Scheme is a marking scheme as it was changed while a class is marked.
type Scheme struct {
	Revision int
	Document []byte
	By       string
	Made     time.Time
}

// AddScheme keeps a scheme as the next revision; it fails where that is there already.
func (q Queries) AddScheme(ctx context.Context, class, practical, person string, s Scheme) error {
	return q.q.AddScheme(ctx, db.AddSchemeParams{ClassID: class, PracticalID: practical, Revision: int64(s.Revision), Document: string(s.Document),
		PersonID: person, Made: stamp(s.Made)})
}

// Schemes are all revisions, the first one first.
func (q Queries) Schemes(ctx context.Context, class, practical string) ([]Scheme, error) {
	rows, err := q.q.Schemes(ctx, db.SchemesParams{ClassID: class, PracticalID: practical})
	out := make([]Scheme, len(rows))
	for i, r := range rows {
		out[i] = Scheme{int(r.Revision), []byte(r.Document), r.ByName, moment(r.Made)}
	}
	return out, err
}

// Award is what somebody gave for a criterion of a report.
type Award struct {
	ID         int64
	Notebook   string
	Version    int
	Criterion  string
	Pass       int              // 1; 2: of a second marking, blind
	Marks      *decimal.Decimal // nil: taken back
	Comment    string
	How        string // awarded, accepted, together, undone
	Person, By string
	Made       time.Time
	Follows    int64 // id of the award that the marker saw; 0: none
}

// AddAward keeps an award; false where another one was made since the one it follows.
func (q Queries) AddAward(ctx context.Context, a Award) (bool, error) {
	kept := ""
	if a.Marks != nil {
		kept = a.Marks.String()
	}
	n, err := q.q.AddAward(ctx, db.AddAwardParams{NotebookID: a.Notebook, Version: int64(a.Version), Criterion: a.Criterion, Reading: int64(a.Pass),
		Marks: kept, Comment: a.Comment, How: a.How, PersonID: a.Person, Made: stamp(a.Made), Follows: a.Follows})
	return n > 0, err
}

// marksKept reads the marks of an award; nil where they were taken back.
func marksKept(text string) (*decimal.Decimal, error) {
	if text == "" {
		return nil, nil
	}
	marks, err := decimal.Parse(text)
	return &marks, err
}

// Awards are all those of a notebook, in order.
func (q Queries) Awards(ctx context.Context, notebook string) ([]Award, error) {
	rows, err := q.q.AwardsOfNotebook(ctx, notebook)
	out := make([]Award, len(rows))
	for i, r := range rows {
		marks, err := marksKept(r.Marks)
		if err != nil {
			return nil, fmt.Errorf("award %d: %w", r.ID, err)
		}
		out[i] = Award{r.ID, r.NotebookID, int(r.Version), r.Criterion, int(r.Reading), marks, r.Comment, r.How, r.PersonID, r.ByName, moment(r.Made), r.Follows}
	}
	return out, err
}

// AwardsOfClass are all those of a practical in a class, in order.
func (q Queries) AwardsOfClass(ctx context.Context, class, practical string) ([]Award, error) {
	rows, err := q.q.AwardsOfClass(ctx, db.AwardsOfClassParams{ClassID: class, PracticalID: practical})
	out := make([]Award, len(rows))
	for i, r := range rows {
		marks, err := marksKept(r.Marks)
		if err != nil {
			return nil, fmt.Errorf("award %d: %w", r.ID, err)
		}
		out[i] = Award{r.ID, r.NotebookID, int(r.Version), r.Criterion, int(r.Reading), marks, r.Comment, r.How, r.PersonID, r.ByName, moment(r.Made), r.Follows}
	}
	return out, err
}

// UsedComment is a comment with how often it was used.
type UsedComment struct {
	Text string `json:"text"`
	Used int    `json:"used"`
}

// CommentBank are the comments on a criterion of a practical, the most used first, from
// the classes in which a person teaches.
func (q Queries) CommentBank(ctx context.Context, person, practical, criterion string) ([]UsedComment, error) {
	rows, err := q.q.CommentBank(ctx, db.CommentBankParams{PersonID: person, PracticalID: practical, Criterion: criterion})
	out := make([]UsedComment, len(rows))
	for i, r := range rows {
		out[i] = UsedComment{r.Comment, int(r.Used)}
	}
	return out, err
}

// Release is that the student sees the marks of a version.
type Release struct {
	Notebook string
	Version  int
	By       string
	Made     time.Time
}

// Release lets a student see the marks of a version; false where that was so.
func (q Queries) Release(ctx context.Context, notebook string, version int, person string, at time.Time) (bool, error) {
	n, err := q.q.Release(ctx, db.ReleaseParams{NotebookID: notebook, Version: int64(version), PersonID: person, Made: stamp(at)})
	return n > 0, err
}

// Releases are those of a notebook.
func (q Queries) Releases(ctx context.Context, notebook string) ([]Release, error) {
	rows, err := q.q.ReleasesOfNotebook(ctx, notebook)
	out := make([]Release, len(rows))
	for i, r := range rows {
		out[i] = Release{notebook, int(r.Version), r.ByName, moment(r.Made)}
	}
	return out, err
}

// ReleasesOfClass are those of a practical in a class.
func (q Queries) ReleasesOfClass(ctx context.Context, class, practical string) ([]Release, error) {
	rows, err := q.q.ReleasesOfClass(ctx, db.ReleasesOfClassParams{ClassID: class, PracticalID: practical})
	out := make([]Release, len(rows))
	for i, r := range rows {
		out[i] = Release{r.NotebookID, int(r.Version), r.ByName, moment(r.Made)}
	}
	return out, err
}

// Request is that a student asks for another look at a criterion.
type Request struct {
	ID         int64
	Notebook   string
	Version    int
	Criterion  string
	Reason, By string
	Made       time.Time
	Answer     string
	AnsweredBy string
	Answered   time.Time // zero while it is open
}

// AddRequest keeps a request; false where one is open for the criterion.
func (q Queries) AddRequest(ctx context.Context, r Request, person string) (bool, error) {
	n, err := q.q.AddRequest(ctx, db.AddRequestParams{NotebookID: r.Notebook, Version: int64(r.Version), Criterion: r.Criterion, Reason: r.Reason,
		PersonID: person, Made: stamp(r.Made)})
	return n > 0, err
}

// AnswerRequest answers an open request; false where none is.
func (q Queries) AnswerRequest(ctx context.Context, notebook string, id int64, person, answer string, at time.Time) (bool, error) {
	n, err := q.q.AnswerRequest(ctx, db.AnswerRequestParams{Answer: answer, AnsweredBy: sql.NullString{String: person, Valid: true}, Answered: stamp(at),
		ID: id, NotebookID: notebook})
	return n > 0, err
}

// Requests are those of a notebook.
func (q Queries) Requests(ctx context.Context, notebook string) ([]Request, error) {
	rows, err := q.q.RequestsOfNotebook(ctx, notebook)
	out := make([]Request, len(rows))
	for i, r := range rows {
		out[i] = Request{r.ID, r.NotebookID, int(r.Version), r.Criterion, r.Reason, r.ByName, moment(r.Made), r.Answer, r.AnsweredName, moment(r.Answered)}
	}
	return out, err
}

// RequestsOfClass are those of a practical in a class.
func (q Queries) RequestsOfClass(ctx context.Context, class, practical string) ([]Request, error) {
	rows, err := q.q.RequestsOfClass(ctx, db.RequestsOfClassParams{ClassID: class, PracticalID: practical})
	out := make([]Request, len(rows))
	for i, r := range rows {
		out[i] = Request{r.ID, r.NotebookID, int(r.Version), r.Criterion, r.Reason, r.ByName, moment(r.Made), r.Answer, r.AnsweredName, moment(r.Answered)}
	}
	return out, err
}

// Comment is what somebody who teaches says beside an entry of a notebook.
type Comment struct {
	ID    int64     `json:"id"`
	Entry string    `json:"entry,omitempty" doc:"or a trial; the whole notebook when left out"`
	Text  string    `json:"text"`
	By    string    `json:"by" doc:"name"`
	At    time.Time `json:"at"`
}

// AddComment keeps one.
func (q Queries) AddComment(ctx context.Context, notebook, person string, c Comment) error {
	return q.q.AddComment(ctx, db.AddCommentParams{NotebookID: notebook, Entry: c.Entry, Text: c.Text, PersonID: person, Made: stamp(c.At)})
}

// WithdrawComment takes one out of sight; false where it is not there.
func (q Queries) WithdrawComment(ctx context.Context, notebook string, id int64, at time.Time) (bool, error) {
	n, err := q.q.WithdrawComment(ctx, db.WithdrawCommentParams{Withdrawn: stamp(at), ID: id, NotebookID: notebook})
	return n > 0, err
}

// Comments are those of a notebook that were not withdrawn.
func (q Queries) Comments(ctx context.Context, notebook string) ([]Comment, error) {
	rows, err := q.q.Comments(ctx, notebook)
	out := make([]Comment, len(rows))
	for i, r := range rows {
		out[i] = Comment{r.ID, r.Entry, r.Text, r.ByName, moment(r.Made)}
	}
	return out, err
}

// ToMark is a version of a report that was handed in, with whose it is.
type ToMark struct {
	Notebook      string
	Version       int
	Handed        time.Time
	Late          bool
	Returned      bool
	Student, Name string
}

// SubmissionsToMark are all versions in a practical of a class, by name of the student.
func (q Queries) SubmissionsToMark(ctx context.Context, class, practical string) ([]ToMark, error) {
	rows, err := q.q.SubmissionsToMark(ctx, db.SubmissionsToMarkParams{ClassID: class, PracticalID: practical})
	out := make([]ToMark, len(rows))
	for i, r := range rows {
		out[i] = ToMark{r.NotebookID, int(r.Version), moment(r.Handed), r.Late != 0, r.Returned != "", r.StudentID, r.Name}
	}
	return out, err
}
