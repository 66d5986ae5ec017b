//go:build !js

// The page does without this: its core neither marks nor plans.

package view

import (
	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/wording"
)

// Catalogue is the built-in catalogue with a person's own reactions, in the
// reader's words.
type Catalogue struct {
	Substances []Substance          `json:"substances"`
	Indicators []CatalogueIndicator `json:"indicators"`
	Reactions  []Reaction           `json:"reactions"`
	Standards  []Standard           `json:"standards"`
	Own        []Reaction           `json:"own" doc:"reactions that this person added"`
	Fresh      practical.Practical  `json:"fresh" doc:"what a practical of one's own begins with"`
}

// Substance is a substance with its names and what follows from its formula.
type Substance struct {
	ID        string             `json:"id"`
	Formula   string             `json:"formula" doc:"plain"`
	Written   string             `json:"written" doc:"formula in Unicode"`
	Name      string             `json:"name"`
	Also      string             `json:"also,omitempty" doc:"other names in use"`
	MolarMass float64            `json:"molarMass" doc:"g/mol"`
	PKa       []decimal.Decimal  `json:"pKa,omitempty" doc:"in water at 25 degrees Celsius, the strongest first"`
	Cautions  []SubstanceCaution `json:"cautions" doc:"those of any concentration first"`
	Source    string             `json:"source"`
}

// SubstanceCaution is what to mind from a concentration on.
type SubstanceCaution struct {
	From decimal.Decimal `json:"from" doc:"mol/L; 0 for the solid and every solution"`
	Text string          `json:"text"`
}

// CatalogueIndicator is an indicator with its names.
type CatalogueIndicator struct {
	catalog.Indicator
	Name         string `json:"name"`
	AcidText     string `json:"acidText" doc:"colour below, or of the reduced form"`
	AlkalineText string `json:"alkalineText"`
	EndAcid      string `json:"endAcid" doc:"what the eye stops at with the acid in the burette"`
	EndAlkali    string `json:"endAlkali"`
	When         string `json:"when,omitempty"`
}

// Reaction is a reaction with the way it is usually set up.
type Reaction struct {
	catalog.Reaction
	Name    string             `json:"name"`
	Note    string             `json:"note,omitempty"`
	Written string             `json:"written" doc:"equation in Unicode"`
	LaTeX   string             `json:"latex"`
	Titrant practical.Solution `json:"titrant" doc:"of the usual strength"`
	Analyte practical.Solution `json:"analyte" doc:"about as strong"`
}

// Standard is a standard with what is done with it.
type Standard struct {
	catalog.Standard
	Name     string `json:"name"`
	Use      string `json:"use" doc:"what it standardises"`
	Drying   string `json:"drying"`
	Handling string `json:"handling"`
	Life     string `json:"shelfLife"`
}

// OwnReaction is a reaction that a person added.
type OwnReaction struct{ ID, Name, Equation string }

// CatalogueOf puts the catalogue into words.
func CatalogueOf(c *catalog.Catalog, own []OwnReaction, style practical.Style) Catalogue {
	w := wording.For(style)
	out := Catalogue{Substances: make([]Substance, len(c.Substances)),
		Indicators: make([]CatalogueIndicator, len(c.Indicators)),
		Fresh:      practical.Fresh(), Reactions: make([]Reaction, len(c.Reactions)), Standards: make([]Standard, len(c.Standards)), Own: make([]Reaction,
			len(own))}
	for i, s := range c.Substances {
		f := chem.MustFormula(s.Formula)
		out.Substances[i] = Substance{ID: s.ID, Formula: s.Formula, Written: f.String(), Name: w.Text(s.NameCode()),
			Also:      optional(w, "substance."+s.ID+".also"),
			MolarMass: f.MolarMass().Float64(), Cautions: []SubstanceCaution{}, Source: s.Source}
		if s.InWater != nil {
			out.Substances[i].PKa = s.InWater.PKa
		}
		for _, caution := range s.Cautions {
			out.Substances[i].Cautions = append(out.Substances[i].Cautions,
				SubstanceCaution{caution.From, w.Text("caution." + caution.Code)})
		}
	}
	for i, x := range c.Indicators {
		out.Indicators[i] = CatalogueIndicator{x, w.Text(x.NameCode()), colour(w, x.Acid), colour(w, x.Alkaline),
			w.Text(x.EndCode(true)), w.Text(x.EndCode(false)), optional(w, "indicator."+x.ID+".when")}
	}
	for i, r := range c.Reactions {
		out.Reactions[i] = reaction(w, r, w.Text("reaction."+r.ID+".name"), optional(w, "reaction."+r.ID+".note"))
	}
	for i, r := range own {
		out.Own[i] = OwnReactionOf(r, style)
	}
	for i, s := range c.Standards {
		code := "standard." + s.Substance
		out.Standards[i] = Standard{s, w.Text("substance." + s.Substance + ".name"), w.Text(code + ".use"),
			w.Text(code + ".drying"), optional(w, code+".handling"), w.Text(code + ".life")}
	}
	return out
}

// OwnReactionOf is a person's own reaction beside those of the catalogue.
func OwnReactionOf(r OwnReaction, style practical.Style) Reaction {
	w := wording.For(style)
	return reaction(w, catalog.Reaction{ID: r.ID, Kind: "own", Equation: r.Equation, Indicators: []string{},
		Source: w.Text("reaction.own-source")}, r.Name, "")
}

func reaction(w wording.Writer, r catalog.Reaction, name, note string) Reaction {
	titrant, analyte := r.Begin()
	out := Reaction{Reaction: r, Name: name, Note: note, Written: r.Equation, Titrant: reagent(w, titrant),
		Analyte: reagent(w, analyte)}
	out.Titrant.Concentration, out.Analyte.Approximate = practical.UsualStrength, practical.UsualStrength
	if eq, err := chem.ParseEquation(r.Equation); err == nil {
		out.Written, out.LaTeX = eq.String(), eq.LaTeX()
	}
	return out
}

func reagent(w wording.Writer, f chem.Formula) practical.Solution {
	if s, ok := catalog.BuiltIn().Substance(f); ok {
		return practical.Solution{Name: w.Text(s.NameCode()), Formula: s.Formula}
	}
	return practical.Solution{Name: f.String(), Formula: f.Plain()}
}

func optional(w wording.Writer, code string) string {
	if w.Has(code) {
		return w.Text(code)
	}
	return ""
}

func colour(w wording.Writer, code string) string { return optional(w, "colour."+code) }
