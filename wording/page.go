//go:build js

package wording

import "embed"

// The page's core says nothing of what the server alone says (server.go); a test of package
// device finds a code without its text.
var (
	servedFiles embed.FS
	served      []string
)
