package web

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"testing"
	"time"

	"exactflask/app/limits"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A name's wait doubles with each failure up to a minute and is forgotten at a
// success; other names from the same address go on.
func TestWaitsOfAName(t *testing.T) {
	a, now := newAttempts(), time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC)
	a.now = func() time.Time { return now }
	var waits []int
	for range 13 {
		require.Zero(t, a.wait("sanna", "10.0.0.1"))
		wait := a.wait("sanna", "10.0.0.2") // from anywhere
		waits = append(waits, seconds(max(wait, 0)))
		now = now.Add(wait)
		if wait == 0 { // it was taken, and counted
			waits[len(waits)-1] = 0
		}
	}
	assert.Equal(t, []int{0, 0, 1, 2, 4, 8, 16, 32, 60, 60, 60, 60, 60}, waits)
	assert.Zero(t, a.wait("teo", "10.0.0.1"))
	a.succeeded("sanna", "10.0.0.1")
	assert.Zero(t, a.wait("sanna", "10.0.0.1"))
}

// A whole school signs in behind one address; guessing over many names is slowed.
func TestWaitsOfAnAddress(t *testing.T) {
	a, now := newAttempts(), time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC)
	a.now = func() time.Time { return now }
	for i := range 2000 {
		name := fmt.Sprint("pupil", i)
		require.Zero(t, a.wait(name, "10.0.0.1"), i)
		a.succeeded(name, "10.0.0.1")
	}
	for i := range limits.FailedSignIns.AtOnce {
		require.Zero(t, a.wait(fmt.Sprint("guess", i), "10.0.0.1"), i)
	}
	assert.Equal(t, time.Second, a.wait("another", "10.0.0.1"))
	assert.Zero(t, a.wait("another", "10.0.0.2"), "another address goes on")
	now = now.Add(time.Second)
	assert.Zero(t, a.wait("yet-another", "10.0.0.1"))
}

func TestForwardedAddresses(t *testing.T) {
	proxies, err := ParseProxies([]string{"127.0.0.1", "10.0.0.0/8", "::1"})
	require.NoError(t, err)
	_, err = ParseProxies([]string{"localhost"})
	assert.ErrorContains(t, err, "localhost")
	for _, c := range []struct {
		trusted            Proxies
		from, header, want string
	}{
		{nil, "127.0.0.1:5", "1.2.3.4", "127.0.0.1"},
		{proxies, "192.0.2.7:5", "1.2.3.4", "192.0.2.7"}, // not ours: ignored
		{proxies, "127.0.0.1:5", "1.2.3.4", "1.2.3.4"},
		{proxies, "[::1]:5", "2001:db8::1", "2001:db8::1"},
		{proxies, "127.0.0.1:5", "6.6.6.6, 1.2.3.4", "1.2.3.4"}, // the first was made up by the caller
		{proxies, "127.0.0.1:5", "1.2.3.4, 10.1.2.3", "1.2.3.4"},
		{proxies, "127.0.0.1:5", "nonsense", "127.0.0.1"},
		{proxies, "127.0.0.1:5", "", "127.0.0.1"},
	} {
		r := httptest.NewRequest("GET", "/", nil)
		r.RemoteAddr = c.from
		r.Header.Set("X-Forwarded-For", c.header)
		got := ""
		c.trusted.located(http.HandlerFunc(func(_ http.ResponseWriter, r *http.Request) { got = address(r) })).ServeHTTP(httptest.NewRecorder(), r)
		assert.Equal(t, c.want, got, "%s, %q", c.from, c.header)
	}
}
