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

	"exactflask/core/chem"
	"exactflask/core/decimal"
)

//go:embed *.json
var files embed.FS

// Substance is a reagent or a product worth naming.
type Substance struct {
	ID      string `json:"id"`
	Formula string `json:"formula"`
	// Cautions are for its solutions and, where the text says so, the solid.
	Cautions []Caution `json:"cautions,omitempty"`
	InWater  *InWater  `json:"inWater,omitempty" doc:"how it takes part in acid-base equilibria; left out where that is not known here"`
	Stock    *Stock    `json:"stock,omitempty" doc:"the concentrated reagent it is made from, where it is no solid"`
	Source   string    `json:"source"`
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
	Acid      string          `json:"acid" doc:"code of the colour below, or of the reduced form"`
	Alkaline  string          `json:"alkaline" doc:"code of the colour above, or of the oxidised form"`
	Eye       *Eye            `json:"eye,omitempty" doc:"pH at which the eye stops; the middle of the range when left out"`
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
	Purity    []decimal.Decimal `json:"purity" doc:"usual fraction, and plus or minus how much"`
	Source    string            `json:"source"`
}

// Couple is a redox couple with its formal potential in the medium of usual
// titrations. The formulas are those of the ions and of salts that bring them.
type Couple struct {
	Oxidised  []string        `json:"oxidised"`
	Reduced   []string        `json:"reduced"`
	Potential decimal.Decimal `json:"potential" doc:"V"`
	Electrons int             `json:"electrons" doc:"for one formula unit"`
	Source    string          `json:"source"`
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
	for name, into := range map[string]any{"substances.json": &c.Substances, "indicators.json": &c.Indicators, "reactions.json": &c.Reactions, "standards.json": &c.Standards, "couples.json": &c.Couples} {
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
		if substanceFormulas[i].Same(f) {
			return s, true
		}
	}
	return Substance{}, false
}

var substanceFormulas = func() []chem.Formula {
	out := make([]chem.Formula, len(builtIn.Substances))
	for i, s := range builtIn.Substances {
		out[i] = chem.MustFormula(s.Formula)
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
// takes, until nothing of it is left that does; false where that is not known.
func (s Substance) Equivalents() (gives, takes int, ok bool) {
	w := s.InWater
	if w == nil {
		return 0, 0, false
	}
	units := max(w.Units, 1)
	takes = w.Strong + units*w.Top
	gives = units*len(w.PKa) - takes
	return max(gives, 0), max(takes, 0), true
}

// ProtonsOf is how many protons one unit of a reagent gives or takes when an
// acid or a base is titrated with it: 1 of sodium hydroxide, 2 of barium
// hydroxide or sulfuric acid. 0 where that is not known.
func (c *Catalog) ProtonsOf(f chem.Formula) int {
	s, ok := c.Substance(f)
	if !ok {
		return 0
	}
	gives, takes, _ := s.Equivalents()
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
