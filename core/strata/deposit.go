package strata

import (
	"hash/fnv"
	"math"

	"cinderpath/core/colour"
	"cinderpath/core/form"
	"cinderpath/core/paint"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// Steps is into how many steps the thickness of a film is sorted: few enough to be looked
// up, many enough not to be seen.
const Steps = 127

// Deposit is what a layer leaves on the texels of a surface.
type Deposit struct {
	Full   paint.Film // the thickest
	Film   []uint8    // by texel of the grid: in Steps of the thickest, 0 for nothing
	Panels []int      // on which there is any
}

// opaque is a film that hides what is below: of chips, mud and the like, µm.
const opaque paint.Film = 40

// Deposit lays a layer on a surface; nothing where nothing of it is seen.
func (l Layer) Deposit(g *form.Grid) Deposit {
	about := l.Kind.About()
	if about.land == nil {
		return Deposit{}
	}
	var panels []int
	for i, t := range g.Texels {
		if l.Covers(t.Zone) && (!l.IsScheme() || !zone.Bare(t.Zone)) {
			panels = append(panels, i)
		}
	}
	lands := make([]float32, g.Count)
	seed := l.seed()
	form.Each(len(panels), func(n int) {
		t := g.Texels[panels[n]]
		about.land.On(t, seed^side(t.Zone), lands[t.First:t.First+len(t.Area)])
	})
	if about.share > 0 {
		return shared(g, panels, lands, about.share, l.film(about))
	}
	return filmed(g, panels, lands, l.film(about))
}

// seed is the layer's own chance: another layer of the kind lands otherwise.
func (l Layer) seed() uint64 {
	h := fnv.New64a()
	_, _ = h.Write([]byte(l.ID)) // never fails
	return h.Sum64()
}

// side makes left and right no mirror images.
func side(name string) uint64 {
	switch {
	case zone.Mirrored(name) == name:
		return 0
	case zone.Mirrored(name) < name:
		return 0x51ed27
	}
	return 0xa24baed4
}

// film is the mean dry film of a layer where it lands.
func (l Layer) film(about About) paint.Film {
	f := familyOf(l.Family)
	film := about.film
	switch {
	case l.DepthMM > 0:
		return paint.Film(l.DepthMM * 1000)
	case film > 0:
	case about.share > 0:
		return opaque
	case l.Applied == Misted:
		film = paint.Film(f.FilmSpray)
	default:
		film = paint.Film(f.FilmBrush)
	}
	return film * paint.Film(l.Coats)
}

// filmed spreads a film: its mean where it lands, weighted by where it lands, is the amount.
func filmed(g *form.Grid, panels []int, lands []float32, amount paint.Film) Deposit {
	sum, square, most := 0.0, 0.0, 0.0
	for _, i := range panels {
		t := g.Texels[i]
		for k, a := range t.Area {
			v := float64(lands[t.First+k])
			sum += float64(a) * v
			square += float64(a) * v * v
			most = max(most, v)
		}
	}
	if square == 0 {
		return Deposit{}
	}
	d := Deposit{Full: amount * paint.Film(most*sum/square), Film: make([]uint8, g.Count), Panels: panels}
	k := float32(Steps / most)
	form.Each(len(panels), func(n int) {
		t := g.Texels[panels[n]]
		for at := t.First; at < t.First+len(t.Area); at++ {
			d.Film[at] = uint8(lands[at]*k + 0.5)
		}
	})
	return d
}

// shared covers a part of its zones, where it lands most, with a full film.
func shared(g *form.Grid, panels []int, lands []float32, share unit.Share, film paint.Film) Deposit {
	area := 0.0
	for _, i := range panels {
		for _, a := range g.Texels[i].Area {
			area += float64(a)
		}
	}
	d := Deposit{Full: film, Film: make([]uint8, g.Count), Panels: panels}
	level := max(g.Threshold(panels, lands, nil, share.Of(area)), 0)
	form.Each(len(panels), func(n int) {
		t := g.Texels[panels[n]]
		for at := t.First; at < t.First+len(t.Area); at++ {
			if lands[at] > level {
				d.Film[at] = Steps
			}
		}
	})
	return d
}

// SchemeDeposit lays a colour of a scheme where its cover says, of 255; a scheme's first
// colour has none and lies wherever the layer takes a scheme.
func (l Layer) SchemeDeposit(g *form.Grid, cover []uint8) Deposit {
	d := l.Deposit(g)
	if cover == nil || d.Film == nil {
		return d
	}
	for at, c := range cover {
		d.Film[at] = uint8(math.Round(float64(d.Film[at]) * float64(c) / 255))
	}
	return d
}

// Material is what a layer is made of; ok is false where nothing of it is seen but its sheen.
func (l Layer) Material() (p paint.Paint, ok bool) {
	about := l.Kind.About()
	swatch := l.Hex
	if swatch == "" {
		swatch = about.swatch
	}
	p = paint.Paint{Swatch: colour.Of(swatch), Sheen: colour.Matt, Hiding: about.hiding, Solids: familyOf(l.Family).Solids}
	if l.Pot.Seen {
		p = l.Pot.Paint
	}
	return p, swatch != "" && about.hiding > 0
}

// Undressed gives what track and rubber look like while no layer paints them.
func Undressed(g *form.Grid) (out []Deposit, of []paint.Paint) {
	for _, u := range undressed {
		d := Deposit{Full: opaque, Film: make([]uint8, g.Count)}
		for i, t := range g.Texels {
			if !u.on(t.Zone) {
				continue
			}
			d.Panels = append(d.Panels, i)
			for k, a := range t.Area {
				if a > 0 {
					d.Film[t.First+k] = Steps
				}
			}
		}
		if len(d.Panels) > 0 {
			out, of = append(
				out,
				d,
			), append(
				of,
				paint.Paint{Swatch: colour.Of(u.swatch), Sheen: colour.Matt, Hiding: paint.Full, Solids: 0.3},
			)
		}
	}
	return out, of
}

// Effect is what a layer does to a surface besides its film.
type Effect struct {
	Sheen   colour.Sheen // that it leaves; empty keeps what was there
	Loose   bool         // powder without a binder: it has no skin of its own
	Keeps   bool         // what is below can be bared again
	Reveals bool         // bares what was kept, where it lands
}

// Effect of a layer.
func (l Layer) Effect() Effect {
	about := l.Kind.About()
	f := familyOf(l.Family)
	e := Effect{Keeps: l.Kind == ChippingCoat, Reveals: about.reveals}
	switch colour.Sheen(f.Sheen) {
	case colour.Loose:
		e.Loose = true
	case "":
	default:
		e.Sheen = l.Finish()
	}
	if f.ID == "pigment_dry" || f.ID == "pastel" {
		e.Loose, e.Sheen = true, ""
	}
	if about.Ground || l.Kind == Fix {
		e.Sheen = l.Finish()
	}
	if l.Kind == Wet {
		e.Sheen = colour.Gloss
	}
	if e.Reveals || e.Keeps || l.Kind == Decals {
		e.Sheen = ""
	}
	return e
}
