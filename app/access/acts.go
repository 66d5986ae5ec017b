package access

import (
	"context"
	"fmt"
	"math"
	"time"

	"exactflask/core/values/finding"
	"exactflask/store"
	"exactflask/wording"
)

// Act is something that somebody changed of people, classes or practicals.
type Act string

// The acts. Each is kept with who did it, to whom, and a detail.
const (
	ActClassMade  Act = "class-made"
	ActClassSet   Act = "class-set"
	ActArchived   Act = "archived"
	ActReopened   Act = "reopened"
	ActAdded      Act = "added"
	ActJoined     Act = "joined"
	ActPlaced     Act = "placed"
	ActPaired     Act = "paired"
	ActParted     Act = "parted"
	ActMovedOut   Act = "moved-out"
	ActMovedIn    Act = "moved-in"
	ActRemoved    Act = "removed"
	ActPassword   Act = "password"
	ActCodeOpened Act = "code-opened"
	ActCodeClosed Act = "code-closed"
	ActNotice     Act = "notice"
	ActLesson     Act = "lesson"
	ActReturned   Act = "returned"
	ActImported   Act = "imported"
	ActNoticeDown Act = "notice-down"
	ActPractical  Act = "practical-set"
	ActPersonMade Act = "person-made"
	ActStanding   Act = "standing"
	ActTakenOut   Act = "taken-out"
	ActDataGiven  Act = "data-given"
	ActNamed      Act = "named"
	ActWished     Act = "wished"
	ActRenamed    Act = "renamed"
	ActGiven      Act = "class-given"
	ActSettings   Act = "settings"
	ActUnassigned Act = "unset"
	ActRevision   Act = "revision"
	ActScheme     Act = "scheme"
	ActReleased   Act = "released"
	ActAnswered   Act = "request-answered"
	ActNorms      Act = "norms"
	ActGlass      Act = "glass"
)

var acts = finding.Family("act.", []Act{ActClassMade, ActClassSet, ActArchived, ActReopened, ActAdded, ActJoined, ActPlaced,
	ActPaired, ActParted, ActMovedOut, ActMovedIn, ActRemoved, ActPassword, ActCodeOpened, ActCodeClosed, ActNotice, ActLesson, ActReturned, ActImported, ActNoticeDown,
	ActPractical, ActPersonMade, ActStanding, ActTakenOut, ActDataGiven, ActNamed, ActWished, ActRenamed, ActGiven, ActSettings, ActUnassigned, ActRevision, ActScheme,
	ActReleased, ActAnswered, ActNorms, ActGlass}, "who", "whom", "detail")

var someone = finding.Declare("act.someone")

// NameFor is a name as a reader is told it: whoever was taken out has none.
func NameFor(p Person, name string) string {
	if name == "" {
		return wording.For(p.Style()).Say(someone.Message())
	}
	return name
}

// Did adds an act to the log, in the same transaction as what it tells of.
func (a *Access) Did(ctx context.Context, q store.Queries, what Act, p Person, class, whom, detail string) error {
	return q.AddAct(ctx, store.Act{What: string(what), Class: class, Who: p.ID, Whom: whom, Detail: detail, At: a.Now()})
}

// ActLine is an act as it is read.
type ActLine struct {
	Seq  int64     `json:"seq" doc:"counts up; the next page is before the last one's"`
	At   time.Time `json:"at"`
	Text string    `json:"text"`
}

// Acts are those in a class, and those of administrators on its people, before one of
// them, the newest first; 0: from the newest. Without a class: those of administrators,
// for an administrator.
func (a *Access) Acts(ctx context.Context, p Person, class string, before int64) (_ []ActLine, err error) {
	if before <= 0 {
		before = math.MaxInt64
	}
	var kept []store.Act
	switch {
	case class != "":
		if err := Allowed(p, SeeActs, class); err != nil {
			return nil, err
		}
		kept, err = a.Store.Read().ActsOfClass(ctx, class, before)
	case May(p, Administrate, Thing{}):
		kept, err = a.Store.Read().ActsOfInstallation(ctx, before)
	default:
		return nil, ErrForbidden
	}
	if err != nil {
		return nil, fmt.Errorf("reading the log: %w", err)
	}
	return ActLines(kept, p), nil
}

func ActLines(kept []store.Act, p Person) []ActLine {
	words := wording.For(p.Style())
	named := func(name string) finding.Value { return finding.Text(NameFor(p, name)) }
	out := make([]ActLine, 0, len(kept))
	for _, k := range kept {
		if code, known := acts[Act(k.What)]; known {
			out = append(out, ActLine{k.Seq, k.At, words.Say(code.Message(named(k.Who), named(k.Whom), finding.Text(k.Detail)))})
		}
	}
	return out
}
