package view

import (
	"cmp"
	"strconv"
	"time"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/practice/board"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// BoardSeat is who is at a bench, and with what.
type BoardSeat struct {
	Person   string `json:"person" doc:"id of the student"`
	Notebook string `json:"notebook,omitempty" doc:"empty while not begun"`
	Name     string `json:"name"`
	Bench    string `json:"bench,omitempty" doc:"number of the bench"`
	Burette  string `json:"burette,omitempty" doc:"the burette's own number"`
	Sample   string `json:"sample,omitempty" doc:"code of the unknown"`
	Pair     string `json:"pair,omitempty" doc:"the same for the two who work together"`
}

// BoardRow is one bench on the board, in words.
type BoardRow struct {
	BoardSeat
	Stage     evaluation.Stage `json:"stage" enum:"untouched,rough,measuring,disagreeing,agreed,making,made"`
	StageText string           `json:"stageText"`
	Done      bool             `json:"done,omitempty" doc:"the bench work is done"`
	Trial     string           `json:"trial,omitempty" doc:"the trial that is under way"`
	Since     *time.Time       `json:"since,omitempty" doc:"when it was begun, by the bench's clock"`
	Seen      *time.Time       `json:"seen,omitempty" doc:"when the newest entry was received"`
	Titres    []BoardTitre     `json:"titres" doc:"in order"`
	Agreement string           `json:"agreement"`
	Needs     []BoardNeed      `json:"needs" doc:"the worst first"`
	ToDo      []string         `json:"toDo" doc:"what the bench still has to do"`
	Off       string           `json:"off,omitempty" doc:"how far its answer lies from the true value"`
	HandUp    *time.Time       `json:"handUp,omitempty"`
	HandBy    string           `json:"handBy,omitempty" doc:"name of who goes there"`
	HandedIn  *time.Time       `json:"handedIn,omitempty"`
	Late      bool             `json:"late,omitempty"`
	State     BoardState       `json:"state" enum:"hand,help,look,working,done,not-begun" doc:"the sum of it"`
}

// BoardState is the sum of what a bench needs.
type BoardState string

// The states, the most urgent first.
const (
	StateHand     BoardState = "hand"
	StateHelp     BoardState = "help"
	StateLook     BoardState = "look"
	StateWorking  BoardState = "working"
	StateDone     BoardState = "done"
	StateNotBegun BoardState = "not-begun"
)

var stateOrder = map[BoardState]int{StateHand: 0, StateHelp: 1, StateLook: 2, StateNotBegun: 3, StateWorking: 4, StateDone: 5}

// BoardTitre is a titre as a tick on the board's common axis.
type BoardTitre struct {
	Value float64              `json:"value" doc:"mL"`
	Text  string               `json:"text"`
	State evaluation.BandState `json:"state" enum:"rough,counts,pending,aside"`
}

// BoardNeed is something a bench needs help with.
type BoardNeed struct {
	Code string `json:"code"`
	Rank int    `json:"rank" doc:"1 first"`
	Say  string `json:"say" doc:"what is the matter"`
	Tell string `json:"tell" doc:"what to say to the student"`
}

// urgent is the last rank of what cannot wait: what comes after spoils no record.
const urgent = 7

// BoardRowOf puts a bench into words.
func BoardRowOf(r *practical.Ready, seat BoardSeat, b board.Bench, needs []board.Need, style practical.Style) BoardRow {
	m := &maker{Writer: Writer(r, style), r: r}
	row := BoardRow{BoardSeat: seat, Stage: evaluation.Untouched, Titres: []BoardTitre{}, Needs: []BoardNeed{}}
	for _, n := range needs {
		row.Needs = append(row.Needs, BoardNeed{n.Code, n.Rank, m.Say(n.Say), m.Say(n.Tell)})
	}
	s := b.Summary
	row.ToDo = sayAll(m.Writer, board.ToDo(s, false))
	if s != nil {
		row.Stage = s.Stage
		m.ev = evaluation.Evaluation{Agreement: s.Agreement}
		row.Agreement = m.agreement()
		for _, band := range s.Bands {
			row.Titres = append(row.Titres, BoardTitre{band.Titre.Float64(), band.Titre.String(), band.State})
		}
		if s.Open != nil {
			row.Trial = m.Say(finding.Message{Code: "trial." + string(s.Open.Type), Values: finding.Values{"number": finding.Count(s.Open.Number)}})
			row.Since = &s.Open.At
		}
		if at := s.Received(); !at.IsZero() {
			row.Seen = &at
		}
	}
	row.Done = row.Stage.Done()
	row.StageText = m.Text("stage." + string(row.Stage))
	if percent, ok := b.Off(); ok {
		row.Off = m.Value(finding.Number(percent, 2, quantity.Percent))
		if percent > 0 {
			row.Off = "+" + row.Off
		}
	}
	row.State = stateOf(s, needs)
	return row
}

func stateOf(s *evaluation.Summary, needs []board.Need) BoardState {
	switch {
	case len(needs) > 0 && needs[0].Code == "hand":
		return StateHand
	case len(needs) > 0 && needs[0].Code == "not-begun":
		return StateNotBegun
	case len(needs) > 0 && needs[0].Rank <= urgent:
		return StateHelp
	case len(needs) > 0:
		return StateLook
	case s != nil && s.Stage.Done():
		return StateDone
	}
	return StateWorking
}

// BoardOrder sorts who needs help first; then by the number of the bench, then by name.
func BoardOrder(a, b BoardRow) int {
	rank := func(r BoardRow) int {
		if len(r.Needs) == 0 {
			return 1000
		}
		return r.Needs[0].Rank
	}
	number := func(text string) int {
		n, err := strconv.Atoi(text)
		if err != nil {
			return 1 << 20
		}
		return n
	}
	return cmp.Or(cmp.Compare(stateOrder[a.State], stateOrder[b.State]), cmp.Compare(rank(a), rank(b)),
		cmp.Compare(number(a.Bench), number(b.Bench)), cmp.Compare(a.Bench, b.Bench), cmp.Compare(a.Name, b.Name), cmp.Compare(a.Person, b.Person))
}

// VolumeText is a volume in words, to the millilitre.
func VolumeText(r *practical.Ready, v decimal.Decimal, style practical.Style) string {
	return Writer(r, style).Value(finding.Exact(v.Round(0), quantity.Millilitre))
}

// Clock is a time of the day for a log; empty for none.
func Clock(at time.Time) string {
	if at.IsZero() {
		return ""
	}
	return at.Format("15:04 UTC")
}

// ClassPlot is the answers of a class, in words.
type ClassPlot struct {
	board.Plot
	Points  []PlotPoint `json:"points" doc:"the lowest first"`
	Causes  []string    `json:"causes" doc:"what benches that are off together have in common, one sentence each"`
	Summary string      `json:"summary" doc:"how many answers there are, and where they lie"`
	Axis    string      `json:"axis" doc:"what the deviation is counted from"`
	Missing int         `json:"missing" doc:"benches without an answer yet"`
}

// PlotPoint is a bench on the plot.
type PlotPoint struct {
	board.Point
	BoardSeat
	Text string `json:"text"`
}

// ClassPlotOf puts a plot into words.
func ClassPlotOf(r *practical.Ready, p board.Plot, seats map[string]BoardSeat, benches int, style practical.Style) ClassPlot {
	w := Writer(r, style)
	out := ClassPlot{Plot: p, Points: make([]PlotPoint, len(p.Points)), Causes: make([]string, len(p.Common)),
		Axis: w.Text("plot.against." + string(p.Against)), Missing: benches - len(p.Points)}
	for i, point := range p.Points {
		out.Points[i] = PlotPoint{point, seats[point.ID], w.Value(finding.Number(point.Percent, 2, quantity.Percent))}
	}
	for i, c := range p.Common {
		out.Causes[i] = w.Say(c.Say())
	}
	out.Summary = w.Say(p.Say())
	return out
}
