package order

import (
	"fmt"

	"cinderpath/core/colour"
	"cinderpath/core/document"
	"cinderpath/core/paint"
	"cinderpath/core/strata"
)

// Buried is the difference, ΔE00, below which shading under the colour is not seen (P2).
const Buried = 2.0

// The mottle below the first colour: near black, by a film that just shows.
const (
	shadeSwatch            = "#2a2a2b"
	shadeFilm   paint.Film = 4
)

// MaterialOf is what a layer, or the first colour of a scheme, is made of, and its dry film of
// one coat; ok is false where nothing of it is seen.
func MaterialOf(b document.Build, l strata.Layer) (p paint.Paint, film paint.Film, ok bool) {
	if l.IsScheme() {
		l.Hex, l.Pot = b.Scheme.Colours[0].Hex, b.Scheme.Colours[0].Pot
	}
	p, ok = l.Material()
	return p, paint.Film(l.EvenFilm()) / paint.Film(max(l.Coats, 1)), ok
}

// ShadingShows is by how much shading below a colour is seen through so many coats of it over
// a ground, ΔE00.
func ShadingShows(l strata.Layer, p paint.Pigment, film paint.Film, coats int, ground colour.Bands) float64 {
	dark := paint.Paint{Swatch: colour.Of(shadeSwatch), Sheen: colour.Matt, Hiding: paint.Full, Solids: 0.3}.Pigment()
	return shows(l, p, film*paint.Film(coats), ground, dark.Film(shadeFilm, ground))
}

// LayerShows is the same of shading that is a layer of its own.
func LayerShows(
	under, l strata.Layer, p paint.Pigment, film paint.Film, coats int, ground colour.Bands,
) float64 {
	material, ok := under.Material()
	if !ok {
		return 0
	}
	shaded := material.Pigment().Film(paint.Film(under.EvenFilm()), ground)
	return shows(l, p, film*paint.Film(coats), ground, shaded)
}

// shows is the difference that a ground makes below a film, beside another one.
func shows(l strata.Layer, p paint.Pigment, film paint.Film, ground, shaded colour.Bands) float64 {
	over := paint.Seen(l.Finish())
	return colour.Difference(over.Lab(p.Film(film, shaded)), over.Lab(p.Film(film, ground)))
}

// Shaded is the nearest layer of shading below a layer of a build, if there is one.
func Shaded(b document.Build, over strata.Layer) (l strata.Layer, ok bool) {
	for _, x := range b.Layers {
		if x.ID == over.ID {
			break
		}
		if x.Kind == strata.Undertone {
			l, ok = x, true
		}
	}
	return l, ok
}

// WhereItShows tells of a build whose school shades only where the colour is thin enough to let
// it show, as most do.
func WhereItShows(b document.Build) bool {
	return b.School(document.SchoolUndertone) == (document.Build{}).School(document.SchoolUndertone)
}

// undertones are the ways of shading below the colour besides dark recesses with a light mottle: what is
// done, and how many times as long it takes, starting values.
var undertones = map[string]struct {
	title string
	times float64
}{
	document.BlackMottle: {"Black all over, a light mottle on it", 1.5},
	document.FromAbove:   {"A light mist from above, as light falls", 0.6},
	document.OwnShade:    {"A darker shade of the colour all over", 0.8},
}

// undertoned names a step of shading as one's school has it.
func (o *orderer) undertoned(id string) {
	answer := o.b.School(document.SchoolUndertone)
	if how, ok := undertones[answer]; ok {
		o.task(id).Title = how.title
		o.longer(id, how.times, answer+fmt.Sprintf(": %g times as long, a starting value", how.times))
	}
}

// shaded tells whether shading goes under a colour.
func (o *orderer) shaded(primer, l strata.Layer) bool {
	if _, own := Shaded(o.b, l); own {
		return false // it is a layer of its own
	}
	if !WhereItShows(o.b) {
		answer := o.b.School(document.SchoolUndertone)
		return answer != document.NoUndertone && answer != document.TintingPrimer // the primer does it
	}
	if _, begun := o.done["shade:under:1"]; begun {
		return true
	}
	p, film, ok := MaterialOf(o.b, l)
	ground, known := primer.Material()
	return !ok || !known || ShadingShows(l, p.Pigment(), film, l.Coats, ground.Pigment().Infinite()) >= Buried
}
