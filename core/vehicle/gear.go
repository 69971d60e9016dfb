package vehicle

import (
	"fmt"
	"math"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// GearLine tells what the running gear takes. Without a track only names and clearances
// are there, and Links is 0.
type GearLine struct {
	Names    []string    `json:"names"` // of the wheels
	Links    int         `json:"links"` // per side
	Loop     string      `json:"loop"`
	Slack    string      `json:"slack"`
	Pitch    string      `json:"pitch"`
	Supplied int         `json:"supplied"`
	Verdict  string      `json:"verdict"`
	Why      measure.Why `json:"why"`

	Sags    []SagLine  `json:"sags"` // of the upper run, from the rear
	Choices []LinkLine `json:"choices"`

	Runs      []RunLine `json:"runs"`      // the parts of the track in order, from the front over the top
	Facts     []RunLine `json:"facts"`     // pins, band, time, idler: what the make of the track asks for
	Arms      []RunLine `json:"arms"`      // wheels on uneven ground
	Clearance []RunLine `json:"clearance"` // what must not touch
	Line      form.Ring `json:"line"`      // the closed pin line: x, z, x, z …, real mm
	Stand     form.Ring `json:"stand"`     // the wheels' centres as the ground puts them, real mm
}

// RunLine is a fact of the running gear in words.
type RunLine struct {
	Name  string      `json:"name"`
	Words string      `json:"words"`
	Tight bool        `json:"tight,omitempty"` // something is wrong with it
	Why   measure.Why `json:"why"`

	room float64 // of a clearance: without mud, model mm
}

// LinkLine is what a number of links does.
type LinkLine struct {
	Links int         `json:"links"`
	Words string      `json:"words"`
	Why   measure.Why `json:"why"`
}

// SagLine is how deep the track hangs between two wheels.
type SagLine struct {
	Between string      `json:"between"`
	Model   string      `json:"model"`
	Real    string      `json:"real"`
	Why     measure.Why `json:"why"`
}

// MudDepth is how deep the thickest mud on the running gear lies, model mm.
func MudDepth(b document.Build) float64 {
	deep := 0.0
	for _, l := range b.Layers {
		if l.Kind == strata.Mud &&
			(len(l.Zones) == 0 || l.Covers(zone.Gear(zone.Left, "road")) || l.Covers(zone.Named("lower", zone.Left))) {
			deep = math.Max(deep, l.DepthMM)
		}
	}
	return deep
}

// GearOf tells what the running gear takes and how it lies, in sizes of the model.
func GearOf(b document.Build, lies Stance, shelf measure.Shelf) *GearLine {
	g := &GearLine{
		Why:       measure.Because("no track", []string{}),
		Names:     make([]string, len(b.Wheels)),
		Sags:      []SagLine{},
		Choices:   []LinkLine{},
		Runs:      []RunLine{},
		Facts:     []RunLine{},
		Arms:      []RunLine{},
		Clearance: []RunLine{},
		Line:      lies.line,
		Stand:     form.Ring{},
	}
	for i, w := range lies.wheels {
		g.Names[i] = document.WheelName(b, i)
		g.Stand = append(g.Stand, [2]float64{w.X, w.Z})
	}
	g.arms(b, lies)
	g.room(b, lies)
	if b.Outline.HasTrack() {
		g.loop(b, lies)
		g.sags(b, lies)
		g.runs(b, lies)
		g.make(b, lies, shelf)
	}
	return g
}

// onModel prints a real length in mm at a build's scale.
func onModel(b document.Build) func(mm float64) string {
	return func(mm float64) string { return b.Scale.ToModel(length.Real(mm)).String() }
}

// arms words how far each one swings.
func (g *GearLine) arms(b document.Build, lies Stance) {
	model := onModel(b)
	for _, s := range lies.swings {
		arm := b.Wheels[s.Wheel].Arm
		way := "up"
		if s.Lift < 0 {
			way = "down"
		}
		line := RunLine{
			Name:  g.Names[s.Wheel],
			Words: fmt.Sprintf("arm %+.1f°, wheel %s %s", s.Angle, model(math.Abs(s.Lift)), way),
			Tight: s.Hangs || s.Buried > 0,
			Why: measure.Because(
				"the arm turns until the wheel, with a link beneath it, touches the ground profile",
				[]string{
					fmt.Sprintf("limits +%.0f° and -%.0f° from rest", arm.Up, arm.Down),
					fmt.Sprintf("arm %s long", model(math.Hypot(arm.X, arm.Z))),
				},
			),
		}
		switch {
		case s.Hangs:
			line.Words += ": at its lower limit, off the ground"
		case s.Buried > 0:
			line.Words += fmt.Sprintf(": at its upper limit, the ground is %s too high", model(s.Buried))
		}
		g.Arms = append(g.Arms, line)
	}
}

// room words what is free between what moves and what stands.
func (g *GearLine) room(b document.Build, lies Stance) {
	mud := MudDepth(b)
	for _, gap := range form.Gaps(b.Body, lies.wheels, b.Face(), b.Link.Width, lies.line, b.Link) {
		free := float64(b.Scale.ToModel(length.Real(gap.Real))) - mud
		line := RunLine{
			Name:  gap.Between,
			Words: onModel(b)(gap.Real) + " on the model",
			Tight: free <= 0,
			room:  free + mud,
			Why: measure.Because(
				"room = distance of the faces that look at each other / N − mud film",
				[]string{
					"distance " + length.Real(gap.Real).String() + " at full size",
					fmt.Sprintf("mud film %.1f mm, from the layers", mud),
				},
			),
		}
		if mud > 0 {
			line.Words += fmt.Sprintf(", %s with %.1f mm of mud", length.Model(free), mud)
		}
		if line.Tight {
			line.Words += ": they touch"
		}
		g.Clearance = append(g.Clearance, line)
	}
}

// loop words the links that the track takes, and whether the kit has them.
func (g *GearLine) loop(b document.Build, lies Stance) {
	model, loop := onModel(b), lies.Loop
	g.Links, g.Supplied = loop.Links, b.Link.Supplied
	g.Loop, g.Slack, g.Pitch = model(loop.Length), model(loop.Slack), model(b.Link.Pitch)
	g.Why = measure.Because("links = ⌈loop / pitch⌉, slack = links · pitch − loop", []string{
		fmt.Sprintf("taut loop %s on the model, round %d of %d wheels", g.Loop, len(loop.Touching), len(b.Wheels)),
		fmt.Sprintf("pitch %s: loop / pitch = %.2f", g.Pitch, loop.Exact),
		"the pin line runs on a polygon round each wheel, its chords counted, not its arc"})
	if loop.Extra > 0 {
		g.Why.Inputs = append(g.Why.Inputs, model(loop.Extra)+" of it because the ground is uneven")
	}
	g.Choices = linkLines(gear.Choices(lies.wheels, b.Link, loop), model)
	switch spare := b.Link.Supplied - loop.Links; {
	case b.Link.Supplied == 0:
		g.Verdict = "How many links the kit supplies is not noted."
	case spare < 0:
		g.Verdict = fmt.Sprintf("The kit's %d links a side are %d too few.", b.Link.Supplied, -spare)
	default:
		g.Verdict = fmt.Sprintf("The kit's %d links a side leave %d spare.", b.Link.Supplied, spare)
	}
}

// sags words how each free span of the upper run hangs.
func (g *GearLine) sags(b document.Build, lies Stance) {
	model := onModel(b)
	for _, s := range lies.run.Spans {
		g.Sags = append(g.Sags, SagLine{
			document.WheelName(b, s.Left) + " to " + document.WheelName(b, s.Right),
			model(s.Sag),
			length.Real(s.Sag).String(),
			measure.Because(
				"catenaries over one directrix; its level makes their lengths and the wraps add up to taut run + slack",
				[]string{
					"slack " + g.Slack + " on the model, all in the upper run",
					fmt.Sprintf("%d free spans; this one %s along the chain", len(lies.run.Spans), model(s.Length)),
					"a flexible band does not hang: glue it down to the wheels",
					fmt.Sprintf("sure to %s: chains of stiff links hang so much otherwise", model(max(3.5, 0.05*s.Sag))),
				},
			),
		})
	}
}

// runs words the parts of the track.
func (g *GearLine) runs(b document.Build, lies Stance) {
	for _, s := range gear.Stretches(lies.wheels, b.Link, lies.Loop, lies.run) {
		where := g.Names[s.From]
		if s.To != s.From {
			where += " to " + g.Names[s.To]
		}
		chain := b.Scale.ToModel(length.Real(s.Chain)).String()
		g.Runs = append(g.Runs, RunLine{
			Name:  s.Kind + ", " + where,
			Words: fmt.Sprintf("%.2f links, %s", s.Links, chain),
			Why: measure.Because(
				"links = length along the chain / pitch",
				[]string{"length " + chain + " on the model", "pitch " + g.Pitch},
			),
		})
	}
}
