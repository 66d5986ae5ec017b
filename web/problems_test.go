package web

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/app/people"
	"exactflask/core/record/practical"
	"exactflask/store"
)

// Every error has a sentence for a person, and what is not known is in the log under
// the reference that the sentence gives.
func TestErrorsAreSaid(t *testing.T) {
	for _, c := range []struct {
		err    error
		status int
		says   string
		logged bool
	}{
		{people.ErrSignIn, 401, "is wrong", false},
		{access.ErrNotFound, 404, "not yours to see", false},
		{access.ErrForbidden, 403, "not for your role", false},
		{store.ErrFull, 507, "disk is full", true},
		{fmt.Errorf("reading: %w", store.ErrDamaged), 500, "cannot read a part of its data file", true},
		{store.ErrReadOnly, 500, "cannot write to its data file", true},
		{store.ErrUnreadable, 500, "cannot be shown", true},
		{errors.Join(bench.ErrKept, errors.New("odd")), 500, "What you sent was kept", true},
		{errors.Join(bench.ErrKept, context.Canceled), 500, "What you sent was kept", true},
		{context.Canceled, 499, "went away", false},
		{errors.New("no such table: secrets"), 500, "Something went wrong on the server", true},
	} {
		var log bytes.Buffer
		s := &server{options: Options{Log: slog.New(slog.NewJSONHandler(&log, nil))}}
		var told *huma.ErrorModel
		require.ErrorAs(t, s.problemOf(practical.Style{}, c.err), &told)
		assert.Equal(t, c.status, told.Status, c.err)
		assert.Contains(t, told.Detail, c.says)
		assert.NotContains(t, told.Detail, "secrets", "only the log has it")
		assert.Equal(t, c.logged, log.Len() > 0, "%s: %s", c.err, log.String())
	}
}

// What follows a problem that was written on the way is dropped.
func TestOneAnswer(t *testing.T) {
	w := httptest.NewRecorder()
	answeredOnce(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		problem(w, 507, diskFull.Message())
		w.(*single).ended = true
		w.WriteHeader(200)
		_, err := io.WriteString(w, `{"more":true}`)
		assert.NoError(t, err)
	})).ServeHTTP(w, httptest.NewRequest("POST", "/", nil))
	assert.Equal(t, 507, w.Code)
	assert.NotContains(t, w.Body.String(), "more")
}

func TestStreamsOfAPerson(t *testing.T) {
	var s streams
	for range maxStreams {
		assert.True(t, s.begin("mine"))
	}
	assert.False(t, s.begin("mine"))
	assert.True(t, s.begin("another"))
	s.end("mine")
	assert.True(t, s.begin("mine"))
}
