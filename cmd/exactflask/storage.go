package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"os"
	"time"

	"exactflask/core/record/chain"
	"exactflask/store"
	"exactflask/wording"
)

type backupCommand struct {
	database
	To string `arg:"" help:"New file for the copy." type:"path"`
}

func (c *backupCommand) Run(ctx context.Context) error {
	s, err := store.Backup(ctx, c.Data, c.To)
	if err != nil {
		return err
	}
	if s.Head.Known() { // of an older schema there is none
		if err := s.Head.Keep(c.To + store.HeadEnd); err != nil {
			return err
		}
	}
	return savedOr(s, "saved")
}

// savedOr prints what a copy is, or returns what is wrong with it.
func savedOr(s store.Saved, did string) error {
	fmt.Printf("%s %s: %d bytes, SHA-256 %s\n%s", did, s.Path, s.Size, s.SHA256, found(s.Verified))
	return wrong(s.Verified)
}

func found(v store.Verified) string {
	if !v.Head.Known() {
		return fmt.Sprintf("schema %d\n", v.Schema)
	}
	return fmt.Sprintf("schema %d, %d notebooks, %d entries, head %s\n", v.Schema, v.Notebooks, v.Entries, v.Head.Sum())
}

// wrong is what was found wrong, each on a line of its own.
func wrong(v store.Verified) error {
	var all []error
	for _, p := range v.Problems {
		all = append(all, errors.New(wording.For().Say(p)))
	}
	if len(all) == 0 {
		return nil
	}
	return &inputError{errors.Join(all...)}
}

type restoreCommand struct {
	database
	From string `arg:"" help:"Backup to put in the place of the data file." type:"existingfile"`
}

func (c *restoreCommand) Run(ctx context.Context) error {
	s, kept, err := store.Restore(ctx, c.From, c.Data)
	if kept != "" {
		fmt.Printf("what was there is kept as %s\n", kept)
	}
	if err != nil {
		return err
	}
	if s.Schema < store.Schema { // the next start brings it to today's schema
		fmt.Printf("restored %s: schema %d, which the next start brings to %d\n", s.Path, s.Schema, store.Schema)
		return nil
	}
	return savedOr(s, "restored")
}

type verifyCommand struct {
	File string `arg:"" help:"Data file, backup, or notebook document." type:"existingfile"`
	Head string `help:"Head that was kept before, beside a backup or elsewhere: whether anything was cut off since." type:"existingfile"`
	Keep string `help:"New file for the head as it is now, to be kept where the data file is not." type:"path"`
}

func (c *verifyCommand) Run(ctx context.Context) error {
	data, err := isData(c.File)
	if err != nil {
		return &inputError{err}
	}
	if data {
		v, err := store.Verify(ctx, c.File)
		if err != nil {
			return err
		}
		if c.Head != "" {
			kept, err := store.ReadHead(c.Head)
			if err != nil {
				return err
			}
			v.Since(kept)
		}
		if err := wrong(v); err != nil {
			return err
		}
		if c.Keep != "" {
			if err := v.Head.Keep(c.Keep); err != nil {
				return err
			}
		}
		fmt.Printf("%s: nothing is wrong\n%s", c.File, found(v))
		return nil
	}
	doc, err := readDocument(c.File)
	if err != nil {
		return err
	}
	if len(doc.Chain) == 0 && len(doc.Journal) > 0 {
		return &inputError{fmt.Errorf("%s has no chain, so nothing can be told about its record; files that Exact Flask exports have one since version 0.7", c.File)}
	}
	if broken := chain.Verify(doc.Chain, doc.Journal); broken != nil {
		return &inputError{fmt.Errorf("%s: %s", c.File, wording.For().Say(broken.Message()))}
	}
	end := "nothing yet"
	if n := len(doc.Chain); n > 0 {
		end = doc.Chain[n-1].Hash
	}
	fmt.Printf("%s: the record is as it came in: %d entries, the chain ends in %s\n"+
		"(entries cut off at its end cannot be seen from the file: compare this with the end on the report)\n", c.File, len(doc.Chain), end)
	return nil
}

// isData tells a data file from a document by how it begins.
func isData(file string) (bool, error) {
	f, err := os.Open(file)
	if err != nil {
		return false, err
	}
	defer f.Close()
	head := make([]byte, len(sqliteHead))
	_, err = io.ReadFull(f, head)
	if errors.Is(err, io.ErrUnexpectedEOF) || errors.Is(err, io.EOF) {
		return false, nil
	}
	return string(head) == sqliteHead, err
}

// sqliteHead begins every SQLite file (https://www.sqlite.org/fileformat.html, 1.3.1).
const sqliteHead = "SQLite format 3\x00"

// backups are the options of scheduled backups.
type backups struct {
	Dir   string        `name:"backup-dir" help:"Folder for scheduled backups; none are made when left out." type:"path" env:"EXACTFLASK_BACKUP_DIR"`
	Every time.Duration `name:"backup-every" help:"Time between them." default:"24h"`
	Keep  int           `name:"backup-keep" help:"How many of them are kept." default:"14"`
}

// run makes scheduled backups until the context is done; the function that it
// returns waits for the one under way.
func (b backups) run(ctx context.Context, path string, log *slog.Logger) (wait func()) {
	if b.Dir == "" {
		return func() {}
	}
	done := make(chan struct{})
	go func() {
		defer close(done)
		store.Schedule{Folder: b.Dir, Every: max(b.Every, time.Second), Keep: b.Keep}.Run(ctx, path, func(s store.Saved, err error) {
			if err != nil {
				log.Error("a scheduled backup failed", "err", spoken(err))
				return
			}
			log.Info("backup", "file", s.Path, "bytes", s.Size, "sha256", s.SHA256, "notebooks", s.Notebooks, "entries", s.Entries)
		})
	}()
	return func() { <-done }
}
