package app

import (
	"time"

	"golang.org/x/time/rate"

	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
)

// What one person may write at once, and goes on to gain: a bench that was without
// network for a week is taken at once.
const (
	entriesAtOnce   = journal.MostEntries
	entriesASecond  = 5
	kilobytesAtOnce = 4 << 10
	kilobytesASec   = 2
)

var tooMuch = finding.Declare("app.too-much", "count")

// quota is what a person may still write.
type quota struct{ entries, kilobytes *rate.Limiter }

func newQuota() quota {
	return quota{rate.NewLimiter(entriesASecond, entriesAtOnce), rate.NewLimiter(kilobytesASec, kilobytesAtOnce)}
}

// afford takes entries of so many bytes off what a person may still write.
func (a *App) afford(person string, entries, bytes int) error {
	q, ok := a.quotas.Get(person)
	if !ok {
		q = newQuota()
		a.quotas.Add(person, q)
	}
	now := time.Now()
	for limit, n := range map[*rate.Limiter]int{q.entries: entries, q.kilobytes: (bytes + 1023) / 1024} {
		r := limit.ReserveN(now, n)
		if wait := r.DelayFrom(now); !r.OK() || wait > 0 {
			r.CancelAt(now)
			return tooMuch.Fault("", finding.Count(max(1, int(min(wait, time.Hour)/time.Second))))
		}
	}
	return nil
}
