package vehicle

import (
	"fmt"
	"math"
	"strings"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
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

// make words what the make of the track asks for.
func (g *GearLine) make(b document.Build, lies Stance, shelf measure.Shelf) {
	loop := lies.Loop
	links := 2 * loop.Links
	minutes := b.Link.Work() * unit.Minutes(links)
	add := func(name, words, formula string, inputs ...string) {
		g.Facts = append(g.Facts, RunLine{Name: name, Words: words, Why: measure.Because(formula, inputs)})
	}
	add(
		"assembling",
		minutes.String()+" for both sides",
		"minutes = links · minutes per link",
		fmt.Sprintf("%d links on both sides", links),
		fmt.Sprintf("%.1f min a link", float64(b.Link.Work())),
	)
	if n := 2 * (b.Link.Supplied - loop.Links); b.Link.Supplied > 0 && n > 0 {
		add(
			"spare",
			fmt.Sprintf("%d links on both sides, for the hull or for losses", n),
			"spare = 2 · (supplied − needed)",
			fmt.Sprintf("supplied %d a side", b.Link.Supplied),
			fmt.Sprintf("needed %d", loop.Links),
		)
	}
	if b.Link.Travel > 0 {
		add(
			"idler",
			fmt.Sprintf("moves %s each way", b.Scale.ToModel(length.Real(b.Link.Travel))),
			"as noted",
			"the choices of links stay within it",
		)
	}
	switch b.Link.Make {
	case gear.Pinned:
		g.pins(b, links, shelf, add)
	case gear.Band:
		g.band(b, lies, add)
	}
}

func (g *GearLine) pins(
	b document.Build,
	links int,
	shelf measure.Shelf,
	add func(name, words, formula string, inputs ...string),
) {
	if b.Link.Pin <= 0 {
		add("pins", "measure a pin hole to find drill and wire", "as noted", "no pin diameter is given")
		return
	}
	pin := length.Model(b.Link.Pin)
	wide := float64(b.Scale.ToModel(length.Real(b.Link.Width)))
	wire, _ := measure.Around(shelf.Of(false, measure.Wire), pin, b.Scale)
	_, drill := measure.Around(shelf.Of(false, measure.Drill), pin, b.Scale)
	words := fmt.Sprintf("%d holes", links)
	if drill != nil {
		words += ", drill " + drill.Name
	}
	if wire != nil {
		words += ", wire " + wire.Name
	}
	add(
		"pins",
		fmt.Sprintf("%s: %.0f mm of wire in all", words, float64(links)*wide*1.1),
		"wire: the largest not above the pin; drill: the smallest not below it; length = links · width and "+
			"a tenth for the ends",
		fmt.Sprintf(
			"pin %s",
			pin,
		),
		fmt.Sprintf("%d links, %s wide", links, length.Model(wide)),
		"wear eye protection: cut wire flies",
	)
}

func (g *GearLine) band(b document.Build, lies Stance, add func(name, words, formula string, inputs ...string)) {
	need := float64(b.Scale.ToModel(length.Real(lies.Loop.Length)))
	if band := b.Link.Band; band > 0 {
		words := fmt.Sprintf("%s too long: shorten it by that, or move the idler", length.Model(band-need))
		if band < need {
			words = fmt.Sprintf("must stretch by %.1f %%", 100*(need/band-1))
			if need/band > 1.03 {
				words += ": too much, it would bend the axles; move the idler in or splice a piece"
			}
		}
		add(
			"band",
			words,
			"stretch = taut loop / band − 1",
			fmt.Sprintf("band %s joined", length.Model(band)),
			fmt.Sprintf("taut loop %s", length.Model(need)),
			"above 3 % it pulls axles out of true",
		)
		g.Facts[len(g.Facts)-1].Tight = need/band > 1.03
	} else {
		add(
			"band",
			"measure its length, joined, to know how it stretches",
			"stretch = taut loop / band − 1",
			fmt.Sprintf("taut loop %s", length.Model(need)),
		)
	}
	var down []string
	for _, w := range lies.run.Supports {
		down = append(down, g.Names[w])
	}
	add(
		"glue down",
		"on the "+strings.Join(down, ", "),
		"a band does not hang by its weight: it is glued where a track of links would lie",
		"from the hanging upper run with the slack of whole links",
	)
}

// linkLines words what fewer and more links do; model prints a real length at scale.
func linkLines(choices []gear.Choice, model func(float64) string) []LinkLine {
	out := []LinkLine{}
	for _, c := range choices {
		l := LinkLine{Links: c.Links, Words: fmt.Sprintf("slack %s, hangs %s at the deepest", model(c.Slack), model(c.Sag))}
		if c.Slack < 0 {
			l.Words = fmt.Sprintf("does not close, %s are missing", model(-c.Slack))
		}
		switch {
		case c.CanMove && c.TakeUp > 0:
			l.Words += fmt.Sprintf("; taut with the idler %s farther out", model(c.TakeUp))
		case c.CanMove:
			l.Words += fmt.Sprintf("; closes with the idler %s farther in", model(-c.TakeUp))
		}
		l.Why = measure.Because(
			"slack = links · pitch − taut loop; the idler moves along until the taut loop is links · pitch long",
			[]string{
				fmt.Sprintf(
					"%d links",
					c.Links,
				),
				"sag from the upper run with all the slack in it",
				"the idler is not moved farther than its travel, or its own radius where that is not noted",
			},
		)
		out = append(out, l)
	}
	return out
}

// TrackQuestion asks what a running gear takes.
type TrackQuestion struct {
	Scale  string         `json:"scale"`
	Wheels []gear.Wheel   `json:"wheels"`
	Link   gear.Link      `json:"link"`
	Ground gear.Terrain   `json:"ground,omitempty"`
	Shelf  *measure.Shelf `json:"shelf,omitempty"`
}

// shelfOr is the shelf asked about, or the plain table.
func shelfOr(s *measure.Shelf) measure.Shelf {
	if s == nil {
		return measure.Shelf{}
	}
	return *s
}

// AskTrack lays a track round wheels.
func AskTrack(q TrackQuestion) (GearLine, error) {
	scale, err := length.ParseScale(q.Scale)
	if err != nil {
		return GearLine{}, measure.At("scale", err)
	}
	b := document.Build{Scale: scale, Outline: form.Tracked, Wheels: q.Wheels, Link: q.Link, Ground: q.Ground}
	if len(b.Wheels) > document.MostWheels {
		return GearLine{}, measure.Refuse(
			"wheels",
			"more than one side has",
			fmt.Sprintf("give at most %d", document.MostWheels),
		)
	}
	if !b.WithinReach() {
		return GearLine{}, measure.Refuse(
			"wheels",
			"a wheel lies more than 100 m away",
			"check the unit: positions are in real millimetres",
		)
	}
	b.Sizes.Width.MM = 1e6 // no hull stands beside these wheels
	if err := b.CheckGear(); err != nil {
		return GearLine{}, err
	}
	_, lies, err := Stand(b)
	if err != nil {
		return GearLine{}, measure.At("wheels", err)
	}
	return *GearOf(b, lies, shelfOr(q.Shelf)), nil
}
