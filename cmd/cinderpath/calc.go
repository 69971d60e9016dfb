package main

import (
	"bytes"
	"cinderpath/core/kit"
	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/core/plan"
	"cinderpath/core/strata"
	"cinderpath/core/vehicle"
	"cinderpath/server"
	"cinderpath/sheets"
	"embed"
	"encoding/json"
	"fmt"
	"io"
	"os"
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
	asks("base", "the ground that a vehicle stands on: board, imprints, profile, material, screws", vehicle.AskBase),
	asks("joint", "how two faces are joined: glue, clamp, hold", kit.AskJoint),
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
	asks("story", "what a vehicle's life does to the amounts of techniques", strata.AskStory),
	ofDocument("landing", "what each layer of the build in focus of an exported document leaves on each zone",
		sheets.Document.Landing),
	ofDocument("look", "the mean colour of each zone of the build in focus of an exported document after each coat",
		sheets.Document.Look),
	ofDocument("survival", "what of each layer of the build in focus of an exported document will be seen at the end",
		sheets.Document.Survival),
	ofDocument("worth", "what each layer of it adds at the end for the time it takes", sheets.Document.Worth),
	ofDocument(
		"shopping",
		"what all builds of an exported document want that is not on the shelf",
		sheets.Document.Shopping,
	),
	ofDocument("scheme", "how the scheme of the build in focus of an exported document lies, and how its edges are held",
		sheets.Document.Scheme),
	ofDocument("mask", "its fields on flat panels, mm on the model", sheets.Document.Masks),
	ofDocument("tape", "its tape plan: straight runs with their lengths", sheets.Document.Tape),
	ofDocument("plan", "the plan of the build in focus of an exported document", sheets.Document.Plan),
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

// ofDocument is a topic that is asked of the build in focus of an exported document.
func ofDocument[A any](name, about string, ask func(sheets.Document, *plan.Deriver) (A, error)) topic {
	return topic{
		name, about, "cinderpath export --build ID | cinderpath calc " + name,
		func(in io.Reader) (any, error) {
			d, err := sheets.Read(in)
			if err != nil {
				return nil, err
			}
			var deriver plan.Deriver
			return ask(d, &deriver)
		},
	}
}
