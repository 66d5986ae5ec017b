package web_test

import (
	"context"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/web"
)

// A password that the administrator made ends the sign-ins that there were, and is
// changed before anything else; a new one ends the others.
func TestOwnPassword(t *testing.T) {
	s := newSchoolAs(t, nil, func(o *web.Options) { o.Demo = false })
	before := s.client("mira")
	require.NoError(t, s.app.People.SetPassword(context.Background(), "mira", "green teapot 9"))
	status, text := s.call(before, "GET", "/api/shelf", nil)
	assert.Equal(t, 401, status, text)

	in := func(password string) *http.Client {
		c := s.client("")
		status, text := s.call(c, "POST", "/api/session", map[string]string{"username": "mira", "password": password})
		require.Equal(t, 200, status, text)
		return c
	}
	mira := in("green teapot 9")
	status, text = s.call(mira, "GET", "/api/shelf", nil)
	assert.Equal(t, 403, status)
	assert.Contains(t, text, "change it")
	_, text = s.call(mira, "GET", "/api/me", nil)
	assert.Contains(t, text, `"mustChange":true`)
	for _, c := range []struct{ old, wanted, says string }{
		{"green teapot 8", "quiet harbour crane", "not your present password"},
		{"green teapot 9", "green teapot 9", "the password that you have"},
		{"green teapot 9", "short", "8"},
		{"green teapot 9", "password1", "guessed first"},
		{"green teapot 9", "Letmein2026!", "guessed first"},
		{"green teapot 9", "my name is Mira", "user name stands in it"},
	} {
		status, text := s.call(mira, "PUT", "/api/me/password", map[string]string{"old": c.old, "new": c.wanted})
		assert.Contains(t, []int{422, 429}, status, c.wanted)
		if status == 422 {
			assert.Contains(t, text, c.says, c.wanted)
		}
	}
	assert.NotContains(t, s.logs.String(), "teapot")
}

func TestChangingThePassword(t *testing.T) {
	s := newSchoolAs(t, nil, func(o *web.Options) { o.Demo = false })
	teo, elsewhere := s.client("teo"), s.client("teo")
	_, text := s.call(teo, "GET", "/api/me/sign-ins", nil)
	assert.Contains(t, text, `"mine":true`)
	status, text := s.call(teo, "PUT", "/api/me/password", map[string]string{"old": "tide-pool", "new": "quiet harbour crane"})
	require.Equal(t, 204, status, text)
	for c, want := range map[*http.Client]int{teo: 200, elsewhere: 401} {
		status, _ := s.call(c, "GET", "/api/shelf", nil)
		assert.Equal(t, want, status)
	}
	again := s.client("")
	status, _ = s.call(again, "POST", "/api/session", map[string]string{"username": "teo", "password": "quiet harbour crane"})
	require.Equal(t, 200, status)
	status, _ = s.call(teo, "DELETE", "/api/me/sign-ins", nil)
	require.Equal(t, 204, status)
	for c, want := range map[*http.Client]int{teo: 200, again: 401} {
		status, _ := s.call(c, "GET", "/api/shelf", nil)
		assert.Equal(t, want, status)
	}
}

// In the demo everyone keeps the published password.
func TestDemoPassword(t *testing.T) {
	s := newSchool(t, nil)
	status, text := s.call(s.client("teo"), "PUT", "/api/me/password", map[string]string{"old": "tide-pool", "new": "quiet harbour crane"})
	assert.Equal(t, 403, status, text)
}
