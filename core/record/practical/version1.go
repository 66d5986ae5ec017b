package practical

import (
	"encoding/json"

	"exactflask/core/chemistry/chem"
	"exactflask/core/chemistry/glass"
	"exactflask/core/values/decimal"
	"exactflask/core/values/quantity"
)

// Version1 is a practical as files of version 1 have it. It is read for ever;
// Upgrade makes today's form of it.
type Version1 struct {
	ID            string          `json:"id" minLength:"1" maxLength:"64" pattern:"^[A-Za-z0-9_-]+$"`
	Revision      int             `json:"revision" minimum:"1"`
	Title         string          `json:"title" minLength:"1" maxLength:"120"`
	Purpose       string          `json:"purpose,omitempty" maxLength:"2000"`
	Method        Kind            `json:"method" enum:"direct,indirect,back,standardisation,two-end-points"`
	Equation      string          `json:"equation" maxLength:"600"`
	Titrated      string          `json:"titrated,omitempty" maxLength:"200"`
	Via           []Via           `json:"via,omitempty" maxItems:"4"`
	Route         []RouteStep     `json:"route,omitempty" maxItems:"12"`
	EndPoints     EndPoints       `json:"endPoints,omitempty" enum:"hydroxide-carbonate,carbonate-hydrogencarbonate"`
	Other         string          `json:"other,omitempty" maxLength:"200"`
	Titrant       Solution        `json:"titrant"`
	Analyte       Solution        `json:"analyte"`
	Aliquot       glass.Pipette   `json:"aliquot,omitzero"`
	SampleBy      string          `json:"sampleBy,omitempty" enum:"pipette,burette"`
	Burette       glass.Burette   `json:"burette"`
	Supply        Supply          `json:"supply,omitzero"`
	Indicator     string          `json:"indicator" maxLength:"64"`
	Readings      readingRule1    `json:"readings"`
	Agreement     AgreementRule   `json:"agreement"`
	Result        resultRule1     `json:"result"`
	Style         Style           `json:"style"`
	Ask           ask1            `json:"ask,omitzero"`
	Label         Label           `json:"label,omitzero"`
	Standard      string          `json:"standardisedIn,omitempty" maxLength:"64"`
	ExpectedTitre decimal.Decimal `json:"expectedTitre,omitzero"`
	Balance       decimal.Decimal `json:"balance,omitzero"`
	Reference     decimal.Decimal `json:"reference,omitzero"`
}

type readingRule1 struct {
	Resolution   glass.Resolution `json:"resolution" enum:"half,tenth,whole"`
	StartAtZero  bool             `json:"startAtZero,omitempty"`
	NoRough      bool             `json:"noRough,omitempty"`
	FreeFlow     decimal.Decimal  `json:"freeFlow,omitzero"`
	Dropwise     decimal.Decimal  `json:"dropwise,omitzero"`
	Hold         int              `json:"hold,omitempty" minimum:"0" maximum:"300"`
	HideExpected bool             `json:"hideExpected,omitempty"`
}

func (r readingRule1) rule() ReadingRule {
	return ReadingRule{Resolution: r.Resolution, StartAtZero: r.StartAtZero, NoRough: r.NoRough, FreeFlow: r.FreeFlow,
		Dropwise: r.Dropwise, Hold: r.Hold}
}

type resultRule1 struct {
	RoundMean bool    `json:"roundMean,omitempty"`
	Figures   int     `json:"figures,omitempty" minimum:"0" maximum:"8"`
	Show      When    `json:"show" enum:"always,after-attempt,after-marking"`
	Working   Working `json:"working,omitempty" enum:"steps,factors,formula"`
}

type ask1 struct {
	What    What            `json:"what,omitempty" enum:"concentration,mass-concentration,mass-fraction,amount,mass,mass-per-tablet,purity,water,molar-mass,protons,volume-strength,factor"`
	Unit    quantity.Unit   `json:"unit,omitempty" maxLength:"20"`
	As      string          `json:"as,omitempty" maxLength:"200"`
	Density decimal.Decimal `json:"density,omitzero"`
	Nominal decimal.Decimal `json:"nominal,omitzero"`
}

// Upgrade writes the practical as it would be written today. What it computes
// is the same, but where version 1 was wrong: see docs/decisions/0012.
func (v Version1) Upgrade() Practical {
	p := Practical{ID: v.ID, Revision: v.Revision, Title: v.Title, Purpose: v.Purpose, Kind: v.Method,
		Asked: Asked{What: v.Ask.What, Unit: v.Ask.Unit, As: v.Ask.As, Density: v.Ask.Density, Nominal: v.Ask.Nominal,
			Titre: v.ExpectedTitre, Label: v.Label, Reference: v.Reference},
		Chemistry: Chemistry{Equation: v.Equation, Titrated: v.Titrated, Via: v.Via, EndPoints: v.EndPoints, Other: v.Other,
			Titrant: v.Titrant, Analyte: v.Analyte, Indicator: v.Indicator, Standard: v.Standard},
		Route: append([]RouteStep(nil), v.Route...),
		Glass: Glass{Burette: v.Burette, Balance: v.Balance, Supply: v.Supply},
		Rules: Rules{Readings: v.Readings.rule(), Agreement: v.Agreement, RoundMean: v.Result.RoundMean,
			Figures: v.Result.Figures},
		Showing: Showing{Results: v.Result.Show, HideExpected: v.Readings.HideExpected, Working: v.Result.Working,
			Style: v.Style}}
	for i := range p.Route { // a formula said nothing there
		if p.Route[i].Kind != Excess {
			p.Route[i].Formula = ""
		}
		if p.Route[i].Kind != Weigh {
			p.Route[i].EachTrial = false
		}
	}
	if !v.Aliquot.Volume.IsZero() || len(v.Route) == 0 {
		last := RouteStep{Kind: Aliquot, Volume: v.Aliquot.Volume, Class: v.Aliquot.Class, By: By(v.Aliquot.Kind)}
		if len(v.Route) == 0 {
			last.Kind = Pipette
		}
		p.Route = append(p.Route, last)
	}
	if v.SampleBy == string(ByBurette) {
		for i := range p.Route {
			if k := p.Route[i].Kind; k == Excess || k == Pipette {
				p.Route[i].By = ByBurette
				break
			}
		}
	}
	// Available chlorine is told as the chlorine that oxidises as much.
	if v.Ask.As == "Cl2" {
		p.Asked.AsRatio = "1"
		if f, err := chem.ParseFormula(v.Analyte.Formula); err == nil && f.Same(chem.MustFormula("Ca(ClO)2")) {
			p.Asked.AsRatio = "2"
		}
	}
	if _, fault := p.Check(); fault != nil && fault.Code == kindContradict.Name() {
		p.Kind = "" // it was not looked at
	}
	return p
}

// Decode reads a practical as it is kept, of this version or an earlier one.
// Version 1 is told by its method, which every practical of it has and no
// later one.
func Decode(text []byte) (Practical, error) {
	var head struct {
		Method string `json:"method"`
	}
	if err := json.Unmarshal(text, &head); err != nil {
		return Practical{}, err
	}
	if head.Method != "" {
		var old Version1
		if err := json.Unmarshal(text, &old); err != nil {
			return Practical{}, err
		}
		return old.Upgrade(), nil
	}
	var p Practical
	err := json.Unmarshal(text, &p)
	return p, err
}
