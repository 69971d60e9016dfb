package paint

import "math"

// UsualLightening is the share of white at 1:35 by the rule of the handbook.
const UsualLightening = 0.08

// mostLightening is the share of white above which a colour turns chalky.
const mostLightening = 0.25

// WhiteShare is the part of a mix, by volume, that is white so that a colour looks right at
// a scale 1:n: w35 √(n/35), a quarter at most.
func WhiteShare(w35, n float64) float64 { return min(w35*math.Sqrt(n/35), mostLightening) }

// Lightened is a paint with so much white in it, by volume.
func Lightened(p, white Pigment, share float64) Pigment {
	return Mix([]float64{1 - share, share}, []Pigment{p, white})
}
