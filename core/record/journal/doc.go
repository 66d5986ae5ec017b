// Package journal is the notebook in ink. Entries are only ever added; Fold
// says what they add up to.
//
// Entries merge by union: whatever order they arrive in, and however often,
// Fold sorts them by logical clock, device and id and finds the same trials.
//
// An Entry is an envelope with one Part. What a kind of part holds, how it is
// checked, what a correction of it replaces, what it refers to, how it is said
// and where it stands when the notebook is folded is told in the file of that
// kind, and nowhere else.
package journal
