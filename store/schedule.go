package store

import (
	"cmp"
	"context"
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"exactflask/core/values/finding"
)

// Names of scheduled backups sort by their time.
const (
	scheduledName = "exactflask-"
	scheduledTime = "20060102-150405"
	scheduledEnd  = ".db"
)

// Schedule makes backups into a folder and keeps the newest.
type Schedule struct {
	Folder string
	Every  time.Duration
	Keep   int
}

// Run makes a backup whenever the newest in the folder is older than Every, until
// the context is done, and tells of each. One that fails is tried again after a
// tenth of Every.
func (s Schedule) Run(ctx context.Context, path string, tell func(Saved, error)) {
	wait := time.Until(s.newest().Add(s.Every))
	for {
		select {
		case <-ctx.Done():
			return
		case <-time.After(max(wait, 0)):
		}
		saved, err := s.Once(ctx, path, time.Now())
		if ctx.Err() != nil {
			return
		}
		tell(saved, err)
		if wait = s.Every; err != nil {
			wait = s.Every / 10
		}
	}
}

// Once makes one backup and removes those that are too many.
func (s Schedule) Once(ctx context.Context, path string, at time.Time) (Saved, error) {
	if err := os.MkdirAll(s.Folder, 0o700); err != nil {
		return Saved{}, cannotOpen(s.Folder, err)
	}
	saved, err := Backup(ctx, path, filepath.Join(s.Folder, scheduledName+at.UTC().Format(scheduledTime)+scheduledEnd))
	if err != nil {
		return saved, err
	}
	if !saved.OK() {
		return saved, backupWrong.Fault("", finding.Text(saved.Path), finding.Said(saved.Problems[0]))
	}
	if err := saved.Head.Keep(saved.Path + HeadEnd); err != nil {
		return saved, err
	}
	made := s.made()
	for _, old := range made[:max(0, len(made)-max(1, s.Keep))] {
		err = errors.Join(err, os.Remove(filepath.Join(s.Folder, old)))
		if head := os.Remove(filepath.Join(s.Folder, old+HeadEnd)); !errors.Is(head, fs.ErrNotExist) {
			err = errors.Join(err, head)
		}
	}
	return saved, err
}

// made are the names of the scheduled backups in the folder, the oldest first.
func (s Schedule) made() []string {
	found, _ := os.ReadDir(s.Folder) // none where it is not there yet
	var out []string
	for _, f := range found {
		if _, err := parseScheduled(f.Name()); err == nil {
			out = append(out, f.Name())
		}
	}
	slices.SortFunc(out, cmp.Compare)
	return out
}

func (s Schedule) newest() time.Time {
	made := s.made()
	if len(made) == 0 {
		return time.Time{}
	}
	at, _ := parseScheduled(made[len(made)-1])
	return at
}

func parseScheduled(name string) (time.Time, error) {
	name, starts := strings.CutPrefix(name, scheduledName)
	name, ends := strings.CutSuffix(name, scheduledEnd)
	if !starts || !ends {
		return time.Time{}, errors.New("no scheduled backup")
	}
	return time.Parse(scheduledTime, name)
}
