package web_test

import (
	"errors"
	"fmt"
	"io"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"
	"testing/iotest"

	"github.com/stretchr/testify/assert"
)

// Who goes away in the middle of what they send is no fault of the server's.
func TestACallerWhoBreaksOff(t *testing.T) {
	s := newSchool(t, io.Discard)
	w := httptest.NewRecorder()
	r := httptest.NewRequest("POST", "/api/session", iotest.ErrReader(errors.New("cut")))
	r.Header.Set("Content-Type", "application/json")
	s.handler.ServeHTTP(w, r)
	assert.Equal(t, 499, w.Code, w.Body.String())
	assert.Contains(t, w.Body.String(), "went away")
}

// One submit that comes twenty times, all at once, is taken once; another one and another person's are their own.
func TestSubmitsAtOnce(t *testing.T) {
	s := newSchool(t, io.Discard)
	farrow := s.client("farrow")
	notice := func(text, id string) {
		status, answer, _ := s.submit(farrow, "POST", "/api/classes/"+s.class+"/notices", map[string]string{"text": text}, id)
		assert.Less(t, status, 300, answer)
	}
	var all sync.WaitGroup
	for range 20 {
		all.Go(func() { notice("goggles on", "first submit") })
	}
	all.Wait()
	notice("goggles on", "second submit")
	_, page := s.call(farrow, "GET", "/api/classes/"+s.class, nil)
	assert.Equal(t, 2, strings.Count(page, "goggles on"))
}

// A long answer is given again as well: nobody of a class is added twice because its slips were lost on the way.
func TestALongAnswerIsGivenAgain(t *testing.T) {
	s := newSchool(t, io.Discard)
	farrow := s.client("farrow")
	var all []map[string]string
	for i := range 300 {
		all = append(all, map[string]string{"name": fmt.Sprintf("Student Number %d of a long list", i)})
	}
	var slips [2]string
	for i := range slips {
		status, answer, again := s.submit(farrow, "POST", "/api/classes/"+s.class+"/people", map[string]any{"people": all}, "the whole list")
		assert.Equal(t, 200, status)
		assert.Equal(t, i == 1, again)
		slips[i] = answer
	}
	assert.Greater(t, len(slips[0]), 16_000)
	assert.Equal(t, slips[0], slips[1])
	_, page := s.call(farrow, "GET", "/api/classes/"+s.class, nil)
	assert.Equal(t, 1, strings.Count(page, "Student Number 7 of a long list"))
}
