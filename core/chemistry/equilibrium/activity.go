package equilibrium

import "math"

// strongest is the ionic strength up to which the Davies equation is taken to
// say something, mol/L.
const strongest = 0.5

// gamma is log γ of an ion of a charge at an ionic strength, by Davies.
func gamma(z, ionic float64) float64 {
	return -0.509 * z * z * (math.Sqrt(ionic)/(1+math.Sqrt(ionic)) - 0.3*ionic)
}

// at returns the mixture with the constants of concentrations that hold at an
// ionic strength: HA(z) -> H+ + A(z-1) has Kc = Ka γ(HA) / (γ(H) γ(A)).
func (m Mixture) at(ionic float64) Mixture {
	out := make(Mixture, len(m))
	for i, p := range m {
		s := p.Substance
		s.PKa = append([]float64(nil), s.PKa...)
		z := s.Top
		for j := range s.PKa {
			s.PKa[j] += gamma(1, ionic) + gamma(z-1, ionic) - gamma(z, ionic)
			z--
		}
		out[i] = Part{s, p.Concentration}
	}
	return out
}

// ionic is the ionic strength of a mixture at a concentration of hydrogen ions.
func (m Mixture) ionic(h, kw float64) float64 {
	sum := h + kw/h
	for _, p := range m {
		sum += p.Concentration * math.Abs(p.Substance.Strong)
		z := p.Substance.Top
		for _, f := range p.Substance.Fractions(-math.Log10(h)) {
			sum += p.Concentration * p.Substance.units() * f * z * z
			z--
		}
	}
	return math.Min(sum/2, 1) // the equation says nothing beyond
}

// Davies returns the pH as −log10 of the activity of hydrogen ions, with
// activity coefficients by the Davies equation,
//
//	log γ = −0.509 z² (√I/(1+√I) − 0.3 I),
//
// good to an ionic strength of about 0.5 mol/L, and the ionic strength. Ions
// that take no part count as ions of charge one. Source: C. W. Davies, Ion
// Association, 1962 (from memory).
func (m Mixture) Davies() (pH, ionic float64) {
	pH = m.PH()
	for range 50 {
		adjusted, kw := m.at(ionic), math.Pow(10, -PKw-2*gamma(1, ionic))
		concentration := root(func(x float64) float64 { return adjusted.balance(math.Pow(10, -x), kw) })
		next := adjusted.ionic(math.Pow(10, -concentration), kw)
		pH = concentration - gamma(1, ionic)
		if math.Abs(next-ionic) < 1e-9 {
			break
		}
		ionic = next
	}
	return pH, ionic
}

// VolumeAtActivity is VolumeAt with activities by Davies: the volume at which a
// pH meter, or an indicator, shows this pH. It is false where the ionic strength
// there is beyond what the equation is good for.
func (t Titration) VolumeAtActivity(pH float64) (volume float64, ok bool) {
	ionic := 0.0
	for range 40 {
		h, kw := math.Pow(10, -pH-gamma(1, ionic)), math.Pow(10, -PKw-2*gamma(1, ionic))
		sample, titrant := t.Sample.at(ionic), t.Titrant.at(ionic)
		volume = -t.Volume * sample.balance(h, kw) / titrant.balance(h, kw)
		if !(volume >= 0) || math.IsInf(volume, 0) {
			return volume, ionic <= strongest
		}
		next := Titration{Sample: sample, Volume: t.Volume, Titrant: titrant}.At(volume).ionic(h, kw)
		if math.Abs(next-ionic) < 1e-7 {
			break
		}
		ionic = next
	}
	return volume, ionic <= strongest
}
