// Package limits says how much one caller may ask for, all in one place: so often, and so
// many at once. What a notebook may hold is the record's own (core/record/journal).
package limits

import (
	"time"

	"golang.org/x/time/rate"

	"exactflask/core/record/journal"
)

// Rate is how much may be asked for at once, and how much is gained again each second.
type Rate struct {
	Second float64
	AtOnce int
}

// Limiter begins to count by it.
func (r Rate) Limiter() *rate.Limiter { return rate.NewLimiter(rate.Limit(r.Second), r.AtOnce) }

// Requests are those of one person, or of one address where nobody is signed in, in a minute.
const Requests = 1200

// The rates.
var (
	// Entries and Kilobytes are what one person writes: a bench that was without network for
	// a week is taken at once.
	Entries   = Rate{5, journal.MostEntries}
	Kilobytes = Rate{2, 4 << 10}
	// ProbeLines are those of one probe over HTTP; ProbeBytes is the most of one sending.
	ProbeLines = Rate{20, 400}
	// FailedSignIns are those of one address: as many as a large class mistypes within a
	// minute. Those who sign in rightly cost it nothing, so that a school behind one address
	// is never locked.
	FailedSignIns = Rate{1, 60}
)

// ProbeBytes is the most that a probe sends at once.
const ProbeBytes = 64 << 10

// A name may be guessed at freely a few times; then each failure doubles the wait, up to the
// longest.
const (
	FreeFailures = 5
	LongestWait  = time.Minute
)
