package plan

import (
	"cinderpath/core/colour"
	"cinderpath/core/document"
	"cinderpath/core/order"
	"cinderpath/core/paint"
	"cinderpath/core/rule"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
	"fmt"
	"math"
	"strings"
)

// mostCovering is how many coats may be needed before detail suffers (P12).
const mostCovering = 4

// paintRuling holds a build with its jars to P2, P6, P8, P9, P11 and P12, on a day.
type paintRuling struct {
	build  document.Build
	shop   document.Workshop
	day    string
	holds  []scheme.Hold
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
			out = append(out, r.edges(l)...)
		}
		if asked(l) {
			out = append(out, r.jars(l)...)
		}
	}
	return out
}

// covering is P12, of the grounds below and above the primer: one so far from the first colour
// that too many coats are needed.
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
			"The ground is so far from the colour that %d coats are needed to hide it; more than %d soften the detail.",
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
	under, own := order.Shaded(b, l)
	asked := b.School(document.SchoolUndertone) != document.NoUndertone && !order.WhereItShows(b)
	if !own && !asked || l.Applied != strata.Misted || l.MeansRule("P2") {
		return strata.Finding{}, false
	}
	shows := func(coats int) float64 {
		if own {
			return order.LayerShows(under, l, p, film, coats, ground)
		}
		return order.ShadingShows(l, p, film, coats, ground)
	}
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
				ID: "fewer", Label: fmt.Sprintf(
					"Spray %d %s: it shows by ΔE00 %.1f then", n, plural(n, "coat", "coats"), shows(n)),
				Edits: []strata.Edit{{Op: "change", Layer: &fewer}},
			})
			break
		}
	}
	f.Mends = append(f.Mends, l.AsMeant("P2", "Shade afterwards instead; mark as meant"))
	return f, true
}

// edges is P8: colours that are finer somewhere than any of the airbrushes holds, and P6: dark ones
// that are sprayed before light ones.
func (r paintRuling) edges(l strata.Layer) (out []strata.Finding) {
	b := r.build
	if len(b.Scheme.Colours) < 2 || l.Applied != strata.Misted {
		return nil
	}
	holds := paint.FinestEdge(finest(r.shop).Nozzle)
	for c := 1; c < len(b.Scheme.Colours) && !l.MeansRule("P8"); c++ {
		var narrow []string
		for _, h := range r.holds {
			if h.Colour == c+1 && h.Narrow != "" {
				narrow = append(narrow, h.Narrow)
			}
		}
		if len(narrow) == 0 {
			continue
		}
		set := b.Scheme.Set(c)
		hard, wider := 0.0, math.Ceil(holds*float64(b.Scale))
		f := strata.Finding{
			ID: fmt.Sprintf("P8:%s:%d", l.ID, c+1), Rule: "P8", Severity: rule.Warn, Layer: l.ID, Zones: []string{},
			Title:  set.Name + " is finer than the airbrush holds",
			Reason: narrow[0] + ".",
			Mends: []strata.Mend{
				{ID: "mask", Label: "Mask it: a hard edge", Edits: []strata.Edit{}, Edge: &hard, Colour: c + 1},
			},
		}
		if n := len(narrow) - 1; n > 0 {
			f.Reason += fmt.Sprintf(" So it is in %d more %s.", n, plural(n, "part", "parts"))
		}
		if *set.Feather < wider && wider < set.Width {
			f.Mends = append(f.Mends, strata.Mend{
				ID: "wider", Label: fmt.Sprintf("Make its edge %.0f mm wide at full size", wider),
				Edits: []strata.Edit{}, Edge: &wider, Colour: c + 1,
			})
		}
		f.Mends = append(f.Mends, l.AsMeant("P8", "Mark as meant"))
		out = append(out, f)
	}
	if order, same := b.Scheme.LightFirst(); !same && !b.Scheme.Mist && !l.MeansRule("P6") {
		first, later := b.Scheme.Colours[order[0]].Name, ""
		for at, c := range order {
			if at != c {
				first = b.Scheme.Colours[c].Name
				later = b.Scheme.Colours[at].Name
				break
			}
		}
		out = append(out, strata.Finding{
			ID: "P6:" + l.ID, Rule: "P6", Severity: rule.Hint, Layer: l.ID, Zones: []string{},
			Title: fmt.Sprintf("%s is sprayed over %s, which is darker", first, later),
			Reason: "Light paint over dark takes more coats, and what goes astray shows. " +
				"Light before dark, or a mist of the first colour over all at the end.",
			Mends: []strata.Mend{
				{ID: "light", Label: "Spray light colours first", Edits: []strata.Edit{}, Order: order},
				{ID: "mist", Label: "Close with a mist of " + b.Scheme.Colours[0].Name, Edits: []strata.Edit{}, Mist: true},
				l.AsMeant("P6", "Mark as meant"),
			},
		})
	}
	return out
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
		if m, ok := w.Paint.Mix(named.id); ok && !l.MeansRule("P9") {
			if isEarth(l) {
				continue // W21 speaks of it
			}
			if f, found := r.mixed(l, named.colour, named.name, m); found {
				out = append(out, f)
			}
			continue
		}
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
		f.Mends = append(f.Mends, l.AsMeant("P11", "I looked at it; mark as meant"))
		out = append(out, f)
	}
	return out
}

// mixed is P9: of a mix there is less than all its surfaces take and a third for touch-ups.
func (r paintRuling) mixed(l strata.Layer, colour int, name string, m paint.Mixture) (strata.Finding, bool) {
	wanted := r.wanted(l, colour)
	if m.Left+1e-9 >= wanted*(1+touchUps) {
		return strata.Finding{}, false
	}
	f := strata.Finding{
		ID:       fmt.Sprintf("P9:%s:%d", l.ID, colour),
		Rule:     "P9",
		Severity: rule.Hint,
		Layer:    l.ID,
		Zones:    []string{},
		Title:    fmt.Sprintf("%s: mix more of %s first", name, m.Name),
		Reason: fmt.Sprintf(
			"%.1f ml are kept; its surfaces take %.1f ml, and a third more is kept for touch-ups: mixed in one "+
				"go it is one shade.",
			m.Left,
			wanted,
		),
		Mends: []strata.Mend{},
	}
	if m.Left+1e-9 < wanted {
		f.Severity = rule.Warn
	}
	for _, like := range standIns(r.shop, Buy{Pot: m.ID, Family: l.Family, Hex: m.Hex, Short: wanted}, r.day) {
		f.Mends = append(
			f.Mends,
			inJar(l, colour, like.Pot, fmt.Sprintf("Use %s instead (ΔE00 %.1f)", like.Name, like.Difference)),
		)
	}
	f.Mends = append(f.Mends, l.AsMeant("P9", "I mix more at the bench; mark as meant"))
	return f, true
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
