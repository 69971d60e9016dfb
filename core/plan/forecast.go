package plan

import (
	"fmt"

	"cinderpath/core/colour"
	"cinderpath/core/document"
	"cinderpath/core/look"
	"cinderpath/core/measure"
	"cinderpath/core/order"
	"cinderpath/core/paint"
	"cinderpath/core/strata"
)

// Forecast is how something will look, told in the step.
type Forecast struct {
	Words string      `json:"words"`
	From  string      `json:"from,omitempty"` // swatch before
	To    string      `json:"to,omitempty"`   // swatch after
	Why   measure.Why `json:"why"`
}

// column is what lies on a surface while layers go on, painted parts only.
type column struct {
	build document.Build
	inner colour.Bands // below the skin
	skin  colour.Sheen
	base  paint.Pigment // of the first colour
}

// plasticInner is the bare surface.
func plasticInner() colour.Bands {
	return colour.Spectrum(look.Plastic, colour.Satin).Internal
}

// forecasts tells of each layer that goes all over what it makes of the surface below it.
func forecasts(b document.Build) map[string][]Forecast {
	out := map[string][]Forecast{}
	c := column{build: b, inner: plasticInner(), skin: colour.Satin}
	for _, l := range b.Layers {
		switch {
		case l.Kind == strata.Prime || l.Kind == strata.Colour && len(l.Zones) == 0:
			out[l.ID] = c.coats(l)
		case l.Kind == strata.Clear:
			out[l.ID] = c.clear(l)
		}
	}
	return out
}

// coats lays a paint and tells how many coats of it cover.
func (c *column) coats(l strata.Layer) []Forecast {
	p, film, ok := order.MaterialOf(c.build, l)
	if !ok {
		return nil
	}
	pigment := p.Pigment()
	skin := l.Finish()
	over := paint.Seen(skin)
	n, covers := pigment.Coats(film, c.inner, skin)
	after := pigment.Film(film*paint.Film(l.Coats), c.inner)
	rest := colour.Difference(over.Lab(after), over.Lab(pigment.Infinite()))
	words := fmt.Sprintf("%d %s cover the ground", n, plural(n, "coat", "coats"))
	if !covers {
		words = fmt.Sprintf("it does not cover in %d coats", paint.MostCoats)
	}
	words += fmt.Sprintf("; after %d the ground shows by ΔE00 %.1f, %s", l.Coats, rest, paint.Words(rest))
	f := Forecast{
		Words: words, From: hexOf(paint.Seen(c.skin), c.inner), To: hexOf(over, after),
		Why: measure.Because("Kubelka–Munk over the real ground, until ΔE00 to a film that hides all is below 1", []string{
			fmt.Sprintf("%s, contrast ratio %.3g", p.Swatch.Hex(), float64(p.Hiding)),
			fmt.Sprintf("%.1f µm of dry film a coat, over %s", float64(film), hexOf(paint.Seen(c.skin), c.inner)),
		}),
	}
	c.inner, c.skin, c.base = after, skin, pigment
	return []Forecast{f}
}

// clear changes the skin alone: gloss darkens and enriches, matt lightens.
func (c *column) clear(l strata.Layer) []Forecast {
	before, after := paint.Seen(c.skin), paint.Seen(l.Finish())
	d := colour.Difference(before.Lab(c.inner), after.Lab(c.inner))
	from, to := before.Lab(c.inner)[0], after.Lab(c.inner)[0]
	was := c.skin
	c.skin = l.Finish()
	if was == c.skin {
		return nil
	}
	how := "lighter"
	if to < from {
		how = "darker"
	}
	return []Forecast{{
		Words: fmt.Sprintf("%s over %s: the colour looks %s by ΔE00 %.1f, %s", c.skin, was, how, d, paint.Words(d)),
		From:  hexOf(before, c.inner), To: hexOf(after, c.inner),
		Why: measure.Because("the skin of the binder (Saunderson), matt scatters 0.8 % of the light, satin 0.4 %",
			[]string{fmt.Sprintf("L %.1f before, %.1f after", from, to)}),
	}}
}

func hexOf(o paint.Over, inner colour.Bands) string {
	c, _ := o.Of(inner).XYZ().RGB()
	return c.Hex()
}

// Above is what is planned over the first colour of a build's scheme on an upright face of hull
// or turret, from below: clear coats, and films as half of such faces have them at least.
func (d *Deriver) Above(w document.Workshop, b document.Build) ([]paint.Above, error) {
	b = w.Filled(b)
	shape, err := d.shaped(b, w)
	if err != nil {
		return nil, err
	}
	out := []paint.Above{}
	coloured := false
	for _, l := range b.Layers {
		if l.IsScheme() {
			out, coloured = out[:0], true
			continue
		}
		if !coloured || !l.Covers("hull.side.left") && !l.Covers("turret.left") {
			continue
		}
		sheen := l.Effect().Sheen
		m, ok := l.Material()
		switch l.Kind {
		case strata.Clear, strata.Fix:
			out = append(out, paint.Above{Name: l.Name, Sheen: sheen})
		case strata.Filter, strata.Wash, strata.Dust, strata.Pigment, strata.Dots, strata.Streaks, strata.Rust:
			film := l.EvenFilm()
			if s, uneven := shape.from.spreads[l.ID]; uneven {
				film = s.typical
			}
			if ok && film > 0 {
				out = append(out, paint.Above{
					Name: l.Name, Hex: m.Swatch.Hex(), Ratio: float64(m.Hiding), Film: film, Loose: l.Effect().Loose, Sheen: sheen,
				})
			}
		}
	}
	return out, nil
}
