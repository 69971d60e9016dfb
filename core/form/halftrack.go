package form

// halfTrackBody has a bonnet over a steered axle in front and an open box behind.
func halfTrackBody(l, w, h float64) Body {
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
		Fittings: halfTrackFittings(l, w, h),
	}
}

// halfTrackFittings are what stands and hangs on it.
func halfTrackFittings(l, w, h float64) []Fitting {
	return []Fitting{
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
	}
}
