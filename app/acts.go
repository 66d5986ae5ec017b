package app

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
type act string

// The acts. Each is kept with who did it, to whom, and a detail.
const (
	actClassMade  act = "class-made"
	actClassSet   act = "class-set"
	actArchived   act = "archived"
	actReopened   act = "reopened"
	actAdded      act = "added"
	actJoined     act = "joined"
	actPlaced     act = "placed"
	actPaired     act = "paired"
	actParted     act = "parted"
	actMovedOut   act = "moved-out"
	actMovedIn    act = "moved-in"
	actRemoved    act = "removed"
	actPassword   act = "password"
	actCodeOpened act = "code-opened"
	actCodeClosed act = "code-closed"
	actNotice     act = "notice"
	actLesson     act = "lesson"
	actReturned   act = "returned"
	actImported   act = "imported"
	actNoticeDown act = "notice-down"
	actPractical  act = "practical-set"
	actPersonMade act = "person-made"
	actStanding   act = "standing"
	actTakenOut   act = "taken-out"
	actDataGiven  act = "data-given"
	actNamed      act = "named"
	actGiven      act = "class-given"
	actSettings   act = "settings"
	actUnset      act = "unset"
	actRevision   act = "revision"
	actScheme     act = "scheme"
	actReleased   act = "released"
	actAnswered   act = "request-answered"
	actNorms      act = "norms"
)

var acts = finding.Family("act.", []act{actClassMade, actClassSet, actArchived, actReopened, actAdded, actJoined, actPlaced,
	actPaired, actParted, actMovedOut, actMovedIn, actRemoved, actPassword, actCodeOpened, actCodeClosed, actNotice, actLesson, actReturned, actImported, actNoticeDown,
	actPractical, actPersonMade, actStanding, actTakenOut, actDataGiven, actNamed, actGiven, actSettings, actUnset, actRevision, actScheme,
	actReleased, actAnswered, actNorms}, "who", "whom", "detail")

var someone = finding.Declare("act.someone")

// nameFor is a name as a reader is told it: whoever was taken out has none.
func nameFor(p Person, name string) string {
	if name == "" {
		return wording.For(p.Style()).Say(someone.Message())
	}
	return name
}

// did adds an act to the log, in the same transaction as what it tells of.
func (a *App) did(ctx context.Context, q store.Queries, what act, p Person, class, whom, detail string) error {
	return q.AddAct(ctx, store.Act{What: string(what), Class: class, Who: p.ID, Whom: whom, Detail: detail, At: a.now()})
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
func (a *App) Acts(ctx context.Context, p Person, class string, before int64) (_ []ActLine, err error) {
	if before <= 0 {
		before = math.MaxInt64
	}
	var kept []store.Act
	switch {
	case class != "":
		if err := allowed(p, SeeActs, class); err != nil {
			return nil, err
		}
		kept, err = a.store.Read().ActsOfClass(ctx, class, before)
	case May(p, Administrate, Thing{}):
		kept, err = a.store.Read().ActsOfInstallation(ctx, before)
	default:
		return nil, ErrForbidden
	}
	if err != nil {
		return nil, fmt.Errorf("reading the log: %w", err)
	}
	return actLines(kept, p), nil
}

func actLines(kept []store.Act, p Person) []ActLine {
	words := wording.For(p.Style())
	named := func(name string) finding.Value { return finding.Text(nameFor(p, name)) }
	out := make([]ActLine, 0, len(kept))
	for _, k := range kept {
		if code, known := acts[act(k.What)]; known {
			out = append(out, ActLine{k.Seq, k.At, words.Say(code.Message(named(k.Who), named(k.Whom), finding.Text(k.Detail)))})
		}
	}
	return out
}
