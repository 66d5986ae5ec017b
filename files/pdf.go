package files

import (
	"bytes"
	_ "embed" // the fonts
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"exactflask/core/values/finding"
	"exactflask/view"
	"exactflask/wording"
)

// The fonts that are embedded: they have every sign of a working.
var (
	//go:embed fonts/DejaVuSansCondensed.ttf
	regular []byte
	//go:embed fonts/DejaVuSansCondensed-Bold.ttf
	bold []byte
)

// Paper is a size of paper.
type Paper string

// The sizes.
const (
	A4     Paper = "A4"
	Letter Paper = "Letter"
)

const (
	font   = "DejaVu"
	margin = 16.0 // mm
	line   = 4.2  // mm, of small text in a table
	small  = 8.5  // pt
	normal = 9.5
	large  = 15.0
)

// PDF writes the report on one or two pages: selectable text, embedded fonts, the titres
// drawn on a line, pictures.
func PDF(to io.Writer, r Report, paper Paper) error {
	f := fpdf.New("P", "mm", string(paper), "")
	f.SetCatalogSort(true) // the same bytes each time
	f.SetCreationDate(r.Made.UTC())
	f.SetModificationDate(r.Made.UTC())
	f.SetProducer("Exact Flask", true)
	f.SetTitle(r.Title, true)
	f.SetAuthor(r.Student, true)
	f.SetLang("en")
	f.AddUTF8FontFromBytes(font, "", regular)
	f.AddUTF8FontFromBytes(font, "B", bold)
	f.SetMargins(margin, margin, margin)
	f.SetAutoPageBreak(true, margin)
	width, _ := f.GetPageSize()
	p := &page{f: f, r: r, w: wording.For(r.Style), width: width - 2*margin}
	f.SetFooterFunc(func() {
		f.SetY(-12)
		p.size("", small)
		f.CellFormat(p.width/2, 5, p.w.Text("file.made", "entries", finding.Count(r.Entries), "seal", r.Seal), "", 0, "L", false, 0, "")
		f.CellFormat(p.width/2, 5, strconv.Itoa(f.PageNo()), "", 0, "R", false, 0, "")
	})
	f.AddPage()
	p.write()
	if err := f.Error(); err != nil {
		return fmt.Errorf("writing a PDF: %w", err)
	}
	return f.Output(to)
}

type page struct {
	f     *fpdf.Fpdf
	r     Report
	w     wording.Writer
	width float64
}

func (p *page) size(style string, points float64) { p.f.SetFont(font, style, points) }

func (p *page) say(style string, points float64, text string) {
	if strings.TrimSpace(text) == "" {
		return
	}
	p.size(style, points)
	p.f.MultiCell(0, points*0.47, shown(text), "", "L", false)
}

// shown is a text with the signs that the fonts have. What stands beyond the first plane of Unicode, such
// as a picture sign in a note, the library cannot write at all: an empty square says that one stood there.
func shown(text string) string {
	text = strings.Map(func(r rune) rune {
		if r > lastPlane {
			return '□'
		}
		return r
	}, text)
	return strings.NewReplacer("\u202f", "\u00a0", "⟶", "→", "\u2061", "").Replace(text)
}

const lastPlane = 0xFFFF

func (p *page) heading(code string) { p.title(p.w.Text("file." + code)) }

func (p *page) title(text string) {
	p.f.Ln(2.2)
	p.say("B", normal+1, text)
	p.f.Ln(0.4)
}

func (p *page) write() {
	r := p.r
	p.say("B", large, r.Title)
	who := r.Student
	if len(r.Partners) > 0 {
		who += ", " + strings.Join(r.Partners, ", ")
	}
	p.say("", normal, p.w.Text("file.head", "student", who, "class", r.Class, "begun", day(r.Begun)))
	if r.Version > 0 && len(r.Submissions) >= r.Version {
		s := r.Submissions[r.Version-1]
		late := ""
		if s.Late {
			late = p.w.Text("file.late")
		}
		p.say("B", normal, p.w.Text("file.handed-in", "version", finding.Count(s.Version), "at", day(s.At), "late", late))
		p.say("", small-1, s.Hash)
	}
	p.f.SetLineWidth(0.4)
	p.f.Line(margin, p.f.GetY()+1, margin+p.width, p.f.GetY()+1)
	p.f.Ln(2)
	p.say("", normal, r.Purpose)
	p.heading("method")
	p.say("", normal, r.Setting.Equation)
	standing := []struct{ code, text string }{{"burette", r.Setting.Titrant}, {"flask", r.Setting.Analyte}}
	if r.Setting.MadeOnly {
		standing = standing[:1]
		standing[0].code = "solution"
	}
	for _, s := range standing {
		p.say("", normal, p.w.Text("text."+s.code)+": "+s.text)
	}
	p.say("", normal, r.Setting.Glass)
	if len(r.Setting.Rules) > 0 {
		p.say("", small, strings.Join(r.Setting.Rules, ". ")+".")
	}
	p.say("", small, strings.Join(r.Setting.Cautions, " ")+" "+p.w.Text("file.local"))
	if len(r.Columns) > 0 {
		p.heading("readings")
		p.table()
		p.strip()
	}
	p.curves()
	p.say("B", normal, r.Agreement)
	for _, remark := range r.Remarks {
		p.say("", small, remark)
	}
	p.working()
	for _, passage := range r.Passages {
		for _, s := range passage.Stand {
			if s.Text != "" {
				p.title(passage.Title)
				p.say("", normal, s.Text)
			}
		}
	}
	p.pictures()
	p.notes()
	p.marks()
}

// marks are what was awarded, with why and what was said.
func (p *page) marks() {
	if p.r.Marks == nil {
		return
	}
	p.heading("marks")
	p.say("B", normal, p.w.Text("file.marks-total", "total", finding.Text(p.r.Marks.Total.String()), "possible", finding.Text(p.r.Marks.Possible.String())))
	for _, l := range p.r.Marks.Lines {
		given := "–"
		if l.Award != nil && l.Award.Marks != nil {
			given = l.Award.Marks.String()
		}
		p.say("", normal, p.w.Text("file.mark", "title", finding.Text(l.Title), "marks", finding.Text(given), "most", finding.Text(l.Most.String())))
		why := l.Why
		if l.Award != nil && l.Award.Comment != "" {
			why = append(why[:len(why):len(why)], l.Award.Comment)
		}
		if len(why) > 0 {
			p.say("", small, strings.Join(why, " "))
		}
	}
}

func day(at time.Time) string { return at.UTC().Format("2 Jan 2006, 15:04 UTC") }

// table draws the readings; what was struck stands before what stands there now.
func (p *page) table() {
	r := p.r
	first := 24.0
	last := max(50, p.width-first-24*float64(len(r.Columns)))
	each := (p.width - first - last) / float64(max(1, len(r.Columns)))
	p.size("B", small)
	row := func(name string, cells []string, reason string, border string, struck bool) {
		texts, widths := append(append([]string{name}, cells...), reason), []float64{first}
		for range cells {
			widths = append(widths, each)
		}
		widths = append(widths, last)
		lines, most := make([][]string, len(texts)), 1
		for i, text := range texts {
			lines[i] = p.f.SplitText(shown(text), widths[i]-3)
			most = max(most, len(lines[i]))
		}
		height := float64(most)*line + 0.8
		if _, page := p.f.GetPageSize(); p.f.GetY()+height > page-margin {
			p.f.AddPage()
		}
		x, y := margin, p.f.GetY()
		for i := range texts {
			align := map[bool]string{true: "R", false: "L"}[i > 0 && i < len(texts)-1]
			for n, text := range lines[i] {
				p.f.SetXY(x, y+0.4+float64(n)*line)
				if i == len(texts)-1 {
					p.f.SetX(x + 2)
				}
				p.f.CellFormat(widths[i]-2, line, text, "", 0, align, false, 0, "")
			}
			x += widths[i]
		}
		p.f.SetLineWidth(0.2)
		if strings.Contains(border, "T") {
			p.f.Line(margin, y, margin+p.width, y)
		}
		p.f.Line(margin, y+height, margin+p.width, y+height)
		if struck {
			p.f.Line(margin, y+height/2, margin+first-2, y+height/2)
		}
		p.f.SetXY(margin, y+height)
	}
	heads := make([]string, len(r.Columns))
	for i, c := range r.Columns {
		heads[i] = c.Head
	}
	row(p.w.Text("text.trial"), heads, p.w.Text("file.mean"), "TB", false)
	for _, t := range r.Rows {
		cells := make([]string, len(t.Cells))
		for i, c := range t.Cells {
			for _, s := range c.Struck {
				cells[i] += "[" + s + "] "
			}
			cells[i] += c.Text
		}
		p.size(map[bool]string{true: "B"}[t.Counts], small)
		row(t.Name, cells, t.Reason, "B", t.Struck)
	}
	p.f.Ln(1)
}

// strip draws the titres on a line, those in the mean tall.
func (p *page) strip() {
	type tick struct {
		value  float64
		counts bool
		name   string
	}
	var ticks []tick
	titre := -1
	for i, c := range p.r.Columns {
		if c.Code == "titre" {
			titre = i
		}
	}
	for _, t := range p.r.Rows {
		if titre < 0 || t.Struck {
			continue
		}
		if v := t.Cells[titre].Value; v != nil {
			ticks = append(ticks, tick{v.Float64(), t.Counts, t.Name})
		}
	}
	if len(ticks) < 2 {
		return
	}
	low, high := ticks[0].value, ticks[0].value
	for _, t := range ticks {
		low, high = min(low, t.value), max(high, t.value)
	}
	if high-low < 0.05 {
		low, high = low-0.05, high+0.05
	}
	p.f.Ln(3)
	y := p.f.GetY() + 4
	p.f.SetLineWidth(0.25)
	p.f.Line(margin, y, margin+p.width, y)
	p.size("", small-1.5)
	for i, t := range ticks {
		x := margin + 10 + (p.width-20)*(t.value-low)/(high-low)
		length := 1.5
		if t.counts {
			length = 3
		}
		p.f.SetLineWidth(map[bool]float64{true: 0.8, false: 0.3}[t.counts])
		p.f.Line(x, y-length, x, y+length)
		p.f.Text(x-1.5, y+5.5+2.6*float64(i%2), strconv.FormatFloat(t.value, 'f', 2, 64))
	}
	p.f.SetY(y + 9.5)
}

func (p *page) working() {
	r := p.r
	if len(r.Own) > 0 {
		p.heading("own")
		for _, o := range r.Own {
			line := "• " + o.Title + ": "
			for _, s := range o.Struck {
				line += "[" + s + "] "
			}
			line += o.Value
			if o.Verdict != "" {
				line += " · " + o.Verdict
			}
			p.say("", small, line)
		}
	}
	switch {
	case r.Answer != nil:
		p.heading("working")
		for i, s := range r.Answer.Steps {
			p.say("", small, fmt.Sprintf("%d. %s", i+1, s.Title))
			p.say("", normal, "    "+s.Plain())
		}
		p.heading("result")
		p.say("B", normal+1.5, r.Answer.Statement)
		said := []string{r.Answer.Figures + ".", r.Answer.Comparison}
		if u := r.Answer.Uncertainty; u != nil {
			said = append(said, u.Sentence)
		}
		p.say("", small, strings.Join(said, " "))
	case len(r.Samples) > 0 && !r.Withheld:
		p.heading("result")
		for _, s := range r.Samples {
			p.say("", normal, sampleLine(s))
		}
	case r.Withheld:
		p.say("B", normal, p.w.Text("file.withheld"))
	}
}

func sampleLine(s view.Sample) string {
	line := "• " + s.Name + ": "
	if s.Answer != nil {
		return line + s.Answer.Statement
	}
	return line + s.Agreement
}

// pictures stand two beside each other.
func (p *page) pictures() {
	if len(p.r.Pictures) == 0 {
		return
	}
	p.heading("pictures")
	const gap = 6.0
	each := (p.width - gap) / 2
	_, height := p.f.GetPageSize()
	tallest, left := 0.0, p.f.GetY()
	for i, picture := range p.r.Pictures {
		options := fpdf.ImageOptions{ImageType: strings.ToUpper(strings.TrimPrefix(picture.Kind, "image/"))}
		info := p.f.RegisterImageOptionsReader(picture.Hash, options, bytes.NewReader(picture.Content))
		if info == nil || info.Width() <= 0 {
			continue
		}
		w, h := each, each*info.Height()/info.Width()
		if h > 90 {
			w, h = 90*info.Width()/info.Height(), 90
		}
		if i%2 == 0 {
			left = p.f.GetY()
			if left+h+10 > height-margin {
				p.f.AddPage()
				left = p.f.GetY()
			}
			tallest = 0
		}
		x := margin + float64(i%2)*(each+gap)
		p.f.ImageOptions(picture.Hash, x, left, w, h, false, options, 0, "")
		p.size("", small)
		caption := p.f.SplitText(shown(picture.Caption), each)
		for n, text := range caption {
			p.f.Text(x, left+h+4+float64(n)*line, text)
		}
		tallest = max(tallest, h+float64(len(caption)-1)*line)
		if i%2 == 1 || i == len(p.r.Pictures)-1 {
			p.f.SetY(left + tallest + 6)
		} else {
			p.f.SetY(left)
		}
	}
}
