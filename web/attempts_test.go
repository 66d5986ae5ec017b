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
// success; other names from the same address go on. That is 69 guesses an hour.
func TestWaitsOfAName(t *testing.T) {
	a, now := newAttempts(), time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC)
	a.now = func() time.Time { return now }
	try := func(name, address string) time.Duration {
		wait, spent := a.wait(name, from{address: address}, true)
		assert.False(t, spent)
		return wait
	}
	var waits []int
	for range 13 {
		require.Zero(t, try("sanna", "10.0.0.1"))
		wait := try("sanna", "10.0.0.2") // from anywhere
		waits = append(waits, seconds(max(wait, 0)))
		now = now.Add(wait)
		if wait == 0 { // it was taken, and counted
			waits[len(waits)-1] = 0
		}
	}
	assert.Equal(t, []int{0, 0, 1, 2, 4, 8, 16, 32, 60, 60, 60, 60, 60}, waits)
	assert.Zero(t, try("teo", "10.0.0.1"))
	a.succeeded("sanna", from{address: "10.0.0.1"})
	assert.Zero(t, try("sanna", "10.0.0.1"))
	guesses := 0
	for end := now.Add(time.Hour); now.Before(end); now = now.Add(100 * time.Millisecond) {
		if try("bevan", "10.0.0.9") == 0 {
			guesses++
		}
	}
	assert.Equal(t, 69, guesses, "in an hour")
}

// A device on which somebody signed in before is not held back by what others guess, and its own
// guesses are counted too; a device of somebody else, or an invented one, helps nobody.
func TestADeviceOfItsOwner(t *testing.T) {
	a := newAttempts()
	for i := range 3 {
		wait, _ := a.wait("mira", from{"10.0.0.1", "hers"}, true)
		require.Zero(t, wait, i)
	}
	a.succeeded("mira", from{"10.0.0.1", "hers"})
	for range limits.FreeFailures {
		_, _ = a.wait("mira", from{"10.0.0.2", ""}, true)
	}
	for device, held := range map[string]bool{"": true, "invented": true, "hers": false} {
		wait, _ := a.wait("mira", from{"10.0.0.1", device}, true)
		assert.Equal(t, held, wait > 0, device)
	}
	for range limits.FreeFailures {
		_, _ = a.wait("mira", from{"10.0.0.1", "hers"}, true)
	}
	wait, _ := a.wait("mira", from{"10.0.0.1", "hers"}, true)
	assert.Positive(t, wait, "guessing on her device")
	wait, _ = a.wait("teo", from{"10.0.0.1", "hers"}, true)
	assert.Zero(t, wait)
}

// A whole school signs in behind one address, also beside a device that invents names: those pay for
// themselves, and nobody else's right password waits.
func TestWaitsOfAnAddress(t *testing.T) {
	a, now := newAttempts(), time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC)
	a.now = func() time.Time { return now }
	at := from{address: "10.0.0.1"}
	for i := range limits.FailedSignIns.AtOnce {
		wait, spent := a.wait(fmt.Sprint("invented", i), at, false)
		require.True(t, wait == 0 && !spent, i)
	}
	_, spent := a.wait("another", at, false)
	assert.True(t, spent)
	for i := range 2000 {
		name := fmt.Sprint("pupil", i)
		wait, spent := a.wait(name, at, true)
		require.True(t, wait == 0 && !spent, i)
		a.succeeded(name, at)
	}
	_, spent = a.wait("another", from{address: "10.0.0.2"}, false)
	assert.False(t, spent, "another address goes on")
	now = now.Add(time.Second)
	_, spent = a.wait("yet-another", at, false)
	assert.False(t, spent)
	assert.Equal(t, 100*time.Millisecond, a.asLong(), "where nothing was measured")
	a.lasted(time.Minute)
	assert.Equal(t, time.Minute, a.asLong())
}

func TestHouseholds(t *testing.T) {
	for address, want := range map[string]string{"192.0.2.7": "192.0.2.7", "::ffff:192.0.2.7": "192.0.2.7", "2001:db8:1:2:3:4:5:6": "2001:db8:1:2::/64",
		"2001:db8:1:2::9": "2001:db8:1:2::/64", "2001:db8:1:3::9": "2001:db8:1:3::/64", "fe80::1%eth0": "fe80::/64", "pipe": "pipe"} {
		assert.Equal(t, want, household(address), address)
	}
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
