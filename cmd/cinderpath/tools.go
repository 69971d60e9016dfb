package main

import (
	"bytes"
	"context"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"time"

	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/core/plan"
	"cinderpath/core/vehicle"
	"cinderpath/server"
	"cinderpath/sheets"
	"cinderpath/store"
	"cinderpath/store/cluster"

	"github.com/jackc/pgerrcode"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

type calcCmd struct {
	Topic string `arg:"" optional:"" help:"Topic; without one, all are listed with an example."`
}

type topic struct {
	name, about, example string
	run                  func(in io.Reader) (any, error)
}

var topics = []topic{
	asks(
		"length",
		"what the rule answers: a length both ways, rope, drill, stock, one scale to another",

		measure.Ask,
	),
	asks(
		"kitcheck",
		"the scale a kit really has, and the sizes that do not fit it",

		measure.AskKit,
	),
	asks(
		"stock",
		"what a size can be made from",

		measure.AskStock,
	),
	asks("rope", "ways to twist a rope", measure.AskRope),
	asks("drill", "the way to a hole", measure.AskDrill),
	asks(
		"photo",
		"lengths on a photograph, in the plane of a known length or rectangle",

		measure.AskPhoto,
	),
	asks(
		"mesh",
		"what an own part measures and how it prints; stl is the file in base64",

		sheets.AskMesh,
	),
	asks(
		"form",
		"the surfaces of a body: areas by zone and how they lie, volume, closedness; lengths in real mm",

		vehicle.AskForm,
	),
	asks(
		"track",
		"what a running gear takes: links, slack, sag, runs, fewer and more links",

		vehicle.AskTrack,
	),
	asks(
		"wheels",
		"discs of tape for rubber-tyred wheels, packed on the tapes there are",

		vehicle.AskWheels,
	),
	asks(
		"clearance",
		"the room that wheels and track have, less a film of mud",

		vehicle.AskClearance,
	),
	asks(
		"order",
		"the steps of a build in working order, each with its rules and reasons; build as in an export",

		plan.AskOrder,
	),
	asks(
		"schedule",
		"tasks laid on a calendar: waits, windows, airbrushes, several builds",

		sheets.AskSchedule,
	),
	asks("mix", "what some drops of some jars give", paint.AskMix),
	asks(
		"recipe",
		"the best mixes of what is owned for a colour, also as it shall look at the end",
		func(q paint.RecipeQuestion) (paint.RecipeAnswer, error) { return paint.AskRecipe(q, nil) },
	),
	asks(
		"relatives",
		"lighter, darker, faded and shadowed relatives of a colour, each with its recipe",
		func(q paint.RelativesQuestion) ([]paint.Relative, error) { return paint.AskRelatives(q, nil) },
	),
	asks("cup", "the fewest drops that bring a cup to a colour", paint.AskCup),
	asks("like", "what of some jars looks like a colour, the likest first", paint.AskLike),
	asks("spectrum", "what a swatch tells of a surface, in 36 bands", paint.AskSpectrum),
	asks("difference", "how far two swatches are apart, ΔE00", paint.AskDifference),
	asks("coats", "how many coats hide a ground, or how many passes show", paint.AskCoats),
	asks("amount", "what a job takes: paint and thinner in ml and drops", paint.AskAmount),
	{
		"shopping",
		"what all builds of an exported document want that is not on the shelf",
		"cinderpath export | cinderpath calc shopping",
		func(in io.Reader) (any, error) {
			d, err := sheets.Read(in)
			if err != nil {
				return nil, err
			}
			var deriver plan.Deriver
			return d.Shopping(&deriver)
		},
	},
	{
		"plan",
		"the plan of the build in focus of an exported document",
		"cinderpath export --build ID | cinderpath calc plan",
		func(in io.Reader) (any, error) {
			d, err := sheets.Read(in)
			if err != nil {
				return nil, err
			}
			var deriver plan.Deriver
			return d.Plan(&deriver)
		},
	},
}

//go:embed examples/*.json
var examples embed.FS

// asks is a topic whose question and answer are JSON; its example is examples/name.json.
func asks[Q, A any](name, about string, answer func(Q) (A, error)) topic {
	example, err := examples.ReadFile("examples/" + name + ".json")
	if err != nil {
		panic(err)
	}
	var line bytes.Buffer
	if err := json.Compact(&line, example); err != nil {
		panic(err)
	}
	return topic{name, about, line.String(), func(in io.Reader) (any, error) {
		data, err := io.ReadAll(in)
		if err != nil {
			return nil, fmt.Errorf("the question: %w", err)
		}
		if err := server.Question(name, data); err != nil {
			return nil, err
		}
		var q Q
		if err := json.Unmarshal(data, &q); err != nil {
			return nil, fmt.Errorf("the question: %w", err)
		}
		return answer(q)
	}}
}

func (c calcCmd) Run() error { return c.calc(os.Stdin, os.Stdout) }

func (c calcCmd) calc(in io.Reader, out io.Writer) error {
	if c.Topic == "" {
		for _, t := range topics {
			fmt.Fprintf(out, "%-8s %s\n         e.g. %s\n", t.name, t.about, t.example)
		}
		return nil
	}
	for _, t := range topics {
		if t.name == c.Topic {
			answer, err := t.run(in)
			if err != nil {
				return err
			}
			return json.NewEncoder(out).Encode(answer)
		}
	}
	return fmt.Errorf("no topic %q; cinderpath calc lists them", c.Topic)
}

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
