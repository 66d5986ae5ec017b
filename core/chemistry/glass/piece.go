package glass

import (
	"strings"
	"unicode/utf8"

	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Graduated is the kind of glass that delivers what is read off its scale: a burette, or a syringe.
const Graduated Kind = "burette"

// Piece is a piece of glassware that a school has, as it stands on its shelf.
type Piece struct {
	Kind      Kind            `json:"kind" enum:"burette,pipette,cylinder,flask" doc:"burette stands for a syringe too"`
	Name      string          `json:"name" minLength:"1" maxLength:"60" doc:"as people call it, such as 30 mL syringe"`
	Serial    string          `json:"serial,omitempty" maxLength:"40" doc:"number that stands on it"`
	Capacity  decimal.Decimal `json:"capacity" doc:"last mark of a burette, or the volume, mL"`
	Division  decimal.Decimal `json:"division,omitzero" doc:"of a burette: distance of two graduations, mL"`
	First     decimal.Decimal `json:"first,omitzero" doc:"of a burette: lowest mark, where that is not 0, mL"`
	Rising    bool            `json:"rising,omitempty" doc:"of a burette: its scale shows what is left, as that of a syringe does"`
	Class     Class           `json:"class,omitempty" enum:"A,B" doc:"B when left out"`
	Tolerance decimal.Decimal `json:"tolerance,omitzero" doc:"what stands on it or was found by weighing water, mL; by its class when left out"`
}

var (
	nameFault      = finding.Declare("glass.name", "most")
	toleranceFault = finding.Declare("glass.tolerance", "value")
	firstFault     = finding.Declare("glass.first", "value")
	manyFault      = finding.Declare("glass.many", "most")
)

// MostPieces is how many a list may have.
const MostPieces = 100

// CheckAll returns the fault of a list, at its piece.
func CheckAll(pieces []Piece) *finding.Fault {
	if len(pieces) > MostPieces {
		return manyFault.Fault("glass", finding.Count(MostPieces))
	}
	for i, p := range pieces {
		if f := p.Check(); f != nil {
			return f.In("glass[" + finding.Count(i).String() + "]")
		}
	}
	return nil
}

// Check returns a fault when the piece cannot be one.
func (p Piece) Check() *finding.Fault {
	if n := utf8.RuneCountInString(p.Name); strings.TrimSpace(p.Name) == "" || n > 60 || utf8.RuneCountInString(p.Serial) > 40 {
		return nameFault.Fault("name", finding.Count(60))
	}
	if p.Kind == Graduated {
		return p.Burette().Check()
	}
	if p.Kind != OneMark && p.Kind != Cylinder && p.Kind != Flask {
		return kindFault.Fault("kind", finding.Text(string(p.Kind)))
	}
	if p.Capacity.Sign() <= 0 || p.Capacity.Cmp(decimal.Whole(10000)) > 0 {
		return volumeFault.Fault("capacity", finding.Exact(p.Capacity, quantity.Millilitre))
	}
	if p.Class != "" && p.Class != ClassA && p.Class != ClassB {
		return classFault.Fault("class", finding.Text(string(p.Class)))
	}
	return within(p.Tolerance, p.Capacity)
}

// within checks a tolerance of one's own: more than nothing, and less than the glass holds.
func within(tolerance, capacity decimal.Decimal) *finding.Fault {
	if tolerance.Sign() < 0 || tolerance.Cmp(capacity) >= 0 {
		return toleranceFault.Fault("tolerance", finding.Exact(tolerance, quantity.Millilitre))
	}
	return nil
}

// Burette is the piece as a practical uses it, under the name and number that stand on it.
func (p Piece) Burette() Burette {
	b := Burette{Capacity: p.Capacity, Division: p.Division, Class: p.Class, Rising: p.Rising, First: p.First, Within: p.Tolerance, Name: p.Name}
	if p.Serial != "" {
		b.Name += " (" + p.Serial + ")"
	}
	if b.Class == "" {
		b.Class = ClassB
	}
	return b
}

// Usual are pieces that most schools have, without names of their own. Common practice, no source.
var Usual = func() []Piece {
	burette := func(capacity, division string, rising bool) Piece {
		return Piece{Kind: Graduated, Capacity: decimal.Must(capacity), Division: decimal.Must(division), Rising: rising}
	}
	return []Piece{burette("50.00", "0.1", false), burette("25.00", "0.1", false), burette("25.00", "0.05", false),
		burette("10.00", "0.02", false), burette("30.0", "1", true), burette("10.0", "0.2", true)}
}()
