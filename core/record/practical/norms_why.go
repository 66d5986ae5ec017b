//go:build !js

package practical

import "exactflask/core/values/finding"

// What the editor says of norms; the page's core has no editor.
var (
	NormWhy    = finding.Family("norm.why.", names)         // what each changes
	NormsAbout = finding.Family("norms.about.", NormGroups) // what a group is about
)
