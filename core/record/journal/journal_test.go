package journal_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"exactflask/core/record/journal"
	"exactflask/core/values/decimal"
)

// notebook writes entries with ids e-000001, e-000002 and so on.
type notebook struct {
	entries []journal.Entry
	device  string
}

func (n *notebook) add(e journal.Entry) string {
	e.Clock = int64(len(n.entries) + 1)
	e.ID = fmt.Sprintf("e-%06d", e.Clock)
	e.Device, e.At = "bench-7", time.Date(2026, 11, 24, 9, int(e.Clock%60), 0, 0, time.UTC)
	if n.device != "" {
		e.Device = n.device
	}
	n.entries = append(n.entries, e)
	return e.ID
}
func (n *notebook) open(t journal.TrialType) string {
	return n.add(journal.Entry{Part: journal.Opening{Type: t}})
}
func (n *notebook) read(trial string, place journal.Place, text string) string {
	return n.add(journal.Entry{Part: journal.Scale{Of: trial, Place: place, Written: text}})
}
func (n *notebook) correct(id, value, reason string) string {
	return n.add(journal.Entry{Part: journal.Correction{Replaces: id, Value: value, Withdraw: value == "",
		Reason: reason}})
}

func TestFoldKeepsEverythingInInk(t *testing.T) {
	var n notebook
	rough := n.open(journal.Rough)
	n.read(rough, journal.Start, "0.00")
	n.read(rough, journal.End, "24,40")
	first := n.open(journal.Accurate)
	n.read(first, journal.Start, "0.10")
	end := n.read(first, journal.End, "26.05")
	slip := n.correct(end, "25.95", "read the scale upward")
	n.correct(slip, "23.95", "mistyped the correction")
	n.read(first, journal.Start, "0.15") // run off, read again
	aside := n.add(journal.Entry{Part: journal.Exclusion{Of: first, Reason: "overshot"}})
	n.add(journal.Entry{Part: journal.Remark{Written: "tap stiff"}})

	rec := journal.Fold(n.entries)
	require.Len(t, rec.Trials, 2)
	titre, ok := rec.Trials[0].Titre(false)
	require.True(t, ok)
	assert.Equal(t, "24.40", titre.String(), "the digits that were written stay")
	tr := rec.Trials[1]
	titre, _ = tr.Titre(false)
	assert.Equal(t, "23.80", titre.String())
	assert.Equal(t, []string{"26.05", "25.95"}, []string{tr.Struck.End[0].Text, tr.Struck.End[1].Text})
	assert.Equal(t, "read the scale upward", tr.Struck.End[0].Reason)
	assert.Equal(t, "0.10", tr.Struck.Start[0].Text)
	assert.Equal(t, "overshot", tr.SetAside.Reason)
	assert.Len(t, rec.Notes, 1)
	assert.EqualValues(t, len(n.entries), rec.Clock)

	n.correct(aside, "", "it was the other trial")
	assert.Nil(t, journal.Fold(n.entries).Trials[1].SetAside, "setting aside can be withdrawn")
	n.correct(first, "rough", "swirled badly, meant as rough")
	again := journal.Fold(n.entries)
	assert.Equal(t, journal.Rough, again.Trials[1].Type)
	assert.Equal(t, 2, again.Trials[1].Number)
	n.correct(n.open(journal.Accurate), "", "pressed twice")
	again = journal.Fold(n.entries)
	assert.True(t, again.Trials[2].Withdrawn, "a withdrawn trial stays in view")
	second := n.read(first, journal.End, "30.00")
	n.correct(second, "", "that was the other burette")
	assert.Equal(t, "23.95", journal.Fold(n.entries).Trials[1].End.Text, "what stood before stands again")
}

// Giving the same answer again is no second try; another, or in another unit, is.
func TestAnswersGivenAgain(t *testing.T) {
	var n notebook
	give := func(text, unit string) journal.Line {
		n.add(journal.Entry{Part: journal.Answer{Step: "answer", Written: text, Unit: unit}})
		return journal.Fold(n.entries).Answers["answer"]
	}
	first := give("0.0954", "mol/L")
	assert.Empty(t, give("0.0954", "mol/L").Struck)
	assert.Equal(t, first.Entry.ID, give("0.0954", "mol/L").Entry.ID, "the first stands")
	assert.Len(t, give("0.0955", "mol/L").Struck, 1)
	assert.Len(t, give("0.0955", "mmol/L").Struck, 2)
	assert.Len(t, give("0.0955", "mmol/L").Struck, 2)
}

func TestFoldFlagsWhatFitsNowhere(t *testing.T) {
	var n notebook
	n.read("no-such-trial", journal.Start, "0.00")
	n.correct("no-such-entry", "1.00", "why")
	a, b := n.correct("e-000004", "1.00", "circle"), n.correct("e-000003", "1.00", "circle")
	require.NotEqual(t, a, b)
	n.entries = append(n.entries, journal.Entry{ID: "e-000005", Device: "d", Clock: 5})
	rec := journal.Fold(n.entries)
	var codes []string
	for _, f := range rec.Findings {
		codes = append(codes, f.Code)
	}
	assert.ElementsMatch(t, []string{"entry.orphan", "entry.orphan", "entry.orphan", "entry.orphan", "entry.unreadable"},
		codes)
}

// Any order and any repetition of the same entries folds to the same record.
func TestFoldIsOrderless(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := notebook{}
		var trials, readings []string
		for range rapid.IntRange(1, 25).Draw(t, "entries") {
			n.device = rapid.SampledFrom([]string{"tablet", "phone"}).Draw(t, "device")
			switch {
			case len(trials) == 0 || rapid.IntRange(0, 4).Draw(t, "open") == 0:
				trials = append(trials, n.open(rapid.SampledFrom([]journal.TrialType{journal.Rough, journal.Accurate}).Draw(t,
					"type")))
			case len(readings) > 0 && rapid.Bool().Draw(t, "correct"):
				readings = append(readings, n.correct(rapid.SampledFrom(readings).Draw(t, "which"),
					rapid.SampledFrom([]string{"", "10.00", "11.05"}).Draw(t, "value"), "slip"))
			default:
				place := rapid.SampledFrom([]journal.Place{journal.Start, journal.End}).Draw(t, "mark")
				readings = append(readings, n.read(rapid.SampledFrom(trials).Draw(t, "trial"), place,
					rapid.SampledFrom([]string{"0.00", "24,40", "1.5"}).Draw(t, "text")))
			}
			if rapid.Bool().Draw(t, "same clock") { // two devices may count alike
				n.entries[len(n.entries)-1].Clock = max(1, n.entries[len(n.entries)-1].Clock-1)
			}
		}
		want := journal.Fold(n.entries)
		shuffled := rapid.Permutation(append(append([]journal.Entry{}, n.entries...), n.entries...)).Draw(t, "order")
		assert.Equal(t, want, journal.Fold(shuffled))
	})
}

// Each row spoils a good entry in one way; the fault says where and what.
func TestCheckNamesThePlace(t *testing.T) {
	reading := func(change func(*journal.Scale)) func(*journal.Entry) {
		return func(e *journal.Entry) {
			s := e.Part.(journal.Scale)
			change(&s)
			e.Part = s
		}
	}
	part := func(p journal.Part) func(*journal.Entry) { return func(e *journal.Entry) { e.Part = p } }
	for _, c := range []struct {
		path, code string
		spoil      func(*journal.Entry)
	}{
		{"id", "entry.id-length", func(e *journal.Entry) { e.ID = "x" }},
		{"id", "entry.id-sign", func(e *journal.Entry) { e.ID = "<script>aa" }},
		{"device", "text.empty", func(e *journal.Entry) { e.Device = "" }},
		{"clock", "entry.clock", func(e *journal.Entry) { e.Clock = 0 }},
		{"kind", "entry.kind", part(nil)},
		{"reading.text", "number.unreadable", reading(func(s *journal.Scale) { s.Written = "twenty" })},
		{"reading.text", "number.two-points", reading(func(s *journal.Scale) { s.Written = "24.4.0" })},
		{"reading.text", "text.too-long", reading(func(s *journal.Scale) { s.Written = "1111111111111111111111111" })},
		{"reading.mark", "entry.value", reading(func(s *journal.Scale) { s.Place = "middle" })},
		{"reading.trial", "entry.id-length", reading(func(s *journal.Scale) { s.Of = "" })},
		{"trial.type", "entry.value", part(journal.Opening{Type: "odd"})},
		{"setAside.reason", "text.empty", part(journal.Exclusion{Of: "e-000001"})},
		{"note.text", "text.empty", part(journal.Remark{})},
		{"observation.about", "entry.value", part(journal.Observation{About: "mood", Written: "x"})},
		{"observation.text", "entry.value", part(journal.Observation{About: journal.EndColour, Written: "mauve"})},
		{"weighing.full", "number.unreadable", part(journal.Weighing{What: "salt", Full: "heavy", Emptied: "1"})},
		{"timer.seconds", "entry.seconds", part(journal.Timer{For: journal.ForLeak})},
		{"timer.for", "entry.value", part(journal.Timer{For: "tea", Seconds: 3})},
		{"known.text", "entry.concentration", part(journal.Known{Written: "-0.1"})},
		{"answer.unit", "entry.unit", part(journal.Answer{Step: "answer", Written: "1", Unit: "cubit"})},
		{"correction.value", "correction.either", part(journal.Correction{Replaces: "e-000001", Reason: "x"})},
	} {
		e := journal.Entry{ID: "e-000009", Device: "d", Clock: 1,
			Part: journal.Scale{Of: "e-000001", Place: journal.Start, Written: "0.00"}}
		require.Nil(t, e.Check())
		c.spoil(&e)
		f := e.Check()
		require.NotNil(t, f, c.code)
		assert.Equal(t, c.path+" "+c.code, f.Path+" "+f.Code)
	}
	for text, code := range map[string]string{
		`{"kind":"photo"}`: "entry.kind", `{"kind":"reading"}`: "entry.part-missing",
		`{"kind":"note","note":{"text":"x"},"check":{"item":"x"}}`: "entry.part-too-many",
	} {
		e := journal.Entry{}
		require.NoError(t, json.Unmarshal([]byte(text), &e))
		e.ID, e.Device, e.Clock = "e-000009", "d", 1
		assert.Equal(t, code, e.Check().Code)
	}
	var n notebook
	trial := n.open(journal.Rough)
	read := n.read(trial, journal.Start, "0.00")
	weighed := n.add(journal.Entry{Part: journal.Weighing{What: "salt", Full: "2", Emptied: "1"}})
	against := func(p journal.Part) string {
		l := journal.NewLedger(n.entries, 0)
		if _, _, f := l.Accept([]journal.Entry{{ID: "e-000099", Device: "d", Clock: 9, Part: p}}); f != nil {
			return f.Path + " " + f.Code
		}
		return ""
	}
	for want, part := range map[string]journal.Part{
		"": n.entries[1].Part,
		"entries[0].correction.value number.unreadable":         journal.Correction{Replaces: read, Value: "much", Reason: "why"},
		"entries[0].correction.value entry.withdraw-and-repeat": journal.Correction{Replaces: weighed, Value: "1.5", Reason: "why"},
		"entries[0].correction.replaces correction.target":      journal.Correction{Replaces: "e-999999", Value: "1.5", Reason: "why"},
		"entries[0].reading.trial entry.trial-missing":          journal.Scale{Of: read, Place: journal.End, Written: "1.00"},
		"entries[0].observation.trial entry.trial-missing": journal.Observation{About: journal.EndColour, Of: "e-999999",
			Written: "pale"},
	} {
		assert.Equal(t, want, against(part))
	}
}

// A file holds what was written, byte for byte once more.
func TestEntriesAsTheyStandInAFile(t *testing.T) {
	for _, text := range []string{
		`{"id":"e-000001","author":"p1","device":"d","clock":3,"at":"2026-11-24T09:00:00Z","kind":"set-aside","setAside":{"trial":"e-000000","reason":"overshot"}}`,
		`{"id":"e-000001","device":"d","clock":3,"at":"2026-11-24T09:00:00Z","kind":"reading","reading":{"trial":"e-000000","mark":"reagent-end","text":"26.63"}}`,
	} {
		var e journal.Entry
		require.NoError(t, json.Unmarshal([]byte(text), &e))
		require.Nil(t, e.Check())
		again, err := json.Marshal(e)
		require.NoError(t, err)
		assert.Equal(t, text, string(again))
	}
}

func TestRefillsAreMatchedInOrder(t *testing.T) {
	var n notebook
	trial := n.open(journal.Accurate)
	for _, r := range []struct {
		place journal.Place
		text  string
	}{{journal.Start, "40.00"}, {journal.BeforeRefill, "49.00"}, {journal.BeforeRefill, "48.00"}, {journal.AfterRefill,
		"0.50"}, {journal.AfterRefill, "1.00"}, {journal.End, "10.00"}} {
		n.read(trial, r.place, r.text)
	}
	titre, ok := journal.Fold(n.entries).Trials[0].Titre(false)
	require.True(t, ok)
	assert.Equal(t, "65.50", titre.String(), "10.00 - 40.00 + 49.00 - 0.50 + 48.00 - 1.00")
}

func FuzzFold(f *testing.F) {
	var n notebook
	trial := n.open(journal.Rough)
	n.correct(n.read(trial, journal.Start, "0.00"), "0.05", "slip")
	text, err := json.Marshal(n.entries)
	require.NoError(f, err)
	f.Add(text)
	f.Fuzz(func(t *testing.T, text []byte) {
		var entries []journal.Entry
		if json.Unmarshal(text, &entries) == nil {
			journal.Fold(entries)
		}
	})
}

// What was withdrawn by mistake is taken back by saying what it should be; all
// of it stays in ink.
func TestWithdrawingIsTakenBack(t *testing.T) {
	var n notebook
	trial := n.open(journal.Accurate)
	n.correct(trial, "", "opened by mistake")
	require.True(t, journal.Fold(n.entries).Trials[0].Withdrawn)
	n.correct(trial, "rough", "it was the rough one")
	back := journal.Fold(n.entries).Trials[0]
	assert.False(t, back.Withdrawn)
	assert.Equal(t, journal.Rough, back.Type)
	assert.Len(t, back.Struck.Type, 2)
}

func ExampleFold() {
	contents := journal.Fold([]journal.Entry{
		{ID: "trial-0001", Device: "bench-7", Clock: 1, Part: journal.Opening{Type: journal.Accurate}},
		{ID: "start-0001", Device: "bench-7", Clock: 2, Part: journal.Scale{Of: "trial-0001", Place: journal.Start,
			Written: "0.00"}},
		{ID: "end-000001", Device: "bench-7", Clock: 3, Part: journal.Scale{Of: "trial-0001", Place: journal.End,
			Written: "21,35"}},
	})
	titre, _ := contents.Trials[0].Titre(false)
	fmt.Println(titre)
	// Output: 21.35
}

// What ran and the reading for it are each other's inverse, over fillings, on both scales;
// half a filling tells nothing of what comes after it.
func TestDelivery(t *testing.T) {
	at := func(text string) *journal.Reading { return &journal.Reading{Text: text, Value: decimal.Must(text)} }
	fill := []journal.Refill{{Before: at("49.80"), After: at("0.20")}, {Before: at("48.00"), After: at("1.00")}}
	falling := []journal.Refill{{Before: at("0.20"), After: at("29.80")}}
	for _, c := range []struct {
		name  string
		d     journal.Delivery
		at    string
		fills int
		want  string // empty where it is not told
	}{
		{"on", journal.Delivery{Start: at("1.30")}, "24.90", 0, "23.60"},
		{"before it began", journal.Delivery{Start: at("1.30")}, "1.00", 0, "-0.30"},
		{"over one filling", journal.Delivery{Start: at("1.30"), Fills: fill}, "10.00", 1, "58.30"},
		{"over two", journal.Delivery{Start: at("1.30"), Fills: fill}, "10.00", 2, "105.30"},
		{"before the first of two", journal.Delivery{Start: at("1.30"), Fills: fill}, "10.00", 0, "8.70"},
		{"what is left", journal.Delivery{Start: at("30.00"), Rising: true}, "12.50", 0, "17.50"},
		{"what is left, filled", journal.Delivery{Start: at("30.00"), Fills: falling, Rising: true}, "12.50", 1, "47.10"},
		{"no start", journal.Delivery{}, "12.50", 0, ""},
		{"half a filling", journal.Delivery{Start: at("1.30"), Fills: []journal.Refill{{Before: at("49.80")}}}, "10.00", 1, ""},
		{"its other half", journal.Delivery{Start: at("1.30"), Fills: []journal.Refill{{After: at("0.20")}}}, "10.00", 1, ""},
		{"before half a filling", journal.Delivery{Start: at("1.30"), Fills: []journal.Refill{{Before: at("49.80")}}}, "10.00", 0, "8.70"},
		{"a filling that is not there", journal.Delivery{Start: at("1.30")}, "10.00", 1, ""},
	} {
		ran, ok := c.d.Ran(decimal.Must(c.at), c.fills)
		require.Equal(t, c.want != "", ok, c.name)
		if back, told := c.d.At(ran, c.fills); ok {
			assert.True(t, told, c.name)
			assert.Equal(t, c.want, ran.String(), c.name)
			assert.Equal(t, c.at, back.String(), c.name)
		}
	}
}

// How long a text of an entry may be, on the limit and one sign beside it.
func TestLengthsOfTexts(t *testing.T) {
	const id = "e-000001"
	for name, c := range map[string]struct {
		most  int
		empty bool // may be
		part  func(text string) journal.Part
	}{
		"check":           {81, false, func(s string) journal.Part { return journal.Checked{Item: s} }},
		"reason":          {300, false, func(s string) journal.Part { return journal.Correction{Replaces: id, Value: "1", Reason: s} }},
		"value":           {2000, false, func(s string) journal.Part { return journal.Correction{Replaces: id, Value: s, Reason: "misread"} }},
		"passage":         {journal.MaxPassage, true, func(s string) journal.Part { return journal.Passage{Prompt: journal.Method, Written: s} }},
		"colour":          {60, true, func(s string) journal.Part { return journal.ProbePoint{Of: id, Burette: "1", Shown: "7", Colour: s} }},
		"remark":          {2000, false, func(s string) journal.Part { return journal.Remark{Written: s} }},
		"sample":          {60, false, func(s string) journal.Part { return journal.Belonging{Of: id, Sample: s} }},
		"set aside":       {300, false, func(s string) journal.Part { return journal.Exclusion{Of: id, Reason: s} }},
		"what is weighed": {80, false, func(s string) journal.Part { return journal.Weighing{What: s, Full: "2", Emptied: "1"} }},
		"from":            {120, true, func(s string) journal.Part { return journal.Known{Written: "0.1", From: s} }},
		"step":            {120, false, func(s string) journal.Part { return journal.Answer{Step: s, Written: "1"} }},
	} {
		assert.Nil(t, c.part(strings.Repeat("ä", c.most)).Check(), name)
		assert.NotNil(t, c.part(strings.Repeat("ä", c.most+1)).Check(), name)
		assert.Equal(t, c.empty, c.part("").Check() == nil, name)
	}
}

// A figure as it is typed: with a power of ten, with a unit behind it, with a comma.
func TestParseFigure(t *testing.T) {
	for text, want := range map[string]string{
		"2.533": "2.533 ", "2,533": "2.533 ", " 2.533 ": "2.533 ", "0.00": "0.00 ",
		"2.533e-3": "0.002533 ", "2.533E-3": "0.002533 ", "2.533 x 10^-3": "0.002533 ", "2.533x10-3": "0.002533 ", "2,533·10⁻³": "0.002533 ", "2.533 × 10⁻³": "0.002533 ",
		"2.533*10^-3": "0.002533 ", "2.50e1": "25.0 ", "2.5e3": "2500 ", "1e-9": "0.000000001 ", "1e9": "1000000000 ",
		"2.533 mmol": "2.533 mmol", "2.533mmol": "2.533 mmol", "2.533e-3 mol": "0.002533 mol", "0.1 M": "0.1 mol/L", "0,1M": "0.1 mol/L", "12 mM": "12 mmol/L", "24.45 mL": "24.45 mL",
		"24.45 cm3": "24.45 mL", "24.45 cm³": "24.45 mL", "0.5 g": "0.5 g", "5 mg/L": "5 mg/L", "3.2 g/L": "3.2 g/L", "0.1 mol/dm³": "0.1 mol/L", "0.1 mol dm-3": "0.1 mol/L", "0.1 mol dm⁻³": "0.1 mol/L", "0.1 mol·L⁻¹": "0.1 mol/L", "2.5e-3 mol/dm^3": "0.0025 mol/L", "2.5 g dm⁻³": "2.5 g/L", "25.0 cm^3": "25.0 mL", "0.1 mol dm-2": "fault",
		"5.0 %": "5.0 %", "2.5 G": "2.5 g", "24 ML": "24 mL", "24 cc": "24 mL", "2.5 MMOL": "2.5 mmol", "4.9 % w/v": "4.9 % w/v",
		"1e10": "fault", "1e-10": "fault", "1.2345e-9": "fault", "e-3": "fault", "2.533 x 10^": "fault", "2.533e1.5": "fault", "2.533 apples": "fault", "": "fault", "mmol": "fault", "1 2": "fault", "2e3e4": "fault",
	} {
		d, unit, err := journal.ParseFigure(text)
		got := "fault"
		if err == nil {
			got = d.String() + " " + string(unit)
		}
		assert.Equal(t, want, got, text)
		assert.Equal(t, err == nil, journal.Answer{Step: "x", Written: text}.Check() == nil, text)
	}
}

func FuzzParseFigure(f *testing.F) {
	for _, text := range []string{"2.533 x 10^-3 mmol", "0,1 M", "1e-9", "5 % w/v"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		d, unit, err := journal.ParseFigure(text)
		if err != nil {
			return
		}
		assert.True(t, unit == "" || unit.Known(), text)
		again, _, err := journal.ParseFigure(d.String())
		assert.NoError(t, err, text)
		assert.Zero(t, again.Cmp(d), text)
	})
}

// What ran has the decimals of the reading that ended it, where that loses nothing: nobody read 13.10.
func TestTitreAsWritten(t *testing.T) {
	for _, c := range [][3]string{{"0.00", "13.1", "13.1"}, {"0.00", "13.10", "13.10"}, {"0.05", "13.1", "13.05"}, {"0", "24.00", "24.00"},
		{"0.0", "24", "24"}, {"0.30", "24.0", "23.7"}} {
		start, _ := journal.ParseNumber(c[0])
		end, _ := journal.ParseNumber(c[1])
		trial := journal.Trial{Start: &journal.Reading{Value: start}, End: &journal.Reading{Value: end}}
		v, ok := trial.Titre(false)
		assert.True(t, ok)
		assert.Equal(t, c[2], v.String(), "%v", c)
	}
}
