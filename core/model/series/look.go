package series

import (
	"math"

	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
)

// look says what was done badly.
func (a *Analysis) look(r Series, at int) {
	p := r.Points
	low, high := p[at].Volume, p[at+1].Volume
	coarse, tail := r.Norms.Part(practical.ProbeCoarse), r.Norms.Count(practical.ProbeTail)
	if step := high - low; step > coarse*high {
		a.say(saysCoarse.Finding(finding.Warning, "", finding.Volume(step), finding.Volume(max(0, low-step)), finding.Volume(high+step), finding.Volume(max(0.05, coarse/4*high))))
	}
	for _, q := range p {
		if q.Volume > high*(1+r.Norms.Part(practical.ProbeTailFrom)) {
			a.Past++
		}
	}
	if a.Past < tail {
		a.say(saysNoTail.Finding(finding.Warning, "", finding.Count(a.Past), finding.Count(tail)))
	}
	rising := p[len(p)-1].Reading > p[0].Reading
	noise := r.noise()
	turned := 0
	for i := 1; i < len(p); i++ {
		if d := p[i].Reading - p[i-1].Reading; rising && d < -6*noise || !rising && d > 6*noise {
			turned++
			if turned == 1 {
				a.say(saysOutlying.Finding(finding.Check, "", finding.Volume(p[i].Volume)))
			}
		}
	}
	if turned > len(p)/4 {
		a.say(saysTurned.Finding(finding.Warning, ""))
	}
	if a.Fit != nil && a.Fit.Lag > 0 {
		a.say(saysLag.Finding(finding.Warning, "", finding.Number(100*a.Fit.Lag, 2, "%"), finding.Volume(math.Abs(a.Fit.Later))))
	}
	if a.Fit != nil && !a.Fit.Random {
		a.say(saysPattern.Finding(finding.Note, ""))
	}
}
