// Package files writes a report as files: PDF, spreadsheet, CSV, and an archive of all of
// it; and reads an archive back. Everything is written the same, byte for byte, whenever
// the same report is written again.
package files

import (
	"time"

	"exactflask/core/model/derivation"
	"exactflask/core/values/decimal"
	"exactflask/formats"
	"exactflask/view"
)

// Report is everything that a report's files are made of, as its reader may see it.
type Report struct {
	view.Report
	// Derivation is the working, nil where there is none or it is withheld; Origins are
	// the names of its figures by the ids of its nodes.
	Derivation *derivation.Derivation
	Document   formats.Document // as an open file
	Pictures   []Picture        // in the order of the report
	Marks      *Marks           // nil until they are released
	Made       time.Time        // the moment that is written into the files: of the record, not of the clock
}

// Marks are those of a report, released.
type Marks struct {
	Lines           []view.MarkLine
	Total, Possible decimal.Decimal
}

// Picture is a picture of the report.
type Picture struct {
	Hash, Caption string
	Kind          string // image/jpeg or image/png
	Content       []byte
}
