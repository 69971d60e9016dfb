package form

import (
	"math"
	"strings"
)

// Kind is one of the outlines that a new vehicle starts from.
type Kind string

// The outlines known: our own, of no real vehicle.
const (
	Tracked     Kind = "tracked"     // turret, sprocket in front
	TrackedRear Kind = "trackedRear" // turret, sprocket behind
	Casemate    Kind = "casemate"    // gun in the hull
	Wheeled     Kind = "wheeled"     // four wheels
	Wheeled6    Kind = "wheeled6"    // six wheels
	HalfTrack   Kind = "halftrack"
)

// Kinds lists the outlines.
var Kinds = []Kind{Tracked, TrackedRear, Casemate, Wheeled, Wheeled6, HalfTrack}

// KindNames lists them in words.
func KindNames() string {
	names := make([]string, len(Kinds))
	for i, k := range Kinds {
		names[i] = string(k)
	}
	return strings.Join(names, ", ")
}

// HasTrack tells whether a vehicle of this outline runs on tracks, wholly or in part.
func (k Kind) HasTrack() bool { return k != Wheeled && k != Wheeled6 }

// line is a profile given in shares of length and height.
func line(l, h float64, shares ...float64) [][2]float64 {
	out := make([][2]float64, len(shares)/2)
	for i := range out {
		out[i] = [2]float64{shares[2*i] * l, shares[2*i+1] * h}
	}
	return out
}

// arch adds a wheel arch to a profile that runs forward along its foot: a half round
// notch of a radius about x, from the height of the foot.
func arch(profile [][2]float64, x, foot, z, radius float64) [][2]float64 {
	a := math.Asin(math.Max(-1, math.Min(1, (foot-z)/radius)))
	const steps = 8
	for i := range steps + 1 {
		sin, cos := math.Sincos(math.Pi - a - (math.Pi-2*a)*float64(i)/steps)
		profile = append(profile, [2]float64{x + radius*cos, z + radius*sin})
	}
	return profile
}

// NewBody fits an outline to overall sizes in real mm: hull length without the gun,
// width over all, height over all.
func NewBody(kind Kind, length, width, height float64) Body {
	switch kind {
	case Wheeled, Wheeled6:
		return wheeledBody(kind, length, width, height)
	case HalfTrack:
		return halfTrackBody(length, width, height)
	case Casemate:
		return casemateBody(length, width, height)
	case TrackedRear:
		return trackedBody(0.06, length, width, height)
	}
	return trackedBody(0.02, length, width, height)
}

// barrel is a gun with a sleeve and a muzzle brake.
func barrel(long, radius float64) [][2]float64 {
	return [][2]float64{
		{0, 1.25 * radius},
		{0.42 * long, 1.12 * radius},
		{0.42 * long, radius},
		{0.92 * long, 0.82 * radius},
		{0.92 * long, 1.3 * radius},
		{0.955 * long, 1.3 * radius},
		{0.955 * long, radius},
		{0.965 * long, radius},
		{0.965 * long, 1.3 * radius},
		{long, 1.25 * radius},
	}
}

// stowage is what lies on the fenders of a tracked vehicle, at a share of its height.
func stowage(l, w, h, z float64) []Fitting {
	left, right := "hull.fender.left", "hull.fender.right"
	return []Fitting{
		{
			ID:   "box-front",
			Kind: "box",
			On:   left,
			At:   Vec{0.1 * l, 0.45 * w, z * h},
			Size: [3]float64{0.2 * l, 0.07 * w, 0.08 * h},
		},
		{
			ID:   "box-rear",
			Kind: "box",
			On:   right,
			At:   Vec{-0.28 * l, -0.45 * w, z * h},
			Size: [3]float64{0.24 * l, 0.07 * w, 0.08 * h},
		},
		{
			ID:   "shovel",
			Kind: "tool",
			On:   left,
			At:   Vec{-0.16 * l, 0.46 * w, z * h},
			Size: [3]float64{0.18 * l, 0.04 * w, 0.03 * h},
		},
		{
			ID:   "exhaust",
			Kind: "exhaust",
			On:   "hull.rear",
			At:   Vec{-0.5 * l, 0.1 * w, 0.5 * h},
			Size: [3]float64{0.22 * w, 0.07 * h, 0.07 * h},
		},
		{
			ID:     "lamp",
			Kind:   "lamp",
			On:     left,
			At:     Vec{0.43 * l, 0.44 * w, z * h},
			Size:   [3]float64{0.03 * l, 0.05 * w, 0.05 * h},
			Mirror: true,
		},
		{
			ID:     "hook",
			Kind:   "hook",
			On:     "lower.nose",
			At:     Vec{0.46 * l, 0.2 * w, 0.3 * h},
			Size:   [3]float64{0.04 * w, 0.05 * h, 0.014 * l},
			Mirror: true,
		},
		{
			ID:    "spare-links",
			Kind:  "links",
			On:    "hull.glacis",
			At:    Vec{0.42 * l, 0, 0.54 * h},
			Size:  [3]float64{0.07 * l, 0.13 * w, 0.03 * h},
			Count: 3,
		},
	}
}
