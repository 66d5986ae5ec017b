package experiment

import "exactflask/core/record/practical"

// Reader is somebody who looks at a notebook, as far as that decides what they see of it.
type Reader struct {
	Teaches  bool // the class: nothing is withheld
	Released bool // the marks of this report are released to its student
}

// Granted are the parts of an evaluation that a reader is granted; what is withheld is not
// computed. A student gets no result and no verdict before marking, or before an own attempt,
// where the practical says so, and never the true value. Once the marks are released nothing
// is withheld but that. Server and page ask the same.
func Granted(reader Reader, show practical.When, attempted bool) Parts {
	switch {
	case reader.Teaches:
		return All
	case !reader.Released && (show == practical.AfterMarking || show == practical.AfterAttempt && !attempted):
		return Record
	}
	return All &^ PartReference
}

// Granted are the parts of this evaluation.
func (b *Basis) Granted(reader Reader) Parts {
	show := b.rec.r.Showing.Results
	attempted := !reader.Teaches && show == practical.AfterAttempt && b.Attempted()
	return Granted(reader, show, attempted)
}

// Visible is a practical without what a reader must not see: the true value, the scheme of
// marks and the answers to a school's own questions; and while the expected end is hidden, or
// the results are not granted, what they can be computed from.
func Visible(p practical.Practical, reader Reader, granted Parts) practical.Practical {
	if reader.Teaches {
		return p
	}
	return p.Withholding(!granted.Has(PartResult))
}
