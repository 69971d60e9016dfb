package build

import (
	"fmt"
	"math"
	"strings"
	"time"

	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
)

// GearLine tells what the track takes.
type GearLine struct {
	Links    int    `json:"links"` // per side
	Loop     string `json:"loop"`
	Slack    string `json:"slack"`
	Pitch    string `json:"pitch"`
	Supplied int    `json:"supplied"`
	Verdict  string `json:"verdict"`
	Why      Why    `json:"why"`

	Sags    []SagLine  `json:"sags"` // of the upper run, from the rear
	Choices []LinkLine `json:"choices"`
}

// LinkLine is what a number of links does.
type LinkLine struct {
	Links int    `json:"links"`
	Words string `json:"words"`
	Why   Why    `json:"why"`
}

// SagLine is how deep the track hangs between two wheels.
type SagLine struct {
	Between string `json:"between"`
	Model   string `json:"model"`
	Real    string `json:"real"`
	Why     Why    `json:"why"`
}

// Sheet is the room the five views take, model mm.
type Sheet struct {
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
}

// ZoneLine is one zone with its area on the model.
type ZoneLine struct {
	Zone   string    `json:"zone"`
	AreaCM float64   `json:"areaCm2"`
	Shares []float64 `json:"shares"` // of each colour
	Why    Why       `json:"why"`
}

// ColourLine is one colour of the scheme with what it takes.
type ColourLine struct {
	Name   string  `json:"name"`
	Hex    string  `json:"hex"`
	Wanted float64 `json:"wanted"`
	Share  float64 `json:"share"`
	AreaCM float64 `json:"areaCm2"`
}

// Plan is what follows from a build at an instant.
type Plan struct {
	Build    string             `json:"build"`
	Name     string             `json:"name"`
	Scale    string             `json:"scale"`
	AsOf     time.Time          `json:"asOf"`
	Stand    Stand              `json:"stand"`
	Sizes    []SizeLine         `json:"sizes"`
	Kit      *measure.KitReport `json:"kit,omitempty"`
	Cables   []CableLine        `json:"cables"`
	Gear     *GearLine          `json:"gear,omitempty"`
	Views    []form.View        `json:"views"`
	Sheet    Sheet              `json:"sheet"`
	Zones    []ZoneLine         `json:"zones"`
	Colours  []ColourLine       `json:"colours"`
	Findings []strata.Finding   `json:"findings"`
	Steps    []Step             `json:"steps"`
}

// Stand says where a build stands and what to do next.
type Stand struct {
	Done    int      `json:"done"`
	Total   int      `json:"total"`
	Stage   string   `json:"stage"`
	Next    string   `json:"next,omitempty"` // id of the step to take up next
	Act     string   `json:"act"`            // in words
	Tonight []string `json:"tonight"`        // steps of the next session
	Session string   `json:"session,omitempty"`
	Ends    string   `json:"ends,omitempty"` // when the last step is laid
	Waiting []string `json:"waiting"`        // steps that dry now
}

func gearLine(b Build, lies track) *GearLine {
	if b.Outline != form.Tracked {
		return nil
	}
	loop := lies.loop
	model := func(mm float64) string { return b.Scale.ToModel(length.Real(mm)).String() }
	g := &GearLine{Links: loop.Links, Loop: model(loop.Length), Slack: model(loop.Slack), Pitch: model(b.Link.Pitch), Supplied: b.Link.Supplied}
	g.Why = because("links = ⌈loop / pitch⌉, slack = links · pitch − loop", []string{
		fmt.Sprintf("taut loop %s on the model, round %d of %d wheels", g.Loop, len(loop.Touching), len(b.Wheels)),
		fmt.Sprintf("pitch %s: loop / pitch = %.2f", g.Pitch, loop.Exact),
		"the pin line runs on a polygon round each wheel, its chords counted, not its arc"})
	g.Sags = []SagLine{}
	for _, s := range lies.run.Spans {
		g.Sags = append(g.Sags, SagLine{wheelName(b, s.Left) + " to " + wheelName(b, s.Right), model(s.Sag), length.Real(s.Sag).String(),
			because("catenaries over one directrix; its level makes their lengths and the wraps add up to taut run + slack", []string{
				"slack " + g.Slack + " on the model, all in the upper run", fmt.Sprintf("%d free spans; this one %s along the chain", len(lies.run.Spans), model(s.Length)),
				"a flexible band does not hang: glue it down to the wheels"})})
	}
	g.Choices = linkLines(gear.Choices(b.Wheels, b.Link, loop), model)
	switch {
	case b.Link.Supplied == 0:
		g.Verdict = "How many links the kit supplies is not noted."
	case b.Link.Supplied < loop.Links:
		g.Verdict = fmt.Sprintf("The kit's %d links a side are %d too few.", b.Link.Supplied, loop.Links-b.Link.Supplied)
	default:
		g.Verdict = fmt.Sprintf("The kit's %d links a side leave %d spare.", b.Link.Supplied, b.Link.Supplied-loop.Links)
	}
	return g
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
		l.Why = because("slack = links · pitch − taut loop; the idler moves along until the taut loop is links · pitch long", []string{
			fmt.Sprintf("%d links", c.Links), "sag from the upper run with all the slack in it", "the idler is not moved farther than its own radius"})
		out = append(out, l)
	}
	return out
}

// wheelName names a wheel by its kind and its place among those, from the front.
func wheelName(b Build, wheel int) string {
	names := map[gear.Kind]string{gear.Sprocket: "sprocket", gear.Idler: "idler", gear.Road: "road wheel", gear.Return: "return roller"}
	w := b.Wheels[wheel]
	before, all := 1, 0
	for _, o := range b.Wheels {
		if o.Kind == w.Kind {
			all++
			if o.X > w.X {
				before++
			}
		}
	}
	if all == 1 {
		return names[w.Kind]
	}
	return fmt.Sprintf("%s %d", names[w.Kind], before)
}

func zoneLines(b Build, g *form.Grid, laid *scheme.Layout) []ZoneLine {
	out := []ZoneLine{}
	seen := map[string]int{}
	for _, l := range g.Lattices {
		seen[l.Panel.Zone]++
		if seen[l.Panel.Zone] > 1 {
			continue
		}
		z := l.Panel.Zone
		real := g.Area[z]
		out = append(out, ZoneLine{Zone: z, AreaCM: real / float64(b.Scale*b.Scale) / 100, Shares: rounded(laid.Zones[z])})
	}
	for i := range out {
		z := &out[i]
		z.Why = because("model area = real area / N²", []string{fmt.Sprintf("real area %.2f m² of %d panels, hidden faces left out", g.Area[z.Zone]/1e6, seen[z.Zone]), "N = " + strings.TrimPrefix(b.Scale.String(), "1:")})
	}
	return out
}

func rounded(x []float64) []float64 {
	out := make([]float64, len(x))
	for i, v := range x {
		out[i] = math.Round(v*1e4) / 1e4
	}
	return out
}

// colourLines needs the zones' areas on the model, cm².
func colourLines(b Build, laid *scheme.Layout, area map[string]float64) []ColourLine {
	painted := 0.0
	for zone, a := range area {
		if _, takes := laid.Zones[zone]; takes {
			painted += a
		}
	}
	painted = math.Round(painted*1e6) / 1e6 // the sum must not hang on the order of a map
	out := make([]ColourLine, len(b.Scheme.Colours))
	rest := 1.0
	for i, c := range b.Scheme.Colours {
		if i > 0 {
			rest -= c.Share
		}
		out[i] = ColourLine{Name: c.Name, Hex: c.Hex, Wanted: c.Share, Share: math.Round(laid.Shares[i]*1e4) / 1e4, AreaCM: laid.Shares[i] * painted}
	}
	out[0].Wanted = rest
	return out
}

// addDimensions draws the overall sizes beside the views they are seen in.
func addDimensions(views []form.View, b Build) {
	at := func(v float64) float64 { return float64(b.Scale.ToModel(length.Real(v))) }
	half := at(b.Sizes.Length.MM) / 2
	for i := range views {
		v := &views[i]
		label := func(name string, s Overall, from, to [2]float64) {
			real := length.Real(s.MM)
			v.Dimensions = append(v.Dimensions, form.Dimension{Name: name, From: from, To: to, Real: real.String(), Model: b.Scale.ToModel(real).String()})
		}
		switch v.Side {
		case form.Left:
			// The hull's middle is at x = 0; the view's left edge is the foremost point.
			middle := v.Width - half - at(rearmost(b))
			label("Hull length", b.Sizes.Length, [2]float64{middle - half, v.Height}, [2]float64{middle + half, v.Height})
			label("Height", b.Sizes.Height, [2]float64{v.Width, v.Height - at(b.Sizes.Height.MM)}, [2]float64{v.Width, v.Height})
		case form.Front:
			middle := v.Width / 2
			w := at(b.Sizes.Width.MM) / 2
			label("Width", b.Sizes.Width, [2]float64{middle - w, v.Height}, [2]float64{middle + w, v.Height})
		}
	}
}

// rearmost is how far the vehicle reaches behind its hull's rear end, real mm.
func rearmost(b Build) float64 {
	reach := 0.0
	for _, k := range b.Body.Blocks {
		reach = math.Max(reach, -k.Rear-b.Sizes.Length.MM/2)
		reach = math.Max(reach, -(k.Rear+k.InRear)-b.Sizes.Length.MM/2)
	}
	return math.Max(reach, 0)
}
