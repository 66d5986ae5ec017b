package files

import (
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"

	"github.com/xuri/excelize/v2"

	"exactflask/core/model/derivation"
	"exactflask/core/values/decimal"
	"exactflask/wording"
)

// XLSX writes the report as a workbook: the readings with titres as formulas of them, and
// the whole working with every figure as a formula of the ones before, down to the
// answer. A spreadsheet that recalculates finds the same figures.
func XLSX(to io.Writer, r Report) error {
	f := excelize.NewFile()
	defer f.Close()
	w := wording.For(r.Style)
	b := &book{f: f, r: r, w: w, readings: map[string]figureAt{}, table: w.Text("file.readings"), figures: w.Text("file.working"), said: w.Text("file.report")}
	if err := f.SetSheetName("Sheet1", b.table); err != nil {
		return err
	}
	stamp := r.Made.UTC().Format("2006-01-02T15:04:05Z")
	if err := f.SetDocProps(&excelize.DocProperties{Title: r.Title, Creator: r.Student, Created: stamp, Modified: stamp, Language: "en"}); err != nil {
		return err
	}
	var err error
	if b.bold, err = f.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}}); err != nil {
		return err
	}
	b.trials()
	if r.Derivation != nil {
		b.working(*r.Derivation)
	}
	b.points()
	b.corrections()
	b.texts()
	if b.err != nil {
		return fmt.Errorf("writing a workbook: %w", b.err)
	}
	return writeBook(to, f)
}

// book is a workbook being written; the first error stays.
type book struct {
	f    *excelize.File
	r    Report
	w    wording.Writer
	bold int
	err  error
	// The names of the three sheets.
	table, figures, said string
	// readings are the cells of the table by trial and column.
	readings map[string]figureAt
}

func (b *book) do(err error) {
	if b.err == nil {
		b.err = err
	}
}

func cell(column, row int) string {
	name, _ := excelize.CoordinatesToCellName(column, row) // within what a sheet holds
	return name
}

func (b *book) text(sheet, at, text string) { b.do(b.f.SetCellStr(sheet, at, text)) }

func (b *book) head(sheet string, row int, heads ...string) {
	for i, h := range heads {
		b.text(sheet, cell(i+1, row), h)
	}
	b.do(b.f.SetCellStyle(sheet, cell(1, row), cell(len(heads), row), b.bold))
}

// number writes a figure with the decimals that it was written with.
func (b *book) number(sheet, at string, v decimal.Decimal) {
	b.do(b.f.SetCellFloat(sheet, at, v.Float64(), -1, 64))
	b.decimals(sheet, at, v.Places())
}

func (b *book) decimals(sheet, at string, places int) {
	format := "0"
	for i := range places {
		if i == 0 {
			format += "."
		}
		format += "0"
	}
	style, err := b.f.NewStyle(&excelize.Style{CustomNumFmt: &format})
	b.do(err)
	b.do(b.f.SetCellStyle(sheet, at, at, style))
}

// figureAt is a figure that stands in a cell.
type figureAt struct {
	place string
	value decimal.Decimal
}

// trials writes the readings; a titre between two of them as their difference.
func (b *book) trials() {
	b.text(b.table, "A1", b.r.Title)
	b.text(b.table, "A2", b.r.Student+", "+b.r.Class)
	heads := []string{b.w.Text("text.trial")}
	for _, c := range b.r.Columns {
		heads = append(heads, c.Head)
	}
	b.head(b.table, 4, append(heads, b.w.Text("file.mean"))...)
	for i, row := range b.r.Rows {
		at := 5 + i
		b.text(b.table, cell(1, at), row.Name)
		for j, c := range row.Cells {
			place := cell(j+2, at)
			if c.Value == nil {
				b.text(b.table, place, c.Text)
				continue
			}
			b.number(b.table, place, *c.Value)
			b.readings[row.Trial+" "+b.r.Columns[j].Code] = figureAt{place, *c.Value}
		}
		b.titre(row.Trial)
		b.text(b.table, cell(len(heads)+1, at), row.Reason)
	}
	b.do(b.f.SetColWidth(b.table, "A", "A", 18))
	b.text(b.table, cell(1, 6+len(b.r.Rows)), b.r.Agreement)
}

// corrections are a sheet of all that was struck, with what it said, who struck it, when and why.
func (b *book) corrections() {
	if len(b.r.Corrections) == 0 {
		return
	}
	sheet := b.w.Text("file.corrections")
	_, err := b.f.NewSheet(sheet)
	b.do(err)
	heads := []string{b.w.Text("text.trial")}
	for _, code := range []string{"place", "said", "reason", "by", "at"} {
		heads = append(heads, b.w.Text("file.corrections."+code))
	}
	b.head(sheet, 1, heads...)
	for i, c := range b.r.Corrections {
		for j, text := range []string{c.Trial, c.Place, c.Text, c.Reason, c.By, c.At.UTC().Format("2006-01-02 15:04:05")} {
			b.text(sheet, cell(j+1, i+2), text)
		}
	}
}

// titre makes the titre of a trial a formula where it is the difference of two cells.
func (b *book) titre(trial string) {
	start, end, titre := b.readings[trial+" start"], b.readings[trial+" end"], b.readings[trial+" titre"]
	if at := b.readings[trial+" curve-end"]; at.place != "" {
		end = at
	}
	if start.place == "" || end.place == "" || titre.place == "" {
		return
	}
	round := func(of string) string { return fmt.Sprintf("ROUND(%s,%d)", of, max(2, titre.value.Places())) }
	switch { // a burette that counts upward is read the other way round
	case end.value.Sub(start.value).Cmp(titre.value) == 0:
		b.do(b.f.SetCellFormula(b.table, titre.place, round(end.place+"-"+start.place)))
	case start.value.Sub(end.value).Cmp(titre.value) == 0:
		b.do(b.f.SetCellFormula(b.table, titre.place, round(start.place+"-"+end.place)))
	}
}

// near leaves room for what is left of the arithmetic, however small the figures are.
func near(a, b float64) bool { return math.Abs(a-b) <= 1e-10*max(math.Abs(a), math.Abs(b)) }

// working writes every figure of the working, a line each.
func (b *book) working(d derivation.Derivation) {
	_, err := b.f.NewSheet(b.figures)
	b.do(err)
	b.head(b.figures, 1, b.w.Text("file.figure"), b.w.Text("file.value"), b.w.Text("file.unit"), b.w.Text("file.how"))
	for i, n := range d.Nodes {
		at := cell(2, i+2)
		name, how := n.ID, ""
		if b.r.Answer != nil {
			if o, ok := b.r.Answer.Origins[n.ID]; ok {
				name, how = o.Name, o.Text
			}
		}
		b.text(b.figures, cell(1, i+2), name)
		b.text(b.figures, cell(3, i+2), string(n.Quantity.Unit))
		b.text(b.figures, cell(4, i+2), how)
		if formula := b.formula(d, i); formula != "" {
			b.do(b.f.SetCellFloat(b.figures, at, n.Quantity.Value, -1, 64))
			b.do(b.f.SetCellFormula(b.figures, at, formula))
			continue
		}
		b.do(b.f.SetCellFloat(b.figures, at, n.Quantity.Value, -1, 64))
		point := string(n.Source.Point)
		if n.Source.Curve > 0 {
			point = "curve-end"
		}
		if from := b.readings[n.Trial+" "+point]; from.place != "" && n.Source.Titration() && from.value.Float64() == n.Quantity.Value {
			b.do(b.f.SetCellFormula(b.figures, at, "'"+b.table+"'!"+from.place))
		}
	}
	last := len(d.Nodes) + 1
	b.do(b.f.SetCellStyle(b.figures, cell(1, last), cell(3, last), b.bold))
	b.do(b.f.SetColWidth(b.figures, "A", "A", 44))
	b.do(b.f.SetColWidth(b.figures, "B", "B", 16))
}

// formula is that of a node, rounded where the practical rounds it; empty for a leaf, and
// where the figure does not follow so.
func (b *book) formula(d derivation.Derivation, i int) string {
	formula, n := formulaOf(d, i), d.Nodes[i]
	if formula == "" {
		return ""
	}
	from := derivation.Derivation{Nodes: slices.Clone(d.Nodes[:i+1])}
	for k := range from.Nodes[:i] { // from the figures as they stand
		from.Nodes[k].Inputs, from.Nodes[k].Operation = nil, derivation.Given
	}
	v := from.Recompute(nil, i)
	if near(v, n.Quantity.Value) {
		return formula
	}
	for places := range 5 {
		if f, ok := decimal.FromFloat(v); ok && near(f.Round(places).Float64(), n.Quantity.Value) {
			return fmt.Sprintf("ROUND(%s,%d)", formula, places)
		}
	}
	return ""
}

// formulaOf is a node as a formula of the cells of its inputs; empty for a leaf.
func formulaOf(d derivation.Derivation, i int) string {
	n := d.Nodes[i]
	in := func(k int) string { return cell(2, n.Inputs[k]+2) }
	if n.Leaf() {
		return ""
	}
	switch n.Operation {
	case derivation.Product:
		return in(0) + "*" + in(1)
	case derivation.Quotient:
		return in(0) + "/" + in(1)
	case derivation.Convert:
		factor := d.Nodes[n.Inputs[0]].Quantity.Unit.Scale() / n.Quantity.Unit.Scale()
		return in(0) + "*" + strconv.FormatFloat(factor, 'g', -1, 64)
	case derivation.Difference:
		out := in(0)
		for k := range n.Inputs[1:] {
			out += map[bool]string{true: "-", false: "+"}[k%2 == 0] + in(k+1)
		}
		return out
	case derivation.Mean:
		out := "AVERAGE("
		for k := range n.Inputs {
			if k > 0 {
				out += ","
			}
			out += in(k)
		}
		return out + ")"
	}
	return ""
}

// texts writes what the student wrote, and the answer as it is said.
func (b *book) texts() {
	_, err := b.f.NewSheet(b.said)
	b.do(err)
	row := 1
	line := func(what, text string) {
		b.text(b.said, cell(1, row), what)
		b.text(b.said, cell(2, row), text)
		row++
	}
	for _, p := range b.r.Passages {
		for _, s := range p.Stand {
			line(p.Title, s.Text)
		}
	}
	for _, o := range b.r.Own {
		line(o.Title, o.Value)
	}
	if b.r.Answer != nil {
		line(b.w.Text("file.result"), b.r.Answer.Statement)
	}
	b.do(b.f.SetColWidth(b.said, "A", "A", 40))
	b.do(b.f.SetColWidth(b.said, "B", "B", 90))
}
