package strata

import (
	"cmp"
	"hash/fnv"
	"math"
	"slices"

	"cinderpath/core/colour"
	"cinderpath/core/form"
	"cinderpath/core/landing"
	"cinderpath/core/paint"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// Steps is into how many steps the thickness of a film is sorted: few enough to be looked
// up, many enough not to be seen.
const Steps = 127

// Deposit is what a layer leaves on the texels of a surface.
type Deposit struct {
	Full   paint.Film     // the thickest
	Film   []uint8        // by texel of the grid: in Steps of the thickest, 0 for nothing
	Panels []int          // on which there is any
	Cover  bool           // steps tell of the part of a texel that is covered by the full film
	Marks  []landing.Mark // that it is made of, where it is made of marks
}

// opaque is a film that hides what is below: of chips, mud and the like, µm.
const opaque paint.Film = 40

// Deposit lays a layer on a surface; nothing where nothing of it is seen.
func (l Layer) Deposit(s *landing.Site) Deposit { return l.Spares.from(l.deposit(s), s.Grid) }

func (l Layer) deposit(s *landing.Site) Deposit {
	about := l.Kind.About()
	if l.Kind == Decals {
		return marked(l.Drawn, s.Grid)
	}
	if about.unseen {
		return Deposit{}
	}
	g := s.Grid
	var panels []int
	for i, t := range g.Texels {
		if l.takes(t.Zone) {
			panels = append(panels, i)
		}
	}
	how, worked := l.Worked()
	land := landing.All()
	if worked {
		land = how.formula.Landing
	}
	seed := l.seed()
	if len(how.formula.Falls) > 0 {
		return l.streaked(s, how, panels, seed)
	}
	lands := make([]float32, g.Count)
	form.Each(len(panels), func(n int) {
		t := g.Texels[panels[n]]
		land.On(s, panels[n], seed^landing.Side(t.Zone), lands[t.First:t.First+len(t.Area)])
	})
	if !worked || !how.Share {
		d := l.touchedFilm(s, filmed(g, panels, lands, l.film()))
		if about.bares != 0 {
			return d.thinned(l.Under.Film)
		}
		return d
	}
	l.touch(s, panels, lands)
	switch {
	case how.marked():
		return l.marked(s, how, panels, lands, seed)
	default:
		whole, landed := areas(g, panels, lands)
		return shared(g, panels, lands, how.wanted(whole, landed), l.film())
	}
}

// takes tells whether the layer reaches a zone: a scheme leaves out track and rubber.
func (l Layer) takes(name string) bool { return l.Covers(name) && (!l.IsScheme() || !zone.Bare(name)) }

// EvenOn is what a layer that goes all over its zones leaves on places of these zones.
func (l Layer) EvenOn(zones []string) Deposit {
	if l.Kind.About().unseen {
		return Deposit{}
	}
	return evenly(zones, l.film(), l.takes)
}

// evenly is a full film on places of some zones.
func evenly(zones []string, film paint.Film, takes func(string) bool) Deposit {
	d := Deposit{Full: film, Film: make([]uint8, len(zones))}
	for i, name := range zones {
		if takes(name) {
			d.Film[i] = Steps
		}
	}
	return d
}

// areas are those of some panels, and of what lands on them, real mm²; lands may be nil.
func areas(g *form.Grid, panels []int, lands []float32) (whole, landed float64) {
	for _, i := range panels {
		t := g.Texels[i]
		for k, a := range t.Area {
			whole += float64(a)
			if lands != nil {
				landed += float64(a) * float64(lands[t.First+k])
			}
		}
	}
	return whole, landed
}

// least is the smallest mark that a hand can make, mm on the model (W7): smaller ones merge.
const least = 0.1

// brush says what marks a technique sets.
func (t Technique) brush(s *landing.Site) landing.Brush {
	return landing.Brush{Size: t.Size, Long: t.Long, Reach: t.formula.Reach, Least: least * s.Hand, Direction: t.Along}
}

// marked sets marks: where they land, or inside those of another layer.
func (l Layer) marked(s *landing.Site, how Technique, panels []int, lands []float32, seed uint64) Deposit {
	whole, landed := areas(s.Grid, panels, lands)
	area := how.wanted(whole, landed)
	if how.formula.Inside != nil {
		return l.inside(s, how, panels, area)
	}
	marks, cover := s.Marks(panels, lands, how.brush(s), area, seed)
	return covered(s.Grid, panels, cover, l.film(), marks)
}

// inside sets marks of half the size in those of other layers, the largest first.
func (l Layer) inside(s *landing.Site, how Technique, panels []int, area float64) Deposit {
	on := map[int]bool{}
	for _, i := range panels {
		on[i] = true
	}
	var all []landing.Mark
	for _, name := range how.formula.Inside {
		if s.Marked != nil {
			all = append(all, s.Marked(name)...)
		}
	}
	all = slices.DeleteFunc(all, func(m landing.Mark) bool { return m.Wide < how.formula.Least || !on[m.Panel] })
	slices.SortStableFunc(all, func(a, b landing.Mark) int { return cmp.Compare(b.Wide, a.Wide) })
	marks, cover := s.Shrunk(all, area)
	return covered(s.Grid, panels, cover, l.film(), marks)
}

// streaked sets streaks that run down from edges, or from what gives rust a reason.
func (l Layer) streaked(s *landing.Site, how Technique, panels []int, seed uint64) Deposit {
	whole, _ := areas(s.Grid, panels, nil)
	var from landing.Sources
	if !slices.Contains(how.formula.Falls, "edges") {
		from.Edges = s.Reasons(how.formula.Falls)
		for _, name := range how.formula.Falls {
			if s.Marked != nil {
				from.Marks = append(from.Marks, s.Marked(name)...)
			}
		}
	}
	area := how.wanted(whole, whole)
	if !how.Share { // thin passes over some of it
		area = streaky.Of(whole)
	}
	marks, cover := s.Streaks(panels, from, how.brush(s), area, seed)
	l.touch(s, panels, cover)
	return covered(s.Grid, panels, cover, l.film(), marks)
}

// streaky is how much of a face thin marks of rain run over.
const streaky unit.Share = 0.08

// covered is a deposit of a full film on a part of each texel.
func covered(g *form.Grid, panels []int, cover []float32, film paint.Film, marks []landing.Mark) Deposit {
	d := Deposit{Full: film, Film: make([]uint8, g.Count), Panels: panels, Cover: true, Marks: marks}
	for at, c := range cover {
		d.Film[at] = uint8(c*Steps + 0.5)
	}
	return d
}

// Part is how much of each texel a deposit covers, or how thick it is beside its thickest.
func (d Deposit) Part() []float32 {
	out := make([]float32, len(d.Film))
	for i, step := range d.Film {
		out[i] = float32(step) / Steps
	}
	return out
}

// seed is the layer's own chance: another layer of the kind lands otherwise.
func (l Layer) seed() uint64 {
	h := fnv.New64a()
	_, _ = h.Write([]byte(l.ID)) // never fails
	return h.Sum64()
}

// InPasses tells of a layer that grows thicker with each pass, other than one that grows by its marks.
func (l Layer) InPasses() bool {
	how, worked := l.Worked()
	return l.DepthMM == 0 && (!worked || !how.Share)
}

// film is the mean dry film of a layer where it lands.
func (l Layer) film() paint.Film {
	f := familyOf(l.Family)
	how, worked := l.Worked()
	var film paint.Film
	switch {
	case l.DepthMM > 0:
		return paint.Film(l.DepthMM * 1000)
	case worked && !how.Share && how.thick() > 0:
		film = how.thick()
	case worked && len(how.formula.Falls) > 0:
		film = stain
	case worked && how.Share:
		film = opaque
		if l.Kind.About().hiding <= paint.Glaze {
			film = stain
		}
	case l.Applied == Misted:
		film = paint.Film(f.FilmSpray)
	default:
		film = paint.Film(f.FilmBrush)
	}
	return film * paint.Film(l.Coats)
}

// stain is the film of what tints more than it hides: streaks, damp, grease, µm.
const stain paint.Film = 4

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

// shared covers an area of its zones, real mm², where it lands most, with a full film.
func shared(g *form.Grid, panels []int, lands []float32, area float64, film paint.Film) Deposit {
	d := Deposit{Full: film, Film: make([]uint8, g.Count), Panels: panels, Cover: true}
	apart(g, panels, lands)
	level := max(g.Threshold(panels, lands, nil, area), 0)
	form.Each(len(panels), func(n int) {
		t := g.Texels[panels[n]]
		cover := make([]float32, len(t.Area))
		for k := range cover {
			if lands[t.First+k] > level {
				cover[k] = 1
			}
		}
		landing.Softened(t, cover)
		for k, c := range cover {
			d.Film[t.First+k] = uint8(c*Steps + 0.5)
		}
	})
	return d
}

// apart parts places on which a layer lands alike, by chance: else all of them would be taken, or none.
func apart(g *form.Grid, panels []int, lands []float32) {
	const little = 1e-3
	form.Each(len(panels), func(n int) {
		t := g.Texels[panels[n]]
		for at := t.First; at < t.First+len(t.Area); at++ {
			lands[at] *= 1 + little*float32(form.Unit(form.Hash(uint64(at))))
		}
	})
}

// SchemeDeposit lays a colour of a scheme where its cover says, of 255; a scheme's first
// colour has none and lies wherever the layer takes a scheme.
func (l Layer) SchemeDeposit(s *landing.Site, cover []uint8) Deposit {
	d := l.Deposit(s)
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

// Dressed is what track or rubber look like while no layer paints them.
type Dressed struct {
	Deposit
	Paint paint.Paint
}

// Undressed gives what track and rubber look like while no layer paints them; rubber is its swatch where it
// is not the usual one.
func Undressed(g *form.Grid, rubber string) (out []Dressed) {
	for _, u := range undressed {
		u = u.of(rubber)
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
			out = append(out, Dressed{d, dressOf(u.swatch)})
		}
	}
	return out
}

// UndressedOn is the same on places of some zones.
func UndressedOn(zones []string, rubber string) (out []Dressed) {
	for _, u := range undressed {
		u = u.of(rubber)
		out = append(out, Dressed{evenly(zones, opaque, u.on), dressOf(u.swatch)})
	}
	return out
}

func dressOf(swatch string) paint.Paint {
	return paint.Paint{Swatch: colour.Of(swatch), Sheen: colour.Matt, Hiding: paint.Full, Solids: 0.3}
}

// Effect is what a layer does to a surface besides its film.
type Effect struct {
	Sheen   colour.Sheen // that it leaves; empty keeps what was there
	Loose   bool         // powder without a binder: it has no skin of its own
	Keeps   Bared        // what is below can be bared again
	Reveals Bared        // bares what was kept, where it lands
}

// Effect of a layer.
func (l Layer) Effect() Effect {
	about := l.Kind.About()
	f := familyOf(l.Family)
	e := Effect{Keeps: l.Under.Keeps, Reveals: about.bares}
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
	if e.Reveals != 0 || l.Kind == ChippingCoat || l.Kind == Decals {
		e.Sheen = ""
	}
	return e
}
