package web

import (
	"sync"
	"time"

	"exactflask/app/limits"

	"github.com/hashicorp/golang-lru/v2/expirable"
	"golang.org/x/time/rate"
)

// Of names and addresses so many are remembered, for so long.
const (
	remembered    = 20_000
	rememberedFor = time.Hour
)

// failures are those of a name since it was last signed in with.
type failures struct {
	n    int
	next time.Time // when the next attempt is taken
}

// attempts limits guessing at passwords. It may be used by many goroutines.
type attempts struct {
	mu        sync.Mutex
	names     *expirable.LRU[string, failures]
	addresses *expirable.LRU[string, *rate.Limiter]
	now       func() time.Time
}

func newAttempts() *attempts {
	return &attempts{names: expirable.NewLRU[string, failures](remembered, nil, rememberedFor),
		addresses: expirable.NewLRU[string, *rate.Limiter](remembered, nil, rememberedFor), now: time.Now}
}

// wait is how long an attempt with this name from this address has to wait; 0: it
// may be made, and counts as failed until it succeeds, so that guesses sent at the
// same time are not taken for one.
func (a *attempts) wait(name, address string) time.Duration {
	a.mu.Lock()
	defer a.mu.Unlock()
	now := a.now()
	f, _ := a.names.Get(name)
	if wait := f.next.Sub(now); wait > 0 {
		return wait
	}
	if wait := a.fromAddress(address, now); wait > 0 {
		return wait
	}
	f.n++
	if f.n >= limits.FreeFailures {
		f.next = now.Add(min(limits.LongestWait, time.Second<<min(f.n-limits.FreeFailures, 10)))
	}
	a.names.Add(name, f)
	return 0
}

// waitAddress is wait for what is guessed at without a name.
func (a *attempts) waitAddress(address string) time.Duration {
	a.mu.Lock()
	defer a.mu.Unlock()
	return a.fromAddress(address, a.now())
}

func (a *attempts) fromAddress(address string, now time.Time) time.Duration {
	l, ok := a.addresses.Get(address)
	if !ok {
		l = limits.FailedSignIns.Limiter()
		a.addresses.Add(address, l)
	}
	if !l.AllowN(now, 1) {
		return time.Second
	}
	return 0
}

// succeeded takes back what an attempt that succeeded was counted as.
func (a *attempts) succeeded(name, address string) {
	a.mu.Lock()
	defer a.mu.Unlock()
	a.names.Remove(name)
	if l, ok := a.addresses.Get(address); ok {
		l.ReserveN(a.now(), -1)
	}
}
