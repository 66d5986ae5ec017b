package experiment

import (
	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// prepared says how one's own solution was made; nil where that was not written.
// What was found is compared with it where the unknown is the titrant.
func prepared(rec recorded, r *evaluation.Result) *evaluation.Prepared {
	l := rec.c.Prepared
	if l == nil {
		return nil
	}
	p := l.Part.(journal.Prepared)
	c, made := p.Concentration()
	out := &evaluation.Prepared{Concentration: c.Float64(), Figures: p.Figures(), Volume: made}
	if r != nil && rec.r.UnknownInBurette && r.Answer.Unit == quantity.MolePerL {
		out.Found = compare(r.Answer.Value, out.Concentration)
	}
	return out
}

// ownUsed is how much of one's own solution the trials took, mL: the titrant, or
// where the known one stands in the flask what was pipetted.
func ownUsed(rec recorded, j judged) decimal.Decimal {
	var used decimal.Decimal
	inFlask := rec.r.Chemistry.Standard != "" && rec.r.UnknownInBurette
	for i := range j.trials {
		t := &j.trials[i]
		switch {
		case t.Withdrawn || t.Titre == nil || t.Titre.Sign() <= 0:
		case inFlask:
			if v, ok := rec.assay.Sample(t.Measured); ok {
				used = used.Add(v)
			}
		default:
			used = used.Add(*t.Titre)
		}
	}
	return used
}

// Bottle is a bottle of one's own solution that the trials of several practicals
// draw on.
type Bottle struct {
	Volume decimal.Decimal   `json:"volume" doc:"that was made, mL"`
	Used   decimal.Decimal   `json:"used" doc:"mL, in all practicals that use it"`
	Left   decimal.Decimal   `json:"left" doc:"mL, at most: what was run off or rinsed with is not known"`
	Say    []finding.Message `json:"say"`
	Low    bool              `json:"low,omitempty" doc:"it does not last for two more trials"`
}

var (
	bottleHolds = finding.Declare("bottle.holds", "left", "volume", "used")
	bottleLow   = finding.Declare("bottle.low", "each")
	bottleEmpty = finding.Declare("bottle.empty")
)

// BottleOf reckons what is left of a bottle, and warns before it runs out: a
// solution that has to be made again is another one, and has to be standardised
// again. Expected is the titre of the next trial, where it is known.
func BottleOf(norms practical.Norms, volume decimal.Decimal, used []decimal.Decimal, expected *evaluation.Span) Bottle {
	b := Bottle{Volume: volume, Used: decimal.Sum(used...)}
	b.Left = volume.Sub(b.Used)
	b.Say = []finding.Message{bottleHolds.Message(mL(b.Left), mL(volume), mL(b.Used))}
	each := norms.Value(practical.UsualTitre)
	if expected != nil && expected.High.Sign() > 0 {
		each = expected.High
	}
	switch {
	case b.Left.Sign() <= 0:
		b.Low, b.Say = true, append(b.Say, bottleEmpty.Message())
	case b.Left.Cmp(each.Add(each)) < 0:
		b.Low, b.Say = true, append(b.Say, bottleLow.Message(mL(each)))
	}
	return b
}
