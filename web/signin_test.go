package web_test

import (
	"fmt"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/demo"
)

// One device behind the address of a school invents names and asks for what it may not, as fast as it
// can. A class signs in beside it with right passwords, all of it, at once; what is wrong is said to be
// wrong, and no sooner for names that nobody has.
func TestAClassSignsInBesideAnAttack(t *testing.T) {
	s := newSchool(t, nil)
	nobody := s.client("")
	held := 0
	for i := range 1300 {
		if status, _ := s.call(nobody, "GET", "/api/shelf", nil); status == 429 {
			held++
		}
		if i%5 == 0 {
			status, _ := s.call(nobody, "POST", "/api/session", map[string]string{"username": fmt.Sprint("invented", i), "password": "wrong-password"})
			require.Equal(t, 401, status, i)
		}
	}
	require.Positive(t, held, "what is asked by nobody is limited")
	stop, attack := make(chan struct{}), sync.WaitGroup{}
	attack.Go(func() {
		for i := 0; ; i++ {
			select {
			case <-stop:
				return
			default:
				s.call(nobody, "POST", "/api/session", map[string]string{"username": fmt.Sprint("more", i), "password": "wrong-password"})
			}
		}
	})
	began := time.Now()
	var class sync.WaitGroup
	for _, name := range []string{"mira", "teo", "anouk", "jory", "sanna", "bevan", "farrow"} {
		for range 5 { // each on several devices, as many as a class is
			class.Go(func() {
				c := s.client("")
				status, text := s.call(c, "POST", "/api/session", map[string]string{"username": name, "password": demo.Password})
				assert.Equal(t, 200, status, "%s: %s", name, text)
			})
		}
	}
	class.Wait()
	close(stop)
	attack.Wait()
	t.Logf("35 signed in within %v", time.Since(began).Round(time.Millisecond))
	status, _ := s.call(s.client(""), "POST", "/api/session", map[string]string{"username": "mira", "password": "wrong-password"})
	assert.Equal(t, 401, status)
	status, _ = s.call(s.client(""), "GET", "/api/about", nil)
	assert.Equal(t, 200, status, "the page before")
}
