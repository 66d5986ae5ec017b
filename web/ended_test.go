package web_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/journal"
	"exactflask/web"
)

// Who may not read any more hears nothing more of an open stream: it ends with the next thing that there is to tell.
func TestStreamsEndWithTheirPeopleAtOnce(t *testing.T) {
	for name, ends := range map[string]func(s *school, teo *http.Client, id string){
		"signed out here": func(s *school, teo *http.Client, _ string) { want[any](s, teo, 204, "DELETE", "/session", nil) },
		"signed out elsewhere": func(s *school, _ *http.Client, _ string) {
			want[any](s, s.client("teo"), 204, "DELETE", "/me/sign-ins", nil)
		},
		"a new password": func(s *school, _ *http.Client, _ string) {
			want[any](s, s.client("farrow"), 200, "POST", "/classes/"+s.class+"/passwords", map[string][]string{"people": {s.personID("teo")}})
		},
		"no partner any more": func(s *school, _ *http.Client, id string) {
			want[any](s, s.client("mira"), 200, "DELETE", "/notebooks/"+id+"/partners?name=Teodor%20Vask", nil)
		},
		"taken out of the class": func(s *school, _ *http.Client, _ string) {
			want[any](s, s.client("farrow"), 200, "DELETE", "/classes/"+s.class+"/people/"+s.personID("teo"), nil)
		},
		"taken out for good": func(s *school, _ *http.Client, _ string) {
			want[any](s, s.client("hale"), 204, "DELETE", "/people/"+s.personID("teo"), nil)
		},
	} {
		t.Run(name, func(t *testing.T) {
			s := newSchoolAs(t, nil, func(o *web.Options) { o.Demo = false })
			mira := s.client("mira")
			id := s.notebook(mira, "buffer-dosing").ID
			want[any](s, mira, 200, "POST", "/notebooks/"+id+"/partners", map[string]string{"username": "teo"})
			teo := s.client("teo")
			jar := *teo // the cookie that the stream was opened with
			heard := s.hear(&jar, "/api/notebooks/"+id+"/events", "change")
			s.add(mira, id, run("before-it", 300, journal.Accurate, "0.00", "23.85"))
			select {
			case _, ok := <-heard:
				require.True(t, ok)
			case <-time.After(10 * time.Second):
				require.FailNow(t, "nothing was told")
			}
			ends(s, teo, id)
			s.add(mira, id, run("after-it", 400, journal.Accurate, "0.00", "23.90"))
			select {
			case told, ok := <-heard:
				assert.False(t, ok, "told: %s", told)
			case <-time.After(10 * time.Second):
				assert.Fail(t, "it goes on")
			}
		})
	}
}
