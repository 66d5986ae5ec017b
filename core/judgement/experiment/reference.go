package experiment

import (
	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/diagnosis"
	"exactflask/core/model/derivation"
	"exactflask/core/record/practical"
)

// TitreOff is by how much the titres that count lie above what the trials would take for
// a true answer, on average, mL. False where nothing counts, where several samples are
// compared, or where no titre follows from one answer.
func (b *Basis) TitreOff(answer float64) (float64, bool) {
	if b.groups != nil || b.rec.r.Chemistry.EndPoints != practical.OneEndPoint || b.j.verdict.Status != agreement.Agreed {
		return 0, false
	}
	sum, n := 0.0, 0
	for _, t := range b.j.averaged() {
		should, problem := b.rec.assay.Forward(t.Measured, answer, 0)
		if problem != nil {
			return 0, false
		}
		sum, n = sum+t.Measured.Titre().Float64()-should.Last, n+1
	}
	return sum / float64(n), n > 0
}

// Working is what the student's own working is judged against: how the answer follows,
// and what slips are found from. False until the titres agree, and where several samples
// are compared.
func (b *Basis) Working() (derivation.Derivation, diagnosis.Record, bool) {
	if b.groups != nil || b.j.verdict.Status != agreement.Agreed {
		return derivation.Derivation{}, diagnosis.Record{}, false
	}
	d, problem := b.j.derive()
	return d, slipsOf(b.rec.r, b.j), problem == nil
}
