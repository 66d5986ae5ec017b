package view

import (
	"time"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/practical"
	"exactflask/wording"
)

// ShelfSummary says where a notebook stands.
type ShelfSummary struct {
	ID        string            `json:"id,omitempty" doc:"empty while not begun"`
	Student   string            `json:"student"`
	Former    bool              `json:"former,omitempty" doc:"has left the class; the notebook stays in it"`
	Partner   bool              `json:"partner,omitempty" doc:"it is a classmate's, and this person writes beside them"`
	Broken    string            `json:"broken,omitempty" doc:"said where this notebook cannot be shown; the others can"`
	HandedIn  *time.Time        `json:"handedIn,omitempty" doc:"when its report was handed in"`
	Late      bool              `json:"late,omitempty" doc:"that was after it was due"`
	Returned  bool              `json:"returned,omitempty" doc:"it was given back for another version"`
	Marked    bool              `json:"marked,omitempty" doc:"the marks of its report are released"`
	Stage     evaluation.Stage  `json:"stage" enum:"untouched,rough,measuring,disagreeing,agreed,making,made"`
	StageText string            `json:"stageText"`
	Done      bool              `json:"done,omitempty" doc:"the bench work is done"`
	Next      string            `json:"next" doc:"what to do next in it"`
	Trials    int               `json:"trials" doc:"accurate trials with a titre"`
	Agreement string            `json:"agreement"`
	Checks    int               `json:"checks" doc:"findings that ask for a look"`
	Capacity  float64           `json:"capacity" doc:"of the burette, mL"`
	Bands     []evaluation.Band `json:"bands" doc:"the trials on the burette, in mL"`
}

// Of fills in what a summary says.
func (s ShelfSummary) Of(r *practical.Ready, of evaluation.Summary, style practical.Style) ShelfSummary {
	m := &maker{Writer: Writer(r, style), r: r, ev: evaluation.Evaluation{Agreement: of.Agreement}}
	s.Done = of.Stage.Done()
	s.Stage, s.StageText, s.Agreement = of.Stage, m.Text("stage."+string(of.Stage)), m.agreement()
	for i, say := range of.Say {
		if i > 0 {
			s.Next += " "
		}
		s.Next += m.Say(say)
	}
	s.Trials, s.Checks, s.Capacity, s.Bands = of.Trials, of.Checks, r.Glass.Burette.Capacity.Float64(), of.Bands
	if s.Bands == nil {
		s.Bands = []evaluation.Band{}
	}
	return s
}

// Writer speaks to a reader about a practical: what their style leaves open is
// taken from it.
func Writer(r *practical.Ready, style practical.Style) wording.Writer {
	return wording.For(style, r.Showing.Style)
}

// Broken is said where something stored cannot be used.
func Broken(style practical.Style) string { return wording.For(style).Text("shelf.broken") }

// NoSetting is the setting of a practical that cannot be used.
func NoSetting() Setting {
	return Setting{Rules: []string{}, Cautions: []string{}, Route: []Vessel{}}
}
