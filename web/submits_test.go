package web

import (
	"bytes"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

// What is remembered of submits has its limits: so many, so many bytes, so long; what goes is the oldest.
func TestSubmitsAreForgotten(t *testing.T) {
	now := time.Now()
	known := func(s *submits, key string, at time.Time) bool {
		_, there := s.begin(key, at)
		return there
	}
	taken := func(s *submits, key string, size int, at time.Time) {
		of, _ := s.begin(key, at)
		s.end(of, 200, "", bytes.Repeat([]byte("x"), size), at)
	}
	for name, c := range map[string]struct {
		fill func(s *submits)
		at   time.Time
		want bool
	}{
		"a moment before its time is over": {func(*submits) {}, now.Add(keptFor - 1), true},
		"its time is over":                 {func(*submits) {}, now.Add(keptFor), false},
		"as many as are kept": {func(s *submits) {
			for i := range keptSubmits - 1 {
				taken(s, fmt.Sprint(i), 0, now)
			}
		}, now, true},
		"one more": {func(s *submits) {
			for i := range keptSubmits {
				taken(s, fmt.Sprint(i), 0, now)
			}
		}, now, false},
		"as many bytes": {func(s *submits) {
			for i := range keptBytes/largestKept - 1 {
				taken(s, fmt.Sprint(i), largestKept, now)
			}
			taken(s, "rest", largestKept-10, now)
		}, now, true},
		"a byte more": {func(s *submits) {
			for i := range keptBytes/largestKept - 1 {
				taken(s, fmt.Sprint(i), largestKept, now)
			}
			taken(s, "rest", largestKept-9, now)
		}, now, false},
	} {
		var s submits
		taken(&s, "mine", 10, now)
		c.fill(&s)
		assert.Equal(t, c.want, known(&s, "mine", c.at), name)
	}
	var s submits
	taken(&s, "large", largestKept+1, now)
	assert.False(t, known(&s, "large", now), "it cannot be given again")
	of, _ := s.begin("refused", now)
	s.end(of, 422, "", nil, now)
	assert.False(t, known(&s, "refused", now), "it was not taken")
}
