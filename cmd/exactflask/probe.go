package main

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"strconv"
	"strings"
	"sync"
	"time"

	"exactflask/core/model/assay"
	"exactflask/core/practice/sim"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
)

// probeCommand is a simulated instrument that speaks the line protocol (docs/formats.md):
// to standard output, or over HTTP to a notebook.
type probeCommand struct {
	Practical  string  `help:"Notebook document whose practical says what is titrated; without it the probe stands in a buffer."`
	Titre      float64 `help:"Where the end lies, mL; what the practical expects when left out."`
	Buffer     float64 `help:"pH, or mV, of what it stands in without a practical." default:"7"`
	Shows      string  `help:"What it shows without a practical." enum:"pH,mV" default:"pH"`
	Seed       uint64  `help:"Draws its errors." default:"1"`
	Lag        float64 `help:"Time constant of its answer, s; drawn when left out."`
	Noise      float64 `help:"Standard deviation of what it shows; that of a usual probe when left out."`
	Drift      float64 `help:"An hour, pH or mV; drawn when left out."`
	Slope      float64 `help:"Part of the slope that Nernst's equation gives; drawn when left out."`
	Offset     float64 `help:"pH or mV; drawn when left out."`
	Calibrated bool    `help:"Without errors of slope and offset."`
	Still      bool    `help:"The stirrer is off: it answers five times as late."`
	Rate       float64 `help:"Lines a second." default:"2"`
	Speed      float64 `help:"How much faster than real its time runs." default:"1"`
	Lines      int     `help:"Stop after so many lines; 0: goes on."`
	To         string  `help:"Address of the server, such as http://localhost:8080; lines go to standard output when left out."`
	Notebook   string  `help:"Id of the notebook, with --to."`
	Token      string  `help:"Its token, with --to." env:"EXACTFLASK_PROBE_TOKEN"`
}

// Run sends lines until it is stopped. On standard input it is told how much has run from
// the burette: a number a line, mL.
func (c *probeCommand) Run(ctx context.Context) error {
	truth, shows, err := c.truth()
	if err != nil {
		return err
	}
	if c.Rate <= 0 || c.Rate > 20 || c.Speed <= 0 || c.Speed > 1000 {
		return &inputError{errors.New("--rate lies between 0 and 20, --speed between 0 and 1000")}
	}
	i := c.instrument(shows)
	var mu sync.Mutex
	ran := 0.0
	go func() {
		in := bufio.NewScanner(os.Stdin)
		for in.Scan() {
			if v, err := strconv.ParseFloat(strings.ReplaceAll(strings.TrimSpace(in.Text()), ",", "."), 64); err == nil && v >= 0 {
				mu.Lock()
				ran = v
				mu.Unlock()
			} else if in.Text() != "" {
				fmt.Fprintf(os.Stderr, "exactflask: %q is no volume in mL\n", in.Text())
			}
		}
	}()
	send := func(line []byte) error { _, err := os.Stdout.Write(line); return err }
	if c.To != "" {
		send = c.post(ctx)
	}
	tick := time.NewTicker(time.Duration(float64(time.Second) / c.Rate))
	defer tick.Stop()
	for n := 1; ; n++ {
		mu.Lock()
		now := truth(ran)
		mu.Unlock()
		v := i.Advance(c.Speed/c.Rate, now)
		line, err := json.Marshal(map[string]any{"time": time.Now().UTC().Format(time.RFC3339Nano), string(shows): float64(int64(v*1e4)) / 1e4, "temperature": 25.0})
		if err != nil {
			return err
		}
		if err := send(append(line, '\n')); err != nil {
			return err
		}
		if n == c.Lines {
			return nil
		}
		select {
		case <-ctx.Done():
			return nil
		case <-tick.C:
		}
	}
}

// truth is what a faultless probe would show at a volume.
func (c *probeCommand) truth() (func(float64) float64, journal.ProbeUnit, error) {
	if c.Practical == "" {
		return func(float64) float64 { return c.Buffer }, journal.ProbeUnit(c.Shows), nil
	}
	doc, err := readDocument(c.Practical)
	if err != nil {
		return nil, "", err
	}
	ready, fault := doc.Practical.Check()
	if fault != nil {
		return nil, "", &inputError{fault.In("practical")}
	}
	if !ready.Probed() {
		return nil, "", &inputError{errors.New("this practical is not followed with a probe")}
	}
	titre, err := c.titre(ready)
	if err != nil {
		return nil, "", err
	}
	truth, err := sim.Really(ready, titre)
	if err != nil {
		return nil, "", &inputError{err}
	}
	return truth, ready.Probe.Shows, nil
}

func (c *probeCommand) titre(r *practical.Ready) (float64, error) {
	if c.Titre > 0 {
		return c.Titre, nil
	}
	t, problem := assay.New(r, assay.Held{}).Expected(assay.Measured{Trial: "probe"})
	if problem != nil {
		return 0, &inputError{errors.New("the practical does not say what to expect: give --titre")}
	}
	return t.Last, nil
}

func (c *probeCommand) instrument(shows journal.ProbeUnit) *sim.Instrument {
	i := sim.NewInstrument(shows, c.Seed)
	for _, s := range []struct {
		said float64
		to   *float64
	}{{c.Lag, &i.Lag}, {c.Noise, &i.Noise}, {c.Drift, &i.Drift}, {c.Slope, &i.Slope}, {c.Offset, &i.Offset}} {
		if s.said != 0 {
			*s.to = s.said
		}
	}
	if c.Calibrated {
		i.Calibrate()
	}
	i.Stirred = !c.Still
	return i
}

// post sends a line to the server. What the server cannot be reached for is said, and the
// next line tries again.
func (c *probeCommand) post(ctx context.Context) func([]byte) error {
	client := &http.Client{Timeout: 10 * time.Second}
	url := strings.TrimSuffix(c.To, "/") + "/api/probes/" + c.Notebook + "/lines"
	return func(line []byte) error {
		r, err := http.NewRequestWithContext(ctx, http.MethodPost, url, bytes.NewReader(line))
		if err != nil {
			return &inputError{err}
		}
		r.Header.Set("Authorization", "Bearer "+c.Token)
		r.Header.Set("Content-Type", "application/jsonl")
		got, err := client.Do(r)
		if err != nil {
			if ctx.Err() == nil {
				fmt.Fprintln(os.Stderr, "exactflask: the server cannot be reached; trying again:", err)
			}
			return nil
		}
		defer got.Body.Close()
		if got.StatusCode == http.StatusUnauthorized {
			return &inputError{errors.New("the token is not the one of this notebook, or its time is over: make another at the bench")}
		}
		if got.StatusCode >= 300 {
			text, _ := io.ReadAll(io.LimitReader(got.Body, 1000))
			fmt.Fprintln(os.Stderr, "exactflask:", got.Status, string(text))
		}
		return nil
	}
}
