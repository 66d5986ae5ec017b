package main

const (
	steering = "core/experiment/steer.go"
	results  = "core/experiment/result.go"
	findings = "core/experiment/findings.go"
	slipFile = "core/diagnosis/slips.go"
	budgets  = "core/budget/inputs.go"
)

// mutations are faults that a rule may come to hold, one for each rule.
var mutations = []mutation{
	{"steering: overshot trials too", steering, "t.EndColour == journal.Deep:", "t.EndColour == journal.Pale:"},
	{"steering: the rough before the accurate", steering, "case len(s.from) > 0:\n	case rough != nil:", "case rough != nil:"},
	{"steering: an overshot one before the rough", steering, "case rough != nil:\n		s.from, s.isRough = []*Trial{rough}, true\n	case deep != nil:\n		s.from = []*Trial{deep}",
		"case deep != nil:\n		s.from = []*Trial{deep}\n	case rough != nil:\n		s.from, s.isRough = []*Trial{rough}, true"},
	{"steering: slows down after the high side", steering, "drops = e.low.Sub(before)", "drops = e.high.Sub(before)"},
	{"steering: drops late after a rough", steering, `decimal.Must("2.00")`, `decimal.Must("1.00")`},
	{"steering: forgets what was noted", steering, "drops = *e.dropFrom", "_ = *e.dropFrom"},
	{"supply: analyte", steering, "analyte = analyte.Sub(v)", "_ = v"},
	{"supply: titrant", steering, "titrant = titrant.Sub(*t.Titre)", "_ = t"},
	{"finding: small excess", results, "case left < 0.1:", "case left < 0.01:"},
	{"finding: hardly used", results, "case left > 0.9:", "case left > 0.99:"},
	{"finding: far from expected", results, "math.Abs(e.Percent) > 10", "math.Abs(e.Percent) > 1000"},
	{"finding: nominal mass", results, "held.Mass == nil && len(j.trials) > 0", "held.Mass != nil && len(j.trials) > 0"},
	{"finding: nominal concentration", results, `r.Chemistry.Standard != "" && held.Known == nil`, `r.Chemistry.Standard != "" && held.Known != nil`},
	{"finding: small titre", findings, `small  = decimal.Must("5")`, `small  = decimal.Must("2")`},
	{"finding: beyond the rough", findings, `beyond = decimal.Must("1")`, `beyond = decimal.Must("3")`},
	{"finding: loose tolerance", findings, "tolerance.Mul(cent).Cmp(titre) <= 0", "tolerance.Mul(cent).Cmp(titre) < 9"},
	{"finding: drift", findings, "way != 0 && size", "way > 9 && size"},
	{"finding: first end after the second", findings, "t.FirstTitre.Cmp(*t.Titre) > 0", "t.FirstTitre.Cmp(*t.Titre) > 5"},
	{"finding: cylinder", findings, "s.By == practical.ByCylinder", "s.By == practical.ByFlask"},
	{"finding: carbon dioxide", findings, "i >= 0 && makesGas", "i > 9 && makesGas"},
	{"slip: inverted ratio", slipFile, `s.try("ratio-inverted", with(i, 1/value(i)))`, ``},
	{"slip: ratio left out", slipFile, `s.try("ratio-left-out", with(i, 1))`, ``},
	{"slip: dilution left out", slipFile, `s.try("dilution-left-out", with(i, 1))`, ``},
	{"slip: inverted dilution", slipFile, `s.try("dilution-inverted", with(i, 1/value(i)))`, ``},
	{"slip: water left out", slipFile, `s.try("water-left-out", with(i, dry.MolarMass().Float64()))`, `_ = dry`},
	{"slip: volumes swapped", slipFile, `s.try("volumes-swapped", with(i, other.Quantity.Value))`, ``},
	{"slip: upside down", slipFile, `s.try("upside-down", 1/g.Expected)`, ``},
	{"slip: thousand", slipFile, `s.try("thousand", g.Expected/1000)`, ``},
	{"slip: ten", slipFile, `s.try("ten", g.Expected/10)`, ``},
	{"slip: rough included", slipFile, `s.try("rough-included", average(r.Counted, r.Rough))`, ``},
	{"slip: all averaged", slipFile, `s.try("all-averaged", average(r.All))`, ``},
	{"slip: from the capacity", slipFile, `s.try("from-capacity", r.Capacity-average(r.Ends))`, ``},
	{"slip: rounded early", slipFile, "< 0.02*math.Abs(g.Expected)", "< 0.0*math.Abs(g.Expected)"},
	{"slip: one of several", slipFile, "case s.several:\n		return \"\"", "case s.several:"},
	{"budget: expansion doubled", budgets, "expansion       = 2.1e-4", "expansion       = 4.2e-4"},
	{"budget: nominal standardisation", budgets, "standardisation = 0.003 ", "standardisation = 0.006 "},
	{"blank: not subtracted from a mean", "core/assay/build.go", "titre = b.lessBlank(titre)\n	}\n	if b.ready.Chemistry", "_ = titre\n	}\n	if b.ready.Chemistry"},
	{"blank: not scaled by the route", "core/assay/route.go", "if b.ready.Steps[i].Kind == practical.Portion {\n			amount = b.diluted(id+", "if b.ready.Steps[i].Kind == practical.Weigh {\n			amount = b.diluted(id+"},
	{"plan: tolerance against the titre", "core/plan/plan.go", "tolerance.Sign() > 0 && a.Titre > 0", "tolerance.Sign() > 0 && a.Titre > 900"},
	{"plan: best part", "core/plan/plan.go", "bestFrom = 0.4 ", "bestFrom = 0.5 "},
	{"journal: a withdrawing is for ever", "core/journal/fold.go", "l.Withdrawn = p.Withdraw", "l.Withdrawn = l.Withdrawn || p.Withdraw"},
	{"journal: a weighing is corrected in part", "core/journal/weighing.go", "return nil, repeatFault.Fault(\"value\")", "return Weighing{}, nil"},
	{"app: entry limit", "app/append.go", "len(kept)+len(fresh) > formats.MaxEntries", "len(kept)+len(fresh) > 2*formats.MaxEntries"},
	{"app: batch limit", "app/append.go", "len(added) > MaxBatch", "len(added) > 2*MaxBatch"},
	{"app: a clock far ahead", "app/append.go", "const maxClockLead = 100_000", "const maxClockLead = 1 << 60"},
	{"app: adding oneself", "app/notebooks.go", "err == nil && mate == p.ID", "err == nil && mate == p.Name"},
	{"app: sign-in length", "app/people.go", "len(username) > 64 || len(password) > 256", "len(username) > 6400"},
	{"app: a class's own practical", "app/access.go", "case SeePlan, SetPractical, SeeRoll:\n		return role == Instructor", "case SeePlan, SetPractical, SeeRoll:\n		return true"},
	{"app: marking withholds", "app/access.go", "return experiment.Record", "return experiment.All"},
	{"app: the true value", "app/access.go", "return experiment.All &^ experiment.PartReference", "return experiment.All"},
}
