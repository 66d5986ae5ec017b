package store

import (
	"context"
	"errors"
	"strings"
	"time"

	"exactflask/store/db"
)

// Course is what is counted of a practical in a class; of its present students only.
type Course struct {
	// People: who has begun, is at work, has handed in; of two who write together both.
	Begun, AtWork, HandedBy int
	// Notebooks: hands that are up, reports that count, those whose marks are released.
	Hands, Handed, Released   int
	Requests, Unknowns, Dealt int
	LastRelease, Asked, Ends  time.Time
	// Unreleased are the reports that count and whose marks are not released, the oldest first.
	Unreleased []Unreleased
}

// Unreleased is a report that is to be marked or released.
type Unreleased struct {
	Handed  time.Time
	Awarded []string // ids of the criteria that were awarded
}

// CourseOfClass counts what there is of each practical of a class. Who has written since that moment is at work.
func (q Queries) CourseOfClass(ctx context.Context, class string, since time.Time) (map[string]*Course, error) {
	out := map[string]*Course{}
	of := func(practical string) *Course {
		if out[practical] == nil {
			out[practical] = &Course{}
		}
		return out[practical]
	}
	counts, errCounts := q.q.CountsOfClass(ctx, db.CountsOfClassParams{Since: stamp(since), ClassID: class})
	for _, r := range counts {
		*of(r.PracticalID) = Course{Begun: int(r.Begun), AtWork: int(r.AtWork), HandedBy: int(r.HandedBy), Hands: int(r.Hands), Handed: int(r.Handed), Released: int(r.Released), LastRelease: moment(r.LastRelease)}
	}
	unreleased, errUnreleased := q.q.UnreleasedOfClass(ctx, class)
	for _, r := range unreleased {
		c := of(r.PracticalID)
		c.Unreleased = append(c.Unreleased, Unreleased{moment(r.Handed), strings.Fields(r.Awarded)})
	}
	requests, errRequests := q.q.OpenRequestsOfClass(ctx, class)
	for _, r := range requests {
		of(r.PracticalID).Requests, of(r.PracticalID).Asked = int(r.Requests), moment(r.Oldest)
	}
	unknowns, errUnknowns := q.q.UnknownsOfClass(ctx, class)
	for _, r := range unknowns {
		of(r.PracticalID).Unknowns, of(r.PracticalID).Dealt = int(r.Unknowns), int(r.Dealt)
	}
	ends, errEnds := q.q.EndsOfClass(ctx, class)
	for _, r := range ends {
		of(r.PracticalID).Ends = moment(r.Ends)
	}
	return out, errors.Join(errCounts, errUnreleased, errRequests, errUnknowns, errEnds)
}

// Students is how many students are in a class.
func (q Queries) Students(ctx context.Context, class string) (int, error) {
	n, err := q.q.CountStudents(ctx, class)
	return int(n), err
}
