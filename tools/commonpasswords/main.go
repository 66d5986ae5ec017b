// Command commonpasswords writes app/people/common-passwords.bin from a list of passwords, one
// a line, the likeliest first (any published frequency list; the one that ships is the
// list of the zxcvbn library, 7,141 passwords, as its Go port has it). Those of six
// letters or more are kept, as the first eight bytes of their SHA-256, sorted: so that
// nobody has to read them.
package main

import (
	"bufio"
	"bytes"
	"log"
	"os"
	"slices"
	"strings"

	"exactflask/app/people"
)

func main() {
	seen := map[[8]byte]bool{}
	for lines := bufio.NewScanner(os.Stdin); lines.Scan(); {
		if word := strings.ToLower(strings.TrimSpace(lines.Text())); len(word) >= 6 {
			seen[people.PasswordPrint(word)] = true
		}
	}
	prints := make([][]byte, 0, len(seen))
	for p := range seen {
		prints = append(prints, p[:])
	}
	slices.SortFunc(prints, bytes.Compare)
	if err := os.WriteFile("app/people/common-passwords.bin", bytes.Join(prints, nil), 0o644); err != nil {
		log.Fatal("commonpasswords: ", err)
	}
}
