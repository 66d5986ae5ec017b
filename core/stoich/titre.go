package stoich

import (
	"fmt"

	"exactflask/core/decimal"
	"exactflask/core/quantity"
)

// Reading is a reading of a scale with the entry it stands in.
type Reading struct {
	Entry string
	Value decimal.Decimal
	Text  string
}

// Titre is one averaged trial. Refills are pairs of readings before and after
// filling within the trial. Sample is filled where each sample was measured
// with a burette of its own, Mass where each was weighed; Middle where there
// is a first end point on the way.
type Titre struct {
	Trial      string
	Start, End Reading
	Middle     *Reading
	Refills    [][2]Reading
	Sample     *[2]Reading // start and end
	Mass       *[2]Reading // full and emptied vessel
}

// until says up to which end point a titre is taken.
type until bool

const (
	last   until = true
	middle until = false
)

// volume is the titre in mL, summed over the fills.
func (t Titre) volume(to until) (decimal.Decimal, error) {
	if to == middle {
		if t.Middle == nil {
			return decimal.Decimal{}, fmt.Errorf("trial %s has no reading at the first end point", t.Trial)
		}
		return t.Middle.Value.Sub(t.Start.Value), nil
	}
	v := t.End.Value.Sub(t.Start.Value)
	for _, r := range t.Refills {
		v = v.Add(r[0].Value).Sub(r[1].Value)
	}
	return v, nil
}

// meanOf adds the titres and their mean. The figures of a sum or difference
// follow its decimals (common practice).
func (b *builder) meanOf(id string, titres []Titre, to until) (string, error) {
	var all []decimal.Decimal
	var ids []string
	places := -1
	for _, t := range titres {
		node, err := b.titre(t, to)
		if err != nil {
			return "", err
		}
		v, _ := t.volume(to)
		all, ids = append(all, v), append(ids, node)
		if places < 0 || v.Places() < places {
			places = v.Places()
		}
	}
	mean, _ := decimal.Mean(all...)
	if mean.Sign() <= 0 {
		return "", fmt.Errorf("the mean titre is %s mL; it must be more than 0", mean.Round(max(places, 0)))
	}
	q := quantity.Of(mean.Round(places), quantity.Millilitre)
	if !b.in.RoundMean {
		q.Value = mean.Float64()
	}
	return b.put(Node{ID: id, Letter: "V", Of: b.in.Titrant.Plain(), Operation: Mean, Inputs: ids, Quantity: q}), nil
}

// titre adds the readings of a trial and their difference; over refills it is
// the sum of the fills.
func (b *builder) titre(t Titre, to until) (string, error) {
	v, err := t.volume(to)
	if err != nil {
		return "", err
	}
	of := b.in.Titrant.Plain()
	id, end := t.Trial+"/titre", t.Trial+"/end"
	r := t.End
	if to == middle {
		id, end, r = t.Trial+"/first-titre", t.Trial+"/first-end", *t.Middle
	}
	read := func(id string, r Reading) string {
		return b.leaf(Node{ID: id, Letter: "V", Of: of, Operation: Read, Entry: r.Entry, Trial: t.Trial, Written: r.Text, Source: "burette"}, r.Value, quantity.Millilitre)
	}
	inputs := []string{read(end, r), read(t.Trial+"/start", t.Start)}
	if to == last {
		for i, r := range t.Refills {
			inputs = append(inputs, read(fmt.Sprintf("%s/before-refill-%d", t.Trial, i+1), r[0]), read(fmt.Sprintf("%s/after-refill-%d", t.Trial, i+1), r[1]))
		}
	}
	if b.prefix != "" && v.Sign() <= 0 {
		return "", fmt.Errorf("the titre of trial %s is %s mL; it must be more than 0", t.Trial, v)
	}
	return b.put(Node{ID: id, Letter: "V", Of: of, Operation: Difference, Inputs: inputs, Trial: t.Trial, Quantity: quantity.Of(v, quantity.Millilitre)}), nil
}
