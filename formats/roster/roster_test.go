package roster_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/values/finding"
	"exactflask/formats/roster"
)

// Lists as schools have them, and what is understood of each.
func TestRead(t *testing.T) {
	for _, c := range []struct {
		name, text, separator, encoding string
		want                            []string // name | username | bench | code of what is wrong
	}{
		{"names", "Mira Quillon\n\n  Teodor   Vask \r\n", "", "utf-8", []string{"Mira Quillon|||", "Teodor Vask|||"}},
		{"names under a head", "Name\nMira Quillon", "", "utf-8", []string{"Mira Quillon|||"}},
		{"last name first", "Quillon, Mira\nVask, Teodor", "", "utf-8", []string{"Mira Quillon|||", "Teodor Vask|||"}},
		{"any order of columns", "Bench,Surname,First name,E-mail\n3,Quillon,Mira,m@x\n4,Vask,Teodor,t@x", "comma", "utf-8",
			[]string{"Mira Quillon||3|", "Teodor Vask||4|"}},
		{"semicolons, quoted", "Student;User name;Seat\n\"Quillon; Mira\";mira;1\nTeodor Vask;teo;2", "semicolon", "utf-8",
			[]string{"Quillon; Mira|mira|1|", "Teodor Vask|teo|2|"}},
		{"tabs, no heads", "1\tMira Quillon\n2\tTeodor Vask", "tab", "utf-8", []string{"Mira Quillon|||", "Teodor Vask|||"}},
		{"a name and a bench, with a blank", "Mira Quillon, 3\nTeodor Vask, 4", "comma", "utf-8", []string{"Mira Quillon|||", "Teodor Vask|||"}},
		{"Windows-1252", "Name,Bench\nJos\xe9 Mu\xf1oz,1", "comma", "windows-1252", []string{"José Muñoz||1|"}},
		{"UTF-16", "\xff\xfeA\x00n\x00n\x00a\x00", "", "utf-16", []string{"Anna|||"}},
		{"a mark before UTF-8", "\xef\xbb\xbfName\nAnna", "", "utf-8", []string{"Anna|||"}},
		{"a formula", "Name,Bench\n=HYPERLINK(1),1\nAnna,2", "comma", "utf-8", []string{"=HYPERLINK(1)||1|roster.formula", "Anna||2|"}},
		{"no name in a row", "Name,Bench\n,1\n42,2", "comma", "utf-8", []string{"||1|roster.no-name", "42||2|roster.no-name"}},
		{"a name without end", "Name\n" + strings.Repeat("a", 100), "", "utf-8", []string{strings.Repeat("a", 80) + "|||roster.long-name"}},
		{"the same twice", "Anna Bell\nanna bell\nAnna Bel", "", "utf-8", []string{"Anna Bell|||", "anna bell|||roster.twice", "Anna Bel|||"}},
		{"what does not show", "An\u202ena\u200b Bell", "", "utf-8", []string{"Anna Bell|||"}},
		{"rows of different length", "Name,Bench\nAnna\nBea,2,3,4", "comma", "utf-8", []string{"Anna|||", "Bea||2|"}},
	} {
		got, fault := roster.Read([]byte(c.text))
		require.Nil(t, fault, c.name)
		var rows []string
		for _, r := range got.Rows {
			code := ""
			if r.Fault != nil {
				code = r.Fault.Code
			}
			rows = append(rows, strings.Join([]string{r.Name, r.Username, r.Bench, code}, "|"))
		}
		assert.Equal(t, c.want, rows, c.name)
		assert.Equal(t, []string{c.separator, c.encoding}, []string{got.Separator, got.Encoding}, c.name)
	}
}

// What is no list is refused as a whole, and says why.
func TestNoList(t *testing.T) {
	many := strings.Repeat("Anna Bell,1\n", 5_000)
	for want, text := range map[string]string{
		"roster.empty":    " \n\n",
		"table.not-text":  "PK\x03\x04\x00\x00",
		"table.quotes":    "Name,Bench\nAnna,1\n\"Bea,2\nCara,3",
		"roster.no-names": "Bench,User name\n1,anna",
		"roster.no-heads": "Quillon;Mira;3\nVask;Teodor;4",
		"roster.too-many": many,
	} {
		_, fault := roster.Read([]byte(text))
		if assert.NotNil(t, fault, want) {
			assert.Equal(t, want, fault.Code)
		}
	}
	_, fault := roster.Read([]byte("Name,Bench\n"))
	assert.ErrorIs(t, fault, finding.Declare("roster.empty").Fault(""))
}

func FuzzRead(f *testing.F) {
	for _, text := range []string{"Name;Bench\nAnna;1", "Quillon, Mira", "\xff\xfeA\x00", "a\t\"b\n", ",,,\n", "Name\n=1"} {
		f.Add([]byte(text))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		got, fault := roster.Read(data)
		if fault != nil {
			return
		}
		require.LessOrEqual(t, len(got.Rows), roster.MaxRows)
		for i, r := range got.Rows {
			require.True(t, r.Fault != nil || strings.TrimSpace(r.Name) != "", fmt.Sprint(i))
		}
	})
}
