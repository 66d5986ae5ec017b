// Package table reads tables of text as people have them: CSV with comma, semicolon or tab,
// in UTF-8, UTF-16 or Windows-1252.
package table

import (
	"bytes"
	"encoding/binary"
	"encoding/csv"
	"errors"
	"io"
	"strings"
	"unicode"
	"unicode/utf16"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"

	"exactflask/core/values/finding"
)

var (
	notText   = finding.Declare("table.not-text")
	badQuotes = finding.Declare("table.quotes", "line")
)

// Record is a line of the file in cells.
type Record struct {
	Line  int // from 1
	Cells []string
}

// Lines are the lines of a text, a cell each, without empty ones.
func Lines(text string) (out []Record) {
	for i, line := range strings.Split(text, "\n") {
		if line = strings.TrimSpace(line); line != "" {
			out = append(out, Record{i + 1, []string{line}})
		}
	}
	return out
}

// Parse reads a text whose columns are separated by a sign; empty lines are left out. It
// reads this many lines at most.
func Parse(text string, separator rune, most int) ([]Record, *finding.Fault) {
	in := csv.NewReader(strings.NewReader(text))
	in.Comma, in.FieldsPerRecord, in.LazyQuotes = separator, -1, false
	var out []Record
	for {
		cells, err := in.Read()
		var wrong *csv.ParseError
		switch {
		case errors.Is(err, io.EOF):
			return out, nil
		case errors.As(err, &wrong):
			return nil, badQuotes.Fault("text", finding.Count(wrong.StartLine))
		case err != nil:
			return nil, notText.Fault("text")
		}
		line, _ := in.FieldPos(0)
		if strings.TrimSpace(strings.Join(cells, "")) != "" {
			out = append(out, Record{line, cells})
		}
		if len(out) >= most {
			return out, nil
		}
	}
}

// SeparatorOf is the sign that stands most often in the first line, and in most of
// the next ones; 0: none.
func SeparatorOf(text string) rune {
	var first []string
	for _, line := range strings.Split(text, "\n") {
		if strings.TrimSpace(line) != "" {
			first = append(first, line)
		}
		if len(first) == 20 {
			break
		}
	}
	var best rune
	most := 0
	for _, sign := range []rune{'\t', ';', ','} {
		with := 0
		for _, line := range first {
			if strings.ContainsRune(line, sign) {
				with++
			}
		}
		if n := strings.Count(first[0], string(sign)); n > most && 2*with > len(first) {
			best, most = sign, n
		}
	}
	return best
}

// Plain is a head in small letters, without anything else.
func Plain(head string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) {
			return unicode.ToLower(r)
		}
		return -1
	}, head)
}

// Decode makes text of a file: UTF-8, UTF-16 with its mark, or Windows-1252. A file
// that holds no text is refused.
func Decode(data []byte) (text, encoding string, fault *finding.Fault) {
	switch {
	case bytes.HasPrefix(data, []byte{0xff, 0xfe}), bytes.HasPrefix(data, []byte{0xfe, 0xff}):
		var order binary.ByteOrder = binary.LittleEndian
		if data[0] == 0xfe {
			order = binary.BigEndian
		}
		units := make([]uint16, 0, len(data)/2)
		for i := 2; i+1 < len(data); i += 2 {
			units = append(units, order.Uint16(data[i:]))
		}
		text, encoding = string(utf16.Decode(units)), "utf-16"
	case utf8.Valid(data):
		text, encoding = strings.TrimPrefix(string(data), "\ufeff"), "utf-8"
	default:
		decoded, err := charmap.Windows1252.NewDecoder().Bytes(data)
		if err != nil {
			return "", "", notText.Fault("text")
		}
		text, encoding = string(decoded), "windows-1252"
	}
	if strings.ContainsRune(text, 0) {
		return "", "", notText.Fault("text")
	}
	return strings.ReplaceAll(strings.ReplaceAll(text, "\r\n", "\n"), "\r", "\n"), encoding, nil
}
