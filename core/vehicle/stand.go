package vehicle

import (
	"fmt"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/measure"
)

// Stance is the running gear as it stands: the wheels where the ground puts them, the taut loop and
// its upper run with the slack of the least whole number of links.
type Stance struct {
	wheels []gear.Wheel
	swings []gear.Swing
	Loop   gear.Loop
	run    gear.Run
	line   [][2]float64 // the closed pin line
}

// Stand stands the wheels on the ground and lays the track.
func Stand(b document.Build) (form.Running, Stance, error) {
	t := Stance{wheels: b.Wheels}
	if len(b.Ground) > 0 {
		t.wheels, t.swings = gear.Follow(b.Wheels, b.Link, b.Ground)
	}
	run := form.Running{Wheels: t.wheels, Face: b.Face(), Width: b.Link.Width, Link: b.Link}
	if !b.Outline.HasTrack() {
		return run, t, nil
	}
	loop, lower, err := gear.OnGround(t.wheels, b.Link, b.Ground)
	if err != nil {
		return run, Stance{}, err
	}
	if loop.Links > gear.MostLinks {
		return run, Stance{}, measure.Refuse(
			"link.pitch",
			fmt.Sprintf("the track takes %d links a side", loop.Links),
			fmt.Sprintf("check the pitch and where the wheels are; %d links are the most", gear.MostLinks),
		)
	}
	t.Loop = loop
	if t.run, err = gear.Hang(t.wheels, b.Link, loop, loop.Slack); err != nil {
		return run, Stance{}, err
	}
	t.line = gear.Bed(t.run.Outline(loop, t.wheels, b.Link), lower)
	run.Pins = gear.Chain(t.line, loop.Links)
	return run, t, nil
}

// Panels gives the faces of a build's vehicle.
func Panels(b document.Build) ([]*form.Panel, error) {
	run, _, err := Stand(b)
	if err != nil {
		return nil, err
	}
	return form.Panels(b.Body, run)
}

// Meshes gives the closed parts of a build's vehicle, its wheels and tracks among them.
func Meshes(b document.Build) ([]form.Part, error) {
	run, _, err := Stand(b)
	if err != nil {
		return nil, measure.At("gear", err)
	}
	parts, err := form.Meshes(b.Body, run)
	return parts, measure.At("body", err)
}
