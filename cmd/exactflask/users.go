package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"os"
	"strings"

	"exactflask/app"
	"exactflask/app/access"
	"exactflask/app/people"
)

type userCommand struct {
	Add      userAdd      `cmd:"" help:"Add a person, also to a class."`
	Password userPassword `cmd:"" help:"Give a person a new password."`
	Standing userStanding `cmd:"" help:"Say what a person may do in the whole installation."`
}

type userAdd struct {
	database
	Username string `arg:""`
	Name     string `help:"Full name." required:""`
	Class    string `help:"Name of the class; it is made when there is none."`
	Role     string `help:"student, assistant or instructor in that class." enum:"student,assistant,instructor" default:"student"`
	Standing string `help:"instructor: may make classes; administrator: looks after people." enum:",instructor,administrator" default:""`
}

func (c *userAdd) Run(ctx context.Context) error {
	return c.with(ctx, func(a *app.App, password string) error {
		// All or nothing; the password is theirs to change: somebody else made it.
		standing := access.Standing(c.Standing)
		if standing == access.NoStanding && c.Role == string(access.Instructor) && c.Class != "" {
			standing = access.MayMakeClasses
		}
		id, err := a.Classes.AddPerson(ctx, people.NewPerson{Username: c.Username, Name: c.Name, Password: password, Once: true,
			Standing: standing, Class: c.Class, Role: access.Role(c.Role)})
		if err != nil {
			return err
		}
		slog.Info("security", "what", "person added", "person", id, "role", c.Role, "standing", standing)
		return nil
	})
}

type userStanding struct {
	database
	Username string `arg:""`
	Standing string `arg:"" help:"none, instructor (may make classes) or administrator (looks after people)." enum:"none,instructor,administrator"`
}

func (c *userStanding) Run(ctx context.Context) error {
	s, a, err := c.beside(ctx)
	if err != nil {
		return err
	}
	standing := access.Standing(c.Standing)
	if c.Standing == "none" {
		standing = access.NoStanding
	}
	return errors.Join(a.People.SetStandingOf(ctx, c.Username, standing), s.Close())
}

type userPassword struct {
	database
	Username string `arg:""`
}

func (c *userPassword) Run(ctx context.Context) error {
	return c.with(ctx, func(a *app.App, password string) error { return a.People.SetPassword(ctx, c.Username, password) })
}

type importCommand struct {
	database
	File  string `arg:"" help:"Document (.json) or archive (.zip)." type:"existingfile"`
	Class string `help:"Name of the class." required:""`
	User  string `help:"User name of the student in it." required:""`
}

func (c *importCommand) Run(ctx context.Context) error {
	content, err := os.ReadFile(c.File)
	if err != nil {
		return fmt.Errorf("reading the file: %w", err)
	}
	s, a, err := c.beside(ctx)
	if err != nil {
		return err
	}
	out, err := a.Bench.ImportFor(ctx, c.Class, c.User, content)
	if err == nil {
		fmt.Printf("notebook %s, practical %s, %d entries\n", out.Notebook, out.Practical, out.Entries)
	}
	return errors.Join(err, s.Close())
}

// with asks for a password on standard input (never as an argument, where
// others on the machine could read it) and does something with it.
func (d database) with(ctx context.Context, do func(*app.App, string) error) error {
	fmt.Fprint(os.Stderr, "Password (one line on standard input): ")
	password, err := bufio.NewReader(io.LimitReader(os.Stdin, 1024)).ReadString('\n')
	if err != nil && !errors.Is(err, io.EOF) {
		return fmt.Errorf("reading the password: %w", err)
	}
	s, a, err := d.beside(ctx)
	if err != nil {
		return err
	}
	return errors.Join(do(a, strings.TrimRight(password, "\r\n")), s.Close())
}
