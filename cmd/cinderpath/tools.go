package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"time"

	"cinderpath/core/measure"
	"cinderpath/core/plan"
	"cinderpath/core/vehicle"
	"cinderpath/server"
	"cinderpath/sheets"
	"cinderpath/store"
	"cinderpath/store/cluster"

	"github.com/jackc/pgx/v5"
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
		`{"text": "23 ft 4 in", "scale": "1:35"}`,
		measure.Ask,
	),
	asks(
		"kitcheck",
		"the scale a kit really has, and the sizes that do not fit it",
		`{"scale": "1:35", "pairs": [{"name": "hull", "real": "6.4 m", "kit": "185"}, {"name": "width", "real": "3.1 m", "kit": "89.6"}, {"name": "barrel", "real": "2.88 m", "kit": "79"}]}`,
		measure.AskKit,
	),
	asks(
		"stock",
		"what a size can be made from",
		`{"kind": "wire", "size": "28 mm", "bend": "4 mm", "scale": "1:35"}`,
		measure.AskStock,
	),
	asks("rope", "ways to twist a rope", `{"diameter": "28 mm", "length": "120 mm", "scale": "1:35"}`, measure.AskRope),
	asks("drill", "the way to a hole", `{"hole": "75 mm", "outer": "2.6 mm", "scale": "1:35"}`, measure.AskDrill),
	asks(
		"photo",
		"lengths on a photograph, in the plane of a known length or rectangle",
		`{"mode": "reference", "a": [100, 100], "b": [500, 400], "real": {"mm": 0, "typed": "1 m"}, "corners": [[0,0],[0,0],[0,0],[0,0]], "across": {"mm": 0, "typed": ""}, "down": {"mm": 0, "typed": ""}, "lengths": [{"id": "1", "name": "hatch", "a": [0, 0], "b": [0, 250]}]}`,
		measure.AskPhoto,
	),
	asks(
		"mesh",
		"what an own part measures and how it prints; stl is the file in base64",
		`{"stl": "…", "unit": "mm", "drawnAt": "1:1", "scale": "1:35", "printer": {"id": "", "name": "printer", "kind": "resin", "bed": [130, 80, 160], "feature": 0.05}}`,
		sheets.AskMesh,
	),
	asks(
		"form",
		"the surfaces of a body: areas by zone and how they lie, volume, closedness; lengths in real mm",
		`{"scale": "1:35", "outline": "tracked", "width": 3000, "body": {"hulls": [{"id": "hull", "profile": [[-2400, 400], [2400, 400], [2500, 900], [-2500, 900]], "width": 1800, "inSide": 100, "inNose": 0}]}}`,
		vehicle.AskForm,
	),
	asks(
		"track",
		"what a running gear takes: links, slack, sag, runs, fewer and more links",
		`{"scale": "1:35", "wheels": [{"kind": "sprocket", "x": 2000, "z": 700, "radius": 250, "teeth": 13}, {"kind": "road", "x": 1000, "z": 350, "radius": 300}, {"kind": "road", "x": -1000, "z": 350, "radius": 300}, {"kind": "idler", "x": -2000, "z": 650, "radius": 250}], "link": {"pitch": 130, "surface": 25, "ground": 25, "width": 400}}`,
		vehicle.AskTrack,
	),
	asks(
		"wheels",
		"discs of tape for rubber-tyred wheels, packed on the tapes there are",
		`{"scale": "1:35", "wheels": [{"kind": "road", "x": 0, "z": 300, "radius": 300, "hub": 230}]}`,
		vehicle.AskWheels,
	),
	asks(
		"clearance",
		"the room that wheels and track have, less a film of mud",
		`{"scale": "1:35", "outline": "tracked", "width": 3000, "body": {"hulls": [{"id": "hull", "profile": [[-2400, 400], [2400, 400], [2500, 900], [-2500, 900]], "width": 1800, "inSide": 100, "inNose": 0}]}, "wheels": [{"kind": "sprocket", "x": 2000, "z": 700, "radius": 250, "teeth": 13}, {"kind": "road", "x": 1000, "z": 350, "radius": 300}, {"kind": "road", "x": -1000, "z": 350, "radius": 300}, {"kind": "idler", "x": -2000, "z": 650, "radius": 250}], "link": {"pitch": 130, "surface": 25, "ground": 25, "width": 400}, "mudMm": 0.5}`,
		vehicle.AskClearance,
	),
	asks(
		"order",
		"the steps of a build in working order, each with its rules and reasons; build as in an export",
		`{"build": {"id": "1", "name": "Tussock", "scale": 35, "outline": "4x4", "sizes": {"length": {"mm": 4200, "typed": "4.2 m"}, "width": {"mm": 2000, "typed": "2 m"}, "height": {"mm": 1800, "typed": "1.8 m"}}, "body": {"hulls": [{"id": "hull", "profile": [[-2100, 600], [2100, 600], [2100, 1200], [-2100, 1200]], "width": 1800, "inSide": 100, "inNose": 0}]}, "wheels": [], "link": {"pitch": 0, "surface": 0, "ground": 0, "width": 0}, "scheme": {"colours": [{"name": "lichen green", "hex": "#66704f", "share": 0}], "width": 700, "feather": 60, "seed": 1}, "layers": [{"id": "a", "name": "Primer", "kind": "prime", "family": "primer_acrylic", "applied": "misted", "coats": 1}], "priority": 1}}`,
		plan.AskOrder,
	),
	asks(
		"schedule",
		"tasks laid on a calendar: waits, windows, airbrushes, several builds",
		`{"asOf": "2026-11-23T12:00:00Z", "zone": "UTC", "calendar": {"weekly": [{"day": 1, "from": "20:00", "to": "22:30"}, {"day": 3, "from": "20:00", "to": "22:30"}], "temperatureC": 20, "humidity": 0.5}, "builds": [{"id": "varrow", "priority": 1, "tasks": [{"id": "gloss", "title": "Gloss coat", "minutes": 30}, {"id": "wash", "title": "Pin wash", "minutes": 40, "after": [{"from": "gloss", "waitMin": 60}]}, {"id": "back", "title": "Take back", "minutes": 15, "after": [{"from": "wash", "waitMin": 15, "mostMin": 240, "same": true}]}]}]}`,
		sheets.AskSchedule,
	),
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

// asks is a topic whose question and answer are JSON.
func asks[Q, A any](name, about, example string, answer func(Q) (A, error)) topic {
	return topic{name, about, example, func(in io.Reader) (any, error) {
		var q Q
		dec := json.NewDecoder(in)
		dec.DisallowUnknownFields()
		if err := dec.Decode(&q); err != nil {
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
	imported, err := server.Import(ctx, s, d, time.Now(), newID)
	for _, i := range imported {
		fmt.Printf("%s  %s\n", i.Id, i.Name)
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
	if c.DatabaseURL != "" {
		conn, err := pgx.Connect(ctx, c.DatabaseURL)
		if err == nil {
			err = conn.Close(ctx)
		}
		say("the database that was named", err, "it answers")
	} else if url, ok := cluster.Beside(dir); ok {
		conn, err := pgx.Connect(ctx, url)
		if err == nil {
			err = conn.Close(ctx)
		}
		say("private database", err, "it runs and answers")
	} else {
		fmt.Fprintln(out, "note     private database: not running; demo or serve starts it")
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
