package journal_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/journal"
)

func note(i int, text string) journal.Entry {
	return journal.Entry{ID: fmt.Sprintf("entry-%06d", i), Device: "d", Clock: int64(i + 1), Part: journal.Remark{Written: text}}
}

func notes(n int, text string) []journal.Entry {
	out := make([]journal.Entry, n)
	for i := range out {
		out[i] = note(i, text)
	}
	return out
}

// What a notebook takes, and what it refuses: on each limit, and just beside it.
func TestAccept(t *testing.T) {
	opened := journal.Entry{ID: "trial-0001", Device: "d", Clock: 1, Part: journal.Opening{Type: journal.Rough}}
	reading := journal.Entry{ID: "reading-01", Device: "d", Clock: 2, Part: journal.Scale{Of: "trial-0001", Place: journal.Start, Written: "0.00"}}
	other := func(e journal.Entry, change func(*journal.Entry)) journal.Entry { change(&e); return e }
	later := func(id, by int) journal.Entry {
		return other(note(id, "x"), func(e *journal.Entry) { e.Clock = int64(3*journal.MostAhead + by) })
	}
	ahead := []journal.Entry{later(1, 0)}
	for _, c := range []struct {
		name     string
		kept     []journal.Entry
		handedIn bool
		added    []journal.Entry
		fresh    int
		at       int
		fault    string
	}{
		{"a trial and its reading", nil, false, []journal.Entry{opened, reading}, 2, -1, ""},
		{"a reading before its trial", nil, false, []journal.Entry{reading, opened}, 0, 0, "entries[0].reading.trial entry.trial-missing"},
		{"the same once more", []journal.Entry{opened, reading}, false, []journal.Entry{opened, reading}, 0, -1, ""},
		{"twice in one request", nil, false, []journal.Entry{note(0, "a"), note(0, "a")}, 1, -1, ""},
		{"the same id, another text", notes(3, "a"), false, []journal.Entry{note(5, "b"), note(1, "b")}, 0, 1, "entries[1].id entry.id-taken"},
		{"the same id, another place of the clock", notes(3, "a"), false,
			[]journal.Entry{other(note(1, "a"), func(e *journal.Entry) { e.Clock = 9 })}, 0, 0, "entries[0].id entry.id-taken"},
		{"the same, sent by the second of two", notes(3, "a"), false,
			[]journal.Entry{other(note(1, "a"), func(e *journal.Entry) { e.Author = "p2" })}, 0, -1, ""},
		{"the same in another zone", notes(3, "a"), false,
			[]journal.Entry{other(note(1, "a"), func(e *journal.Entry) { e.At = e.At.In(time.FixedZone("", 3600)) })}, 0, -1, ""},
		{"no entry", nil, false, []journal.Entry{other(note(1, "a"), func(e *journal.Entry) { e.ID = "short" })}, 0, 0, "entries[0].id entry.id-length"},
		{"clock as far ahead as may be", notes(7, "a"), false, []journal.Entry{other(note(8, "x"), func(e *journal.Entry) { e.Clock = 7 + journal.MostAhead })}, 1, -1, ""},
		{"clock one further", notes(7, "a"), false, []journal.Entry{other(note(8, "x"), func(e *journal.Entry) { e.Clock = 8 + journal.MostAhead })}, 0, 0, "entries[0].clock entry.clock-ahead"},
		{"clocks that pull each other", nil, false, []journal.Entry{other(note(1, "a"), func(e *journal.Entry) { e.Clock = journal.MostAhead }),
			other(note(2, "a"), func(e *journal.Entry) { e.Clock = journal.MostAhead + 1 })}, 0, 1, "entries[1].clock entry.clock-ahead"},
		{"one that ran ahead long ago goes on", ahead, false, []journal.Entry{later(2, 1), later(3, 2)}, 2, -1, ""},
		{"and no further ahead than it is", ahead, false, []journal.Entry{later(2, 2)}, 0, 0, "entries[0].clock entry.clock-ahead"},
		{"a note after handing in", []journal.Entry{opened}, true, []journal.Entry{note(1, "spilt")}, 1, -1, ""},
		{"a reading after handing in", []journal.Entry{opened}, true, []journal.Entry{note(1, "a"), reading}, 0, 1, "entries[1] entry.after-hand-in"},
		{"a reading that was there before", []journal.Entry{opened, reading}, true, []journal.Entry{reading}, 0, -1, ""},
		{"the last that fits", notes(journal.MostEntries-1, "a"), false, []journal.Entry{note(20_000, "a")}, 1, -1, ""},
		{"one more", notes(journal.MostEntries, "a"), false, []journal.Entry{note(20_000, "a")}, 0, 0, "entries notebook.full"},
		{"full, and nothing new", notes(journal.MostEntries, "a"), false, []journal.Entry{note(3, "a")}, 0, -1, ""},
	} {
		l := journal.NewLedger(c.kept, journal.Size(c.kept...))
		l.HandedIn = c.handedIn
		fresh, at, fault := l.Accept(c.added)
		said := ""
		if fault != nil {
			said = fault.Path + " " + fault.Code
		}
		assert.Equal(t, c.fault, said, c.name)
		assert.Equal(t, c.at, at, c.name)
		assert.Len(t, fresh, c.fresh, c.name)
		assert.Len(t, l.Entries(), len(c.kept)+c.fresh, "all are taken, or none: %s", c.name)
	}
}

// A notebook has a size: what fills it to the last byte is taken, a byte more is not.
func TestSizeOfANotebook(t *testing.T) {
	one := note(1, "x")
	room := journal.Size(one)
	_, _, fault := journal.NewLedger(nil, journal.MostBytes-room).Accept([]journal.Entry{one})
	assert.Nil(t, fault)
	_, at, fault := journal.NewLedger(nil, journal.MostBytes-room+1).Accept([]journal.Entry{one})
	require.NotNil(t, fault)
	assert.Equal(t, 0, at)
	assert.Equal(t, "entries notebook.large", fault.Path+" "+fault.Code)
	assert.Nil(t, journal.SizeFault(notes(journal.MostEntries, "a")))
	assert.Equal(t, "notebook.full", journal.SizeFault(notes(journal.MostEntries+1, "a")).Code)
	assert.Equal(t, "notebook.large", journal.SizeFault(notes(journal.MostBytes/1000, strings.Repeat("x", 1000))).Code)
}

// How many are sent at once, and as whose.
func TestRequests(t *testing.T) {
	for n, want := range map[int]bool{0: false, 1: true, journal.MostAtOnce: true, journal.MostAtOnce + 1: false} {
		assert.Equal(t, want, journal.BatchFault(notes(n, "a")) == nil, n)
	}
	mine := notes(2, "a")
	mine[1].Author = "p1"
	assert.Nil(t, journal.AuthorFault(mine, "p1"))
	assert.Equal(t, "entries[1].author", journal.AuthorFault(mine, "p2").Path)
}

// What was only tried is gone again, and its id is free.
func TestBack(t *testing.T) {
	l := journal.NewLedger(notes(3, "a"), 300)
	mark := l.Mark()
	_, _, fault := l.Accept([]journal.Entry{note(5, "tried")})
	require.Nil(t, fault)
	l.Back(mark)
	assert.Equal(t, mark, l.Mark())
	assert.False(t, l.Holds("entry-000005"))
	_, _, fault = l.Accept([]journal.Entry{note(5, "another")})
	assert.Nil(t, fault)
}
