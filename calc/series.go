package calc

import (
	"cmp"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/model/curve"
	"exactflask/core/model/series"
	"exactflask/core/values/finding"
	"exactflask/wording"
)

type seriesIn struct {
	Kind    series.Kind       `json:"kind,omitempty" enum:"pH,mV" doc:"pH when left out"`
	Points  []series.Measured `json:"points" minItems:"1" maxItems:"5000"`
	Analyte series.Analyte    `json:"analyte,omitempty" enum:"strong,weak" doc:"of an acid or a base; left out: derivatives only"`
	Flask   float64           `json:"flask,omitempty" minimum:"0" maximum:"10000" doc:"mL in the flask before the first drop"`
	Titrant float64           `json:"titrant,omitempty" minimum:"0" maximum:"20" doc:"mol/L of the titrant; left out where it is looked for"`
	Known   float64           `json:"sampleConcentration,omitempty" minimum:"0" maximum:"20" doc:"mol/L of what is in the flask, where the titrant is looked for"`
	// The model of more than one step, or of a weak titrant, needs both substances.
	Sample      string  `json:"sample,omitempty" maxLength:"200" doc:"formula of what is in the flask, of the catalogue; with titrantFormula, for the model"`
	With        string  `json:"titrantFormula,omitempty" maxLength:"200" doc:"formula of what is in the burette"`
	Ratio       float64 `json:"ratio,omitempty" minimum:"0" maximum:"10" doc:"moles of what is in the flask for one of the titrant, at the end; 1 when left out"`
	Steps       int     `json:"steps,omitempty" minimum:"0" maximum:"6" doc:"how many protons have reacted at the end that is asked for; the last end when left out"`
	Carbonate   bool    `json:"carbonate,omitempty" doc:"the titrant, a strong base, may hold carbonate: its share is found"`
	Temperature float64 `json:"temperature,omitempty" minimum:"0" maximum:"50" doc:"degrees Celsius; 25 when left out"`
	Electrons   [2]int  `json:"electrons,omitempty" doc:"of a redox titration in mV: those that one unit of the sample and of the titrant exchange, for the model"`
	Burette     float64 `json:"burette,omitempty" minimum:"0" maximum:"10" doc:"standard uncertainty of a volume, mL; 0.02 when left out"`
}

type seriesOut struct {
	series.Analysis
	Concentration float64  `json:"concentration,omitempty" doc:"of what is in the flask, mol/L"`
	Standard      float64  `json:"concentrationStandard,omitempty" doc:"by the end point alone, mol/L"`
	OfTitrant     bool     `json:"ofTitrant,omitempty" doc:"both are of the titrant"`
	Notes         []string `json:"notes" doc:"findings, and what a way cannot tell, in words"`
}

func doSeries(in seriesIn) (seriesOut, *finding.Fault) {
	if in.Kind == "" {
		in.Kind = series.PH
	}
	run := series.Series{Kind: in.Kind, Points: in.Points, Analyte: in.Analyte, Flask: in.Flask, Titrant: in.Titrant, Sample: in.Known, Burette: in.Burette, Temperature: in.Temperature, EndNumber: in.Steps}
	if in.Sample != "" || in.With != "" {
		var fault *finding.Fault
		if run.AcidBase, fault = acidBase(in); fault != nil {
			return seriesOut{}, fault
		}
	}
	if e := in.Electrons; e[0] > 0 && e[1] > 0 {
		run.Redox = &series.Redox{Sample: equilibrium.Couple{Electrons: float64(e[0])}, Titrant: equilibrium.Couple{Electrons: float64(e[1])}}
	}
	out := seriesOut{Analysis: series.Analyse(run), Notes: []string{}}
	words := wording.For()
	for _, f := range out.Findings {
		out.Notes = append(out.Notes, words.Say(f.Message))
	}
	for _, e := range out.Ends {
		if e.Why != nil {
			out.Notes = append(out.Notes, words.Text("series.way", "way", finding.Said(finding.Message{Code: "series.method." + string(e.Method)}), "why", finding.Said(*e.Why)))
		}
	}
	if in.Flask > 0 && in.Titrant <= 0 && in.Known > 0 && out.Used != "" {
		out.OfTitrant = true
		out.Concentration = in.Known * in.Flask / (out.Volume * cmp.Or(in.Ratio, 1))
		out.Standard = out.Concentration * out.Analysis.Standard / out.Volume
	}
	if in.Flask > 0 && in.Titrant > 0 && out.Used != "" {
		moles := in.Titrant / in.Flask * cmp.Or(in.Ratio, 1)
		out.Concentration, out.Standard = moles*out.Volume, moles*out.Analysis.Standard
	}
	return out, nil
}

// acidBase is what the catalogue knows of both substances.
func acidBase(in seriesIn) (*series.AcidBase, *finding.Fault) {
	out := &series.AcidBase{Ratio: cmp.Or(in.Ratio, 1), Carbonate: in.Carbonate}
	for _, s := range []struct {
		path, text string
		to         *equilibrium.Substance
	}{{"sample", in.Sample, &out.Sample}, {"titrantFormula", in.With, &out.Titrant}} {
		f, err := chem.ParseFormula(s.text)
		if err != nil {
			return nil, finding.FaultOf(s.path, err)
		}
		w, ok := catalog.BuiltIn().InWater(f)
		if !ok {
			return nil, notInWater.Fault(s.path, finding.Formula(f.Plain()))
		}
		*s.to = curve.Substance(w)
	}
	return out, nil
}
