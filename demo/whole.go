package demo

import (
	"bytes"
	"context"
	"fmt"
	"strings"
	"time"

	"exactflask/app"
	"exactflask/app/access"
	"exactflask/app/classes"
	"exactflask/app/people"
	"exactflask/app/practicals"
	"exactflask/core/practice/sim"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/docs/examples"
	"exactflask/formats"
)

// The other classes: one in the middle of a practical, one of last year.
const (
	Thursday = "Harbour Laboratory, Thursday group"
	Spring   = "Reef Laboratory, spring group"
	Friday   = "Skerry Laboratory, Friday group" // titrations followed with a probe
)

// names are invented.
var names = strings.Split(`Alda Firth|Brin Corran|Cato Selwick|Dela Orme|Edvin Thorpe|Fenna Gale|Gideon Marsh|Hale Ravik|Ines Tolland|Jorun Beck|Kesi Adair|Lorne Wick|Maren Holt|Nico Faraday-Lund|Oona Strand|Piers Kettle|Quin Abbot|Runa Vesper|Silas Crane|Tamsin Reed|Ulla Brandt-Moss|Vero Lindqvist|Wren Castell|Yara Holm`, "|")

var springNames = []string{"Ash Corwin", "Bly Hammond", "Cyra Dunmore", "Dov Ellery", "Esme Fallow", "Flint Garrow", "Greer Hask", "Hollis Ivey"}

var skerryNames = []string{"Tove Lanning", "Caspar Wray", "Imre Holloway", "Signe Arkwell", "Joss Penhale"}

// class is one of the other classes with what is done in it.
type class struct {
	name, term string
	people     []string
	archived   bool
	notice     string
	practicals []set
}

// set is a practical that is set, and how far its students are.
type set struct {
	file     string
	opens    time.Duration // from now; 0: at once
	due      time.Duration
	unknowns map[string]string // code: true value
	states   []state           // of the students in turn; none: nobody has begun
}

// state is where a student stands.
type state struct {
	skill   sim.Skill
	stop    int // accurate trials; 0: until they agree; -1: not begun
	running bool
	fault   string
	coarse  bool // with a probe: too wide at the jump
	blind   bool // with a probe: it is not calibrated
}

var (
	done     = state{skill: sim.Careful}
	notBegun = state{stop: -1}
	midway   = []state{done, {skill: sim.Usual, stop: 1, running: true}, {skill: sim.Hasty, stop: 4}, {skill: sim.Usual},
		{skill: sim.Usual, stop: 2, running: true}, notBegun, {skill: sim.Careful, fault: "cause.bubble"}, {skill: sim.Hasty, stop: 4, fault: "cause.read-upward"},
		{skill: sim.Usual}, {skill: sim.Careful, stop: 1, running: true}, {skill: sim.Usual, fault: "cause.burette-wet"}, {skill: sim.Hasty, stop: 4, running: true}}
	finished = []state{done, {skill: sim.Usual}, {skill: sim.Hasty}}
	probed   = []state{done, {skill: sim.Usual, coarse: true}, {skill: sim.Usual, blind: true}, {skill: sim.Usual, stop: 1, running: true}, notBegun}
)

const day = 24 * time.Hour

var others = []class{
	{name: Spring, term: "Spring 2026", people: springNames, archived: true, practicals: []set{
		{file: "iron-ii-dichromate.json", due: -200 * day, states: finished}, {file: "peroxide-strength.json", due: -190 * day, states: finished}}},
	{name: Friday, term: "Autumn 2026", people: skerryNames, notice: "Rinse and blot the probe between solutions; keep it clear of the stirrer.", practicals: []set{
		{file: "formic-curve.json", due: 2 * day, unknowns: map[string]string{"A": "0.0820", "B": "0.0850", "C": "0.0880"}, states: probed},
		{file: "carbonate-curve.json", due: 4 * day, states: probed},
		{file: "iron-curve.json", due: 9 * day, states: probed},
	}},
	{name: Thursday, term: "Autumn 2026", people: names, notice: "Bring your own calculator on Thursday. Goggles on before you enter.", practicals: []set{
		{file: "descaling-acid.json", due: 3 * time.Hour, unknowns: map[string]string{"A": "0.4600", "B": "0.5000", "C": "0.5400", "D": "0.5800"}, states: midway},
		{file: "naoh-by-mass.json", due: -7 * day, states: finished},
		{file: "carbonate-hydrate.json", due: -3 * day, states: []state{done, {skill: sim.Usual}, notBegun}},
		{file: "spent-lime.json", due: 6 * day, states: []state{notBegun, notBegun, notBegun, {skill: sim.Usual}}},
		{file: "iron-tablet.json", due: 7 * day},
		{file: "ammonium-feed.json", due: 13 * day, states: []state{notBegun, notBegun, notBegun, notBegun, notBegun, done}},
		{file: "cold-and-warm.json", due: 14 * day},
		{file: "citric-descaler.json", opens: 10 * day, due: 20 * day},
	}},
}

// FillWhole puts the demo's other classes beside the first: made by the operations
// that the browser uses, with notebooks of simulated students; tell hears of each before it is filled.
func FillWhole(ctx context.Context, a *app.App, tell func(class string)) error {
	farrow, err := a.People.SignIn(ctx, instructorName, Password)
	if err != nil {
		return err
	}
	for n, c := range others {
		tell(c.name)
		if err := c.fill(ctx, a, farrow, uint64(n+1)*100); err != nil {
			return fmt.Errorf("demo %s: %w", c.name, err)
		}
	}
	tell(Monday)
	if err := fillMarked(ctx, a, farrow); err != nil {
		return fmt.Errorf("demo %s: %w", Monday, err)
	}
	return nil
}

func (c class) fill(ctx context.Context, a *app.App, farrow access.Person, seed uint64) error {
	id, err := a.Classes.MakeClass(ctx, farrow, classes.NewClass{Name: c.name, Term: c.term})
	if err != nil {
		return err
	}
	if farrow, err = a.Person(ctx, farrow.ID); err != nil {
		return err
	}
	students, err := c.enrol(ctx, a, farrow, id)
	if err != nil {
		return err
	}
	for n, s := range c.practicals {
		if err := s.fill(ctx, a, farrow, id, students, seed+uint64(n)); err != nil {
			return fmt.Errorf("%s: %w", s.file, err)
		}
	}
	if c.notice != "" {
		if err := a.Classes.AddNotice(ctx, farrow, id, c.notice); err != nil {
			return err
		}
	}
	if c.archived {
		return a.Classes.SetClass(ctx, farrow, id, c.name, c.term, true)
	}
	return nil
}

// enrol lets the students join with a code, each at a bench with a numbered burette,
// and adds the assistant.
func (c class) enrol(ctx context.Context, a *app.App, farrow access.Person, id string) ([]access.Person, error) {
	if _, err := a.Classes.AddPeople(ctx, farrow, id, []classes.Added{{Name: "Wystan Moor", Username: "moor", Role: access.Assistant}}); err != nil {
		return nil, err
	}
	code, err := a.Classes.OpenCode(ctx, farrow, id, 30)
	if err != nil {
		return nil, err
	}
	var out []access.Person
	for i, name := range c.people {
		username, err := a.Classes.SuggestUsername(ctx, code.Code, name)
		if err != nil {
			return nil, err
		}
		p, err := a.Classes.SignUp(ctx, code.Code, people.NewPerson{Name: name, Username: username, Password: Password})
		if err != nil {
			return nil, err
		}
		place := classes.Place{Role: access.Student, Bench: fmt.Sprint(i + 1), Burette: fmt.Sprintf("B-%02d", 11+i)}
		if i%6 == 5 {
			place.Partner = out[i-1].ID
		}
		if err := a.Classes.SetPlace(ctx, farrow, id, p.ID, place); err != nil {
			return nil, err
		}
		out = append(out, p)
	}
	return out, a.Classes.CloseCode(ctx, farrow, id)
}

func (s set) fill(ctx context.Context, a *app.App, farrow access.Person, class string, students []access.Person, seed uint64) error {
	text, err := examples.Files.ReadFile(s.file)
	if err != nil {
		return err
	}
	doc, err := formats.Read(bytes.NewReader(text))
	if err != nil {
		return err
	}
	p, err := a.Practicals.AssignRevision(ctx, farrow, class, doc.Practical)
	if err != nil {
		return err
	}
	deals, err := s.settle(ctx, a, farrow, class, p.ID, seed)
	if err != nil {
		return err
	}
	ready, fault := p.Check()
	if fault != nil {
		return fault
	}
	for i, student := range students {
		if len(s.states) == 0 {
			break
		}
		now := s.states[i%len(s.states)]
		if now.stop < 0 {
			continue
		}
		truth := 0.0
		if code := deals[student.ID]; code != "" {
			value, err := decimal.Parse(s.unknowns[code])
			if err != nil {
				return err
			}
			truth = value.Float64()
		}
		if err := now.write(ctx, taught{a, farrow, class}, ready, student, sim.Student{Answer: truth, Seed: seed*1000 + uint64(i)}); err != nil {
			return fmt.Errorf("%s: %w", student.Name, err)
		}
	}
	return s.date(ctx, a, farrow, class, p.ID, deals)
}

// settle deals out the unknowns.
func (s set) settle(ctx context.Context, a *app.App, farrow access.Person, class, id string, seed uint64) (map[string]string, error) {
	if len(s.unknowns) == 0 {
		return nil, nil
	}
	var codes []string
	for _, u := range s.samples() {
		codes = append(codes, u.Code)
	}
	return a.Practicals.Deal(ctx, farrow, class, id, practicals.Dealt{Codes: codes, How: practicals.AtRandom, Seed: seed})
}

func (s set) samples() []practicals.Unknown {
	out := []practicals.Unknown{}
	for code := 'A'; code <= 'Z'; code++ {
		if value, ok := s.unknowns[string(code)]; ok {
			out = append(out, practicals.Unknown{Code: string(code), Value: decimal.Must(value)})
		}
	}
	return out
}

// date says when it is seen and due, and who has which unknown.
func (s set) date(ctx context.Context, a *app.App, farrow access.Person, class, id string, deals map[string]string) error {
	at := func(from time.Duration) *time.Time {
		if from == 0 {
			return nil
		}
		t := time.Now().UTC().Add(from).Truncate(time.Hour)
		return &t
	}
	return a.Practicals.SetSettings(ctx, farrow, class, id, practicals.NewSettings{Times: practicals.Times{Opens: at(s.opens), Due: at(s.due)}, Unknowns: s.samples(), Deals: deals})
}

// write lets a simulated student work.
func (s state) write(ctx context.Context, at taught, r *practical.Ready, student access.Person, of sim.Student) error {
	a := at.app
	of.Skill, of.Stop, of.Running, of.Coarse, of.Blind = s.skill, s.stop, s.running, s.coarse, s.blind
	of.Device, of.Begin = "simulated", time.Now().Add(-time.Hour)
	if s.fault != "" {
		of.Faults = []string{s.fault}
	}
	entries, err := sim.Titrate(r, of)
	if err != nil {
		return err
	}
	notebook, err := a.Bench.Begin(ctx, student, at.class, r.ID, "")
	if err != nil {
		return err
	}
	if _, err = a.Bench.Append(ctx, student, notebook, 0, until(a.Now(), entries)); err != nil {
		return err
	}
	if s.running && s.skill == sim.Hasty { // somebody asks for help
		_, err = a.Bench.RaiseHand(ctx, student, notebook, true)
	}
	return err
}
