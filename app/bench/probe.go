package bench

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/hex"
	"fmt"
	"strings"
	"sync"
	"time"

	"golang.org/x/time/rate"

	"exactflask/app/access"
	"exactflask/app/limits"
	"exactflask/core/model/assay"
	"exactflask/core/practice/sim"
	"exactflask/core/record/journal"
	"exactflask/core/record/probe"
	"exactflask/core/values/finding"
	"exactflask/view"
	"exactflask/wording"
)

// maxProbes is how many probes may be joined at once; the one used longest ago goes first.
const maxProbes = 500

// liveProbe is the probe of a notebook, while one is joined. What it says is kept in memory
// only: what is noted of it is an entry of the journal like any other.
type liveProbe struct {
	mu      sync.Mutex
	stream  *probe.Stream
	token   [sha256.Size]byte // of a probe that sends over HTTP
	until   time.Time         // the token is good until then
	pace    *rate.Limiter
	pretend *pretend // a simulated one
}

// pretend is a simulated probe: it is moved on whenever somebody looks.
type pretend struct {
	instrument *sim.Instrument
	really     func(float64) float64
	ran        float64
	at         time.Time     // up to which it has spoken
	own        time.Duration // its own clock
}

// How long the token of a probe is good, and how a simulated one is moved on.
const (
	tokenLife = 12 * time.Hour
	tick      = 50 * time.Millisecond
	mostTicks = 2400 // that a simulated probe catches up with
)

var (
	noProbeToken = finding.Declare("app.probe-token")
	probeFast    = finding.Declare("app.probe-fast", "count")
	probeReal    = finding.Declare("app.probe-simulated")
)

// ProbeTaken is what became of lines that a probe sent.
type ProbeTaken struct {
	Taken  int      `json:"taken" doc:"lines that were taken"`
	Faults []string `json:"faults" doc:"of those that were not: which, and why"`
}

// probeOf is the live probe of a notebook, for whoever may write in it.
func (a *Bench) probeOf(ctx context.Context, p access.Person, id string) (*liveProbe, Opened, error) {
	o, err := a.Open(ctx, p, id)
	switch {
	case err != nil:
		return nil, o, err
	case !o.write:
		return nil, o, fmt.Errorf("the probe of another's notebook: %w", o.refused)
	case !o.Ready.Probed():
		return nil, o, noProbe.Fault("")
	}
	a.probing.Lock()
	defer a.probing.Unlock()
	live, ok := a.probes.Get(id)
	if !ok {
		live = &liveProbe{stream: newStream(o), pace: limits.ProbeLines.Limiter()}
		a.probes.Add(id, live)
	}
	return live, o, nil
}

func newStream(o Opened) *probe.Stream {
	return &probe.Stream{Unit: o.Ready.Probe.Shows, Steady: o.Ready.Probe.Steady.Float64(), Norms: o.Ready.Norms()}
}

// ProbeToken makes the token with which a probe sends lines to a notebook over HTTP. It is
// told once, takes the place of the one before, and ends with the day or the program.
func (a *Bench) ProbeToken(ctx context.Context, p access.Person, id string) (string, error) {
	live, o, err := a.probeOf(ctx, p, id)
	if err != nil {
		return "", err
	}
	secret := make([]byte, 18)
	if _, err := rand.Read(secret); err != nil {
		return "", fmt.Errorf("making a token: %w", err)
	}
	token := hex.EncodeToString(secret)
	live.mu.Lock()
	defer live.mu.Unlock()
	live.token, live.until, live.pretend, live.stream = sha256.Sum256([]byte(token)), a.Now().Add(tokenLife), nil, newStream(o)
	return token, nil
}

// ProbeLines takes lines of a probe, by its token. What is no line is refused by itself.
func (a *Bench) ProbeLines(id, token string, body string) (ProbeTaken, error) {
	a.probing.Lock()
	live, ok := a.probes.Get(id)
	a.probing.Unlock()
	if !ok || token == "" {
		return ProbeTaken{}, noProbeToken.Fault("")
	}
	live.mu.Lock()
	defer live.mu.Unlock()
	sum := sha256.Sum256([]byte(token))
	if subtle.ConstantTimeCompare(sum[:], live.token[:]) != 1 || a.Now().After(live.until) {
		return ProbeTaken{}, noProbeToken.Fault("")
	}
	out := ProbeTaken{Faults: []string{}}
	words := wording.For()
	for i, line := range strings.Split(body, "\n") {
		if strings.TrimSpace(line) == "" {
			continue
		}
		if !live.pace.Allow() {
			return out, probeFast.Fault("", finding.Count(int(limits.ProbeLines.Second)))
		}
		if fault := live.stream.Add(line, a.Now()); fault != nil {
			if len(out.Faults) < 20 {
				out.Faults = append(out.Faults, words.Text("probe.line", "line", finding.Count(i+1), "fault", finding.Said(fault.Message)))
			}
			continue
		}
		out.Taken++
	}
	return out, nil
}

// Probe is how the live probe of a notebook stands.
func (a *Bench) Probe(ctx context.Context, p access.Person, id string) (view.LiveProbe, error) {
	live, _, err := a.probeOf(ctx, p, id)
	if err != nil {
		return view.LiveProbe{}, err
	}
	live.mu.Lock()
	defer live.mu.Unlock()
	if live.pretend != nil {
		live.moveOn(a.Now())
	}
	return view.Live(wording.For(p.Style()), live.stream.Now(a.Now())), nil
}

// SimulateProbe joins a simulated probe to a notebook of the demo, or tells it how much
// has run from the burette. It shows what the student's own sample would.
func (a *Bench) SimulateProbe(ctx context.Context, p access.Person, id, burette string, demo bool) error {
	live, o, err := a.probeOf(ctx, p, id)
	if err != nil {
		return err
	}
	if !demo {
		return probeReal.Fault("")
	}
	live.mu.Lock()
	defer live.mu.Unlock()
	if live.pretend == nil {
		answer := o.Ready.Asked.Reference.Float64()
		model := assay.New(o.Ready, assay.Held{})
		m := assay.Measured{Trial: "simulated"}
		titre, problem := model.Expected(m)
		if answer > 0 && problem == nil {
			titre, problem = model.Forward(m, answer, 0)
		}
		if problem != nil {
			return probeReal.Fault("")
		}
		really, err := sim.Really(o.Ready, titre.Last)
		if err != nil {
			return err
		}
		seed := sha256.Sum256([]byte(id))
		live.pretend = &pretend{instrument: sim.NewInstrument(o.Ready.Probe.Shows, uint64(seed[0])), really: really, at: a.Now()}
		ev, err := o.Evaluate(a.Log)
		if err != nil {
			return err
		}
		if ev.Probe.Corrects { // it is the probe that was calibrated
			live.pretend.instrument.Calibrate()
			live.pretend.really = func(ran float64) float64 { return ev.Probe.Uncorrected(really(ran)) }
		}
		live.stream = newStream(o)
	}
	if burette == "" {
		return nil
	}
	live.moveOn(a.Now())
	if ran, ok := ranAt(o, burette); ok {
		live.pretend.ran = ran
	}
	return nil
}

// quicker is how much faster the time of the demo's probe runs than a real one's.
const quicker = 20

// moveOn lets a simulated probe say what it would have said since somebody looked last.
func (l *liveProbe) moveOn(now time.Time) {
	s := l.pretend
	if behind := now.Sub(s.at); behind > mostTicks*tick {
		s.at = now.Add(-mostTicks * tick)
	}
	for !s.at.Add(tick).After(now) {
		s.at, s.own = s.at.Add(tick), s.own+quicker*tick
		v := s.instrument.Advance((quicker * tick).Seconds(), s.really(s.ran))
		_ = l.stream.Add(fmt.Sprintf(`{"time":%.3f,%q:%.4f,"temperature":25.0}`, s.own.Seconds(), l.stream.Unit, v), s.at)
	}
}

// ranAt is what has run in the open trial of a notebook at a reading of the burette, mL;
// false where that is not told.
func ranAt(o Opened, burette string) (float64, bool) {
	v, err := journal.ParseNumber(burette)
	if err != nil {
		return 0, false
	}
	c := journal.Fold(o.Entries)
	for i := len(c.Trials) - 1; i >= 0; i-- {
		t := &c.Trials[i]
		if t.Withdrawn || t.Start == nil || t.End != nil {
			continue
		}
		ran, ok := t.Delivery(o.Ready.Glass.Burette.Rising).Ran(v, len(t.Refills))
		return max(0, ran.Float64()), ok
	}
	return 0, false
}

// LeaveProbe parts the probe from a notebook: its token is no good any more.
func (a *Bench) LeaveProbe(ctx context.Context, p access.Person, id string) error {
	if _, _, err := a.probeOf(ctx, p, id); err != nil {
		return err
	}
	a.probing.Lock()
	defer a.probing.Unlock()
	a.probes.Remove(id)
	return nil
}
