package bench

import (
	"time"

	"golang.org/x/time/rate"

	"exactflask/app/limits"
	"exactflask/core/values/finding"
)

var tooMuch = finding.Declare("app.too-much", "count")

// quota is what a person may still write.
type quota struct{ entries, kilobytes *rate.Limiter }

func newQuota() quota {
	return quota{limits.Entries.Limiter(), limits.Kilobytes.Limiter()}
}

// Afford takes entries of so many bytes off what a person may still write.
func (a *Bench) Afford(person string, entries, bytes int) error {
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
