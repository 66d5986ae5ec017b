//go:build js

package device_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/wording"
)

// Whatever the core in the page can find has its text there.
func TestEveryCodeOfThePageHasItsText(t *testing.T) {
	said := wording.English.Messages()
	for code := range wording.Codes() {
		if !wording.Optional(code) {
			assert.Contains(t, said, code)
		}
	}
	assert.Greater(t, len(said), 900)
}
