package form

import (
	"math"
)

func wheeledBody(kind Kind, l, w, h float64) Body {
	axles, r := axles(kind, l, h)
	foot := 0.3 * h
	tub := [][2]float64{{-0.49 * l, 0.46 * h}, {-0.47 * l, foot}}
	for i := len(axles) - 1; i >= 0; i-- {
		tub = arch(tub, axles[i], foot, r, 1.22*r)
	}
	tub = append(tub, line(l, h, 0.44, 0.3, 0.49, 0.42, 0.5, 0.5, -0.49, 0.5)...)
	return Body{
		Hulls: []Hull{
			{ID: "hull", Profile: tub, Width: w},
			{
				ID:      "lower",
				Profile: line(l, h, -0.44, 0.2, 0.4, 0.2, 0.44, 0.31, 0.44, 0.49, -0.46, 0.49, -0.46, 0.31),
				Width:   0.48 * w,
			},
			{
				ID:      "cab",
				Profile: line(l, h, -0.49, 0.5, 0.5, 0.5, 0.24, 0.58, 0.14, 0.8, -0.3, 0.8, -0.46, 0.68),
				Width:   w,
				InSide:  0.2 * w,
			},
		},
		Turrets: []Turret{
			{
				ID:      "turret",
				On:      "cab",
				X:       -0.06 * l,
				Ring:    0.24 * w,
				Height:  0.2 * h,
				InFront: 0.03 * l,
				InRear:  0.02 * l,
				InSide:  0.06 * w,
				Plan:    [][2]float64{{0.13 * l, 0.09 * w}, {0.06 * l, 0.24 * w}, {-0.07 * l, 0.25 * w}, {-0.13 * l, 0.12 * w}},
			},
		},
		Guns: []Gun{
			{
				ID:      "gun",
				On:      "turret",
				X:       0.05 * l,
				Z:       0.9 * h,
				Barrel:  barrel(0.3*l, 0.014*h),
				Mantlet: Mantlet{0.12 * w, 0.12 * h, 0.04 * l},
			},
		},
		Fittings: wheeledFittings(l, w, h),
	}
}

// wheeledFittings are what stands and hangs on it.
func wheeledFittings(l, w, h float64) []Fitting {
	return []Fitting{
		{
			ID:   "hatch",
			Kind: "hatch",
			On:   "turret.roof",
			At:   Vec{-0.08 * l, 0, h},
			Size: [3]float64{0.1 * l, 0.24 * w, 0.016 * h},
		},
		{
			ID:     "lamp",
			Kind:   "lamp",
			On:     "cab.roof",
			At:     Vec{0.42 * l, 0.32 * w, 0.53 * h},
			Size:   [3]float64{0.04 * l, 0.08 * w, 0.08 * h},
			Mirror: true,
		},
		{
			ID:   "can",
			Kind: "can",
			On:   "hull.rear",
			At:   Vec{-0.48 * l, 0.26 * w, 0.38 * h},
			Size: [3]float64{0.16 * w, 0.12 * h, 0.04 * l},
		},
		{
			ID:    "grille",
			Kind:  "grille",
			On:    "cab.rear",
			At:    Vec{-0.39 * l, 0, 0.73 * h},
			Size:  [3]float64{0.3 * w, 0.14 * l, 0.015 * h},
			Count: 7,
		},
		{
			ID:   "shovel",
			Kind: "tool",
			On:   "cab.left",
			At:   Vec{-0.2 * l, 0.4 * w, 0.62 * h},
			Size: [3]float64{0.22 * l, 0.06 * h, 0.02 * w},
		},
		{
			ID:   "rail",
			Kind: "rail",
			On:   "cab.right",
			At:   Vec{-0.05 * l, -0.4 * w, 0.65 * h},
			Size: [3]float64{0.2 * l, 0.012 * w, 0.03 * w},
		},
		{
			ID:     "hook",
			Kind:   "hook",
			On:     "hull.glacis",
			At:     Vec{0.48 * l, 0.24 * w, 0.37 * h},
			Size:   [3]float64{0.05 * w, 0.05 * h, 0.014 * l},
			Mirror: true,
		},
	}
}

// axles gives the places of a wheeled vehicle's axles and the radius of its tyres.
func axles(kind Kind, l, h float64) (x []float64, r float64) {
	r = math.Min(0.22*h, 0.12*l)
	if kind == Wheeled6 {
		return []float64{0.31 * l, -0.08 * l, -0.31 * l}, math.Min(r, 0.086*l)
	}
	return []float64{0.29 * l, -0.29 * l}, r
}
