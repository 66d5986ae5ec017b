package people

import (
	"context"
	"fmt"
	"strings"
	"unicode"

	"golang.org/x/text/unicode/norm"
)

// Letters that are no letter of the user names with a mark on it, as they are
// usually written where they cannot be typed (common practice, no source).
var spelt = strings.NewReplacer("ß", "ss", "æ", "ae", "œ", "oe", "ø", "o", "ł", "l", "đ", "d", "ð", "d", "þ", "th", "ı", "i", "ħ", "h")

// usernameOf makes a user name of a name: first and last part, in small letters
// without their marks. Names in other scripts become "student".
func usernameOf(name string) string {
	parts := strings.FieldsFunc(spelt.Replace(strings.ToLower(name)), func(r rune) bool { return unicode.IsSpace(r) || r == ',' })
	var kept []string
	for _, part := range parts {
		plain := strings.Map(func(r rune) rune {
			if r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r == '-' {
				return r
			}
			return -1
		}, norm.NFKD.String(part))
		if plain = strings.Trim(plain, "-"); plain != "" {
			kept = append(kept, plain)
		}
	}
	if len(kept) > 2 {
		kept = []string{kept[0], kept[len(kept)-1]}
	}
	out := strings.Join(kept, ".")
	if len(out) > 36 { // room for a number
		out = strings.TrimRight(out[:36], ".-")
	}
	if len(out) < 2 {
		return "student"
	}
	return out
}

// FreeUsername is a user name of a name that is not taken; it is taken then.
func FreeUsername(name string, taken map[string]bool) string {
	base := usernameOf(name)
	out := base
	for n := 2; taken[out]; n++ {
		out = fmt.Sprint(base, n)
	}
	taken[out] = true
	return out
}

// Taken are the user names that are.
func (a *People) Taken(ctx context.Context) (map[string]bool, error) {
	all, err := a.Store.Read().Usernames(ctx)
	if err != nil {
		return nil, fmt.Errorf("reading user names: %w", err)
	}
	out := make(map[string]bool, len(all))
	for _, name := range all {
		out[strings.ToLower(name)] = true
	}
	return out, nil
}
