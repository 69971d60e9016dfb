package form

import "slices"

// casemateBody has its gun in the hull.
func casemateBody(l, w, h float64) Body {
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
		Fittings: slices.Concat(stowage(l, w, h, 0.49), casemateFittings(l, w, h)),
	}
}

// casemateFittings are what stands and hangs on it.
func casemateFittings(l, w, h float64) []Fitting {
	return []Fitting{
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
	}
}

// h97 is the roof of a casemate, nearly level.
const h97 = 0.975
