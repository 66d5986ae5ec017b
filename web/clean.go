package web

import (
	"bytes"
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"slices"
	"strings"

	"exactflask/core/values/finding"
	"exactflask/core/values/plaintext"
)

var bodyTooLarge = finding.Declare("web.body-too-large", "most")

// cleaned takes out of what is sent the characters that do not show (plaintext.Clean),
// in every text of the body at once. Passwords stay as they are.
func (s *server) cleaned(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Body == nil || r.Method == http.MethodGet || withPassword(r.URL.Path) {
			next.ServeHTTP(w, r)
			return
		}
		most := int64(MaxBody)
		if strings.HasSuffix(r.URL.Path, "/imports") && s.sessions.GetString(r.Context(), keySignIn) != "" {
			most = MaxImport
		}
		body, err := io.ReadAll(http.MaxBytesReader(w, r.Body, most))
		var large *http.MaxBytesError
		if errors.As(err, &large) {
			problem(w, http.StatusRequestEntityTooLarge, bodyTooLarge.Message(finding.Count(int(most>>20))))
			return
		}
		if err == nil && suspicious(body) {
			body = cleanJSON(body)
		}
		r.Body = io.NopCloser(io.MultiReader(bytes.NewReader(body), failing{err}))
		r.ContentLength = int64(len(body))
		next.ServeHTTP(w, r)
	})
}

// withPassword tells whether a password is sent to a path. What else is sent there
// is cleaned where it is checked.
func withPassword(path string) bool {
	return slices.Contains([]string{"session", "password", "join", "setup"}, path[strings.LastIndexByte(path, '/')+1:])
}

// failing is a reader of an error; of the end where there is none.
type failing struct{ err error }

func (f failing) Read([]byte) (int, error) {
	if f.err != nil {
		return 0, f.err
	}
	return 0, io.EOF
}

// suspicious tells whether a body could hold anything to be cleaned: nearly all are
// printable ASCII without such escapes.
func suspicious(body []byte) bool {
	return bytes.ContainsFunc(body, func(r rune) bool { return r > '~' }) || bytes.Contains(body, []byte(`\u`)) ||
		bytes.Contains(body, []byte(`\b`)) || bytes.Contains(body, []byte(`\f`)) || bytes.Contains(body, []byte(`\r`))
}

// cleanJSON cleans every text of a JSON document; what is none stays as it is, and is
// refused where it is read.
func cleanJSON(body []byte) []byte {
	read := json.NewDecoder(bytes.NewReader(body))
	read.UseNumber()
	var tree any
	if read.Decode(&tree) != nil || read.More() {
		return body
	}
	out, err := json.Marshal(cleanTree(tree))
	if err != nil {
		return body
	}
	return out
}

func cleanTree(tree any) any {
	switch v := tree.(type) {
	case string:
		return plaintext.Clean(v)
	case []any:
		for i := range v {
			v[i] = cleanTree(v[i])
		}
	case map[string]any:
		for k := range v {
			v[k] = cleanTree(v[k])
		}
	}
	return tree
}
