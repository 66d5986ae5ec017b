package bench

import (
	"context"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"time"

	"exactflask/app/access"
	"exactflask/app/practicals"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/practice/board"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/store"
	"exactflask/view"
)

// Board is a practical of a class while it is done: every bench at once.
type Board struct {
	Class   string          `json:"class" doc:"name of the class"`
	Title   string          `json:"title"`
	Now     time.Time       `json:"now" doc:"by the server's clock"`
	Ends    *time.Time      `json:"ends,omitempty" doc:"when the lesson ends"`
	Benches []view.BoardRow `json:"benches" doc:"who needs help first"`
	Titrant string          `json:"titrant,omitempty" doc:"how much of the solution in the burettes the class has left, where benches are given so much"`
}

// seat is what is known of a bench beside its record.
type seat struct {
	view.BoardSeat
	notebook  string
	revision  int
	reference float64
	hand      *store.Hand
	handed    *store.HandedIn
	summary   *evaluation.Summary
	broken    bool
}

// lesson is a board being looked at: the benches as they were read, each with its last
// summary. A change costs a look at one summary.
type lesson struct {
	a         *Bench
	p         access.Person
	m         access.Membership
	practical string
	ready     *practical.Ready
	ends      *time.Time
	seats     []seat
	sent      map[string]view.BoardRow // by person: what the reader has
	order     []string                 // and in which order
	readAt    time.Time                // when everything was read last
}

// lessonOf reads the benches of a practical in a class.
func (a *Bench) lessonOf(ctx context.Context, p access.Person, class, id string) (*lesson, error) {
	if err := access.Allowed(p, access.SeeRoll, class); err != nil {
		return nil, err
	}
	ready, err := a.practicals.Assigned(ctx, p, class, id)
	if err != nil {
		return nil, err
	}
	l := &lesson{a: a, p: p, m: p.In(class), practical: id, ready: ready, sent: map[string]view.BoardRow{}}
	return l, l.read(ctx)
}

// read reads everything anew.
func (l *lesson) read(ctx context.Context) error {
	l.readAt = time.Now()
	q := l.a.Store.Read()
	class := l.m.Class
	roll, err := q.RollOfClass(ctx, class, l.practical)
	if err != nil {
		return fmt.Errorf("reading the roll: %w", err)
	}
	members, err := q.Members(ctx, class)
	if err != nil {
		return fmt.Errorf("reading members: %w", err)
	}
	partners, err := practicals.PartnersIn(ctx, q, class, l.practical, members)
	if err != nil {
		return err
	}
	hands, err := q.HandsOfClass(ctx, class, l.practical)
	if err != nil {
		return fmt.Errorf("reading hands: %w", err)
	}
	handed, err := q.HandedInOfClass(ctx, class, l.practical)
	if err != nil {
		return fmt.Errorf("reading who handed in: %w", err)
	}
	codes, values, err := l.unknowns(ctx, q)
	if err != nil {
		return err
	}
	if l.ends, err = l.a.endOf(ctx, class, l.practical); err != nil {
		return err
	}
	l.seats = l.seats[:0]
	for _, r := range roll {
		if r.Former {
			continue // no bench of this lesson
		}
		s := l.seat(r, members, partners)
		s.Sample = codes[r.Person]
		if v, known := values[s.Sample]; known {
			s.reference = v
		}
		for _, h := range hands {
			if h.Notebook == r.Notebook {
				s.hand = &h
			}
		}
		if h, ok := handed[r.Notebook]; ok && r.Notebook != "" {
			s.handed = &h
		}
		if r.Notebook != "" && (s.summary == nil || r.Revision != l.ready.Revision) {
			l.again(ctx, &s)
		}
		l.seats = append(l.seats, s)
	}
	return nil
}

// seat is somebody of the roll at their bench.
func (l *lesson) seat(r store.Summarised, members []store.Member, partners map[string]string) seat {
	s := seat{notebook: r.Notebook, revision: r.Revision, summary: l.a.summaryOf(r), reference: l.ready.Asked.Reference.Float64(),
		BoardSeat: view.BoardSeat{Person: r.Person, Notebook: r.Notebook, Name: access.NameFor(l.p, r.Name)}}
	if m, ok := access.Member(members, r.Person); ok {
		s.Bench, s.Burette = m.Bench, m.Burette
		if other := partners[m.ID]; other != "" {
			s.Pair = min(m.ID, other)
		}
	}
	return s
}

// unknowns are the codes by student, and the true values by code.
func (l *lesson) unknowns(ctx context.Context, q store.Queries) (codes map[string]string, values map[string]float64, err error) {
	if codes, err = q.Deals(ctx, l.m.Class, l.practical); err != nil {
		return nil, nil, fmt.Errorf("reading who has which unknown: %w", err)
	}
	there, err := q.Unknowns(ctx, l.m.Class, l.practical)
	if err != nil {
		return nil, nil, fmt.Errorf("reading unknowns: %w", err)
	}
	values = map[string]float64{}
	for _, u := range there {
		if v, err := decimal.Parse(u.Value); err == nil {
			values[u.Code] = v.Float64()
		}
	}
	return codes, values, nil
}

// again looks at the summary of one bench: in memory where it was just written.
func (l *lesson) again(ctx context.Context, s *seat) {
	b, err := l.a.Read(ctx, s.notebook)
	if err == nil && b.summary != nil {
		s.summary, s.broken = b.summary, false
		return
	}
	if err == nil {
		s.summary, err = l.a.summarise(ctx, b)
	}
	if s.broken = err != nil; s.broken {
		l.a.Log("a notebook cannot be shown on the board", "notebook", s.notebook, "err", err)
	}
}

func (s seat) bench() board.Bench {
	out := board.Bench{Summary: s.summary, Reference: s.reference, Broken: s.broken}
	if s.hand != nil {
		out.Hand = &s.hand.Raised
	}
	return out
}

// rows are the benches in words, who needs help first.
func (l *lesson) rows() []view.BoardRow {
	now := l.a.Now()
	out := make([]view.BoardRow, len(l.seats))
	for i := range l.seats {
		out[i] = l.row(&l.seats[i], now)
	}
	slices.SortStableFunc(out, view.BoardOrder)
	return out
}

func (l *lesson) row(s *seat, now time.Time) view.BoardRow {
	b := s.bench()
	row := view.BoardRowOf(l.ready, s.BoardSeat, b, board.Needs(l.ready.Norms(), b, now), l.p.Style())
	if s.hand != nil {
		row.HandUp, row.HandBy = &s.hand.Raised, s.hand.By
	}
	if s.handed != nil && !s.handed.Returned {
		row.HandedIn, row.Late, row.ToDo = &s.handed.Handed, s.handed.Late, []string{}
	}
	return row
}

// Board returns the benches of a practical, for those who teach.
func (a *Bench) Board(ctx context.Context, p access.Person, class, id string) (Board, error) {
	l, err := a.lessonOf(ctx, p, class, id)
	if err != nil {
		return Board{}, err
	}
	return l.board(), nil
}

func (l *lesson) board() Board {
	out := Board{Class: l.m.Name, Title: l.ready.Title, Now: l.a.Now(), Ends: l.ends, Benches: l.rows()}
	if supply := l.ready.Glass.Supply.Titrant; !supply.IsZero() {
		left := decimal.Decimal{}
		for _, s := range l.seats {
			if s.summary != nil && s.summary.Left != nil && s.summary.Left.Titrant != nil {
				left = left.Add(*s.summary.Left.Titrant)
			} else {
				left = left.Add(supply)
			}
		}
		out.Titrant = view.VolumeText(l.ready, left, l.p.Style())
	}
	return out
}

// BoardNews is what changed on a board: rows that are others now, by person. Whole is
// set where everything was read anew.
type BoardNews struct {
	Now   time.Time       `json:"now"`
	Rows  []view.BoardRow `json:"rows"`
	Order []string        `json:"order,omitempty"` // of all benches, by person, where it is another now
	Whole *Board          `json:"whole,omitempty"`
}

// gatherFor is how long changes are gathered before a board is told of them, and
// gatherAll how long at least from one reading of everything to the next: a class that
// begins its notebooks at once is not read for each of them.
const (
	gatherFor = 50 * time.Millisecond
	gatherAll = 500 * time.Millisecond
)

// WatchBoard begins to watch a board. What it returns tells of the changes until its
// context is done: tell is called with what changed, and ends the watching by returning
// false.
func (a *Bench) WatchBoard(ctx context.Context, p access.Person, class, id string) (func(ctx context.Context, tick <-chan time.Time, tell func(BoardNews) bool), error) {
	w := a.Listeners.Watch(ctx, class, id)
	l, err := a.lessonOf(ctx, p, class, id)
	if err != nil {
		return nil, err
	}
	l.keep(l.rows())
	return func(ctx context.Context, tick <-chan time.Time, tell func(BoardNews) bool) {
		whole := l.board() // what was written between the page's asking and this
		for ok := tell(BoardNews{Now: a.Now(), Rows: []view.BoardRow{}, Whole: &whole}); ok; {
			select {
			case <-ctx.Done():
				return
			case <-tick: // time passes: a bench has been quiet for too long
				all := make([]*seat, len(l.seats))
				for i := range l.seats {
					all[i] = &l.seats[i]
				}
				ok = tell(l.news(all))
			case <-w.Wake:
				time.Sleep(gatherFor)
				changed := w.Take()
				if l.anew(changed) {
					time.Sleep(time.Until(l.readAt.Add(gatherAll)))
					for id, around := range w.Take() {
						changed[id] = changed[id] || around
					}
				}
				if ctx.Err() == nil {
					ok = tell(l.after(ctx, changed))
				}
			}
		}
	}, nil
}

// anew tells whether changes make it read everything: where something beside the entries
// changed, or a notebook is new here.
func (l *lesson) anew(changed map[string]bool) bool {
	for id, around := range changed {
		if around || l.seatOf(id) < 0 {
			return true
		}
	}
	return false
}

// seatOf is the place of a notebook among the seats; -1 where it is new here.
func (l *lesson) seatOf(notebook string) int {
	return slices.IndexFunc(l.seats, func(s seat) bool { return s.notebook == notebook })
}

// after is what changed by changes of notebooks.
func (l *lesson) after(ctx context.Context, changed map[string]bool) BoardNews {
	if l.anew(changed) {
		if err := l.read(ctx); err != nil {
			l.a.Log("a board cannot be read", "class", l.m.Class, "err", err)
		}
		whole := l.board()
		l.keep(whole.Benches)
		return BoardNews{Now: whole.Now, Rows: []view.BoardRow{}, Whole: &whole}
	}
	seats := make([]*seat, 0, len(changed))
	for id := range changed {
		s := &l.seats[l.seatOf(id)]
		l.again(ctx, s)
		seats = append(seats, s)
	}
	return l.news(seats)
}

// keep remembers what the reader has.
func (l *lesson) keep(rows []view.BoardRow) {
	clear(l.sent)
	for _, row := range rows {
		l.sent[row.Person] = row
	}
	l.order = l.sorted()
}

// sorted are the benches as they were told last, who needs help first.
func (l *lesson) sorted() []string {
	rows := slices.SortedFunc(maps.Values(l.sent), view.BoardOrder)
	out := make([]string, len(rows))
	for i, row := range rows {
		out[i] = row.Person
	}
	return out
}

// news is what is another now of these benches.
func (l *lesson) news(seats []*seat) BoardNews {
	out := BoardNews{Now: l.a.Now(), Rows: []view.BoardRow{}}
	for _, s := range seats {
		row := l.row(s, out.Now)
		if !reflect.DeepEqual(l.sent[row.Person], row) {
			l.sent[row.Person] = row
			out.Rows = append(out.Rows, row)
		}
	}
	if len(out.Rows) > 0 {
		if now := l.sorted(); !slices.Equal(now, l.order) {
			l.order, out.Order = now, now
		}
	}
	return out
}

// ClassPlot is what the answers of a class say together, for those who teach.
func (a *Bench) ClassPlot(ctx context.Context, p access.Person, class, id string) (view.ClassPlot, error) {
	l, err := a.lessonOf(ctx, p, class, id)
	if err != nil {
		return view.ClassPlot{}, err
	}
	var answers []board.Answer
	seats := map[string]view.BoardSeat{}
	for _, s := range l.seats {
		if s.summary == nil || s.summary.Found == nil {
			continue
		}
		seats[s.Person] = s.BoardSeat
		answers = append(answers, board.Answer{Bench: s.Person, Unknown: s.Sample, Value: s.summary.Found.Value,
			Reference: s.reference, Shared: board.SharedBy(s.summary, s.Burette, s.Sample)})
	}
	return view.ClassPlotOf(l.ready, board.PlotOf(l.ready.Norms(), answers), seats, len(l.seats), p.Style()), nil
}
