package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"cinderpath/core/colour"
	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/order"
	"cinderpath/core/paint"
	"cinderpath/core/rule"
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
	return colour.Spectrum(colour.Of("#9a9b9c"), colour.Satin).Internal
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

// mostCovering is how many coats may be needed before detail suffers (P12).
const mostCovering = 4

// paintRuling holds a build with its jars to P2, P8, P11 and P12, on a day.
type paintRuling struct {
	build  document.Build
	shop   document.Workshop
	day    string
	open   func(strata.Layer) bool                       // it is still to be laid
	wanted func(l strata.Layer, colour int) (ml float64) // of its jar
}

func (r paintRuling) findings() (out []strata.Finding) {
	b, w, day, asked := r.build, r.shop, r.day, r.open
	inner := plasticInner()
	beneath, primer := inner, -1
	for i, l := range b.Layers {
		p, film, ok := order.MaterialOf(b, l)
		first := l.Kind == strata.Colour && len(l.Zones) == 0 && primer >= 0
		if first && ok && asked(l) {
			if f, found := covering(b, w, primer, l, p.Pigment(), film, [2]colour.Bands{beneath, inner}, day); found {
				out = append(out, f)
			}
			if f, found := undertone(b, l, p.Pigment(), film, inner); found {
				out = append(out, f)
			}
		}
		if first {
			primer = -1
		}
		if ok && (l.Kind == strata.Prime || l.Kind == strata.Colour) && len(l.Zones) == 0 {
			beneath = inner
			inner = p.Pigment().Film(film*paint.Film(l.Coats), inner)
			if l.Kind == strata.Prime {
				primer = i
			}
		}
		if l.IsScheme() && asked(l) {
			if f, found := edges(b, w, l); found {
				out = append(out, f)
			}
		}
		if asked(l) {
			out = append(out, r.jars(l)...)
		}
	}
	return out
}

// covering is P12, of the grounds below and above the primer: one so far from the first colour that too many coats are needed.
func covering(
	b document.Build,
	w document.Workshop,
	primer int,
	l strata.Layer,
	p paint.Pigment,
	film paint.Film,
	grounds [2]colour.Bands,
	day string,
) (strata.Finding, bool) {
	n, covers := p.Coats(film, grounds[1], l.Finish())
	below := b.Layers[primer]
	if covers && n <= mostCovering || l.MeansRule("P12") {
		return strata.Finding{}, false
	}
	f := strata.Finding{
		ID:       "P12:" + l.ID,
		Rule:     "P12",
		Severity: rule.Warn,
		Layer:    l.ID,
		Below:    below.ID,
		Zones:    []string{},
		Title:    fmt.Sprintf("%s wants %d coats over %s", l.Name, n, strings.ToLower(below.Name)),
		Reason: fmt.Sprintf(
			"The ground is so far from the colour that %d coats are needed until it is not seen; more than %d soften the detail.",
			n,
			mostCovering,
		),
		Mends: []strata.Mend{},
	}
	// Another ground that the shelf has.
	for _, j := range w.Paint.Jars {
		jp, ok := j.Paint()
		if !ok || j.Family != below.Family || j.ID == below.Jar || !j.There(day) {
			continue
		}
		lies := paint.Film(below.EvenFilm())
		other, ok := p.Coats(film, jp.Pigment().Film(lies, grounds[0]), l.Finish())
		if !ok || other >= n {
			continue
		}
		change := below
		change.Jar, change.Hex = j.ID, j.Hex
		f.Mends = append(f.Mends, strata.Mend{
			ID:    "ground." + j.ID,
			Label: fmt.Sprintf("Prime with %s: %d %s cover then", j.Said(), other, plural(other, "coat", "coats")),
			Edits: []strata.Edit{{Op: "change", Layer: &change}},
		})
	}
	// A ground of nearly the colour itself covers in one.
	tint := below
	tint.Jar, tint.Hex = "", hexOf(paint.Seen(colour.Matt), p.Infinite())
	f.Mends = append(f.Mends, strata.Mend{
		ID: "tint", Label: "Tint the ground towards the colour", Edits: []strata.Edit{{Op: "change", Layer: &tint}},
	})
	return f, true
}

// undertone is P2: shading that the coats of colour bury.
func undertone(
	b document.Build,
	l strata.Layer,
	p paint.Pigment,
	film paint.Film,
	ground colour.Bands,
) (strata.Finding, bool) {
	if b.School(document.SchoolUndertone) == document.NoUndertone || order.WhereItShows(b) || l.Applied != strata.Misted ||
		l.MeansRule("P2") {
		return strata.Finding{}, false
	}
	shows := func(coats int) float64 { return order.ShadingShows(l, p, film, coats, ground) }
	d := shows(l.Coats)
	if d >= order.Buried {
		return strata.Finding{}, false
	}
	f := strata.Finding{
		ID: "P2:" + l.ID, Rule: "P2", Severity: rule.Warn, Layer: l.ID, Zones: []string{},
		Title: fmt.Sprintf("%s buries the shading below it", l.Name),
		Reason: fmt.Sprintf("After %d %s the shading makes ΔE00 %.1f: %s.",
			l.Coats, plural(l.Coats, "coat", "coats"), d, paint.Words(d)),
		Mends: []strata.Mend{},
	}
	for n := l.Coats - 1; n >= 1; n-- {
		if shows(n) >= order.Buried {
			fewer := l
			fewer.Coats = n
			f.Mends = append(f.Mends, strata.Mend{
				ID: "fewer", Label: fmt.Sprintf("Spray %d %s: it shows by ΔE00 %.1f then", n, plural(n, "coat", "coats"), shows(n)),
				Edits: []strata.Edit{{Op: "change", Layer: &fewer}},
			})
			break
		}
	}
	meant := l
	meant.Meant = append(append([]string{}, l.Meant...), "P2")
	f.Mends = append(
		f.Mends,
		strata.Mend{
			ID:    "meant",
			Label: "Shade afterwards instead; mark as meant",
			Edits: []strata.Edit{{Op: "change", Layer: &meant}},
		},
	)
	return f, true
}

// edges is P8: a soft edge finer than any of the airbrushes holds.
func edges(b document.Build, w document.Workshop, l strata.Layer) (strata.Finding, bool) {
	soft := b.Scheme.Feather / float64(b.Scale)
	if len(w.Airbrushes) == 0 || len(b.Scheme.Colours) < 2 || l.Applied != strata.Misted || soft <= 0 ||
		l.MeansRule("P8") {
		return strata.Finding{}, false
	}
	finest := w.Airbrushes[0]
	for _, a := range w.Airbrushes {
		if a.Nozzle < finest.Nozzle {
			finest = a
		}
	}
	holds := paint.FinestEdge(finest.Nozzle)
	if soft >= holds {
		return strata.Finding{}, false
	}
	hard, wider := 0.0, math.Ceil(holds*float64(b.Scale))
	meant := l
	meant.Meant = append(slices.Clone(l.Meant), "P8")
	return strata.Finding{
		ID:       "P8:" + l.ID,
		Rule:     "P8",
		Severity: rule.Warn,
		Layer:    l.ID,
		Zones:    []string{},
		Title:    "The soft edge is finer than the airbrush holds",
		Reason: fmt.Sprintf(
			"It is %.1f mm wide on the model; the %s (%.2g mm) holds a line of %.1f mm and a soft edge of %.1f mm.",
			soft,
			finest.Name,
			finest.Nozzle,
			paint.FinestLine(finest.Nozzle),
			holds,
		),
		Mends: []strata.Mend{
			{ID: "mask", Label: "Mask it: a hard edge", Edits: []strata.Edit{}, Edge: &hard},
			{ID: "wider", Label: fmt.Sprintf("Make it %.0f mm wide at full size", wider), Edits: []strata.Edit{}, Edge: &wider},
			{ID: "meant", Label: "Mark as meant", Edits: []strata.Edit{{Op: "change", Layer: &meant}}},
		},
	}, true
}

// jars is P11: what is wrong with the jar that a layer names.
func (r paintRuling) jars(l strata.Layer) (out []strata.Finding) {
	b, w, day := r.build, r.shop, r.day
	jars := []struct {
		colour int
		id     string
		name   string
	}{{0, l.Jar, l.Name}}
	if l.IsScheme() {
		jars = jars[:0]
		for i, c := range b.Scheme.Colours {
			jars = append(jars, struct {
				colour int
				id     string
				name   string
			}{i + 1, c.Jar, l.Name + ", " + c.Name})
		}
	}
	for _, named := range jars {
		j, ok := w.Paint.Jar(named.id)
		if !ok || l.MeansRule("P11") {
			continue
		}
		why, short := "", 0.0
		wanted := r.wanted(l, named.colour)
		switch {
		case j.State == paint.Empty || j.Left <= 0 && j.State != paint.Ordered:
			why = "it is empty"
		case j.Past(day):
			why = "it is past its date: a trial on scrap first"
		case j.State == paint.HalfDry:
			why = "it is half dry: thin and strain it, or it spits"
		case j.Unstirred(day):
			why = "it was not stirred for half a year: what hides lies at the bottom"
		case wanted > j.Left+1e-9:
			short = wanted
			why = fmt.Sprintf(
				"%.1f ml are left, and %.1f ml are wanted: another jar, a mix that comes close, or an order", j.Left, wanted)
		}
		if why == "" {
			continue
		}
		f := strata.Finding{
			ID:       fmt.Sprintf("P11:%s:%d", l.ID, named.colour),
			Rule:     "P11",
			Severity: rule.Warn,
			Layer:    l.ID,
			Zones:    []string{},
			Title: fmt.Sprintf(
				"%s: look at %s",
				named.name,
				j.Said(),
			),
			Reason: "Of this jar " + why + ".",
			Mends:  []strata.Mend{},
		}
		for _, like := range standIns(w, Buy{Pot: j.ID, Family: j.Family, Hex: j.Hex, Short: short}, day) {
			if o, isJar := w.Paint.Jar(like.Pot); isJar && (o.Past(day) || o.State == paint.HalfDry) {
				continue
			}
			label := "Use " + like.Name + " instead"
			if like.Hex != "" {
				label += fmt.Sprintf(" (ΔE00 %.1f)", like.Difference)
			}
			f.Mends = append(f.Mends, inJar(l, named.colour, like.Pot, label))
		}
		meant := l
		meant.Meant = append(append([]string{}, l.Meant...), "P11")
		f.Mends = append(
			f.Mends,
			strata.Mend{
				ID:    "meant",
				Label: "I looked at it; mark as meant",
				Edits: []strata.Edit{{Op: "change", Layer: &meant}},
			},
		)
		out = append(out, f)
	}
	return out
}

// inJar is the mend that lays a layer, or a colour of it, from another pot.
func inJar(l strata.Layer, colour int, pot, label string) strata.Mend {
	m := strata.Mend{ID: "jar." + pot, Label: label, Edits: []strata.Edit{}}
	if colour > 0 {
		m.Colour, m.Jar = colour, pot
		return m
	}
	change := l
	change.Jar = pot
	m.Edits = []strata.Edit{{Op: "change", Layer: &change}}
	return m
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
