// Package catalog holds what is known beforehand: substances with their
// cautions, indicators and reactions, each with its source. The data are JSON
// files beside this one and are built into the program. Names, cautions and
// other texts stand in the messages of each language, under the codes that
// the entries and their methods give.
package catalog

import (
	"bytes"
	"embed"
	"encoding/json"
	"fmt"
	"sort"

	"exactflask/core/chemistry/chem"
	"exactflask/core/values/decimal"
)

//go:embed *.json
var files embed.FS

// Substance is a reagent or a product worth naming.
type Substance struct {
	ID      string   `json:"id"`
	Formula string   `json:"formula"`
	Written []string `json:"written,omitempty" doc:"other formulas that are written for it, of other atoms, such as NH4OH"`
	// Cautions are for its solutions and, where the text says so, the solid.
	Cautions []Caution `json:"cautions,omitempty"`
	InWater  *InWater  `json:"inWater,omitempty" doc:"how it takes part in acid-base equilibria; left out where that is not known here"`
	Stock    *Stock    `json:"stock,omitempty" doc:"the concentrated reagent it is made from, where it is no solid"`
	// Solubility tells the answers that cannot be.
	Solubility decimal.Decimal `json:"solubility,omitzero" doc:"g in 100 g of water at 20 to 25 degrees Celsius, of a solid"`
	Source     string          `json:"source"`
}

// Stock is a concentrated reagent as it is bought.
type Stock struct {
	Percent decimal.Decimal `json:"percent" doc:"% w/w"`
	Density decimal.Decimal `json:"density" doc:"g/mL"`
}

// InWater says what one formula unit brings into water.
type InWater struct {
	Strong int               `json:"strong" doc:"net charge of its ions that take no part: +1 for NaOH, -1 for HCl"`
	Top    int               `json:"top,omitempty" doc:"charge of its most protonated form"`
	PKa    []decimal.Decimal `json:"pKa,omitempty" doc:"at 25 degrees Celsius, the strongest first; none for strong acids and bases"`
	Units  int               `json:"units,omitempty" doc:"how many such groups one formula unit gives; 1 when left out"`
}

// Caution is a warning that holds from a concentration upward.
type Caution struct {
	From decimal.Decimal `json:"from" doc:"mol/L; 0 for any"`
	Code string          `json:"code"`
}

// IndicatorKind is how an indicator tells the end.
type IndicatorKind string

// The kinds: by pH, by potential, permanganate by its own colour, starch by
// iodine, and a pH meter.
const (
	AcidBase IndicatorKind = "acid-base"
	Redox    IndicatorKind = "redox"
	Self     IndicatorKind = "self"
	Starch   IndicatorKind = "starch"
	Meter    IndicatorKind = "meter"
)

// Indicator shows the end of a titration. A universal indicator is none.
type Indicator struct {
	ID        string          `json:"id"`
	Kind      IndicatorKind   `json:"kind" enum:"acid-base,redox,self,starch,meter"`
	Low       decimal.Decimal `json:"low,omitzero" doc:"pH at which the change begins"`
	High      decimal.Decimal `json:"high,omitzero" doc:"pH at which it is complete"`
	Potential decimal.Decimal `json:"potential,omitzero" doc:"V, at which a redox indicator changes"`
	Seen      decimal.Decimal `json:"seen,omitzero" doc:"V, at which the eye sees the change, where that is another"`
	Acid      string          `json:"acid" doc:"code of the colour below, or of the reduced form"`
	Alkaline  string          `json:"alkaline" doc:"code of the colour above, or of the oxidised form"`
	Eye       *Eye            `json:"eye,omitempty" doc:"pH at which the eye stops; the middle of the range when left out"`
	Many      bool            `json:"many,omitempty" doc:"it passes through many colours, and so shows a pH and no end"`
	Cautions  []Caution       `json:"cautions,omitempty"`
	Source    string          `json:"source"`
}

// Eye is the pH at which the eye stops; it depends on the direction.
type Eye struct {
	AcidInBurette   decimal.Decimal `json:"acidInBurette"`
	AlkaliInBurette decimal.Decimal `json:"alkaliInBurette"`
}

// Reaction is a titration reaction with the indicators that are used for it.
type Reaction struct {
	ID         string   `json:"id"`
	Kind       string   `json:"kind" enum:"acid-base,redox"`
	Equation   string   `json:"equation" doc:"balanced"`
	Acid       string   `json:"acid" doc:"id of the acid, or of the oxidant"`
	Base       string   `json:"base" doc:"id of the base, or of the reductant"`
	Indicators []string `json:"indicators"`
	Source     string   `json:"source"`
}

// Standard is a substance that concentrations are traced to. A secondary one
// is standardised itself.
type Standard struct {
	Substance string            `json:"substance"`
	Kind      string            `json:"kind" enum:"primary,secondary"`
	Drying    decimal.Decimal   `json:"drying,omitzero" doc:"hours in the oven; left out where it is not dried so"`
	Purity    []decimal.Decimal `json:"purity" doc:"usual fraction, and plus or minus how much"`
	Source    string            `json:"source"`
}

// Couple is a redox couple: its half-reaction as a reduction, and the first of
// each list is the form that stands in it; the others bring one of that form.
type Couple struct {
	Half      string          `json:"half" doc:"oxidised form, hydrogen ions and electrons -> reduced form and water"`
	Oxidised  []string        `json:"oxidised"`
	Reduced   []string        `json:"reduced"`
	Potential decimal.Decimal `json:"potential" doc:"V; hydrogen ions that take part are at 1 mol/L"`
	Kind      PotentialKind   `json:"kind" enum:"standard,formal"`
	Medium    string          `json:"medium,omitempty" doc:"code of the medium of a formal potential"`
	Source    string          `json:"source"`
	// Own is the number of electrons of a couple that a practical gives, one ion
	// to one ion, without a half-reaction.
	Own int `json:"-"`
}

// PotentialKind says what a potential is: a standard one, or the formal one of
// a medium.
type PotentialKind string

// The kinds of potential.
const (
	StandardPotential PotentialKind = "standard"
	FormalPotential   PotentialKind = "formal"
)

// Reaction returns the half-reaction, and how many of each form and how many
// electrons stand in it.
func (c Couple) Reaction() (half chem.HalfReaction, oxidised, reduced int) {
	if c.Own > 0 {
		return chem.HalfReaction{Electrons: c.Own}, 1, 1
	}
	half, err := chem.ParseHalf(c.Half, chem.InAcid)
	if err != nil {
		panic(err) // the table is tested
	}
	oxidised, _ = half.Equation.Coefficient(chem.MustFormula(c.Oxidised[0]))
	reduced, _ = half.Equation.Coefficient(chem.MustFormula(c.Reduced[0]))
	return half, oxidised, reduced
}

// Couple finds the couple of a substance, and whether it is the oxidised form.
func (c *Catalog) Couple(f chem.Formula) (couple Couple, oxidised, ok bool) {
	for _, k := range c.Couples {
		for i, side := range [...][]string{k.Oxidised, k.Reduced} {
			for _, text := range side {
				if chem.MustFormula(text).Same(f) {
					return k, i == 0, true
				}
			}
		}
	}
	return Couple{}, false, false
}

// Catalog is read-only after Load.
type Catalog struct {
	Substances []Substance
	Indicators []Indicator
	Reactions  []Reaction
	Standards  []Standard
	Couples    []Couple
}

// builtIn is read once; the files are part of the program and are tested.
var builtIn = func() *Catalog {
	c, err := load()
	if err != nil {
		panic(err)
	}
	return c
}()

// BuiltIn returns the catalogue of this program.
func BuiltIn() *Catalog { return builtIn }

func load() (*Catalog, error) {
	var c Catalog
	for name, into := range map[string]any{"substances.json": &c.Substances, "indicators.json": &c.Indicators,
		"reactions.json": &c.Reactions, "standards.json": &c.Standards, "couples.json": &c.Couples} {
		text, err := files.ReadFile(name)
		if err != nil {
			return nil, fmt.Errorf("catalogue: %w", err)
		}
		d := json.NewDecoder(bytes.NewReader(text))
		d.DisallowUnknownFields()
		if err := d.Decode(into); err != nil {
			return nil, fmt.Errorf("catalogue file %s: %w", name, err)
		}
	}
	return &c, nil
}

// Indicator looks an indicator up by its id.
func (c *Catalog) Indicator(id string) (Indicator, bool) {
	for _, i := range c.Indicators {
		if i.ID == id {
			return i, true
		}
	}
	return Indicator{}, false
}

// SubstanceByID looks a substance up by its id.
func (c *Catalog) SubstanceByID(id string) (Substance, bool) {
	for _, s := range c.Substances {
		if s.ID == id {
			return s, true
		}
	}
	return Substance{}, false
}

// Substance finds the substance of a formula (same atoms and charge; a
// hydrate and its anhydrous form are different substances).
func (c *Catalog) Substance(f chem.Formula) (Substance, bool) {
	for i, s := range c.Substances {
		for _, g := range substanceFormulas[i] {
			if g.Same(f) {
				return s, true
			}
		}
	}
	return Substance{}, false
}

// Hydrates are the other solids that make the same solution as a formula: the same but for their
// water of crystallisation.
func (c *Catalog) Hydrates(f chem.Formula) []chem.Formula {
	dry, _ := f.Anhydrous()
	var out []chem.Formula
	for i := range c.Substances {
		g := substanceFormulas[i][0]
		if same, _ := g.Anhydrous(); same.Same(dry) && !g.Same(f) {
			out = append(out, g)
		}
	}
	return out
}

// InWater finds how a substance takes part in acid-base equilibria, of an ion or a salt by the acid
// or base that it is made of; false where that is not known here.
func (c *Catalog) InWater(f chem.Formula) (InWater, bool) {
	if s, ok := c.Substance(f); ok && s.InWater != nil {
		return *s.InWater, true
	}
	return salt(f)
}

// substanceFormulas are those of each substance, its own first.
var substanceFormulas = func() [][]chem.Formula {
	out := make([][]chem.Formula, len(builtIn.Substances))
	for i, s := range builtIn.Substances {
		out[i] = []chem.Formula{chem.MustFormula(s.Formula)}
		for _, text := range s.Written {
			out[i] = append(out[i], chem.MustFormula(text))
		}
	}
	return out
}()

// CautionsAt returns the codes of the cautions of a solution of this substance at a
// concentration in mol/L, the gravest (highest limit) first.
func (s Substance) CautionsAt(concentration decimal.Decimal) []string {
	held := make([]Caution, 0, len(s.Cautions))
	for _, c := range s.Cautions {
		if c.From.Cmp(concentration) <= 0 {
			held = append(held, c)
		}
	}
	sort.SliceStable(held, func(i, j int) bool { return held[i].From.Cmp(held[j].From) > 0 })
	out := make([]string, len(held))
	for i, c := range held {
		out[i] = c.Code
	}
	return out
}

// NameCode is the code of the substance's name.
func (s Substance) NameCode() string { return "substance." + s.ID + ".name" }

// NameCode is the code of the indicator's name.
func (i Indicator) NameCode() string { return "indicator." + i.ID + ".name" }

// EndCode is the code of what the eye stops at; it depends on what is in the
// burette.
func (i Indicator) EndCode(acidInBurette bool) string {
	if acidInBurette {
		return "indicator." + i.ID + ".end-acid"
	}
	return "indicator." + i.ID + ".end-alkali"
}

// Equivalents returns how many protons one formula unit gives, and how many it
// takes, until nothing of it is left that does.
func (w InWater) Equivalents() (gives, takes int) {
	units := max(w.Units, 1)
	takes = w.Strong + units*w.Top
	gives = units*len(w.PKa) - takes
	return max(gives, 0), max(takes, 0)
}

// ProtonsOf is how many protons one unit of a reagent gives or takes when an
// acid or a base is titrated with it: 1 of sodium hydroxide, 2 of barium
// hydroxide or sulfuric acid. 0 where that is not known.
func (c *Catalog) ProtonsOf(f chem.Formula) int {
	s, ok := c.Substance(f)
	if !ok || s.InWater == nil {
		return 0
	}
	gives, takes := s.InWater.Equivalents()
	if gives > 0 {
		return gives
	}
	return takes
}

// AcidIn tells whether the acid (or the oxidant) is the substance, by the
// reactions that are listed.
func (c *Catalog) AcidIn(f chem.Formula) bool {
	s, ok := c.Substance(f)
	if !ok {
		return false
	}
	for _, r := range c.Reactions {
		if r.Acid == s.ID {
			return true
		}
	}
	return false
}

// Begin says which of the reaction's two substances is usually run in:
// hydroxides, oxidants and strong acids are, iodine is titrated with
// thiosulfate. Source: common practice, no source.
func (r Reaction) Begin() (titrant, analyte chem.Formula) {
	find := func(id string, at int) chem.Formula {
		if s, ok := builtIn.SubstanceByID(id); ok {
			return chem.MustFormula(s.Formula)
		}
		eq, err := chem.ParseEquation(r.Equation)
		if err != nil || at >= len(eq.Reactants) {
			return chem.Formula{}
		}
		return eq.Reactants[at].Formula
	}
	first, second := find(r.Acid, 0), find(r.Base, 1)
	if second.Plain() == "NaOH" || second.Plain() == "KOH" || r.ID == "iodine-thiosulfate" {
		return second, first
	}
	return first, second
}
