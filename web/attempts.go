package web

import (
	"math/rand/v2"
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
	deviceFor     = 90 * 24 * time.Hour
)

// failures are those of a name since it was last signed in with.
type failures struct {
	n    int
	next time.Time // when the next attempt is taken
}

// attempts limits guessing at passwords. It may be used by many goroutines.
//
// A name has so many guesses, from wherever they come. An address pays only for names that nobody
// has: a school behind one address is not locked by one device in it. A device on which a name was
// signed in with before has guesses of its own for it, so that nobody locks its owner out.
type attempts struct {
	mu        sync.Mutex
	names     *expirable.LRU[string, failures]
	addresses *expirable.LRU[string, *rate.Limiter]
	known     *expirable.LRU[string, bool] // devices with the names that were signed in with there
	took      []time.Duration              // by the last attempts that were made
	now       func() time.Time
}

func newAttempts() *attempts {
	return &attempts{names: expirable.NewLRU[string, failures](remembered, nil, rememberedFor),
		addresses: expirable.NewLRU[string, *rate.Limiter](remembered, nil, rememberedFor),
		known:     expirable.NewLRU[string, bool](remembered, nil, deviceFor), now: time.Now}
}

// from is where an attempt comes from: an address, and a device by its cookie.
type from struct{ address, device string }

// key is under what failures of a name are counted.
func (a *attempts) key(name string, f from) string {
	if own := f.device + " " + name; f.device != "" && a.known.Contains(own) {
		return own
	}
	return name
}

// wait is how long an attempt with this name has to wait; 0: it may be made, and counts as failed
// until it succeeds, so that guesses sent at the same time are not taken for one. spent tells that
// nobody has this name and its address has guessed at too many of those: the attempt is answered as
// one that failed, and costs nothing.
func (a *attempts) wait(name string, f from, exists bool) (wait time.Duration, spent bool) {
	a.mu.Lock()
	defer a.mu.Unlock()
	now, key := a.now(), a.key(name, f)
	counted, _ := a.names.Get(key)
	if wait := counted.next.Sub(now); wait > 0 {
		return wait, false
	}
	if !exists && a.fromAddress(f.address, now) > 0 {
		return 0, true
	}
	counted.n++
	if counted.n >= limits.FreeFailures {
		counted.next = now.Add(min(limits.LongestWait, time.Second<<min(counted.n-limits.FreeFailures, 10)))
	}
	a.names.Add(key, counted)
	return 0, false
}

// lasted notes how long an attempt took that was made.
func (a *attempts) lasted(d time.Duration) {
	a.mu.Lock()
	defer a.mu.Unlock()
	if a.took = append(a.took, d); len(a.took) > 64 {
		a.took = a.took[1:]
	}
}

// asLong is as long as one of the attempts that were made last took: what costs nothing is answered
// no sooner, so that nobody learns from it which names there are.
func (a *attempts) asLong() time.Duration {
	a.mu.Lock()
	defer a.mu.Unlock()
	if len(a.took) == 0 {
		return 100 * time.Millisecond
	}
	return a.took[rand.IntN(len(a.took))]
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

// succeeded takes back what an attempt that succeeded was counted as, and remembers its device.
func (a *attempts) succeeded(name string, f from) {
	a.mu.Lock()
	defer a.mu.Unlock()
	a.names.Remove(a.key(name, f))
	if f.device != "" {
		a.known.Add(f.device+" "+name, true)
	}
}

// good takes back what a try at a code was counted as that was right.
func (a *attempts) good(address string) {
	a.mu.Lock()
	defer a.mu.Unlock()
	if l, ok := a.addresses.Get(address); ok {
		l.ReserveN(a.now(), -1)
	}
}
