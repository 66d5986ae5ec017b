// Command exactflask serves the application and works on its open files.
package main

import (
	"bufio"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"runtime/debug"
	"strings"
	"syscall"
	"time"

	"github.com/alecthomas/kong"

	"exactflask/app"
	"exactflask/calc"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/demo"
	"exactflask/formats"
	"exactflask/schema"
	"exactflask/store"
	"exactflask/view"
	"exactflask/web"
	"exactflask/wording"
)

// exitInput is the exit status for input that could not be taken.
const exitInput = 2

type cli struct {
	Serve    serveCommand    `cmd:"" help:"Serve the application."`
	Evaluate evaluateCommand `cmd:"" help:"Evaluate a notebook document and print what follows from it."`
	Calc     calcCommand     `cmd:"" help:"Compute without a notebook: JSON in, JSON out."`
	Probe    probeCommand    `cmd:"" help:"A simulated probe: lines of its readings, to standard output or to a notebook."`
	Schema   schemaCommand   `cmd:"" help:"Print the JSON Schema of a notebook document."`
	Openapi  openapiCommand  `cmd:"" help:"Print the OpenAPI document of the API."`
	User     userCommand     `cmd:"" help:"Add people and change passwords."`
	Assign   assignCommand   `cmd:"" help:"Set the practical of a document to a class."`
	Import   importCommand   `cmd:"" help:"Take an open document or an archive in as a notebook of a student, marked as imported."`
	Backup   backupCommand   `cmd:"" help:"Write a consistent, verified copy of the data file, also while it is served."`
	Restore  restoreCommand  `cmd:"" help:"Put a backup in the place of the data file."`
	Verify   verifyCommand   `cmd:"" help:"Check a data file, a backup or a notebook document for damage and tampering."`
	Version  kong.VersionFlag
}

func main() {
	var c cli
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	k := kong.Must(&c, kong.Name("exactflask"), kong.Description("Titrations in a teaching laboratory: from burette readings to a concentration."),
		kong.UsageOnError(), kong.Vars{"version": web.Version}, kong.BindTo(ctx, (*context.Context)(nil)))
	parsed, err := k.Parse(os.Args[1:])
	k.FatalIfErrorf(err)
	if err := parsed.Run(); err != nil {
		fmt.Fprintln(os.Stderr, "exactflask:", spoken(err))
		var input *inputError
		if errors.As(err, &input) {
			os.Exit(exitInput)
		}
		os.Exit(1)
	}
}

// spoken is an error in words, each fault on a line of its own with its place.
func spoken(err error) string {
	words := wording.For()
	say := func(f *finding.Fault) string {
		if f.Path == "" {
			return words.Say(f.Message)
		}
		return f.Path + ": " + words.Say(f.Message)
	}
	var faults schema.Faults
	var fault *finding.Fault
	switch {
	case errors.As(err, &faults):
		lines := make([]string, len(faults))
		for i, f := range faults {
			lines[i] = say(f)
		}
		return strings.Join(lines, "\n")
	case errors.As(err, &fault):
		return say(fault)
	}
	return err.Error()
}

// inputError is an error of what was given, not of the program.
type inputError struct{ err error }

func (e *inputError) Error() string { return e.err.Error() }
func (e *inputError) Unwrap() error { return e.err }

type database struct {
	Data string `help:"File that holds everything." default:"data/exactflask.db" env:"EXACTFLASK_DATA" type:"path"`
}

// open opens the database file and the application over it.
func (d database) open(ctx context.Context, cheap bool) (*store.Store, *app.App, error) {
	if err := os.MkdirAll(filepath.Dir(d.Data), 0o700); err != nil {
		return nil, nil, fmt.Errorf("making the folder for the data: %w", err)
	}
	s, err := store.Open(ctx, d.Data)
	return over(s, err, cheap)
}

// beside opens a database file that may be served meanwhile.
func (d database) beside(ctx context.Context) (*store.Store, *app.App, error) {
	s, a, err := d.open(ctx, false)
	var used *store.InUseError
	if !errors.As(err, &used) {
		return s, a, err
	}
	s, err = store.Beside(ctx, d.Data)
	return over(s, err, false)
}

func over(s *store.Store, err error, cheap bool) (*store.Store, *app.App, error) {
	if err != nil {
		return nil, nil, err
	}
	a, err := app.New(s, cheap)
	if err != nil {
		return nil, nil, errors.Join(err, s.Close())
	}
	return s, a, nil
}

// garbage is how much of what the server uses may lie about unused before it is
// collected, in percent: a small machine serves a large school. A fixed limit would
// make it do nothing else once what it uses comes near. GOGC says otherwise.
const garbage = 40

type serveCommand struct {
	database
	backups
	Demo    bool     `help:"Fill an empty file with the demo, and let everyone sign in from a list. Never with real data."`
	Host    string   `help:"Address to listen on." default:"localhost" env:"HOST"`
	Port    int      `help:"Port to listen on." default:"8080" env:"PORT"`
	Secure  bool     `help:"Send cookies over HTTPS only (behind a proxy that speaks HTTPS)."`
	Proxy   []string `name:"trusted-proxy" help:"Address or network of a proxy whose X-Forwarded-For tells the caller's address; what others send is ignored." env:"EXACTFLASK_TRUSTED_PROXY"`
	Metrics string   `help:"Address, such as localhost:9464, on which /metrics is served to whoever reaches it; left out: nowhere." env:"EXACTFLASK_METRICS"`
	Quiet   bool     `help:"Log warnings and errors only."`
}

func (c *serveCommand) Run(ctx context.Context) error {
	level := slog.LevelInfo
	if c.Quiet {
		level = slog.LevelWarn
	}
	log := slog.New(slog.NewJSONHandler(os.Stderr, &slog.HandlerOptions{Level: level}))
	proxies, err := web.ParseProxies(c.Proxy)
	if err != nil {
		return &inputError{err}
	}
	if os.Getenv("GOGC") == "" {
		debug.SetGCPercent(garbage)
	}
	s, a, err := c.open(ctx, c.Demo)
	if err != nil {
		return err
	}
	defer func() {
		if err := s.Close(); err != nil {
			log.Error("closing the data file", "err", err)
		}
	}()
	if err := c.guardDemo(ctx, a); err != nil {
		return err
	}
	listener, err := net.Listen("tcp", net.JoinHostPort(c.Host, fmt.Sprint(c.Port)))
	if err != nil {
		return fmt.Errorf("listening: %w (another port can be chosen with PORT)", err)
	}
	metrics := web.NewMetrics(a)
	if c.Metrics != "" {
		stop, err := serveMetrics(c.Metrics, metrics)
		if err != nil {
			return err
		}
		defer stop()
	}
	server := &http.Server{
		Handler: web.New(a, s.Sessions(), web.Options{Demo: c.Demo, Secure: c.Secure, Proxies: proxies, Metrics: metrics, Log: log,
			Closing: ctx}),
		ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 30 * time.Second, WriteTimeout: 60 * time.Second, IdleTimeout: 2 * time.Minute,
		MaxHeaderBytes: 32 << 10, ErrorLog: slog.NewLogLogger(log.Handler(), slog.LevelWarn),
	}
	if err := c.greet(ctx, a, listener.Addr()); err != nil {
		return err
	}
	defer c.backups.run(ctx, c.Data, log)()
	err = web.Serve(ctx, server, func() error { return server.Serve(listener) })
	if errors.Is(err, http.ErrServerClosed) {
		return nil
	}
	return err
}

// guardDemo fills a demo's data file, saying so, and refuses to mix demo and real data.
func (c *serveCommand) guardDemo(ctx context.Context, a *app.App) error {
	first := true
	err := demo.Guard(ctx, a, c.Demo, func(class string) {
		if first {
			fmt.Println("Filling the demo's data file, once:")
		}
		first = false
		fmt.Println("  " + class)
	})
	if err != nil {
		return &inputError{fmt.Errorf("%s: %w", c.Data, err)}
	}
	return nil
}

// greet says where the program is, where its data are, and how the first one gets in.
func (c *serveCommand) greet(ctx context.Context, a *app.App, at net.Addr) error {
	fmt.Printf("Exact Flask is at http://%s\n", at)
	if !c.Demo {
		fmt.Printf("Everything is in %s. To save it while this runs: exactflask backup --data %s TO (a copy of the file alone loses entries).\n", c.Data, c.Data)
	}
	if by, err := a.Behind(ctx); err == nil && by > 0 {
		fmt.Printf("The clock is %s behind the record in the data file: look at the machine's time. Entries go on with the time of the last one; due times follow the clock.\n", by.Round(time.Second))
	}
	token, err := a.People.SetupToken(ctx)
	if err == nil && token != "" {
		fmt.Printf("Nobody is here yet. Whoever opens this becomes the administrator (it works once, until the program ends):\n  http://%s/setup/%s\n", at, token)
	}
	return err
}

// serveMetrics serves the figures on an address of their own.
func serveMetrics(address string, m *web.Metrics) (stop func(), err error) {
	l, err := net.Listen("tcp", address)
	if err != nil {
		return nil, fmt.Errorf("listening for --metrics: %w", err)
	}
	mux := http.NewServeMux()
	mux.Handle("GET /metrics", m.Handler())
	server := &http.Server{Handler: mux, ReadHeaderTimeout: 5 * time.Second}
	go func() { _ = server.Serve(l) }() // until it is closed
	return func() { _ = server.Close() }, nil
}

type evaluateCommand struct {
	File string `arg:"" help:"Notebook document, or - for standard input."`
	Text bool   `help:"Print tables and working for a person instead of JSON."`
}

func (c *evaluateCommand) Run() error {
	doc, err := readDocument(c.File)
	if err != nil {
		return err
	}
	ready, fault := doc.Practical.Check()
	if fault != nil {
		return &inputError{fault.In("practical")}
	}
	ev := experiment.Evaluate(ready, doc.Journal, experiment.All)
	out := bufio.NewWriter(os.Stdout)
	if c.Text {
		if err := view.WriteText(out, ready, view.Of(ready, ev, practical.Style{})); err != nil {
			return err
		}
		return out.Flush()
	}
	enc := json.NewEncoder(out)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	if err := enc.Encode(ev); err != nil {
		return err
	}
	return out.Flush()
}

// readDocument reads a document; every fault names the file and the place.
func readDocument(file string) (formats.Document, error) {
	var in io.Reader = os.Stdin
	if file != "-" {
		f, err := os.Open(file)
		if err != nil {
			return formats.Document{}, &inputError{err}
		}
		defer f.Close()
		in = f
	}
	doc, err := formats.Read(in)
	var faults schema.Faults
	switch {
	case errors.As(err, &faults):
		lines := make([]string, len(faults))
		for i, f := range faults {
			lines[i] = file + ": " + spoken(f)
		}
		return doc, &inputError{errors.New(strings.Join(lines, "\nexactflask: "))}
	case err != nil:
		return doc, &inputError{fmt.Errorf("%s: %w", file, err)}
	}
	return doc, nil
}

type calcCommand struct {
	Name   string `arg:"" optional:"" help:"Which computation; see --list."`
	List   bool   `help:"List the computations."`
	Schema string `help:"Print the schema of a computation." placeholder:"NAME"`
	Input  string `help:"File with the input, or - for standard input." default:"-"`
}

func (c *calcCommand) Run() error {
	switch {
	case c.List:
		for _, f := range calc.Functions() {
			fmt.Printf("%-16s %s\n", f.Name, wording.For().Say(f.About()))
		}
		return nil
	case c.Schema != "":
		text, err := calc.Schema(c.Schema, wording.For().Say)
		if errors.Is(err, calc.ErrUnknown) {
			return &inputError{err}
		}
		return printed(text, err)
	case c.Name == "":
		return &inputError{errors.New("name a computation, or --list them")}
	}
	in := io.Reader(os.Stdin)
	if c.Input != "-" {
		f, err := os.Open(c.Input)
		if err != nil {
			return &inputError{err}
		}
		defer f.Close()
		in = f
	}
	text, err := io.ReadAll(io.LimitReader(in, formats.MaxSize))
	if err != nil {
		return fmt.Errorf("reading the input: %w", err)
	}
	out, err := calc.Calculate(c.Name, text)
	var faults schema.Faults
	if errors.As(err, &faults) || errors.Is(err, calc.ErrUnknown) {
		return &inputError{err}
	}
	return printed(append(out, '\n'), err)
}

type schemaCommand struct{}

func (schemaCommand) Run() error { return printed(formats.Schema()) }

type openapiCommand struct{}

func (openapiCommand) Run() error { return printed(web.OpenAPI()) }

func printed(text []byte, err error) error {
	if err != nil {
		return err
	}
	_, err = os.Stdout.Write(text)
	return err
}

type assignCommand struct {
	database
	File  string `arg:"" help:"Notebook document whose practical is meant."`
	Class string `help:"Name of the class." required:""`
}

func (c *assignCommand) Run(ctx context.Context) error {
	doc, err := readDocument(c.File)
	if err != nil {
		return err
	}
	s, a, err := c.beside(ctx)
	if err != nil {
		return err
	}
	class, err := a.Classes.AddClass(ctx, c.Class)
	if err == nil {
		err = a.Practicals.Assign(ctx, class, doc.Practical)
	}
	return errors.Join(err, s.Close())
}
