package practical

import (
	"exactflask/core/values/decimal"
)

// AgreementRule is a school's rule of agreement.
type AgreementRule struct {
	Kind AgreementKind `json:"kind,omitempty" enum:"spread,relative" doc:"spread of the titres in mL (when left out), or relative, for unequal samples"`
	// Tolerance is the largest difference in mL between the highest and the
	// lowest titre of a set that agrees; a difference equal to it agrees.
	Tolerance decimal.Decimal `json:"tolerance,omitzero" doc:"largest spread of an agreeing set, mL, inclusive"`
	// Percent is p of the relative rule: results lie within ±p % of their mean
	// when their largest difference is at most 2p % of it.
	Percent decimal.Decimal `json:"percent,omitzero" pattern:"^[0-9.,]*[1-9][0-9.,]*$" patternDescription:"positive" doc:"relative rule: results within plus or minus this many % of their mean, more than 0; 2 when left out"`
	// Need is how many titres must agree: 2 or 3; 1 where one determination is enough. Then
	// nothing has to agree, and whatever was not set aside is averaged.
	Need int `json:"need" minimum:"1" maximum:"3" doc:"how many titres must agree; 1: one determination is enough, and nothing has to agree"`
	// AsTimeAllows lets fewer count where there was no time for as many: those that there are
	// have to agree.
	AsTimeAllows bool    `json:"asTimeAllows,omitempty" doc:"fewer count too, where there was no time for as many; they have to agree"`
	Average      Average `json:"average,omitempty" enum:"largest,all,closest" doc:"which are averaged: the largest agreeing set (when left out), all that were not set aside, or as few and close as are needed"`
	// RoughCounts lets a rough trial take part.
	RoughCounts bool `json:"roughCounts,omitempty" doc:"the rough trial may take part if it agrees"`
}

// AgreementKind is the way titres are compared.
type AgreementKind string

// The kinds of rule. Relative compares the answers of the trials, each from its
// own sample.
const (
	Spread   AgreementKind = "spread"
	Relative AgreementKind = "relative"
)

// Average says which titres are averaged.
type Average string

// The choices of Average.
const (
	AverageLargest Average = "largest"
	AverageAll     Average = "all"
	AverageClosest Average = "closest"
)

// PercentOr2 is the percentage of the relative rule, 2 when none is given.
func (r AgreementRule) PercentOr2() decimal.Decimal {
	if r.Percent.IsZero() {
		return decimal.Whole(2)
	}
	return r.Percent
}

// Within tells whether a set with this lowest and highest value and this mean
// agrees. Under the relative rule a mean that is not positive never agrees.
func (r AgreementRule) Within(spread, mean decimal.Decimal) bool {
	if r.Kind == Relative {
		return mean.Sign() > 0 && spread.Mul(decimal.Whole(50)).Cmp(r.PercentOr2().Mul(mean)) <= 0
	}
	return spread.Cmp(r.Tolerance) <= 0
}
