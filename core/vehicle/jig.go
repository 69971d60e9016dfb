package vehicle

import (
	"fmt"

	"cinderpath/core/document"
	"cinderpath/core/length"
	"cinderpath/core/measure"
)

// Jig is what a track jig is cut from, model mm: the profile that the upper run lies
// on, with its wheels, and a straight gauge for the links on the ground.
type Jig struct {
	Name    string
	Scale   string
	Profile [][2]float64 // from the rear, x to the right and y up, the lowest point at 0
	Wheels  []JigWheel
	Pitch   float64
	Links   int      // that fit on the straight gauge
	Words   []string // what it is for, by lines
}

// JigWheel is a wheel under the run.
type JigWheel struct {
	Name   string
	X, Y   float64
	Radius float64
}

// mostStraight is how many links a straight gauge takes at most: a hand's breadth more
// than a run on the ground needs.
const mostStraight = 60

// JigOf makes the track jig of a build with a track.
func JigOf(b document.Build) (Jig, error) {
	if !b.Outline.HasTrack() {
		return Jig{}, measure.Refuse("outline", "a wheeled vehicle has no track", "print the views instead")
	}
	_, lies, err := Stand(b)
	if err != nil {
		return Jig{}, measure.At("gear", err)
	}
	if len(lies.run.Spans) == 0 {
		return Jig{}, measure.Refuse("gear", "the track has no upper run", "check the wheels' positions")
	}
	profile := lies.run.Under(lies.wheels, b.Link)
	model := func(mm float64) float64 { return float64(b.Scale.ToModel(length.Real(mm))) }
	x0, y0 := profile[0][0], profile[0][1]
	for _, p := range profile {
		x0, y0 = min(x0, p[0]), min(y0, p[1])
	}
	j := Jig{Name: b.Name, Scale: b.Scale.String(), Pitch: model(b.Link.Pitch)}
	for _, p := range profile {
		j.Profile = append(j.Profile, [2]float64{model(p[0] - x0), model(p[1] - y0)})
	}
	for _, w := range lies.run.Supports {
		wheel := lies.wheels[w]
		j.Wheels = append(
			j.Wheels,
			JigWheel{
				document.WheelName(b, w),
				model(wheel.X - x0),
				model(wheel.Z - y0),
				model(wheel.Apothem(b.Link) - b.Link.Surface),
			},
		)
	}
	low, high := 0.0, 0.0
	for _, p := range lies.Loop.Pieces {
		if p.Wheel < 0 && p.From[0] < p.To[0] && p.Length > high-low { // the run on the ground goes forward
			low, high = p.From[0], p.To[0]
		}
	}
	j.Links = min(max(int((high-low)/b.Link.Pitch), 1), mostStraight)
	j.Words = []string{"Lay the links of the upper run on the curve, ground face up, and let them set.",
		fmt.Sprintf("%d links a side in all, slack %s.", lies.Loop.Links, length.Model(model(lies.Loop.Slack)))}
	return j, nil
}
