package calc

import (
	"fmt"
	"math"
	"strings"

	"exactflask/core/chemistry/catalog"
	eq "exactflask/core/chemistry/equilibrium"
	"exactflask/core/model/curve"
	"exactflask/core/practice/plan"
	"exactflask/core/practice/prep"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
)

var planning = []Function{
	define("ph", doPH),
	answering(define("curve", doCurve)),
	answering(define("indicator", doIndicator)),
	define("prepare", prep.Make),
	define("dilute", doSerial),
	answering(define("class-quantities", doClass)),
}

var notInWater = finding.Declare("calc.not-in-water", "formula")

type partIn struct {
	Formula       string         `json:"formula" minLength:"1" maxLength:"200"`
	Concentration float64        `json:"concentration" minimum:"0" maximum:"20" doc:"mol/L"`
	Own           *practical.Own `json:"own,omitempty" doc:"pKa values of one's own, in the place of the catalogue's"`
}

type phIn struct {
	Mixture []partIn `json:"mixture" minItems:"1" maxItems:"20"`
	Davies  bool     `json:"davies,omitempty" doc:"with activity coefficients by the Davies equation"`
}

type phOut struct {
	PH            float64      `json:"pH"`
	IonicStrength float64      `json:"ionicStrength,omitempty" doc:"mol/L, with davies"`
	Species       []speciesOut `json:"species" doc:"fractions of the forms of each substance, the most protonated first"`
}

type speciesOut struct {
	Formula   string    `json:"formula"`
	Fractions []float64 `json:"fractions"`
}

func mixture(path string, in []partIn) (eq.Mixture, *finding.Fault) {
	out := make(eq.Mixture, len(in))
	for i, p := range in {
		at := fmt.Sprintf("%s[%d].formula", path, i)
		f, fault := parse(at, p.Formula)
		if fault != nil {
			return nil, fault
		}
		w, ok := catalog.BuiltIn().InWater(f)
		if p.Own != nil && len(p.Own.PKa) > 0 {
			w, ok = p.Own.InWater(f), true
		}
		if !ok {
			return nil, notInWater.Fault(at, finding.Formula(f.Plain()))
		}
		out[i] = eq.Part{Substance: curve.Substance(w), Concentration: p.Concentration}
	}
	return out, nil
}

func doPH(in phIn) (phOut, *finding.Fault) {
	m, fault := mixture("mixture", in.Mixture)
	if fault != nil {
		return phOut{}, fault
	}
	out := phOut{PH: m.PH(), Species: []speciesOut{}}
	at := out.PH
	if in.Davies {
		out.PH, out.IonicStrength = m.Davies()
	}
	for i, p := range m {
		out.Species = append(out.Species, speciesOut{in.Mixture[i].Formula, p.Substance.Fractions(at)})
	}
	return out, nil
}

type curveIn struct {
	Sample  []partIn `json:"sample" minItems:"1" maxItems:"20"`
	Volume  float64  `json:"volume" exclusiveMinimum:"0" maximum:"10000" doc:"of the sample, mL"`
	Titrant []partIn `json:"titrant" minItems:"1" maxItems:"20"`
	To      float64  `json:"to" exclusiveMinimum:"0" maximum:"10000" doc:"mL of titrant at the end"`
	Points  int      `json:"points,omitempty" minimum:"0" maximum:"2000" doc:"about this many; 200 when left out"`
	As      string   `json:"as,omitempty" enum:"points,csv,svg"`
}

type curveOut struct {
	Points []eq.Point `json:"points,omitempty"`
	Text   string     `json:"text,omitempty" doc:"CSV or SVG, where that was asked for"`
}

func doCurve(in curveIn) (curveOut, *finding.Fault) {
	sample, fault := mixture("sample", in.Sample)
	if fault != nil {
		return curveOut{}, fault
	}
	titrant, fault := mixture("titrant", in.Titrant)
	if fault != nil {
		return curveOut{}, fault
	}
	n := in.Points
	if n == 0 {
		n = 200
	}
	points := eq.Titration{Sample: sample, Volume: in.Volume, Titrant: titrant}.Curve(in.To, n)
	switch in.As {
	case "csv":
		return curveOut{Text: CurveCSV(points, "pH")}, nil
	case "svg":
		return curveOut{Text: CurveSVG(points, "pH")}, nil
	}
	return curveOut{Points: points}, nil
}

// CurveCSV writes a curve as a table.
func CurveCSV(points []eq.Point, value string) string {
	var b strings.Builder
	fmt.Fprintf(&b, "volume/mL,%s\n", value)
	for _, p := range points {
		fmt.Fprintf(&b, "%.4f,%.4f\n", p.Volume, p.Value)
	}
	return b.String()
}

// CurveSVG draws a curve with its axes.
func CurveSVG(points []eq.Point, value string) string {
	const width, height, left, bottom = 480.0, 320.0, 48.0, 280.0
	low, high := points[0].Value, points[0].Value
	for _, p := range points {
		low, high = math.Min(low, p.Value), math.Max(high, p.Value)
	}
	low, high = math.Floor(low), math.Ceil(high+1e-9)
	to := points[len(points)-1].Volume
	x := func(v float64) float64 { return left + (width-left-16)*v/to }
	y := func(v float64) float64 { return bottom - (bottom-16)*(v-low)/(high-low) }
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %g %g" font-family="sans-serif" font-size="12">`, width, height)
	fmt.Fprintf(&b, `<path d="M%g 16 V%g H%g" fill="none" stroke="#333"/>`, left, bottom, width-16)
	step := math.Max(1, math.Ceil((high-low)/8))
	for v := low; v <= high; v += step {
		fmt.Fprintf(&b, `<text x="%g" y="%.1f" text-anchor="end">%g</text>`, left-6, y(v)+4, v)
	}
	for i := range 6 {
		v := to * float64(i) / 5
		fmt.Fprintf(&b, `<text x="%.1f" y="%g" text-anchor="middle">%.3g</text>`, x(v), bottom+18, v)
	}
	fmt.Fprintf(&b, `<text x="%g" y="%g" text-anchor="middle">V / mL</text><text x="14" y="150" transform="rotate(-90 14 150)">%s</text><path fill="none" stroke="#6d2077" stroke-width="2" d="`, (width+left)/2, height-6, value)
	for i, p := range points {
		letter := "L"
		if i == 0 {
			letter = "M"
		}
		fmt.Fprintf(&b, "%s%.2f %.2f", letter, x(p.Volume), y(p.Value))
	}
	b.WriteString(`"/></svg>`)
	return b.String()
}

type indicatorIn struct {
	Practical practical.Practical `json:"practical"`
}

func doIndicator(in indicatorIn) (plan.Assessment, *finding.Fault) {
	r, fault := in.Practical.Check()
	if fault != nil {
		return plan.Assessment{}, fault.In("practical")
	}
	return plan.Assess(r), nil
}

type serialOut struct {
	Ways []prep.Diluted `json:"ways" doc:"the best first"`
}

func doSerial(in prep.Dilution) (serialOut, *finding.Fault) {
	ways, fault := prep.Serial(in)
	return serialOut{ways}, fault
}

type classIn struct {
	Titrant   string     `json:"titrant" maxLength:"80"`
	Analyte   string     `json:"analyte" maxLength:"80"`
	Indicator string     `json:"indicator,omitempty" maxLength:"80"`
	Titre     float64    `json:"titre" exclusiveMinimum:"0" maximum:"1000" doc:"expected, mL"`
	Aliquot   float64    `json:"aliquot" minimum:"0" maximum:"1000" doc:"mL"`
	Drops     float64    `json:"drops,omitempty" minimum:"0" maximum:"20" doc:"of indicator for each trial"`
	Class     prep.Class `json:"class"`
}

type classOut struct {
	Needs []prep.Need `json:"needs"`
}

func doClass(in classIn) (classOut, *finding.Fault) {
	return classOut{prep.Quantities(nil, []prep.Wanted{{What: "titrant", Name: in.Titrant, Each: in.Titre},
		{What: "analyte", Name: in.Analyte, Each: in.Aliquot}, {What: "indicator", Name: in.Indicator,
			Each: in.Drops}}, in.Class)}, nil
}
