package journal

import (
	"encoding/json"
	"fmt"
	"slices"

	"exactflask/core/values/finding"
)

// What a notebook takes.
const (
	MostEntries = 10_000  // in one notebook
	MostAtOnce  = 200     // added at once
	MostBytes   = 2 << 20 // of a journal as it is kept: thirty full reports
	// MostAhead is how far a notebook's clock may ever run ahead of the number of its entries: a
	// device that was long without network counts its own entries, those too that are never sent.
	MostAhead = 100_000
)

// Why entries are not taken.
var (
	tooManyEntries = finding.Declare("notebook.batch", "most", "given")
	notebookFull   = finding.Declare("notebook.full", "most")
	notebookLarge  = finding.Declare("notebook.large", "most")
	clockAhead     = finding.Declare("entry.clock-ahead")
	otherAuthor    = finding.Declare("entry.other-author")
	IDTaken        = finding.Declare("entry.id-taken")
	AfterHandIn    = finding.Declare("entry.after-hand-in")
)

// Ledger knows of a notebook what decides whether more may be added to it. Server and page
// ask the same one.
type Ledger struct {
	// HandedIn: the report was handed in, and was not given back; only what is said
	// afterwards is taken (Afterwards).
	HandedIn bool

	entries []Entry
	places  map[string]int // in entries, by id
	clock   int64          // the highest
	bytes   int
}

// NewLedger begins with the entries that a notebook has, which are not checked again, and
// their size as they are kept.
func NewLedger(entries []Entry, bytes int) *Ledger {
	l := &Ledger{entries: slices.Clip(entries), places: make(map[string]int, len(entries)), bytes: bytes}
	for i, e := range entries {
		l.places[e.ID], l.clock = i, max(l.clock, e.Clock)
	}
	return l
}

// Entries are those that it holds, in the order in which they came.
func (l *Ledger) Entries() []Entry { return l.entries }

// Holds tells whether an entry of this id is there.
func (l *Ledger) Holds(id string) bool { _, there := l.places[id]; return there }

// part is what an entry says; false where there is none of this id.
func (l *Ledger) part(id string) (Part, bool) {
	if i, there := l.places[id]; there {
		return l.entries[i].Part, true
	}
	return nil, false
}

// Keep adds entries that the notebook has already; they are not checked.
func (l *Ledger) Keep(entries ...Entry) {
	for _, e := range entries {
		if !l.Holds(e.ID) {
			l.keep(e)
		}
	}
}

func (l *Ledger) keep(e Entry) {
	l.places[e.ID] = len(l.entries)
	l.entries, l.clock, l.bytes = append(l.entries, e), max(l.clock, e.Clock), l.bytes+Size(e)
}

// Mark is a state of a ledger to go back to.
type Mark struct {
	entries, bytes int
	clock          int64
}

// Mark is the present one.
func (l *Ledger) Mark() Mark { return Mark{len(l.entries), l.bytes, l.clock} }

// Back drops what was added since a mark.
func (l *Ledger) Back(to Mark) {
	for _, e := range l.entries[to.entries:] {
		delete(l.places, e.ID)
	}
	l.entries, l.bytes, l.clock = l.entries[:to.entries], to.bytes, to.clock
}

// Afterwards tells whether an entry may still be added after handing in: notes only.
func Afterwards(e Entry) bool {
	_, note := e.Part.(Remark)
	return note
}

// BatchFault is the fault of a request that sends none, or too many at once.
func BatchFault(added []Entry) *finding.Fault {
	if len(added) == 0 || len(added) > MostAtOnce {
		return tooManyEntries.Fault("entries", finding.Count(MostAtOnce), finding.Count(len(added)))
	}
	return nil
}

// AuthorFault is the fault of an entry that somebody sends as another's: who sends them is
// their author.
func AuthorFault(added []Entry, by string) *finding.Fault {
	for i, e := range added {
		if e.Author != "" && e.Author != by {
			return otherAuthor.Fault(path(i) + ".author")
		}
	}
	return nil
}

func path(i int) string { return fmt.Sprintf("entries[%d]", i) }

// Accept adds entries, all of them or none, and returns those that are new; or the fault of
// the first that cannot be added, and its place. Entries that are there already and say the
// same are passed over, so that a request can be repeated.
func (l *Ledger) Accept(added []Entry) (fresh []Entry, at int, fault *finding.Fault) {
	before := l.Mark()
	for i, e := range added {
		e.At = e.At.UTC()
		isNew, fault := l.accept(e, before)
		if fault != nil {
			l.Back(before)
			return nil, i, fault.In(path(i))
		}
		if !isNew {
			continue
		}
		l.keep(e)
		if len(l.entries) > MostEntries {
			fault = notebookFull.Fault("entries", finding.Count(MostEntries))
		} else if l.bytes > MostBytes {
			fault = notebookLarge.Fault("entries", finding.Count(MostBytes>>20))
		}
		if fault != nil {
			l.Back(before)
			return nil, i, fault
		}
	}
	return l.entries[before.entries:], -1, nil
}

// accept tells whether an entry is new, or what keeps it out. What came with it does not move the
// clock that was before; one that runs ahead already goes on by the entry.
func (l *Ledger) accept(e Entry, before Mark) (isNew bool, fault *finding.Fault) {
	if fault := e.Check(); fault != nil {
		return false, fault
	}
	if i, there := l.places[e.ID]; there {
		old := l.entries[i]
		if old.Author = e.Author; !same(old, e) { // who sent it first is its author
			return false, IDTaken.Fault("id")
		}
		return false, nil
	}
	switch {
	case e.Clock > max(int64(before.entries)+MostAhead, before.clock+int64(len(l.entries)-before.entries)+1):
		return false, clockAhead.Fault("clock")
	case l.HandedIn && !Afterwards(e):
		return false, AfterHandIn.Fault("")
	}
	return true, e.checkAgainst(l)
}

// same tells whether two entries say the same.
func same(a, b Entry) bool {
	x, errX := json.Marshal(a)
	y, errY := json.Marshal(b)
	return errX == nil && errY == nil && string(x) == string(y)
}

// SizeFault is the fault of a whole notebook that is larger than one may be.
func SizeFault(entries []Entry) *finding.Fault {
	switch {
	case len(entries) > MostEntries:
		return notebookFull.Fault("", finding.Count(MostEntries))
	case Size(entries...) > MostBytes:
		return notebookLarge.Fault("", finding.Count(MostBytes>>20))
	}
	return nil
}

// Size is how many bytes entries take as they are kept.
func Size(entries ...Entry) (bytes int) {
	for _, e := range entries {
		text, _ := json.Marshal(e) // one that cannot be written is refused where it is kept
		bytes += len(text)
	}
	return bytes
}
