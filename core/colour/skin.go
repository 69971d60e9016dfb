package colour

// Sheen is how a dry surface throws light back at its skin.
type Sheen string

// The sheens. Loose powder has no binder and no skin.
const (
	Gloss Sheen = "gloss"
	Satin Sheen = "satin"
	Matt  Sheen = "matt"
	Loose Sheen = "none"
)

// Saunderson's coefficients of the skin of a binder.
const (
	outside = 0.04 // of the light from outside that the skin throws back
	within  = 0.6  // of the light from below that it throws back
)

// Haze is the part of the light that a rough skin scatters into the eye.
func (s Sheen) Haze() float64 {
	switch s {
	case Satin:
		return 0.004
	case Matt:
		return 0.008
	}
	return 0
}

// Skin gives the coefficients by which a reflectance R below the skin is seen as
// a + b R / (1 − c R).
func (s Sheen) Skin() (a, b, c float64) {
	if s == Loose {
		return 0, 1, 0
	}
	return s.Haze(), (1 - outside) * (1 - within), within
}

// Seen is how a reflectance below the skin is seen.
func (s Sheen) Seen(inner Bands) (out Bands) {
	a, b, c := s.Skin()
	for i, r := range inner {
		out[i] = a + b*r/(1-c*r)
	}
	return out
}

// within is the reflectance below the skin of what is seen; outside 0 to 1 where the skin
// alone throws back more.
func (s Sheen) within(seen Bands) (out Bands) {
	a, b, c := s.Skin()
	for i, r := range seen {
		out[i] = (r - a) / (b + c*(r-a))
	}
	return out
}
