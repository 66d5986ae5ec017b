package files

import (
	"encoding/csv"
	"fmt"
	"html"
	"io"
	"math"
	"strconv"
	"strings"

	"codeberg.org/go-pdf/fpdf"

	"exactflask/core/model/followed"
	"exactflask/core/model/series"
	"exactflask/view"
	"exactflask/wording"
)

// Points writes the points of all runs, a line each: as they were written, and what follows
// from them. UTF-8, commas, a point in numbers (RFC 4180).
func Points(to io.Writer, r Report) error {
	w := csv.NewWriter(to)
	w.UseCRLF = true // RFC 4180
	w.UseCRLF = true
	unit := "pH"
	if r.Probe != nil {
		unit = r.Probe.Unit
	}
	if err := w.Write([]string{"run", "burette / mL", "shown / " + unit, "temperature / °C", "ran / mL", "value", "less model / mL and value", "colour", "steady", "source", "at", "counts"}); err != nil {
		return err
	}
	for _, run := range r.Runs {
		for _, p := range pointsOf(r, run.Trial) {
			warm, source := "", string(p.Source)
			if p.Temperature != nil {
				warm = p.Temperature.String()
			}
			if source == "" {
				source = "hand"
			}
			rest := ""
			if v, ok := residual(run, p); ok {
				rest = fixed(v, 4)
			}
			line := []string{safe(run.Name), p.Volume.String(), p.Reading.String(), warm, fixed(p.V, 3), fixed(p.Y, 4), rest, safe(p.Colour), yes(!p.Unsteady), source,
				p.At.UTC().Format("2006-01-02T15:04:05Z"), yes(!p.Withdrawn)}
			if err := w.Write(line); err != nil {
				return err
			}
		}
	}
	w.Flush()
	return w.Error()
}

func fixed(v float64, places int) string { return strconv.FormatFloat(v, 'f', places, 64) }

func pointsOf(r Report, trial string) []followed.RunPoint {
	var out []followed.RunPoint
	for _, p := range r.Report.Points {
		if p.Trial == trial {
			out = append(out, p)
		}
	}
	return out
}

// residual is the reading less the model at a point; empty where there is none.
func residual(run view.Run, p followed.RunPoint) (float64, bool) {
	for _, q := range run.Residuals {
		if q.Volume == p.V && !p.Withdrawn {
			return q.Reading, true
		}
	}
	return 0, false
}

// Curve draws the runs beneath each other as SVG.
func Curve(to io.Writer, r Report) error {
	const width, each = 760.0, 520.0
	p := &svgPen{}
	height := each * float64(max(1, len(r.Runs)))
	fmt.Fprintf(&p.out, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %g %g" width="%g" height="%g" font-family="sans-serif"><title>%s</title><rect width="100%%" height="100%%" fill="#fff"/>`,
		width, height, width, height, html.EscapeString(r.Title))
	for i, run := range r.Runs {
		p.top = each * float64(i)
		drawing{p, wording.For(r.Style), r, run, width, each, 13}.draw()
	}
	p.out.WriteString("</svg>\n")
	_, err := io.WriteString(to, p.out.String())
	return err
}

// curves draws the runs in a PDF, with what the ways to the end say.
func (p *page) curves() {
	if len(p.r.Runs) == 0 {
		return
	}
	p.heading("curve")
	if p.r.Probe != nil {
		p.say("", small, p.r.Probe.Text)
	}
	const height = 92.0
	for _, run := range p.r.Runs {
		_, whole := p.f.GetPageSize()
		if p.f.GetY()+height > whole-margin-10 {
			p.f.AddPage()
		}
		pen := &pdfPen{f: p.f, left: margin, top: p.f.GetY()}
		drawing{pen, p.w, p.r, run, p.width, height, small * 0.3528}.draw()
		p.f.SetY(p.f.GetY() + height)
		for _, e := range run.Ends {
			style := ""
			if run.Used != nil && run.Used.Method == e.Method {
				style = "B"
			}
			p.say(style, small, e.Name+": "+e.Text)
		}
		for _, found := range run.Found {
			p.say("", small, "• "+found)
		}
		p.f.Ln(1.5)
	}
}

// pen is what a curve is drawn with, in units of its own.
type pen interface {
	line(x1, y1, x2, y2, width float64, dashed bool)
	dot(x, y, r float64, filled bool)
	text(x, y, size float64, anchor, text string, bold bool)
	upward(x, y, size float64, text string) // along the axis
}

// drawing is one run on its place.
type drawing struct {
	pen           pen
	w             wording.Writer
	r             Report
	run           view.Run
	width, height float64
	letters       float64
}

// scale is an axis.
type scale struct{ low, high, from, to float64 }

func (s scale) at(v float64) float64 {
	return s.from + (s.to-s.from)*(v-s.low)/(s.high-s.low)
}

// steps are the round values of an axis.
func (s scale) steps(most int) []float64 {
	span := s.high - s.low
	step := math.Pow(10, math.Floor(math.Log10(span)))
	for _, f := range [...]float64{0.1, 0.2, 0.5, 1, 2, 5} {
		if span/(step*f) <= float64(most) {
			step *= f
			break
		}
	}
	var out []float64
	for v := math.Ceil(s.low/step-1e-9) * step; v <= s.high+1e-9*span; v += step {
		out = append(out, v)
	}
	return out
}

func (d drawing) draw() {
	em := d.letters
	points := pointsOf(d.r, d.run.Trial)
	left, right := 5.5*em, d.width-1.5*em
	low, high, most := math.Inf(1), math.Inf(-1), 1.0
	for _, p := range points {
		low, high, most = min(low, p.Y), max(high, p.Y), max(most, p.V)
	}
	if len(points) == 0 || low == high {
		return
	}
	x := scale{0, most * 1.05, left, right}
	y := scale{low - 0.05*(high-low), high + 0.05*(high-low), d.height*0.62 - em, 2.4 * em}
	d.pen.text(left, 1.6*em, em*1.1, "start", d.run.Name, true)
	d.frame(x, y, true)
	axis := "pH"
	if d.r.Probe != nil {
		axis = d.r.Probe.Axis
	}
	d.pen.upward(1.2*em, (y.from+y.to)/2, em, axis)
	for _, p := range d.r.Setting.Predicted {
		if p.Volume <= x.high && p.Value >= y.low && p.Value <= y.high {
			d.pen.dot(x.at(p.Volume), y.at(p.Value), em*0.05, true)
		}
	}
	for _, p := range points {
		if !p.Withdrawn {
			d.pen.dot(x.at(p.V), y.at(p.Y), em*0.22, !p.Unsteady)
			continue
		}
		a, b, c := x.at(p.V), y.at(p.Y), em*0.25
		d.pen.line(a-c, b-c, a+c, b+c, em*0.08, false)
		d.pen.line(a-c, b+c, a+c, b-c, em*0.08, false)
	}
	s := d.slopes(x, em)
	if u := d.run.Used; u != nil {
		at := x.at(u.Volume)
		d.pen.line(at, y.to, at, s.from, em*0.1, false)
		d.pen.text(at-0.4*em, y.to+em, em, "end", fixed(u.Volume, 2), true)
	}
}

// slopes draws the first derivative beneath the curve.
func (d drawing) slopes(x scale, em float64) scale {
	top, bottom := 0.0, 0.0
	for _, p := range d.run.Slopes {
		top, bottom = max(top, p.Reading), min(bottom, p.Reading)
	}
	if top == bottom {
		top = 1
	}
	s := scale{bottom, top * 1.08, d.height - 3.4*em, d.height*0.62 + 0.6*em}
	if bottom < 0 {
		s.low = bottom * 1.08
	}
	d.frame(x, s, false)
	d.pen.upward(1.2*em, (s.from+s.to)/2, em, d.w.Text("file.point-slope"))
	var last *series.Measured
	for i := range d.run.Slopes {
		p := d.run.Slopes[i]
		if last != nil {
			d.pen.line(x.at(last.Volume), s.at(last.Reading), x.at(p.Volume), s.at(p.Reading), em*0.09, false)
		}
		last = &d.run.Slopes[i]
	}
	for _, v := range x.steps(10) {
		d.pen.text(x.at(v), s.from+1.4*em, em, "middle", trim(v), false)
	}
	d.pen.text((x.from+x.to)/2, s.from+2.8*em, em, "middle", d.w.Text("file.point-volume"), false)
	return s
}

// frame draws two axes with their marks.
func (d drawing) frame(x, y scale, main bool) {
	em := d.letters
	d.pen.line(x.from, y.from, x.to, y.from, em*0.07, false)
	d.pen.line(x.from, y.from, x.from, y.to, em*0.07, false)
	for _, v := range x.steps(10) {
		d.pen.line(x.at(v), y.from, x.at(v), y.from+0.3*em, em*0.07, false)
	}
	most := 4
	if main {
		most = 8
	}
	for _, v := range y.steps(most) {
		d.pen.line(x.from-0.3*em, y.at(v), x.from, y.at(v), em*0.07, false)
		d.pen.text(x.from-0.5*em, y.at(v)+0.35*em, em, "end", trim(v), false)
	}
}

func trim(v float64) string {
	return wording.Minus(strconv.FormatFloat(math.Round(v*1e6)/1e6+0, 'f', -1, 64))
}

type svgPen struct {
	out strings.Builder
	top float64
}

func (p *svgPen) line(x1, y1, x2, y2, width float64, dashed bool) {
	dash := ""
	if dashed {
		dash = ` stroke-dasharray="5 4"`
	}
	fmt.Fprintf(&p.out, `<line x1="%.2f" y1="%.2f" x2="%.2f" y2="%.2f" stroke="#1f252b" stroke-width="%.2f"%s/>`, x1, y1+p.top, x2, y2+p.top, width, dash)
}

func (p *svgPen) dot(x, y, r float64, filled bool) {
	fill := "#fff"
	if filled {
		fill = "#6d2077"
	}
	fmt.Fprintf(&p.out, `<circle cx="%.2f" cy="%.2f" r="%.2f" fill="%s" stroke="#6d2077"/>`, x, y+p.top, r, fill)
}

func (p *svgPen) text(x, y, size float64, anchor, text string, bold bool) {
	weight := ""
	if bold {
		weight = ` font-weight="bold"`
	}
	fmt.Fprintf(&p.out, `<text x="%.2f" y="%.2f" font-size="%.1f" text-anchor="%s" fill="#1f252b"%s>%s</text>`, x, y+p.top, size, anchor, weight, html.EscapeString(text))
}

func (p *svgPen) upward(x, y, size float64, text string) {
	fmt.Fprintf(&p.out, `<text transform="translate(%.2f %.2f) rotate(-90)" font-size="%.1f" text-anchor="middle" fill="#1f252b">%s</text>`, x, y+p.top, size, html.EscapeString(text))
}

type pdfPen struct {
	f         *fpdf.Fpdf
	left, top float64
}

func (p *pdfPen) line(x1, y1, x2, y2, width float64, _ bool) {
	p.f.SetLineWidth(width)
	p.f.Line(p.left+x1, p.top+y1, p.left+x2, p.top+y2)
}

func (p *pdfPen) dot(x, y, r float64, filled bool) {
	p.f.SetLineWidth(0.15)
	p.f.SetFillColor(0, 0, 0)
	p.f.Circle(p.left+x, p.top+y, r, map[bool]string{true: "F", false: "D"}[filled])
}

func (p *pdfPen) text(x, y, size float64, anchor, text string, bold bool) {
	p.f.SetFont(font, map[bool]string{true: "B"}[bold], size/0.3528)
	switch w := p.f.GetStringWidth(shown(text)); anchor {
	case "middle":
		x -= w / 2
	case "end":
		x -= w
	}
	p.f.Text(p.left+x, p.top+y, shown(text))
}

func (p *pdfPen) upward(x, y, size float64, text string) {
	p.f.SetFont(font, "", size/0.3528)
	p.f.TransformBegin()
	p.f.TransformRotate(90, p.left+x, p.top+y)
	p.f.Text(p.left+x-p.f.GetStringWidth(shown(text))/2, p.top+y, shown(text))
	p.f.TransformEnd()
}
