package paint

import (
	"math"

	"cinderpath/core/colour"
)

// Film is the thickness of a dry film, µm.
type Film float64

// Hiding is how well a paint covers: the contrast ratio of 15 µm of it over black and white.
type Hiding float64

// The words for hiding, by the contrast ratio that stands for each.
const (
	Glaze Hiding = 0.6
	Thin  Hiding = 0.75
	Fair  Hiding = 0.85
	Good  Hiding = 0.93
	Full  Hiding = 0.97
	Black Hiding = 0.995
)

// What hiding is measured on.
const (
	hidingFilm Film    = 15
	overBlack  float64 = 0.01
	overWhite  float64 = 0.80
)

// Paint is what is known of a paint from looking at it.
type Paint struct {
	Swatch colour.RGB
	Sheen  colour.Sheen // with which the swatch is seen
	Hiding Hiding
	Solids float64 // by volume, 0 to 1
}

// Pigment is what a paint does to light.
type Pigment struct {
	S      float64 // scattered for each µm
	K      colour.Bands
	Solids float64
}

// solved finds a paint's two constants: their ratio from the colour of a thick coat, and
// how strong they are from its hiding, by halving.
func (p Paint) solved() Pigment {
	r := colour.Spectrum(p.Swatch, p.Sheen).Internal
	ratio := colour.Bands{}
	for i, v := range r {
		ratio[i] = (1 - v) * (1 - v) / (2 * v)
	}
	at := func(s float64) Pigment {
		q := Pigment{S: s, Solids: p.Solids}
		for i, v := range ratio {
			q.K[i] = v * s
		}
		return q
	}
	low, high := math.Log(1e-6), math.Log(1e3)
	for range 200 {
		middle := (low + high) / 2
		if middle == low || middle == high {
			break
		}
		if at(math.Exp(middle)).Opacity(hidingFilm) < float64(p.Hiding) {
			low = middle
		} else {
			high = middle
		}
	}
	return at(math.Exp((low + high) / 2))
}

// Mix is a mixture by volumes of unthinned paint.
func Mix(parts []float64, paints []Pigment) (out Pigment) {
	solid, all := 0.0, 0.0
	for i, p := range paints {
		solid += parts[i] * p.Solids
		all += parts[i]
	}
	for i, p := range paints {
		c := parts[i] * p.Solids / solid
		out.S += c * p.S
		for k := range out.K {
			out.K[k] += c * p.K[k]
		}
	}
	out.Solids = solid / all
	return out
}

// Over gives the coefficients by which a film turns a ground R into (p + q R) / (1 − r R),
// in one band.
func (p Pigment) Over(x Film, band int) (a, b, c float64) {
	// Forms with hyperbolic functions of S alone overflow or fail where X, S or K is 0.
	s, k := p.S, p.K[band]
	sum, root := s+k, math.Sqrt(k*(k+2*s))
	u := float64(x)
	if root > 0 {
		u = math.Tanh(root*u) / root
	}
	d := 1 + sum*u
	return s * u / d, (1 - sum*u) / d, s * u / d
}

// Film is what a film over a ground reflects, both below the skin.
func (p Pigment) Film(x Film, ground colour.Bands) (out colour.Bands) {
	for i, r := range ground {
		a, b, c := p.Over(x, i)
		out[i] = (a + b*r) / (1 - c*r)
	}
	return out
}

// Infinite is what a film reflects that is thick enough to hide all below.
func (p Pigment) Infinite() (out colour.Bands) {
	for i, k := range p.K {
		if p.S > 0 {
			out[i] = p.S / (p.S + k + math.Sqrt(k*(k+2*p.S)))
		}
	}
	return out
}

// Opacity is the contrast ratio of a film over black and white.
func (p Pigment) Opacity(x Film) float64 {
	black := p.Film(x, colour.Even(overBlack)).XYZ()
	light := p.Film(x, colour.Even(overWhite)).XYZ()
	return black[1] / light[1]
}

// Thinned is the dry film of one pass of paint with so many parts of thinner to one.
func Thinned(x Film, thinner float64) Film { return x / Film(1+thinner) }
