package look

import (
	"sync"

	"cinderpath/core/colour"
	"cinderpath/core/paint"
	"cinderpath/core/strata"
)

// Pile is all that lies on the places of a sample, coat by coat from below, in all bands.
type Pile struct {
	Sample
	Plies []Ply
}

// Ply is a coat of a pile: its film is by place of the sample, in place of texels.
type Ply struct {
	Coat
	Meant bool  // to be seen: no primer, no clear coat
	Until int   // of those above it, how many belong to one act with it: it is first looked at when these are on
	With  []int // the plies above that lie in it or go by it: without it they would not be there

	films map[uint8]*lines
}

// lines are what a film does to a ground R in each band: (a + b R) / (1 − c R).
type lines [colour.Count]struct{ a, b, c float64 }

// NewPile heaps plies on a sample.
func NewPile(s Sample, plies []Ply) *Pile {
	p := &Pile{s, plies}
	for i := range p.Plies {
		p.Plies[i].prepare(1)
	}
	return p
}

// prepare works out the films that occur, so many times as thick as they are.
func (p *Ply) prepare(times float64) {
	p.films = map[uint8]*lines{}
	if p.Clear {
		return
	}
	pigment := p.Paint.Pigment()
	add := func(step uint8) {
		if p.films[step] != nil {
			return
		}
		l := &lines{}
		for band := range l {
			l[band].a, l[band].b, l[band].c = pigment.Over(p.Thick(step)*paint.Film(times), band)
		}
		p.films[step] = l
	}
	for _, step := range p.Film {
		if step > 0 {
			add(step)
		}
	}
	if p.Cover {
		add(strata.Steps)
	}
}

// Thick is the film of a step; of what covers parts of texels, that of the full one, µm.
func (p *Ply) Thick(step uint8) paint.Film {
	if p.Cover {
		step = strata.Steps
	}
	return p.Full * paint.Film(step) / strata.Steps
}

// At is how much of a ply lies on a place, in strata.Steps.
func (p *Ply) At(place int) uint8 {
	if p.Film == nil {
		return 0
	}
	return p.Film[place]
}

// Film is all that lies on a place, µm.
func (p *Pile) Film(place int) (sum float64) {
	for i := range p.Plies {
		sum += float64(p.Plies[i].Full) * float64(p.Plies[i].At(place)) / strata.Steps
	}
	return sum
}

// Top is a place with all that lies on it.
func (p *Pile) Top(place int) Place { return p.Below(len(p.Plies), place) }

// Place is one place on its way.
type Place struct {
	inner, loose colour.Bands
	under        [strata.Bares]*was // what can be bared again
	sheen        colour.Sheen
	dusty        bool
}

// was is what a place was: below its skin, and by its sheen.
type was struct {
	inner colour.Bands
	sheen colour.Sheen
}

var plastic = sync.OnceValue(func() colour.Bands { return colour.Spectrum(Plastic, colour.Satin).Internal })

// NewPlace is one as it comes out of the kit.
func NewPlace() Place { return Place{inner: plastic(), sheen: colour.Satin} }

// keep holds fast what can be bared again, whether a ply is laid or left out.
func (p *Place) keep(c *Ply) {
	if c.Keeps != 0 {
		p.under[c.Keeps] = &was{p.inner, p.sheen}
	}
}

// Lay puts a ply on, as it lies at a place.
func (p *Place) Lay(c *Ply, place int) {
	p.keep(c)
	step := c.At(place)
	switch {
	case step == 0:
	case c.Cover && step < strata.Steps:
		p.part(c, step)
	default:
		p.coat(c, step)
	}
}

func (p *Place) coat(c *Ply, step uint8) {
	if c.Reveals != 0 {
		if under := p.under[c.Reveals]; under != nil {
			p.inner, p.sheen, p.dusty = under.inner, under.sheen, false
		}
		return
	}
	film := c.films[step]
	if c.Loose && film != nil {
		if !p.dusty {
			p.loose, p.dusty = p.sheen.Seen(p.inner), true
		}
		film.over(&p.loose)
	} else {
		p.dusty = false
	}
	if film != nil {
		film.over(&p.inner)
	}
	if c.Sheen != "" && 2*int(step) >= strata.Steps {
		p.sheen = c.Sheen
	}
}

// part puts a full film on a part of a place: a mean of both is seen.
func (p *Place) part(c *Ply, step uint8) {
	before := *p
	p.coat(c, strata.Steps)
	share := float64(step) / strata.Steps
	if before.dusty || p.dusty {
		was, is := before.spectrum(before.sheen), p.spectrum(p.sheen)
		for b := range is {
			p.loose[b] = was[b] + share*(is[b]-was[b])
		}
		p.dusty = true
	}
	for b, r := range p.inner {
		p.inner[b] = before.inner[b] + share*(r-before.inner[b])
	}
	if 2*int(step) < strata.Steps {
		p.sheen = before.sheen
	}
}

func (l *lines) over(r *colour.Bands) {
	for b := range r {
		t := &l[b]
		r[b] = (t.a + t.b*r[b]) / (1 - t.c*r[b])
	}
}

// spectrum is what reaches the eye through a skin; loose powder has none.
func (p *Place) spectrum(skin colour.Sheen) colour.Bands {
	if p.dusty {
		return p.loose
	}
	return skin.Seen(p.inner)
}

// Ground is what a coat finds: what reflects below the skin or, for loose powder, what is seen.
func (p *Place) Ground(loose bool) colour.Bands {
	if loose {
		return p.spectrum(p.sheen)
	}
	return p.inner
}

// Sheen is that of the topmost binder.
func (p *Place) Sheen() colour.Sheen { return p.sheen }

// Through is what is seen through a skin.
func (p *Place) Through(skin colour.Sheen) colour.Lab { return p.spectrum(skin).XYZ().Lab() }

// Seen is what is seen of the place as it is.
func (p *Place) Seen() colour.RGB {
	out, _ := p.spectrum(p.sheen).XYZ().RGB()
	return out
}
