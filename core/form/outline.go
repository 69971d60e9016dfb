package form

import (
	"math"

	"cinderpath/core/gear"
)

// Kind is one of the outlines that a new vehicle starts from.
type Kind string

// The outlines known: our own, of no real vehicle.
const (
	Tracked Kind = "tracked"
	Wheeled Kind = "wheeled"
)

// NewBody fits an outline to overall sizes in real mm: hull length without the
// gun, width over all, height over all.
func NewBody(kind Kind, length, width, height float64) Body {
	l, w, h := length, width, height
	if kind == Wheeled {
		return Body{Blocks: []Block{
			{ID: "lower", Rear: -0.46 * l, Front: 0.46 * l, Base: 0.18 * h, Top: 0.40 * h, Width: 0.62 * w, InFront: -0.03 * l, InRear: -0.02 * l, InSide: -0.04 * w},
			{ID: "hull", Rear: -0.5 * l, Front: 0.5 * l, Base: 0.40 * h, Top: 0.80 * h, Width: w, InFront: 0.24 * l, InRear: 0.07 * l, InSide: 0.12 * w},
			{ID: "cupola", Rear: -0.13 * l, Front: 0.09 * l, Base: 0.80 * h, Top: h, Width: 0.46 * w, InFront: 0.02 * l, InRear: 0.02 * l, InSide: 0.05 * w},
		}}
	}
	return Body{
		Blocks: []Block{
			{ID: "lower", Rear: -0.47 * l, Front: 0.44 * l, Base: 0.16 * h, Top: 0.42 * h, Width: 0.56 * w, InFront: -0.05 * l, InRear: 0.01 * l},
			{ID: "hull", Rear: -0.5 * l, Front: 0.5 * l, Base: 0.42 * h, Top: 0.62 * h, Width: w, InFront: 0.15 * l, InRear: 0.03 * l, InSide: 0.03 * w},
			{ID: "turret", Rear: -0.17 * l, Front: 0.21 * l, Base: 0.62 * h, Top: 0.92 * h, Width: 0.62 * w, InFront: 0.05 * l, InRear: 0.03 * l, InSide: 0.06 * w},
			{ID: "cupola", Rear: -0.11 * l, Front: 0.02 * l, Base: 0.92 * h, Top: h, Width: 0.24 * w, InFront: 0.01 * l, InRear: 0.01 * l, InSide: 0.02 * w},
		},
		Tubes: []Tube{{ID: "gun", Rear: 0.17 * l, Front: 0.62 * l, Z: 0.76 * h, Radius: 0.021 * h}},
	}
}

// NewWheels fits a running gear to the same sizes. For tracked outlines the link
// is sized so that a side takes about ninety links.
func NewWheels(kind Kind, length, width, height float64) ([]gear.Wheel, gear.Link) {
	l, h := length, height
	if kind == Wheeled {
		r := math.Min(0.21*h, 0.12*l)
		return []gear.Wheel{
			{Kind: gear.Road, X: -0.29 * l, Z: r, Radius: r},
			{Kind: gear.Road, X: 0.29 * l, Z: r, Radius: r},
		}, gear.Link{Width: 0.13 * width}
	}
	link := gear.Link{Pitch: 0.0205 * l, Surface: 0.004 * l, Ground: 0.004 * l, Width: 0.16 * width}
	lift := link.Surface + link.Ground
	r := math.Min(0.12*h, 0.058*l)
	wheels := []gear.Wheel{{Kind: gear.Sprocket, X: 0.405 * l, Z: 0.29 * h, Radius: 0.105 * h, Teeth: 13}}
	for i := range 6 {
		wheels = append(wheels, gear.Wheel{Kind: gear.Road, X: (0.27 - 0.116*float64(i)) * l, Z: r + lift, Radius: r})
	}
	wheels = append(wheels, gear.Wheel{Kind: gear.Idler, X: -0.41 * l, Z: 0.27 * h, Radius: 0.1 * h})
	for i := range 3 {
		wheels = append(wheels, gear.Wheel{Kind: gear.Return, X: (0.22 - 0.22*float64(i)) * l, Z: 0.35 * h, Radius: 0.035 * h})
	}
	return wheels, link
}

// Stretch scales a body about the origin along each axis; radii of tubes follow
// the height, since they are seen from the side.
func (b Body) Stretch(kx, ky, kz float64) Body {
	out := Body{}
	for _, k := range b.Blocks {
		k.Rear, k.Front, k.InFront, k.InRear = k.Rear*kx, k.Front*kx, k.InFront*kx, k.InRear*kx
		k.Width, k.InSide = k.Width*ky, k.InSide*ky
		k.Base, k.Top = k.Base*kz, k.Top*kz
		out.Blocks = append(out.Blocks, k)
	}
	for _, t := range b.Tubes {
		t.Rear, t.Front, t.Y, t.Z, t.Radius = t.Rear*kx, t.Front*kx, t.Y*ky, t.Z*kz, t.Radius*kz
		out.Tubes = append(out.Tubes, t)
	}
	return out
}
