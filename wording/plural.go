package wording

// plurals choose the form of a message by a count, by language: the cardinal rules of
// the Unicode CLDR for whole numbers (English: one for 1, else other; from memory, and the
// same that golang.org/x/text says, which stood here before). The tables of the library hold two hundred languages, and weigh
// more than the rest of this package on a bench's phone.
var plurals = map[string]func(n int) string{
	"en": func(n int) string {
		if n == 1 {
			return "one"
		}
		return other
	},
}
