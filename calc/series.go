package calc

import (
	"exactflask/core/finding"
	"exactflask/core/series"
	"exactflask/wording"
)

type seriesIn struct {
	Kind    series.Kind    `json:"kind,omitempty" enum:"pH,mV" doc:"pH when left out"`
	Points  []series.Point `json:"points" minItems:"1" maxItems:"5000"`
	Analyte series.Analyte `json:"analyte,omitempty" enum:"strong,weak" doc:"of an acid or a base; left out: derivatives only"`
	Flask   float64        `json:"flask,omitempty" minimum:"0" maximum:"10000" doc:"mL in the flask before the first drop"`
	Titrant float64        `json:"titrant,omitempty" minimum:"0" maximum:"20" doc:"mol/L of the strong titrant"`
	Burette float64        `json:"burette,omitempty" minimum:"0" maximum:"10" doc:"standard uncertainty of a volume, mL; 0.02 when left out"`
}

type seriesOut struct {
	series.Analysis
	Concentration float64  `json:"concentration,omitempty" doc:"of what is in the flask, mol/L, one for one with the titrant"`
	Standard      float64  `json:"concentrationStandard,omitempty" doc:"by the end point alone, mol/L"`
	Notes         []string `json:"notes" doc:"findings, and what a way cannot tell, in words"`
}

func doSeries(in seriesIn) (seriesOut, *finding.Fault) {
	if in.Kind == "" {
		in.Kind = series.PH
	}
	out := seriesOut{Analysis: series.Analyse(series.Run{Kind: in.Kind, Points: in.Points, Analyte: in.Analyte, Flask: in.Flask, Titrant: in.Titrant, Burette: in.Burette}), Notes: []string{}}
	words := wording.For()
	for _, f := range out.Findings {
		out.Notes = append(out.Notes, words.Say(f.Message))
	}
	for _, e := range out.Ends {
		if e.Why != nil {
			out.Notes = append(out.Notes, words.Text("series.way", "way", finding.Said(finding.Message{Code: "series.method." + string(e.Method)}), "why", finding.Said(*e.Why)))
		}
	}
	if in.Flask > 0 && in.Titrant > 0 && out.Used != "" {
		out.Concentration, out.Standard = in.Titrant*out.Volume/in.Flask, in.Titrant*out.Analysis.Standard/in.Flask
	}
	return out, nil
}
