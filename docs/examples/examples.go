// Package examples holds worked practicals as open files, one for each kind of
// titration. The demo and the tests read them.
package examples

import "embed"

// Files are the documents by name, such as shell-chalk.json.
//
//go:embed *.json
var Files embed.FS
