package vehicle

import (
	"math"

	"cinderpath/core/document"
	"cinderpath/core/gear"
	"cinderpath/core/length"
	"cinderpath/core/measure"
)

// ArmSheet is a template that sets suspension arms for uneven ground, model mm from the
// rear, x to the right and y up, the lowest ground at 0.
type ArmSheet struct {
	Name   string
	Scale  string
	Ground [][2]float64
	Arms   []ArmMark
	Words  []string
}

// ArmMark is a wheel on its arm.
type ArmMark struct {
	Name   string
	Pivot  [2]float64
	Rest   [2]float64 // the wheel's centre on level ground
	Wheel  [2]float64 // and on this one
	Radius float64
	Angle  float64 // up from rest, degrees
}

// ArmsOf makes the template of a build that stands on uneven ground.
func ArmsOf(b document.Build) (ArmSheet, error) {
	if len(b.Ground) == 0 {
		return ArmSheet{}, measure.Refuse("ground", "the ground is level", "draw a ground profile under the track first")
	}
	moved, swings := gear.Follow(b.Wheels, b.Link, b.Ground)
	if len(swings) == 0 {
		return ArmSheet{}, measure.Refuse(
			"wheels",
			"no wheel stands on an arm",
			"give the road wheels arms with a pivot and limits",
		)
	}
	model := func(mm float64) float64 { return float64(b.Scale.ToModel(length.Real(mm))) }
	low, high := math.Inf(1), math.Inf(-1)
	for _, w := range b.Wheels {
		low, high = min(low, w.X-w.Radius), max(high, w.X+w.Radius)
	}
	floor := math.Inf(1)
	var ground [][2]float64
	for x := low; ; x += 20 {
		x = min(x, high)
		ground = append(ground, [2]float64{x, b.Ground.Height(x)})
		floor = min(floor, b.Ground.Height(x))
		if x >= high {
			break
		}
	}
	at := func(x, z float64) [2]float64 { return [2]float64{model(x - low), model(z - floor)} }
	s := ArmSheet{
		Name:  b.Name,
		Scale: b.Scale.String(),
		Words: []string{
			"Hold it behind the running gear, rear at the left, and set each arm along its line while the " +
				"cement is soft. The left side is shown; turn the sheet over for the right.",
		},
	}
	for _, g := range ground {
		s.Ground = append(s.Ground, at(g[0], g[1]))
	}
	for _, sw := range swings {
		w := b.Wheels[sw.Wheel]
		s.Arms = append(
			s.Arms,
			ArmMark{
				Name:   document.WheelName(b, sw.Wheel),
				Pivot:  at(w.Pivot()[0], w.Pivot()[1]),
				Rest:   at(w.X, w.Z),
				Wheel:  at(moved[sw.Wheel].X, moved[sw.Wheel].Z),
				Radius: model(w.Radius),
				Angle:  sw.Angle,
			},
		)
	}
	return s, nil
}
