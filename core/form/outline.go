package form

import (
	"math"
	"slices"
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
	l, w, h := length, width, height
	switch kind {
	case Wheeled, Wheeled6:
		return wheeledBody(kind, l, w, h)
	case HalfTrack:
		return Body{
			Hulls: []Hull{
				{ID: "lower", Profile: line(l, h, -0.46, 0.22, 0.42, 0.22, 0.47, 0.34, -0.47, 0.34), Width: 0.44 * w},
				{
					ID:      "bonnet",
					Profile: line(l, h, 0.1, 0.34, 0.48, 0.34, 0.5, 0.4, 0.49, 0.6, 0.1, 0.7),
					Width:   0.56 * w,
					InSide:  0.02 * w,
					InNose:  0.06 * w,
				},
				{
					ID:      "hull",
					Profile: line(l, h, -0.5, 0.34, 0.1, 0.34, 0.1, 0.7, 0.02, 0.96, -0.04, 0.98, -0.06, 0.78, -0.5, 0.76),
					Width:   0.8 * w,
					InSide:  0.05 * w,
				},
			},
			Fenders: []Fender{
				{
					ID:    "mudguard",
					Line:  line(l, h, 0.49, 0.3, 0.46, 0.42, 0.38, 0.46, 0.29, 0.42, 0.24, 0.3),
					Inner: 0.28 * w,
					Outer: 0.5 * w,
					Thick: 6,
				},
				{ID: "fender", Line: line(l, h, 0.1, 0.4, -0.44, 0.4, -0.5, 0.34), Inner: 0.4 * w, Outer: 0.5 * w, Thick: 6},
			},
			Fittings: []Fitting{
				{
					ID:     "tools",
					Kind:   "tool",
					On:     "hull.left",
					At:     Vec{-0.2 * l, 0.4 * w, 0.6 * h},
					Size:   [3]float64{0.16 * l, 0.08 * h, 0.03 * w},
					Mirror: true,
				},
				{
					ID:     "lamp",
					Kind:   "lamp",
					On:     "hull.mudguard.left",
					At:     Vec{0.4 * l, 0.42 * w, 0.46 * h},
					Size:   [3]float64{0.05 * l, 0.08 * w, 0.1 * h},
					Mirror: true,
				},
				{
					ID:    "bonnet-vent",
					Kind:  "grille",
					On:    "bonnet.front",
					At:    Vec{0.5 * l, 0, 0.5 * h},
					Size:  [3]float64{0.3 * w, 0.16 * h, 0.006 * l},
					Count: 6,
				},
			},
		}
	case Casemate:
		return Body{
			Hulls: []Hull{
				{
					ID:      "lower",
					Profile: line(l, h, -0.44, 0.18, 0.4, 0.18, 0.5, 0.36, 0.48, 0.46, -0.5, 0.46, -0.49, 0.38),
					Width:   0.58 * w,
				},
				{
					ID:      "hull",
					Profile: line(l, h, -0.5, 0.46, 0.48, 0.46, 0.24, 0.97, -0.1, h97, -0.22, 0.72, -0.48, 0.68),
					Width:   0.94 * w,
					InSide:  0.15 * w,
				},
				{ID: "cupola", Profile: line(l, h, -0.1, 0.97, 0.04, 0.97, 0.03, 1, -0.09, 1), Width: 0.2 * w, InSide: 0.02 * w},
			},
			Guns: []Gun{
				{
					ID:      "gun",
					On:      "hull",
					X:       0.3 * l,
					Z:       0.7 * h,
					Barrel:  barrel(0.5*l, 0.03*h),
					Mantlet: Mantlet{0.3 * w, 0.24 * h, 0.08 * l},
				},
			},
			Fenders: []Fender{
				{
					ID:    "fender",
					Line:  line(l, h, 0.5, 0.44, 0.44, 0.49, -0.46, 0.49, -0.51, 0.44),
					Inner: 0.3 * w,
					Outer: 0.5 * w,
					Thick: 6,
				},
			},
			Skirts: []Skirt{
				{ID: "skirt", Rear: -0.4 * l, Front: 0.4 * l, Base: 0.3 * h, Top: 0.49 * h, Out: 0.5 * w, Thick: 6, Sections: 5},
			},
			Fittings: slices.Concat(stowage(l, w, h, 0.49), []Fitting{
				{
					ID:   "hatch",
					Kind: "hatch",
					On:   "hull.deck",
					At:   Vec{0.12 * l, -0.16 * w, h},
					Size: [3]float64{0.09 * l, 0.09 * l, 0.02 * h},
				},
				{
					ID:    "grille",
					Kind:  "grille",
					On:    "hull.deck",
					At:    Vec{-0.36 * l, 0, 0.7 * h},
					Size:  [3]float64{0.16 * l, 0.4 * w, 0.015 * h},
					Count: 8,
				},
			}),
		}
	}
	deck, turret := 0.62, 0.02
	if kind == TrackedRear {
		turret = 0.06
	}
	return Body{
		Hulls: []Hull{
			{
				ID:      "lower",
				Profile: line(l, h, -0.45, 0.17, 0.39, 0.17, 0.48, 0.33, 0.47, 0.44, -0.49, 0.44, -0.48, 0.33),
				Width:   0.56 * w,
			},
			{
				ID:      "hull",
				Profile: line(l, h, -0.49, 0.44, 0.47, 0.44, 0.5, 0.46, 0.33, deck, -0.3, deck, -0.49, 0.57),
				Width:   0.92 * w,
				InSide:  0.1 * w,
			},
		},
		Turrets: []Turret{
			{
				ID:      "turret",
				On:      "hull",
				X:       turret * l,
				Ring:    0.3 * w,
				Height:  0.29 * h,
				InFront: 0.03 * l,
				InRear:  0.02 * l,
				InSide:  0.07 * w,
				Plan:    [][2]float64{{0.17 * l, 0.13 * w}, {0.11 * l, 0.28 * w}, {-0.08 * l, 0.31 * w}, {-0.19 * l, 0.22 * w}},
			},
			{
				ID:     "cupola",
				On:     "turret",
				X:      (turret - 0.06) * l,
				Y:      0.1 * w,
				Ring:   0.09 * w,
				Height: 0.09 * h,
				InSide: 0.03 * w,
				Round:  true,
				Plan:   [][2]float64{{0.1 * w, 0}, {0.07 * w, 0.07 * w}, {0, 0.1 * w}, {-0.07 * w, 0.07 * w}, {-0.1 * w, 0}},
			},
		},
		Guns: []Gun{
			{
				ID:      "gun",
				On:      "turret",
				X:       (turret + 0.14) * l,
				Z:       0.76 * h,
				Barrel:  barrel(0.5*l, 0.028*h),
				Mantlet: Mantlet{0.2 * w, 0.2 * h, 0.06 * l},
			},
		},
		Fenders: []Fender{
			{
				ID:    "fender",
				Line:  line(l, h, 0.52, 0.42, 0.46, 0.47, -0.46, 0.47, -0.52, 0.42),
				Inner: 0.28 * w,
				Outer: 0.5 * w,
				Thick: 6,
			},
		},
		Fittings: slices.Concat(stowage(l, w, h, 0.47), []Fitting{
			{
				ID:     "hatch",
				Kind:   "hatch",
				On:     "hull.deck",
				At:     Vec{0.28 * l, 0.2 * w, deck * h},
				Size:   [3]float64{0.08 * l, 0.08 * l, 0.02 * h},
				Mirror: true,
			},
			{
				ID:   "loader",
				Kind: "hatch",
				On:   "turret.roof",
				At:   Vec{(turret - 0.03) * l, -0.11 * w, h},
				Size: [3]float64{0.09 * l, 0.14 * w, 0.015 * h},
			},
			{
				ID:     "grille",
				Kind:   "grille",
				On:     "hull.deck",
				At:     Vec{-0.39 * l, 0.16 * w, deck * h},
				Size:   [3]float64{0.15 * l, 0.24 * w, 0.015 * h},
				Count:  8,
				Mirror: true,
			},
			{
				ID:   "bin",
				Kind: "box",
				On:   "turret.rear",
				At:   Vec{-0.17 * l, 0, 0.76 * h},
				Size: [3]float64{0.36 * w, 0.17 * h, 0.05 * l},
			},
		}),
	}
}

// h97 is the roof of a casemate, nearly level.
const h97 = 0.975

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
