package view

import (
	"strings"
	"time"

	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/wording"
)

// ImportedTitle is the title of the copy of a practical that was taken in.
func ImportedTitle(title string, style practical.Style) string {
	letters := []rune(title)
	return wording.For(style).Text("import.title", "title", string(letters[:min(len(letters), 100)]))
}

// ImportedNote says in a notebook that it was taken in, from what and whom.
func ImportedNote(people []string, written time.Time, entries int, style practical.Style) string {
	at := ""
	if !written.IsZero() {
		at = written.UTC().Format("2006-01-02 15:04 UTC")
	}
	names := []rune(strings.Join(people, ", "))
	return wording.For(style).Text("import.note", "people", string(names[:min(len(names), 1000)]), "written", at, "count", finding.Count(entries))
}
