package web_test

import (
	"encoding/json"
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A page says for whom it asks: where the session is another's by now, nothing is
// read and nothing written, and the problem is the program's own.
func TestThePageAsksForSomebody(t *testing.T) {
	s := newSchool(t, nil)
	c := s.client("mira")
	_, text := s.call(c, "GET", "/api/me", nil)
	var me struct{ Person struct{ ID string } }
	require.NoError(t, json.Unmarshal([]byte(text), &me))
	n := s.notebook(c, "buffer-dosing")
	for as, want := range map[string]int{me.Person.ID: 200, "somebody-else": 409, "": 200} {
		for _, path := range []string{"/api/shelf", "/api/notebooks/" + n.ID} {
			r, err := http.NewRequest(http.MethodGet, s.url+path, nil)
			require.NoError(t, err)
			r.Header.Set("Exactflask-Person", as)
			res, err := c.Do(r)
			require.NoError(t, err)
			assert.Equal(t, want, res.StatusCode, "%s as %q", path, as)
			if want == 409 {
				var problem struct{ Type string }
				require.NoError(t, json.NewDecoder(res.Body).Decode(&problem))
				assert.Equal(t, "urn:exactflask:web.other-person", problem.Type)
			}
			require.NoError(t, res.Body.Close())
		}
	}
	status, _ := s.call(c, "GET", "/api/notebooks/"+n.ID+"/events?person=somebody-else", nil)
	assert.Equal(t, 409, status)
}

// What is begun without the network keeps its id, unless that is another's; what is
// blank says what a begun one would, and writes nothing.
func TestBegunWithoutTheNetwork(t *testing.T) {
	s := newSchool(t, nil)
	mira, jory := s.client("mira"), s.client("jory")
	path := "/api/classes/" + s.class + "/practicals/descaler/notebook"
	status, text := s.call(jory, "GET", path, nil)
	require.Equal(t, 200, status, text)
	assert.Contains(t, text, `"id":""`)
	_, shelf := s.call(jory, "GET", "/api/shelf", nil)
	assert.NotContains(t, shelf[strings.Index(shelf, `"practical":"descaler"`):], `"id":"0`)
	begin := func(c *http.Client, id string) string {
		status, text := s.call(c, "POST", path, map[string]string{"id": id})
		require.Equal(t, 200, status, text)
		var n struct{ ID string }
		require.NoError(t, json.Unmarshal([]byte(text), &n))
		return n.ID
	}
	wanted := uuid.Must(uuid.NewV7()).String()
	assert.Equal(t, wanted, begin(jory, wanted))
	assert.Equal(t, wanted, begin(jory, uuid.NewString()), "begun once")
	assert.NotEqual(t, wanted, begin(mira, wanted), "another's")
	status, text = s.call(mira, "POST", path, map[string]string{"id": "no uuid"})
	assert.Equal(t, 422, status, text)
	assert.Contains(t, text, `"type":"urn:exactflask:web.not-taken"`)
}

// The page of somebody who has a session has its head at once and asks who they are; for
// nobody it does neither.
func TestHeadOfThePage(t *testing.T) {
	s := newSchool(t, nil)
	status, page := s.call(s.client(""), "GET", "/shelf", nil)
	if status == 404 {
		t.Skip("the front end is not built in")
	}
	_, known := s.call(s.client("mira"), "GET", "/shelf", nil)
	for _, of := range []string{`<link rel="preload" href="/api/me" as="fetch"`, `src="/assets/early-`, "<header"} {
		assert.Contains(t, known, of)
		assert.NotContains(t, outOfComments.ReplaceAllString(page, ""), of)
	}
	assert.NotContains(t, known, "known-->")
	assert.NotContains(t, known, "Mira", "who it is only the API says")
}

var outOfComments = regexp.MustCompile(`(?s)<!--.*?-->`)
