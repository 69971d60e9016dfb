package main

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"time"

	"cinderpath/core/plan"
	"cinderpath/server"
	"cinderpath/sheets"
	"cinderpath/store"
	"cinderpath/store/cluster"

	"github.com/jackc/pgerrcode"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

// reach opens the store of a command that may run beside the app: it uses the
// server that the app runs, or starts one.
func (w where) reach(ctx context.Context) (*store.Store, func(), error) {
	if w.DatabaseURL == "" {
		dir, err := w.dir()
		if err != nil {
			return nil, nil, err
		}
		if url, ok := cluster.Beside(dir); ok {
			w.DatabaseURL = url
		}
	}
	return w.open(ctx)
}

type exportCmd struct {
	where
	Build string `help:"Id of the build in focus."`
	Only  bool   `help:"Leave the other builds out."`
}

func (c exportCmd) Run(ctx context.Context) error {
	s, done, err := c.reach(ctx)
	if err != nil {
		return err
	}
	defer done()
	w, _, _, err := s.Workshop(ctx)
	if err != nil {
		return err
	}
	items, _, err := s.Items(ctx)
	if err != nil {
		return err
	}
	d := sheets.Document{AsOf: time.Now().Truncate(time.Minute), Focus: c.Build, Workshop: w}
	for _, item := range items {
		if !c.Only || item.Build.ID == c.Build {
			d.Items = append(d.Items, item)
		}
	}
	if c.Only && len(d.Items) == 0 {
		return fmt.Errorf("no build %q; give --build one of those in the app's address", c.Build)
	}
	return sheets.Write(os.Stdout, d)
}

type importCmd struct {
	where
	File string `arg:"" help:"Document to read, - for standard input." type:"path"`
}

func (c importCmd) Run(ctx context.Context) error {
	var data []byte
	var err error
	if c.File == "-" {
		data, err = io.ReadAll(os.Stdin)
	} else {
		data, err = os.ReadFile(c.File)
	}
	if err != nil {
		return err
	}
	d, err := sheets.Read(bytes.NewReader(data))
	if err != nil {
		return err
	}
	s, done, err := c.reach(ctx)
	if err != nil {
		return err
	}
	defer done()
	imported, err := server.Import(ctx, s, new(plan.Deriver), d, time.Now(), newID)
	for _, i := range imported {
		fmt.Printf("%s  %s\n", i.Id, i.Name)
	}
	return err
}

type backupCmd struct {
	where
	File string `arg:"" help:"Archive to write; it must not be there yet." type:"path"`
}

// Run writes beside its place and renames when all is there: what bears the name is whole.
func (c backupCmd) Run(ctx context.Context) error {
	if _, err := os.Stat(c.File); err == nil {
		return fmt.Errorf("%s is there already; give another name", c.File)
	}
	s, done, err := c.reach(ctx)
	if err != nil {
		return err
	}
	defer done()
	making := c.File + ".part"
	f, err := os.OpenFile(making, os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	err = server.BackUp(ctx, s, f, time.Now())
	if err := errors.Join(err, f.Sync(), f.Close()); err != nil {
		return errors.Join(err, os.Remove(making))
	}
	return os.Rename(making, c.File)
}

type restoreCmd struct {
	where
	File string `arg:"" help:"Archive to bring back." type:"path"`
}

func (c restoreCmd) Run(ctx context.Context) error {
	f, err := os.Open(c.File)
	if err != nil {
		return err
	}
	defer f.Close()
	info, err := f.Stat()
	if err != nil {
		return err
	}
	s, done, err := c.reach(ctx)
	if err != nil {
		return err
	}
	defer done()
	back, err := server.Restore(ctx, s, new(plan.Deriver), f, info.Size(), time.Now(), newID)
	for _, b := range back.Builds {
		fmt.Printf("%s  %s\n", b.Id, b.Name)
	}
	if err == nil && !back.Workshop {
		fmt.Println("There were builds here already: hours, stock and tools were left as they are.")
	}
	return err
}

type doctorCmd struct{ where }

func (c doctorCmd) Run(ctx context.Context) error { return c.look(ctx, os.Stdout) }

// look says what is found and what is missing; it fails when something is.
func (c doctorCmd) look(ctx context.Context, out io.Writer) error {
	ill := false
	say := func(what string, err error, found string) {
		if err != nil {
			ill = true
			fmt.Fprintf(out, "missing  %s: %v\n", what, err)
			return
		}
		fmt.Fprintf(out, "found    %s: %s\n", what, found)
	}
	bin, err := cluster.FindBinaries()
	if c.DatabaseURL == "" {
		say("PostgreSQL's server", err, bin)
	}
	dir, err := c.dir()
	if err == nil {
		err = os.MkdirAll(dir, 0o755)
	}
	say("data folder", err, dir)
	if url := c.DatabaseURL; url != "" {
		say("the database that was named", answers(ctx, url), "it answers")
	} else if url, ok := cluster.Beside(dir); ok {
		say("private database", answers(ctx, url), "it runs and answers")
	} else if !cluster.Made(dir) {
		fmt.Fprintln(out, "note     private database: none yet; demo or serve makes it")
	} else if p, err := cluster.Start(ctx, dir); err != nil {
		say("private database", err, "")
	} else {
		say("private database", p.Stop(), "not running; it was started, answered, and was stopped again")
	}
	if r, ok := readRunning(dir); ok {
		fmt.Fprintf(out, "found    running app: http://%s (process %d)\n", r.Address, r.PID)
	}
	browser := ""
	for _, name := range []string{"chromium", "chromium-browser"} {
		if p, err := exec.LookPath(name); err == nil && browser == "" {
			browser = p
		}
	}
	if browser == "" {
		fmt.Fprintln(
			out,
			"note     chromium: not installed; only the browser tests need it; on Debian: apt-get install chromium",
		)
	} else {
		say("chromium, for the browser tests", nil, browser)
	}
	if ill {
		return errors.New("something is missing; see above")
	}
	return nil
}

// answers tells whether a database can be worked with, in words.
func answers(ctx context.Context, url string) error {
	ctx, cancel := context.WithTimeout(ctx, 5*time.Second)
	defer cancel()
	conn, err := pgx.Connect(ctx, url)
	if err == nil {
		return conn.Close(ctx)
	}
	var said *pgconn.PgError
	if errors.As(err, &said) && said.Code == pgerrcode.InvalidPassword {
		return errors.New("it refuses the password it was given; restore the password file from a copy of the data folder")
	}
	return err
}
