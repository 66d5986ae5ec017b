// Package roster reads lists of people as schools have them: names pasted one to a
// line, or a CSV file with columns in any order.
package roster

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"exactflask/core/values/finding"
	"exactflask/core/values/plaintext"
	"exactflask/formats/table"
)

// MaxRows is how many people a list may have.
const MaxRows = 300

// maxName is the longest name, in characters.
const maxName = 80

var (
	isEmpty   = finding.Declare("roster.empty")
	tooMany   = finding.Declare("roster.too-many", "most", "count")
	noNames   = finding.Declare("roster.no-names")
	noHeads   = finding.Declare("roster.no-heads")
	noName    = finding.Declare("roster.no-name")
	longName  = finding.Declare("roster.long-name", "most")
	isFormula = finding.Declare("roster.formula", "text")
	twice     = finding.Declare("roster.twice", "line")
)

// TooMany is the fault of a list with this many people, none or more than MaxRows.
func TooMany(count int) *finding.Fault {
	if count == 0 {
		return isEmpty.Fault("people")
	}
	return tooMany.Fault("people", finding.Count(MaxRows), finding.Count(count))
}

// Column is what a column holds.
type Column string

// The columns.
const (
	Name     Column = "name"
	First    Column = "first"
	Last     Column = "last"
	Username Column = "username"
	Bench    Column = "bench"
	Burette  Column = "burette"
	Sample   Column = "sample"
	Unused   Column = ""
)

// heads are the usual words at the head of a column, in small letters without
// blanks and dashes (common practice, no source).
var heads = map[Column][]string{
	Name:     {"name", "fullname", "student", "studentname", "pupil", "learner", "displayname", "participant"},
	First:    {"first", "firstname", "givenname", "given", "forename", "forenames", "christianname"},
	Last:     {"last", "lastname", "surname", "familyname", "family", "secondname"},
	Username: {"username", "user", "login", "loginid", "account", "userid"},
	Bench:    {"bench", "place", "seat", "benchnumber"},
	Burette:  {"burette", "buret", "burettenumber"},
	Sample:   {"sample", "unknown", "code", "samplecode"},
}

// Used is a column of the file and what it was taken for.
type Used struct {
	Head string `json:"head"`
	As   Column `json:"as" enum:",name,first,last,username,bench,burette,sample" doc:"empty: it is not used"`
}

// Row is a person of the list. A row with a fault is not to be taken as it is.
type Row struct {
	Line                                   int // in the file, from 1
	Name, Username, Bench, Burette, Sample string
	Fault                                  *finding.Fault
}

// List is a list that was read.
type List struct {
	Rows                []Row
	Columns             []Used
	Separator, Encoding string
}

// Read reads a list: which of comma, semicolon and tab separates its columns, how
// its letters are kept, and what its columns are, is found out. What is wrong with
// one row stands with that row; the fault is about the whole.
func Read(data []byte) (List, *finding.Fault) {
	text, encoding, fault := table.Decode(data)
	if fault != nil {
		return List{}, fault
	}
	if strings.TrimSpace(text) == "" {
		return List{}, isEmpty.Fault("text")
	}
	out := List{Encoding: encoding, Columns: []Used{}}
	separator := table.SeparatorOf(text)
	out.Separator = map[rune]string{',': "comma", ';': "semicolon", '\t': "tab"}[separator]
	var records []table.Record
	if separator == 0 {
		records = table.Lines(text)
	} else if records, fault = table.Parse(text, separator, MaxRows+2); fault != nil {
		return List{}, fault
	}
	if separator == ',' && looksLikeNames(records) {
		out.Separator, records = "", turned(table.Lines(text)) // "Quillon, Mira": one name to a line
	}
	if out.Separator == "" && len(records) > 0 && columnOf(records[0].Cells[0]) == Name {
		records = records[1:] // a head over the names
	}
	if len(records) > MaxRows+1 {
		return List{}, tooMany.Fault("text", finding.Count(MaxRows), finding.Count(len(records)))
	}
	return out, out.fill(records)
}

// turned puts "Quillon, Mira" in order.
func turned(in []table.Record) []table.Record {
	for i, r := range in {
		if last, first, ok := strings.Cut(r.Cells[0], ","); ok {
			in[i].Cells[0] = strings.TrimSpace(first) + " " + strings.TrimSpace(last)
		}
	}
	return in
}

// looksLikeNames tells a list of "Last, First" from a file with two columns: no head
// is there, and each line has one comma with a blank and a word behind it.
func looksLikeNames(records []table.Record) bool {
	for i, r := range records {
		if len(r.Cells) != 2 || !strings.HasPrefix(r.Cells[1], " ") || strings.IndexFunc(r.Cells[1], unicode.IsLetter) < 0 ||
			i == 0 && columnOf(r.Cells[0]) != Unused {
			return false
		}
	}
	return len(records) > 0
}

func columnOf(head string) Column {
	plain := table.Plain(head)
	for column, words := range heads {
		for _, w := range words {
			if plain == w {
				return column
			}
		}
	}
	return Unused
}

// fill makes people of records: by their heads, or, where there are none, the one
// column that has letters is the name.
func (l *List) fill(records []table.Record) *finding.Fault {
	if len(records) == 0 {
		return isEmpty.Fault("text")
	}
	var columns []Column
	for _, head := range records[0].Cells {
		columns = append(columns, columnOf(head))
	}
	headed := has(columns, Name) || has(columns, First) || has(columns, Last)
	switch {
	case headed:
		for i, head := range records[0].Cells {
			l.Columns = append(l.Columns, Used{strings.TrimSpace(plaintext.Clean(head)), columns[i]})
		}
		records = records[1:]
	case has(columns, Username) || has(columns, Bench):
		return noNames.Fault("text")
	default:
		columns = make([]Column, len(records[0].Cells))
		words := 0
		for i, cell := range records[0].Cells {
			if strings.IndexFunc(cell, unicode.IsLetter) >= 0 {
				columns[i] = Name
				words++
			}
		}
		switch { // two columns of words could be first and last name, or a name and a class
		case words == 0:
			return noNames.Fault("text")
		case words > 1:
			return noHeads.Fault("text")
		}
		for _, c := range columns {
			l.Columns = append(l.Columns, Used{"", c})
		}
	}
	if len(records) == 0 {
		return isEmpty.Fault("text")
	}
	if len(records) > MaxRows {
		return tooMany.Fault("text", finding.Count(MaxRows), finding.Count(len(records)))
	}
	seen := map[string]int{}
	for _, r := range records {
		row := rowOf(r, columns)
		key := strings.ToLower(row.Name + "\t" + row.Username)
		if before, there := seen[key]; there && row.Fault == nil {
			row.Fault = twice.Fault("name", finding.Count(before))
		}
		seen[key] = row.Line
		l.Rows = append(l.Rows, row)
	}
	return nil
}

func has(columns []Column, wanted Column) bool {
	for _, c := range columns {
		if c == wanted {
			return true
		}
	}
	return false
}

func rowOf(r table.Record, columns []Column) Row {
	out := Row{Line: r.Line}
	var first, last string
	for i, cell := range r.Cells {
		if i >= len(columns) {
			break
		}
		cell = strings.Join(strings.Fields(plaintext.Clean(cell)), " ")
		if columns[i] != Unused && strings.ContainsAny(cell[:min(1, len(cell))], "=+@") {
			out.Fault = isFormula.Fault(string(columns[i]), finding.Text(clip(cell)))
		}
		switch columns[i] {
		case Name:
			out.Name = cell
		case First:
			first = cell
		case Last:
			last = cell
		case Username:
			out.Username = cell
		case Bench:
			out.Bench = clip(cell)
		case Burette:
			out.Burette = clip(cell)
		case Sample:
			out.Sample = clip(cell)
		}
	}
	if out.Name == "" {
		out.Name = strings.TrimSpace(first + " " + last)
	}
	switch n := utf8.RuneCountInString(out.Name); {
	case out.Fault != nil:
	case strings.IndexFunc(out.Name, unicode.IsLetter) < 0:
		out.Fault = noName.Fault("name")
	case n > maxName:
		out.Name, out.Fault = string([]rune(out.Name)[:maxName]), longName.Fault("name", finding.Count(maxName))
	}
	return out
}

// clip shortens what stands in a cell to what a place may be.
func clip(cell string) string {
	if r := []rune(cell); len(r) > 20 {
		return string(r[:20])
	}
	return cell
}
