package form

import (
	"math"

	"cinderpath/core/gear"
)

// NewWheels fits a running gear to the same sizes. For tracked outlines the link is
// sized so that a side takes about ninety links.
func NewWheels(kind Kind, length, width, height float64) ([]gear.Wheel, gear.Link) {
	l, h := length, height
	if !kind.HasTrack() {
		var wheels []gear.Wheel
		x, r := axles(kind, l, h)
		for _, at := range x {
			wheels = append(wheels, gear.Wheel{Kind: gear.Tyre, X: at, Z: r, Radius: r})
		}
		return wheels, gear.Link{Width: 0.14 * width}
	}
	link := gear.Link{Pitch: 0.0205 * l, Surface: 0.004 * l, Ground: 0.004 * l, Width: 0.17 * width}
	lift := link.Surface + link.Ground
	road := func(r, front, step float64, n int) []gear.Wheel {
		var out []gear.Wheel
		for i := range n {
			w := gear.Wheel{Kind: gear.Road, X: front - step*float64(i), Z: r + lift, Radius: r}
			w.Arm = gear.CommonArm(w)
			out = append(out, w)
		}
		return out
	}
	if kind == HalfTrack {
		link.Pitch, link.Width = 0.017*l, 0.13*width
		r := math.Min(0.15*h, 0.07*l)
		wheels := []gear.Wheel{
			{Kind: gear.Tyre, X: 0.37 * l, Z: 0.17 * h, Radius: 0.17 * h},
			{Kind: gear.Sprocket, X: 0.05 * l, Z: 0.2 * h, Radius: 0.1 * h, Teeth: 11},
		}
		wheels = append(wheels, road(r, -0.06*l, 0.125*l, 3)...)
		wheels = append(wheels, gear.Wheel{Kind: gear.Idler, X: -0.42 * l, Z: 0.19 * h, Radius: 0.1 * h, Steel: true})
		wheels[1].Radius = seat(wheels[1], link)
		return wheels, link
	}
	r := math.Min(0.12*h, 0.058*l)
	front := gear.Wheel{Kind: gear.Sprocket, X: 0.405 * l, Z: 0.29 * h, Radius: 0.105 * h, Teeth: 13}
	rear := gear.Wheel{Kind: gear.Idler, X: -0.41 * l, Z: 0.27 * h, Radius: 0.1 * h, Steel: true}
	if kind == TrackedRear {
		front, rear = gear.Wheel{
			Kind:   gear.Idler,
			X:      0.405 * l,
			Z:      0.27 * h,
			Radius: 0.1 * h,
			Steel:  true,
		}, gear.Wheel{
			Kind:   gear.Sprocket,
			X:      -0.41 * l,
			Z:      0.29 * h,
			Radius: 0.105 * h,
			Teeth:  13,
		}
	}
	front.Radius, rear.Radius = seat(front, link), seat(rear, link)
	wheels := append([]gear.Wheel{front}, road(r, 0.27*l, 0.116*l, 6)...)
	wheels = append(wheels, rear)
	for i := range 3 {
		wheels = append(
			wheels,
			gear.Wheel{Kind: gear.Return, X: (0.22 - 0.22*float64(i)) * l, Z: 0.35 * h, Radius: 0.035 * h, Steel: true},
		)
	}
	return wheels, link
}

// seat is the running surface of a sprocket that its teeth and the pitch ask for; of
// other wheels their own.
func seat(w gear.Wheel, l gear.Link) float64 {
	if w.Kind == gear.Sprocket {
		return w.Apothem(l) - l.Surface
	}
	return w.Radius
}
