//go:build !js

package wording

import "embed"

// What the server alone says: of people and classes, plans, marks, files and itself. The
// page's core does without (page.go).
//
//go:embed messages/*/server.json
var servedFiles embed.FS

var served = []string{"server.json"}
