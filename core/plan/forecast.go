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
		case l.Kind.About().Wet:
			out[l.ID] = c.wet(l)
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

// told is the least difference between wet and dry that is worth a word, ΔE00.
const told = 1.0

// wet tells how what is worked wet looks while it is, where it lies: liquid lies on it like gloss. What
// it dries to decides.
func (c *column) wet(l strata.Layer) []Forecast {
	p, ok := l.Material()
	f, known := paint.FamilyOf(l.Family)
	if !ok || !known || f.Touch <= 0 {
		return nil
	}
	film := paint.Film(l.EvenFilm())
	after := p.Pigment().Film(film, c.inner)
	dried, liquid := paint.Seen(l.Finish()), paint.Seen(colour.Gloss)
	d := colour.Difference(liquid.Lab(after), dried.Lab(after))
	from, to := liquid.Lab(after)[0], dried.Lab(after)[0]
	if d < told || to <= from {
		return nil
	}
	return []Forecast{
		{
			Words: fmt.Sprintf(
				"while it is wet it looks darker by ΔE00 %.1f, %s, than it dries: judge it after %s",
				d, paint.Words(d), f.Touch.About(),
			),
			From: hexOf(liquid, after),
			To:   hexOf(dried, after),
			Why: measure.Because(
				"wet it is seen through gloss, dry through the skin that its binder leaves (Saunderson)",
				[]string{
					fmt.Sprintf("%.1f µm of dry film where it lies", float64(film)),
					fmt.Sprintf("L %.1f wet, %.1f dry", from, to),
				},
			),
		},
	}
}

// byRule is the answer that lightens for scale by the rule of the handbook.
const byRule = "by rule, with a test piece"

// white is that of the lightening: the whitest that is common.
var white = paint.Paint{Swatch: colour.RGB{0xf4, 0xf4, 0xf0}, Sheen: colour.Matt, Hiding: paint.Good, Solids: 0.3}

// lightened tells of each colour of a scheme how it is mixed lighter for the scale, where that is one's
// school: what the test piece is held against.
func lightened(b document.Build, l strata.Layer) (out []Forecast) {
	if !l.IsScheme() || b.School(document.SchoolTest) != byRule {
		return nil
	}
	share := paint.WhiteShare(paint.UsualLightening, float64(b.Scale))
	over := paint.Seen(l.Finish())
	for _, c := range b.Scheme.Colours {
		p := paint.Paint{Swatch: colour.Of(c.Hex), Sheen: colour.Matt, Hiding: paint.Good, Solids: 0.3}
		if c.Pot.Seen {
			p = c.Pot.Paint
		}
		from, to := p.Pigment(), paint.Lightened(p.Pigment(), white.Pigment(), share)
		d := colour.Difference(over.Lab(from.Infinite()), over.Lab(to.Infinite()))
		out = append(out, Forecast{
			Words: fmt.Sprintf("%s, lightened for %s by %.0f %% of white: ΔE00 %.1f", c.Name, b.Scale, 100*share, d),
			From:  hexOf(over, from.Infinite()), To: hexOf(over, to.Infinite()),
			Why: measure.Because("share of white at 1:35 · √(n / 35), a quarter at most", []string{
				fmt.Sprintf("%.0f %% at 1:35, n = %g", 100*paint.UsualLightening, float64(b.Scale)),
			}),
		})
	}
	return out
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
