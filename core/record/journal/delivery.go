package journal

import "exactflask/core/values/decimal"

// Delivery is how a burette was read while it gave its liquid: where it began, and
// before and after each filling. What has run at a reading, and the reading at which so
// much has run, follow from it; nothing else says so.
type Delivery struct {
	Start  *Reading
	Fills  []Refill
	Rising bool // the scale shows what is left in the burette
}

// Delivery is that of the trial's titrant, from a burette whose scale rises or not.
func (t *Trial) Delivery(rising bool) Delivery { return Delivery{t.Start, t.Refills, rising} }

// Ran is what has run at a reading that was taken after so many fillings, mL, exact.
// False where the start was not read, or one side of a filling is missing: then it is not
// told. It may be negative: an odd record is kept and flagged.
func (d Delivery) Ran(at decimal.Decimal, fills int) (decimal.Decimal, bool) {
	shift, ok := d.shift(fills)
	v := at.Sub(shift)
	if d.Rising {
		v = decimal.Decimal{}.Sub(v)
	}
	return v, ok
}

// To is what has run to a reading that ends it, after so many fillings, with the decimals of that
// reading where that loses nothing: from 0.00 to 13.1 it is 13.1, and not 13.10, which nobody read.
func (d Delivery) To(end Reading, fills int) (decimal.Decimal, bool) {
	v, ok := d.Ran(end.Value, fills)
	if short := v.Round(end.Value.Places()); short.Cmp(v) == 0 {
		return short, ok
	}
	return v, ok
}

// At is the reading at which so much has run after so many fillings, mL: the inverse of
// Ran. It may lie beyond the scale.
func (d Delivery) At(ran decimal.Decimal, fills int) (decimal.Decimal, bool) {
	shift, ok := d.shift(fills)
	if d.Rising {
		ran = decimal.Decimal{}.Sub(ran)
	}
	return shift.Add(ran), ok
}

// shift is where the scale would have stood at the start, had it been longer instead of
// being filled.
func (d Delivery) shift(fills int) (decimal.Decimal, bool) {
	if d.Start == nil || fills > len(d.Fills) {
		return decimal.Decimal{}, false
	}
	at := d.Start.Value
	for _, f := range d.Fills[:fills] {
		if f.Before == nil || f.After == nil {
			return decimal.Decimal{}, false
		}
		at = at.Sub(f.Before.Value).Add(f.After.Value)
	}
	return at, true
}

// Titre is what ran from start to end over all fillings, mL, exact, and whether all has
// been read.
func (t *Trial) Titre(rising bool) (decimal.Decimal, bool) {
	if t.End == nil {
		return decimal.Decimal{}, false
	}
	return t.Delivery(rising).To(*t.End, len(t.Refills))
}

// FirstTitre is Titre to the first of two end points, over the fillings before it.
func (t *Trial) FirstTitre(rising bool) (decimal.Decimal, bool) {
	if t.FirstEnd == nil {
		return decimal.Decimal{}, false
	}
	return t.Delivery(rising).To(*t.FirstEnd, t.FirstFills)
}
