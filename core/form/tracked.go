package form

import "slices"

// deck is how high the deck of a tracked vehicle lies, of its height.
const deck = 0.62

// trackedBody has a turret, so far before its middle as a share of its length.
func trackedBody(turret, l, w, h float64) Body {
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
		Fittings: slices.Concat(stowage(l, w, h, 0.47), trackedFittings(turret, l, w, h)),
	}
}

// trackedFittings are what stands and hangs on it.
func trackedFittings(turret, l, w, h float64) []Fitting {
	return []Fitting{
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
	}
}
