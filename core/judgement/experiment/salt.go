package experiment

import (
	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/model/assay"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

var (
	nextRepeat   = finding.Declare("next.repeat", "volume")
	nextCrystals = finding.Declare("next.crystals", "expected", "formula")
	saltWet      = finding.Declare("salt.wet", "yield")
	saltRanOff   = finding.Declare("salt.ran-off", "ran", "volume")
)

// makeSalt says what there is to say of the salt; nil before the titres agree, or
// where none is made. The amount is that of what was titrated in one flask.
func makeSalt(rec recorded, j judged) *evaluation.Salt {
	molar := rec.r.Crystals.MolarMass().Float64()
	if rec.r.Chemistry.Salt == "" || molar <= 0 || j.verdict.Status != agreement.Agreed || j.agreement.Mean == nil {
		return nil
	}
	out := &evaluation.Salt{Formula: rec.r.Crystals.Plain(), Volume: j.agreement.Mean.Round(2)}
	flask, ok := rec.assay.InFlask(assay.Measured{Trial: next}, j.agreement.Mean.Float64())
	if !ok {
		return nil
	}
	first := rec.r.Reactions[0]
	out.Expected = flask.Amount * float64(rec.r.CrystalNu) / float64(first.NuTo) * molar
	for i := range j.trials {
		if t := &j.trials[i]; t.Type == journal.Repeat && !t.Withdrawn && t.SetAside == nil && t.Titre != nil {
			out.Ran = t.Titre
		}
	}
	if l := rec.c.Weighed; l != nil && out.Ran != nil {
		mass := l.Part.(journal.Weighing).Mass()
		out.Crystals = &mass
		if out.Expected > 0 {
			out.Yield = 100 * mass.Float64() / out.Expected
		}
	}
	return out
}

// withSalt is what to do now where a salt is made (nil: none is).
func withSalt(n evaluation.Next, s *evaluation.Salt) evaluation.Next {
	switch {
	case s == nil:
	case s.Ran == nil:
		n.Say = []finding.Message{nextRepeat.Message(mL(s.Volume))}
		if n.Entry != nil && n.Entry.Opens != "" {
			entry := *n.Entry
			entry.Opens, n.Entry = journal.Repeat, &entry
		}
	case s.Crystals == nil:
		n.Say = []finding.Message{nextCrystals.Message(finding.Number(s.Expected, 3, quantity.Gram), finding.Formula(s.Formula))}
		n.Weigh = &evaluation.Weigh{}
	}
	return n
}

func saltFindings(norms practical.Norms, s *evaluation.Salt) []finding.Finding {
	var out []finding.Finding
	if s == nil {
		return nil
	}
	if s.Ran != nil {
		off := s.Ran.Sub(s.Volume)
		if off.Sign() < 0 {
			off = s.Volume.Sub(*s.Ran)
		}
		if off.Cmp(norms.Value(practical.RepeatOff)) > 0 {
			out = append(out, saltRanOff.Finding(finding.Check, "", mL(*s.Ran), mL(s.Volume)))
		}
	}
	if s.Yield > 100 {
		out = append(out, saltWet.Finding(finding.Check, "", finding.Number(s.Yield, 3, quantity.Percent)))
	}
	return out
}
